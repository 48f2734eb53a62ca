"""Intent -> timed motion -> force and tilt, at 1000 samples a second.

Speed follows the two-thirds power law in the form v = K curvature^(-1/3) (Lacquaniti, Terzuolo and Viviani, Acta
Psychologica 54, 1983; from memory), bounded; tremor is band-passed 8-12 Hz noise (Elble and Koller 1990; from memory).
"""

import dataclasses
import functools
from collections.abc import Sequence

import numpy as np
from scipy.ndimage import gaussian_filter1d

from gray_quill.core.arrays import Floats
from gray_quill.core.curves import smooth_path
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent

MOTION_HZ = 1000.0
PATH_STEP_MM = 0.04
SLOWEST, FASTEST = 0.25, 2.4  # bounds on speed relative to the mean
AIR = 2.5  # how much quicker the pen travels through the air than on the page
UNEVEN = 0.25  # spread of pauses, in their logarithm
TURNS = 1.5  # how much more the pen turns about than it tips
QUICKEST_S = 0.07  # from stop to stop; a short stroke takes a hand longer than its length says (isochrony; from memory)
TREMOR_HZ = (8.0, 12.0)
FILTER_SIGMAS = 4.0  # how far a Gaussian reaches


@dataclasses.dataclass(frozen=True, eq=False)
class Motion:
    """One stroke of the nib on the page, sampled at MOTION_HZ. Arrays (n,); start_s is when it lands, t_s counts from
    there.
    """

    start_s: float
    t_s: Floats
    x_mm: Floats
    y_mm: Floats
    force: Floats
    altitude: Floats
    azimuth: Floats


def perform(hand: Hand, intents: Sequence[Intent], rng: np.random.Generator) -> list[Motion]:
    """The hand does what it means to, stroke after stroke, with pauses between."""
    motions, clock = [], 0.0
    last: Floats | None = None
    for intent in intents:
        if last is not None:
            away = float(np.hypot(*(intent.path[0] - last)))
            clock += hand.pause_ms / 1000 * float(np.exp(UNEVEN * rng.standard_normal()))
            clock += away / (AIR * hand.speed_mm_s)
        motion = _stroke(hand, intent, clock, rng)
        motions.append(motion)
        clock += float(motion.t_s[-1])
        last = intent.path[-1]
    return motions


def _stroke(hand: Hand, intent: Intent, start_s: float, rng: np.random.Generator) -> Motion:
    x, y, t = _timed_path(intent, hand)
    n = max(2, int(np.ceil((t[-1] + intent.hold_s) * MOTION_HZ)) + 1)
    now = np.arange(n) / MOTION_HZ
    px, py = np.interp(now, t, x), np.interp(now, t, y)
    shake = tremor(hand.tremor_mm, n, rng)
    force = _force(hand, intent, now, px, py, rng)
    altitude, azimuth = _tilt(hand, intent, n, rng)
    return Motion(start_s, now, px + shake[0], py + shake[1], force, altitude, azimuth)


def _timed_path(intent: Intent, hand: Hand) -> tuple[Floats, Floats, Floats]:
    """A smooth path and the time at which the nib is at each of its points."""
    path = intent.path
    if len(path) < 2 or float(np.hypot(*np.diff(path, axis=0).T).sum()) < PATH_STEP_MM:
        return np.repeat(path[0, 0], 2), np.repeat(path[0, 1], 2), np.array([0.0, intent.dwell_s])
    x, y, _, along = smooth_path(path[:, 0].copy(), path[:, 1].copy(), 0.001, PATH_STEP_MM, np.inf, np.inf)
    even = np.linspace(0, along[-1], max(4, int(along[-1] / PATH_STEP_MM) + 1))
    x, y = np.interp(even, along, x), np.interp(even, along, y)
    step = even[1]
    rounding = min(hand.x_height_mm * 0.07, along[-1] / 12) / step
    x, y = _rounded(x, rounding), _rounded(y, rounding)
    speed = power_law_speed(x, y, rounding) * hand.speed_mm_s * intent.pace
    pieces = np.hypot(np.diff(x), np.diff(y)) / ((speed[1:] + speed[:-1]) / 2)
    t = np.concatenate(([0.0], np.cumsum(pieces)))
    return x, y, t * max(1.0, QUICKEST_S / t[-1])


def _rounded(values: Floats, sigma: float) -> Floats:
    """Smoothed, with both ends held where they are."""
    line = np.linspace(values[0], values[-1], len(values))
    beyond = min(len(values) - 1, int(FILTER_SIGMAS * sigma) + 1)
    padded = np.pad(values - line, beyond, mode="reflect", reflect_type="odd")
    smooth = gaussian_filter1d(padded, sigma, mode="nearest", truncate=FILTER_SIGMAS)
    return np.asarray(line + smooth[beyond : beyond + len(values)])


def power_law_speed(x: Floats, y: Floats, rounding: float) -> Floats:
    """Speed relative to the mean along an evenly spaced path: curvature^(-1/3), bounded, slow at both ends."""
    dx, dy = np.gradient(x), np.gradient(y)
    ddx, ddy = np.gradient(dx), np.gradient(dy)
    curvature = np.abs(dx * ddy - dy * ddx) / np.maximum(np.hypot(dx, dy), 1e-9) ** 3
    free = np.maximum(curvature, 1e-6) ** (-1 / 3)
    free = np.clip(free / np.median(free), SLOWEST, FASTEST)
    free = gaussian_filter1d(free, max(rounding, 1.0), mode="nearest")
    ends = np.minimum(np.arange(len(x)), np.arange(len(x))[::-1]) * PATH_STEP_MM
    ramp = np.sqrt(np.clip((ends + 0.02) / 1.2, 0, 1))  # constant acceleration over the first and last 1.2 mm
    speed = free * np.maximum(ramp, 0.12)
    return np.asarray(speed * np.mean(1 / speed))


@functools.cache
def _tremor_band() -> Floats:
    from scipy.signal import butter

    return np.asarray(butter(2, TREMOR_HZ, "bandpass", fs=MOTION_HZ, output="sos"))


def tremor(rms_mm: float, count: int, rng: np.random.Generator) -> Floats:
    """Two rows of band-passed noise of the given RMS, shape (2, count)."""
    if rms_mm == 0:
        return np.zeros((2, count))
    from scipy.signal import sosfilt  # late, as in readings/tremor.py

    settle = int(MOTION_HZ)
    noise = sosfilt(_tremor_band(), rng.standard_normal((2, count + settle)))
    gain = np.sqrt(
        (TREMOR_HZ[1] - TREMOR_HZ[0]) / (MOTION_HZ / 2) * np.pi / 2 * 0.7071
    )  # noise bandwidth of a 2nd-order band-pass
    return np.asarray(noise[:, settle:] / gain * rms_mm)


def _force(hand: Hand, intent: Intent, t: Floats, x: Floats, y: Floats, rng: np.random.Generator) -> Floats:
    if intent.force is not None:
        asked = np.interp(np.linspace(0, 1, len(t)), np.linspace(0, 1, len(intent.force)), intent.force)
        return np.clip(asked + 0.006 * _slow_noise(len(t), rng), 0, 1)
    vx, vy = np.gradient(x), np.gradient(y)
    down = vy / np.maximum(np.hypot(vx, vy), 1e-9)
    down = gaussian_filter1d(down, 0.03 * MOTION_HZ, mode="nearest")
    habit = hand.force + hand.force_swing * down + 0.05 * hand.force * _slow_noise(len(t), rng)
    onset_s, lift_s = max(hand.onset_ms, 1) / 1000, max(hand.lift_ms, 1) / 1000
    left = t[-1] - t
    ramp = (
        np.minimum(np.clip(t / onset_s, 0, 1), np.clip(left / lift_s, 0, 1))
        if t[-1] > onset_s + lift_s
        else np.sin(np.pi * (t + 1e-3) / (t[-1] + 2e-3))
    )
    return np.clip(habit * (0.12 + 0.88 * ramp * ramp * (3 - 2 * ramp)), 0.01, 1)


def _tilt(hand: Hand, intent: Intent, count: int, rng: np.random.Generator) -> tuple[Floats, Floats]:
    altitude = np.radians((intent.lean_deg or hand.altitude_deg) + hand.drift_deg * _slow_noise(count, rng))
    points = np.radians(hand.azimuth_deg if hand.side == "right" else 180 - hand.azimuth_deg)
    azimuth = points + np.radians(TURNS * hand.drift_deg) * _slow_noise(count, rng)
    return np.clip(altitude, 0.1, np.pi / 2), np.mod(azimuth, 2 * np.pi)


def _slow_noise(count: int, rng: np.random.Generator) -> Floats:
    """Smooth drift of about unit size over a quarter of a second."""
    knots = max(2, int(count / (0.25 * MOTION_HZ)) + 2)
    return np.asarray(np.interp(np.linspace(0, knots - 1, count), np.arange(knots), rng.standard_normal(knots)))
