"""Width in the log domain: ln w = ln width_mm + press + pace + taper, at each sample of the trace.

The first three terms are here; the taper needs the finished path and is added in settle.py.
"""

import dataclasses

import numpy as np

from gray_quill.core.angles import UPRIGHT
from gray_quill.core.arrays import Floats
from gray_quill.core.pen.lean import lean_aspect, lean_share
from gray_quill.core.pen.pace import causal_speed_mm_s, pace_term
from gray_quill.core.pen.press import opacity_factor, press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import is_raw, steadied
from gray_quill.core.pen.steady.tail import caught_up
from gray_quill.core.pen.tooth import PACE_SHARE, grade_load, load_over_lean
from gray_quill.core.trace import Trace


@dataclasses.dataclass(frozen=True, eq=False)
class Samples:
    """What the pen knows at each sample, and at those of the catch-up at the lift. All arrays (n,).

    press, pace: terms of ln width. opacity: factor 0..1 on the body's opacity (the load, of a toothed pen). aspect,
    angle: the footprint's long side over its short side, and the direction (radians) of the long side.
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


def pen_samples(trace: Trace, recipe: Recipe) -> Samples:
    """The trace through Steady, Press, Pace, Lean and the tip. Force and lean are held back with the position, so that
    the ink is as the hand was there. When the pen lifts, the tip catches up along the hand's own way, in no time.
    """
    n = len(trace)
    if is_raw(recipe.steady):
        t_s, x, y, force, altitude = trace.t_s, trace.x_mm, trace.y_mm, trace.force, trace.altitude
        azimuth = np.unwrap(trace.azimuth)
    else:
        hand = np.column_stack((trace.x_mm, trace.y_mm, trace.force, trace.altitude, np.unwrap(trace.azimuth)))
        tip = steadied(recipe.steady, trace.t_s, hand)
        tail = caught_up(hand, tip[-1])
        x, y, force, altitude, azimuth = np.concatenate((tip, tail)).T
        force, altitude = np.clip(force, 0, 1), np.clip(altitude, 0, UPRIGHT)
        t_s = np.concatenate((trace.t_s, np.full(len(tail), trace.t_s[-1])))
    speed = np.empty(len(x))
    speed[:n] = causal_speed_mm_s(trace.t_s, x[:n], y[:n])
    speed[n:] = speed[n - 1]
    aspect, angle = footprint(recipe, altitude, azimuth)
    pace, opacity = pace_term(recipe.pace, speed), opacity_factor(recipe.press, force)
    if recipe.tooth.toothed:
        leaning = load_over_lean(lean_share(recipe.lean, altitude))
        opacity = np.clip(grade_load(recipe.tooth.grade, opacity) * leaning * np.exp(PACE_SHARE * pace), 0, 1)
    return Samples(t_s, x, y, speed, press_term(recipe.press, force), pace, opacity, aspect, angle)


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
