"""The stage: what one sheet shows to others as it is written. It is in memory only; nothing of it is kept.

The one who shows sends what the nib does, a few times a frame; every mirror gets it as it comes. What is shown of the
sheet itself is read from the store, so that a mirror that comes late sees all of it.
"""

import dataclasses
import hmac
import threading
from collections import OrderedDict, deque
from collections.abc import Callable
from typing import Any

from gray_quill.core.pen.recipe import Recipe
from gray_quill.store.room import new_key

MIRROR_COOKIE = "gray_quill_mirror"
# what a mirror may be behind; one that is more behind begins anew
MOST_WAITING, MOST_BYTES = 600, 4_000_000
MOST_PENS = 40


@dataclasses.dataclass(frozen=True)
class ShownPen:
    """A pen that wrote on the stage, and whether it writes in plain ink there."""

    recipe: Recipe
    plain: bool


class Stage:
    """Which sheet is shown, to whom, and what has been told of it."""

    def __init__(self) -> None:
        self.token = self.sheet_id = ""
        self.whole = False
        self.view: tuple[float, float, float, float] | None = None
        self.pens: OrderedDict[str, ShownPen] = OrderedDict()
        self.lines: deque[tuple[int, str]] = deque()
        self.held_bytes = 0
        self.told = 0
        self.listening: dict[object, Callable[[], None]] = {}
        self._one_by_one = threading.Lock()

    @property
    def open(self) -> bool:
        return bool(self.token)

    def show(self, sheet_id: str, whole: bool) -> None:
        """Show a sheet; a link that is open stays."""
        if sheet_id != self.sheet_id:
            self.view = None
        self.token, self.sheet_id, self.whole = self.token or new_key(), sheet_id, whole
        self.tell('{"page": true}')

    def withdraw(self) -> None:
        """The link shows nothing any more."""
        self.token = self.sheet_id = ""
        self.view = None
        self.pens.clear()
        self.tell('{"over": true}')

    def is_let_in(self, token: str) -> bool:
        return self.open and hmac.compare_digest(token.encode(), self.token.encode())

    def bring(self, key: str, pen: ShownPen) -> None:
        self.pens[key] = pen
        self.pens.move_to_end(key)
        while len(self.pens) > MOST_PENS:
            self.pens.popitem(last=False)

    def tell(self, line: str) -> None:
        """One line of JSON to every mirror."""
        with self._one_by_one:
            self.told += 1
            self.lines.append((self.told, line))
            self.held_bytes += len(line)
            while len(self.lines) > MOST_WAITING or (self.held_bytes > MOST_BYTES and len(self.lines) > 1):
                self.held_bytes -= len(self.lines.popleft()[1])
            wake = list(self.listening.values())
        for nudge in wake:
            nudge()

    def since(self, seen: int) -> tuple[int, list[str] | None]:
        """What was told after `seen`; None where it was too much: the mirror has to begin anew."""
        with self._one_by_one:
            lines = [line for number, line in self.lines if number > seen]
            lost = self.told - seen > len(lines)
            return self.told, None if lost else lines


def stage_of(app: Any) -> Stage:
    return app.extensions["stage"]  # type: ignore[no-any-return]
