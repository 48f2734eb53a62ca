"""What a request works with: its database connection and the app's ink memory."""

import pathlib
import sqlite3

from flask import current_app, g

from gray_quill.store.database import connect
from gray_quill.web.ink_source import InkMemory


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
