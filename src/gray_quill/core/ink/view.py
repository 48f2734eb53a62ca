"""Views: which part of a page a picture shows, and how large."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink
from gray_quill.core.paper import Paper
from gray_quill.core.units import px_per_mm

MARGIN_MM = 2.5  # around what is fitted


@dataclasses.dataclass(frozen=True)
class View:
    """A window on the page: its top-left corner in mm, its density, and its size in pixels."""

    left_mm: float
    top_mm: float
    px_per_mm: float
    width_px: int
    height_px: int


def page_view(paper: Paper, dpi: float) -> View:
    """The whole sheet at `dpi` pixels an inch."""
    scale = px_per_mm(dpi)
    return View(0, 0, scale, max(1, round(paper.width_mm * scale)), max(1, round(paper.height_mm * scale)))


def box_view(box_mm: tuple[float, float, float, float], scale: float) -> View:
    """The part of a page inside left, top, right, bottom, snapped outward to whole pixels of the page at `scale`
    px/mm.
    """
    left, top = np.floor(box_mm[0] * scale), np.floor(box_mm[1] * scale)
    right, bottom = np.ceil(box_mm[2] * scale), np.ceil(box_mm[3] * scale)
    return View(left / scale, top / scale, scale, max(1, int(right - left)), max(1, int(bottom - top)))


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


def inked_part(inks: Sequence[Ink], view: View) -> tuple[View, int, int]:
    """The part of a view that holds ink, and where its corner lies in the view's pixels: blank margins would only cost
    time to pack and unpack.
    """
    boxes = np.array([ink.box_mm for ink in inks])
    low = np.floor((boxes[:, :2].min(axis=0) - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) - 1
    high = np.ceil((boxes[:, 2:].max(axis=0) - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) + 1
    x, y = max(0, int(low[0])), max(0, int(low[1]))
    width, height = max(1, min(view.width_px, int(high[0])) - x), max(1, min(view.height_px, int(high[1])) - y)
    left, top = view.left_mm + x / view.px_per_mm, view.top_mm + y / view.px_per_mm
    return View(left, top, view.px_per_mm, width, height), x, y
