"""Rubbing out: what an eraser's way leaves of a stroke, exactly along its round shape."""

import dataclasses
import math
from collections.abc import Callable, Sequence
from functools import cached_property, lru_cache

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.ink.near_path import near_path
from gray_quill.core.ink.outline import footprint_points
from gray_quill.core.ink.placement import IDENTITY, Placement, inverse, placed, scale_of
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import Rub, StrokeEdits, first_sample
from gray_quill.core.trace import along_path_mm

STEP_MM = 0.05  # how finely a stroke is looked at
QUAD = 24  # straight pieces a quarter of the eraser's rim
PART = 40  # points of a way whose rim is made at once
SIMPLER_MM = 0.005  # how far the kept way may lie from the one that was rubbed
LONGEST_MM = 10_000.0


@dataclasses.dataclass(frozen=True, eq=False)
class EraserSweep:
    """What an eraser went over, page mm: all that lies within its radius of its way."""

    path_mm: Floats
    radius_mm: float

    @property
    def box_mm(self) -> Floats:
        """Left, top, right, bottom."""
        low, high = self.path_mm.min(axis=0), self.path_mm.max(axis=0)
        return np.concatenate((low - self.radius_mm, high + self.radius_mm))

    @cached_property
    def area(self) -> shapely.Geometry:
        """Made in parts: the rim of a long scribble over itself is dear."""
        way = self.path_mm
        parts = [shapely.LineString(_two(way[k : k + PART + 1])) for k in range(0, max(1, len(way) - 1), PART)]
        return shapely.union_all(shapely.buffer(parts, self.radius_mm, quad_segs=QUAD))

    def holds(self, x: Floats, y: Floats) -> NDArray[np.bool_]:
        """Which places it went over."""
        return near_path(x, y, self.radius_mm, self.path_mm)


def sweep_of(path_mm: ArrayLike, radius_mm: float) -> EraserSweep:
    """What an eraser of this radius goes over along a way, (n, 2). Raises InputError."""
    way = np.array(path_mm, float).reshape(-1, 2)
    if float(np.hypot(*np.diff(way, axis=0).T).sum()) > LONGEST_MM:
        raise InputError(f"Rub at most {LONGEST_MM / 1000:g} m at a time.", "way")
    line = shapely.LineString(_two(way)).simplify(SIMPLER_MM)
    kept = np.asarray(line.coords)
    return EraserSweep(kept if line.length else kept[:1], radius_mm)


def _two(way: Floats) -> Floats:
    return way if len(way) > 1 else np.repeat(way, 2, axis=0)


def touched(inks: Sequence[Ink], sweep: EraserSweep, step: Callable[[], object] = lambda: None) -> list[int]:
    """Places of the strokes whose ink a sweep meets."""
    if not inks:
        return []
    left, top, right, bottom = sweep.box_mm
    boxes = np.array([ink.box_mm for ink in inks])
    near_it = (boxes[:, 0] <= right) & (boxes[:, 2] >= left) & (boxes[:, 1] <= bottom) & (boxes[:, 3] >= top)
    found = []
    for k in np.flatnonzero(near_it).tolist():
        step()
        ink = inks[k]
        x, y, width, _, _ = _looked_at(ink)
        near = near_path(x, y, sweep.radius_mm + width / 2, sweep.path_mm)
        if near.any() and _still_there(ink, x[near], y[near], width[near]).any():
            found.append(k)
    return found


def fills_met(inks: Sequence[Ink], sweep: EraserSweep) -> list[int]:
    """Places of the strokes whose filled inside a sweep meets."""
    found = []
    for k, ink in enumerate(inks):
        if ink.fill is None or len(ink.x_mm) < 3 or _apart(np.array(ink.box_mm), sweep.box_mm):
            continue
        inside = shapely.make_valid(shapely.Polygon(np.column_stack((ink.x_mm, ink.y_mm))))
        way = shapely.LineString(_two(sweep.path_mm))
        if shapely.dwithin(inside, way, sweep.radius_mm):
            found.append(k)
    return found


def _apart(one: Floats, other: Floats) -> bool:
    return bool((one[:2] > other[2:]).any() or (other[:2] > one[2:]).any())


def rubbed(ink: Ink, edits: StrokeEdits, sweep: EraserSweep) -> list[StrokeEdits]:
    """What is left of a stroke that shows so: the pieces between the places where the eraser went all across it, each
    without what it went over; none where nothing is left.
    """
    x, y, width, at, heading = _looked_at(ink)
    along = along_path_mm(x, y)
    nx, ny = -np.sin(heading) * width / 2, np.cos(heading) * width / 2
    gone = np.ones(len(x), bool)
    for px, py in ((x, y), (x + nx, y + ny), (x - nx, y - ny)):
        gone[gone] = sweep.holds(px[gone], py[gone])
    for k in (0, -1):  # the tip reaches beyond the path
        gone[k] = gone[k] and _tip_gone(ink, k, sweep)
    base, reach = first_sample(edits), float(ink.long_mm.max()) / 2
    runs, left = _runs(~gone), []
    for k, (first, last) in enumerate(runs):
        # the ink goes on under what is gone, as far as its tip reaches back from there, and no further than half way
        before = 0 if k == 0 else (runs[k - 1][1] + first) // 2
        after = len(x) - 1 if k == len(runs) - 1 else (last + runs[k + 1][0]) // 2
        lo = max(before, min(first - 1, int(np.searchsorted(along, along[first] - reach))))
        hi = min(after, max(last, int(np.searchsorted(along, along[last - 1] + reach))))
        lo = max(lo, 0)
        whole = lo == 0 and hi == len(x) - 1
        span = edits.span if whole else (base + float(at[lo]), base + float(at[hi]))
        near = _near(sweep, x[lo : hi + 1], y[lo : hi + 1], reach * math.sqrt(2))
        rubs = tuple(_rub_of(way, sweep.radius_mm, edits.placement) for way in near)
        left.append(dataclasses.replace(edits, span=span, rubs=(*edits.rubs, *rubs)))
    return left


def _tip_gone(ink: Ink, k: int, sweep: EraserSweep) -> bool:
    inside = sweep.radius_mm - float(ink.long_mm[k]) * math.sqrt(2) / 2
    if inside > 0 and near_path(ink.x_mm[[k]], ink.y_mm[[k]], inside, sweep.path_mm)[0]:
        return True
    return bool(sweep.holds(*footprint_points(ink, k).T).all())


@lru_cache(maxsize=1024)  # what is touched is looked at again where it is cut
def _looked_at(ink: Ink) -> tuple[Floats, Floats, Floats, Floats, Floats]:
    """x, y, width of the mark, position among the samples and heading along the stroke, every STEP_MM or finer."""
    if len(ink.x_mm) < 2:
        return ink.x_mm, ink.y_mm, ink.long_mm, ink.at, np.zeros(1)
    along = along_path_mm(ink.x_mm, ink.y_mm)
    heading = np.unwrap(np.arctan2(np.gradient(ink.y_mm), np.gradient(ink.x_mm)))
    every = np.union1d(along, np.linspace(0, along[-1], int(along[-1] / STEP_MM) + 1))
    columns = (ink.x_mm, ink.y_mm, ink.mark_width_mm(), ink.at, heading)
    x, y, width, at, way = (np.interp(every, along, column) for column in columns)
    return x, y, width, at, way


def _still_there(ink: Ink, x: Floats, y: Floats, width: Floats) -> NDArray[np.bool_]:
    """Which of these places have not been rubbed out wholly before."""
    there = np.ones(len(x), bool)
    for way, radius in ink.rubs:
        there &= ~near_path(x, y, np.maximum(radius - width / 2, 0), way)
    return there


def _runs(kept: np.ndarray) -> list[tuple[int, int]]:
    """First, and one after the last, of each run of kept places."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], kept.astype(np.int8), [0]))))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def _near(sweep: EraserSweep, x: Floats, y: Floats, reach: float) -> list[Floats]:
    """The parts of a sweep's way that come near a piece whose tip reaches so far from its path: it carries no more."""
    way, far = sweep.path_mm, reach + sweep.radius_mm
    low, high = np.array((x.min(), y.min())) - far, np.array((x.max(), y.max())) + far
    ends = _two(way)
    meets = (np.minimum(ends[:-1], ends[1:]) <= high) & (np.maximum(ends[:-1], ends[1:]) >= low)
    parts = [ends[first : last + 1] for first, last in _runs(np.asarray(meets.all(axis=1)))]
    return [part for part in parts if near_path(x, y, far, part).any()]


def _rub_of(way: Floats, radius_mm: float, placement: Placement) -> Rub:
    """A part of an eraser's way in the trace's own measures."""
    x, y = way.T if placement == IDENTITY else placed(way[:, 0], way[:, 1], inverse(placement))
    places = tuple(zip(np.round(x, 4).tolist(), np.round(y, 4).tolist(), strict=True))
    return Rub(places, radius_mm / scale_of(placement))
