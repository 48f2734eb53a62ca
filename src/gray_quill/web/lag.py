"""The Lag trial: modelled, and filmed."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from flask import Blueprint
from numpy.typing import NDArray

from gray_quill.core.digitiser.device import Device
from gray_quill.core.lag.film import film
from gray_quill.core.lag.film_reader import read_film
from gray_quill.core.lag.trial import model_lag, quick_lag
from gray_quill.core.lag.verdict import THRESHOLDS, verdict
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.readings.inspection import device_like, inspect_input
from gray_quill.formats.film_zip import read_film_zip
from gray_quill.formats.png import write_png
from gray_quill.store.things import add_thing, get_thing, list_things
from gray_quill.web.api import operation
from gray_quill.web.context import db, memory
from gray_quill.web.lag_models import FilmBody, FilmQuery, FilmReading, InspectReply, LagBody, LagCell, LagItem, LagReply, NewDevice, ThresholdItem
from gray_quill.web.models import DeviceItem, Source
from gray_quill.web.replies import data_url, free_id

lag = Blueprint("lag", __name__)


@operation(lag, "POST", "/lag", LagReply, body=LagBody)
def read_lag(body: LagBody) -> LagReply:
    """How far a pen's ink trails on a device, which stage is to blame, what a change would buy, and other pens on every device."""
    recipe, device = read_recipe(body.recipe), get_thing(db(), Device, body.device_id)
    pens = [recipe, *(read_recipe(r) for r in body.beside)]
    table = []
    for device_id, one in list_things(db(), Device).items():
        for pen in pens:
            p50, p95 = quick_lag(one, pen, body.speed_mm_s)
            table.append(LagCell(device_id=device_id, pen=pen.name, p50_ms=p50, p95_ms=p95, word=verdict(p50).word))
    now = model_lag(device, recipe, body.speed_mm_s, body.look_ahead_ms)
    update_hz = device.panel.fast_pen_hz if device.panel.fast_pen else device.panel.refresh_hz
    return LagReply(now=LagItem.model_validate(dataclasses.asdict(now)), table=table, update_ms=1000 / update_hz,
                    thresholds=[ThresholdItem(**dataclasses.asdict(t)) for t in THRESHOLDS])


@operation(lag, "POST", "/inspect", InspectReply, body=Source)
def inspect_device(body: Source) -> InspectReply:
    """What the device behind some strokes reports, and what it leaves out."""
    return InspectReply.model_validate(dataclasses.asdict(inspect_input(memory().traces_of(db(), body))))


@operation(lag, "POST", "/devices", DeviceItem, body=NewDevice)
def keep_device(body: NewDevice) -> DeviceItem:
    """Keep a device of one's own, made from what its strokes show."""
    base = get_thing(db(), Device, body.like)
    made = device_like(inspect_input(memory().traces_of(db(), body.source)), base, body.name)
    device = read_record(Device, record_json(made), "device.")
    device_id = free_id(body.name, list_things(db(), Device))
    add_thing(db(), device_id, device)
    return DeviceItem(id=device_id, device=record_json(device))


@operation(lag, "POST", "/lag/film", FilmReading, body=FilmBody)
def film_pen(body: FilmBody) -> FilmReading:
    """Film a simulated pen on a device in slow motion and read the film."""
    frames, truth = film(get_thing(db(), Device, body.device_id), read_recipe(body.recipe), body.fps, body.seed)
    return _read(frames, body.fps, truth.mm_per_px, truth.delay_ms)


@operation(lag, "POST", "/lag/film-read", FilmReading, body="application/zip", query=FilmQuery)
def read_own_film(body: bytes, query: FilmQuery) -> FilmReading:
    """Read a film of your own: a zip of PNG frames."""
    return _read(read_film_zip(body), query.fps, query.mm_per_px, None)


def _read(frames: Sequence[NDArray[np.uint8]], fps: float, mm_per_px: float, truth_ms: float | None) -> FilmReading:
    found = read_film(frames, fps, mm_per_px)
    last = found.frames_at[-1]
    return FilmReading(delay_ms=found.delay_ms, ci95_ms=found.ci95_ms, gap_mm=found.gap_mm, speed_mm_s=found.speed_mm_s, frames_used=found.frames_used,
                       truth_ms=truth_ms, frame=data_url(write_png(frames[last], compress=1)), nib_px=float(found.nib_mm[-1] / mm_per_px),
                       front_px=float(found.front_mm[-1] / mm_per_px))
