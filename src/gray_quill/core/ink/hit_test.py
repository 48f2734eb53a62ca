"""Which strokes a way across the page meets: what the writer touches, crosses or rings to choose it."""

from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.ink.settle import Ink
from gray_quill.core.trace import along_path_mm

REACH_MM = 1.5  # how far from the ink's edge still counts as touched
STEP_MM = 0.4  # the way is looked at this often
LONGEST_MM = 10_000.0
LOOKED_AT = 32  # places of a stroke, evenly along it, that tell how much of it lies inside
CLOSED = 0.15  # a way whose ends are nearer than this share of its length rings what lies inside


def strokes_met(
    inks: Sequence[Ink], path_mm: Floats, reach_mm: float = REACH_MM, step: Callable[[], object] = lambda: None
) -> list[int]:
    """Places of the strokes a way, shape (n, 2), touches; or, where it closes on itself, of those it touches or that
    lie inside by half or more of their path. `step` is called now and then and may end it. Raises InputError.
    """
    length = float(np.hypot(*np.diff(path_mm, axis=0).T).sum())
    closed = closes(path_mm)
    way = _even(path_mm, int(np.ceil(length / STEP_MM)) + 1)
    met = []
    for k, ink in enumerate(inks):
        step()
        path = np.column_stack((ink.x_mm, ink.y_mm))
        low, high = np.array(ink.box_mm[:2]) - reach_mm, np.array(ink.box_mm[2:]) + reach_mm
        near = way[((way >= low) & (way <= high)).all(axis=1)]
        touched = len(near) and _nearest(near, path, ink.long_mm / 2, step) <= reach_mm
        if touched or (closed and share_inside(ink, path_mm) >= 0.5):
            met.append(k)
    return met


def strokes_ringed(
    inks: Sequence[Ink], path_mm: Floats, step: Callable[[], object] = lambda: None, wholly: bool = False
) -> list[int]:
    """Places of the strokes that lie inside a way by half or more of their path, or wholly; it is closed where it
    ends.
    """
    found = []
    for k, ink in enumerate(inks):
        step()
        path = np.column_stack((ink.x_mm, ink.y_mm))
        if _inside(path, path_mm) == 1 if wholly else share_inside(ink, path_mm) >= 0.5:
            found.append(k)
    return found


def share_inside(ink: Ink, ring_mm: Floats) -> float:
    """Share of a stroke's path, by its length, that lies inside a ring (n, 2), closed where it ends."""
    path = np.column_stack((ink.x_mm, ink.y_mm))
    if (path.max(axis=0) < ring_mm.min(axis=0)).any() or (path.min(axis=0) > ring_mm.max(axis=0)).any():
        return 0.0
    return _inside(_even(path, LOOKED_AT), ring_mm)


def closes(path_mm: Floats) -> bool:
    """Whether a way rings something: its ends are near each other, for its length, and it is no touch. Raises
    InputError for one that is far too long.
    """
    length = float(np.hypot(*np.diff(path_mm, axis=0).T).sum())
    if length > LONGEST_MM:
        raise InputError(f"Choose with a way of at most {LONGEST_MM / 1000:g} m.", "way")
    is_touch = float(np.ptp(path_mm, axis=0).max()) <= 2 * REACH_MM
    return not is_touch and float(np.hypot(*(path_mm[-1] - path_mm[0]))) < CLOSED * length


def _even(path_mm: Floats, count: int) -> Floats:
    """So many places evenly along a way, its ends among them."""
    at = along_path_mm(path_mm[:, 0], path_mm[:, 1])
    steps = np.linspace(0, at[-1], count)
    return np.column_stack([np.interp(steps, at, path_mm[:, k]) for k in (0, 1)])


def _nearest(way: Floats, path: Floats, half_mm: Floats, step: Callable[[], object]) -> float:
    """The smallest gap between places of the way and the ink's edge along its path's segments, mm."""
    if len(path) == 1:
        return float(np.hypot(*(way - path[0]).T).min() - half_mm[0])
    start, along = path[:-1], np.diff(path, axis=0)
    square = np.maximum((along**2).sum(axis=1), 1e-12)
    best = np.inf
    for part in np.array_split(way, max(1, len(way) * len(path) // 200_000)):
        step()
        share = np.clip(((part[:, None] - start) * along).sum(axis=2) / square, 0, 1)
        gap = np.hypot(*np.moveaxis(part[:, None] - start - share[..., None] * along, 2, 0))
        edge = half_mm[:-1] + share * np.diff(half_mm)
        best = min(best, float((gap - edge).min()))
    return best


def _inside(path: Floats, ring: Floats) -> float:
    """Share of the path's points inside the closed ring, by the even-odd rule."""
    (x0, y0), (x1, y1) = ring.T, np.roll(ring, -1, axis=0).T
    x, y = path[:, 0, None], path[:, 1, None]
    crosses = (y0 > y) != (y1 > y)
    with np.errstate(divide="ignore", invalid="ignore"):
        right = x < (x1 - x0) * (y - y0) / (y1 - y0) + x0
    return float((np.count_nonzero(crosses & right, axis=1) % 2).mean())
