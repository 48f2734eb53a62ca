"""Width in the log domain: ln w = ln width_mm + press + pace + taper, at each sample of the trace.

The first three terms are here; the taper needs the finished path and is added in settle.py.
"""

import dataclasses
import itertools
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.angles import UPRIGHT, unwrapped
from gray_quill.core.arrays import Floats
from gray_quill.core.pen.lean import lean_aspect, lean_share
from gray_quill.core.pen.pace import causal_speed_mm_s, pace_term
from gray_quill.core.pen.pressure_curve import opacity_factor, press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import is_raw, steadying
from gray_quill.core.pen.steady.tail import caught_up
from gray_quill.core.pen.tooth import PACE_SHARE, grade_load, load_over_lean
from gray_quill.core.trace import Trace


@dataclasses.dataclass(frozen=True, eq=False)
class Samples:
    """What the pen knows at each sample of some strokes, and at those of the catch-up at their lifts. All arrays (n,).

    press, pace: terms of ln width. opacity: factor 0..1 on the body's opacity (the load, of a toothed pen). aspect,
    angle: the footprint's long side over its short side, and the direction (radians) of the long side. offsets:
    (k + 1,), part the samples into strokes.
    """

    t_s: Floats
    x_mm: Floats
    y_mm: Floats
    speed_mm_s: Floats
    press: Floats
    pace: Floats
    opacity: Floats
    aspect: Floats
    angle: Floats
    offsets: NDArray[np.int64]


def pen_samples(trace: Trace, recipe: Recipe) -> Samples:
    """One trace's samples."""
    return samples_of([trace], recipe)


def samples_of(traces: Sequence[Trace], recipe: Recipe) -> Samples:
    """Traces through Steady, Press, Pace, Lean and the tip. Force and lean are held back with the position, so that
    the ink is as the hand was there. When the pen lifts, the tip catches up along the hand's own way, in no time.
    """
    offsets = np.concatenate(([0], np.cumsum([len(t) for t in traces])))
    t_s, x, y, force, altitude, turning = (
        np.concatenate([getattr(t, name) for t in traces])
        for name in ("t_s", "x_mm", "y_mm", "force", "altitude", "azimuth")
    )
    azimuth = unwrapped(turning, offsets)
    if not is_raw(recipe.steady):
        hand = np.empty((len(x), 5))
        for k, column in enumerate((x, y, force, altitude, azimuth)):
            hand[:, k] = column
        calmed, parts = steadying(recipe.steady), []
        for lo, hi in itertools.pairwise(offsets.tolist()):
            tip = calmed(t_s[lo:hi], hand[lo:hi])
            parts += [tip, caught_up(hand[lo:hi], tip[-1])]
        tails = np.array([len(tail) for tail in parts[1::2]])
        x, y, force, altitude, azimuth = np.ascontiguousarray(np.concatenate(parts).T)
        force, altitude = np.clip(force, 0, 1), np.clip(altitude, 0, UPRIGHT)
        t_s = np.insert(t_s, np.repeat(offsets[1:], tails), np.repeat(t_s[offsets[1:] - 1], tails))
        offsets = offsets + np.concatenate(([0], np.cumsum(tails)))
    speed = causal_speed_mm_s(t_s, x, y, offsets)
    aspect, angle = footprint(recipe, altitude, azimuth)
    pace, opacity = pace_term(recipe.pace, speed), opacity_factor(recipe.press, force)
    if recipe.tooth.toothed:
        leaning = load_over_lean(lean_share(recipe.lean, altitude))
        opacity = np.clip(grade_load(recipe.tooth.grade, opacity) * leaning * np.exp(PACE_SHARE * pace), 0, 1)
    return Samples(t_s, x, y, speed, press_term(recipe.press, force), pace, opacity, aspect, angle, offsets)


def footprint(recipe: Recipe, altitude: Floats, azimuth: Floats) -> tuple[Floats, Floats]:
    """Aspect (>= 1) and direction of the footprint's long side: the tip's own, else the leaning lead's along the
    azimuth, which does not jump.
    """
    tip = recipe.wash.tip
    if tip.shape == "spray":
        return np.ones(len(altitude)), np.zeros(len(altitude))
    if tip.shape != "round":
        return np.full(len(altitude), tip.aspect), np.full(len(altitude), -np.radians(tip.angle_deg))
    if recipe.lean.side_mm <= recipe.body.width_mm:
        return np.ones(len(altitude)), np.zeros(len(altitude))
    return lean_aspect(recipe.lean, recipe.body.width_mm, altitude), azimuth


def across_motion_mm(shape: str, long_mm: Floats, short_mm: Floats, angle: Floats, heading: Floats) -> Floats:
    """The mark's width across a motion in direction `heading`.

    Ellipse: 2 sqrt(a^2 sin^2 + b^2 cos^2) with semi-axes a, b; rectangle: W |sin| + H |cos| (support functions).
    """
    sin, cos = np.sin(heading - angle), np.cos(heading - angle)
    if shape == "chisel":
        return np.asarray(long_mm * np.abs(sin) + short_mm * np.abs(cos))
    return np.asarray(np.hypot(long_mm * sin, short_mm * cos))
