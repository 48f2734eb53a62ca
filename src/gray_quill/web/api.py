"""Operations: one decorator that parses the body, shapes the reply and records both for the OpenAPI document."""

import dataclasses
import functools
import re
from collections.abc import Callable
from typing import Any

from flask import Blueprint, Response, jsonify, request
from pydantic import BaseModel, ConfigDict, ValidationError

from gray_quill import __version__
from gray_quill.core.errors import GrayQuillError, InputError


class Model(BaseModel):
    """Base of every body and reply: unknown fields are refused, NaN too."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class BodyError(InputError):
    status = 422
    code = "bad_body"


@dataclasses.dataclass(frozen=True)
class Operation:
    method: str
    path: str
    name: str
    summary: str
    body: type[BaseModel] | str | None
    query: type[BaseModel] | None
    reply: type[BaseModel] | str


OPERATIONS: list[Operation] = []


def operation(
    blueprint: Blueprint,
    method: str,
    path: str,
    reply: type[BaseModel] | str,
    *,
    body: type[BaseModel] | str | None = None,
    query: type[BaseModel] | None = None,
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Register a handler at /api + path. `body`: a model, or a media type whose bytes are passed on. `reply`: a model
    or a media type.
    """

    def register(handler: Callable[..., Any]) -> Callable[..., Any]:
        summary = (handler.__doc__ or "").strip().splitlines()[0]
        OPERATIONS.append(Operation(method, path, handler.__name__, summary, body, query, reply))

        @functools.wraps(handler)
        def view(**path_values: Any) -> Response:
            if isinstance(body, str):
                path_values["body"] = request.get_data()
            elif body is not None:
                path_values["body"] = _parsed(body, request.get_json(silent=True), "body")
            if query is not None:
                path_values["query"] = _parsed(query, request.args.to_dict(), "query")
            answer = handler(**path_values)
            return jsonify(answer.model_dump()) if isinstance(answer, BaseModel) else answer

        blueprint.add_url_rule(path, handler.__name__, view, methods=[method])
        return handler

    return register


def _parsed(model: type[BaseModel], data: object, what: str) -> BaseModel:
    if data is None:
        raise GrayQuillError(f"Send the {what} as JSON with Content-Type application/json.")
    try:
        return model.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        field = ".".join(str(part) for part in first["loc"])
        raise BodyError(f"{field or what}: {first['msg']}. Correct it and send again.", field or None) from None


class ErrorDetail(Model):
    code: str
    message: str
    field: str | None = None


class ErrorReply(Model):
    error: ErrorDetail


def openapi_document() -> dict[str, Any]:
    """The OpenAPI 3.1 description of everything under /api."""
    schemas: dict[str, Any] = {}

    def schema_of(model: type[BaseModel], mode: Any) -> dict[str, Any]:
        schema = model.model_json_schema(ref_template="#/components/schemas/{model}", mode=mode)
        for name, found in {**schema.pop("$defs", {}), model.__name__: schema}.items():
            if schemas.setdefault(name, found) != found:
                raise ValueError(f"two models are called {name}")
        return {"$ref": f"#/components/schemas/{model.__name__}"}

    def content_of(kind: type[BaseModel] | str, mode: str) -> dict[str, Any]:
        if isinstance(kind, str):
            return {kind: {"schema": {"type": "string", "format": "binary"}}}
        return {"application/json": {"schema": schema_of(kind, mode)}}

    paths: dict[str, Any] = {}
    failure = {"description": "Refused, with what to do", "content": content_of(ErrorReply, "serialization")}
    for op in OPERATIONS:
        names = re.findall(r"<(?:int:)?(\w+)>", op.path)
        parameters = [{"name": n, "in": "path", "required": True, "schema": {"type": "string"}} for n in names]
        if op.query is not None:
            schema = op.query.model_json_schema()
            parameters += [
                {"name": n, "in": "query", "required": n in schema.get("required", []), "schema": s}
                for n, s in schema["properties"].items()
            ]
        entry: dict[str, Any] = {
            "operationId": op.name,
            "summary": op.summary,
            "parameters": parameters,
            "responses": {
                "200": {"description": "Done", "content": content_of(op.reply, "serialization")},
                "4XX": failure,
            },
        }
        if op.body is not None:
            entry["requestBody"] = {"required": True, "content": content_of(op.body, "validation")}
        paths.setdefault("/api" + re.sub(r"<(?:int:)?(\w+)>", r"{\1}", op.path), {})[op.method.lower()] = entry
    return {
        "openapi": "3.1.0",
        "info": {"title": "Gray Quill", "version": __version__},
        "paths": paths,
        "components": {"schemas": schemas},
    }
