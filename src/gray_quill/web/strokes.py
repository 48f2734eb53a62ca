"""Strokes of a sheet: keeping them, binning them, inking them again, choosing them, and the simulated hand's."""

import contextlib
import dataclasses
import logging
from collections.abc import Sequence
from typing import Annotated, Any, Literal

import numpy as np
from flask import Blueprint
from pydantic import Field, StringConstraints, WrapValidator

from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import fill_prompts, write_below
from gray_quill.core.errors import GrayQuillError, NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.area import Fill
from gray_quill.core.ink.cost import check_cost
from gray_quill.core.ink.hit_test import closes, strokes_met, strokes_ringed
from gray_quill.core.ink.settle import Ink
from gray_quill.core.readings.ringed import held_by
from gray_quill.core.readings.words import words
from gray_quill.core.trace import along_path_mm
from gray_quill.store.database import transaction
from gray_quill.store.items import get_thing
from gray_quill.store.layers import held_of, reachable
from gray_quill.store.pens import get_pen, written_revision
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.strokes import (
    InkOf,
    Stroke,
    StrokeAnswer,
    add_strokes,
    bin_strokes,
    index_of,
    ink_again,
    stroke_index,
)
from gray_quill.web.api import Model, operation, parsed
from gray_quill.web.context import db, memory
from gray_quill.web.records import BinChange, Box, Colour, Id, RecipeIn, StrokeColumns
from gray_quill.web.replies import new_id
from gray_quill.web.time_budget import in_time

strokes = Blueprint("strokes", __name__)
MOST_TOLD = 80  # letters of an id that is told back
SHOWN_EVERY_MM = 0.8  # how finely the path of a stroke is told, to be marked on the page
Mm = Annotated[float, Field(ge=-10_000, le=10_000)]


class NewStroke(StrokeColumns):
    """revision: the pen's revision that wrote it; draft: what the pen was, where it wrote with changes not kept; layer:
    where it was written, the one in use where it is not said or gone.
    """

    id: Id
    pen_id: Id
    revision: int = Field(ge=1, le=1_000_000_000)
    draft: RecipeIn | None = None
    layer: Annotated[str, Field(max_length=60)] | None = None


EachStroke = Annotated[NewStroke, WrapValidator(lambda raw, _: raw)]  # looked at by the handler


class NewStrokes(Model):
    """Each is looked at by itself: one that cannot be kept does not keep the others from it."""

    strokes: Annotated[list[EachStroke], Field(min_length=1, max_length=500)]


class StrokesKept(Model):
    """answers: what became of each stroke, in the order sent; box_mm: the part of the page whose picture changed, None
    where that is nothing or not known; sheet: as it is now.
    """

    answers: list[StrokeAnswer]
    box_mm: Box | None
    sheet: Sheet


class InkChanged(Model):
    """box_mm: the part of the page whose picture changed; sheet: as it is now."""

    box_mm: Box
    sheet: Sheet


class PenOfInk(Model):
    """Strokes of a sheet, and the pen that shall draw them; revision: a kept one, or one that `was` named. draft: what
    the pen is instead, where it writes with changes not kept. ids: all strokes of this pen where none are named.
    """

    pen_id: Id
    revision: int = Field(ge=-1_000_000_000, le=1_000_000_000)
    draft: RecipeIn | None = None
    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)] | None = None

    def ink(self) -> InkOf:
        """Which of the pen's recipes is meant; a draft is noted where it is a new one."""
        revision = written_revision(db(), self.pen_id, self.draft) if self.draft else self.revision
        return InkOf(self.pen_id, revision, self.ids)


class Recolour(Model):
    """Strokes of a sheet, each of its own pen, that shall have this colour."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]
    colour: Colour


class InkAgain(Model):
    inks: Annotated[list[PenOfInk], Field(min_length=1, max_length=200)]


class InkedAgain(Model):
    """was: what drew the strokes that changed, to be sent to put them back; strokes: how many changed."""

    was: list[InkOf]
    strokes: int
    box_mm: Box | None
    sheet: Sheet


class Way(Model):
    """What was touched, crossed or ringed, page mm."""

    way: Annotated[list[tuple[Mm, Mm]], Field(min_length=1, max_length=5000)]


@dataclasses.dataclass(frozen=True)
class StrokeMet:
    """path: where the stroke's ink lies, page mm, thinned out; width_mm: how broad it is at most; fill: what its inside
    is filled with.
    """

    id: str
    path: list[tuple[float, float]]
    width_mm: float
    fill: Fill | None


class StrokesMet(Model):
    strokes: list[StrokeMet]


class LikeThese(Model):
    """ids: strokes whose like are looked for; None for all ink there is. by: what they have in common."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)] | None = None
    by: Literal["pen", "colour", "kind"] = "pen"


class SelectBody(Way):
    """takes: of a ring, the words it holds by the larger part of their ink, what it touches, or only what lies wholly
    inside; words: whole words of what is met; locked_too: also what is locked.
    """

    takes: Literal["held", "touched", "inside"] = "held"
    words: bool = False
    locked_too: bool = False


class StrokesBin(BinChange):
    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]


class WriteText(Model):
    """draft: what the sheet's pen is, where it writes with changes not kept."""

    text: Annotated[str, StringConstraints(max_length=4000)] = ""
    prompts: bool = False
    seed: int = Field(1, ge=0, le=2**31)
    draft: RecipeIn | None = None


@operation(strokes, "POST", "/sheets/<sheet_id>/strokes", StrokesKept, body=NewStrokes)
def keep_strokes(sheet_id: str, body: NewStrokes) -> StrokesKept:
    """Keep strokes; each is answered for itself, and a repeated save of the same ids changes nothing."""
    given: list[Any] = body.strokes
    return keep_all(sheet_id, [_stroke(raw) for raw in given])


def _stroke(raw: Any) -> Stroke | StrokeAnswer:
    """A stroke that was sent, or why it cannot be kept. What would cost too much to draw is refused here."""
    try:
        sent: NewStroke = parsed(NewStroke, raw, "stroke")
        stroke = Stroke(sent.id, sent.pen_id, sent.revision, sent.trace(), sent.draft, sent.layer)
        with contextlib.suppress(NotFound):  # the store says so
            check_cost(stroke.trace, sent.draft or get_pen(db(), stroke.pen_id, stroke.revision).recipe)
        return stroke
    except GrayQuillError as error:
        stroke_id = raw.get("id") if isinstance(raw, dict) else None
        return StrokeAnswer.refusal(str(stroke_id)[:MOST_TOLD], error)


def keep_all(sheet_id: str, strokes: Sequence[Stroke | StrokeAnswer]) -> StrokesKept:
    """Keep what can be kept, each for itself."""
    good = [s for s in strokes if isinstance(s, Stroke)]
    told = iter(add_strokes(db(), sheet_id, good))
    answers = [next(told) if isinstance(s, Stroke) else s for s in strokes]
    there = [a.id for a in answers if a.state != "refused"]
    box = None
    if there:
        try:
            box = box_of(sheet_id, index_of(db(), sheet_id, there))
        except Exception:  # they are kept, and that is what counts: the sender must not take them for refused
            logging.getLogger("gray_quill").exception("where strokes of %s lie is not known", sheet_id)
    return StrokesKept(answers=answers, box_mm=box, sheet=get_sheet(db(), sheet_id))


def box_of(sheet_id: str, index: Sequence[tuple[str, str, int]]) -> Box:
    """The part of the page that strokes cover."""
    boxes = [ink.box_mm for _, ink in memory().strokes(db(), index, get_sheet(db(), sheet_id).paper)]
    left, top = (min(b[k] for b in boxes) for k in (0, 1))
    right, bottom = (max(b[k] for b in boxes) for k in (2, 3))
    return left, top, right, bottom


@operation(strokes, "PUT", "/sheets/<sheet_id>/strokes/bin", InkChanged, body=StrokesBin)
def change_stroke_bin(sheet_id: str, body: StrokesBin) -> InkChanged:
    """Move strokes to the bin or back, for undo and redo."""
    bin_strokes(db(), sheet_id, body.ids, body.binned)
    box = box_of(sheet_id, index_of(db(), sheet_id, body.ids))
    return InkChanged(box_mm=box, sheet=get_sheet(db(), sheet_id))


@operation(strokes, "PUT", "/sheets/<sheet_id>/strokes/pens", InkedAgain, body=InkAgain, costly=True)
def ink_strokes_again(sheet_id: str, body: InkAgain) -> InkedAgain:
    """Ink strokes of the sheet again with other revisions of their pen or other pens; traces stay as they are."""
    with transaction(db()):
        return _inked(sheet_id, [i.ink() for i in body.inks])


@operation(strokes, "PUT", "/sheets/<sheet_id>/strokes/colour", InkedAgain, body=Recolour, costly=True)
def recolour_strokes(sheet_id: str, body: Recolour) -> InkedAgain:
    """Ink strokes again, each in its own pen with another colour; pens themselves stay as they are."""
    with transaction(db()):
        of: dict[tuple[str, int], list[str]] = {}
        for stroke_id, pen_id, revision in index_of(db(), sheet_id, body.ids):
            of.setdefault((pen_id, revision), []).append(stroke_id)
        inks = []
        for (pen_id, revision), ids in of.items():
            recipe = get_pen(db(), pen_id, revision).recipe
            coloured = dataclasses.replace(recipe, body=dataclasses.replace(recipe.body, colour=body.colour))
            inks.append(InkOf(pen_id, written_revision(db(), pen_id, coloured), ids))
        return _inked(sheet_id, inks)


def _inked(sheet_id: str, inks: Sequence[InkOf]) -> InkedAgain:
    """In a transaction that is undone where the new ink would cost too much to draw."""
    was = ink_again(db(), sheet_id, inks)
    ids = [i for ink in was for i in ink.ids or []]
    if not ids:
        return InkedAgain(was=[], strokes=0, box_mm=None, sheet=get_sheet(db(), sheet_id))
    now, sheet = index_of(db(), sheet_id, ids), get_sheet(db(), sheet_id)
    before = [(i, ink.pen_id, ink.revision) for ink in was for i in ink.ids or []]
    pens = {e[1:]: get_pen(db(), *e[1:]).recipe for e in now}
    for (_, pen_id, revision), (trace, _) in zip(now, memory().strokes(db(), before, sheet.paper), strict=True):
        check_cost(trace, pens[pen_id, revision])
        in_time()
    return InkedAgain(was=was, strokes=len(ids), box_mm=box_of(sheet_id, [*before, *now]), sheet=sheet)


@operation(strokes, "POST", "/sheets/<sheet_id>/strokes/met", StrokesMet, body=SelectBody, costly=True)
def find_strokes_met(sheet_id: str, body: SelectBody) -> StrokesMet:
    """The strokes a way across the page touches, crosses or rings, with all of their groups or words."""
    sheet = get_sheet(db(), sheet_id)
    index = reachable(db(), sheet, stroke_index(db(), sheet_id), body.locked_too)
    pairs = memory().strokes(db(), index, sheet.paper)
    inks = [ink for _, ink in pairs]
    way = np.array(body.way, float)
    traces = [trace for trace, _ in pairs]
    if body.takes == "inside":
        met = set(strokes_ringed(inks, way, in_time, True))
    elif body.takes == "held" and closes(way):
        met = held_by(inks, traces, way, in_time)
    else:
        met = set(strokes_met(inks, way, step=in_time))
    if body.words and met:
        word = words(traces)
        wanted = {word[k] for k in met}
        met = {k for k in range(len(inks)) if word[k] in wanted}
    held = held_of(db(), sheet_id)
    groups = {held[index[k][0]].grouped for k in met if index[k][0] in held} - {None}
    met |= {k for k, e in enumerate(index) if e[0] in held and held[e[0]].grouped in groups}
    return StrokesMet(strokes=[stroke_met(index[k][0], inks[k]) for k in sorted(met)])


@operation(strokes, "POST", "/sheets/<sheet_id>/strokes/like", StrokesMet, body=LikeThese, costly=True)
def find_strokes_like(sheet_id: str, body: LikeThese) -> StrokesMet:
    """The strokes of the same pens, colours or kinds of pen as these, or all of the sheet."""
    sheet = get_sheet(db(), sheet_id)
    index = reachable(db(), sheet, stroke_index(db(), sheet_id))
    theirs = index_of(db(), sheet_id, body.ids) if body.ids else index
    recipes = {e[1:]: get_pen(db(), *e[1:]).recipe for e in {e[1:]: e for e in (*index, *theirs)}.values()}

    def common(entry: tuple[str, str, int]) -> str:
        recipe = recipes[entry[1:]]
        return {"pen": entry[1], "colour": recipe.body.colour, "kind": recipe.kind}[body.by]

    wanted = {common(e) for e in theirs}
    like = [e for e in index if common(e) in wanted]
    inks = [ink for _, ink in memory().strokes(db(), like, sheet.paper)]
    return StrokesMet(strokes=[stroke_met(e[0], ink) for e, ink in zip(like, inks, strict=True)])


def stroke_met(stroke_id: str, ink: Ink) -> StrokeMet:
    return StrokeMet(stroke_id, told_path(ink), round(float(ink.long_mm.max()), 3), ink.fill)


def told_path(ink: Ink) -> list[tuple[float, float]]:
    """Where a stroke's ink lies, thinned out, page mm."""
    along = along_path_mm(ink.x_mm, ink.y_mm)
    at = np.linspace(0, along[-1], int(along[-1] / SHOWN_EVERY_MM) + 2)
    x, y = (np.round(np.interp(at, along, v), 2).tolist() for v in (ink.x_mm, ink.y_mm))
    return list(zip(x, y, strict=True))


@operation(strokes, "POST", "/sheets/<sheet_id>/write", StrokesKept, body=WriteText, costly=True)
def let_hand_write(sheet_id: str, body: WriteText) -> StrokesKept:
    """Let the sheet's simulated hand write text below what is there, or do its prompts."""
    sheet, index = get_sheet(db(), sheet_id), stroke_index(db(), sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    pen = get_pen(db(), sheet.pen_id)
    if body.prompts:
        traces = fill_prompts(sheet.paper, hand, device, body.seed, sheet.prompts or "test")
    else:
        there = [trace for trace, _ in memory().strokes(db(), index, sheet.paper)]
        traces = write_below(body.text, hand, device, body.seed, sheet.paper, there)
    stem = new_id("hand")
    strokes = [Stroke(f"{stem}-{k}", pen.id, pen.revision, t, body.draft) for k, t in enumerate(traces)]
    return keep_all(sheet_id, strokes)
