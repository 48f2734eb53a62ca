"""What has to go out with a thing so that it is whole elsewhere: which rows of which tables."""

import json
import sqlite3
from collections.abc import Iterator
from typing import Any

from gray_quill.store.cabinet.finding import get_kept
from gray_quill.store.cabinet.kinds import PAIRS, TABLES, pair_of

Chosen = dict[str, set[Any]]  # keys of rows by table: ids, or (hand_id, device_id); of settings: papers, palette


def needed(db: sqlite3.Connection, kind: str, thing_id: str) -> Chosen:
    """The rows of a thing and of all it refers to."""
    get_kept(db, kind, thing_id)
    chosen: Chosen = {}
    if kind in ("sheet", "piece"):
        _pages(db, chosen, thing_id)
    elif kind in PAIRS:
        chosen[PAIRS[kind]] = {pair_of(thing_id)}
        _pair(chosen, *pair_of(thing_id))
    elif kind in ("paper", "palette"):
        chosen[f"{kind}s"] = {thing_id}
        for kept in _papers(db) if kind == "paper" else []:
            if kept["name"] == thing_id:
                chosen["originals"] = {one["file"] for one in kept.get("prints", [])}
    else:
        table = TABLES[kind]
        chosen[table] = {thing_id}
        if table not in ("pens", "hands", "devices", "originals"):
            row = db.execute(f"SELECT * FROM {table} WHERE id = ?", (thing_id,)).fetchone()
            chosen["hands"] = {row["hand_id"]}
            if table != "felt":
                _pair(chosen, row["hand_id"], row["device_id"])
        if table == "trials":
            _named(db, chosen, row)
    return chosen


def _papers(db: sqlite3.Connection) -> list[dict[str, Any]]:
    row = db.execute("SELECT value FROM settings WHERE key = 'papers'").fetchone()
    return json.loads(row["value"]) if row else []


def _pair(chosen: Chosen, hand_id: str, device_id: str) -> None:
    chosen.setdefault("hands", set()).add(hand_id)
    chosen.setdefault("devices", set()).add(device_id)


def _pages(db: sqlite3.Connection, chosen: Chosen, sheaf: str) -> None:
    pages = db.execute("SELECT * FROM sheets WHERE sheaf = ?", (sheaf,)).fetchall()
    chosen["sheets"] = {page["id"] for page in pages}
    for page in pages:
        _pair(chosen, page["hand_id"], page["device_id"])
        chosen.setdefault("pens", set()).add(page["pen_id"])
        for one in json.loads(page["prints"] or '{"prints": []}')["prints"]:
            chosen.setdefault("originals", set()).add(one["file"])
    inked = db.execute(
        "SELECT DISTINCT pen_id FROM strokes WHERE sheet_id IN (SELECT id FROM sheets WHERE sheaf = ?)", (sheaf,)
    )
    chosen.setdefault("pens", set()).update(row["pen_id"] for row in inked)


def _named(db: sqlite3.Connection, chosen: Chosen, row: sqlite3.Row) -> None:
    """Every pen, hand and device that a run names, where it is still kept."""
    tables = {"pen_id": "pens", "hand_id": "hands", "device_id": "devices"}
    for name, value in [("pen_id", row["pen_id"]), *_ids(json.loads(row["inputs"])), *_ids(json.loads(row["results"]))]:
        table = tables.get(name)
        if table and value and db.execute(f"SELECT 1 FROM {table} WHERE id = ?", (value,)).fetchone():
            chosen.setdefault(table, set()).add(value)


def _ids(value: Any) -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        for name, inner in value.items():
            if name in ("pen_id", "hand_id", "device_id") and isinstance(inner, str):
                yield name, inner
            yield from _ids(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from _ids(inner)
