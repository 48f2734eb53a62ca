"""What is done with a thing: copied, named, noted, put into the bin and back."""

import dataclasses
import sqlite3
from typing import Any

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import Conflict, InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.quantities import quantities
from gray_quill.store.cabinet.finding import Thing, get_kept
from gray_quill.store.cabinet.kinds import KINDS, TABLES
from gray_quill.store.database import now, transaction
from gray_quill.store.items import add_thing, get_thing
from gray_quill.store.kept import written
from gray_quill.store.pages import add_page, copy_ink
from gray_quill.store.pens import add_pen, add_revision, bin_pen, get_pen
from gray_quill.store.settings import get_settings, set_settings
from gray_quill.store.sheets import add_sheet, bin_sheet, change_sheet, pages_of

RECORDS: dict[str, Any] = {"hand": Hand, "device": Device}


def copy_thing(db: sqlite3.Connection, kind: str, thing_id: str, new_id: str) -> Thing:
    """Another of the same, to be changed on its own. Raises Conflict for kinds there is no use in having twice."""
    with transaction(db):
        thing = get_kept(db, kind, thing_id)
        if not KINDS[kind].copies:
            raise Conflict(f"{KINDS[kind].many.capitalize()} are not copied. Take one out to keep it elsewhere too.")
        name = _copied(thing.name, _longest(kind))
        if kind == "pen":
            recipe = dataclasses.replace(get_pen(db, thing_id).recipe, name=name)
            add_pen(db, new_id, recipe, f"a copy of {thing.name}")
        elif kind in RECORDS:
            add_thing(db, new_id, dataclasses.replace(get_thing(db, RECORDS[kind], thing_id), name=name))
        else:
            _copy_sheet(db, thing_id, new_id, name)
        return get_kept(db, kind, new_id)


def _longest(kind: str) -> int:
    return 80 if kind in ("sheet", "piece") else 60


def _copied(name: str, longest: int) -> str:
    return f"{name[: longest - 5].rstrip()} copy"


def _copy_sheet(db: sqlite3.Connection, sheaf: str, new_id: str, name: str) -> None:
    pages = pages_of(db, sheaf)
    if not pages:
        raise Conflict("This sheet lies in the bin. Put it back, then copy it.")
    made = dataclasses.replace(pages[0], id=new_id, sheaf="", name=name, created_at="")
    add_sheet(db, made)
    copy_ink(db, pages[0].id, new_id)
    last = new_id
    for k, page in enumerate(pages[1:], 2):
        add_page(db, last, f"{new_id}-{k}", page.paper)
        last = f"{new_id}-{k}"
        copy_ink(db, page.id, last)
    for page, copied in zip(pages, pages_of(db, new_id), strict=True):
        db.execute(
            "UPDATE sheets SET bookmark = ?, note = ?, piece = ? WHERE id = ?",
            (page.bookmark, page.note, page.piece, copied.id),
        )


def rename_thing(db: sqlite3.Connection, kind: str, thing_id: str, name: str) -> Thing:
    """Call a thing otherwise; a pen by a revision of its own. Raises Conflict where it has no name of its own."""
    with transaction(db):
        get_kept(db, kind, thing_id)
        if not KINDS[kind].renames:
            raise Conflict(f"{KINDS[kind].many.capitalize()} have no name of their own. Write a note instead.")
        if len(name) > _longest(kind):
            raise InputError(f"A name has up to {_longest(kind)} letters.", "name")
        if kind == "pen":
            add_revision(db, thing_id, dataclasses.replace(get_pen(db, thing_id).recipe, name=name), "called otherwise")
        elif kind in RECORDS:
            _rename_record(db, kind, thing_id, name)
        elif kind in ("sheet", "piece"):
            change_sheet(db, first_page(db, thing_id), name=name)
        elif kind == "paper":
            return _rename_paper(db, thing_id, name)
        elif kind == "line-up":
            db.execute("UPDATE trials SET inputs = json_set(inputs, '$.name', ?) WHERE id = ?", (name, thing_id))
        else:
            db.execute("UPDATE originals SET name = ? WHERE id = ?", (name, thing_id))
        return get_kept(db, kind, thing_id)


def _rename_record(db: sqlite3.Connection, kind: str, thing_id: str, name: str) -> None:
    record = RECORDS[kind]
    if len(name) > quantities(record)["name"].high:
        raise InputError(f"A name has up to {quantities(record)['name'].high:g} letters.", "name")
    renamed = written(dataclasses.replace(get_thing(db, record, thing_id), name=name))
    db.execute(f"UPDATE {TABLES[kind]} SET record = ? WHERE id = ?", (renamed, thing_id))


def _rename_paper(db: sqlite3.Connection, was: str, name: str) -> Thing:
    papers = get_settings(db)["papers"]
    if name != was and any(p["name"] == name for p in papers):
        raise Conflict(f"There is a paper {name!r} already. Give it another name.", "name")
    if len(name) > 30:
        raise InputError("A paper's name has up to 30 letters.", "name")
    set_settings(db, {"papers": [{**p, "name": name} if p["name"] == was else p for p in papers]})
    db.execute("UPDATE notes SET id = ? WHERE kind = 'paper' AND id = ?", (name, was))
    return get_kept(db, "paper", name)


def first_page(db: sqlite3.Connection, sheaf: str) -> str:
    """The id of the page a sheet begins with, one in the bin only where all are."""
    row = db.execute(
        "SELECT id FROM sheets WHERE sheaf = ? ORDER BY binned_at IS NOT NULL, place, id LIMIT 1", (sheaf,)
    ).fetchone()
    return str(row["id"])


def note_thing(db: sqlite3.Connection, kind: str, thing_id: str, note: str) -> Thing:
    """Write on a thing what it is for; a sheet's note is the one its list shows."""
    with transaction(db):
        get_kept(db, kind, thing_id)
        if kind == "sheet":
            change_sheet(db, first_page(db, thing_id), note=note)
        db.execute("DELETE FROM notes WHERE kind = ? AND id = ?", (kind, thing_id))
        if note:
            db.execute("INSERT INTO notes (kind, id, note) VALUES (?, ?, ?)", (kind, thing_id, note))
        return get_kept(db, kind, thing_id)


def bin_thing(db: sqlite3.Connection, kind: str, thing_id: str, binned: bool) -> Thing:
    """Put a thing into the bin, or back. Raises Conflict for kinds that have none, and for the last hand or device."""
    with transaction(db):
        get_kept(db, kind, thing_id)
        if not KINDS[kind].bins:
            raise Conflict(
                f"{KINDS[kind].many.capitalize()} go with what they belong to; they have no bin of their own."
            )
        if kind == "pen":
            bin_pen(db, thing_id, binned)
        elif kind in ("sheet", "piece"):
            bin_sheet(db, first_page(db, thing_id), binned)
        else:
            _keep_one(db, kind, thing_id, binned)
            when = now() if binned else None
            db.execute(f"UPDATE {TABLES[kind]} SET binned_at = ? WHERE id = ?", (when, thing_id))
        return get_kept(db, kind, thing_id)


def _keep_one(db: sqlite3.Connection, kind: str, thing_id: str, binned: bool) -> None:
    """Hands and devices that sheets on the desk are written with stay at hand."""
    if not binned or kind not in RECORDS:
        return
    held = db.execute(
        f"SELECT name FROM sheets WHERE {kind}_id = ? AND binned_at IS NULL LIMIT 1", (thing_id,)
    ).fetchone()
    if held:
        raise Conflict(f"The sheet {held['name']!r} is written with this {kind}. Give it another {kind} first.")
