"""What things look like, drawn by the core when it is asked for, and not again while they stay as they are."""

import json
from collections.abc import Callable

import numpy as np
from flask import Blueprint, Response
from numpy.typing import NDArray
from pydantic import Field

from gray_quill.core.colour.tile import palette_pixels
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.page import ink_pixels, page_pixels, paper_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.swatch import line_pixels, swatch_pixels
from gray_quill.core.ink.underlay import printed
from gray_quill.core.ink.view import View, fitted_view
from gray_quill.core.panel.proof import on_panel
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import bounds_mm
from gray_quill.store.cabinet.finding import Thing, get_kept
from gray_quill.store.cabinet.item_operations import first_page
from gray_quill.store.cabinet.needs import needed
from gray_quill.store.items import get_thing
from gray_quill.store.originals import get_original
from gray_quill.store.pens import get_pen
from gray_quill.store.settings import get_settings
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import operation
from gray_quill.web.cabinet import ThingQuery
from gray_quill.web.context import db, memory
from gray_quill.web.own_papers import CORNER_PX_PER_MM, kept_papers
from gray_quill.web.pens import SwatchQuery
from gray_quill.web.replies import drawn_once

cabinet_pictures = Blueprint("cabinet_pictures", __name__)
TILE_PX = (240, 132)
WORD, WORD_MM = "moth", 15.0
MOST_LINES = 5
Tile = tuple[str, Callable[[], NDArray[np.uint8]]]  # what it is made from, and how


class PictureQuery(ThingQuery, SwatchQuery):
    """times: how often the thing was changed on a screen, which thereby asks anew."""

    times: int = Field(0, ge=0, le=1_000_000)


@operation(cabinet_pictures, "GET", "/cabinet/picture.png", "image/png", query=PictureQuery, remembered=True)
def read_picture(query: PictureQuery) -> Response:
    """A thing as it looks: a pen's stroke, a hand's line, a word on a device's panel, a page in small."""
    thing = get_kept(db(), query.kind, query.id)
    made_from, drawn = _tile(thing, query.ground)
    return drawn_once(f"{thing.kind} {query.ground} {made_from}", drawn)


def _tile(thing: Thing, ground: str) -> Tile:
    if thing.kind == "pen":
        recipe = get_pen(db(), thing.id).recipe
        return repr(recipe), lambda: swatch_pixels(recipe, ground)
    if thing.kind == "hand":
        hand = get_thing(db(), Hand, thing.id)
        return repr(hand), lambda: _by_hand(hand, ground)
    if thing.kind == "device":
        device = get_thing(db(), Device, thing.id)
        return repr(device), lambda: _on_device(device)
    if thing.kind in ("sheet", "piece"):
        return _page(thing)
    if thing.kind in ("picture", "document"):
        return _original(thing)
    if thing.kind == "paper":
        return _paper(thing)
    if thing.kind == "palette":
        colours = [one["colour"] for one in get_settings(db())["palette"]]
        return repr(colours), lambda: palette_pixels(colours, *TILE_PX)
    return _pens_of_run(thing, ground)


def _by_hand(hand: Hand, ground: str) -> NDArray[np.uint8]:
    traces = write_text(WORD, hand, Device(), 1, width_mm=200)
    return ink_pixels(settle_all(traces, Recipe()), fitted_view(bounds_mm(traces), *TILE_PX), ground)


def _on_device(device: Device) -> NDArray[np.uint8]:
    """Part of a written word, each pixel of the panel as large as it is beside those of other panels."""
    traces = write_text(WORD, Hand("neat", "right", tremor_mm=0), Device(), 1, width_mm=200)
    left, top, right, bottom = bounds_mm(traces)
    px_per_mm = device.panel.ppi / 25.4
    height_mm = WORD_MM * TILE_PX[1] / TILE_PX[0]
    corner = (left + right - WORD_MM) / 2, (top + bottom - height_mm) / 2
    view = View(*corner, px_per_mm, max(4, round(WORD_MM * px_per_mm)), max(3, round(height_mm * px_per_mm)))
    shown = on_panel(page_pixels(settle_all(traces, Recipe()), Paper(), view), device.panel)
    columns = np.arange(TILE_PX[0]) * shown.shape[1] // TILE_PX[0]
    rows = np.arange(TILE_PX[1]) * shown.shape[0] // TILE_PX[1]
    return np.ascontiguousarray(shown[rows][:, columns])


def _page(thing: Thing) -> Tile:
    sheet = get_sheet(db(), first_page(db(), thing.id))
    scale = min(TILE_PX[0] / sheet.paper.width_mm, 2 * TILE_PX[1] / sheet.paper.height_mm)
    size = (max(1, round(side * scale)) for side in (sheet.paper.width_mm, sheet.paper.height_mm))
    view = View(0, 0, scale, *size)
    return f"{sheet.id} {sheet.ink} {sheet.version}", lambda: memory().page(db(), sheet.id, view)


def _original(thing: Thing) -> Tile:
    width, height = get_original(db(), thing.id).sizes_mm[0]
    scale = min(TILE_PX[0] / width, 2 * TILE_PX[1] / height)
    size = max(1, round(width * scale)), max(1, round(height * scale))
    return thing.id, lambda: memory().originals.drawn(thing.id, 1, (0, 0, 1, 1), *size)


def _paper(thing: Thing) -> Tile:
    own = next(p for p in kept_papers(get_settings(db())) if p.name == thing.id)
    paper = printed(own.paper, own.prints, memory().originals)
    return own.model_dump_json(), lambda: paper_pixels(paper, View(0, 0, CORNER_PX_PER_MM / 2, *TILE_PX))


def _pens_of_run(thing: Thing, ground: str) -> Tile:
    """Lines of the pens a run was made with, one below the other."""
    pens = sorted(needed(db(), thing.kind, thing.id).get("pens", ()))[:MOST_LINES]
    if not pens:
        raise NotFound("There is no picture of this.", "id")
    recipes = [get_pen(db(), pen).recipe for pen in pens]
    return json.dumps([repr(r) for r in recipes]), lambda: np.concatenate([line_pixels(r, ground) for r in recipes])
