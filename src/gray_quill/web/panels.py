"""Panels: proofs of a sheet on the devices at hand, and pens that hold on them."""

import dataclasses
from typing import Annotated

import numpy as np
from flask import Blueprint
from pydantic import Field

from gray_quill.core.advice.fit_panel import Fitted, fit_to_panels
from gray_quill.core.advice.on_panel import OnPanel as SheetOnPanel
from gray_quill.core.advice.on_panel import PanelAdvice, advise_on_panel, surface_advice
from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device, Panel, Updates
from gray_quill.core.errors import Conflict, InputError
from gray_quill.core.ink.settle import Ink
from gray_quill.core.latency.pen_path import path_advice
from gray_quill.core.panel.cut import THEN
from gray_quill.core.panel.difference import apart_l, heat_picture
from gray_quill.core.panel.light import ROOMS, as_seen, room_of, white_cd_m2
from gray_quill.core.panel.proof import PLAIN, Proof, Toning, proof_sheet
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.exported import Exported, exported, softest
from gray_quill.core.readings.on_panel import PenOnPanel, alike, read_pen_on_panel
from gray_quill.core.readings.panel_readings import PanelReadings, panel_readings, vanishing_runs
from gray_quill.core.units import px_per_mm
from gray_quill.formats.png import write_png
from gray_quill.store.database import transaction
from gray_quill.store.items import add_thing, get_thing
from gray_quill.store.pens import get_pen
from gray_quill.store.seen import check_seen
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import layers_read, shown_index
from gray_quill.web.records import Colour, DeviceItem, Id, Name, PanelIn, RecipeIn, Source, ToningIn, UpdatesIn
from gray_quill.web.replies import data_url, new_id
from gray_quill.web.time_budget import in_time

panels = Blueprint("panels", __name__)
MOST_PANELS = 4
STEP_MM = 0.4  # between points of what is marked
Light = Annotated[str, Field(max_length=40)]


class OnPanel(Model):
    """A sheet on a device, toned so. panel, recipe: of the device and of the sheet's pen, as they are being changed."""

    sheet_id: Id
    device_id: Id
    panel: PanelIn | None = None
    recipe: RecipeIn | None = None
    toning: ToningIn = PLAIN


class ProofBody(OnPanel):
    """A sheet on a device in the light of a room."""

    light: Light = "no glare"


class ProofReply(Model):
    """pen: what the panel leaves of the sheet's pen and of all that wrote on it; alike: names of those it shows alike.
    white_cd_m2: how light the panel's white is in that light, None without one. broken: ways in mm, x and y by turns,
    along which ink may vanish. layers: which of the sheet's layers are shown, and which are not.
    """

    image: str
    readings: PanelReadings
    width_px: int
    height_px: int
    greys: int
    pen: PenOnPanel
    white_cd_m2: float | None
    alike: list[tuple[str, str]]
    broken: list[list[float]]
    layers: str


class DifferenceBody(Model):
    """Two proofs of one sheet."""

    one: ProofBody
    other: ProofBody


class DifferenceReply(Model):
    """image: red where they differ, clear where they are alike, over the whole page. mean_l, most_l: of the difference
    in L*, of all squares and of the one that differs most.
    """

    image: str
    mean_l: float
    most_l: float


class OwnPanel(Model):
    """A panel as a device of one's own, all else like another."""

    name: Name
    like: Id
    panel: PanelIn
    updates: UpdatesIn | None = None


class PanelChange(Model):
    """updates: left as they are where none are given; saw: the panel this was made from."""

    panel: PanelIn
    updates: UpdatesIn | None = None
    saw: PanelIn | None = None


class PanelFitBody(Model):
    """A pen that shall hold on all of these devices, each toned so; plain where no tonings are given."""

    recipe: RecipeIn
    source: Source
    device_ids: list[Id] = Field(min_length=1, max_length=MOST_PANELS)
    tonings: list[ToningIn] = Field(default=[], max_length=MOST_PANELS)
    light: Light = "no glare"


class PanelWays(Model):
    """All that is declared of panels, asked for by the station that shows them."""

    toning_fields: list[Control]
    panel_fields: list[Control]
    updates_fields: list[Control]
    shipped_devices: list[str]
    rooms: list[str]
    film_then: list[str]


@operation(panels, "GET", "/panels", PanelWays)
def read_panel_ways() -> PanelWays:
    """What a panel and its toning have to be set, in which rooms it stands, and what can be done on it in time."""
    return PanelWays(
        toning_fields=describe_record(Toning),
        panel_fields=describe_record(Panel),
        updates_fields=describe_record(Updates),
        shipped_devices=list(SHIPPED_DEVICES),
        rooms=list(ROOMS),
        film_then=list(THEN),
    )


@operation(panels, "POST", "/panels/proof", ProofReply, body=ProofBody, remembered=True)
def read_proof(body: ProofBody) -> ProofReply:
    """The sheet as a device's panel shows it, pixel for pixel, and what becomes of its ink there."""
    sheet, room = get_sheet(db(), body.sheet_id), room_of(body.light)
    ground = memory().ground(sheet)
    panel, inks, proof = _proof(body)
    pen = body.recipe or get_pen(db(), sheet.pen_id).recipe
    pens = list({ink.recipe.name: ink.recipe for ink in inks}.values())
    pairs = alike(pens, sheet.paper.colour, panel, body.toning, room)
    return ProofReply(
        image=data_url(write_png(as_seen(proof.pixels, panel, room), panel.ppi, compress=1)),
        readings=panel_readings(inks, ground, panel, proof),
        width_px=proof.pixels.shape[1],
        height_px=proof.pixels.shape[0],
        greys=body.toning.greys or panel.greys,
        pen=read_pen_on_panel(pen, pens, sheet.paper.colour, panel, body.toning, room),
        white_cd_m2=None if room.lux is None else white_cd_m2(panel, room),
        alike=[(pens[i].name, pens[j].name) for i, j in pairs],
        broken=[_few(way) for way in vanishing_runs(inks, ground, panel, proof)],
        layers=layers_read(db(), sheet, shown_index(db(), body.sheet_id)[0]),
    )


def _few(way: Floats) -> list[float]:
    """Every STEP_MM or so of a way, and its end."""
    along = np.append(0, np.cumsum(np.hypot(*np.diff(way, axis=0).T)))
    kept = np.unique(np.searchsorted(along, np.append(np.arange(0, along[-1], STEP_MM), along[-1])))
    return [round(float(v), 2) for v in way[kept].ravel()]


def _proof(body: ProofBody) -> tuple[Panel, list[Ink], Proof]:
    panel = body.panel or get_thing(db(), Device, body.device_id).panel
    inks = memory().sheet_inks(db(), body.sheet_id, body.recipe)
    ground = memory().ground(get_sheet(db(), body.sheet_id))
    return panel, inks, proof_sheet(inks, ground, panel, body.toning, room_of(body.light))


class Exports(Model):
    """looks: the panel's look, then pictures of the sheet at several dpi; softest_dpi: the finest whose edges are
    clearly softer than the panel's, None where none are.
    """

    looks: list[Exported]
    softest_dpi: int | None


@operation(panels, "POST", "/panels/exports", Exports, body=OnPanel, remembered=True)
def read_exports(body: OnPanel) -> Exports:
    """The sheet as it is sent out, beside what its writer sees on a device."""
    panel, pen, paper = _on_panel(body)
    found = exported(memory().sheet_inks(db(), body.sheet_id, body.recipe), pen, paper, panel, body.toning)
    return Exports(looks=found, softest_dpi=softest(found))


class FrameColours(Model):
    """Of the frame's quiet words and of what they stand on."""

    words: Colour
    ground: Colour


class PanelAdviceBody(ProofBody):
    """frame: as it is on the screen now, None where it is on its e-ink surface."""

    frame: FrameColours | None = None


class PanelAdviceReply(Model):
    advice: list[PanelAdvice]


@operation(panels, "POST", "/panels/advice", PanelAdviceReply, body=PanelAdviceBody, remembered=True)
def read_panel_advice(body: PanelAdviceBody) -> PanelAdviceReply:
    """What to change so that more of the sheet is seen on a device, each change measured on it."""
    panel, pen, paper = _on_panel(body)
    source = Source(sheet_id=body.sheet_id, part="line", stroke_ids=None)
    traces = memory().traces_of(db(), source)

    def inks_of(recipe: Recipe) -> list[Ink]:
        in_time()
        return memory().sheet_inks(db(), body.sheet_id, recipe)

    room, frame = room_of(body.light), body.frame
    sheet = SheetOnPanel(inks_of, traces, paper, panel, room)
    device = dataclasses.replace(get_thing(db(), Device, body.device_id), panel=panel)
    told = [*path_advice(device, pen), *advise_on_panel(sheet, pen, body.toning)]
    return PanelAdviceReply(advice=told + (surface_advice(panel, frame.words, frame.ground, room) if frame else []))


def _on_panel(body: OnPanel) -> tuple[Panel, Recipe, Paper]:
    """The panel, the pen, as they are being changed, and the paper with what is printed on it."""
    sheet = get_sheet(db(), body.sheet_id)
    panel = body.panel or get_thing(db(), Device, body.device_id).panel
    return panel, body.recipe or get_pen(db(), sheet.pen_id).recipe, memory().ground(sheet)


@operation(panels, "POST", "/panels/difference", DifferenceReply, body=DifferenceBody, remembered=True)
def read_difference(body: DifferenceBody) -> DifferenceReply:
    """Where two panels show a sheet differently."""
    if body.one.sheet_id != body.other.sheet_id:
        raise InputError("Two proofs of one sheet are needed, these are of two.", "other.sheet_id")
    (one, _, first), (other, _, second) = _proof(body.one), _proof(body.other)
    apart = apart_l(first, second, px_per_mm(one.ppi), px_per_mm(other.ppi))
    return DifferenceReply(
        image=data_url(write_png(heat_picture(apart), compress=1)),
        mean_l=float(np.abs(apart).mean()),
        most_l=float(np.abs(apart).max()),
    )


@operation(panels, "POST", "/panels/own", DeviceItem, body=OwnPanel, status=201)
def make_own(body: OwnPanel) -> DeviceItem:
    """Keep a panel as a device of one's own, all else like another."""
    like = get_thing(db(), Device, body.like)
    made_id = new_id(body.name)
    return _kept(made_id, _with_panel(dataclasses.replace(like, name=body.name), body))


@operation(panels, "PUT", "/panels/own/<device_id>", DeviceItem, body=PanelChange)
def change_own(device_id: str, body: PanelChange) -> DeviceItem:
    """Change the panel of a device of one's own."""
    if device_id in SHIPPED_DEVICES:
        raise Conflict("This device came with Gray Quill and stays as it is. Keep the panel as a device of your own.")
    with transaction(db()):
        own = get_thing(db(), Device, device_id)
        check_seen(body.saw, own.panel, "This panel was")
        return _kept(device_id, _with_panel(own, body))


def _with_panel(device: Device, given: OwnPanel | PanelChange) -> Device:
    updates = given.updates or device.updates
    return dataclasses.replace(device, panel=given.panel, updates=updates, kind=_kind(device, given.panel))


def _kind(device: Device, panel: Panel) -> str:
    """E-paper where its panel is; a tablet where it no longer is."""
    if panel.technology == "e-paper":
        return "e-paper"
    return "tablet" if device.kind == "e-paper" else device.kind


def _kept(device_id: str, device: Device) -> DeviceItem:
    add_thing(db(), device_id, device)
    return DeviceItem(id=device_id, device=device)


@operation(panels, "POST", "/panels/fit", Fitted, body=PanelFitBody, remembered=True)
def fit_pen(body: PanelFitBody) -> Fitted:
    """The smallest change of a pen's width and tone with which none of its ink vanishes on these devices."""
    sheet = get_sheet(db(), body.source.sheet_id)
    chosen = [get_thing(db(), Device, device_id).panel for device_id in body.device_ids]
    traces = memory().traces_of(db(), body.source)
    if body.tonings and len(body.tonings) != len(chosen):
        raise InputError("Say how each of these devices tones, or of none.", "tonings")
    return fit_to_panels(traces, body.recipe, sheet.paper, chosen, body.tonings, room_of(body.light))
