"""The OpenAPI document of everything under /api, made from the operations; the front end's types are made from it.
What several operations share stands in it once, by a name. Print it with python -m gray_quill.web.openapi.
"""

import json
import re
from collections import Counter
from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter

from gray_quill import __version__
from gray_quill.core.catalogue import RECORDS
from gray_quill.core.pen.recipe import recipe_schema
from gray_quill.core.quantities import record_schema, sub_records
from gray_quill.web.api import OPERATIONS, RECORD, ErrorReply, Operation

COMPONENTS = "#/components/"
REF = COMPONENTS + "schemas/{model}"
IN_PATH = re.compile(r"<(?:int:)?(\w+)>")

TUPLES = (2, 4)  # lengths that have a name

Part = Any  # of a JSON document


def openapi_document() -> dict[str, Any]:
    """The OpenAPI 3.1 description; every record of the core appears once, by its name."""
    types: dict[tuple[str, Any], Any] = {("ErrorReply", "serialization"): ErrorReply}
    for op in OPERATIONS:
        types |= {(op.name + " body", "validation"): op.body} if op.body is not None else {}
        types |= {(op.name, "serialization"): op.reply}
    adapters = [(key, mode, TypeAdapter(t)) for (key, mode), t in types.items() if not isinstance(t, str)]
    found, defs = TypeAdapter.json_schemas(adapters, ref_template=REF)
    schemas = _plain(defs.get("$defs", {})) | _record_schemas() | {f"Numbers{n}": _numbers(n) for n in TUPLES}
    twice = [name for name in schemas if "__" in name or name.endswith(("-Input", "-Output"))]
    if twice:
        raise ValueError(f"two things have one name: {', '.join(twice)}")

    def content_of(kind: Any, key: str, mode: Any) -> dict[str, Any]:
        if isinstance(kind, str):
            return {kind: {"schema": {"type": "string", "format": "binary"}}}
        return {"application/json": {"schema": found[key, mode]}}

    def answer(kind: Any, key: str) -> dict[str, Any]:
        words = "Refused, with what to do" if kind is ErrorReply else "Done"
        return {"description": words, "content": content_of(kind, key, "serialization")}

    paths: dict[str, Any] = {}
    for op in OPERATIONS:
        entry: dict[str, Any] = {
            "operationId": op.name,
            "summary": op.summary,
            "responses": {str(op.status): answer(op.reply, op.name), "4XX": answer(ErrorReply, "ErrorReply")},
        }
        if parameters := _parameters(op):
            entry["parameters"] = parameters
        if op.body is not None:
            entry["requestBody"] = {"required": True, "content": content_of(op.body, op.name + " body", "validation")}
        paths.setdefault("/api" + IN_PATH.sub(r"{\1}", op.path), {})[op.method.lower()] = entry
    paths, schemas = _with_records(paths), _with_records(schemas)
    answers = _shared_answers(paths)
    in_paths = sorted({name for op in OPERATIONS for name in IN_PATH.findall(op.path)})
    return {
        "openapi": "3.1.0",
        "info": {"title": "Gray Quill", "version": __version__},
        "paths": paths,
        "components": {
            "schemas": _replies_told(paths, schemas),
            "parameters": {
                n: {"name": n, "in": "path", "required": True, "schema": {"type": "string"}} for n in in_paths
            },
            "responses": answers,
        },
    }


def resolved(document: dict[str, Any], part: Part) -> Part:
    """A part of a document, or what it points at."""
    while "$ref" in part:
        found: Part = document
        for name in part["$ref"].removeprefix("#/").split("/"):
            found = found[name]
        part = found
    return part


def _shared_answers(paths: dict[str, Any]) -> dict[str, Any]:
    """Answers that several operations give, by name: the operations point at them from now on."""

    def name_of(answer: dict[str, Any]) -> str:
        [(media, held)] = answer["content"].items()
        return str(held["schema"].get("$ref", media)).rsplit("/", 1)[-1]

    places = [
        (op["responses"], status) for methods in paths.values() for op in methods.values() for status in op["responses"]
    ]
    times = Counter(name_of(responses[status]) for responses, status in places)
    shared: dict[str, Any] = {}
    for responses, status in places:
        name = name_of(responses[status])
        if times[name] > 1:
            if shared.setdefault(name, responses[status]) != responses[status]:
                raise ValueError(f"two answers have one name: {name}")
            responses[status] = {"$ref": f"{COMPONENTS}responses/{name}"}
    return shared


def _parameters(op: Operation) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = [{"$ref": f"{COMPONENTS}parameters/{n}"} for n in IN_PATH.findall(op.path)]
    if op.query is not None:
        schema = op.query.model_json_schema()
        required = schema.get("required", [])
        found += [
            {"name": n, "in": "query", "schema": _plain(s)} | ({"required": True} if n in required else {})
            for n, s in schema["properties"].items()
        ]
    return found


def _each(part: Part, change: Callable[[dict[str, Any]], dict[str, Any]]) -> Part:
    """A part with every object in it changed, the outer ones first."""
    if isinstance(part, list):
        return [_each(p, change) for p in part]
    if not isinstance(part, dict):
        return part
    return {key: _each(value, change) for key, value in change(part).items()}


def _plain(part: Part) -> Part:
    """A schema said shorter: without the titles that pydantic makes of field names, with "or nothing" as a type, and
    with a name for two numbers, or four.
    """

    def shorter(schema: dict[str, Any]) -> dict[str, Any]:
        schema = {k: v for k, v in schema.items() if not (k == "title" and isinstance(v, str))}
        if (length := len(schema.get("prefixItems", ()))) in TUPLES and schema == _numbers(length):
            return {"$ref": REF.format(model=f"Numbers{length}")}
        choices = schema.get("anyOf")
        if not isinstance(choices, list) or len(choices) != 2 or choices[1] != {"type": "null"}:
            return schema
        there = shorter(choices[0])
        kind = there.get("type")
        if not isinstance(kind, str) or "enum" in there or "const" in there:
            return schema
        rest = {k: v for k, v in schema.items() if k != "anyOf"}
        return there | {"type": [kind, "null"]} | rest

    return _each(part, shorter)


def _numbers(length: int) -> dict[str, Any]:
    """The schema of so many numbers: a place, a span, a box, a matrix."""
    return {"maxItems": length, "minItems": length, "prefixItems": [{"type": "number"}] * length, "type": "array"}


def _with_records(part: Part) -> Part:
    """A part with every stand-in for a record pointing at its schema."""
    return _each(part, lambda p: {"$ref": REF.format(model=p[RECORD])} if RECORD in p else p)


def _record_schemas() -> dict[str, Any]:
    """The schemas of declared records, made from their declarations: they say more than their types."""
    records = {r.__name__: r for record in RECORDS for r in (record, *sub_records(record))}

    def named(record: type) -> dict[str, Any]:
        return {"$ref": REF.format(model=record.__name__)}

    found = {name: record_schema(r, named) for name, r in records.items()}
    recipe = {k: v for k, v in recipe_schema(named).items() if k != "$schema"}
    return {**found, "Recipe": recipe}


def _replies_told(paths: dict[str, Any], schemas: dict[str, Any]) -> dict[str, Any]:
    """Schemas, those that only answer as what they are: every field is sent, so that none has a default, and a later
    version may send more.
    """
    asked = _reached([op.get("requestBody", {}) for methods in paths.values() for op in methods.values()], schemas)

    def told(schema: dict[str, Any]) -> dict[str, Any]:
        fields = {name: {k: v for k, v in f.items() if k != "default"} for name, f in schema["properties"].items()}
        rest = {k: v for k, v in schema.items() if k != "additionalProperties"}
        return {**rest, "properties": fields, "required": sorted(fields)}

    return {n: told(s) if n not in asked and "properties" in s else s for n, s in schemas.items()}


def _reached(part: Part, schemas: dict[str, Any]) -> set[str]:
    """The names of the schemas that a part points at, by whatever way."""
    found: set[str] = set()

    def note(p: dict[str, Any]) -> dict[str, Any]:
        name = str(p.get("$ref", "")).removeprefix(REF.format(model=""))
        if name in schemas and name not in found:
            found.add(name)
            _each(schemas[name], note)
        return p

    _each(part, note)
    return found


if __name__ == "__main__":
    import gray_quill.web.app  # registers every operation

    assert gray_quill.web.app
    print(json.dumps(openapi_document(), sort_keys=True))
