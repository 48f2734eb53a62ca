"""Pictures of the Pen station: the writer's own ink in a pen being tuned, as heat, as a ladder; and the plan live ink
draws from.
"""

import base64
import dataclasses
from typing import Literal

from flask import Blueprint, Response

from gray_quill.core.colour.srgb import rgb
from gray_quill.core.errors import NotFound
from gray_quill.core.ink.grain import surface_bytes
from gray_quill.core.ink.heat import heat_view
from gray_quill.core.ink.ladder import ladder
from gray_quill.core.ink.page import opacity_plane
from gray_quill.core.ink.plan import PenPlan, compile_plan
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import View, fitted_view, inked_part
from gray_quill.core.pen.tooth import SURFACES
from gray_quill.core.trace import bounds_mm
from gray_quill.formats.png import write_png, write_tinted_png
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import Box, Colour, PaperIn, PenOn, Pixels, RecipeIn
from gray_quill.web.replies import data_url

pen_pictures = Blueprint("pen_pictures", __name__)


class PlanBody(Model):
    recipe: RecipeIn
    paper_colour: Colour = "#ffffff"
    paper: PaperIn | None = None
    plain: bool = False


class Preview(PenOn):
    width_px: Pixels = 1200
    height_px: Pixels = 360


class PreviewReply(Model):
    """image: a data URL, see-through, of the inked part of the picture, whose corner lies at left_px, top_px; it is
    width_px wide.

    box_mm: the part of the page the whole picture shows; scale: its pixels a millimetre.
    """

    image: str
    left_px: int
    top_px: int
    width_px: int
    height_px: int
    box_mm: Box
    scale: float


class HeatBody(Preview):
    quantity: Literal["width", "force", "speed"] = "width"


class HeatReply(Model):
    image: str
    low: float
    high: float
    unit: str
    colours: list[str]
    box_mm: Box


class LadderBody(Model):
    recipe: RecipeIn
    over: Literal["width", "opacity", "range"] = "width"
    paper_colour: Colour = "#ffffff"
    width_px: Pixels = 1200
    height_px: Pixels = 360


class LadderReply(Model):
    image: str
    values: list[float]


def _box(view: View) -> Box:
    right, bottom = view.width_px / view.px_per_mm, view.height_px / view.px_per_mm
    return view.left_mm, view.top_mm, view.left_mm + right, view.top_mm + bottom


@operation(pen_pictures, "POST", "/pen/plan", PenPlan, body=PlanBody)
def make_plan(body: PlanBody) -> PenPlan:
    """Compile a recipe into the tables live ink draws from; heights of a surface that ships are had by its name."""
    plan = compile_plan(body.recipe, body.paper_colour, body.paper, body.plain)
    if plan.grain and plan.grain.surface in SURFACES:
        plan = dataclasses.replace(plan, grain=dataclasses.replace(plan.grain, heights=""))
    return plan


@operation(pen_pictures, "GET", "/pen/surfaces/<name>", "application/octet-stream")
def read_surface(name: str) -> Response:
    """The heights 0..255 of a surface that ships, row by row."""
    if name not in SURFACES:
        raise NotFound(f"There is no surface {name!r}. There are: {', '.join(SURFACES)}.", "name")
    return Response(surface_bytes(name), mimetype="application/octet-stream", headers={"Cache-Control": "no-cache"})


@operation(pen_pictures, "POST", "/pen/preview", PreviewReply, body=Preview, costly=True)
def make_preview(body: Preview) -> PreviewReply:
    """A picture of the source's ink drawn with a recipe, fitted into width_px x height_px."""
    traces = memory().traces_of(db(), body.source)
    view = fitted_view(bounds_mm(traces), body.width_px, body.height_px)
    paper = get_sheet(db(), body.source.sheet_id).paper
    inks = settle_all(traces, body.recipe, paper)
    part, x, y = inked_part(inks, view)
    image = base64.b64encode(write_tinted_png(opacity_plane(inks, part), rgb(body.recipe.body.colour))).decode()
    return PreviewReply(
        image=f"data:image/png;base64,{image}",
        left_px=x,
        top_px=y,
        width_px=part.width_px,
        height_px=part.height_px,
        box_mm=_box(view),
        scale=view.px_per_mm,
    )


@operation(pen_pictures, "POST", "/pen/heat", HeatReply, body=HeatBody, remembered=True)
def read_heat(body: HeatBody) -> HeatReply:
    """The ink coloured by its width, force or speed."""
    traces = memory().traces_of(db(), body.source)
    view = fitted_view(bounds_mm(traces), body.width_px, body.height_px)
    heat = heat_view(traces, settle_all(traces, body.recipe), body.quantity, view)
    return HeatReply(
        image=data_url(write_png(heat.pixels, compress=1)),
        low=heat.low,
        high=heat.high,
        unit=heat.unit,
        colours=heat.colours,
        box_mm=_box(view),
    )


@operation(pen_pictures, "POST", "/pen/ladder", LadderReply, body=LadderBody, remembered=True)
def read_ladder(body: LadderBody) -> LadderReply:
    """One pen at rising widths, opacities or ranges over an older dark line."""
    pixels, values = ladder(body.recipe, body.over, body.width_px, body.height_px, body.paper_colour)
    return LadderReply(image=data_url(write_png(pixels, compress=1)), values=values)
