"""Operations: one decorator that parses the body, shapes the reply and records both for the OpenAPI document."""

import contextlib
import dataclasses
import functools
import re
from collections.abc import Callable
from typing import Any

from flask import Blueprint, Response, current_app, request
from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from gray_quill import __version__
from gray_quill.core.catalogue import RECORDS
from gray_quill.core.errors import BodyError, InputError
from gray_quill.core.pen.recipe import recipe_schema
from gray_quill.core.quantities import record_schema, sub_records
from gray_quill.formats.plain_json import read_json

REF = "#/components/schemas/{model}"
RECORD = "x-record"  # stands in a schema for the record of this name


class Model(BaseModel):
    """Base of every body, and of replies that no record of the core holds: unknown fields are refused, NaN too."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


@dataclasses.dataclass(frozen=True)
class Operation:
    """body, reply: a model, a record of the core, or a media type whose bytes are passed on. status: of the answer."""

    method: str
    path: str
    name: str
    summary: str
    body: Any
    query: type[Model] | None
    reply: Any
    status: int
    costly: bool = False


OPERATIONS: list[Operation] = []


def operation(
    blueprint: Blueprint,
    method: str,
    path: str,
    reply: Any,
    *,
    body: Any = None,
    query: type[Model] | None = None,
    status: int = 200,
    costly: bool = False,
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Register a handler at /api + path; see Operation. 201 is for what is made and kept, 202 for a task begun.
    `costly` answers take turns.
    """

    def register(handler: Callable[..., Any]) -> Callable[..., Any]:
        summary = (handler.__doc__ or "").strip().splitlines()[0]
        OPERATIONS.append(Operation(method, path, handler.__name__, summary, body, query, reply, status, costly))
        told = None if isinstance(reply, str) else TypeAdapter(reply)

        @functools.wraps(handler)
        def view(**path_values: Any) -> Response:
            if isinstance(body, str):
                path_values["body"] = request.get_data()
            elif body is not None:
                path_values["body"] = parsed(body, _json_sent(), "body")
            if query is not None:
                path_values["query"] = parsed(query, request.args.to_dict(), "query")
            with current_app.extensions["turns"].turn() if costly else contextlib.nullcontext():
                answer = handler(**path_values)
            _note_change(answer)
            if told is None:
                return answer  # type: ignore[no-any-return]
            return Response(told.dump_json(answer), status, mimetype="application/json")

        blueprint.add_url_rule(path, handler.__name__, view, methods=[method])
        return handler

    return register


def _note_change(answer: Any) -> None:
    """What an answer says of changed ink is told to the other screens as well."""
    sheet, box = getattr(answer, "sheet", None), getattr(answer, "box_mm", None)
    if sheet is not None and box is not None:
        current_app.extensions["boxes"].note(sheet.id, sheet.ink, tuple(box))


def _json_sent() -> Any:
    if not request.is_json:
        raise InputError("Send the body as JSON with Content-Type application/json.")
    return read_json(request.get_data())


def parsed(model: Any, data: object, what: str) -> Any:
    """Data as a model or a record. Raises BodyError with the first field that does not fit."""
    if data is None:
        raise InputError(f"Send the {what} as JSON with Content-Type application/json.")
    try:
        return TypeAdapter(model).validate_python(data)
    except ValidationError as error:
        first = error.errors()[0]
        field = ".".join(str(part) for part in first["loc"])
        raise BodyError(f"{field or what}: {first['msg']}. Correct it and send again.", field or None) from None


class ErrorDetail(Model):
    """code: what kind of refusal it is, the same whatever the words."""

    code: str
    message: str
    field: str | None = None


class ErrorReply(Model):
    error: ErrorDetail


def openapi_document() -> dict[str, Any]:
    """The OpenAPI 3.1 description of everything under /api; every record of the core appears once, by its name."""
    types: dict[tuple[str, Any], Any] = {("ErrorReply", "serialization"): ErrorReply}
    for op in OPERATIONS:
        types |= {(op.name + " body", "validation"): op.body} if op.body is not None else {}
        types |= {(op.name, "serialization"): op.reply}
    adapters = [(key, mode, TypeAdapter(t)) for (key, mode), t in types.items() if not isinstance(t, str)]
    found, defs = TypeAdapter.json_schemas(adapters, ref_template=REF)
    components = _untitled(defs.get("$defs", {})) | _record_components()
    twice = [name for name in components if "__" in name or name.endswith(("-Input", "-Output"))]
    if twice:
        raise ValueError(f"two things have one name: {', '.join(twice)}")

    def content_of(kind: Any, key: str, mode: str) -> dict[str, Any]:
        if isinstance(kind, str):
            return {kind: {"schema": {"type": "string", "format": "binary"}}}
        return {"application/json": {"schema": found[key, mode]}}  # type: ignore[index]

    paths: dict[str, Any] = {}
    failure = {
        "description": "Refused, with what to do",
        "content": content_of(ErrorReply, "ErrorReply", "serialization"),
    }
    for op in OPERATIONS:
        names = re.findall(r"<(?:int:)?(\w+)>", op.path)
        parameters = [{"name": n, "in": "path", "required": True, "schema": {"type": "string"}} for n in names]
        if op.query is not None:
            schema = op.query.model_json_schema()
            parameters += [
                {"name": n, "in": "query", "required": n in schema.get("required", []), "schema": _untitled(s)}
                for n, s in schema["properties"].items()
            ]
        done = {"description": "Done", "content": content_of(op.reply, op.name, "serialization")}
        entry: dict[str, Any] = {
            "operationId": op.name,
            "summary": op.summary,
            "parameters": parameters,
            "responses": {str(op.status): done, "4XX": failure},
        }
        if op.body is not None:
            entry["requestBody"] = {"required": True, "content": content_of(op.body, op.name + " body", "validation")}
        paths.setdefault("/api" + re.sub(r"<(?:int:)?(\w+)>", r"{\1}", op.path), {})[op.method.lower()] = entry
    return {
        "openapi": "3.1.0",
        "info": {"title": "Gray Quill", "version": __version__},
        "paths": _with_records(paths),
        "components": {"schemas": _with_records(components)},
    }


def _untitled(part: Any) -> Any:
    """A schema without the titles that pydantic makes of field names: they say nothing new."""
    if isinstance(part, list):
        return [_untitled(p) for p in part]
    if not isinstance(part, dict):
        return part
    return {k: _untitled(v) for k, v in part.items() if not (k == "title" and isinstance(v, str))}


def _with_records(part: Any) -> Any:
    """The same with every stand-in for a record pointing at its schema."""
    if isinstance(part, list):
        return [_with_records(p) for p in part]
    if not isinstance(part, dict):
        return part
    if RECORD in part:
        return {"$ref": REF.format(model=part[RECORD])}
    return {key: _with_records(value) for key, value in part.items()}


def _record_components() -> dict[str, Any]:
    """The schemas of declared records, made from their declarations: they say more than their types."""
    records = {r.__name__: r for record in RECORDS for r in (record, *sub_records(record))}

    def named(record: type) -> dict[str, Any]:
        return {"$ref": REF.format(model=record.__name__)}

    found = {name: {"title": name, **record_schema(r, named)} for name, r in records.items()}
    recipe = {k: v for k, v in recipe_schema(named).items() if k != "$schema"}
    return {**found, "Recipe": recipe}
