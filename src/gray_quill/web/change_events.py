"""What changed at the desk, told to every screen that is open as it happens."""

import json
import pathlib
import sqlite3
import threading
import time
from collections import OrderedDict
from typing import Any

from flask import Blueprint, Response, current_app, request

from gray_quill.store.database import connect
from gray_quill.store.room import is_known
from gray_quill.web.access import door
from gray_quill.web.api import operation
from gray_quill.web.context import folder
from gray_quill.web.front import WATCH, Watch, words_of

news = Blueprint("news", __name__)
State = dict[str, dict[str, list[int]]]
Box = tuple[float, float, float, float]
MOST_BOXES = 400


class Boxes:
    """Which part of a sheet's page each change of its ink touched, as far as it was told: the last ones, in memory."""

    def __init__(self) -> None:
        self._known: OrderedDict[tuple[str, int], Box] = OrderedDict()
        self._one_by_one = threading.Lock()

    def note(self, sheet_id: str, ink: int, box: Box) -> None:
        with self._one_by_one:
            self._known[sheet_id, ink] = box
            while len(self._known) > MOST_BOXES:
                self._known.popitem(last=False)

    def forget_all(self) -> None:
        with self._one_by_one:
            self._known.clear()

    def since(self, sheet_id: str, before: int, ink: int) -> Box | None:
        """Around all that changed after `before`; None where that is not known."""
        with self._one_by_one:
            found = [self._known.get((sheet_id, k)) for k in range(before + 1, min(ink, before + MOST_BOXES) + 1)]
        told = [box for box in found if box is not None]
        if not told or len(told) < ink - before:
            return None
        left, top, right, bottom = zip(*told, strict=True)
        return min(left), min(top), max(right), max(bottom)


def boxes_of(app: Any) -> Boxes:
    return app.extensions["boxes"]  # type: ignore[no-any-return]


class NewsWatch(Watch):
    """Versions of sheets, of their ink and of pens, as they change. SQLite's data_version tells for next to nothing
    whether anybody wrote; only then it is looked what.
    """

    def __init__(self, data: pathlib.Path, browser: str | None, boxes: Boxes) -> None:
        self.db, self.browser, self.boxes = connect(data), browser, boxes
        self.seen: int | None = None
        self.told: State = {"sheets": {}, "pens": {}}

    def look(self) -> str | None:
        try:
            version = int(self.db.execute("PRAGMA data_version").fetchone()[0])
            if version == self.seen:
                return None
            self.seen = version
            if self.browser and not is_known(self.db, self.browser):
                raise StopIteration  # it was signed out
            now = state_of(self.db)
        except sqlite3.Error:
            raise StopIteration from None  # the screen asks again, and is told what is in the way
        fresh: dict[str, dict[str, list[int] | None]] = {}
        for kind, seen in now.items():
            gone = dict.fromkeys(self.told[kind].keys() - seen.keys())
            fresh[kind] = {i: v for i, v in seen.items() if self.told[kind].get(i) != v} | gone
        changed: dict[str, Box] = {}
        for i, v in fresh["sheets"].items():
            before = self.told["sheets"].get(i)
            box = self.boxes.since(i, before[1], v[1]) if v and before else None
            if box:
                changed[i] = box
        self.told = now
        return f"data: {json.dumps({**fresh, 'boxes': changed})}\n\n" if any(fresh.values()) else None

    def close(self) -> None:
        self.db.close()


def state_of(db: sqlite3.Connection) -> State:
    """By sheet: how often it and its ink changed; by pen: its newest revision."""
    sheets = db.execute("SELECT id, version, ink FROM sheets WHERE binned_at IS NULL AND NOT piece")
    pens = db.execute("SELECT pen_id, max(revision) FROM pen_revisions GROUP BY pen_id")
    return {"sheets": {i: [v, ink] for i, v, ink in sheets}, "pens": {i: [newest] for i, newest in pens}}


@operation(news, "GET", "/news", "text/event-stream")
def tell_news() -> Response:
    """Changes as server-sent events: {sheets: {id: [version, ink]}, pens: {id: [newest revision]}}, first all there
    is; null for what is gone. boxes: {id: which part of the page changed since}, where that is known.
    """
    watch = NewsWatch(folder(), door().browser() if door().place.room else None, boxes_of(current_app))
    head: dict[str, Any] = {"mimetype": "text/event-stream", "headers": {"Cache-Control": "no-store"}}
    if WATCH in request.environ:  # the front carries it on, without a thread
        request.environ[WATCH] = watch
        return Response(**head)
    return Response(words_of(watch, time.sleep), **head)
