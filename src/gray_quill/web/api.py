"""Operations: one decorator that parses the body, shapes the reply and records both for the OpenAPI document."""

import contextlib
import dataclasses
import functools
from collections.abc import Callable
from typing import Any

from flask import Blueprint, Response, current_app, request
from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from gray_quill.core.errors import BodyError, InputError
from gray_quill.formats.plain_json import read_json

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
    reads_file: bool = False


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
    reads_file: bool = False,
    remembered: bool = False,
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Register a handler at /api + path; see Operation. 201 is for what is made and kept, 202 for a task begun.
    `costly` answers take turns; those that open a file from outside take turns of their own, so that no file holds up
    a picture. `remembered` ones are costly, and made of what was sent and the database alone.
    """
    costly = costly or remembered

    def register(handler: Callable[..., Any]) -> Callable[..., Any]:
        summary = (handler.__doc__ or "").strip().splitlines()[0]
        OPERATIONS.append(
            Operation(method, path, handler.__name__, summary, body, query, reply, status, costly, reads_file)
        )
        turns = "turns_of_files" if reads_file else "turns" if costly else None
        told = None if isinstance(reply, str) else TypeAdapter(reply)

        @functools.wraps(handler)
        def view(**path_values: Any) -> Response:
            if isinstance(body, str):
                path_values["body"] = request.get_data()
            elif body is not None:
                path_values["body"] = parsed(body, _json_sent(), "body")
            if query is not None:
                path_values["query"] = parsed(query, request.args.to_dict(), "query")

            def made() -> Response:
                with current_app.extensions[turns].turn() if turns else contextlib.nullcontext():
                    answer = handler(**path_values)
                _note_change(answer)
                if told is None:
                    return answer  # type: ignore[no-any-return]
                return Response(told.dump_json(answer), status, mimetype="application/json")

            return current_app.extensions["answers"].given(made) if remembered else made()

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
