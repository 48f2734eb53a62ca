"""Settled ink: the finished stroke, once the pen has lifted."""

import dataclasses
import itertools
from collections.abc import Sequence
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats, plain
from gray_quill.core.curves import between, smooth_paths
from gray_quill.core.ink.area import Fill, fill_recipe
from gray_quill.core.ink.cost import check_dashes
from gray_quill.core.ink.layer import Placed
from gray_quill.core.ink.straight import rules_of, straightened, strength_for
from gray_quill.core.ink.width import Samples, across_motion_mm, pen_samples, samples_of
from gray_quill.core.paper import Paper
from gray_quill.core.pen.body import PATTERNS, Line
from gray_quill.core.pen.ends import taper_term
from gray_quill.core.pen.highlighter import POOL_WIDTHS, Wash, pooled
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.tooth import SKIRT
from gray_quill.core.quantities import changed
from gray_quill.core.trace import Trace

TOLERANCE_MM = 0.006  # how far a straight piece may lie from the curve
LEANS = 1.001  # long over short side, from which a footprint is no disc
TAPER_STEP_MM, TAPER_PIECES = 0.2, 16  # longest piece where the width tapers, and how many a taper has at least


@dataclasses.dataclass(frozen=True, eq=False)
class Ink:
    """A stroke's geometry on the page. Arrays (m,), one entry a path point; pieces split them where a pattern
    interrupts.

    long_mm, short_mm, angle: the footprint (equal sides for a disc). opacity: 0..1 relative to the body's. at: position
    among the trace's samples (2.5 = halfway between the third and fourth). t_s: time from the stroke's start. pieces:
    offsets, shape (k + 1,). rubs: where erasers took of it: ways (n, 2) and radii, page mm. on: its
    layer, None where the sheet has but one that lays it plainly. fill: what its inside is filled with.
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
    rubs: tuple[tuple[Floats, float], ...] = ()
    on: Placed | None = None
    fill: Fill | None = None

    @cached_property
    def shape(self) -> str:
        """Outline of the footprint: round, ellipse, chisel or spray; area where it is another's fill."""
        tip = self.recipe.wash.tip.shape
        return "ellipse" if tip == "round" and bool(np.any(self.long_mm > self.short_mm * LEANS)) else tip

    @cached_property
    def box_mm(self) -> tuple[float, float, float, float]:
        """Left, top, right, bottom of the ink."""
        reach = float(self.long_mm.max()) / 2 * _reach(self.recipe)
        return (
            float(self.x_mm.min()) - reach,
            float(self.y_mm.min()) - reach,
            float(self.x_mm.max()) + reach,
            float(self.y_mm.max()) + reach,
        )

    def filling(self) -> "Ink":
        """The inside as ink of its own, that lies under this."""
        assert self.fill is not None
        recipe, none, one = fill_recipe(self.fill), np.zeros(len(self.x_mm)), np.ones(len(self.x_mm))
        pieces = np.array([0, len(self.x_mm)])
        ink = Ink(recipe, self.x_mm, self.y_mm, none, none, none, one, none, none, pieces, self.rubs, self.on)
        ink.__dict__["shape"] = "area"
        return ink

    def on_layer(self, on: Placed | None) -> "Ink":
        """The same on a layer."""
        if on == self.on:
            return self
        ink = dataclasses.replace(self, on=on)
        ink.__dict__.update({k: v for k, v in self.__dict__.items() if k in ("shape", "box_mm")})
        return ink

    def mark_width_mm(self) -> Floats:
        """Width of the mark across the motion at each point; the long side for a dot."""
        if len(self.x_mm) < 2:
            return self.long_mm
        heading = np.arctan2(np.gradient(self.y_mm), np.gradient(self.x_mm))
        return across_motion_mm(self.shape, self.long_mm, self.short_mm, self.angle, heading)


def _reach(recipe: Recipe) -> float:
    """How far ink goes from its path, of half the long side: the corner of a square tip, or as far as crumbs fall."""
    return max(1.4143 if recipe.wash.tip.shape == "chisel" else 1.0, SKIRT if recipe.tooth.crumbs > 0 else 1.0)


def settle(trace: Trace, recipe: Recipe, paper: Paper | None = None) -> Ink:
    """The ink this pen makes of this trace. `paper` is the sheet whose ruling a stroke may be drawn along."""
    return settle_all([trace], recipe, paper)[0]


def settle_all(traces: Sequence[Trace], recipe: Recipe, paper: Paper | None = None) -> list[Ink]:
    """The ink this pen makes of these traces, each as if alone: all at once costs a tenth of one after another."""
    if not traces:
        return []
    samples = samples_of(traces, recipe)
    wash, offsets = recipe.wash, samples.offsets
    x, y = _straightened(traces, samples, wash, paper)
    ends = recipe.ends.for_width(recipe.body.width_mm)
    start_mm = ends.start_mm if ends.start_tip < 1 else 0.0
    end_mm = ends.end_mm if ends.end_tip < 1 else 0.0
    pools = wash.pool > 0 and wash.tip.shape != "spray"
    pool_mm = POOL_WIDTHS * recipe.body.width_mm if pools else 0.0
    step_mm = min([TAPER_STEP_MM, *(zone / TAPER_PIECES for zone in (start_mm, end_mm, pool_mm) if zone > 0)])
    x, y, at, along, parts = smooth_paths(
        x, y, offsets, TOLERANCE_MM, step_mm, max(start_mm, pool_mm), max(end_mm, pool_mm)
    )
    term = between(plain(samples.press + samples.pace), at) + taper_term(ends, along, parts)
    width = recipe.body.width_mm * np.exp(term)
    aspect = between(plain(samples.aspect), at)
    if wash.tip.shape in ("round", "spray"):
        long, short = width * aspect, width
    else:
        long, short = width, width / aspect
    angle, opacity, t_s = (between(plain(c), at) for c in (samples.angle, samples.opacity, samples.t_s))
    if pools:
        opacity = opacity * pooled(
            wash, recipe.body.width_mm, along, np.repeat(along[parts[1:] - 1], np.diff(parts)) - along
        )
    at -= np.repeat(offsets[:-1], np.diff(parts))
    columns = (x, y, long, short, angle, opacity, at, t_s)
    edges = parts.tolist()
    whole = np.column_stack((np.zeros_like(parts[1:]), np.diff(parts)))

    def cut(k: int, lo: int, hi: int) -> Ink:
        x, y, long, short, angle, opacity, at, t_s = [c[lo:hi] for c in columns]
        return Ink(recipe, x, y, long, short, angle, opacity, at, t_s, whole[k])

    inks = [cut(k, lo, hi) for k, (lo, hi) in enumerate(itertools.pairwise(edges))]
    _measure_all(inks, columns, parts[:-1])
    if recipe.body.line.pattern != "solid":
        return [patterned(ink, along[lo:hi]) for ink, (lo, hi) in zip(inks, itertools.pairwise(edges), strict=True)]
    return inks


def _measure_all(inks: Sequence[Ink], columns: tuple[Floats, ...], starts: NDArray[np.int64]) -> None:
    """Shape and box of each, all at once: what `Ink` works out for itself costs more than settling it."""
    x, y, long, short = columns[:4]
    left, top = np.minimum.reduceat(x, starts), np.minimum.reduceat(y, starts)
    right, bottom = np.maximum.reduceat(x, starts), np.maximum.reduceat(y, starts)
    leaning = np.maximum.reduceat(long - short * LEANS, starts) > 0
    widest = np.maximum.reduceat(long, starts)
    tip = inks[0].recipe.wash.tip.shape
    reach = widest / 2 * _reach(inks[0].recipe)
    boxes = np.column_stack((left - reach, top - reach, right + reach, bottom + reach)).tolist()
    for ink, leans, box in zip(inks, leaning.tolist(), boxes, strict=True):
        ink.__dict__["shape"] = "ellipse" if tip == "round" and leans else tip
        ink.__dict__["box_mm"] = tuple(box)


def settle_each(pairs: Sequence[tuple[Trace, Recipe]], paper: Paper | None = None) -> list[Ink]:
    """The ink of strokes that each have a pen of their own, in their order."""
    of_pen: dict[int, list[int]] = {}
    for k, (_, recipe) in enumerate(pairs):
        of_pen.setdefault(id(recipe), []).append(k)
    inks: dict[int, Ink] = {}
    for members in of_pen.values():
        inks |= zip(members, settle_all([pairs[k][0] for k in members], pairs[members[0]][1], paper), strict=True)
    return [inks[k] for k in range(len(pairs))]


def _straightened(traces: Sequence[Trace], samples: Samples, wash: Wash, paper: Paper | None) -> tuple[Floats, Floats]:
    """The samples' paths, those that are drawn along a line of their own or the ruling straightened."""
    x, y = samples.x_mm, samples.y_mm
    if wash.straighten == 0 and not wash.hold_straight:
        return x, y
    rules = rules_of(paper) if wash.straight_to == "the ruling" else None
    parts = [
        straightened(x[lo:hi], y[lo:hi], strength_for(trace, wash), rules)
        for trace, (lo, hi) in zip(traces, itertools.pairwise(samples.offsets), strict=True)
    ]
    return np.concatenate([part[0] for part in parts]), np.concatenate([part[1] for part in parts])


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
