"""What becomes of the ink on a panel: thinnest line, hairlines that vanish, greys."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import contrast, decode_srgb, encode_srgb, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View, page_view
from gray_quill.core.panel.colour_filter import is_filtered
from gray_quill.core.panel.difference import lights_of_squares
from gray_quill.core.panel.proof import Proof
from gray_quill.core.paper import Paper
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.reading import SHARE, reading

VISIBLE = 3.0  # WCAG 2.2 SC 1.4.11: graphics that must be seen
SQUARE_PX = 8  # the period of the ordered dither; less than a millimetre on every panel of use
LIGHT = decode_srgb(np.arange(256) / 255)  # a grey's luminance is its decoded value
MOST_RUNS = 600
VANISHING = 0.02  # of the ink's length; common practice, no source


@dataclasses.dataclass(frozen=True)
class PanelReadings:
    """What became of the ink: thinnest_px and thinnest_mm (5th percentile of width), hairline_share of the ink's length
    whose best contrast with the paper is under 3:1, darkest contrast reached, greys used, mean grey error 0..1 against
    the original.
    """

    thinnest_px: float = reading("thinnest line", "px", "The 5th percentile of the ink's width by length.")
    thinnest_mm: float = reading("thinnest line", "mm", "The 5th percentile of the ink's width by length.")
    hairline_share: float = reading(
        "ink that may vanish",
        SHARE,
        "Share of the ink's length whose best contrast with the paper is under 3:1.",
        better="less",
        attention=VANISHING,
    )
    best_contrast: float = reading(
        "best contrast", ":1", "Of the ink with the paper.", better="more", attention=VISIBLE
    )
    greys_used: int = reading("greys in use", "", "How many greys the picture is made of.", digits=0)
    grey_error: float = reading(
        "grey error",
        SHARE,
        f"Mean difference from the sheet's own greys over squares of {SQUARE_PX} px: what dither mixes there counts as "
        "one grey, by its light.",
        better="less",
    )


def panel_readings(inks: Sequence[Ink], paper: Paper, panel: Panel, proof: Proof) -> PanelReadings:
    """Readings of a proof. The contrast at a point of the ink is the best within one pixel of the stroke's middle."""
    view = page_view(paper, panel.ppi)
    toned = to_grey8(proof.pixels)
    error = _grey_error(to_grey8(proof.original), toned)
    levels = proof.pixels if is_filtered(panel) else toned
    used = int(np.count_nonzero(np.bincount(levels.ravel(), minlength=256)))
    if not inks:
        return PanelReadings(0, 0, 0, 1, used, error)
    widths, weights, seen = [], [], []
    for ink in [ink for ink in inks if ink.recipe.wash.place == "over"] or inks:  # a wash is meant to be pale
        ratio = contrast_along(ink, toned, proof.seen, proof.ground, view)
        length = lengths_along(ink)
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


def _grey_error(original: NDArray[np.uint8], toned: NDArray[np.uint8]) -> float:
    """Mean difference of encoded greys, 0..1, between the mean lights of squares."""
    rows, columns = (np.linspace(0, n, max(1, n // SQUARE_PX) + 1) for n in original.shape)  # none left over
    one, other = (encode_srgb(lights_of_squares(grey, LIGHT, rows, columns)) for grey in (original, toned))
    return float(np.abs(one - other).mean())


def lengths_along(ink: Ink) -> Floats:
    """How much of the way each path point stands for, mm; a dot has next to none."""
    return np.hypot(np.gradient(ink.x_mm), np.gradient(ink.y_mm)) if len(ink.x_mm) > 1 else np.full(1, 0.01)


def vanishing_runs(inks: Sequence[Ink], paper: Paper, panel: Panel, proof: Proof) -> list[Floats]:
    """Pieces of the ink that are fainter than 3:1 on the panel, as ways (n, 2) in mm, the longest first, not more than
    MOST_RUNS. Washes are left out: they are meant to be pale.
    """
    view, shown = page_view(paper, panel.ppi), to_grey8(proof.pixels)
    runs = []
    for ink in inks:
        if ink.recipe.wash.place != "over":
            continue
        faint = contrast_along(ink, shown, proof.seen, proof.ground, view) < VISIBLE
        edges = np.flatnonzero(np.diff(np.concatenate(([False], faint, [False])).astype(int)))
        xy = np.column_stack((ink.x_mm, ink.y_mm))
        middles = np.vstack((xy[:1], (xy[1:] + xy[:-1]) / 2, xy[-1:]))  # a point stands for half the way to its next
        runs += [
            np.vstack((middles[start], xy[start:end], middles[end]))
            for start, end in zip(edges[::2], edges[1::2], strict=True)
        ]
    runs.sort(key=lambda way: float(np.hypot(*np.diff(way, axis=0).T).sum()), reverse=True)
    return runs[:MOST_RUNS]


def contrast_along(
    ink: Ink, shown: NDArray[np.uint8], seen: Floats, ground: float, view: View, reach_px: int = 1
) -> Floats:
    """At each path point, the best contrast within so many pixels. shown: encoded greys of the picture, shape (h, w);
    seen: relative luminance of each.
    """
    i = ((ink.x_mm - view.left_mm) * view.px_per_mm).astype(int)
    j = ((ink.y_mm - view.top_mm) * view.px_per_mm).astype(int)
    best = np.ones(len(i))
    reach = range(-reach_px, reach_px + 1)
    for dj in reach:
        for di in reach:
            jj, ii = j + dj, i + di
            on = (jj >= 0) & (jj < shown.shape[0]) & (ii >= 0) & (ii < shown.shape[1])
            best[on] = np.maximum(best[on], contrast(seen[shown[jj[on], ii[on]]], ground))
    return best
