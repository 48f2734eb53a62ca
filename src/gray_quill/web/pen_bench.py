"""The pen bench: fitting, trading off, judging, comparing and advising, each on the writer's own ink."""

import dataclasses

import numpy as np
from flask import Blueprint

from gray_quill.core.advice.effects import control_effects
from gray_quill.core.advice.kinds import DEFINITIONS, judge_kind
from gray_quill.core.advice.proposals import advise
from gray_quill.core.errors import InputError
from gray_quill.core.ink.heat import heat_view
from gray_quill.core.ink.ladder import ladder
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.fit import cubic_form, fit_press, press_use
from gray_quill.core.pen.press import Press
from gray_quill.core.pen.recipe import read_recipe, write_recipe
from gray_quill.core.pen.steady import METHODS, Steady, amount_of, parameter_of
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.readings.differences import differences
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.readings.spot import find_spot
from gray_quill.core.readings.trade_off import calmest_under, check_shake, smallest_below, trade_curves, trade_point
from gray_quill.core.trace import bounds_mm
from gray_quill.formats.png import write_png
from gray_quill.store.fits import keep_fit, kept_fit
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import operation
from gray_quill.web.bench_models import (
    AdviceItem,
    AdviceReply,
    ConvertQuery,
    ConvertReply,
    DifferBody,
    Difference,
    DifferReply,
    EffectItem,
    EffectsBody,
    EffectsReply,
    Failed,
    FitBody,
    FitReply,
    HeatBody,
    HeatReply,
    JudgeBody,
    JudgeReply,
    KeepFit,
    KeptFit,
    LadderBody,
    LadderReply,
    PenOn,
    SolveBody,
    SolveReply,
    SpotBody,
    SpotReply,
    TradeBody,
    TradePointItem,
    TradeReply,
)
from gray_quill.web.context import db, memory
from gray_quill.web.models import Done
from gray_quill.web.reink import fitted_view
from gray_quill.web.replies import data_url

bench = Blueprint("bench", __name__)


@operation(bench, "POST", "/fit", FitReply, body=FitBody)
def fit_to_hand(body: FitBody) -> FitReply:
    """Fit floor, ceiling and curve to the force of the source's ink."""
    press = read_record(Press, body.press, "press.")
    force = np.concatenate([t.force for t in memory().traces_of(db(), body.source)])
    fitted = fit_press(force, press, body.blend)
    return FitReply(
        press=record_json(fitted),
        before=dataclasses.asdict(press_use(force, press)),
        after=dataclasses.asdict(press_use(force, fitted)),
        cubic=dataclasses.asdict(cubic_form(fitted)),
        samples=len(force),
    )


@operation(bench, "PUT", "/fits", Done, body=KeepFit)
def remember_fit(body: KeepFit) -> Done:
    """Remember a fit for a hand on a device."""
    keep_fit(db(), body.hand_id, body.device_id, read_record(Press, body.press, "press."))
    return Done()


@operation(bench, "GET", "/fits/<hand_id>/<device_id>", KeptFit)
def read_fit(hand_id: str, device_id: str) -> KeptFit:
    """The fit remembered for a hand on a device, if any."""
    press = kept_fit(db(), hand_id, device_id)
    return KeptFit(press=record_json(press) if press else None)


@operation(bench, "POST", "/trade", TradeReply, body=TradeBody)
def trade(body: TradeBody) -> TradeReply:
    """Wobble against drag for every method and amount, and the setting in use."""
    steady, traces = read_record(Steady, body.steady, "steady."), memory().traces_of(db(), body.source)
    check_shake(traces)
    points = [TradePointItem(**dataclasses.asdict(p)) for p in trade_curves(traces, steady)]
    methods = {m.name: {"symbol": m.symbol, "unit": m.unit, "help": m.help} for m in METHODS.values()}
    return TradeReply(
        points=points, now=TradePointItem(**dataclasses.asdict(trade_point(traces, steady))), methods=methods
    )


@operation(bench, "POST", "/solve", SolveReply, body=SolveBody)
def solve(body: SolveBody) -> SolveReply:
    """The calmest setting under a drag, or the one with least drag that brings wobble under a bound."""
    steady, traces = read_record(Steady, body.steady, "steady."), memory().traces_of(db(), body.source)
    check_shake(traces)
    if body.most_drag_ms is not None:
        point = calmest_under(traces, steady, body.most_drag_ms)
    elif body.most_wobble_mm is not None:
        found = smallest_below(traces, steady, body.most_wobble_mm)
        if found is None:
            return SolveReply(point=None)
        point = found
    else:
        raise InputError("Say the most drag in ms or the most wobble in mm.", "most_drag_ms")
    return SolveReply(point=TradePointItem(**dataclasses.asdict(point)))


@operation(bench, "GET", "/steady", ConvertReply, query=ConvertQuery)
def convert_steady(query: ConvertQuery) -> ConvertReply:
    """Amount and physical parameter of a steadying method, from either."""
    if (query.amount is None) == (query.parameter is None):
        raise InputError("Give either amount or parameter.", "amount")
    amount = query.amount if query.amount is not None else amount_of(query.method, query.parameter or 0.0)
    return ConvertReply(amount=amount, parameter=parameter_of(query.method, amount), unit=METHODS[query.method].unit)


@operation(bench, "POST", "/spot", SpotReply, body=SpotBody)
def read_spot(body: SpotBody) -> SpotReply:
    """What the hand did at a spot of the ink, and the terms that made its width."""
    recipe, traces = read_recipe(body.recipe), memory().traces_of(db(), body.source)
    return SpotReply(
        spot=dataclasses.asdict(find_spot(traces, [settle(t, recipe) for t in traces], body.x_mm, body.y_mm))
    )


@operation(bench, "POST", "/heat", HeatReply, body=HeatBody)
def read_heat(body: HeatBody) -> HeatReply:
    """The ink coloured by its width, force or speed."""
    recipe, traces = read_recipe(body.recipe), memory().traces_of(db(), body.source)
    view = fitted_view(bounds_mm(traces), body.width_px, body.height_px)
    heat = heat_view(traces, [settle(t, recipe) for t in traces], body.quantity, view)
    box = [
        view.left_mm,
        view.top_mm,
        view.left_mm + view.width_px / view.px_per_mm,
        view.top_mm + view.height_px / view.px_per_mm,
    ]
    return HeatReply(
        image=data_url(write_png(heat.pixels, compress=1)),
        low=heat.low,
        high=heat.high,
        unit=heat.unit,
        colours=heat.colours,
        box_mm=box,
    )


@operation(bench, "POST", "/judge", JudgeReply, body=JudgeBody)
def judge(body: JudgeBody) -> JudgeReply:
    """Whether a pen does what its kind says, by numbers."""
    verdict = judge_kind(read_recipe(body.recipe))
    failed = [Failed(words=w, reading=r, value=v) for w, r, v in verdict.failed]
    return JudgeReply(
        kind=verdict.kind,
        met=verdict.met,
        failed=failed,
        nearest=verdict.nearest,
        demands=[d.words for d in DEFINITIONS[verdict.kind]],
        nature=dataclasses.asdict(verdict.nature),
    )


@operation(bench, "POST", "/effects", EffectsReply, body=EffectsBody)
def read_effects(body: EffectsBody) -> EffectsReply:
    """How much each control of a group changes this ink, and why when it does not."""
    sheet = get_sheet(db(), body.source.sheet_id)
    effects = control_effects(
        memory().traces_of(db(), body.source), read_recipe(body.recipe), body.group, sheet.paper.colour
    )
    return EffectsReply(effects=[EffectItem(**dataclasses.asdict(e)) for e in effects])


@operation(bench, "POST", "/advice", AdviceReply, body=PenOn)
def read_advice(body: PenOn) -> AdviceReply:
    """What to change about a pen on this ink, why, and what it will do."""
    recipe, traces = read_recipe(body.recipe), memory().traces_of(db(), body.source)
    inks = [settle(t, recipe) for t in traces]
    found = advise(traces, recipe, inks, read_ink(traces, recipe, inks))
    return AdviceReply(
        advice=[
            AdviceItem(
                title=a.title,
                evidence=a.evidence,
                doing=a.doing,
                recipe=write_recipe(a.recipe) if a.recipe else None,
                reading=a.reading,
                before=a.before,
                after=a.after,
            )
            for a in found
        ]
    )


@operation(bench, "POST", "/differences", DifferReply, body=DifferBody)
def read_differences(body: DifferBody) -> DifferReply:
    """Readings of two pens on the same ink that differ, largest first."""
    traces = memory().traces_of(db(), body.source)
    rows = differences(read_ink(traces, read_recipe(body.one)), read_ink(traces, read_recipe(body.other)))
    return DifferReply(differences=[Difference(reading=name, one=a, other=b) for name, a, b in rows])


@operation(bench, "POST", "/ladder", LadderReply, body=LadderBody)
def read_ladder(body: LadderBody) -> LadderReply:
    """One pen at rising widths, opacities or ranges over an older dark line."""
    pixels, values = ladder(read_recipe(body.recipe), body.over, body.width_px, body.height_px, body.paper_colour)
    return LadderReply(image=data_url(write_png(pixels, compress=1)), values=values)
