"""Ways that close on nothing, made clean: an arc where they run around one middle, else their own course calmed, with
the corners they have.
"""

import itertools

import numpy as np
from scipy.ndimage import gaussian_filter1d

from gray_quill.core.arrays import Floats

ARC_OFF = 0.02  # mean distance left over of an arc, of the way's length
LEAST_ARC, MOST_ARC = np.radians(25), np.radians(340)
CALM = 0.025  # how far the course is smoothed, of the way's length
CORNER = np.radians(55)  # a turn this sharp within CORNER_SHARE of the length is a corner, and stays
CORNER_SHARE = 0.035
SHARP, SHARP_SHARE = np.radians(34), 0.05  # a corner of a polygon: a circle turns by 18 degrees from piece to piece
POINTS = 161


def fit_arc(way: Floats, circle: tuple[float, float, float]) -> tuple[Floats, float] | None:
    """The arc of a circle that a way (n, 2) runs along, as points, and how far off the way is, of its length; None
    where it does not.
    """
    cx, cy, r = circle
    length = float(np.hypot(*np.diff(way, axis=0).T).sum())
    off = float(np.sqrt(np.mean((np.hypot(way[:, 0] - cx, way[:, 1] - cy) - r) ** 2))) / length
    turn = np.unwrap(np.arctan2(way[:, 1] - cy, way[:, 0] - cx))
    span = abs(float(turn[-1] - turn[0]))
    steady = np.abs(np.diff(turn)).sum() < 1.15 * span  # it does not go to and fro
    if off > ARC_OFF or not LEAST_ARC <= span <= MOST_ARC or not steady:
        return None
    at = np.linspace(turn[0], turn[-1], 65)
    return np.column_stack((cx + r * np.cos(at), cy + r * np.sin(at))), off


def calmed(way: Floats, closed: bool) -> tuple[Floats, float]:
    """The way's own course with its tremor smoothed out and its corners kept, and how far the way was off it, of its
    length. closed: it ends where it began.
    """
    steps = np.hypot(*np.diff(way, axis=0).T)
    along = np.concatenate(([0.0], np.cumsum(steps)))
    even = np.linspace(0, along[-1], POINTS)
    path = np.column_stack([np.interp(even, along, way[:, k]) for k in (0, 1)])
    if closed:
        path[-1] = path[0]
    sigma = CALM * POINTS
    cuts = [0, *_corners(path), POINTS - 1]
    parts = []
    for lo, hi in itertools.pairwise(cuts):
        part = path[lo : hi + 1]
        if closed and len(cuts) == 2:  # no corner: it runs on over its own start
            ring = gaussian_filter1d(part[:-1], sigma, axis=0, mode="wrap")
            parts.append(np.vstack((ring, ring[:1])))
        else:
            parts.append(_held_ends(part, min(sigma, len(part) / 4)))
    ring = np.vstack([parts[0], *(part[1:] for part in parts[1:])])
    off = float(np.sqrt(np.mean(((ring - path) ** 2).sum(axis=1)))) / float(along[-1])
    return ring, off


def sharp_corners(way: Floats) -> int:
    """How many corners a closed way (n, 2) has that a round one of its size has not."""
    steps = np.hypot(*np.diff(np.vstack((way, way[:1])), axis=0).T)
    along = np.concatenate(([0.0], np.cumsum(steps)))
    even = np.linspace(0, along[-1], POINTS - 1, endpoint=False)
    ring = np.column_stack([np.interp(even, along, np.append(way[:, k], way[0, k])) for k in (0, 1)])
    reach = max(2, int(SHARP_SHARE * len(ring)))
    around = np.vstack((ring[-2 * reach :], ring, ring[: 2 * reach]))
    inside = [at for at in _corners(around, SHARP, SHARP_SHARE * len(ring)) if 2 * reach <= at < 2 * reach + len(ring)]
    return len(inside)


def _held_ends(part: Floats, sigma: float) -> Floats:
    """Smoothed between its ends, which stay."""
    if len(part) < 3:
        return part
    line = np.linspace(part[0], part[-1], len(part))
    padded = np.pad(part - line, ((len(part) - 1, len(part) - 1), (0, 0)), mode="reflect", reflect_type="odd")
    smooth = gaussian_filter1d(padded, max(sigma, 0.5), axis=0, mode="nearest")
    return np.asarray(line + smooth[len(part) - 1 : 2 * len(part) - 1])


def _corners(path: Floats, least: float = CORNER, far: float = CORNER_SHARE * POINTS) -> list[int]:
    """Points at which the course turns sharply: the sharpest of each bend."""
    reach = max(2, int(far))
    soft = gaussian_filter1d(path, 1.5, axis=0, mode="nearest")
    before, after = soft[reach:-reach] - soft[: -2 * reach], soft[2 * reach :] - soft[reach:-reach]
    heading = np.arctan2(*after.T[::-1]) - np.arctan2(*before.T[::-1])
    sharp = np.abs(np.arctan2(np.sin(heading), np.cos(heading)))
    found: list[int] = []
    for k in np.argsort(-sharp).tolist():
        if sharp[k] < least:
            break
        at = k + reach
        if all(abs(at - other) > 2 * reach for other in found):
            found.append(at)
    return sorted(found)
