"""What a request works with: its database connection and the app's ink memory."""

import logging
import pathlib
import sqlite3
import time

from flask import current_app, g

from gray_quill.core.errors import GrayQuillError
from gray_quill.store.database import connect
from gray_quill.web.ink_source import InkMemory

TOLD_EVERY_S = 60.0


def db() -> sqlite3.Connection:
    """This request's connection, closed when the request ends."""
    if "db" not in g:
        g.db = connect(folder())
    return g.db  # type: ignore[no-any-return]


def folder() -> pathlib.Path:
    return pathlib.Path(current_app.config["DATA_FOLDER"])


def memory() -> InkMemory:
    return current_app.extensions["ink_memory"]  # type: ignore[no-any-return]


def close_db(_: BaseException | None = None) -> None:
    connection = g.pop("db", None)
    if connection is not None:
        connection.close()


def told_once(trouble: GrayQuillError) -> None:
    """Into the log, but the same trouble only every TOLD_EVERY_S: strokes go on coming meanwhile."""
    last: dict[str, float] = current_app.extensions.setdefault("told", {})
    if time.monotonic() - last.get(trouble.code, -TOLD_EVERY_S) >= TOLD_EVERY_S:
        last[trouble.code] = time.monotonic()
        logging.getLogger("gray_quill").error("%s", trouble.message)
