"""The strokes on sheets, and the pens that draw them."""

import dataclasses
import json
import sqlite3
from collections.abc import Collection, Iterable, Sequence

from gray_quill.core.errors import Binned, GrayQuillError, NotFound
from gray_quill.core.ink.layer import FIRST
from gray_quill.core.paper import grown
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import Trace
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import written
from gray_quill.store.pens import get_pen, written_revision
from gray_quill.store.sheets import Sheet, count_changes, count_ink_change, get_sheet, no_sheet
from gray_quill.store.trace_blob import pack_trace, unpack_trace

Entry = tuple[str, str, int]  # of a stroke: its id, its pen and that pen's revision


@dataclasses.dataclass(frozen=True, eq=False)
class Stroke:
    """A kept trace and the pen revision that drew it. draft: as a stroke comes in, what the pen was where it wrote with
    changes that were not kept. layer: where it was written; one that is gone, or None, means the one that is written on
    now."""

    id: str
    pen_id: str
    revision: int
    trace: Trace
    draft: Recipe | None = None
    layer: str | None = None


@dataclasses.dataclass(frozen=True)
class StrokeAnswer:
    """What became of a stroke that was sent. state: kept, there (it was kept before) or refused; code and reason tell
    why it was refused and what to do."""

    id: str
    state: str
    code: str = ""
    reason: str = ""

    @classmethod
    def refusal(cls, stroke_id: str, error: GrayQuillError) -> "StrokeAnswer":
        return cls(stroke_id, "refused", error.code, error.message)


def add_strokes(db: sqlite3.Connection, sheet_id: str, strokes: Sequence[Stroke]) -> list[StrokeAnswer]:
    """Keep strokes, each for itself: one that cannot be kept does not keep the others from it. A repeated save changes
    nothing. Raises NotFound when there is no such sheet, Binned when it lies in the bin.
    """
    with transaction(db):
        sheet = get_sheet(db, sheet_id)
        if sheet.binned:
            raise Binned(f"The sheet {sheet_id!r} is in the bin. Put it back, or write on another.", "sheet_id")
        place = db.execute(
            "SELECT coalesce(max(place), -1) + 1 FROM strokes WHERE sheet_id = ?", (sheet_id,)
        ).fetchone()[0]
        named = json.dumps([s.pen_id for s in strokes])
        known = "SELECT pen_id, revision FROM pen_revisions WHERE pen_id IN (SELECT value FROM json_each(?))"
        pens = {(r["pen_id"], r["revision"]) for r in db.execute(known, (named,))}
        answers = [_add_stroke(db, sheet, place + k, stroke, pens) for k, stroke in enumerate(strokes)]
        if any(a.state == "kept" for a in answers):
            count_ink_change(db, sheet_id)
            kept = [s for s, told in zip(strokes, answers, strict=True) if told.state == "kept"]
            _make_room(db, sheet, max(float(s.trace.y_mm.max()) for s in kept))
        return answers


def _make_room(db: sqlite3.Connection, sheet: Sheet, foot_mm: float) -> None:
    """Endless paper grows below what was written."""
    paper = grown(sheet.paper, foot_mm)
    if paper != sheet.paper:
        db.execute("UPDATE sheets SET paper = ? WHERE id = ?", (written(paper), sheet.id))
        count_changes(db, [sheet.id])


def _add_stroke(
    db: sqlite3.Connection, sheet: Sheet, place: int, stroke: Stroke, pens: Collection[tuple[str, int]]
) -> StrokeAnswer:
    blob, sheet_id = pack_trace(stroke.trace), sheet.id
    there = db.execute("SELECT sheet_id, trace FROM strokes WHERE id = ?", (stroke.id,)).fetchone()
    if there is not None:
        if there["sheet_id"] != sheet_id:
            return StrokeAnswer(stroke.id, "refused", "elsewhere", "A stroke of this id lies on another sheet.")
        if there["trace"] != blob:
            return StrokeAnswer(stroke.id, "refused", "other_ink", "Another stroke of this id lies on this sheet.")
        return StrokeAnswer(stroke.id, "there")
    if (stroke.pen_id, stroke.revision) not in pens:
        reason = f"There is no revision {stroke.revision} of a pen {stroke.pen_id!r}. Keep it with another pen."
        return StrokeAnswer(stroke.id, "refused", "no_pen", reason)
    revision = written_revision(db, stroke.pen_id, stroke.draft) if stroke.draft else stroke.revision
    layer = stroke.layer if stroke.layer in {each.id for each in sheet.layers} else sheet.layer
    db.execute(
        "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at, layer) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (stroke.id, sheet_id, place, stroke.pen_id, revision, blob, now(), None if layer == FIRST else layer),
    )
    return StrokeAnswer(stroke.id, "kept")


def stroke_index(db: sqlite3.Connection, sheet_id: str) -> list[Entry]:
    """Id, pen and revision of the sheet's strokes in the order written, without those in the bin."""
    if not db.execute("SELECT 1 FROM sheets WHERE id = ?", (sheet_id,)).fetchone():
        raise no_sheet(sheet_id)
    cursor = db.cursor()
    cursor.row_factory = None  # plain tuples: of thousands of strokes that is felt
    cursor.execute(
        "SELECT id, pen_id, revision FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place, rowid",
        (sheet_id,),
    )
    return cursor.fetchall()


def index_of(db: sqlite3.Connection, sheet_id: str, ids: Sequence[str]) -> list[Entry]:
    """The same of these strokes of a sheet, in the bin or not. Raises NotFound when one of them is not on the sheet."""
    there: dict[str, Entry] = {}
    for start in range(0, len(ids), 500):
        some = ids[start : start + 500]
        marks = ",".join("?" * len(some))
        query = f"SELECT id, pen_id, revision FROM strokes WHERE sheet_id = ? AND id IN ({marks})"
        there |= {r["id"]: (r["id"], r["pen_id"], r["revision"]) for r in db.execute(query, (sheet_id, *some))}
    missing = next((i for i in ids if i not in there), None)
    if missing is not None:
        raise NotFound(f"There is no stroke {missing!r} on this sheet.", "ids")
    return [there[i] for i in dict.fromkeys(ids)]


def binned_of(db: sqlite3.Connection, ids: Sequence[str]) -> set[str]:
    """Those of these strokes that lie in the bin."""
    found: set[str] = set()
    for start in range(0, len(ids), 500):
        some = ids[start : start + 500]
        query = f"SELECT id FROM strokes WHERE binned_at IS NOT NULL AND id IN ({','.join('?' * len(some))})"
        found |= {r["id"] for r in db.execute(query, some)}
    return found


def load_traces(db: sqlite3.Connection, ids: Sequence[str]) -> dict[str, Trace]:
    """What the hand did, by stroke id, binned ones too; of a stroke that shows another's trace, that one's."""
    found: dict[str, Trace] = {}
    for start in range(0, len(ids), 500):
        some = ids[start : start + 500]
        rows = db.execute(
            "SELECT s.id, coalesce(o.trace, s.trace) AS trace FROM strokes s LEFT JOIN strokes o ON o.id = s.trace_of "
            f"WHERE s.id IN ({','.join('?' * len(some))})",
            some,
        )
        found |= {r["id"]: unpack_trace(r["trace"]) for r in rows}
    return found


def list_strokes(db: sqlite3.Connection, sheet_id: str) -> list[Stroke]:
    """The sheet's strokes in the order written, without those in the bin."""
    index = stroke_index(db, sheet_id)
    traces = load_traces(db, [i for i, _, _ in index])
    return [Stroke(i, pen_id, revision, traces[i]) for i, pen_id, revision in index]


@dataclasses.dataclass(frozen=True)
class InkOf:
    """Strokes of a sheet and the pen revision that draws them. ids: None for all of that pen's on the sheet."""

    pen_id: str
    revision: int
    ids: list[str] | None = None


def ink_again(db: sqlite3.Connection, sheet_id: str, inks: Sequence[InkOf]) -> list[InkOf]:
    """Draw strokes with other pen revisions; their traces stay as they are. Returns what drew those that change before,
    which puts them back. Raises NotFound for a revision or a stroke that is not there; then nothing changes.
    """
    with transaction(db):
        was: dict[tuple[str, int], list[str]] = {}
        for ink in inks:
            get_pen(db, ink.pen_id, ink.revision)
            there = stroke_index(db, sheet_id)
            chosen = index_of(db, sheet_id, ink.ids) if ink.ids else [e for e in there if e[1] == ink.pen_id]
            changing = [e for e in chosen if e[1:] != (ink.pen_id, ink.revision)]
            for stroke_id, pen_id, revision in changing:
                was.setdefault((pen_id, revision), []).append(stroke_id)
            db.executemany(
                "UPDATE strokes SET pen_id = ?, revision = ? WHERE id = ?",
                [(ink.pen_id, ink.revision, e[0]) for e in changing],
            )
        if was:
            count_ink_change(db, sheet_id)
        return [InkOf(pen_id, revision, ids) for (pen_id, revision), ids in was.items()]


def bin_strokes(db: sqlite3.Connection, sheet_id: str, ids: Iterable[str], binned: bool) -> None:
    """Move strokes to the bin or back. Unknown ids are refused and nothing moves."""
    with transaction(db):
        wanted = index_of(db, sheet_id, list(ids))
        db.executemany(
            "UPDATE strokes SET binned_at = ? WHERE id = ?", [(now() if binned else None, e[0]) for e in wanted]
        )
        count_ink_change(db, sheet_id)
