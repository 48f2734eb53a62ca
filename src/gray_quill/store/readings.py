"""Readings kept beside the sheet and pen revision they belong to."""

import dataclasses
import json
import sqlite3

from gray_quill.core.readings.ink_readings import Readings
from gray_quill.store.database import now, transaction


def keep_readings(db: sqlite3.Connection, sheet_id: str, pen_id: str, revision: int, readings: Readings) -> None:
    """Keep the latest readings of a pen revision on a sheet."""
    with transaction(db):
        db.execute(
            "INSERT INTO readings (sheet_id, pen_id, revision, readings, created_at) VALUES (?, ?, ?, ?, ?) "
            "ON CONFLICT (sheet_id, pen_id, revision) DO UPDATE SET readings = excluded.readings, created_at = "
            "excluded.created_at",
            (sheet_id, pen_id, revision, json.dumps(dataclasses.asdict(readings)), now()),
        )


def kept_readings(db: sqlite3.Connection, sheet_id: str) -> list[tuple[str, int, Readings]]:
    """Pen, revision and readings of every pen measured on the sheet."""
    rows = db.execute(
        "SELECT pen_id, revision, readings FROM readings WHERE sheet_id = ? ORDER BY created_at", (sheet_id,)
    )
    return [(r["pen_id"], r["revision"], Readings(**json.loads(r["readings"]))) for r in rows]
