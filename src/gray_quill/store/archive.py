"""Everything that is kept as plain data, or some of it.

A file a thing: a pen with its revisions, a page with its strokes, a hand, a device; what belongs to pairs of them in a
file a table. Rows are as in the database, JSON in them as JSON and traces as columns of numbers.
"""

import base64
import json
import sqlite3
from collections.abc import Collection, Sequence
from typing import Any

from gray_quill.core.trace import columns_of
from gray_quill.store.cabinet.needs import Chosen
from gray_quill.store.trace_blob import pack_trace, unpack_trace

Row = dict[str, Any]
THINGS = {"hands": "hands", "devices": "devices"}
BESIDE = ("press_fits", "palm_settings", "palm_told", "felt", "trials", "settings", "notes")
KEYS = {"settings": ("key",), "notes": ("kind", "id")} | dict.fromkeys(
    ("press_fits", "palm_settings"), ("hand_id", "device_id")
)


def archived(db: sqlite3.Connection, chosen: Chosen | None = None) -> dict[str, Any]:
    """All files of an archive by name; of the chosen rows only, where such are given."""
    files: dict[str, Any] = {}
    for folder, table in THINGS.items():
        for row in _chosen(db, table, chosen):
            files[f"{folder}/{row['id']}.json"] = row
    for row in _chosen(db, "pens", chosen):
        revisions = rows_of(db, "pen_revisions", "WHERE pen_id = ? ORDER BY revision", (row["id"],))
        files[f"pens/{row['id']}.json"] = {"pen": row, "revisions": revisions}
    for row in _chosen(db, "sheets", chosen):
        strokes = rows_of(db, "strokes", "WHERE sheet_id = ? ORDER BY place, rowid", (row["id"],))
        if chosen is not None:
            strokes = [with_its_trace(db, stroke, chosen["sheets"]) for stroke in strokes]
        steps = next(iter(rows_of(db, "steps", "WHERE sheet_id = ?", (row["id"],))), None)
        files[f"sheets/{row['id']}.json"] = {"page": row, "strokes": strokes, "steps": steps}
    for row in _chosen(db, "originals", chosen):
        files[f"originals/{row['id']}.{row['kind']}"] = row.pop("data")
        files[f"originals/{row['id']}.json"] = row
    for table in BESIDE:
        if chosen is None or table in chosen:
            files[f"{table.replace('_', '-')}.json"] = _chosen(db, table, chosen)
    for key in ("papers", "palettes") if chosen else ():
        if key in chosen:  # type: ignore[operator]
            files[f"{key}.json"] = _of_settings(db, key, chosen[key])  # type: ignore[index]
    return files


def _chosen(db: sqlite3.Connection, table: str, chosen: Chosen | None) -> list[Row]:
    if chosen is None:
        return rows_of(db, table)
    key = KEYS.get(table, ("id",))
    where = " AND ".join(f"{c} = ?" for c in key)
    values = sorted(v if isinstance(v, tuple) else (v,) for v in chosen.get(table, ()))
    return [row for value in values for row in rows_of(db, table, f"WHERE {where}", value)]


def with_its_trace(db: sqlite3.Connection, stroke: Row, pages: Collection[str]) -> Row:
    """A stroke with a trace of its own where it shows that of one on a page which stays behind."""
    if stroke["trace_of"] is None:
        return stroke
    (shown,) = rows_of(db, "strokes", "WHERE id = ?", (stroke["trace_of"],))
    return stroke if shown["sheet_id"] in pages else {**stroke, "trace_of": None, "trace": shown["trace"]}


def _of_settings(db: sqlite3.Connection, key: str, names: Collection[str]) -> list[Any]:
    """Papers of these names, or the colours of the palette."""
    row = db.execute("SELECT value FROM settings WHERE key = ?", ({"palettes": "palette"}.get(key, key),)).fetchone()
    kept = json.loads(row["value"]) if row else []
    return [one for one in kept if key == "palettes" or one["name"] in names]


def rows_of(
    db: sqlite3.Connection, table: str, which: str = "ORDER BY rowid", values: Sequence[object] = ()
) -> list[Row]:
    return [
        {name: plain(table, name, row[name]) for name in row.keys()}  # noqa: SIM118
        for row in db.execute(f"SELECT * FROM {table} {which}", values)
    ]


def plain(table: str, column: str, value: Any) -> Any:
    """A value of a row as plain data."""
    if (table, column) == ("strokes", "trace"):
        return _columns(value)
    if isinstance(value, bytes):
        return value if table == "originals" else base64.b64encode(value).decode()
    if isinstance(value, str) and value[:1] in "{[":
        try:
            found = json.loads(value)
        except ValueError:
            return value
        return found if isinstance(found, (dict, list)) and json.dumps(found) == value else value
    return value


def _columns(blob: bytes) -> dict[str, Any] | str:
    """A trace as columns of numbers; nothing of one that shows another's; base64 of one that would not come back."""
    if not blob:
        return {}
    trace = unpack_trace(blob)
    if pack_trace(trace) != blob:
        return base64.b64encode(blob).decode()
    return columns_of(trace) | ({} if trace.begun_s is None else {"begun_s": trace.begun_s})
