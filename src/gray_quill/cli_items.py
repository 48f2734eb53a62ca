"""What the commands share: things named on the command line, files read and written."""

import argparse
import contextlib
import math
import os
import pathlib
import re
from collections.abc import Callable
from typing import Any, NoReturn, TypeVar

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.errors import InputError, NotFound, TooLarge
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import read_record
from gray_quill.core.trace import Trace
from gray_quill.formats.inkml import read_inkml
from gray_quill.formats.pen_json import read_pen
from gray_quill.formats.plain_json import read_json

T = TypeVar("T")
MOST_BYTES = 42_000_000  # of any file that is read


class Parser(argparse.ArgumentParser):
    """Says what is wrong with the arguments in one line."""

    def error(self, message: str) -> NoReturn:
        words = shown_line(message)
        self.exit(2, f"gray-quill: {words}. See {self.prog} --help.\n")


DEFAULT_PAPER = "dotted A5"


def shown_line(text: str) -> str:
    """Words as one line that is not endless."""
    line = " ".join("".join(c if c.isprintable() or c.isspace() else "?" for c in text).split())
    return line if len(line) <= 300 else line[:299] + "…"


def choice_argument(parser: argparse.ArgumentParser, flag: str, shipped: dict[str, Any], required: bool = True) -> None:
    parser.add_argument(flag, required=required, help=f"a JSON file or one of {', '.join(shipped)}")


def item_of(kind: str, value: str, shipped: dict[str, T], read: Callable[[bytes], T]) -> T:
    if value in shipped:
        return shipped[value]
    with contextlib.suppress(OSError, ValueError):  # such as no name of a file can be
        if pathlib.Path(value).is_file():
            return read(bytes_of(value))
    raise NotFound(f"There is no {kind} {shown(value)!r}: neither a file nor one of {', '.join(shipped)}.")


def record_reader(record: type[T]) -> Callable[[bytes], T]:
    return lambda data: read_record(record, read_json(data))


def pen_of(value: str) -> Recipe:
    return item_of("pen", value, SHIPPED_PENS, read_pen)


def hand_of(value: str) -> Hand:
    return item_of("hand", value, SHIPPED_HANDS, record_reader(Hand))


def device_of(value: str) -> Device:
    return item_of("device", value, SHIPPED_DEVICES, record_reader(Device))


def bytes_of(path: str) -> bytes:
    try:
        found = pathlib.Path(path)
        if found.is_file() and found.stat().st_size > MOST_BYTES:
            raise TooLarge(f"{shown(path)} is over {MOST_BYTES // 1_000_000} MB. Take a smaller file.")
        return found.read_bytes()
    except (OSError, ValueError) as error:
        raise InputError(f"{shown(path)} cannot be read ({_why(error)}). Check the name.") from None


def save(path: str, data: bytes) -> None:
    """Write a file whole or not at all: aside, then renamed."""
    target = pathlib.Path(path)
    aside = target.with_name(f".{target.name[:80]}.{os.getpid()}.part")
    try:
        aside.write_bytes(data)
        os.replace(aside, target)
    except (OSError, ValueError) as error:
        with contextlib.suppress(OSError, ValueError):
            aside.unlink(missing_ok=True)
        raise InputError(f"{shown(path)} cannot be written ({_why(error)}). Choose another place.") from None


def beside(path: str, suffix: str) -> str:
    """The file of another ending beside an output. Raises InputError where it would be the output itself."""
    target = pathlib.Path(path)
    if not target.name or target.suffix.lower() == suffix:
        raise InputError(
            f"{shown(path)} cannot be the output: a {suffix} file is written beside it. Choose another name."
        )
    return str(target.with_suffix(suffix))


def shown(value: str) -> str:
    """What was given, short and on one line."""
    return "".join(c if c.isprintable() else "?" for c in value)[:80]


def _why(error: Exception) -> str:
    return (error.strerror if isinstance(error, OSError) else "") or "it is no name of a file"


def whole(low: int, high: int) -> Callable[[str], int]:
    """Reads a whole number between bounds off the command line."""

    def read(text: str) -> int:
        if not re.fullmatch(r"-?\d{1,18}", text) or not low <= int(text) <= high:
            raise argparse.ArgumentTypeError(f"{shown(text)!r} is not a whole number from {low} to {high}")
        return int(text)

    return read


def real(text: str) -> float:
    """Reads a finite number off the command line."""
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise argparse.ArgumentTypeError(f"{shown(text)!r} is not a number")
    return value


seed = whole(0, 2**31)


def inked(path: str, pen: str, paper: Paper | None = None) -> tuple[list[Trace], Recipe, list[Ink]]:
    """The traces of an InkML file, the pen, and the ink it makes of them."""
    recipe, traces = pen_of(pen), read_inkml(bytes_of(path))
    return traces, recipe, settle_all(traces, recipe, paper)
