"""Kept JSON: written with a version, read whatever version wrote it.

What is kept must stay readable for ever, so this reader refuses nothing: fields it does not know are passed over,
missing ones and such as no longer fit take the nearest value that does, or their default. What requests send is checked
elsewhere (core/quantities.py); this is for rows that were right when they were written.
"""

import dataclasses
import functools
import json
import types
from collections.abc import Hashable, Mapping
from typing import Any, TypeVar, Union, cast, get_args, get_origin

from gray_quill.core.errors import RecordError
from gray_quill.core.quantities import REQUIRED, Quantity, check, hints_of, record_json

R = TypeVar("R")
VERSION = 1  # of kept records; rows of earlier versions of Gray Quill carry none and count as 0
MOST_REMEMBERED = 40_000  # letters of a text
_BLANK: dict[Any, Any] = {float: 0.0, int: 0, str: "", bool: False, list: [], dict: {}, tuple: ()}


def written(value: Any) -> str:
    """A record, or a mapping of plain values, as text to keep."""
    plain = record_json(value) if dataclasses.is_dataclass(value) else value
    return json.dumps({"version": VERSION, **plain})


def version_of(text: str) -> int:
    """Which version wrote a kept text."""
    data = json.loads(text)
    found = data.get("version", 0) if isinstance(data, Mapping) else 0
    return found if isinstance(found, int) else 0


def read_kept(record: type[R], text_or_data: Any) -> R:
    """The record a kept text or its data holds."""
    if isinstance(text_or_data, str) and len(text_or_data) <= MOST_REMEMBERED:
        return cast(R, _remembered(cast(Hashable, record), text_or_data))
    return _record(record, json.loads(text_or_data) if isinstance(text_or_data, str) else text_or_data)


@functools.lru_cache(maxsize=512)  # records are frozen, and every stroke asks for its pen and its sheet
def _remembered(record: Hashable, text: str) -> Any:
    return _record(cast(type, record), json.loads(text))


def _record(record: type[R], data: Any) -> R:
    given = data if isinstance(data, Mapping) else {}
    hints = hints_of(cast(Hashable, record))
    values = {}
    for f in dataclasses.fields(record):  # type: ignore[arg-type]
        quantity = f.metadata.get("quantity")
        if quantity is not None:
            values[f.name] = _quantity(quantity, given.get(f.name, f.default), f.default, hints[f.name])
        elif f.name in given or f.default is REQUIRED:
            values[f.name] = _value(hints[f.name], given.get(f.name))
        else:
            values[f.name] = f.default
    return record(**values)


def _quantity(quantity: Quantity, given: Any, default: Any, hint: Any) -> Any:
    fallback = _value(hint, None) if default is REQUIRED else default
    within = [
        type(v)(min(max(v, quantity.low), quantity.high))
        for v in (given, fallback)
        if isinstance(v, (int, float)) and quantity.kind in ("number", "integer")
    ]
    for value in (given, *within, fallback):
        try:
            return check(quantity, value, "")
        except RecordError:
            continue
    return fallback


def _value(hint: Any, given: Any) -> Any:
    origin, args = get_origin(hint), get_args(hint)
    if origin in (Union, types.UnionType):
        return None if given is None else _value(next(a for a in args if a is not type(None)), given)
    if dataclasses.is_dataclass(hint):
        return _record(hint, given)  # type: ignore[arg-type]
    if origin is list:
        return [_value(args[0], v) for v in given] if isinstance(given, (list, tuple)) else []
    if origin is dict:
        return {str(k): _value(args[1], v) for k, v in given.items()} if isinstance(given, Mapping) else {}
    if origin is tuple:
        return tuple(given) if isinstance(given, (list, tuple)) else ()
    if hint is float and isinstance(given, (int, float)):
        return float(given)
    return given if isinstance(given, hint) else _BLANK[hint]
