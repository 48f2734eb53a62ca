"""Re-inking: the writer's own ink with any recipe, its readings, and the force it was written with."""

import base64
import dataclasses

import numpy as np
from flask import Blueprint

from gray_quill.core.ink.page import Pixels, View, opacity_plane, rgb
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.readings.anchors import find_anchors
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.trace import Trace, bounds_mm
from gray_quill.formats.png import write_tinted_png
from gray_quill.store.pens import get_pen
from gray_quill.store.readings import keep_readings
from gray_quill.store.sheets import get_sheet, stroke_index
from gray_quill.web.api import operation
from gray_quill.web.context import db, memory
from gray_quill.web.models import ForceReply, Preview, PreviewReply, ReadBody, ReadReply, Source

reink = Blueprint("reink", __name__)
FORCE_BINS = 50
MARGIN_MM = 2.5
MOST_STROKES_READ = 400


@operation(reink, "POST", "/preview", PreviewReply, body=Preview)
def make_preview(body: Preview) -> PreviewReply:
    """A picture of the source's ink drawn with a recipe, fitted into width_px x height_px."""
    recipe = read_recipe(body.recipe)
    traces = memory().traces_of(db(), body.source)
    view = fitted_view(bounds_mm(traces), body.width_px, body.height_px)
    scale = view.px_per_mm
    paper = get_sheet(db(), body.source.sheet_id).paper
    inks = [settle(t, recipe, paper) for t in traces]
    plane, x, y = _inked_part(inks, view)
    image = base64.b64encode(write_tinted_png(plane, rgb(recipe.body.colour))).decode()
    box = (view.left_mm, view.top_mm, view.left_mm + body.width_px / scale, view.top_mm + body.height_px / scale)
    return PreviewReply(
        image=f"data:image/png;base64,{image}",
        left_px=x,
        top_px=y,
        width_px=plane.shape[1],
        height_px=plane.shape[0],
        box_mm=list(box),
        scale=scale,
    )


def fitted_view(box_mm: tuple[float, float, float, float], width_px: int, height_px: int) -> View:
    """The view that shows a box with a margin, in its middle, as large as it fits."""
    left, top, right, bottom = box_mm
    scale = min(width_px / (right - left + 2 * MARGIN_MM), height_px / (bottom - top + 2 * MARGIN_MM))
    return View(
        (left + right) / 2 - width_px / scale / 2,
        (top + bottom) / 2 - height_px / scale / 2,
        scale,
        width_px,
        height_px,
    )


def _inked_part(inks: list[Ink], view: View) -> tuple[Pixels, int, int]:
    """The picture cut to its ink, and where its corner lies: blank margins would only cost time to pack and unpack."""
    boxes = np.array([ink.box_mm for ink in inks])
    low = np.floor((boxes[:, :2].min(axis=0) - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) - 1
    high = np.ceil((boxes[:, 2:].max(axis=0) - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) + 1
    x, y = max(0, low[0]), max(0, low[1])
    width, height = max(1, min(view.width_px, high[0]) - x), max(1, min(view.height_px, high[1]) - y)
    part = View(
        view.left_mm + x / view.px_per_mm, view.top_mm + y / view.px_per_mm, view.px_per_mm, int(width), int(height)
    )
    return opacity_plane(inks, part), int(x), int(y)


@operation(reink, "POST", "/readings", ReadReply, body=ReadBody)
def read_with(body: ReadBody) -> ReadReply:
    """Readings of a recipe on the source's ink, and where on the page they can be seen."""
    recipe = read_recipe(body.recipe)
    traces = memory().traces_of(db(), body.source)[-MOST_STROKES_READ:]
    paper = get_sheet(db(), body.source.sheet_id).paper
    inks = [settle(t, recipe, paper) for t in traces]
    readings = read_ink(traces, recipe, inks)
    return ReadReply(readings=dataclasses.asdict(readings), anchors=_anchors(traces, recipe, inks), strokes=len(traces))


def _anchors(traces: list[Trace], recipe: Recipe, inks: list[Ink]) -> dict[str, list[list[float]]]:
    return {name: [list(spot) for spot in spots] for name, spots in find_anchors(traces, recipe, inks).items()}


@operation(reink, "GET", "/sheets/<sheet_id>/readings", ReadReply)
def read_sheet_ink(sheet_id: str) -> ReadReply:
    """Readings of the sheet's ink in the pen now in use, at its newest revision there, or else in the last one; kept
    with the sheet.
    """
    sheet, index = get_sheet(db(), sheet_id), stroke_index(db(), sheet_id)
    if not index:
        return ReadReply(readings={}, anchors={}, strokes=0)
    _, pen_id, revision = next((e for e in reversed(index) if e[1] == sheet.pen_id), index[-1])
    pairs = memory().strokes(db(), [e for e in index if e[1:] == (pen_id, revision)][-MOST_STROKES_READ:], sheet.paper)
    traces, inks = [t for t, _ in pairs], [i for _, i in pairs]
    recipe = get_pen(db(), pen_id, revision).recipe
    readings = read_ink(traces, recipe, inks)
    keep_readings(db(), sheet_id, pen_id, revision, readings)
    return ReadReply(readings=dataclasses.asdict(readings), anchors=_anchors(traces, recipe, inks), strokes=len(traces))


@operation(reink, "POST", "/force", ForceReply, body=Source)
def read_force(body: Source) -> ForceReply:
    """How often the hand pressed how hard, for the press chart."""
    traces = memory().traces_of(db(), body)
    force = np.concatenate([t.force for t in traces])
    counts, _ = np.histogram(force, FORCE_BINS, (0, 1))
    return ForceReply(
        counts=counts.tolist(), samples=len(force), absent=sorted(set().union(*(t.absent for t in traces)))
    )
