"""The desk as it was left: which sheet, hand, device and pen are in use, and how the screen looks."""

import json
import sqlite3
from typing import Any

from gray_quill.store.database import transaction


def get_settings(db: sqlite3.Connection) -> dict[str, Any]:
    """All settings by key."""
    return {row["key"]: json.loads(row["value"]) for row in db.execute("SELECT key, value FROM settings")}


def set_settings(db: sqlite3.Connection, changes: dict[str, Any]) -> None:
    """Keep these settings; others stay."""
    with transaction(db):
        db.executemany(
            "INSERT INTO settings (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
            [(key, json.dumps(value)) for key, value in changes.items()],
        )
