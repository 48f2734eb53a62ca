"""JSON as it comes in: of bounded size, depth and digits, so that reading it costs little whatever was sent."""

import json
import math
from dataclasses import dataclass
from typing import Any, NoReturn

from gray_quill.core.errors import FormatError, TooLarge

MOST_BYTES = 24_000_000
MOST_DEPTH = 32
MOST_DIGITS = 18  # of a whole number
MOST_VALUES, MOST_CONTAINERS = 3_000_000, 400_000


@dataclass
class JsonBudget:
    """How many values, and how many lists and objects, may still come: an empty list of three bytes takes sixty."""

    values: int = MOST_VALUES
    containers: int = MOST_CONTAINERS

    def take(self, data: bytes) -> None:
        """Raises TooLarge where the marks between values (those inside words count too) are more than is left."""
        containers = data.count(b"[") + data.count(b"{")
        self.containers -= containers
        self.values -= containers + data.count(b",")
        if self.containers < 0 or self.values < 0:
            raise TooLarge("This JSON holds more values than is read. Send less at a time.")


def read_json(data: bytes, budget: JsonBudget | None = None) -> Any:
    """The value some bytes of JSON hold. budget: where several are read together. Raises FormatError or TooLarge with
    what to do.
    """
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This JSON is over {MOST_BYTES // 1_000_000} MB. Send less at a time.")
    (budget or JsonBudget()).take(data)
    try:
        value = json.loads(data, parse_int=_whole, parse_float=_number, parse_constant=_no_number)
    except RecursionError:
        raise _too_deep() from None
    except (ValueError, UnicodeDecodeError) as error:
        raise FormatError(f"This is not JSON that can be read ({error}).") from None
    _check_depth(value)
    return value


def _whole(text: str) -> int:
    if len(text.lstrip("-")) > MOST_DIGITS:
        raise ValueError(f"a whole number of more than {MOST_DIGITS} digits")
    return int(text)


def _number(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError("a number too large")
    return value


def _no_number(text: str) -> NoReturn:
    raise ValueError(f"{text} is no number")


def _check_depth(value: Any) -> None:
    depth, layer = 0, [value]
    while layer := [v for v in layer if isinstance(v, (dict, list))]:
        depth += 1
        if depth > MOST_DEPTH:
            raise _too_deep()
        layer = [inner for outer in layer for inner in (outer.values() if isinstance(outer, dict) else outer)]


def _too_deep() -> FormatError:
    return FormatError(f"This JSON nests more than {MOST_DEPTH} deep. Send it flatter.")
