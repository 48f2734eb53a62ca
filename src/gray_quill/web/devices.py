"""Devices in front of the user: what they report, how they aim, how straight they are; and devices of one's own."""

import dataclasses
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.digitiser.device import ByEye, Device, lit_as
from gray_quill.core.errors import InputError
from gray_quill.core.latency.inspection import Inspection, device_like, inspect_input, inspect_stand_in
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.screen.aim import Aim, Tap, read_aim
from gray_quill.core.screen.by_eye import CHOICES, MOST_LOOKS, EyeSees, Matched, looked_at, matched, panel_greys
from gray_quill.core.screen.small_words import like_words, small_writing
from gray_quill.core.screen.straightness import Straightness, read_straightness
from gray_quill.formats.png import write_png
from gray_quill.store.items import add_thing, get_thing
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import ByEyeIn, DeviceItem, Id, LookedIn, Name, Source, StrokeColumns
from gray_quill.web.replies import new_id, png

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
    by_eye: ByEyeIn = ByEye()


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
    told = seen.by_eye.greys.value
    panel = dataclasses.replace(
        device.panel,
        width_px=seen.width_px,
        height_px=seen.height_px,
        ppi=seen.ppi,
        refresh_hz=seen.refresh_hz,
        greys=seen.greys if told is None or seen.colour else panel_greys(told),
        colour=seen.colour,
    )
    updates, response = device.updates, seen.by_eye.response.value
    if response is not None and seen.kind != "e-paper":
        panel = dataclasses.replace(panel, response_ms=response)
    elif response is not None:
        takes = max(1.0, 2 * response)
        fast = dataclasses.replace(updates, fast_ms=takes)
        updates = fast if panel.fast_pen else dataclasses.replace(updates, grey_ms=takes)
    if seen.by_eye.ghost.value is not None:  # a checker turned white: its ghost is of the sort that erasing leaves
        updates = dataclasses.replace(updates, grey_ghost=min(seen.by_eye.ghost.value / updates.lighter, 0.5))
    digitiser = dataclasses.replace(device.digitiser, wave_mm=seen.wave_mm, wave_period_mm=seen.wave_period_mm)
    lit = lit_as(seen.kind, panel)
    return dataclasses.replace(
        device, kind=seen.kind, panel=lit, digitiser=digitiser, updates=updates, by_eye=seen.by_eye
    )


@operation(devices, "POST", "/screen/aim", Aim, body=AimBody)
def check_aim(body: AimBody) -> Aim:
    """How far from the nib ink appears, and what would correct it."""
    return read_aim(body.taps)


class LooksBody(Model):
    """Answers so far in one of the ladders; seed: of what is shown next."""

    kind: Annotated[str, Field(max_length=40)]
    looks: list[LookedIn] = Field(max_length=MOST_LOOKS)
    seed: int = Field(0, ge=0, le=2**31)


class LookNext(Model):
    """found: so far, and at which level to go on. pick: which of the four is right; grey: the ground of a grey that is
    laid on it; words: four that look alike.
    """

    found: EyeSees
    pick: int
    grey: int
    words: list[str]


class MatchesBody(Model):
    settings: list[Annotated[float, Field(ge=0, le=100_000)]] = Field(max_length=50)


class MatchesReply(Model):
    """matched: None while there are too few."""

    matched: Matched | None


class WordBody(Model):
    """A word as a hand writes it, small."""

    word: Annotated[str, Field(min_length=1, max_length=20)]
    x_height_mm: Annotated[float, Field(ge=0.2, le=10)]
    px_per_mm: Annotated[float, Field(ge=1, le=60)]
    bold: bool = False


@operation(devices, "POST", "/screen/looks", LookNext, body=LooksBody)
def look_closer(body: LooksBody) -> LookNext:
    """What an eye sees of greys, lines, print or writing, and what to show it next."""
    found = looked_at(body.kind, body.looks)
    rng = np.random.default_rng([body.seed, len(body.looks)])
    return LookNext(
        found=found,
        pick=int(rng.integers(CHOICES)),
        grey=int(rng.integers(0, 256 - int(found.level))) if body.kind == "greys" else 0,
        words=like_words(rng),
    )


@operation(devices, "POST", "/screen/matches", MatchesReply, body=MatchesBody)
def match_settings(body: MatchesBody) -> MatchesReply:
    """The mean of several settings that looked the same, with its interval."""
    return MatchesReply(matched=matched(body.settings))


@operation(devices, "POST", "/screen/word", "image/png", body=WordBody)
def write_small(body: WordBody) -> Response:
    """A word in writing of some x-height, for this screen's pixels."""
    return png(write_png(small_writing(body.word, body.x_height_mm, body.px_per_mm, body.bold), compress=1))


@operation(devices, "POST", "/screen/straightness", Straightness, body=LinesBody)
def check_straightness(body: LinesBody) -> Straightness:
    """How straight the digitiser is, told apart from the hand's tremor."""
    return read_straightness([line.trace() for line in body.lines])
