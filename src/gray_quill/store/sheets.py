"""Sheets, page by page."""

import dataclasses
import json
import sqlite3
from collections.abc import Collection, Iterable, Mapping
from typing import Literal, TypeVar

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.errors import Conflict, NotFound, Stale
from gray_quill.core.ink.cover import STRIP, Cover, cover_colour
from gray_quill.core.ink.layer import FIRST, Layer
from gray_quill.core.ink.underlay import Print
from gray_quill.core.paper import Paper, describe_paper
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written

Reach = Literal["page", "on", "all"]
T = TypeVar("T")


@dataclasses.dataclass(frozen=True)
class Sheet:
    """A page of a sheet as kept, which most often is its only one; strokes: how many lie on it; paper_words: its paper
    in the sentence's words; paper_is_dark: light ink reads better on it; version: counts its changes; ink: counts the
    changes of its ink; layers: from below; layer: the one that is written on; piece: it is no sheet of its own but ink
    kept for reuse. sheaf: what its pages have in common, "" as it is added for one of its own; page: which it is, from
    1; pages: how many there are; bookmark: in words, "" for none; prints: pictures and documents under its ink, the
    lowest first; covers: what covers its ink until it is lifted, in cover_colour.
    """

    id: str
    name: str
    kind: str
    paper: Paper
    hand_id: str
    device_id: str
    pen_id: str
    created_at: str
    binned: bool
    prompts: str | None = None
    strokes: int = 0
    paper_words: str = ""
    paper_is_dark: bool = False
    version: int = 1
    ink: int = 1
    note: str = ""
    layers: list[Layer] = dataclasses.field(default_factory=lambda: [Layer()])
    layer: str = FIRST
    piece: bool = False
    sheaf: str = ""
    page: int = 1
    pages: int = 1
    bookmark: str = ""
    prints: list[Print] = dataclasses.field(default_factory=list)
    covers: list[Cover] = dataclasses.field(default_factory=list)
    cover_colour: str = STRIP


_SELECT = """
    SELECT s.*, (SELECT count(*) FROM strokes WHERE sheet_id = s.id AND binned_at IS NULL) AS strokes,
        (SELECT count(*) FROM sheets p WHERE p.sheaf = s.sheaf AND p.binned_at IS NULL) AS pages,
        (SELECT count(*) FROM sheets p WHERE p.sheaf = s.sheaf AND p.binned_at IS NULL AND p.place < s.place) AS before
    FROM sheets s
"""


def _sheet(row: sqlite3.Row) -> Sheet:
    paper = read_kept(Paper, row["paper"])
    return Sheet(
        row["id"],
        row["name"],
        row["kind"],
        paper,
        row["hand_id"],
        row["device_id"],
        row["pen_id"],
        row["created_at"],
        row["binned_at"] is not None,
        row["prompts"],
        row["strokes"],
        describe_paper(paper),
        is_dark(paper.colour),
        row["version"],
        row["ink"],
        row["note"],
        _layers(row["layers"]),
        row["layer"],
        bool(row["piece"]),
        row["sheaf"],
        row["before"] + 1,
        row["pages"],
        row["bookmark"],
        _each(Print, "prints", row["prints"]),
        _each(Cover, "covers", row["covers"]),
        cover_colour(paper),
    )


def _layers(text: str | None) -> list[Layer]:
    """The layers a kept text holds; one where it holds none."""
    data = json.loads(text).get("layers", []) if text else []
    return [read_kept(Layer, one) for one in data] or [Layer()]


def _each(kind: type[T], key: str, text: str | None) -> list[T]:
    """The records a kept text holds under a key."""
    return [read_kept(kind, one) for one in json.loads(text).get(key, [])] if text else []


def get_sheet(db: sqlite3.Connection, sheet_id: str) -> Sheet:
    row = db.execute(_SELECT + "WHERE id = ?", (sheet_id,)).fetchone()
    if row is None:
        raise no_sheet(sheet_id)
    return _sheet(row)


def no_sheet(sheet_id: str) -> NotFound:
    return NotFound(f"There is no sheet {sheet_id!r}. Choose one from the sentence.", "sheet_id")


def list_sheets(db: sqlite3.Connection, binned: bool = False, pieces: bool = False) -> list[Sheet]:
    """All pages of sheets, or all pieces kept, newest first: those not in the bin, or those in it."""
    condition = "WHERE (binned_at IS NOT NULL) = ? AND piece = ? ORDER BY s.created_at DESC, s.rowid DESC"
    return [_sheet(row) for row in db.execute(_SELECT + condition, (binned, pieces))]


def pages_of(db: sqlite3.Connection, sheaf: str, binned: bool = False) -> list[Sheet]:
    """The pages of a sheet in their order: those not in the bin, or those in it."""
    condition = "WHERE sheaf = ? AND (binned_at IS NOT NULL) = ? ORDER BY place, id"
    return [_sheet(row) for row in db.execute(_SELECT + condition, (sheaf, binned))]


def add_sheet(db: sqlite3.Connection, sheet: Sheet) -> Sheet:
    with transaction(db):
        if db.execute("SELECT 1 FROM sheets WHERE id = ?", (sheet.id,)).fetchone():
            raise Conflict(f"There is a sheet {sheet.id!r} already.", "id")
        db.execute(
            "INSERT INTO sheets (id, name, kind, paper, hand_id, device_id, pen_id, created_at, prompts, piece, sheaf) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                sheet.id,
                sheet.name,
                sheet.kind,
                written(sheet.paper),
                sheet.hand_id,
                sheet.device_id,
                sheet.pen_id,
                sheet.created_at or now(),
                sheet.prompts,
                sheet.piece,
                sheet.sheaf or sheet.id,
            ),
        )
    return get_sheet(db, sheet.id)


def change_sheet(
    db: sqlite3.Connection,
    sheet_id: str,
    *,
    saw: int | None = None,
    name: str | None = None,
    paper: Paper | None = None,
    hand_id: str | None = None,
    device_id: str | None = None,
    pen_id: str | None = None,
    note: str | None = None,
    bookmark: str | None = None,
    reach: Reach = "page",
) -> Sheet:
    """Change what is given and leave the rest. Name, note, hand, device and pen are those of all its pages, a bookmark
    is of this one; the paper is of this page, of those from here on, or of all. Raises Stale when the page is no longer
    the version that was seen.
    """
    shared = {"name": name, "hand_id": hand_id, "device_id": device_id, "pen_id": pen_id, "note": note}
    with transaction(db):
        sheet = get_sheet(db, sheet_id)
        if paper and paper.endless and sheet.paper.endless:  # it may have grown since it was seen
            paper = dataclasses.replace(paper, height_mm=max(paper.height_mm, sheet.paper.height_mm))
        kept_paper = written(paper) if paper else None
        if saw is not None and saw != sheet.version:
            raise Stale(
                f"This sheet was changed elsewhere meanwhile: it is {sheet.name!r} on {sheet.paper_words}, written by "
                f"{sheet.hand_id} on {sheet.device_id} with {sheet.pen_id}. Look at it, then change it again."
            )
        here = [sheet_id]
        reached = reached_from(db, sheet, reach)
        every = [row["id"] for row in db.execute("SELECT id FROM sheets WHERE sheaf = ?", (sheet.sheaf,))]
        changed = {
            *_assign(db, shared, every),
            *_assign(db, {"paper": kept_paper}, reached),
            *_assign(db, {"bookmark": bookmark}, here),
        }
        count_changes(db, changed | set(here))
    return get_sheet(db, sheet_id)


def reached_from(db: sqlite3.Connection, sheet: Sheet, reach: Reach) -> list[str]:
    """The pages a change of this one is for."""
    if reach == "page":
        return [sheet.id]
    return [p.id for p in pages_of(db, sheet.sheaf) if reach == "all" or p.page >= sheet.page]


def _assign(db: sqlite3.Connection, values: Mapping[str, object], ids: Collection[str]) -> Collection[str]:
    """Set what is given of these rows; those that it was set of."""
    given = {column: value for column, value in values.items() if value is not None}
    assignments = ", ".join(f"{column} = ?" for column in given)
    if not given:
        return ()
    db.executemany(f"UPDATE sheets SET {assignments} WHERE id = ?", [(*given.values(), i) for i in ids])
    return ids


def count_changes(db: sqlite3.Connection, ids: Iterable[str]) -> None:
    """Count a change of these pages, inside the caller's transaction."""
    db.executemany("UPDATE sheets SET version = version + 1 WHERE id = ?", [(i,) for i in ids])


def count_ink_change(db: sqlite3.Connection, sheet_id: str) -> None:
    """Count a change of a sheet's ink, inside the caller's transaction."""
    db.execute("UPDATE sheets SET ink = ink + 1 WHERE id = ?", (sheet_id,))


def bin_sheet(db: sqlite3.Connection, sheet_id: str, binned: bool) -> Sheet:
    """Move a sheet with all its pages to the bin, or back with those that went with it; its ink stays with it."""
    with transaction(db):
        sheaf = get_sheet(db, sheet_id).sheaf
        went = "(SELECT max(binned_at) FROM sheets WHERE sheaf = ?)"
        if binned:
            db.execute("UPDATE sheets SET binned_at = ? WHERE sheaf = ? AND binned_at IS NULL", (now(), sheaf))
        else:
            db.execute(f"UPDATE sheets SET binned_at = NULL WHERE sheaf = ? AND binned_at = {went}", (sheaf, sheaf))
    return get_sheet(db, sheet_id)
