"""Hands: kept ones, a line of what one writes, and a hand measured from writing."""

from flask import Blueprint
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.prompts import prompts_for
from gray_quill.core.ink.page import ink_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import fitted_view
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.lines import longest_line
from gray_quill.core.readings.own_hand import OwnHand, measure_hand
from gray_quill.core.trace import Trace, bounds_mm
from gray_quill.formats.png import write_png
from gray_quill.store.items import add_thing, get_thing
from gray_quill.store.sheets import get_sheet
from gray_quill.store.strokes import stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import WRITING
from gray_quill.web.records import HandIn, HandItem, Id, Pixels, RecipeIn
from gray_quill.web.replies import data_url

hands = Blueprint("hands", __name__)
HAND_LINE = "moths on the sheet"
TELLING = (
    "wedge",
    "ruler line",
    "small text",
    "light",
    "everyday",
    "firm",
)  # prompts that are written, or drawn slowly
MOST_SAMPLES = 20_000  # of the newest strokes, which a hand is measured from


class NewHand(Model):
    id: Id
    hand: HandIn


class HandLine(Model):
    """A hand that need not be kept, and the pen and device it writes a line with."""

    hand: HandIn
    device_id: Id
    recipe: RecipeIn
    text: str = Field(HAND_LINE, max_length=80)
    width_px: Pixels = 1200
    height_px: Pixels = 150


class HandLineReply(Model):
    image: str


class MeasureBody(Model):
    """A sheet to measure a hand from; like: the hand for what writing does not tell; recipe: for the picture."""

    sheet_id: Id
    like: HandIn
    recipe: RecipeIn
    width_px: Pixels = 1200
    height_px: Pixels = 150


class MeasureReply(Model):
    """measured: the hand; image: the longest line it was measured from, to lay beside what the hand writes."""

    measured: OwnHand
    image: str


@operation(hands, "POST", "/hands", HandItem, body=NewHand, status=201)
def add_hand(body: NewHand) -> HandItem:
    """Keep a hand, new or changed."""
    add_thing(db(), body.id, body.hand)
    return HandItem(id=body.id, hand=body.hand)


@operation(hands, "POST", "/hands/line", HandLineReply, body=HandLine, remembered=True)
def draw_hand_line(body: HandLine) -> HandLineReply:
    """A line a simulated hand writes, kept or not, as a see-through picture."""
    traces = write_text(body.text, body.hand, get_thing(db(), Device, body.device_id), 1, width_mm=400)
    return HandLineReply(image=_picture(traces, body.recipe, body.width_px, body.height_px))


@operation(hands, "POST", "/hands/measure", MeasureReply, body=MeasureBody, remembered=True)
def measure(body: MeasureBody) -> MeasureReply:
    """The hand that wrote on a sheet, each habit with its interval, and what still differs."""
    sheet = get_sheet(db(), body.sheet_id)
    traces = _written(body.sheet_id)
    measured = measure_hand(traces, body.like, get_thing(db(), Device, sheet.device_id))
    line = [traces[i] for i in longest_line(traces)]
    return MeasureReply(measured=measured, image=_picture(line, body.recipe, body.width_px, body.height_px))


def _picture(traces: list[Trace], recipe: Recipe, width_px: int, height_px: int) -> str:
    view = fitted_view(bounds_mm(traces), width_px, height_px)
    return data_url(write_png(ink_pixels(settle_all(traces, recipe), view), compress=1))


def _written(sheet_id: str) -> list[Trace]:
    """The newest strokes of a sheet that tell of a hand: of pens that write; on a test sheet of prompts that do."""
    sheet = get_sheet(db(), sheet_id)
    pairs = memory().strokes(db(), stroke_index(db(), sheet_id), sheet.paper)
    found = [trace for trace, ink in pairs if ink.recipe.kind in WRITING] or [trace for trace, _ in pairs]
    if sheet.kind == "test" and sheet.prompts:
        boxes = [p.box_mm for p in prompts_for(sheet.paper, sheet.prompts) if p.name in TELLING]
        found = [t for t in found if any(_inside(t, box) for box in boxes)]
    kept, samples = 0, 0
    while kept < len(found) and samples < MOST_SAMPLES:
        kept += 1
        samples += len(found[-kept])
    return found[len(found) - kept :]


def _inside(trace: Trace, box: tuple[float, float, float, float]) -> bool:
    x, y = float(trace.x_mm.mean()), float(trace.y_mm.mean())
    return box[0] <= x <= box[2] and box[1] <= y <= box[3]
