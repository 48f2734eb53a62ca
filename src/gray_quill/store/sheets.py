"""Sheets, page by page, and the strokes on them."""

import dataclasses
import json
import sqlite3
from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Literal, TypeVar

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.errors import Binned, Conflict, GrayQuillError, NotFound, Stale
from gray_quill.core.ink.cover import Cover
from gray_quill.core.ink.layer import FIRST, Layer
from gray_quill.core.ink.printed import Print
from gray_quill.core.paper import Paper, describe_paper, grown
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import Trace
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written
from gray_quill.store.pens import get_pen, written_revision
from gray_quill.store.trace_blob import pack_trace, unpack_trace

Reach = Literal["page", "on", "all"]
T = TypeVar("T")
Entry = tuple[str, str, int]  # of a stroke: its id, its pen and that pen's revision


@dataclasses.dataclass(frozen=True)
class Sheet:
    """A page of a sheet as kept, which most often is its only one; strokes: how many lie on it; paper_words: its paper
    in the sentence's words; paper_is_dark: light ink reads better on it; version: counts its changes; ink: counts the
    changes of its ink; layers: from below; layer: the one that is written on; piece: it is no sheet of its own but ink
    kept for reuse. sheaf: what its pages have in common, "" as it is added for one of its own; page: which it is, from
    1; pages: how many there are; bookmark: in words, "" for none; prints: pictures and documents under its ink, the
    lowest first; covers: what covers its ink until it is lifted.
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
    condition = "WHERE (binned_at IS NOT NULL) = ? AND piece = ? ORDER BY created_at DESC, id"
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


def count_ink_change(db: sqlite3.Connection, sheet_id: str) -> None:
    """Count a change of a sheet's ink, inside the caller's transaction."""
    db.execute("UPDATE sheets SET ink = ink + 1 WHERE id = ?", (sheet_id,))


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
