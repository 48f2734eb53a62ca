"""Where a thing is used: what would miss it."""

import dataclasses
import json
import sqlite3

from gray_quill.core.paper import Paper
from gray_quill.store.cabinet.kinds import PAIRS
from gray_quill.store.kept import read_kept
from gray_quill.store.settings import get_settings


@dataclasses.dataclass(frozen=True)
class Use:
    """Something that uses a thing: its kind and id as in the cabinet, its name, and how it uses it, in words."""

    kind: str
    id: str
    name: str
    words: str
    binned: bool = False


def uses_of(db: sqlite3.Connection, kind: str, thing_id: str) -> list[Use]:
    """Everything that uses a thing, sheets first."""
    if kind == "pen":
        return _ink(db, thing_id) + _held(db, "pen_id", thing_id) + _runs(db, "pen_id", thing_id) + _rolls(db, thing_id)
    if kind in ("hand", "device"):
        column = f"{kind}_id"
        return _held(db, column, thing_id) + _runs(db, column, thing_id) + _pairs(db, column, thing_id)
    if kind in ("picture", "document"):
        return _printed(db, thing_id)
    if kind in ("sheet", "piece"):
        return _shown(db, thing_id) + _written(db, thing_id)
    if kind == "paper":
        return _on_paper(db, thing_id)
    return []


def _counted(n: int, what: str) -> str:
    return f"{n} {what}{'' if n == 1 else 's'}"


def _sheets(db: sqlite3.Connection, condition: str, value: str, words: str) -> list[Use]:
    rows = db.execute(
        "SELECT t.kind, t.id, t.name, t.binned_at FROM things t WHERE t.kind IN ('sheet', 'piece') AND t.id IN "
        f"(SELECT s.sheaf FROM sheets s WHERE {condition}) ORDER BY t.made_at DESC, t.place DESC",
        (value,),
    )
    return [Use(r["kind"], r["id"], r["name"], words, r["binned_at"] is not None) for r in rows]


def _ink(db: sqlite3.Connection, pen_id: str) -> list[Use]:
    rows = db.execute(
        "SELECT t.kind, t.id, t.name, t.binned_at, k.inked FROM things t JOIN (SELECT s.sheaf, count(*) AS inked "
        "FROM strokes k JOIN sheets s ON s.id = k.sheet_id WHERE k.pen_id = ? AND k.binned_at IS NULL GROUP BY s.sheaf)"
        " k ON k.sheaf = t.id WHERE t.kind IN ('sheet', 'piece') ORDER BY k.inked DESC, t.id",
        (pen_id,),
    )
    return [
        Use(r["kind"], r["id"], r["name"], _counted(r["inked"], "stroke"), r["binned_at"] is not None) for r in rows
    ]


def _held(db: sqlite3.Connection, column: str, thing_id: str) -> list[Use]:
    words = {"pen_id": "the pen in hand", "hand_id": "written by it", "device_id": "written on it"}[column]
    return _sheets(db, f"s.{column} = ?", thing_id, words)


def _runs(db: sqlite3.Connection, column: str, thing_id: str) -> list[Use]:
    """Runs made with it, and those that name it among others."""
    rows = db.execute(
        "SELECT t.kind, t.id, t.name, t.binned_at FROM trials r JOIN things t ON t.id = r.id AND t.kind IN ('lag run', "
        f"'palm run', 'line-up', 'blind pairs') WHERE r.{column} = ?1 OR (r.kind IN ('lineup', 'pairs') AND "
        "(instr(r.results, ?2) OR instr(r.inputs, ?2))) ORDER BY t.made_at DESC, t.place DESC",
        (thing_id, f'"{column}": {json.dumps(thing_id)}'),
    )
    return [Use(r["kind"], r["id"], r["name"], "measured with it", r["binned_at"] is not None) for r in rows]


def _rolls(db: sqlite3.Connection, pen_id: str) -> list[Use]:
    on = [r["name"] for r in get_settings(db).get("rolls", []) if pen_id in r.get("pen_ids", [])]
    return [Use("roll", name, name, "on this roll") for name in on]


def _pairs(db: sqlite3.Connection, column: str, thing_id: str) -> list[Use]:
    found = []
    for kind, table in {**PAIRS, "contacts": "palm_told", "felt": "felt"}.items():
        if (kind, column) == ("felt", "device_id"):
            continue  # what a hand feels is told by the device's name
        key = "hand_id || '~' || device_id" if kind in PAIRS else "id"
        rows = db.execute(
            "SELECT t.kind, t.id, t.name, t.binned_at FROM things t WHERE t.kind = ? AND t.id IN "
            f"(SELECT {key} FROM {table} WHERE {column} = ?) ORDER BY t.id",
            (kind, thing_id),
        )
        found += [Use(r["kind"], r["id"], r["name"], "set for it", r["binned_at"] is not None) for r in rows]
    return found


def _printed(db: sqlite3.Connection, original_id: str) -> list[Use]:
    return _sheets(db, "instr(s.prints, '\"' || ? || '\"')", original_id, "lies on it") + [
        Use("paper", p["name"], p["name"], "printed on it")
        for p in get_settings(db).get("papers", [])
        if any(one.get("file") == original_id for one in p.get("prints", []))
    ]


def _shown(db: sqlite3.Connection, sheaf: str) -> list[Use]:
    """Sheets that show ink written here."""
    condition = (
        "s.sheaf <> ?1 AND s.id IN (SELECT c.sheet_id FROM strokes c JOIN strokes k ON k.id = c.trace_of "
        "JOIN sheets own ON own.id = k.sheet_id WHERE own.sheaf = ?1)"
    )
    return _sheets(db, condition, sheaf, "shows ink of it")


def _written(db: sqlite3.Connection, sheaf: str) -> list[Use]:
    """Runs that were made on its writing."""
    pages = [row["id"] for row in db.execute("SELECT id FROM sheets WHERE sheaf = ?", (sheaf,))]
    found = []
    for page in pages:
        rows = db.execute(
            "SELECT t.kind, t.id, t.name, t.binned_at FROM trials r JOIN things t ON t.id = r.id AND t.kind IN "
            "('line-up', 'blind pairs', 'lag run') WHERE instr(r.inputs, ?1) OR instr(r.results, ?1) ORDER BY t.id",
            (f'"sheet_id": {json.dumps(page)}',),
        )
        found += [Use(r["kind"], r["id"], r["name"], "on its writing", r["binned_at"] is not None) for r in rows]
    return list(dict.fromkeys(found))


def _on_paper(db: sqlite3.Connection, name: str) -> list[Use]:
    kept = next((p for p in get_settings(db).get("papers", []) if p["name"] == name), None)
    if kept is None:
        return []
    own = read_kept(Paper, kept["paper"])
    alike = [
        text for (text,) in db.execute("SELECT DISTINCT paper FROM sheets").fetchall() if read_kept(Paper, text) == own
    ]
    return list(dict.fromkeys(use for text in alike for use in _sheets(db, "s.paper = ?", text, "on it")))
