"""The Lag trial: modelled, laid beside what was stated, measured and filmed; runs kept; a device inspected."""

from typing import Annotated

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError, NoInk
from gray_quill.core.hand.hand import Hand
from gray_quill.core.latency.ahead import (
    Ahead,
    Frames,
    Guessed,
    Guesses,
    LookedAhead,
    as_guessed,
    as_shown,
    looked_ahead,
)
from gray_quill.core.latency.figures import Figure, figures
from gray_quill.core.latency.missed import AtSpeed, at_speed
from gray_quill.core.latency.noticeable_delay import Felt
from gray_quill.core.latency.swaps import Swap, swap_factors
from gray_quill.core.latency.trial import NIB_SPEED, Compared, Lag, compare, model_lag, quick_lag
from gray_quill.core.latency.updates import update_period_s
from gray_quill.core.latency.verdict import THRESHOLDS, Threshold, of_this_hand
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import record_json
from gray_quill.core.trace import Trace
from gray_quill.store.items import get_thing, list_things
from gray_quill.store.noticeable_delay import KeptFelt, felt_of
from gray_quill.store.pens import get_pen
from gray_quill.store.runs import LagRun, get_lag_run, lag_run, list_lag_runs
from gray_quill.store.trials import Trial, bin_trial, keep_trial
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import (
    BinChange,
    Column,
    FilmedIn,
    Id,
    LiveIn,
    RecipeIn,
    Source,
    StrokeColumns,
    bounded,
)

lag = Blueprint("lag", __name__)
SPEEDS_MM_S = (20.0, 60.0, 120.0, 250.0)
Speed = Annotated[float, bounded(NIB_SPEED)]


class Asked(Model):
    """At which nib speed, and what was measured and filmed there."""

    device_id: Id
    speed_mm_s: Speed = 60
    live: LiveIn | None = None
    filmed: FilmedIn | None = None


class LagBody(Asked):
    """A pen on a device, and the pens to lay beside it on every device. source: the writer's own line, for look-ahead
    to be judged by; hand_id: whose thresholds count.
    """

    recipe: RecipeIn
    hand_id: Id | None = None
    source: Source | None = None
    beside: list[RecipeIn] = Field(max_length=12)


class LagReply(Model):
    """now: the pen asked for. table: every pen on every device. speeds: this pen and device, the speed asked for first.
    figures: stated, modelled, live, filmed, felt. update_ms: how long the device shows one picture of the ink.
    """

    ahead: LookedAhead

    now: Lag
    table: list[Compared]
    speeds: list[AtSpeed]
    figures: list[Figure]
    thresholds: list[Threshold]
    update_ms: float
    felt: KeptFelt | None


class NewRun(Asked):
    """A run to keep: which pen, for whose hand; draft: what the pen is, where it has changes not kept."""

    pen_id: Id
    revision: int = Field(ge=1)
    draft: RecipeIn | None = None
    hand_id: Id


class LagRuns(Model):
    runs: list[LagRun]


class LagSetting(Model):
    """A kept run, or a pen on a device as they are set now."""

    run_id: Id | None = None
    recipe: RecipeIn | None = None
    device_id: Id | None = None


class SwapBody(Model):
    one: LagSetting
    other: LagSetting
    speed_mm_s: Speed = 60


class SwapReply(Model):
    swaps: list[Swap]


class ShownStroke(Model):
    """A stroke, and the frames in which its ink was shown: when, on the stroke's clock, and where the ink ended in each
    without and with what look-ahead draws. guess_: what the browser guessed of it, after which report and for when.
    """

    stroke: StrokeColumns
    t_ms: Column
    tip_x_mm: Column
    tip_y_mm: Column
    front_x_mm: Column
    front_y_mm: Column
    guess_made_ms: Column = Field(default_factory=list)
    guess_t_ms: Column = Field(default_factory=list)
    guess_x_mm: Column = Field(default_factory=list)
    guess_y_mm: Column = Field(default_factory=list)

    def frames(self) -> Frames:
        t, tip_x, tip_y, front_x, front_y = _columns(
            self.t_ms, self.tip_x_mm, self.tip_y_mm, self.front_x_mm, self.front_y_mm
        )
        return Frames(
            self.stroke.trace(), t / 1000, np.column_stack((tip_x, tip_y)), np.column_stack((front_x, front_y))
        )

    def guesses(self) -> Guesses:
        made, t, x, y = _columns(self.guess_made_ms, self.guess_t_ms, self.guess_x_mm, self.guess_y_mm)
        return Guesses(made / 1000, t / 1000, x, y)


def _columns(*columns: list[float]) -> Floats:
    if len({len(c) for c in columns}) != 1:
        raise InputError("The columns of a stroke's frames must have the same length.", "shown")
    made = np.array(columns, float)
    if not np.isfinite(made).all():
        raise InputError("A frame's numbers must be finite.", "shown")
    return made


class ShownBody(Model):
    recipe: RecipeIn
    shown: list[ShownStroke] = Field(min_length=1, max_length=40)


class ShownReply(Model):
    """guessed: None where the browser guesses nothing."""

    ahead: Ahead
    guessed: Guessed | None


@operation(lag, "POST", "/lag", LagReply, body=LagBody, remembered=True)
def read_lag(body: LagBody) -> LagReply:
    """How far a pen's ink trails on a device, which stage is to blame, what a change would buy, and other pens on every
    device.
    """
    device = get_thing(db(), Device, body.device_id)
    steady, traces = body.recipe.steady, _own_line(body.source)
    late_ms, _ = quick_lag(device, body.recipe, body.speed_mm_s)
    ahead = looked_ahead(steady, device.digitiser.report_hz, body.speed_mm_s, late_ms, traces)
    kept = felt_of(db(), body.hand_id) if body.hand_id else None
    own, thresholds = _own(kept)
    now = model_lag(device, body.recipe, body.speed_mm_s, ahead.most_ms, thresholds)
    return LagReply(
        now=now,
        ahead=ahead,
        table=compare(list_things(db(), Device), [body.recipe, *body.beside], body.speed_mm_s, thresholds),
        speeds=[at_speed(device, body.recipe, s) for s in dict.fromkeys((body.speed_mm_s, *SPEEDS_MM_S))],
        figures=figures(now, device.stated_ms, body.live, body.filmed, _at_film(device, body.recipe, body), own),
        thresholds=list(thresholds),
        update_ms=1000 * update_period_s(device.panel, body.recipe),
        felt=kept,
    )


def _own(kept: KeptFelt | None) -> tuple[Felt | None, tuple[Threshold, ...]]:
    """What a hand feels, and the table of thresholds that goes by it."""
    if kept is None:
        return None, THRESHOLDS
    own = kept.felt
    source = (
        f"what this hand noticed over {own.turns} hidden turns, between {own.low_ms:.0f} and {own.high_ms:.0f} ms "
        f"at {own.speed_mm_s:.0f} mm/s"
    )
    return own, of_this_hand(own.noticed_ms, own.disturbed_ms, source)


def _own_line(source: Source | None) -> list[Trace]:
    """The strokes look-ahead is judged by; none where nothing is written yet."""
    try:
        return memory().traces_of(db(), source) if source else []
    except NoInk:
        return []


def _at_film(device: Device, recipe: Recipe, body: Asked) -> Lag | None:
    """The model at the speed of a film that was read."""
    speed = body.filmed.speed_mm_s if body.filmed else None
    return None if speed is None else model_lag(device, recipe, speed)


@operation(lag, "POST", "/lag/shown", ShownReply, body=ShownBody)
def read_shown(body: ShownBody) -> ShownReply:
    """How late the ink's end was in frames that a browser has shown, without and with look-ahead, and how well the
    browser itself guesses.
    """
    return ShownReply(
        ahead=as_shown(body.recipe.steady, [s.frames() for s in body.shown]),
        guessed=as_guessed([(s.stroke.trace(), s.guesses()) for s in body.shown]),
    )


@operation(lag, "POST", "/lag/swaps", SwapReply, body=SwapBody, remembered=True)
def swap_settings(body: SwapBody) -> SwapReply:
    """From one setting to another, one factor at a time: which of them is to blame."""
    return SwapReply(swaps=swap_factors(*_setting(body.one), *_setting(body.other), body.speed_mm_s))


def _setting(setting: LagSetting) -> tuple[Device, Recipe]:
    if setting.run_id is not None:
        run = get_lag_run(db(), setting.run_id)
        return run.device, run.recipe
    if setting.recipe is None or setting.device_id is None:
        raise InputError("Give a kept run, or a recipe and a device.", "run_id")
    return get_thing(db(), Device, setting.device_id), setting.recipe


@operation(lag, "POST", "/lag/runs", LagRun, body=NewRun, status=201)
def keep_lag_run(body: NewRun) -> LagRun:
    """Keep a run with everything it was made from, to lay it beside another later."""
    pen, device = get_pen(db(), body.pen_id, body.revision), get_thing(db(), Device, body.device_id)
    hand = get_thing(db(), Hand, body.hand_id)
    recipe = body.draft or pen.recipe
    own, thresholds = _own(felt_of(db(), body.hand_id))
    now = model_lag(device, recipe, body.speed_mm_s, thresholds=thresholds)
    inputs = {
        "recipe": record_json(recipe),
        "device": record_json(device),
        "hand": hand.name,
        "speed_mm_s": body.speed_mm_s,
        "look_ahead_ms": recipe.steady.ahead_ms,
        "live": body.live and record_json(body.live),
        "filmed": body.filmed and record_json(body.filmed),
    }
    found = figures(now, device.stated_ms, body.live, body.filmed, _at_film(device, recipe, body), own)
    results = {"now": record_json(now), "figures": [record_json(f) for f in found]}
    trial = Trial("lag", body.hand_id, body.device_id, inputs, results, now.word, body.pen_id, body.revision)
    return lag_run(keep_trial(db(), trial))


@operation(lag, "GET", "/lag/runs", LagRuns)
def kept_lag_runs() -> LagRuns:
    """All kept runs, newest first."""
    return LagRuns(runs=list_lag_runs(db()))


@operation(lag, "PUT", "/lag/runs/<run_id>/bin", LagRun, body=BinChange)
def bin_lag_run(run_id: str, body: BinChange) -> LagRun:
    """Put a kept run into the bin, or back."""
    bin_trial(db(), "lag", run_id, body.binned)
    return get_lag_run(db(), run_id)
