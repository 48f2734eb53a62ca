"""Rubbing out: along a way, by a scribble, or all there is. What went comes back by swapping."""

import dataclasses
from typing import Literal

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.ink.eraser import fills_met, rubbed, sweep_of, touched
from gray_quill.core.ink.hit_test import strokes_ringed
from gray_quill.core.ink.scribble import is_scribble, scribbled
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import UNEDITED, StrokeEdits
from gray_quill.store.database import transaction
from gray_quill.store.layers import on_layer, reachable
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.stroke_edits import Fresh, put_in_place, stroke_edits_of
from gray_quill.store.strokes import index_of, load_traces, stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import Box
from gray_quill.web.replies import new_id
from gray_quill.web.strokes import Way, box_of
from gray_quill.web.time_budget import in_time

rubbing = Blueprint("rubbing", __name__)
Rubbable = Literal["ink", "washes", "figures", "fills"]
ALL_KINDS: tuple[Rubbable, ...] = ("ink", "washes", "figures", "fills")


class WhatRubs(Model):
    """takes: only what it goes over, the strokes it touches, or those a ring holds; of, layers, locked_too: what it may
    touch. A fill goes as a whole, and its stroke stays.
    """

    takes: Literal["rubbed", "strokes", "ringed"] = "rubbed"
    of: list[Rubbable] = Field(list(ALL_KINDS), min_length=1, max_length=4)
    layers: Literal["all", "this"] = "all"
    locked_too: bool = False


class Eraser(WhatRubs):
    """One that is kept on the roll. as_seen: so large on the screen, not on the page."""

    size_mm: float = Field(ge=0.1, le=120)
    as_seen: bool = False


class RubWay(Way, WhatRubs):
    radius_mm: float = Field(ge=0.05, le=60)


class Rubbed(Model):
    """away: the strokes that went; back: what is left of them. Swapping the two takes it back."""

    away: list[str]
    back: list[str]
    box_mm: Box | None
    sheet: Sheet


class ClearPage(Model):
    """layers: the one that is written on, or all; locked_too: also what is locked."""

    layers: Literal["all", "this"] = "all"
    locked_too: bool = False


@operation(rubbing, "POST", "/sheets/<sheet_id>/rub", Rubbed, body=RubWay, costly=True)
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
        inks, ringed = [ink for _, ink in pairs], body.takes == "ringed"
        near = strokes_ringed(inks, way, in_time) if ringed else touched(inks, sweep, in_time)
        emptied = set(near if ringed else fills_met(inks, sweep)) if "fills" in body.of else set()
        emptied = {k for k in emptied if inks[k].fill is not None}
        edits_by_id = stroke_edits_of(db(), [index[k][0] for k in {*near, *emptied}])
        cut = [k for k in near if _kind(inks[k], edits_by_id.get(index[k][0], UNEDITED)) in body.of]
        met = [*cut, *sorted(emptied - set(cut))]
        was = [index[k] for k in met]
        if not was:
            return Rubbed(away=[], back=[], box_mm=None, sheet=sheet)
        fresh, stem = list[Fresh](), new_id("rub")
        for k in met:
            in_time()
            how, left = edits_by_id.get(index[k][0], UNEDITED), list[StrokeEdits]()
            if k not in cut:
                left = [dataclasses.replace(how, fill=None)]
            elif body.takes == "rubbed":
                left = rubbed(inks[k], how, sweep)
            fresh += [Fresh(f"{stem}-{len(fresh) + i}", index[k][0], each) for i, each in enumerate(left)]
        put_in_place(db(), sheet_id, [e[0] for e in was], fresh)
    return Rubbed(
        away=[e[0] for e in was],
        back=[f.id for f in fresh],
        box_mm=box_of(sheet_id, was),
        sheet=get_sheet(db(), sheet_id),
    )


def _kind(ink: Ink, edits: StrokeEdits) -> Rubbable:
    if edits.figure:
        return "figures"
    return "washes" if ink.recipe.is_wash else "ink"


@operation(rubbing, "POST", "/sheets/<sheet_id>/clear", Rubbed, body=ClearPage)
def clear_page(sheet_id: str, body: ClearPage) -> Rubbed:
    """Rub out all ink of the page or of the layer that is written on; what is hidden or locked stays."""
    with transaction(db()):
        sheet = get_sheet(db(), sheet_id)
        was = reachable(db(), sheet, stroke_index(db(), sheet_id), body.locked_too)
        if body.layers == "this":
            was = on_layer(db(), sheet, was)
        if not was:
            return Rubbed(away=[], back=[], box_mm=None, sheet=sheet)
        put_in_place(db(), sheet_id, [e[0] for e in was], [])
    return Rubbed(away=[e[0] for e in was], back=[], box_mm=box_of(sheet_id, was), sheet=get_sheet(db(), sheet_id))


@operation(rubbing, "POST", "/sheets/<sheet_id>/strokes/<stroke_id>/scribble", Rubbed, costly=True)
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
