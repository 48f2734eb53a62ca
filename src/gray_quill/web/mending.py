"""Mending a sheet: rubbing out, placing ink anew, and taking either back. Traces are never altered."""

import dataclasses
from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.errors import InputError
from gray_quill.core.ink.figures import CleanFigure, fit_figure
from gray_quill.core.ink.met import strokes_ringed
from gray_quill.core.ink.rubbing import rubbed, sweep_of, touched
from gray_quill.core.ink.scribble import is_scribble, scribbled
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.showing import AS_WRITTEN, Placement, Showing, after, check_placement, is_even, placed
from gray_quill.store.database import transaction
from gray_quill.store.layers import check_free, on_layer, reachable
from gray_quill.store.sheets import Sheet, get_sheet, index_of, load_traces, stroke_index
from gray_quill.store.showings import Fresh, put_in_place, showings_of, swap_strokes
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import Box, FillIn, Id
from gray_quill.web.replies import new_id
from gray_quill.web.strokes import InkChanged, Mm, StrokeMet, Way, box_of, stroke_met
from gray_quill.web.time_budget import in_time

mending = Blueprint("mending", __name__)
Ids = Annotated[list[Id], Field(max_length=20_000)]
Entry = tuple[str, str, int]


class RubWay(Way):
    """takes: only what it goes over, the strokes it touches, or those a ring holds; of, layers, locked_too: what it may
    touch.
    """

    radius_mm: float = Field(ge=0.05, le=60)
    takes: Literal["rubbed", "strokes", "ringed"] = "rubbed"
    of: Literal["ink", "washes", "both"] = "both"
    layers: Literal["all", "this"] = "all"
    locked_too: bool = False


class Rubbed(Model):
    """away: the strokes that went; back: what is left of them. Swapping the two takes it back."""

    away: list[str]
    back: list[str]
    box_mm: Box | None
    sheet: Sheet


class PlaceInk(Model):
    """placement: (a, b, c, d, e, f), a place (x, y) of the page goes to (a x + c y + e, b x + d y + f). wider: widths
    grow with the ink. copy_ink: the ink stays where it is too. to_sheet: it goes onto another sheet.
    """

    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]
    placement: tuple[float, float, float, float, Mm, Mm]
    wider: bool = True
    copy_ink: bool = False
    to_sheet: Id | None = None


class Placed(Rubbed):
    """strokes: the ink where it lies now."""

    strokes: list[StrokeMet]


class FigureMeant(Model):
    figure: CleanFigure | None


class FillInk(Model):
    """fill: for the inside of these strokes; None takes theirs away."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=2000)]
    fill: FillIn | None = None


class SwapInk(Model):
    """away: strokes that go to the bin; back: strokes that come out of it."""

    away: Ids
    back: Ids


@operation(mending, "POST", "/sheets/<sheet_id>/rub", Rubbed, body=RubWay, costly=True)
def rub_out(sheet_id: str, body: RubWay) -> Rubbed:
    """Rub out along a way: whole strokes, those in a ring, or exactly what an eraser of this size goes over."""
    way = np.array(body.way, float)
    sweep = sweep_of(way, body.radius_mm)
    with transaction(db()):
        sheet = get_sheet(db(), sheet_id)
        index = reachable(db(), sheet, stroke_index(db(), sheet_id), body.locked_too)
        if body.layers == "this":
            index = on_layer(db(), sheet, index)
        pairs = memory().strokes(db(), index, sheet.paper)
        may = [
            k for k, (_, ink) in enumerate(pairs) if body.of == "both" or ink.recipe.is_wash == (body.of == "washes")
        ]
        inks = [pairs[k][1] for k in may]
        ringed = body.takes == "ringed"
        met = [may[k] for k in (strokes_ringed(inks, way, in_time) if ringed else touched(inks, sweep, in_time))]
        was = [index[k] for k in met]
        if not was:
            return Rubbed(away=[], back=[], box_mm=None, sheet=sheet)
        fresh: list[Fresh] = []
        if body.takes == "rubbed":
            showings, stem = showings_of(db(), [e[0] for e in was]), new_id("rub")
            for k in met:
                in_time()
                left = rubbed(pairs[k][1], showings.get(index[k][0], AS_WRITTEN), sweep)
                fresh += [Fresh(f"{stem}-{len(fresh) + i}", index[k][0], how) for i, how in enumerate(left)]
        put_in_place(db(), sheet_id, [e[0] for e in was], fresh)
    return Rubbed(
        away=[e[0] for e in was],
        back=[f.id for f in fresh],
        box_mm=box_of(sheet_id, was),
        sheet=get_sheet(db(), sheet_id),
    )


@operation(mending, "POST", "/sheets/<sheet_id>/strokes/place", Placed, body=PlaceInk, costly=True)
def place_ink(sheet_id: str, body: PlaceInk) -> Placed:
    """Move, scale, turn, flip or copy ink, on this sheet or onto another."""
    check_placement(body.placement)
    goal = body.to_sheet or sheet_id
    with transaction(db()):
        sheet, there = get_sheet(db(), goal), {e[0]: e for e in stroke_index(db(), sheet_id)}
        check_free(db(), get_sheet(db(), sheet_id), body.ids)
        was = [there[i] for i in dict.fromkeys(body.ids) if i in there]
        if was:
            pairs = memory().strokes(db(), was, get_sheet(db(), sheet_id).paper)
            _stays_on(sheet, [ink for _, ink in pairs], body.placement)
        showings, stem = showings_of(db(), body.ids), new_id("placed")
        fresh = []
        for k, stroke_id in enumerate(dict.fromkeys(body.ids)):
            how = showings.get(stroke_id, AS_WRITTEN)
            wider = body.wider if how == AS_WRITTEN else how.wider and body.wider
            placement = after(how.placement, body.placement)
            check_placement(placement)
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
        was, showings, stem = index_of(db(), sheet_id, body.ids), showings_of(db(), body.ids), new_id("filled")
        fresh = [
            Fresh(f"{stem}-{k}", e[0], dataclasses.replace(showings.get(e[0], AS_WRITTEN), fill=body.fill))
            for k, e in enumerate(was)
        ]
        put_in_place(db(), sheet_id, [e[0] for e in was], fresh)
        now = index_of(db(), sheet_id, [f.id for f in fresh])
        inks = [ink for _, ink in memory().strokes(db(), now, sheet.paper)]
    return Placed(
        away=[e[0] for e in was],
        back=[e[0] for e in now],
        box_mm=_around([box_of(sheet_id, was), box_of(sheet_id, now)]),
        sheet=get_sheet(db(), sheet_id),
        strokes=[stroke_met(e[0], ink) for e, ink in zip(now, inks, strict=True)],
    )


@operation(mending, "POST", "/figure", FigureMeant, body=Way)
def find_figure(body: Way) -> FigureMeant:
    """The line, circle, ellipse, triangle or rectangle a way means; none where it means none."""
    way = np.array(body.way, float)
    return FigureMeant(figure=fit_figure(way[:, 0], way[:, 1]))


@operation(mending, "POST", "/sheets/<sheet_id>/strokes/<stroke_id>/figure", Rubbed)
def tidy_stroke(sheet_id: str, stroke_id: str) -> Rubbed:
    """Make a stroke the clean figure it means; its trace stays. One that means none stays as drawn."""
    with transaction(db()):
        was = index_of(db(), sheet_id, [stroke_id])
        trace = load_traces(db(), [stroke_id])[stroke_id]
        figure = None if showings_of(db(), [stroke_id]) else fit_figure(trace.x_mm, trace.y_mm)
        if figure is None:
            return Rubbed(away=[], back=[], box_mm=None, sheet=get_sheet(db(), sheet_id))
        fresh = Fresh(new_id("figure"), stroke_id, Showing(figure=figure))
        put_in_place(db(), sheet_id, [stroke_id], [fresh])
        box = box_of(sheet_id, [*was, *index_of(db(), sheet_id, [fresh.id])])
    return Rubbed(away=[stroke_id], back=[fresh.id], box_mm=box, sheet=get_sheet(db(), sheet_id))


@operation(mending, "POST", "/sheets/<sheet_id>/strokes/<stroke_id>/scribble", Rubbed, costly=True)
def scribble_out(sheet_id: str, stroke_id: str) -> Rubbed:
    """Where a stroke is a scribble over ink, both go; any other stroke stays, and nothing changes."""
    with transaction(db()):
        sheet = get_sheet(db(), sheet_id)
        was = index_of(db(), sheet_id, [stroke_id])
        trace = load_traces(db(), [stroke_id])[stroke_id]
        nothing = Rubbed(away=[], back=[], box_mm=None, sheet=sheet)
        if not is_scribble(trace.x_mm, trace.y_mm):
            return nothing
        index = [e for e in reachable(db(), sheet, stroke_index(db(), sheet_id)) if e[0] != stroke_id]
        inks = [ink for _, ink in memory().strokes(db(), index, sheet.paper)]
        was += [index[k] for k in scribbled(inks, trace.x_mm, trace.y_mm)]
        if len(was) == 1:
            return nothing
        put_in_place(db(), sheet_id, [e[0] for e in was], [])
    away = [e[0] for e in was]
    return Rubbed(away=away, back=[], box_mm=box_of(sheet_id, was), sheet=get_sheet(db(), sheet_id))


@operation(mending, "PUT", "/sheets/<sheet_id>/strokes/swap", InkChanged, body=SwapInk)
def swap_ink(sheet_id: str, body: SwapInk) -> InkChanged:
    """Move strokes to the bin and others out of it, for undo and redo."""
    if not body.away and not body.back:
        raise InputError("Name the strokes that go or come back.", "away")
    swap_strokes(db(), sheet_id, body.away, body.back)
    box = box_of(sheet_id, index_of(db(), sheet_id, [*body.away, *body.back]))
    return InkChanged(box_mm=box, sheet=get_sheet(db(), sheet_id))


def _stays_on(sheet: Sheet, inks: Sequence[Ink], placement: Placement) -> None:
    """Raises InputError where nothing of the ink would be seen on the sheet."""
    left, top, right, bottom = _around([ink.box_mm for ink in inks])
    x, y = placed(np.array([left, right, left, right]), np.array([top, top, bottom, bottom]), placement)
    if x.max() < 0 or y.max() < 0 or x.min() > sheet.paper.width_mm or y.min() > sheet.paper.height_mm:
        raise InputError("Nothing of this ink would lie on the sheet. Put it nearer.", "placement")


def _around(boxes: Sequence[Box]) -> Box:
    """The smallest box around these."""
    left, top = (min(b[k] for b in boxes) for k in (0, 1))
    right, bottom = (max(b[k] for b in boxes) for k in (2, 3))
    return left, top, right, bottom
