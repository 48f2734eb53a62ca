"""Strokes that show another one's trace: how they are kept, and putting some in the place of others."""

import dataclasses
import json
import sqlite3
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from gray_quill.core.errors import Binned, Conflict, NotFound
from gray_quill.core.ink.area import Fill
from gray_quill.core.ink.clean_figure import CleanFigure
from gray_quill.core.ink.placement import IDENTITY, Placement, after
from gray_quill.core.ink.stroke_edits import UNEDITED, Rub, StrokeEdits
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept
from gray_quill.store.sheets import count_ink_change, get_sheet
from gray_quill.store.strokes import Entry, binned_of, index_of

VERSION = 1


@dataclasses.dataclass(frozen=True)
class Fresh:
    """A stroke to be laid: id; of: the stroke whose trace, pen and place in the order it has."""

    id: str
    of: str
    edits: StrokeEdits


def written_stroke_edits(edits: StrokeEdits) -> str:
    """A showing as text to keep."""
    rubs = [{"way_mm": rub.path_mm, "radius_mm": rub.radius_mm} for rub in edits.rubs]
    figure = edits.figure and dataclasses.asdict(edits.figure)
    how = {"figure": figure, "placement": edits.placement, "wider": edits.wider, "span": edits.span, "rubs": rubs}
    if edits.fill:
        how["fill"] = dataclasses.asdict(edits.fill)
    return json.dumps({"version": VERSION, **how})


def read_stroke_edits(text: str | None) -> StrokeEdits:
    """The showing a kept text holds; what it lacks is as written."""
    if text is None:
        return UNEDITED
    data = json.loads(text)
    span, figure = data.get("span"), data.get("figure")
    return StrokeEdits(
        figure=_figure(figure) if figure else None,
        placement=_placement(data.get("placement", IDENTITY)),
        wider=bool(data.get("wider", True)),
        span=(float(span[0]), float(span[1])) if span else None,
        fill=read_kept(Fill, data["fill"]) if data.get("fill") else None,
        rubs=tuple(Rub(_places(rub["way_mm"]), float(rub["radius_mm"])) for rub in data.get("rubs", ())),
    )


def _figure(data: Mapping[str, Any]) -> CleanFigure:
    return CleanFigure(str(data["kind"]), _places(data["ring_mm"]), float(data.get("off", 0)))


def _places(values: Sequence[Sequence[float]]) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in values)


def _placement(values: Sequence[float]) -> Placement:
    """What was kept before ink could be pulled by a corner has two numbers less."""
    a, b, c, d, e, f, g, h = map(float, (*values, *IDENTITY[len(values) :]))
    return a, b, c, d, e, f, g, h


def stroke_edits_of(db: sqlite3.Connection, ids: Sequence[str]) -> dict[str, StrokeEdits]:
    """How strokes show, those that are not simply as written."""
    found: dict[str, StrokeEdits] = {}
    for start in range(0, len(ids), 500):
        some = ids[start : start + 500]
        marks = ",".join("?" * len(some))
        rows = db.execute(f"SELECT id, showing FROM strokes WHERE showing IS NOT NULL AND id IN ({marks})", some)
        found |= {r["id"]: read_stroke_edits(r["showing"]) for r in rows}
    return found


def there(db: sqlite3.Connection, sheet_id: str, ids: Iterable[str], binned_too: bool = False) -> list[Entry]:
    """These strokes of a sheet; binned_too: also those in its bin, whose ink may be laid again. Raises Conflict when
    one of them is not there any more.
    """
    wanted = list(dict.fromkeys(ids))
    try:
        found = index_of(db, sheet_id, wanted)
        if not binned_too:
            binned = binned_of(db, wanted)
            found = [entry for entry in found if entry[0] not in binned]
    except NotFound:
        get_sheet(db, sheet_id)
        found = []
    if len(found) < len(wanted):
        raise Conflict("Some of this ink was changed elsewhere meanwhile. Look at it, then do it again.", "ids")
    return found


def put_in_place(
    db: sqlite3.Connection, sheet_id: str, away: Iterable[str], fresh: Sequence[Fresh], to_sheet: str | None = None
) -> None:
    """Move strokes to the bin and lay others, on the same sheet or another, in one change. Raises Conflict when one of
    those that go is not on the sheet any more; then nothing changes.
    """
    goal = to_sheet or sheet_id
    with transaction(db):
        going = list(dict.fromkeys(away))
        there(db, sheet_id, going)
        there(db, sheet_id, [f.of for f in fresh], not going)
        last = db.execute("SELECT coalesce(max(place), -1) + 1 FROM strokes WHERE sheet_id = ?", (goal,)).fetchone()[0]
        if get_sheet(db, goal).binned:
            raise Binned(f"The sheet {goal!r} is in the bin. Put it back, or choose another.", "to_sheet")
        for k, stroke in enumerate(fresh):
            db.execute(
                "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at, trace_of, showing, "
                "layer, locked, grouped) SELECT ?, ?, iif(sheet_id = ?, place, ?), pen_id, revision, X'', ?, "
                "coalesce(trace_of, id), ?, iif(sheet_id = ?, layer, NULL), locked, grouped FROM strokes WHERE id = ?",
                (stroke.id, goal, goal, last + k, now(), written_stroke_edits(stroke.edits), goal, stroke.of),
            )
        db.executemany("UPDATE strokes SET binned_at = ? WHERE id = ?", [(now(), i) for i in going])
        for changed in {sheet_id, goal}:
            count_ink_change(db, changed)


def place_strokes(db: sqlite3.Connection, sheet_id: str, placements: Mapping[str, Placement]) -> None:
    """Place strokes of a sheet further than they are; what the hand did stays as it is."""
    with transaction(db):
        shown = stroke_edits_of(db, list(placements))
        texts = []
        for stroke_id, placement in placements.items():
            how = shown.get(stroke_id, UNEDITED)
            moved = dataclasses.replace(how, placement=after(how.placement or IDENTITY, placement))
            texts.append((written_stroke_edits(moved), stroke_id, sheet_id))
        db.executemany("UPDATE strokes SET showing = ? WHERE id = ? AND sheet_id = ?", texts)


def swap_strokes(db: sqlite3.Connection, sheet_id: str, away: Iterable[str], back: Iterable[str]) -> None:
    """Move strokes of a sheet to the bin and others out of it, in one change. Unknown ids are refused and nothing
    moves.
    """
    with transaction(db):
        moves: list[tuple[str | None, str]] = [(now(), e[0]) for e in index_of(db, sheet_id, list(away))]
        moves += [(None, e[0]) for e in index_of(db, sheet_id, list(back))]
        db.executemany("UPDATE strokes SET binned_at = ? WHERE id = ?", moves)
        count_ink_change(db, sheet_id)
