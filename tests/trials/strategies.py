"""Hypothesis strategies: values for a JSON schema, mostly such as fit it, with odd ones strewn in; and spoilt files."""

import json
from typing import Any

from hypothesis import strategies as st

Strategy = st.SearchStrategy[Any]

ODD_NUMBERS = [0, -0.0, -1, 1e-320, 1e308, -1e308, 10**18, -(10**18), 2**31, 2**53, 0.1 + 0.2, 1e-9, 255.5]
ODD_WORDS = ["", " ", "\x00", "\x1b[31m", "🖋" * 40, "a" * 5000, "../../etc/passwd", "'; DROP TABLE strokes; --", "NaN"]
ODD_WORDS += ["<script>", "\ud7ff￿", "‮reversed", "-" * 200, "1e400", "true", "null", "{}", "gray-quill/pen@9"]
odd = st.one_of(
    st.none(),
    st.booleans(),
    st.sampled_from(ODD_NUMBERS),
    st.sampled_from(ODD_WORDS),
    st.just([]),
    st.just({}),
    st.just([[[[[[None]]]]]]),
    st.just({"smell": "cedar"}),
    st.lists(st.sampled_from(ODD_NUMBERS), max_size=5),
)
ODD_BODIES = [
    b"",
    b"{",
    b"[" * 2000 + b"]" * 2000,
    b'{"a":' * 300 + b"1" + b"}" * 300,
    b'{"strokes": ' + b"9" * 400 + b"}",
    b'{"seed": 1e400}',
    b'{"seed": NaN}',
    b'{"x": "\xff\xfe"}',
    b'"\\ud800"',
    b'{"id": "\\u0000"}',
    b"\x00" * 1000,
    b'{"a": 1, "a": 2}',
    b"null",
    b"3",
]


def mostly(usual: Strategy, other: Strategy, one_in: int) -> Strategy:
    """The usual, but for one case in so many."""
    return st.integers(0, one_in - 1).flatmap(lambda k: other if k == 0 else usual)


class Schemas:
    """Strategies for the schemas of an OpenAPI document. pools: ids that are there, by the ending of a field's name.
    sparse: only what must be there, so that more of it is right.
    """

    def __init__(self, document: dict[str, Any], pools: dict[str, list[str]], sparse: bool = False) -> None:
        self.document, self.pools, self.sparse = document, pools, sparse
        self.known: dict[str, Strategy] = {}

    def value(self, schema: dict[str, Any], name: str = "") -> Strategy:
        """One that fits, but for one case in sixty: records have many values."""
        return mostly(self.fitting(schema, name), odd, 60)

    def fitting(self, schema: dict[str, Any], name: str) -> Strategy:
        if "$ref" in schema:
            key = str(schema["$ref"])
            if key not in self.known:
                target = self.document["components"]["schemas"][key.rsplit("/", 1)[1]]
                self.known[key] = st.deferred(lambda: self.fitting(target, name))
            return self.known[key]
        if "enum" in schema or "const" in schema:
            return st.sampled_from(schema.get("enum") or [schema["const"]])
        for several in ("anyOf", "oneOf", "allOf"):
            if several in schema:
                return st.one_of(*(self.value(s, name) for s in schema[several]))
        kind = schema.get("type", "object")
        if isinstance(kind, list):
            return st.one_of(*(self.fitting({**schema, "type": k}, name) for k in kind))
        return getattr(self, f"_{kind}")(schema, name)

    def _null(self, _: dict[str, Any], __: str) -> Strategy:
        return st.none()

    def _boolean(self, _: dict[str, Any], __: str) -> Strategy:
        return st.booleans()

    def _number(self, schema: dict[str, Any], _: str) -> Strategy:
        low, high = (schema.get(k, d) for k, d in (("minimum", -1000), ("maximum", 1000)))
        low, high = schema.get("exclusiveMinimum", low), schema.get("exclusiveMaximum", high)
        return st.one_of(st.floats(float(low), float(high)), st.sampled_from([low, high]))

    def _integer(self, schema: dict[str, Any], _: str) -> Strategy:
        return st.integers(int(schema.get("minimum", -10)), int(schema.get("maximum", 1000)))

    def _string(self, schema: dict[str, Any], name: str) -> Strategy:
        for ending, pool in self.pools.items():
            if name.endswith(ending):
                return st.sampled_from(pool)
        if "#" in schema.get("pattern", ""):
            return st.sampled_from(["#000000", "#ffffff", "#a23b2a", "#12345"])
        if name == "id":
            return st.text("abcdefghijklmnop-0123456789", min_size=1, max_size=12)
        return st.one_of(st.text(max_size=30), st.sampled_from(["pen", "one-euro", "stucki", "dotted A5", "down"]))

    def _array(self, schema: dict[str, Any], name: str) -> Strategy:
        if "prefixItems" in schema:
            return st.tuples(*(self.value(s, name) for s in schema["prefixItems"])).map(list)
        item = self.value(schema.get("items", {"type": "number"}), name.rstrip("s"))
        return st.lists(item, min_size=min(1, schema.get("minItems", 0)), max_size=min(4, schema.get("maxItems", 4)))

    def _object(self, schema: dict[str, Any], _: str) -> Strategy:
        properties = schema.get("properties", {})
        if not properties:
            return st.dictionaries(st.text(max_size=5), odd, max_size=2)
        required = {k: self.value(s, k) for k, s in properties.items() if k in schema.get("required", [])}
        optional = {} if self.sparse else {k: self.value(s, k) for k, s in properties.items() if k not in required}
        # columns of one length, as strokes have them, in most cases
        return st.fixed_dictionaries(required, optional=optional).flatmap(_even_columns)


def _even_columns(value: dict[str, Any]) -> Strategy:
    columns = [k for k, v in value.items() if k.endswith(("_ms", "_mm", "force")) and isinstance(v, list) and v]
    if len(columns) < 3:
        return st.just(value)
    shortest = min(len(value[k]) for k in columns)
    return st.one_of(st.just(value), st.just({**value, **{k: value[k][:shortest] for k in columns}}))


@st.composite
def spoilt(draw: st.DrawFn, whole: bytes) -> bytes:
    """A file with something wrong: cut, bytes changed, a part twice, numbers grown, or as it was."""
    how = draw(st.sampled_from(["cut", "flip", "twice", "grow", "text", "whole", "odd"]))
    at = draw(st.integers(0, max(0, len(whole) - 1)))
    if how == "cut":
        return whole[:at]
    if how == "flip":
        change = draw(st.binary(min_size=1, max_size=8))
        return whole[:at] + change + whole[at + len(change) :]
    if how == "twice":
        return whole[:at] + whole[at // 2 :]
    if how == "grow":
        digit = draw(st.sampled_from([b"1", b"0", b"2", b"."]))
        return whole.replace(digit, draw(st.sampled_from([b"9" * 40, b"1e300"])), draw(st.integers(1, 4)))
    if how == "text":
        word = draw(st.sampled_from(ODD_WORDS)).encode("utf-8", "surrogatepass")
        return whole[:at] + word + whole[at:]
    return draw(st.sampled_from(ODD_BODIES)) if how == "odd" else whole


def json_bytes(value: Any) -> bytes:
    """A drawn value as a body."""
    return json.dumps(value).encode("utf-8", "surrogatepass")
