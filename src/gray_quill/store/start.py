"""Opening a folder: what is there is looked at first, then saved, then brought up to date. Nothing is begun anew where
ink was.
"""

import contextlib
import logging
import pathlib
import sqlite3

from gray_quill.core.errors import Conflict, Unavailable
from gray_quill.store.backups import FOLDER, back_up, newest_good
from gray_quill.store.database import FILE, private, trouble
from gray_quill.store.health import Health, examine
from gray_quill.store.schema import migrate, newest


def prepare(folder: pathlib.Path) -> None:
    """Make the database or bring it up to date, after a backup of what was there. Raises Conflict where what is there
    is damaged, of a later version, or gone though backups hold ink; nothing is changed then.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        health = examine(folder / FILE, whole=False)
        _refuse_what_cannot_be_trusted(folder, health)
        if health.state == "good":
            _save(folder, before_migration=health.schema < newest())
        with contextlib.closing(sqlite3.connect(private(folder / FILE), isolation_level=None, timeout=10)) as db:
            db.execute("PRAGMA journal_mode = WAL")
            db.execute("PRAGMA synchronous = FULL")
            db.execute("PRAGMA foreign_keys = ON")
            migrate(db)
    except sqlite3.Error as error:
        raise trouble(error, folder) or error from None
    except OSError as error:
        raise Unavailable(f"{folder} cannot be written ({error.strerror}). Choose another with --data.") from None


def _refuse_what_cannot_be_trusted(folder: pathlib.Path, health: Health) -> None:
    place = folder / FILE
    what_to_do = f"Run: gray-quill restore --data {folder}"
    if health.state == "newer":
        raise Conflict(f"{place} is {health.words()}. Start that version, or restore an older backup. {what_to_do}")
    if health.state == "damaged":
        raise Conflict(f"{place} is {health.words()}. Nothing was changed. {what_to_do}")
    if health.strokes == 0 and (held := newest_good(folder)) and held[1].strokes:
        raise Conflict(
            f"{place} holds no ink, but the backup {held[0].name} holds {held[1].strokes} strokes. {what_to_do}, "
            f"or move {folder / FOLDER} away to begin anew."
        )


def _save(folder: pathlib.Path, before_migration: bool) -> None:
    """One backup a day, and one before each change of the schema, without which the schema is not changed."""
    try:
        back_up(folder, today_is_enough=not before_migration)
    except Unavailable as error:
        if before_migration:
            raise
        logging.getLogger("gray_quill").warning("%s", error.message)
