"""Devices in front of the user: what they report, how they aim, how straight they are; and devices of one's own."""

import dataclasses
from typing import Literal

from flask import Blueprint
from pydantic import Field

from gray_quill.core.digitiser.device import Device, lit_as
from gray_quill.core.errors import InputError
from gray_quill.core.lag.inspection import Inspection, device_like, inspect_input, inspect_stand_in
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.screen.aim import Aim, Tap, read_aim
from gray_quill.core.screen.straightness import Straightness, read_straightness
from gray_quill.store.things import add_thing, get_thing
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import DeviceItem, Id, Name, Source, StrokeColumns
from gray_quill.web.replies import new_id

devices = Blueprint("devices", __name__)


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


class SeenScreen(Model):
    """What a browser knows of its screen, what its user said of it, and what straight lines showed of its digitiser."""

    kind: Literal["tablet", "laptop", "e-paper"]
    width_px: int
    height_px: int
    ppi: float
    refresh_hz: float
    greys: int
    colour: bool
    wave_mm: float = 0
    wave_period_mm: float = 6


class NewDevice(Model):
    """A device of one's own: like a kept one, with the digitiser these strokes show, the screen that was seen, and what
    its data sheet states.
    """

    name: Name
    like: Id
    ink: InspectBody
    stated_ms: float = Field(0, ge=0, le=1000)
    screen: SeenScreen | None = None


class AimBody(Model):
    """Taps on crosses, in mm on the screen."""

    taps: list[Tap] = Field(max_length=200)


class LinesBody(Model):
    """Lines ruled aslant, in mm on the screen."""

    lines: list[StrokeColumns] = Field(max_length=40)


@operation(devices, "POST", "/lag/inspect", Inspection, body=InspectBody)
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


@operation(devices, "POST", "/devices", DeviceItem, body=NewDevice, status=201)
def keep_device(body: NewDevice) -> DeviceItem:
    """Keep a device of one's own, made from what its strokes show."""
    base = get_thing(db(), Device, body.like)
    made = dataclasses.replace(device_like(inspect_device(body.ink), base, body.name), stated_ms=body.stated_ms)
    if body.screen is not None:
        made = _with_screen(made, body.screen)
    device = read_record(Device, record_json(made), "device.")
    device_id = new_id(body.name)
    add_thing(db(), device_id, device)
    return DeviceItem(id=device_id, device=device)


def _with_screen(device: Device, seen: SeenScreen) -> Device:
    panel = dataclasses.replace(
        device.panel,
        width_px=seen.width_px,
        height_px=seen.height_px,
        ppi=seen.ppi,
        refresh_hz=seen.refresh_hz,
        greys=seen.greys,
        colour=seen.colour,
    )
    digitiser = dataclasses.replace(device.digitiser, wave_mm=seen.wave_mm, wave_period_mm=seen.wave_period_mm)
    return dataclasses.replace(device, kind=seen.kind, panel=lit_as(seen.kind, panel), digitiser=digitiser)


@operation(devices, "POST", "/screen/aim", Aim, body=AimBody)
def check_aim(body: AimBody) -> Aim:
    """How far from the nib ink appears, and what would correct it."""
    return read_aim(body.taps)


@operation(devices, "POST", "/screen/straightness", Straightness, body=LinesBody)
def check_straightness(body: LinesBody) -> Straightness:
    """How straight the digitiser is, told apart from the hand's tremor."""
    return read_straightness([line.trace() for line in body.lines])
