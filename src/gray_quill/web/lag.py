"""The Lag trial: modelled, laid beside what was stated, measured and filmed; runs kept; a device inspected."""

import dataclasses
from typing import Any

from flask import Blueprint

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lag.figures import Filmed, Live, figures
from gray_quill.core.lag.missed import missed
from gray_quill.core.lag.swaps import swap_factors
from gray_quill.core.lag.trial import Lag, model_lag, quick_lag
from gray_quill.core.lag.updates import update_period_s
from gray_quill.core.lag.verdict import THRESHOLDS, verdict
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.readings.inspection import Inspection, device_like, inspect_input, inspect_stand_in
from gray_quill.store.pens import get_pen
from gray_quill.store.things import add_thing, get_thing, list_things
from gray_quill.store.trials import Trial, bin_trial, get_trial, keep_trial, list_trials
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.lag_models import (
    InspectBody,
    InspectReply,
    LagBody,
    LagCell,
    LagReply,
    NewDevice,
    NewRun,
    RunBin,
    RunItem,
    RunList,
    Setting,
    SpeedItem,
    SwapBody,
    SwapReply,
    ThresholdItem,
)
from gray_quill.web.models import DeviceItem
from gray_quill.web.replies import free_id

lag = Blueprint("lag", __name__)
SPEEDS_MM_S = (20.0, 60.0, 120.0, 250.0)


@operation(lag, "POST", "/lag", LagReply, body=LagBody)
def read_lag(body: LagBody) -> LagReply:
    """How far a pen's ink trails on a device, which stage is to blame, what a change would buy, and other pens on every
    device.
    """
    recipe, device = read_recipe(body.recipe), get_thing(db(), Device, body.device_id)
    table = []
    for device_id, one in list_things(db(), Device).items():
        for pen in (recipe, *(read_recipe(r) for r in body.beside)):
            p50, p95 = quick_lag(one, pen, body.speed_mm_s)
            table.append(LagCell(device_id=device_id, pen=pen.name, p50_ms=p50, p95_ms=p95, word=verdict(p50).word))
    now = model_lag(device, recipe, body.speed_mm_s, body.look_ahead_ms)
    speeds = dict.fromkeys((body.speed_mm_s, *SPEEDS_MM_S))
    return LagReply.model_validate(
        {
            "now": dataclasses.asdict(now),
            "table": table,
            "speeds": [_at_speed(device, recipe, s) for s in speeds],
            "figures": _figures(now, device, body.live, body.filmed),
            "update_ms": 1000 * update_period_s(device.panel),
            "thresholds": [ThresholdItem(**dataclasses.asdict(t)) for t in THRESHOLDS],
        }
    )


def _at_speed(device: Device, recipe: Recipe, speed_mm_s: float) -> SpeedItem:
    p50, p95 = quick_lag(device, recipe, speed_mm_s)
    lost = dataclasses.asdict(missed(device, recipe, speed_mm_s))
    return SpeedItem(p50_ms=p50, gap_mm_p50=p50 * speed_mm_s / 1000, gap_mm_p95=p95 * speed_mm_s / 1000, **lost)


def _figures(now: Lag, device: Device, live: Model | None, filmed: Model | None) -> list[dict[str, Any]]:
    found = figures(
        now,
        device.stated_ms,
        None if live is None else Live(**live.model_dump()),
        None if filmed is None else Filmed(**filmed.model_dump()),
    )
    return [dataclasses.asdict(f) for f in found]


@operation(lag, "POST", "/lag/swaps", SwapReply, body=SwapBody)
def swap_settings(body: SwapBody) -> SwapReply:
    """From one setting to another, one factor at a time: which of them is to blame."""
    (device, recipe), (other_device, other_recipe) = _setting(body.one), _setting(body.other)
    swaps = swap_factors(device, recipe, other_device, other_recipe, body.speed_mm_s)
    return SwapReply.model_validate({"swaps": [dataclasses.asdict(s) for s in swaps]})


def _setting(setting: Setting) -> tuple[Device, Recipe]:
    if setting.run_id is not None:
        run = get_trial(db(), "lag", setting.run_id)
        return read_record(Device, run.inputs["device"]), read_recipe(run.inputs["recipe"])
    if setting.recipe is None or setting.device_id is None:
        raise InputError("Give a kept run, or a recipe and a device.", "run_id")
    return get_thing(db(), Device, setting.device_id), read_recipe(setting.recipe)


@operation(lag, "POST", "/lag/runs", RunItem, body=NewRun)
def keep_run(body: NewRun) -> RunItem:
    """Keep a run with everything it was made from, to lay it beside another later."""
    pen, device = get_pen(db(), body.pen_id, body.revision), get_thing(db(), Device, body.device_id)
    hand = get_thing(db(), Hand, body.hand_id)
    now = model_lag(device, pen.recipe, body.speed_mm_s, body.look_ahead_ms)
    results = {
        "now": dataclasses.asdict(now),
        "live": body.live and body.live.model_dump(),
        "filmed": body.filmed and body.filmed.model_dump(),
        "figures": _figures(now, device, body.live, body.filmed),
    }
    inputs = {
        "recipe": record_json(pen.recipe),
        "device": record_json(device),
        "hand": hand.name,
        "speed_mm_s": body.speed_mm_s,
        "look_ahead_ms": body.look_ahead_ms,
    }
    return _run_item(
        keep_trial(
            db(), Trial("lag", body.hand_id, body.device_id, inputs, results, now.word, body.pen_id, body.revision)
        )
    )


@operation(lag, "GET", "/lag/runs", RunList)
def kept_runs() -> RunList:
    """All kept runs, newest first."""
    return RunList(runs=[_run_item(t) for t in list_trials(db(), "lag")])


@operation(lag, "PUT", "/lag/runs/<run_id>/bin", RunList, body=RunBin)
def bin_run(run_id: str, body: RunBin) -> RunList:
    """Put a kept run into the bin, or back."""
    bin_trial(db(), "lag", run_id, body.binned)
    return kept_runs()


def _run_item(run: Trial) -> RunItem:
    return RunItem.model_validate(
        {
            "id": run.id,
            "pen": run.inputs["recipe"]["name"],
            "device": run.inputs["device"]["name"],
            "hand": run.inputs["hand"],
            "created_at": run.created_at,
            "verdict": run.verdict,
            "look_ahead_ms": run.inputs["look_ahead_ms"],
            **run.results,
        }
    )


@operation(lag, "POST", "/inspect", InspectReply, body=InspectBody)
def inspect_device(body: InspectBody) -> InspectReply:
    """What the device behind some strokes reports, and what it leaves out."""
    return InspectReply.model_validate(dataclasses.asdict(_inspected(body)))


def _inspected(body: InspectBody) -> Inspection:
    if body.seen is not None:
        return inspect_input(
            [s.trace() for s in body.seen.strokes], body.seen.hover, body.seen.contact_size, body.seen.frame_hz
        )
    if body.stand_in is not None:
        return inspect_stand_in(get_thing(db(), Device, body.stand_in))
    if body.source is None:
        raise InputError("Give strokes of a sheet, a device, or strokes just written.", "source")
    return inspect_input(memory().traces_of(db(), body.source))


@operation(lag, "POST", "/devices", DeviceItem, body=NewDevice)
def keep_device(body: NewDevice) -> DeviceItem:
    """Keep a device of one's own, made from what its strokes show."""
    base = get_thing(db(), Device, body.like)
    made = dataclasses.replace(device_like(_inspected(body.ink), base, body.name), stated_ms=body.stated_ms)
    device = read_record(Device, record_json(made), "device.")
    device_id = free_id(body.name, list_things(db(), Device))
    add_thing(db(), device_id, device)
    return DeviceItem(id=device_id, device=record_json(device))
