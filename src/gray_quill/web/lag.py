"""The Lag trial: modelled, laid beside what was stated, measured and filmed; runs kept; a device inspected."""

import dataclasses
from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lag.figures import Figure, figures
from gray_quill.core.lag.inspection import Inspection, device_like, inspect_input, inspect_stand_in
from gray_quill.core.lag.missed import AtSpeed, at_speed
from gray_quill.core.lag.swaps import Swap, swap_factors
from gray_quill.core.lag.trial import LOOK_AHEAD, NIB_SPEED, Compared, Lag, compare, model_lag
from gray_quill.core.lag.updates import update_period_s
from gray_quill.core.lag.verdict import THRESHOLDS, Threshold
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import read_record, record_json
from gray_quill.store.pens import get_pen
from gray_quill.store.runs import LagRun, get_lag_run, lag_run, list_lag_runs
from gray_quill.store.things import add_thing, get_thing, list_things
from gray_quill.store.trials import Trial, bin_trial, keep_trial
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import (
    BinChange,
    DeviceItem,
    FilmedIn,
    Id,
    LiveIn,
    Name,
    RecipeIn,
    Source,
    StrokeColumns,
    bounded,
)
from gray_quill.web.replies import new_id

lag = Blueprint("lag", __name__)
SPEEDS_MM_S = (20.0, 60.0, 120.0, 250.0)
Speed = Annotated[float, bounded(NIB_SPEED)]


class Asked(Model):
    """At which nib speed, and what was measured and filmed there."""

    device_id: Id
    speed_mm_s: Speed = 60
    look_ahead_ms: Annotated[float, bounded(LOOK_AHEAD)] = 0
    live: LiveIn | None = None
    filmed: FilmedIn | None = None


class LagBody(Asked):
    """A pen on a device, and the pens to lay beside it on every device."""

    recipe: RecipeIn
    beside: list[RecipeIn] = Field(max_length=12)


class LagReply(Model):
    """now: the pen asked for. table: every pen on every device. speeds: this pen and device, the speed asked for first.
    figures: stated, modelled, live, filmed. update_ms: how long the device shows one picture of the ink.
    """

    now: Lag
    table: list[Compared]
    speeds: list[AtSpeed]
    figures: list[Figure]
    thresholds: list[Threshold]
    update_ms: float


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


class Seen(Model):
    """What was written on the device itself, and what the browser told of it beside positions."""

    strokes: list[StrokeColumns] = Field(min_length=1, max_length=400)
    hover: bool | None = None
    contact_size: bool | None = None
    frame_hz: float = Field(60, ge=1, le=1000)


class InspectBody(Model):
    """Strokes of a sheet, a line the stand-in of a device writes, or strokes just written here."""

    source: Source | None = None
    stand_in: Id | None = None
    seen: Seen | None = None


class NewDevice(Model):
    """A device of one's own: like a kept one, with the digitiser these strokes show, and what its data sheet states."""

    name: Name
    like: Id
    ink: InspectBody
    stated_ms: float = Field(0, ge=0, le=1000)


@operation(lag, "POST", "/lag", LagReply, body=LagBody)
def read_lag(body: LagBody) -> LagReply:
    """How far a pen's ink trails on a device, which stage is to blame, what a change would buy, and other pens on every
    device.
    """
    device = get_thing(db(), Device, body.device_id)
    now = model_lag(device, body.recipe, body.speed_mm_s, body.look_ahead_ms)
    return LagReply(
        now=now,
        table=compare(list_things(db(), Device), [body.recipe, *body.beside], body.speed_mm_s),
        speeds=[at_speed(device, body.recipe, s) for s in dict.fromkeys((body.speed_mm_s, *SPEEDS_MM_S))],
        figures=figures(now, device.stated_ms, body.live, body.filmed, _at_film(device, body.recipe, body)),
        thresholds=list(THRESHOLDS),
        update_ms=1000 * update_period_s(device.panel),
    )


def _at_film(device: Device, recipe: Recipe, body: Asked) -> Lag | None:
    """The model at the speed of a film that was read."""
    speed = body.filmed.speed_mm_s if body.filmed else None
    return None if speed is None else model_lag(device, recipe, speed, body.look_ahead_ms)


@operation(lag, "POST", "/lag/swaps", SwapReply, body=SwapBody)
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
    now = model_lag(device, recipe, body.speed_mm_s, body.look_ahead_ms)
    inputs = {
        "recipe": record_json(recipe),
        "device": record_json(device),
        "hand": hand.name,
        "speed_mm_s": body.speed_mm_s,
        "look_ahead_ms": body.look_ahead_ms,
        "live": body.live and record_json(body.live),
        "filmed": body.filmed and record_json(body.filmed),
    }
    found = figures(now, device.stated_ms, body.live, body.filmed, _at_film(device, recipe, body))
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


@operation(lag, "POST", "/lag/inspect", Inspection, body=InspectBody)
def inspect_device(body: InspectBody) -> Inspection:
    """What the device behind some strokes reports, and what it leaves out."""
    if body.seen is not None:
        seen = body.seen
        return inspect_input([s.trace() for s in seen.strokes], seen.hover, seen.contact_size, seen.frame_hz)
    if body.stand_in is not None:
        return inspect_stand_in(get_thing(db(), Device, body.stand_in))
    if body.source is None:
        raise InputError("Give strokes of a sheet, a device, or strokes just written.", "source")
    return inspect_input(memory().traces_of(db(), body.source))


@operation(lag, "POST", "/devices", DeviceItem, body=NewDevice, status=201)
def keep_device(body: NewDevice) -> DeviceItem:
    """Keep a device of one's own, made from what its strokes show."""
    base = get_thing(db(), Device, body.like)
    made = dataclasses.replace(device_like(inspect_device(body.ink), base, body.name), stated_ms=body.stated_ms)
    device = read_record(Device, record_json(made), "device.")
    device_id = new_id(body.name)
    add_thing(db(), device_id, device)
    return DeviceItem(id=device_id, device=device)
