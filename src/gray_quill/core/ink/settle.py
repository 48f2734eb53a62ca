"""Settled ink: the finished stroke, once the pen has lifted."""

import dataclasses
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.curves import smooth_path
from gray_quill.core.ink.cost import check_dashes
from gray_quill.core.ink.straight import rules_of, straightened, strength_for
from gray_quill.core.ink.width import Samples, across_motion_mm, pen_samples
from gray_quill.core.paper import Paper
from gray_quill.core.pen.body import PATTERNS, Line
from gray_quill.core.pen.ends import taper_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import changed
from gray_quill.core.trace import Trace

TOLERANCE_MM = 0.006  # how far a straight piece may lie from the curve
TAPER_STEP_MM, TAPER_PIECES = 0.2, 16  # longest piece where the width tapers, and how many a taper has at least


@dataclasses.dataclass(frozen=True, eq=False)
class Ink:
    """A stroke's geometry on the page. Arrays (m,), one entry a path point; pieces split them where a pattern
    interrupts.

    long_mm, short_mm, angle: the footprint (equal sides for a disc). opacity: 0..1 relative to the body's. at: position
    among the trace's samples (2.5 = halfway between the third and fourth). t_s: time from the stroke's start. pieces:
    offsets, shape (k + 1,).
    """

    recipe: Recipe
    x_mm: Floats
    y_mm: Floats
    long_mm: Floats
    short_mm: Floats
    angle: Floats
    opacity: Floats
    at: Floats
    t_s: Floats
    pieces: NDArray[np.int64]

    @cached_property
    def shape(self) -> str:
        """Outline of the footprint: round, ellipse, chisel or spray."""
        tip = self.recipe.wash.tip.shape
        return "ellipse" if tip == "round" and bool(np.any(self.long_mm > self.short_mm * 1.001)) else tip

    @cached_property
    def box_mm(self) -> tuple[float, float, float, float]:
        """Left, top, right, bottom of the ink."""
        reach = float(self.long_mm.max()) / 2 * (1.4143 if self.shape == "chisel" else 1)
        return (
            float(self.x_mm.min()) - reach,
            float(self.y_mm.min()) - reach,
            float(self.x_mm.max()) + reach,
            float(self.y_mm.max()) + reach,
        )

    def mark_width_mm(self) -> Floats:
        """Width of the mark across the motion at each point; the long side for a dot."""
        if len(self.x_mm) < 2:
            return self.long_mm
        heading = np.arctan2(np.gradient(self.y_mm), np.gradient(self.x_mm))
        return across_motion_mm(self.shape, self.long_mm, self.short_mm, self.angle, heading)


def settle(trace: Trace, recipe: Recipe, paper: Paper | None = None) -> Ink:
    """The ink this pen makes of this trace. `paper` is the sheet whose ruling a stroke may be drawn along."""
    samples = pen_samples(trace, recipe)
    wash = recipe.wash
    rules = rules_of(paper) if wash.straight_to == "the ruling" else None
    x, y = straightened(samples.x_mm, samples.y_mm, strength_for(trace, wash), rules)
    ends = recipe.ends.for_width(recipe.body.width_mm)
    start_mm = ends.start_mm if ends.start_tip < 1 else 0.0
    end_mm = ends.end_mm if ends.end_tip < 1 else 0.0
    step_mm = min([TAPER_STEP_MM, *(zone / TAPER_PIECES for zone in (start_mm, end_mm) if zone > 0)])
    x, y, at, along = smooth_path(x, y, TOLERANCE_MM, step_mm, start_mm, end_mm)
    low = at.astype(np.int64)
    high = np.minimum(low + 1, len(samples.t_s) - 1)
    share = at - low

    def between(column: Floats) -> Floats:
        return column[low] * (1 - share) + column[high] * share

    width = recipe.body.width_mm * np.exp(between(samples.press + samples.pace) + taper_term(ends, along))
    aspect = between(samples.aspect)
    if wash.tip.shape in ("round", "spray"):
        long, short = width * aspect, width
    else:
        long, short = width, width / aspect
    ink = Ink(
        recipe,
        x,
        y,
        long,
        short,
        between(samples.angle),
        between(samples.opacity),
        at,
        between(samples.t_s),
        np.array([0, len(x)]),
    )
    return patterned(ink, along) if recipe.body.line.pattern != "solid" else ink


def width_terms(trace: Trace, recipe: Recipe) -> dict[str, Floats]:
    """The four terms of ln width at each sample of the trace: body, press, pace, taper; shapes (n,)."""
    samples: Samples = pen_samples(trace, recipe)
    n = len(trace)
    ink = settle(trace, changed(recipe, "body.line", Line()))
    at = np.searchsorted(ink.at, np.arange(n) - 1e-9)
    total = np.log((ink.short_mm if recipe.wash.tip.shape in ("round", "spray") else ink.long_mm)[at])
    body = np.full(n, np.log(recipe.body.width_mm))
    press, pace = samples.press[:n], samples.pace[:n]
    return {"body": body, "press": press, "pace": pace, "taper": total - body - press - pace}


def patterned(ink: Ink, along_mm: Floats) -> Ink:
    """The ink cut into the pieces of its line pattern, by arc length.

    Round caps reach half a width beyond a piece, so each piece's path is one width shorter than its visible length.
    """
    check_dashes(float(along_mm[-1]), ink.recipe)
    width, total = ink.recipe.body.width_mm, along_mm[-1]
    lengths = np.array(PATTERNS[ink.recipe.body.line.pattern]) * width * ink.recipe.body.line.scale
    edges = np.concatenate(([0.0], np.cumsum(lengths)))
    starts = np.arange(0, total + edges[-1], edges[-1])[:, None]
    on, off = (starts + edges[:-1:2]).ravel(), (starts + edges[1::2]).ravel()
    first = on + np.where(on > 0, width / 2, 0.0)
    last = np.maximum(first, np.minimum(off - width / 2, total))
    first, last = first[first <= total], last[first <= total]
    # every piece has its two ends and the points of the path that lie inside it
    piece = np.searchsorted(first, along_mm, "left") - 1
    inside = (piece >= 0) & (along_mm < last[piece])
    numbers = np.arange(len(first))
    piece = np.concatenate((numbers, numbers, piece[inside]))
    points = np.concatenate((first, last, along_mm[inside]))
    order = np.lexsort((points, piece))
    piece, points = piece[order], points[order]
    fresh = np.concatenate(([True], (np.diff(piece) > 0) | (np.diff(points) > 0)))
    piece, points = piece[fresh], points[fresh]
    pieces = np.searchsorted(piece, np.arange(len(first) + 1))
    columns = (ink.x_mm, ink.y_mm, ink.long_mm, ink.short_mm, ink.angle, ink.opacity, ink.at, ink.t_s)
    x, y, long, short, angle, opacity, at, t_s = (np.interp(points, along_mm, c) for c in columns)
    return Ink(ink.recipe, x, y, long, short, angle, opacity, at, t_s, pieces)
