"""Pieces: ink kept for reuse, and a set to start with."""

import dataclasses
from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.errors import NotFound
from gray_quill.core.hand.pieces import PIECES, piece_traces
from gray_quill.core.ink.placement import IDENTITY, after
from gray_quill.core.ink.stroke_edits import UNEDITED
from gray_quill.core.paper import LARGEST_MM, SMALLEST_MM, Paper
from gray_quill.store.database import transaction
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import Sheet, add_sheet, get_sheet, list_sheets
from gray_quill.store.stroke_edits import Fresh, put_in_place, stroke_edits_of
from gray_quill.store.strokes import Stroke, index_of
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import Id, Name, RecipeIn
from gray_quill.web.replies import new_id
from gray_quill.web.strokes import Mm, StrokesKept, box_of, keep_all

pieces = Blueprint("pieces", __name__)
EDGE_MM = 2.0  # of paper round a piece that is kept


@dataclasses.dataclass(frozen=True)
class Starter:
    """A piece to start with; ways: what the pen does, mm about its middle."""

    name: str
    ways: list[list[tuple[float, float]]]


class Pieces(Model):
    """own: small sheets, each with the ink of one."""

    starters: list[Starter]
    own: list[Sheet]


class PutStarter(Model):
    """x_mm, y_mm: where its middle goes; draft: what the sheet's pen is, where it writes with changes not kept."""

    name: str = Field(max_length=40)
    x_mm: Mm
    y_mm: Mm
    scale: float = Field(1.0, ge=0.1, le=10)
    draft: RecipeIn | None = None


class KeepPiece(Model):
    name: Name
    sheet_id: Id
    ids: Annotated[list[Id], Field(min_length=1, max_length=2000)]


@operation(pieces, "GET", "/pieces", Pieces)
def read_pieces() -> Pieces:
    """All pieces there are."""
    starters = [
        Starter(p.name, [[(round(float(x), 2), round(float(y), 2)) for x, y in way] for way in p.ways])
        for p in PIECES.values()
    ]
    return Pieces(starters=starters, own=list_sheets(db(), pieces=True))


@operation(pieces, "POST", "/sheets/<sheet_id>/pieces", StrokesKept, body=PutStarter, costly=True)
def put_starter(sheet_id: str, body: PutStarter) -> StrokesKept:
    """Draw a piece of the starting set on a sheet, with its pen."""
    if body.name not in PIECES:
        raise NotFound(f"There is no piece {body.name!r}. There are: {', '.join(PIECES)}.", "name")
    pen = get_pen(db(), get_sheet(db(), sheet_id).pen_id)
    traces = piece_traces(PIECES[body.name], body.x_mm, body.y_mm, body.scale)
    stem = new_id("piece")
    return keep_all(
        sheet_id, [Stroke(f"{stem}-{k}", pen.id, pen.revision, t, body.draft) for k, t in enumerate(traces)]
    )


@operation(pieces, "POST", "/pieces", Sheet, body=KeepPiece, status=201, costly=True)
def keep_piece(body: KeepPiece) -> Sheet:
    """Keep ink of a sheet as a piece, on small paper of its own; the sheet stays as it is."""
    with transaction(db()):
        sheet, was = get_sheet(db(), body.sheet_id), index_of(db(), body.sheet_id, body.ids)
        left, top, right, bottom = box_of(body.sheet_id, was)
        sides = [min(LARGEST_MM, max(SMALLEST_MM, s + 2 * EDGE_MM)) for s in (right - left, bottom - top)]
        paper = Paper(sides[0], sides[1], "blank", colour=sheet.paper.colour)
        kept = Sheet(new_id("kept"), body.name, "free", paper, sheet.hand_id, sheet.device_id, sheet.pen_id, "", False)
        add_sheet(db(), dataclasses.replace(kept, piece=True))
        across, down = (sides[0] - left - right) / 2, (sides[1] - top - bottom) / 2
        aside = (1.0, 0.0, 0.0, 1.0, across, down, 0.0, 0.0)
        edits_by_id = stroke_edits_of(db(), body.ids)
        fresh = []
        for k, (stroke_id, _, _) in enumerate(was):
            how = edits_by_id.get(stroke_id, UNEDITED)
            placement = after(how.placement or IDENTITY, aside)
            fresh.append(Fresh(f"{kept.id}-{k}", stroke_id, dataclasses.replace(how, placement=placement)))
        put_in_place(db(), body.sheet_id, [], fresh, kept.id)
        memory().strokes(db(), index_of(db(), kept.id, [f.id for f in fresh]), paper)
    return get_sheet(db(), kept.id)
