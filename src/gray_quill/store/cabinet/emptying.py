"""The bin emptied: what goes for good, and what stays because something that is kept still needs it."""

import dataclasses
import sqlite3
from collections.abc import Collection

from gray_quill.store.cabinet.finding import Thing
from gray_quill.store.cabinet.kinds import PAIRS, TABLES
from gray_quill.store.cabinet.uses import Use, uses_of
from gray_quill.store.database import transaction
from gray_quill.store.settings import get_settings, set_settings

GO_WITH_IT = ("roll", *PAIRS)  # what belongs to a thing and is nothing without it
ORDER = (
    *("lag run", "palm run", "line-up", "blind pairs", "contacts", "felt", "sheet", "piece"),
    *("picture", "document", "pen", "hand", "device"),
)


@dataclasses.dataclass(frozen=True)
class Stays:
    """Something in the bin that cannot go, and what needs it."""

    thing: Thing
    needed_by: list[Use]


@dataclasses.dataclass(frozen=True)
class Emptying:
    """go: what is let go of for good; stay: what is not, and why; with_them: what goes with hands and devices."""

    go: list[Thing]
    stay: list[Stays]
    with_them: list[Use]


def what_would_go(db: sqlite3.Connection) -> Emptying:
    """What emptying the bin would do."""
    rows = db.execute(
        "SELECT kind, id, name, note, made_at, binned_at FROM things WHERE binned_at IS NOT NULL "
        "ORDER BY kind, name, id"
    )
    binned = {(row["kind"], row["id"]): Thing(*row) for row in rows}
    needs = {key: _needed_by(db, *key) for key in binned}
    going = set(binned)
    while stopped := {key for key in going if _in_the_way(needs[key], going)}:
        going -= stopped
    stay = [Stays(thing, _in_the_way(needs[key], going)) for key, thing in binned.items() if key not in going]
    go = sorted((binned[key] for key in going), key=lambda t: (ORDER.index(t.kind), t.name, t.id))
    with_them = [use for key in binned if key in going for use in needs[key] if use.kind in PAIRS]
    return Emptying(go, stay, list(dict.fromkeys(with_them)))


def _in_the_way(needed_by: list[Use], going: Collection[tuple[str, str]]) -> list[Use]:
    return [use for use in needed_by if use.kind not in GO_WITH_IT and (use.kind, use.id) not in going]


def _needed_by(db: sqlite3.Connection, kind: str, thing_id: str) -> list[Use]:
    found = uses_of(db, kind, thing_id)
    if kind in ("picture", "document"):
        return found + _undone(db, thing_id, {(use.kind, use.id) for use in found})
    if kind != "pen":
        return found
    rubbed = db.execute(
        "SELECT DISTINCT t.kind, t.id, t.name FROM strokes k JOIN sheets s ON s.id = k.sheet_id JOIN things t "
        "ON t.id = s.sheaf AND t.kind IN ('sheet', 'piece') WHERE k.pen_id = ? AND k.binned_at IS NOT NULL",
        (thing_id,),
    )
    told = {(use.kind, use.id) for use in found}
    words = "ink rubbed out on it can still come back"
    return found + [Use(r["kind"], r["id"], r["name"], words) for r in rubbed if (r["kind"], r["id"]) not in told]


def _undone(db: sqlite3.Connection, original_id: str, told: Collection[tuple[str, str]]) -> list[Use]:
    """Sheets that lay a picture again when a step is undone."""
    rows = db.execute(
        "SELECT DISTINCT t.kind, t.id, t.name FROM steps u JOIN sheets s ON s.id = u.sheet_id JOIN things t "
        "ON t.id = s.sheaf AND t.kind IN ('sheet', 'piece') WHERE instr(u.steps, ?)",
        (f'"{original_id}"',),
    )
    words = "undo can lay it there again"
    return [Use(r["kind"], r["id"], r["name"], words) for r in rows if (r["kind"], r["id"]) not in told]


def empty_bin(db: sqlite3.Connection) -> Emptying:
    """Let go of what can go, in one change."""
    with transaction(db):
        db.execute("PRAGMA defer_foreign_keys = ON")
        emptied = what_would_go(db)
        for thing in emptied.go:
            _let_go(db, thing.kind, thing.id)
        gone = {thing.id for thing in emptied.go if thing.kind == "pen"}
        rolls = get_settings(db).get("rolls")
        if rolls and gone:
            kept = [{**roll, "pen_ids": [i for i in roll["pen_ids"] if i not in gone]} for roll in rolls]
            set_settings(db, {"rolls": kept})
    return emptied


def _let_go(db: sqlite3.Connection, kind: str, thing_id: str) -> None:
    if kind in ("sheet", "piece"):
        pages = "(SELECT id FROM sheets WHERE sheaf = ?)"
        db.execute(f"DELETE FROM steps WHERE sheet_id IN {pages}", (thing_id,))
        db.execute(f"DELETE FROM strokes WHERE sheet_id IN {pages}", (thing_id,))
        db.execute("DELETE FROM sheets WHERE sheaf = ?", (thing_id,))
    else:
        if kind == "pen":
            db.execute("DELETE FROM pen_revisions WHERE pen_id = ?", (thing_id,))
        for table in PAIRS.values() if kind in ("hand", "device") else ():
            db.execute(f"DELETE FROM {table} WHERE {kind}_id = ?", (thing_id,))
        db.execute(f"DELETE FROM {TABLES[kind]} WHERE id = ?", (thing_id,))
    db.execute("DELETE FROM notes WHERE kind = ? AND id = ?", (kind, thing_id))
