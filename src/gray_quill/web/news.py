"""What changed at the desk, told to every screen that is open as it happens."""

import json
import pathlib
import sqlite3
import time
from typing import Any

from flask import Blueprint, Response, request

from gray_quill.store.database import connect
from gray_quill.store.room import is_known
from gray_quill.web.access import door
from gray_quill.web.api import operation
from gray_quill.web.context import folder
from gray_quill.web.front import WATCH, Watch, words_of

news = Blueprint("news", __name__)
State = dict[str, dict[str, list[int]]]


class NewsWatch(Watch):
    """Versions of sheets, of their ink and of pens, as they change. SQLite's data_version tells for next to nothing
    whether anybody wrote; only then it is looked what.
    """

    def __init__(self, data: pathlib.Path, browser: str | None) -> None:
        self.db, self.browser = connect(data), browser
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
        self.told = now
        return f"data: {json.dumps(fresh)}\n\n" if any(fresh.values()) else None

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
    is; null for what is gone.
    """
    watch = NewsWatch(folder(), door().browser() if door().place.room else None)
    head: dict[str, Any] = {"mimetype": "text/event-stream", "headers": {"Cache-Control": "no-store"}}
    if WATCH in request.environ:  # the front carries it on, without a thread
        request.environ[WATCH] = watch
        return Response(**head)
    return Response(words_of(watch, time.sleep), **head)
