"""Pens: revisions, the bin, JSON files, grains and swatches."""

import base64
from collections.abc import Callable

from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.grain_tile import grain_tile
from gray_quill.core.ink.page import Pixels
from gray_quill.core.ink.swatch import line_pixels, swatch_pixels
from gray_quill.core.lineup.setting_card import setting_card
from gray_quill.core.palm.rules import START
from gray_quill.core.pen.recipe import Recipe
from gray_quill.formats.card_pdf import write_card
from gray_quill.formats.pen_json import write_pen
from gray_quill.store.items import get_thing
from gray_quill.store.palm_settings import kept_setting
from gray_quill.store.pens import Pen, add_pen, add_revision, bin_pen, get_pen, list_pens, pen_history
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, read_outside
from gray_quill.web.records import BinChange, Colour, Id, Note, RecipeIn
from gray_quill.web.replies import download, drawn_once, new_id

pens = Blueprint("pens", __name__)
MOST_GRAIN_PIXELS = 20_000_000


class NewPen(Model):
    id: Id
    recipe: RecipeIn
    note: Note = ""
    on_roll: bool = True


class NewRevision(Model):
    """saw: the newest revision known; where there is a newer one by now, nothing is kept and it is told."""

    recipe: RecipeIn
    note: Note = ""
    saw: int | None = Field(None, ge=1, le=1_000_000_000)


class PenList(Model):
    pens: list[Pen]


class Grain(Model):
    """own: a grain as `tooth.own` holds it."""

    own: str


class SwatchQuery(Model):
    ground: Colour = "#fffdf8"


@operation(pens, "POST", "/pens", Pen, body=NewPen, status=201)
def new_pen(body: NewPen) -> Pen:
    """Keep a new pen."""
    return add_pen(db(), body.id, body.recipe, body.note, body.on_roll)


@operation(pens, "GET", "/pens/<pen_id>/revisions", PenList)
def read_pen_history(pen_id: str) -> PenList:
    """All revisions of a pen, newest first."""
    return PenList(pens=pen_history(db(), pen_id))


@operation(pens, "POST", "/pens/<pen_id>/revisions", Pen, body=NewRevision, status=201)
def new_revision(pen_id: str, body: NewRevision) -> Pen:
    """Keep a changed recipe as the pen's next revision."""
    return add_revision(db(), pen_id, body.recipe, body.note, body.saw)


@operation(pens, "PUT", "/pens/<pen_id>/bin", Pen, body=BinChange)
def change_pen_bin(pen_id: str, body: BinChange) -> Pen:
    """Move a pen to the bin or back."""
    bin_pen(db(), pen_id, body.binned)
    return get_pen(db(), pen_id)


@operation(pens, "GET", "/bin/pens", PenList)
def read_pen_bin() -> PenList:
    """Pens in the bin."""
    return PenList(pens=list_pens(db(), binned=True))


@operation(pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/file", "application/json")
def take_out_pen(pen_id: str, revision: int) -> Response:
    """A revision as a pen JSON file."""
    return download(write_pen(get_pen(db(), pen_id, revision).recipe), "application/json", f"{pen_id}-{revision}.json")


class CardQuery(Model):
    """hand_id: whose palm rules on the device are on the card, and whose writing tells what the steadying does."""

    device_id: Id
    hand_id: Id


@operation(
    pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/card.pdf", "application/pdf", query=CardQuery, costly=True
)
def take_out_card(pen_id: str, revision: int, query: CardQuery) -> Response:
    """The setting card of a pen on a device."""
    recipe = get_pen(db(), pen_id, revision).recipe
    device, hand = get_thing(db(), Device, query.device_id), get_thing(db(), Hand, query.hand_id)
    kept = kept_setting(db(), query.hand_id, query.device_id)
    card = setting_card(recipe, device, hand, kept[0] if kept else START)
    return download(write_card(card, recipe), "application/pdf", f"{pen_id}-{revision}-card.pdf")


@operation(pens, "POST", "/pens/files", Pen, body="application/json", status=201, reads_file=True)
def bring_in_pen(body: bytes) -> Pen:
    """Keep a pen from a pen JSON file."""
    recipe: Recipe = read_outside("pen", body)
    return add_pen(db(), new_id(recipe.name), recipe, "brought in from a file", on_roll=True)


@operation(pens, "POST", "/pens/grains", Grain, body="image/png", reads_file=True)
def make_grain(body: bytes) -> Grain:
    """A picture of a surface as a grain for a pen."""
    grey = to_grey8(read_outside("grain", body, most_pixels=MOST_GRAIN_PIXELS)) / 255
    return Grain(own=base64.b64encode(grain_tile(grey).tobytes()).decode())


@operation(
    pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/swatch.png", "image/png", query=SwatchQuery, remembered=True
)
def read_swatch(pen_id: str, revision: int, query: SwatchQuery) -> Response:
    """A stroke this pen really draws."""
    return _picture_of(get_pen(db(), pen_id, revision).recipe, query.ground, swatch_pixels)


class SwatchOf(SwatchQuery):
    recipe: RecipeIn


@operation(pens, "POST", "/pens/swatch.png", "image/png", body=SwatchOf)
def draw_swatch(body: SwatchOf) -> Response:
    """A stroke a pen really draws with changes that are not kept."""
    return _picture_of(body.recipe, body.ground, swatch_pixels)


@operation(
    pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/line.png", "image/png", query=SwatchQuery, remembered=True
)
def read_line(pen_id: str, revision: int, query: SwatchQuery) -> Response:
    """A long straight line by this pen."""
    return _picture_of(get_pen(db(), pen_id, revision).recipe, query.ground, line_pixels)


def _picture_of(recipe: Recipe, ground: str, drawn: Callable[[Recipe, str], Pixels]) -> Response:
    made_from = f"{write_pen(recipe).decode()} {drawn.__name__} {ground}"
    return drawn_once(made_from, lambda: drawn(recipe, ground))
