"""Undo and redo of a sheet, kept with it: what each step does is the sender's, and done by the sender."""

import json
import sqlite3
from typing import Any

from gray_quill.core.errors import Stale
from gray_quill.store.database import transaction
from gray_quill.store.sheets import get_sheet

NONE: dict[str, list[Any]] = {"past": [], "future": []}


def kept_steps(db: sqlite3.Connection, sheet_id: str) -> tuple[dict[str, list[Any]], int]:
    """Steps of a sheet and how often they changed; none, and 0, before the first."""
    get_sheet(db, sheet_id)
    row = db.execute("SELECT steps, count FROM steps WHERE sheet_id = ?", (sheet_id,)).fetchone()
    return ({**NONE, **json.loads(row["steps"])}, int(row["count"])) if row else (NONE, 0)


def keep_steps(db: sqlite3.Connection, sheet_id: str, steps: dict[str, list[Any]], count: int) -> None:
    """Keep the steps as they are after `count` changes. Raises Stale where others were kept meanwhile."""
    with transaction(db):
        if kept_steps(db, sheet_id)[1] >= count:
            raise Stale("Steps of this sheet were taken elsewhere meanwhile. Look at them, then take yours.", "count")
        db.execute(
            "INSERT INTO steps (sheet_id, steps, count) VALUES (?, ?, ?) "
            "ON CONFLICT (sheet_id) DO UPDATE SET steps = excluded.steps, count = excluded.count",
            (sheet_id, json.dumps(steps), count),
        )
