"""What a request works with: its database connection and the app's ink memory."""

import logging
import pathlib
import sqlite3
import threading
import time
from typing import Any

from flask import current_app, g, has_request_context, request

from gray_quill.formats.sandbox import Sandbox
from gray_quill.store.database import connect
from gray_quill.web.front import GONE
from gray_quill.web.ink_source import InkMemory
from gray_quill.web.time_budget import time_left_s

LOGGED_EVERY_S = 60.0


def db() -> sqlite3.Connection:
    """This request's connection, closed when the request ends."""
    if "db" not in g:
        g.db = connect(folder())
    return g.db  # type: ignore[no-any-return]


def folder() -> pathlib.Path:
    return pathlib.Path(current_app.config["DATA_FOLDER"])


def memory() -> InkMemory:
    return current_app.extensions["ink_memory"]  # type: ignore[no-any-return]


def sandbox() -> Sandbox:
    return current_app.extensions["sandbox"]  # type: ignore[no-any-return]


def read_outside(kind: str, data: bytes, **options: Any) -> Any:
    """What the sandbox's reader of this kind makes of a file that was sent; it ends with its request."""
    return sandbox().read(kind, data, within_s=time_left_s(), waited_for=still_waited_for, **options)


def still_waited_for() -> bool:
    """Whether who asked this request still listens."""
    gone: threading.Event | None = request.environ.get(GONE) if has_request_context() else None
    return gone is None or not gone.is_set()


def close_db(_: BaseException | None = None) -> None:
    connection = g.pop("db", None)
    if connection is not None:
        connection.close()


def log_now_and_then(what: str, level: int, message: str) -> None:
    """Into the log, but the same only every LOGGED_EVERY_S, however often it happens meanwhile."""
    last: dict[str, float] = current_app.extensions.setdefault("logged", {})
    if time.monotonic() - last.get(what, -LOGGED_EVERY_S) >= LOGGED_EVERY_S:
        last[what] = time.monotonic()
        logging.getLogger("gray_quill").log(level, "%s", message)
