"""Sheets and the strokes on them."""

import dataclasses
import sqlite3
from collections.abc import Iterable, Sequence

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.errors import Conflict, NotFound
from gray_quill.core.paper import Paper, describe_paper
from gray_quill.core.trace import Trace
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written
from gray_quill.store.pens import get_pen
from gray_quill.store.trace_blob import pack_trace, unpack_trace


@dataclasses.dataclass(frozen=True)
class Sheet:
    """A sheet as kept; strokes: how many lie on it; paper_words: its paper in the sentence's words;
    paper_is_dark: light ink reads better on it."""

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


@dataclasses.dataclass(frozen=True, eq=False)
class Stroke:
    """A kept trace and the pen revision that drew it."""

    id: str
    pen_id: str
    revision: int
    trace: Trace


_SELECT = """
    SELECT s.*, (SELECT count(*) FROM strokes WHERE sheet_id = s.id AND binned_at IS NULL) AS strokes FROM sheets s
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
    )


def get_sheet(db: sqlite3.Connection, sheet_id: str) -> Sheet:
    row = db.execute(_SELECT + "WHERE id = ?", (sheet_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no sheet {sheet_id!r}. Choose one from the sentence.", "sheet_id")
    return _sheet(row)


def list_sheets(db: sqlite3.Connection) -> list[Sheet]:
    """All sheets not in the bin, newest first."""
    return [_sheet(row) for row in db.execute(_SELECT + "WHERE binned_at IS NULL ORDER BY created_at DESC, id")]


def add_sheet(db: sqlite3.Connection, sheet: Sheet) -> Sheet:
    with transaction(db):
        if db.execute("SELECT 1 FROM sheets WHERE id = ?", (sheet.id,)).fetchone():
            raise Conflict(f"There is a sheet {sheet.id!r} already.", "id")
        db.execute(
            "INSERT INTO sheets (id, name, kind, paper, hand_id, device_id, pen_id, created_at, prompts) VALUES (?, "
            "?, ?, ?, ?, ?, ?, ?, ?)",
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
            ),
        )
    return get_sheet(db, sheet.id)


def change_sheet(
    db: sqlite3.Connection,
    sheet_id: str,
    *,
    name: str | None = None,
    paper: Paper | None = None,
    hand_id: str | None = None,
    device_id: str | None = None,
    pen_id: str | None = None,
) -> Sheet:
    """Change what is given and keep the rest."""
    sheet = get_sheet(db, sheet_id)
    with transaction(db):
        db.execute(
            "UPDATE sheets SET name = ?, paper = ?, hand_id = ?, device_id = ?, pen_id = ? WHERE id = ?",
            (
                name or sheet.name,
                written(paper or sheet.paper),
                hand_id or sheet.hand_id,
                device_id or sheet.device_id,
                pen_id or sheet.pen_id,
                sheet_id,
            ),
        )
    return get_sheet(db, sheet_id)


def bin_sheet(db: sqlite3.Connection, sheet_id: str, binned: bool) -> Sheet:
    """Move a sheet to the bin or back; its ink stays with it."""
    get_sheet(db, sheet_id)
    with transaction(db):
        db.execute("UPDATE sheets SET binned_at = ? WHERE id = ?", (now() if binned else None, sheet_id))
    return get_sheet(db, sheet_id)


def add_strokes(db: sqlite3.Connection, sheet_id: str, strokes: Sequence[Stroke]) -> int:
    """Keep strokes; one whose id is kept already changes nothing, so a repeated save is safe. Returns how many were
    new.
    """
    get_sheet(db, sheet_id)
    for pen_id, revision in {(s.pen_id, s.revision) for s in strokes}:
        get_pen(db, pen_id, revision)
    with transaction(db):
        place = db.execute(
            "SELECT coalesce(max(place), -1) + 1 FROM strokes WHERE sheet_id = ?", (sheet_id,)
        ).fetchone()[0]
        before = db.total_changes
        db.executemany(
            "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at) VALUES (?, ?, ?, ?, ?, "
            "?, ?) ON CONFLICT (id) DO NOTHING",
            [
                (s.id, sheet_id, place + i, s.pen_id, s.revision, pack_trace(s.trace), now())
                for i, s in enumerate(strokes)
            ],
        )
        return db.total_changes - before


def stroke_index(db: sqlite3.Connection, sheet_id: str) -> list[tuple[str, str, int]]:
    """Id, pen and revision of the sheet's strokes in the order written, without those in the bin."""
    get_sheet(db, sheet_id)
    rows = db.execute(
        "SELECT id, pen_id, revision FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place", (sheet_id,)
    )
    return [(r["id"], r["pen_id"], r["revision"]) for r in rows]


def load_traces(db: sqlite3.Connection, ids: Sequence[str]) -> dict[str, Trace]:
    """Traces by stroke id, binned ones too."""
    found: dict[str, Trace] = {}
    for start in range(0, len(ids), 500):
        some = ids[start : start + 500]
        rows = db.execute(f"SELECT id, trace FROM strokes WHERE id IN ({','.join('?' * len(some))})", some)
        found |= {r["id"]: unpack_trace(r["trace"]) for r in rows}
    return found


def list_strokes(db: sqlite3.Connection, sheet_id: str) -> list[Stroke]:
    """The sheet's strokes in the order written, without those in the bin."""
    index = stroke_index(db, sheet_id)
    traces = load_traces(db, [i for i, _, _ in index])
    return [Stroke(i, pen_id, revision, traces[i]) for i, pen_id, revision in index]


def bin_strokes(db: sqlite3.Connection, sheet_id: str, ids: Iterable[str], binned: bool) -> None:
    """Move strokes to the bin or back. Unknown ids are refused and nothing moves."""
    wanted = list(dict.fromkeys(ids))
    with transaction(db):
        for stroke_id in wanted:
            if not db.execute("SELECT 1 FROM strokes WHERE id = ? AND sheet_id = ?", (stroke_id, sheet_id)).fetchone():
                raise NotFound(f"There is no stroke {stroke_id!r} on this sheet.", "ids")
        db.executemany(
            "UPDATE strokes SET binned_at = ? WHERE id = ?", [(now() if binned else None, i) for i in wanted]
        )
