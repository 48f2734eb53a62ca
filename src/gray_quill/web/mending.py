"""Mending a sheet: ink placed, filled or made clean, and taking that back. Traces are never altered."""

import dataclasses
from collections.abc import Mapping, Sequence
from typing import Annotated

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.ink.clean_figure import CleanFigure, anchor_of, corners_of, placed_figure, with_corner
from gray_quill.core.ink.figures import fit_figure
from gray_quill.core.ink.placement import IDENTITY, Placement, after, check_placement, inverse, is_even, placed
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import UNEDITED, StrokeEdits
from gray_quill.store.database import transaction
from gray_quill.store.layers import check_free
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.stroke_edits import Fresh, put_in_place, stroke_edits_of, swap_strokes, there
from gray_quill.store.strokes import index_of, load_traces
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.eraser import Rubbed
from gray_quill.web.records import Box, FillIn, Id
from gray_quill.web.replies import new_id
from gray_quill.web.strokes import InkChanged, Mm, StrokeMet, Way, box_of, stroke_met

mending = Blueprint("mending", __name__)
Ids = Annotated[list[Id], Field(max_length=20_000)]


PlacementIn = tuple[float, float, float, float, Mm, Mm, float, float]


class PlaceInk(Model):
    """placement: (a, b, c, d, e, f, g, h), a place (x, y) of the page goes to (a x + c y + e) / w, (b x + d y + f) / w
    with w = g x + h y + 1. wider: widths grow with the ink. copy_ink: the ink stays where it is too; it may then be in
    the bin. to_sheet: it goes onto another sheet.
    """

    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]
    placement: PlacementIn
    wider: bool = True
    copy_ink: bool = False
    to_sheet: Id | None = None


class Placed(Rubbed):
    """strokes: the ink where it lies now."""

    strokes: list[StrokeMet]


class FigureMeant(Model):
    """anchor_mm: what stays where it is while the figure is sized and turned."""

    figure: CleanFigure | None
    anchor_mm: tuple[float, float] | None = None


class TidyInk(Model):
    """placement: how the figure was sized and turned before the pen lifted."""

    placement: PlacementIn = IDENTITY


class FigureOfInk(Model):
    """kind and corners, on the page, of the figure a stroke was made; nothing for ink that is none."""

    kind: str | None
    corners_mm: list[tuple[float, float]]


class ChangeCorner(Model):
    """which: of the corners told, counted from 0; to_mm: where it shall be on the page."""

    which: Annotated[int, Field(ge=0, le=100)]
    to_mm: tuple[Mm, Mm]


class FillInk(Model):
    """fill: for the inside of these strokes; None takes theirs away."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=2000)]
    fill: FillIn | None = None


class SwapInk(Model):
    """away: strokes that go to the bin; back: strokes that come out of it."""

    away: Ids
    back: Ids


@operation(mending, "POST", "/sheets/<sheet_id>/strokes/place", Placed, body=PlaceInk, costly=True)
def place_ink(sheet_id: str, body: PlaceInk) -> Placed:
    """Move, scale, turn, flip or copy ink, on this sheet or onto another."""
    goal = body.to_sheet or sheet_id
    with transaction(db()):
        sheet = get_sheet(db(), goal)
        check_free(db(), get_sheet(db(), sheet_id), body.ids)
        was = there(db(), sheet_id, body.ids, body.copy_ink)
        inks = [ink for _, ink in memory().strokes(db(), was, get_sheet(db(), sheet_id).paper)]
        corners = _corners(inks)
        check_placement(body.placement, *corners)
        _stays_on(sheet, *placed(*corners, body.placement))
        edits_by_id, stem = stroke_edits_of(db(), body.ids), new_id("placed")
        composed: dict[Placement, Placement] = {}
        fresh = []
        for k, stroke_id in enumerate(dict.fromkeys(body.ids)):
            how = edits_by_id.get(stroke_id, UNEDITED)
            wider = body.wider if how == UNEDITED else how.wider and body.wider
            if how.placement not in composed:  # most strokes lie as they were written
                placement = composed[how.placement] = after(how.placement, body.placement)
                check_placement(placement, *placed(*corners, inverse(how.placement)))
            placement = composed[how.placement]
            if how.rubs and not is_even(placement):
                raise InputError("Ink that was rubbed keeps its proportions: scale it the same both ways.", "ids")
            moved = dataclasses.replace(how, placement=placement, wider=wider)
            fresh.append(Fresh(f"{stem}-{k}", stroke_id, moved))
        put_in_place(db(), sheet_id, [] if body.copy_ink else body.ids, fresh, goal)
        now = index_of(db(), goal, [f.id for f in fresh])
        inks = [ink for _, ink in memory().strokes(db(), now, sheet.paper)]
    boxes = [box_of(sheet_id, was), box_of(goal, now)]
    return Placed(
        away=[] if body.copy_ink else [e[0] for e in was],
        back=[e[0] for e in now],
        box_mm=_around(boxes) if goal == sheet_id else boxes[0],
        sheet=get_sheet(db(), sheet_id),
        strokes=[stroke_met(e[0], ink) for e, ink in zip(now, inks, strict=True)],
    )


@operation(mending, "PUT", "/sheets/<sheet_id>/strokes/fill", Placed, body=FillInk, costly=True)
def fill_ink(sheet_id: str, body: FillInk) -> Placed:
    """Fill the inside of strokes, closed from their ends; it goes along when they are moved."""
    with transaction(db()):
        sheet = get_sheet(db(), sheet_id)
        check_free(db(), sheet, body.ids)
        edits_by_id = stroke_edits_of(db(), body.ids)
        changed = {i: dataclasses.replace(edits_by_id.get(i, UNEDITED), fill=body.fill) for i in body.ids}
        return _in_place(sheet, changed, "filled")


def _in_place(sheet: Sheet, changed: Mapping[str, StrokeEdits], stem: str) -> Placed:
    """Show strokes of a sheet otherwise, inside the caller's transaction."""
    was, stem = index_of(db(), sheet.id, list(changed)), new_id(stem)
    fresh = [Fresh(f"{stem}-{k}", i, how) for k, (i, how) in enumerate(changed.items())]
    put_in_place(db(), sheet.id, list(changed), fresh)
    now = index_of(db(), sheet.id, [f.id for f in fresh])
    inks = [ink for _, ink in memory().strokes(db(), now, sheet.paper)]
    return Placed(
        away=list(changed),
        back=[f.id for f in fresh],
        box_mm=_around([box_of(sheet.id, was), box_of(sheet.id, now)]),
        sheet=get_sheet(db(), sheet.id),
        strokes=[stroke_met(e[0], ink) for e, ink in zip(now, inks, strict=True)],
    )


@operation(mending, "POST", "/figure", FigureMeant, body=Way)
def find_figure(body: Way) -> FigureMeant:
    """The line, circle, ellipse, triangle or rectangle a way means; none where it means none."""
    way = np.array(body.way, float)
    figure = fit_figure(way[:, 0], way[:, 1])
    return FigureMeant(figure=figure, anchor_mm=anchor_of(figure) if figure else None)


@operation(mending, "POST", "/sheets/<sheet_id>/strokes/<stroke_id>/figure", Rubbed, body=TidyInk)
def tidy_stroke(sheet_id: str, stroke_id: str, body: TidyInk) -> Rubbed:
    """Make a stroke the clean figure it means, sized and turned; its trace stays. What means none stays as drawn."""
    check_placement(body.placement)
    if not is_even(body.placement):
        raise InputError("A figure is sized the same both ways while it is drawn. Stretch it afterwards.", "placement")
    with transaction(db()):
        was = index_of(db(), sheet_id, [stroke_id])
        trace = load_traces(db(), [stroke_id])[stroke_id]
        figure = None if stroke_edits_of(db(), [stroke_id]) else fit_figure(trace.x_mm, trace.y_mm)
        if figure is None:
            return Rubbed(away=[], back=[], box_mm=None, sheet=get_sheet(db(), sheet_id))
        fresh = Fresh(new_id("figure"), stroke_id, StrokeEdits(figure=placed_figure(figure, body.placement)))
        put_in_place(db(), sheet_id, [stroke_id], [fresh])
        box = box_of(sheet_id, [*was, *index_of(db(), sheet_id, [fresh.id])])
    return Rubbed(away=[stroke_id], back=[fresh.id], box_mm=box, sheet=get_sheet(db(), sheet_id))


@operation(mending, "GET", "/sheets/<sheet_id>/strokes/<stroke_id>/figure", FigureOfInk)
def read_figure(sheet_id: str, stroke_id: str) -> FigureOfInk:
    """The clean figure a stroke was made, with the corners that can be taken elsewhere."""
    index_of(db(), sheet_id, [stroke_id])
    how = stroke_edits_of(db(), [stroke_id]).get(stroke_id, UNEDITED)
    if how.figure is None:
        return FigureOfInk(kind=None, corners_mm=[])
    seen = placed_figure(how.figure, how.placement)
    return FigureOfInk(kind=how.figure.kind, corners_mm=list(corners_of(seen)))


@operation(mending, "PUT", "/sheets/<sheet_id>/strokes/<stroke_id>/figure", Placed, body=ChangeCorner)
def change_corner(sheet_id: str, stroke_id: str, body: ChangeCorner) -> Placed:
    """Take a corner of a clean figure elsewhere; the others stay."""
    with transaction(db()):
        sheet = get_sheet(db(), sheet_id)
        check_free(db(), sheet, [stroke_id])
        how = stroke_edits_of(db(), [stroke_id]).get(stroke_id, UNEDITED)
        if how.figure is None or how.rubs:
            raise InputError("Only a clean figure that was not rubbed has corners to move.", "which")
        x, y = placed(np.array([body.to_mm[0]]), np.array([body.to_mm[1]]), inverse(how.placement))
        changed = with_corner(how.figure, body.which, (float(x[0]), float(y[0])))
        return _in_place(sheet, {stroke_id: dataclasses.replace(how, figure=changed)}, "figure")


@operation(mending, "PUT", "/sheets/<sheet_id>/strokes/swap", InkChanged, body=SwapInk)
def swap_ink(sheet_id: str, body: SwapInk) -> InkChanged:
    """Move strokes to the bin and others out of it, for undo and redo."""
    if not body.away and not body.back:
        raise InputError("Name the strokes that go or come back.", "away")
    swap_strokes(db(), sheet_id, body.away, body.back)
    box = box_of(sheet_id, index_of(db(), sheet_id, [*body.away, *body.back]))
    return InkChanged(box_mm=box, sheet=get_sheet(db(), sheet_id))


def _corners(inks: Sequence[Ink]) -> tuple[Floats, Floats]:
    """x and y of the corners of a box around ink, page mm."""
    left, top, right, bottom = _around([ink.box_mm for ink in inks])
    return np.array([left, right, left, right]), np.array([top, top, bottom, bottom])


def _stays_on(sheet: Sheet, x: Floats, y: Floats) -> None:
    """Raises InputError where nothing between these corners would be seen on the sheet."""
    if x.max() < 0 or y.max() < 0 or x.min() > sheet.paper.width_mm or y.min() > sheet.paper.height_mm:
        raise InputError("Nothing of this ink would lie on the sheet. Put it nearer.", "placement")


def _around(boxes: Sequence[Box]) -> Box:
    """The smallest box around these."""
    left, top = (min(b[k] for b in boxes) for k in (0, 1))
    right, bottom = (max(b[k] for b in boxes) for k in (2, 3))
    return left, top, right, bottom
