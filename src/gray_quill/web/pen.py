"""The Pen station: re-inking the writer's own line, fitting, trading off, judging, comparing and advising."""

import hashlib
from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.advice.effects import Effect, control_effects
from gray_quill.core.advice.kinds import Verdict, judge_kind
from gray_quill.core.advice.proposals import Advice, advise
from gray_quill.core.errors import InputError
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.pen.dials import DialAt, dials_of, turned
from gray_quill.core.pen.fit import CubicForm, cubic_form, fit_press
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import METHODS, amount_of, parameter_of
from gray_quill.core.readings.anchors import find_anchors
from gray_quill.core.readings.differences import Difference, differences
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.readings.lines import last_line
from gray_quill.core.readings.notes import Note, notes_of, plain_words
from gray_quill.core.readings.press_use import PressUse, press_use
from gray_quill.core.readings.spot import Spot, find_spot
from gray_quill.core.readings.trade_off import (
    TradePoint,
    calmest_under,
    smallest_below,
    trade_curves,
    trade_point,
)
from gray_quill.core.trace import Trace
from gray_quill.store.fits import keep_fit, kept_fit
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.strokes import index_of, stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import layers_read, shown_index
from gray_quill.web.records import Done, Id, PenOn, PressIn, RecipeIn, Source, SteadyIn

pen = Blueprint("pen", __name__)
FORCE_BINS = 50
MOST_STROKES_READ = 400
MOST_SAMPLES_TRIED = 4000


class InkShare(Model):
    """How much of the ink that was read a pen drew; revision: 0 or less where it drew with changes not kept."""

    pen_id: str
    name: str
    revision: int
    strokes: int


class ReadReply(Model):
    """readings: None where there is no ink. notes: the same in words. anchors: where on the page they can be seen.
    of: which ink this speaks of, by pen. traces: names the strokes that were read: readings of the same strokes can be
    compared. absent: channels that none of them carries. bare: strokes of the sheet that their pens cannot draw, shown
    as bare paths. plain: what the ink shows, in whole sentences. layers: on which of the sheet's layers it was read;
    what is hidden never is.
    """

    readings: Readings | None
    notes: list[Note]
    anchors: dict[str, list[tuple[float, float]]]
    strokes: int
    of: list[InkShare] = Field(default_factory=list)
    traces: str = ""
    bare: int = 0
    absent: list[str] = Field(default_factory=list)
    plain: list[str] = Field(default_factory=list)
    layers: str = ""


class ReadQuery(Model):
    """of: the line written last, the ink of the pen in use (or else of the last one) in all its revisions, or all."""

    of: Literal["line", "pen", "all"] = "pen"


class Chosen(Model):
    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]


class ForceReply(Model):
    """counts: samples in equal bins of force from 0 to 1; absent: channels the device did not give."""

    counts: list[int]
    samples: int
    absent: list[str]


class FitBody(Model):
    press: PressIn
    source: Source
    blend: float = Field(0.6, ge=0, le=1)


class FitReply(Model):
    """before, after: how the press record uses the force. cubic: the two-point form and its largest error."""

    press: Press
    before: PressUse
    after: PressUse
    cubic: CubicForm
    samples: int


class KeepFit(Model):
    """saw: the fit there was when this was made."""

    hand_id: Id
    device_id: Id
    press: PressIn
    saw: PressIn | None = None


class KeptFit(Model):
    press: Press | None


class TradeBody(Model):
    steady: SteadyIn
    source: Source


class TradeReply(Model):
    points: list[TradePoint]
    now: TradePoint
    methods: dict[str, dict[str, str]]


class SolveBody(TradeBody):
    most_drag_ms: float | None = Field(None, ge=0, le=500)
    most_left: float | None = Field(None, ge=0, le=1)


class SolveReply(Model):
    point: TradePoint | None


class ConvertQuery(Model):
    method: str
    amount: float | None = Field(None, ge=0, le=10)
    parameter: float | None = Field(None, ge=0)


class ConvertReply(Model):
    amount: float
    parameter: float
    unit: str


class SpotBody(PenOn):
    x_mm: float
    y_mm: float


class JudgeBody(Model):
    recipe: RecipeIn


class EffectsBody(PenOn):
    group: str


class EffectsReply(Model):
    effects: list[Effect]


class AdviceReply(Model):
    advice: list[Advice]


class DialBody(Model):
    """A pen as it was when the dial was taken, and where the dial is turned to; without a dial nothing is turned."""

    recipe: RecipeIn
    dial: str | None = None
    to: float = Field(0, ge=0, le=1)


class DialReply(Model):
    recipe: Recipe
    dials: list[DialAt]


class DifferBody(Model):
    one: RecipeIn
    other: RecipeIn
    source: Source


class DifferReply(Model):
    differences: list[Difference]


def _traces(source: Source) -> list[Trace]:
    return memory().traces_of(db(), source)


def _some(traces: list[Trace]) -> list[Trace]:
    """The newest strokes, as many as every method can be tried on in the time of a request."""
    kept, samples = 0, 0
    while kept < len(traces) and samples < MOST_SAMPLES_TRIED:
        kept += 1
        samples += len(traces[-kept])
    return traces[-kept:]


@operation(pen, "POST", "/pen/readings", ReadReply, body=PenOn, remembered=True)
def read_with(body: PenOn) -> ReadReply:
    """Readings of a recipe on the source's ink, and where on the page they can be seen."""
    traces = _traces(body.source)[-MOST_STROKES_READ:]
    paper = get_sheet(db(), body.source.sheet_id).paper
    inks = settle_all(traces, body.recipe, paper)
    readings = read_ink(traces, body.recipe, inks)
    anchors = find_anchors(traces, inks)
    notes = notes_of(readings)
    return ReadReply(readings=readings, notes=notes, anchors=anchors, strokes=len(traces), absent=_absent(traces))


def _absent(traces: list[Trace]) -> list[str]:
    return sorted(set.intersection(*(set(t.absent) for t in traces)))


@operation(pen, "GET", "/sheets/<sheet_id>/readings", ReadReply, query=ReadQuery, remembered=True)
def read_sheet_ink(sheet_id: str, query: ReadQuery) -> ReadReply:
    """Readings of the sheet's ink as it lies there, each stroke in the pen that drew it."""
    sheet, (index, _) = get_sheet(db(), sheet_id), shown_index(db(), sheet_id)
    if index and query.of == "pen":
        pen_id = sheet.pen_id if any(e[1] == sheet.pen_id for e in index) else index[-1][1]
        index = [e for e in index if e[1] == pen_id]
    elif index and query.of == "line":
        index = index[-MOST_STROKES_READ:]
        index = [index[i] for i in last_line([t for t, _ in memory().strokes(db(), index, sheet.paper)])]
    return _read(sheet, index)


@operation(pen, "POST", "/sheets/<sheet_id>/readings", ReadReply, body=Chosen, remembered=True)
def read_chosen_ink(sheet_id: str, body: Chosen) -> ReadReply:
    """The same of chosen strokes; those in the bin are left out."""
    index_of(db(), sheet_id, body.ids)
    return _read(get_sheet(db(), sheet_id), [e for e in stroke_index(db(), sheet_id) if e[0] in set(body.ids)])


def _read(sheet: Sheet, index: Sequence[tuple[str, str, int]]) -> ReadReply:
    """Readings of the strokes an index names, of the last MOST_STROKES_READ of them."""
    index = index[-MOST_STROKES_READ:]
    if not index:
        return ReadReply(readings=None, notes=[], anchors={}, strokes=0)
    pairs = memory().strokes(db(), index, sheet.paper)
    traces, inks = [t for t, _ in pairs], [i for _, i in pairs]
    readings = read_ink(traces, [i.recipe for i in inks], inks)
    return ReadReply(
        readings=readings,
        notes=notes_of(readings),
        anchors=find_anchors(traces, inks),
        strokes=len(traces),
        of=[
            InkShare(pen_id=p, name=get_pen(db(), p, revision).recipe.name, revision=revision, strokes=count)
            for (p, revision), count in Counter(e[1:] for e in index).items()
        ],
        traces=hashlib.sha256("\n".join(sorted(e[0] for e in index)).encode()).hexdigest()[:16],
        bare=memory().bare(db(), sheet.id),
        absent=_absent(traces),
        plain=plain_words(readings),
        layers=layers_read(db(), sheet, index),
    )


@operation(pen, "POST", "/pen/force", ForceReply, body=Source)
def read_force(body: Source) -> ForceReply:
    """How often the hand pressed how hard, for the press chart."""
    traces = _traces(body)
    force = np.concatenate([t.force for t in traces])
    counts, _ = np.histogram(force, FORCE_BINS, (0, 1))
    absent = sorted(set().union(*(t.absent for t in traces)))
    return ForceReply(counts=counts.tolist(), samples=len(force), absent=absent)


@operation(pen, "POST", "/pen/fit", FitReply, body=FitBody)
def fit_to_hand(body: FitBody) -> FitReply:
    """Fit floor, ceiling and curve to the force of the source's ink."""
    force = np.concatenate([t.force for t in _traces(body.source)])
    fitted = fit_press(force, body.press, body.blend)
    return FitReply(
        press=fitted,
        before=press_use(force, body.press),
        after=press_use(force, fitted),
        cubic=cubic_form(fitted),
        samples=len(force),
    )


@operation(pen, "PUT", "/pen/fits", Done, body=KeepFit)
def remember_fit(body: KeepFit) -> Done:
    """Remember a fit for a hand on a device."""
    keep_fit(db(), body.hand_id, body.device_id, body.press, body.saw)
    return Done()


@operation(pen, "GET", "/pen/fits/<hand_id>/<device_id>", KeptFit)
def read_fit(hand_id: str, device_id: str) -> KeptFit:
    """The fit remembered for a hand on a device, if any."""
    return KeptFit(press=kept_fit(db(), hand_id, device_id))


@operation(pen, "POST", "/pen/trade", TradeReply, body=TradeBody, remembered=True)
def trade(body: TradeBody) -> TradeReply:
    """Shake left against drag for every method and amount, and the setting in use."""
    traces = _some(_traces(body.source))
    methods = {m.name: {"symbol": m.symbol, "unit": m.unit, "help": m.help} for m in METHODS.values()}
    return TradeReply(points=trade_curves(traces, body.steady), now=trade_point(traces, body.steady), methods=methods)


@operation(pen, "POST", "/pen/solve", SolveReply, body=SolveBody, remembered=True)
def solve(body: SolveBody) -> SolveReply:
    """The calmest setting under a drag, or the one with least drag that leaves no more of a shake."""
    traces = _some(_traces(body.source))
    if body.most_drag_ms is not None:
        return SolveReply(point=calmest_under(traces, body.steady, body.most_drag_ms))
    if body.most_left is not None:
        return SolveReply(point=smallest_below(traces, body.steady, body.most_left))
    raise InputError("Say the most drag in ms or how much of a shake may be left.", "most_drag_ms")


@operation(pen, "GET", "/pen/steady", ConvertReply, query=ConvertQuery)
def convert_steady(query: ConvertQuery) -> ConvertReply:
    """Amount and physical parameter of a steadying method, from either."""
    if (query.amount is None) == (query.parameter is None):
        raise InputError("Give either amount or parameter.", "amount")
    amount = query.amount if query.amount is not None else amount_of(query.method, query.parameter or 0.0)
    return ConvertReply(amount=amount, parameter=parameter_of(query.method, amount), unit=METHODS[query.method].unit)


@operation(pen, "POST", "/pen/spot", Spot, body=SpotBody)
def read_spot(body: SpotBody) -> Spot:
    """What the hand did at a spot of the ink, and the terms that made its width."""
    traces = _traces(body.source)
    return find_spot(traces, settle_all(traces, body.recipe), body.x_mm, body.y_mm)


@operation(pen, "POST", "/pen/judge", Verdict, body=JudgeBody)
def judge(body: JudgeBody) -> Verdict:
    """Whether a pen does what its kind says, by numbers."""
    return judge_kind(body.recipe)


@operation(pen, "POST", "/pen/dials", DialReply, body=DialBody)
def turn_dial(body: DialBody) -> DialReply:
    """A pen with a plain dial turned, and where every dial then stands."""
    recipe = body.recipe if body.dial is None else turned(body.recipe, body.dial, body.to)
    return DialReply(recipe=recipe, dials=dials_of(recipe))


@operation(pen, "POST", "/pen/effects", EffectsReply, body=EffectsBody, remembered=True)
def read_effects(body: EffectsBody) -> EffectsReply:
    """How much each control of a group changes this ink, and why when it does not."""
    sheet = get_sheet(db(), body.source.sheet_id)
    return EffectsReply(effects=control_effects(_traces(body.source), body.recipe, body.group, sheet.paper.colour))


@operation(pen, "POST", "/pen/advice", AdviceReply, body=PenOn, remembered=True)
def read_advice(body: PenOn) -> AdviceReply:
    """What to change about a pen on this ink, why, and what it will do."""
    return AdviceReply(advice=advise(_some(_traces(body.source)), body.recipe))


@operation(pen, "POST", "/pen/differences", DifferReply, body=DifferBody, remembered=True)
def read_differences(body: DifferBody) -> DifferReply:
    """Readings of two pens on the same ink that differ, largest first."""
    traces = _traces(body.source)
    return DifferReply(differences=differences(read_ink(traces, body.one), read_ink(traces, body.other)))
