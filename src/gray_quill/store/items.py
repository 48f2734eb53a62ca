"""Hands and devices: named records kept as JSON, never lost (the bin keeps them)."""

import sqlite3
from typing import TypeVar

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written

T = TypeVar("T", Hand, Device)
TABLES: dict[type, str] = {Hand: "hands", Device: "devices"}


def add_thing(db: sqlite3.Connection, thing_id: str, thing: Hand | Device) -> None:
    """Keep a hand or device; one of the same id is replaced."""
    with transaction(db):
        db.execute(
            f"INSERT INTO {TABLES[type(thing)]} (id, record, created_at) VALUES (?, ?, ?) "
            "ON CONFLICT (id) DO UPDATE SET record = excluded.record, binned_at = NULL",
            (thing_id, written(thing), now()),
        )


def get_thing(db: sqlite3.Connection, kind: type[T], thing_id: str) -> T:
    row = db.execute(f"SELECT record FROM {TABLES[kind]} WHERE id = ?", (thing_id,)).fetchone()
    if row is None:
        raise NotFound(
            f"There is no {kind.__name__.lower()} {thing_id!r}. Choose one from the list.",
            f"{kind.__name__.lower()}_id",
        )
    return read_kept(kind, row["record"])


def list_things(db: sqlite3.Connection, kind: type[T]) -> dict[str, T]:
    """All that are not in the bin, by id, oldest first; of the same moment in the order they were kept."""
    rows = db.execute(f"SELECT id, record FROM {TABLES[kind]} WHERE binned_at IS NULL ORDER BY created_at, rowid")
    return {row["id"]: read_kept(kind, row["record"]) for row in rows}
