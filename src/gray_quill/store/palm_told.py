"""Decisions on the glass that their writer knew better, kept as labelled streams."""

import json
import sqlite3
import uuid

from gray_quill.core.errors import NotFound
from gray_quill.store.database import now, transaction

Told = tuple[bytes, bytes]  # the contacts as CSV, and the truth beside them as JSON


def keep_told(db: sqlite3.Connection, hand_id: str, device_id: str, contacts: bytes, truth: object) -> str:
    """Keep one; returns its id."""
    told_id = f"told-{uuid.uuid4().hex[:12]}"
    with transaction(db):
        db.execute(
            "INSERT INTO palm_told (id, hand_id, device_id, contacts, truth, created_at) VALUES (?, ?, ?, ?, ?, ?)",
            (told_id, hand_id, device_id, contacts, json.dumps(truth), now()),
        )
    return told_id


def told_of(db: sqlite3.Connection, hand_id: str, device_id: str, most: int) -> list[Told]:
    """The newest of a hand on a device that are not in the bin."""
    rows = db.execute(
        "SELECT contacts, truth FROM palm_told WHERE hand_id = ? AND device_id = ? AND binned_at IS NULL "
        "ORDER BY created_at DESC, rowid DESC LIMIT ?",
        (hand_id, device_id, most),
    )
    return [(row["contacts"], row["truth"].encode()) for row in rows]


def count_told(db: sqlite3.Connection, hand_id: str, device_id: str) -> int:
    """How many there are of a hand on a device."""
    return int(
        db.execute(
            "SELECT count(*) FROM palm_told WHERE hand_id = ? AND device_id = ? AND binned_at IS NULL",
            (hand_id, device_id),
        ).fetchone()[0]
    )


def bin_told(db: sqlite3.Connection, told_id: str, binned: bool) -> None:
    """Put one into the bin, or back."""
    with transaction(db):
        found = db.execute("UPDATE palm_told SET binned_at = ? WHERE id = ?", (now() if binned else None, told_id))
    if not found.rowcount:
        raise NotFound(f"There is no decision {told_id!r} that was told.", "told_id")
