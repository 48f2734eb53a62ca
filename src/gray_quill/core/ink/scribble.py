"""Scribbling over ink: a way to and fro, dense and long, that means what lies under it shall go."""

from collections.abc import Sequence

import numpy as np
from scipy.ndimage import gaussian_filter1d

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink
from gray_quill.core.trace import along_path_mm

# Told apart on ways of the shipped hands that no test looks at.
LEAST_TURNS = 5  # to and fro
LEAST_SWING_MM = 4.0  # of the middle swing
DENSE = 0.34  # of a swing, what the way goes on from one turn to the turn after next, at most
STRAIGHT_SWING = 0.88  # a swing's span over its length: letters bend, scribbles run
EVEN = 0.5  # the shortest swing, of the middle one
COVERED = 0.5  # share of a stroke's path under the scribble, from which it goes
STEP_MM, LOOKED_AT = 0.25, 33


def is_scribble(x: Floats, y: Floats) -> bool:
    """Whether a way (n,) goes to and fro as a scribble does."""
    along = along_path_mm(x, y)
    if len(x) < 8 or along[-1] < LEAST_TURNS * LEAST_SWING_MM:
        return False
    even = np.linspace(0, along[-1], int(along[-1] / STEP_MM) + 2)
    way = np.column_stack((np.interp(even, along, x), np.interp(even, along, y)))
    way = gaussian_filter1d(way, 1.5, axis=0, mode="nearest")
    main = _swing_axis(way)
    turns = _turns(way @ main)
    if len(turns) < LEAST_TURNS + 2:
        return False
    swings = np.hypot(*np.diff(way[turns], axis=0).T)[1:-1]
    lengths = np.diff(even[turns])[1:-1]
    on = np.hypot(*(way[turns[2:]] - way[turns[:-2]]).T)
    middle = float(np.median(swings))
    return bool(
        middle >= LEAST_SWING_MM
        and np.median(on) <= DENSE * middle
        and np.median(swings / lengths) >= STRAIGHT_SWING
        and swings.min() >= EVEN * middle
    )


def scribbled(inks: Sequence[Ink], x: Floats, y: Floats) -> list[int]:
    """Places of the strokes a scribble covers by half or more of their path."""
    way = np.column_stack((x, y))
    gap = max(1.5, _pitch_mm(x, y))
    box = (x.min() - gap, y.min() - gap, x.max() + gap, y.max() + gap)
    found = []
    for k, ink in enumerate(inks):
        left, top, right, bottom = ink.box_mm
        if right < box[0] or left > box[2] or bottom < box[1] or top > box[3]:
            continue
        gone = along_path_mm(ink.x_mm, ink.y_mm)  # a straight line has few points of its own
        at = np.linspace(0, gone[-1], LOOKED_AT)
        path = np.column_stack((np.interp(at, gone, ink.x_mm), np.interp(at, gone, ink.y_mm)))
        away = np.sqrt(((path[:, None] - way[None, :: max(1, len(way) // 400)]) ** 2).sum(axis=2).min(axis=1))
        if (away <= gap).mean() >= COVERED:
            found.append(k)
    return found


def _swing_axis(way: Floats) -> Floats:
    """The direction of the swings: of the way's steps, not of its places."""
    steps = np.diff(way, axis=0)
    turned = np.exp(2j * np.arctan2(steps[:, 1], steps[:, 0])) * np.hypot(*steps.T)
    angle = float(np.angle(turned.sum())) / 2
    return np.array((np.cos(angle), np.sin(angle)))


def _turns(across: Floats) -> Floats:
    """First, last, and every place where it turns back by more than a small part of its span."""
    least = 0.08 * float(np.ptp(across))
    turns, low, high, up = [0], 0, 0, True
    for k, value in enumerate(across):
        if value > across[high]:
            high = k
        if value < across[low]:
            low = k
        if up and across[high] - value > least:
            turns.append(high)
            low, up = k, False
        elif not up and value - across[low] > least:
            turns.append(low)
            high, up = k, True
    return np.array([*turns, len(across) - 1])


def _pitch_mm(x: Floats, y: Floats) -> float:
    """About how far two neighbouring swings lie apart: the area over the length."""
    length = float(along_path_mm(x, y)[-1])
    return float(np.ptp(x) * np.ptp(y)) / max(length, 1e-9)
