"""Proofs: a sheet as a panel shows it, pixel for pixel."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour import contrast, decode_srgb, luminance, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.page import Pixels, View, page_pixels, page_view
from gray_quill.core.ink.settle import Ink
from gray_quill.core.panel.dither import check_choice, reduce_greys
from gray_quill.core.paper import Paper
from gray_quill.core.readings.percentiles import weighted_percentiles

VISIBLE = 3.0  # WCAG 2.2 SC 1.4.11: graphics that must be seen


@dataclasses.dataclass(frozen=True, eq=False)
class Proof:
    """pixels, original: RGB (h, w, 3) at the panel's density, as it shows them and as they were before."""

    pixels: Pixels
    original: Pixels


def proof_sheet(
    inks: Sequence[Ink], paper: Paper, panel: Panel, dither: str = "none", greys: int | None = None
) -> Proof:
    """A sheet of paper on a panel at true size: scaled to its density, toned to its greys."""
    view = page_view(paper, panel.ppi)
    original = page_pixels(inks, paper, view)
    return Proof(on_panel(original, panel, dither, greys), original)


def on_panel(pixels: Pixels, panel: Panel, dither: str = "none", greys: int | None = None) -> Pixels:
    """A picture in the panel's tones; colour panels with all greys leave it alone."""
    shown = greys or panel.greys
    check_choice(shown, dither)
    if panel.colour and shown == 256:
        return pixels
    grey = reduce_greys(to_grey8(pixels), shown, dither)
    return np.repeat(grey[..., None], 3, axis=2)


@dataclasses.dataclass(frozen=True)
class PanelReadings:
    """What became of the ink: thinnest_px and thinnest_mm (5th percentile of width), hairline_share of the ink's length
    whose best contrast with the paper is under 3:1, darkest contrast reached, greys used, mean grey error 0..1 against
    the original.
    """

    thinnest_px: float
    thinnest_mm: float
    hairline_share: float
    best_contrast: float
    greys_used: int
    grey_error: float


def panel_readings(inks: Sequence[Ink], paper: Paper, panel: Panel, proof: Proof) -> PanelReadings:
    """Readings of a proof. The contrast at a point of the ink is the best within one pixel of the stroke's middle."""
    view = page_view(paper, panel.ppi)
    toned = to_grey8(proof.pixels)
    error = float(np.abs(to_grey8(proof.original).astype(np.int16) - toned).mean() / 255)
    used = int(np.count_nonzero(np.bincount(toned.ravel(), minlength=256)))
    if not inks:
        return PanelReadings(0, 0, 0, 1, used, error)
    shown = decode_srgb(np.arange(256) / 255)[toned]  # a grey's luminance is its decoded value
    ground = float(luminance(np.array([[int(paper.colour[i : i + 2], 16) for i in (1, 3, 5)]], np.uint8))[0])
    widths, weights, seen = [], [], []
    for ink in [ink for ink in inks if ink.recipe.wash.place == "over"] or inks:  # a wash is meant to be pale
        ratio = contrast_along(ink, shown, ground, view)
        length = np.hypot(np.gradient(ink.x_mm), np.gradient(ink.y_mm)) if len(ink.x_mm) > 1 else np.full(1, 0.01)
        widths.append(ink.mark_width_mm())
        weights.append(length)
        seen.append(ratio)
    width, weight, ratios = np.concatenate(widths), np.concatenate(weights), np.concatenate(seen)
    thin = float(weighted_percentiles(width, weight, (5,))[0])
    return PanelReadings(
        thin * view.px_per_mm,
        thin,
        float(weight[ratios < VISIBLE].sum() / weight.sum()),
        float(ratios.max()),
        used,
        error,
    )


def contrast_along(ink: Ink, shown: NDArray[np.float64], ground: float, view: View) -> NDArray[np.float64]:
    """At each path point, the best contrast within one pixel. shown: relative luminance of the picture,
    shape (h, w).
    """
    i = ((ink.x_mm - view.left_mm) * view.px_per_mm).astype(int)
    j = ((ink.y_mm - view.top_mm) * view.px_per_mm).astype(int)
    best = np.ones(len(i))
    for dj in (-1, 0, 1):
        for di in (-1, 0, 1):
            jj, ii = j + dj, i + di
            on = (jj >= 0) & (jj < shown.shape[0]) & (ii >= 0) & (ii < shown.shape[1])
            best[on] = np.maximum(best[on], contrast(shown[jj[on], ii[on]], ground))
    return best
