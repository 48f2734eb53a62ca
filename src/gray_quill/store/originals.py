"""Pictures and documents that were brought in, as they came, and what of them lies on a page."""

import dataclasses
import json
import sqlite3
from collections.abc import Mapping, Sequence

from gray_quill.core.errors import InputError, NotFound, Stale
from gray_quill.core.ink.placement import Placement
from gray_quill.core.ink.underlay import MOST_PRINTS, Print, Size
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import VERSION, written
from gray_quill.store.sheets import Sheet, count_changes, count_ink_change, get_sheet
from gray_quill.store.stroke_edits import place_strokes


@dataclasses.dataclass(frozen=True)
class Original:
    """A file that was brought in. kind: png, jpeg or pdf; sizes_mm: width and height of each of its pages."""

    id: str
    kind: str
    name: str
    sizes_mm: list[Size]


def add_original(db: sqlite3.Connection, original: Original, data: bytes) -> None:
    """Keep a file; once, however often it comes."""
    with transaction(db):
        db.execute(
            "INSERT INTO originals (id, kind, name, sizes_mm, data, created_at) VALUES (?, ?, ?, ?, ?, ?) "
            "ON CONFLICT (id) DO UPDATE SET binned_at = NULL",
            (original.id, original.kind, original.name, json.dumps(original.sizes_mm), data, now()),
        )


def get_original(db: sqlite3.Connection, original_id: str) -> Original:
    row = db.execute("SELECT id, kind, name, sizes_mm FROM originals WHERE id = ?", (original_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no picture or document {original_id!r}. Bring it in again.", "file")
    sizes = [(float(w), float(h)) for w, h in json.loads(row["sizes_mm"])]
    return Original(row["id"], row["kind"], row["name"], sizes)


def original_data(db: sqlite3.Connection, original_id: str) -> bytes:
    row = db.execute("SELECT data FROM originals WHERE id = ?", (original_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no picture or document {original_id!r}. Bring it in again.", "file")
    return bytes(row["data"])


def set_prints(
    db: sqlite3.Connection,
    page_id: str,
    prints: Sequence[Print],
    saw: int | None = None,
    carried: Mapping[str, Placement] | None = None,
) -> Sheet:
    """Lay these prints on a page, in place of those there. carried: by stroke, where it goes with its print. Raises
    Stale when the page is no longer the version that was seen, InputError or NotFound for prints that cannot be.
    """
    if len(prints) > MOST_PRINTS or len({p.id for p in prints}) < len(prints):
        raise InputError(f"A page has up to {MOST_PRINTS} prints, each with an id of its own.", "prints")
    with transaction(db):
        page = get_sheet(db, page_id)
        if saw is not None and saw != page.version:
            raise Stale("This page was changed elsewhere meanwhile. Look at it, then lay the picture again.")
        for one in prints:
            pages = len(get_original(db, one.file).sizes_mm)
            if one.file_page > pages:
                raise InputError(f"That document has {pages} pages, not {one.file_page}.", "prints")
        text = json.dumps({"version": VERSION, "prints": [json.loads(written(one)) for one in prints]})
        db.execute("UPDATE sheets SET prints = ? WHERE id = ?", (text if prints else None, page_id))
        place_strokes(db, page_id, carried or {})
        count_changes(db, [page_id])
        count_ink_change(db, page_id)
    return get_sheet(db, page_id)
