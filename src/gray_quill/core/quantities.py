"""One declaration for each quantity: name, unit, range, step, default, one-line help.

A record (a pen group, a hand, a device, a paper) is a frozen dataclass whose fields are made with `number`, `choice`,
`flag`, `tint` or `text`. From that one declaration come the core's check (`read_record`), the JSON schema
(`record_schema`), the slider on the screen and the table in the docs (`describe_record`).
"""

import dataclasses
import functools
import itertools
import math
import re
from collections.abc import Callable, Hashable, Mapping, Sequence
from typing import Any, TypeVar, cast, get_type_hints

from gray_quill.core.errors import RecordError, unknown_choice

R = TypeVar("R")
NOTICED_SHARE = 0.08  # a difference of line widths seen side by side; from memory, about 1/12
NEGLIGIBLE = 1e-12  # in any unit a quantity is declared in
COLOUR = re.compile(r"#[0-9a-fA-F]{6}")


@dataclasses.dataclass(frozen=True)
class Quantity:
    """What is known of one field. `kind` is number, integer, choice, flag, colour, text, points or heights.

    knee: from so far above `low` on its scale is logarithmic, because it spans decades; None where it is even.
    notice: the smallest change a hand or an eye would notice, by which arrow keys step: a share of the distance from
    `low - knee` where there is a knee, in the quantity's unit otherwise. needs: the field of the same record without
    which this one does nothing, or "field=value,value" where it must have one of these.
    """

    kind: str
    label: str
    help: str
    unit: str = ""
    low: float = -math.inf
    high: float = math.inf
    step: float = 0.01
    knee: float | None = None
    notice: float = 0.0
    needs: str = ""
    options: tuple[str, ...] = ()
    optional: bool = False


REQUIRED = dataclasses.MISSING  # the default of a field that must be given


@dataclasses.dataclass(frozen=True)
class Control:
    """What a screen needs to draw one control: a field by its dotted name, and its quantity. low, high, step, knee and
    notice are None where the kind has no range or the scale is even. needs: by dotted name too.
    """

    name: str
    kind: str
    label: str
    help: str
    unit: str
    options: list[str]
    low: float | None
    high: float | None
    step: float | None
    knee: float | None
    notice: float | None
    needs: str
    default: Any


def number(
    default: Any,
    low: float,
    high: float,
    step: float,
    unit: str,
    label: str,
    help: str,
    optional: bool = False,
    knee: float | None = None,
    notice: float | None = None,
    needs: str = "",
) -> Any:
    """`optional`: None where it could not be told."""
    seen = notice or (NOTICED_SHARE if knee else max(step, (high - low) / 50))
    return _field(default, Quantity("number", label, help, unit, low, high, step, knee, seen, needs, optional=optional))


def integer(default: Any, low: int, high: int, unit: str, label: str, help: str, needs: str = "") -> Any:
    return _field(default, Quantity("integer", label, help, unit, low, high, 1, notice=1, needs=needs))


def choice(default: Any, options: Sequence[str], label: str, help: str, needs: str = "") -> Any:
    return _field(default, Quantity("choice", label, help, needs=needs, options=tuple(options)))


def flag(default: Any, label: str, help: str, needs: str = "") -> Any:
    return _field(default, Quantity("flag", label, help, needs=needs))


def tint(default: str, label: str, help: str, needs: str = "") -> Any:
    return _field(default, Quantity("colour", label, help, needs=needs))


def text(default: Any, label: str, help: str, longest: int = 80) -> Any:
    return _field(default, Quantity("text", label, help, high=longest))


def points(default: tuple[tuple[float, float], ...], label: str, help: str, low: int = 2, high: int = 6) -> Any:
    return _field(default, Quantity("points", label, help, low=low, high=high))


def heights(count: int, label: str, help: str) -> Any:
    """`count` bytes in base64, or nothing."""
    return _field("", Quantity("heights", label, help, high=4 * -(-count // 3)))


def _field(default: Any, quantity: Quantity) -> Any:
    return dataclasses.field(default=default, metadata={"quantity": quantity})


def quantities(record: type) -> dict[str, Quantity]:
    """The declared quantities of a record class, by field name (sub-records are left out)."""
    found = {f.name: f.metadata.get("quantity") for f in dataclasses.fields(record)}
    return {name: q for name, q in found.items() if q is not None}


def value_at(quantity: Quantity, share: float) -> float:
    """The value at a share 0..1 of a quantity's scale: logarithmic above its knee, even where it has none."""
    low, high, knee = quantity.low, quantity.high, quantity.knee
    if knee is None:
        return low + share * (high - low)
    return low + knee * math.expm1(share * math.log1p((high - low) / knee))


def share_at(quantity: Quantity, value: float) -> float:
    """Where a value stands on a quantity's scale, 0..1: the inverse of value_at."""
    low, high, knee = quantity.low, quantity.high, quantity.knee
    if knee is None:
        return (value - low) / (high - low)
    return math.log1p((value - low) / knee) / math.log1p((high - low) / knee)


@functools.cache
def hints_of(record: Hashable) -> dict[str, Any]:
    """The types of a record's fields."""
    return get_type_hints(record)


def read_record(record: type[R], data: object, where: str = "") -> R:
    """Build a record from JSON-like data. Missing fields take their defaults, unknown ones are refused by name.

    `where` is the path so far ("press."), so that an error names the field as the user wrote it.
    """
    if not isinstance(data, Mapping):
        raise RecordError(
            f"{where.rstrip('.') or 'This'} must be an object with named fields.", where.rstrip(".") or None
        )
    fields = {f.name: f for f in dataclasses.fields(record)}  # type: ignore[arg-type]
    for name in data:
        if name not in fields:
            raise unknown_choice("The field", f"{where}{name}", sorted(fields), f"{where}{name}")
    hints = hints_of(cast(Hashable, record))
    values: dict[str, Any] = {}
    for name, value in data.items():
        quantity = fields[name].metadata.get("quantity")
        path = f"{where}{name}"
        values[name] = read_record(hints[name], value, path + ".") if quantity is None else check(quantity, value, path)
    try:
        return record(**values)
    except TypeError:
        missing = [
            n for n, f in fields.items() if n not in values and f.default is f.default_factory is dataclasses.MISSING
        ]
        raise RecordError(
            f"Give the missing fields: {', '.join(where + m for m in missing)}.", where.rstrip(".") or None
        ) from None


def check(quantity: Quantity, value: object, path: str) -> Any:
    """The value in the form the record keeps it, or a RecordError that says what would be right."""
    if value is None and quantity.optional:
        return None
    return _CHECKS[quantity.kind](quantity, value, path)


def _number(q: Quantity, value: object, path: str) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
        raise RecordError(f"{path} must be a number from {q.low:g} to {q.high:g} {q.unit}.".replace(" .", "."), path)
    if not q.low <= value <= q.high:
        raise RecordError(
            f"{path} is {value:g}; it must lie from {q.low:g} to {q.high:g} {q.unit}.".replace(" .", "."), path
        )
    # so near to nothing means nothing; arithmetic gives way where numbers lose their digits
    return float(value) if abs(value) > NEGLIGIBLE else 0.0


def _integer(q: Quantity, value: object, path: str) -> int:
    checked = _number(q, value, path)
    if checked != int(checked):
        raise RecordError(f"{path} must be a whole number.", path)
    return int(checked)


def _choice(q: Quantity, value: object, path: str) -> str:
    if not isinstance(value, str) or value not in q.options:
        raise unknown_choice(path, value, q.options, path)
    return value


def _flag(_: Quantity, value: object, path: str) -> bool:
    if not isinstance(value, bool):
        raise RecordError(f"{path} must be true or false.", path)
    return value


def _colour(_: Quantity, value: object, path: str) -> str:
    if not isinstance(value, str) or not COLOUR.fullmatch(value):
        raise RecordError(f"{path} must be a colour like #20242b.", path)
    return value.lower()


def _text(q: Quantity, value: object, path: str) -> str:
    if not isinstance(value, str) or not 0 < len(value.strip()) <= q.high or not value.isprintable():
        raise RecordError(f"{path} must be 1 to {q.high:g} printable characters.", path)
    return value.strip()


def _heights(q: Quantity, value: object, path: str) -> str:
    if not isinstance(value, str) or len(value) not in (0, int(q.high)):
        raise RecordError(f"{path} must be {q.high:g} characters of base64, or empty.", path)
    return value


def _points(q: Quantity, value: object, path: str) -> tuple[tuple[float, float], ...]:
    ok = isinstance(value, Sequence) and not isinstance(value, str) and q.low <= len(value) <= q.high
    if not ok or not all(isinstance(p, Sequence) and not isinstance(p, str) and len(p) == 2 for p in value):  # type: ignore[attr-defined]
        raise RecordError(f"{path} must be {q.low:g} to {q.high:g} pairs [x, y].", path)
    unit = Quantity("number", "", "", low=0, high=1)
    pairs = tuple((_number(unit, p[0], path), _number(unit, p[1], path)) for p in value)  # type: ignore[attr-defined]
    rising = all(b[0] - a[0] >= 1e-3 and b[1] >= a[1] for a, b in itertools.pairwise(pairs))
    if pairs[0] != (0, 0) or pairs[-1] != (1, 1) or not rising:
        raise RecordError(
            f"{path} must rise from [0, 0] to [1, 1], each x larger than the last by 0.001 or more.", path
        )
    return pairs


_CHECKS = {
    "number": _number,
    "integer": _integer,
    "choice": _choice,
    "flag": _flag,
    "colour": _colour,
    "text": _text,
    "points": _points,
    "heights": _heights,
}


def changed(record: R, path: str, value: object) -> R:
    """The same record with the field at a path like "steady.amount" at a value; what is not named stays."""
    head, _, rest = path.partition(".")
    return dataclasses.replace(record, **{head: changed(getattr(record, head), rest, value) if rest else value})  # type: ignore[type-var]


def record_json(record: object) -> dict[str, Any]:
    """A record as plain JSON data; tuples become lists."""
    return {f.name: _plain(getattr(record, f.name)) for f in dataclasses.fields(record)}  # type: ignore[arg-type]


def _plain(value: Any) -> Any:
    if dataclasses.is_dataclass(value):
        return record_json(value)
    if isinstance(value, dict):
        return {k: _plain(v) for k, v in value.items()}
    return [_plain(v) for v in value] if isinstance(value, (list, tuple)) else value


def record_schema(record: type, ref: Callable[[type], dict[str, Any]] | None = None) -> dict[str, Any]:
    """JSON Schema (2020-12) of a record, with ranges, defaults and help. `ref`: how a sub-record is named where it is
    not spelled out.
    """
    hints = hints_of(record)
    properties = {}
    for f in dataclasses.fields(record):
        q = f.metadata.get("quantity")
        if q is None:
            inner = ref(hints[f.name]) if ref else record_schema(hints[f.name])
            given = f.default is not REQUIRED
            properties[f.name] = {**inner, "default": record_json(f.default)} if given else inner
        else:
            properties[f.name] = _schema(q, f.default)
    required = [f.name for f in dataclasses.fields(record) if f.default is REQUIRED]
    out = {"type": "object", "additionalProperties": False, "properties": properties}
    return {**out, "required": required} if required else out


def sub_records(record: type) -> list[type]:
    """The records inside a record, at any depth."""
    hints = hints_of(record)
    inner = [hints[f.name] for f in dataclasses.fields(record) if "quantity" not in f.metadata]
    return [r for one in inner for r in (one, *sub_records(one))]


def _schema(q: Quantity, default: Any) -> dict[str, Any]:
    out: dict[str, Any] = {"title": q.label, "description": f"{q.help} ({q.unit})" if q.unit else q.help}
    if default is not dataclasses.MISSING:
        out["default"] = _plain(default)
    if q.kind in ("number", "integer"):
        out |= {"type": [q.kind, "null"] if q.optional else q.kind, "minimum": q.low, "maximum": q.high}
    elif q.kind == "choice":
        out |= {"type": "string", "enum": list(q.options)}
    elif q.kind == "flag":
        out |= {"type": "boolean"}
    elif q.kind == "colour":
        out |= {"type": "string", "pattern": "^#[0-9a-fA-F]{6}$"}
    elif q.kind == "text":
        out |= {"type": "string", "minLength": 1, "maxLength": int(q.high)}
    elif q.kind == "heights":
        out |= {"type": "string", "maxLength": int(q.high), "contentEncoding": "base64"}
    else:
        share = {"type": "number", "minimum": 0, "maximum": 1}
        pair = {"type": "array", "prefixItems": [share, share], "minItems": 2, "maxItems": 2}
        out |= {"type": "array", "items": pair, "minItems": int(q.low), "maxItems": int(q.high)}
    return out


def describe_record(record: type) -> list[Control]:
    """One control a field; fields of sub-records carry a dotted name."""
    rows = []
    for f in dataclasses.fields(record):
        q: Quantity | None = f.metadata.get("quantity")
        if q is None:
            inner = describe_record(hints_of(record)[f.name])
            rows += [
                dataclasses.replace(c, name=f"{f.name}.{c.name}", needs=c.needs and f"{f.name}.{c.needs}")
                for c in inner
            ]
            continue
        rows.append(control(f.name, q, None if f.default is REQUIRED else f.default))
    return rows


def control(name: str, q: Quantity, default: Any = None) -> Control:
    """The control of a quantity by this name."""
    head = (name, q.kind, q.label, q.help, q.unit, list(q.options))
    if q.kind in ("number", "integer"):
        return Control(*head, q.low, q.high, q.step, q.knee, q.notice, q.needs, _plain(default))
    return Control(*head, None, None, None, None, None, q.needs, _plain(default))
