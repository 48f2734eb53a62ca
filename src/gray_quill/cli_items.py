"""What the commands share: things named on the command line, files read and written."""

import argparse
import json
import pathlib
from collections.abc import Callable
from typing import Any, TypeVar

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.errors import FormatError, InputError, NotFound
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import read_record
from gray_quill.formats.pen_json import read_pen

T = TypeVar("T")


def choice_argument(parser: argparse.ArgumentParser, flag: str, shipped: dict[str, Any]) -> None:
    parser.add_argument(flag, required=True, help=f"a JSON file or one of {', '.join(shipped)}")


def item_of(kind: str, value: str, shipped: dict[str, T], read: Callable[[bytes], T]) -> T:
    if value in shipped:
        return shipped[value]
    if pathlib.Path(value).is_file():
        return read(bytes_of(value))
    raise NotFound(f"There is no {kind} {value!r}: neither a file nor one of {', '.join(shipped)}.")


def record_reader(record: type[T]) -> Callable[[bytes], T]:
    def read(data: bytes) -> T:
        try:
            return read_record(record, json.loads(data))
        except (ValueError, RecursionError) as error:
            raise FormatError(f"This is not a JSON file ({error}).") from None

    return read


def pen_of(value: str) -> Recipe:
    return item_of("pen", value, SHIPPED_PENS, read_pen)


def hand_of(value: str) -> Hand:
    return item_of("hand", value, SHIPPED_HANDS, record_reader(Hand))


def device_of(value: str) -> Device:
    return item_of("device", value, SHIPPED_DEVICES, record_reader(Device))


def bytes_of(path: str) -> bytes:
    try:
        return pathlib.Path(path).read_bytes()
    except OSError as error:
        raise InputError(f"{path} cannot be read ({error.strerror}). Check the name.") from None


def save(path: str, data: bytes) -> None:
    try:
        pathlib.Path(path).write_bytes(data)
    except OSError as error:
        raise InputError(f"{path} cannot be written ({error.strerror}). Choose another place.") from None
