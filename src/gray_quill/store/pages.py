"""Pages of a sheet: added, copied, ordered, turned, binned and brought back."""

import dataclasses
import sqlite3
from collections.abc import Sequence

from gray_quill.core.errors import Binned, InputError, TooLarge
from gray_quill.core.ink.placement import Placement
from gray_quill.core.ink.underlay import on_turned_page
from gray_quill.core.paper import LARGEST_MM, Paper
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import written
from gray_quill.store.originals import set_prints
from gray_quill.store.seen import check_seen
from gray_quill.store.sheets import Sheet, add_sheet, count_changes, count_ink_change, get_sheet, pages_of
from gray_quill.store.stroke_edits import place_strokes, read_stroke_edits, written_stroke_edits

MOST_PAGES = 500  # of a sheet


def add_page(db: sqlite3.Connection, like_id: str, page_id: str, paper: Paper | None = None) -> Sheet:
    """Put an empty page down after another, on paper like its own or on this. Raises Binned where that one is in the
    bin, TooLarge where the sheet holds as many as it may.
    """
    with transaction(db):
        like = get_sheet(db, like_id)
        if like.binned:
            raise Binned(f"The page {like_id!r} is in the bin. Put it back first.", "sheet_id")
        if like.pages >= MOST_PAGES:
            raise TooLarge(f"A sheet holds {MOST_PAGES} pages. Put down a new sheet.", "sheet_id")
        empty = dataclasses.replace(
            like, id=page_id, kind="free", prompts=None, paper=paper or like.paper, created_at=now()
        )
        add_sheet(db, empty)
        (place,) = db.execute("SELECT place FROM sheets WHERE id = ?", (like_id,)).fetchone()
        db.execute("UPDATE sheets SET place = place + 1 WHERE sheaf = ? AND place > ?", (like.sheaf, place))
        db.execute("UPDATE sheets SET place = ?, note = ? WHERE id = ?", (place + 1, like.note, page_id))
        _changed(db, like.sheaf)
    return get_sheet(db, page_id)


def copy_page(db: sqlite3.Connection, page_id: str, copy_id: str) -> Sheet:
    """Put a copy of a page down after it: its paper, layers and ink, each stroke showing the trace of the one it is a
    copy of.
    """
    with transaction(db):
        add_page(db, page_id, copy_id)
        copy_ink(db, page_id, copy_id)
    return get_sheet(db, copy_id)


def copy_ink(db: sqlite3.Connection, page_id: str, copy_id: str) -> None:
    """Put what lies on a page on another, which is empty and on like paper."""
    with transaction(db):
        db.execute(
            "UPDATE sheets SET (kind, prompts, layers, layer, prints, covers) = "
            "(SELECT kind, prompts, layers, layer, prints, covers "
            "FROM sheets WHERE id = ?) WHERE id = ?",
            (page_id, copy_id),
        )
        plain = written_stroke_edits(read_stroke_edits(None))
        db.execute(
            "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at, trace_of, showing, layer, "
            "locked, grouped) SELECT ? || '-' || row_number() OVER (ORDER BY place, rowid), ?, place, pen_id, "
            "revision, X'', ?, coalesce(trace_of, id), coalesce(showing, ?), layer, locked, grouped FROM strokes "
            "WHERE sheet_id = ? AND binned_at IS NULL",
            (copy_id, copy_id, now(), plain, page_id),
        )
        count_ink_change(db, copy_id)


def order_pages(
    db: sqlite3.Connection, sheet_id: str, ids: Sequence[str], seen: Sequence[str] | None = None
) -> list[Sheet]:
    """Put the pages of a sheet in this order. Raises InputError unless each is named once, Stale where another order is
    here than was seen; then nothing changes.
    """
    with transaction(db):
        sheaf = get_sheet(db, sheet_id).sheaf
        there = [page.id for page in pages_of(db, sheaf)]
        check_seen(seen, there, "The order of pages was")
        if sorted(ids) != sorted(there):
            raise InputError(
                "Name every page of this sheet once. They were changed elsewhere meanwhile: look, then order them.",
                "ids",
            )
        db.executemany("UPDATE sheets SET place = ? WHERE id = ?", [(k, i) for k, i in enumerate(ids)])
        _changed(db, sheaf)
    return pages_of(db, sheaf)


def bin_page(db: sqlite3.Connection, page_id: str, binned: bool) -> Sheet:
    """Move one page to the bin, or back to its place. Raises InputError for the only page of a sheet."""
    with transaction(db):
        page = get_sheet(db, page_id)
        if binned and not page.binned and page.pages == 1:
            raise InputError("A sheet keeps at least one page. Move the whole sheet to the bin instead.", "binned")
        db.execute("UPDATE sheets SET binned_at = ? WHERE id = ?", (now() if binned else None, page_id))
        _changed(db, page.sheaf)
    return get_sheet(db, page_id)


def turn_page(db: sqlite3.Connection, page_id: str) -> tuple[Sheet, set[str]]:
    """Turn a page a quarter clockwise with all ink on it: what lay at the top lies at the right. Returns the page and
    the ids of its strokes, those in the bin too: each shows otherwise now."""
    with transaction(db):
        page = get_sheet(db, page_id)
        paper = page.paper
        if paper.endless or paper.height_mm > LARGEST_MM:
            raise InputError("An endless page grows downward, so it cannot be turned.", "sheet_id")
        turn: Placement = (0.0, 1.0, -1.0, 0.0, paper.height_mm, 0.0, 0.0, 0.0)
        turned = dataclasses.replace(paper, width_mm=paper.height_mm, height_mm=paper.width_mm)
        ids = [row["id"] for row in db.execute("SELECT id FROM strokes WHERE sheet_id = ?", (page_id,))]
        place_strokes(db, page_id, dict.fromkeys(ids, turn))
        db.execute("UPDATE sheets SET paper = ? WHERE id = ?", (written(turned), page_id))
        set_prints(db, page_id, [on_turned_page(one, paper.height_mm) for one in page.prints])
    return get_sheet(db, page_id), set(ids)


def _changed(db: sqlite3.Connection, sheaf: str) -> None:
    """Count a change of every page of a sheet: which it is of how many may have changed."""
    count_changes(db, [row["id"] for row in db.execute("SELECT id FROM sheets WHERE sheaf = ?", (sheaf,))])
