"""A motion through a digitiser: reports at its rate, with its noise, levels, activation threshold and losses."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.angles import spherical_to_tilt, tilt_to_spherical
from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Digitiser
from gray_quill.core.errors import InputError
from gray_quill.core.hand.motion import Motion
from gray_quill.core.trace import Trace, make_trace

MOST_REPORTS = 500_000
STEEPEST_TILT_DEG = 60  # common practice, no source: pens report tilt up to about 60 degrees from upright


def sample_motions(motions: Sequence[Motion], digitiser: Digitiser, rng: np.random.Generator) -> list[Trace]:
    """One trace for each stroke that is pressed hard enough to be noticed."""
    sampled = [sample_motion(m, digitiser, rng) for m in motions]
    return [trace for trace, _ in filter(None, sampled)]


def sample_motion(motion: Motion, digitiser: Digitiser, rng: np.random.Generator) -> tuple[Trace, float] | None:
    """The trace of one stroke and how long after landing its first report was taken, s; None when the stroke is not
    noticed.
    """
    interval = 1 / digitiser.report_hz
    first = rng.uniform(0, interval)
    count = int((motion.t_s[-1] - first) / interval) + 1
    if count < 1:
        first, count = float(motion.t_s[-1]) / 2, 1
    clock = first + np.arange(count) * interval
    seen = np.clip(clock + rng.uniform(-0.5, 0.5, count) * digitiser.clock_jitter * interval, 0, motion.t_s[-1])
    force = np.interp(seen, motion.t_s, motion.force)
    steps = digitiser.levels - 1
    force = np.round(force * steps) / steps
    pressed = np.flatnonzero(force >= max(digitiser.activation, 1 / steps))
    if not pressed.size:
        return None
    keep = np.zeros(count, bool)
    keep[pressed[0] : pressed[-1] + 1] = True
    lost = rng.random(count) < digitiser.dropped
    lost[[pressed[0], pressed[-1]]] = False
    keep &= ~lost
    x, y = (
        _waved(np.interp(seen, motion.t_s, v), digitiser) + rng.normal(0, digitiser.noise_mm, count)
        for v in (motion.x_mm, motion.y_mm)
    )
    altitude = azimuth = None
    if digitiser.tilt:
        tx, ty = spherical_to_tilt(
            np.interp(seen, motion.t_s, motion.altitude)[keep],
            np.interp(seen, motion.t_s, np.unwrap(motion.azimuth))[keep],
        )
        altitude, azimuth = tilt_to_spherical(
            np.clip(tx, -STEEPEST_TILT_DEG, STEEPEST_TILT_DEG), np.clip(ty, -STEEPEST_TILT_DEG, STEEPEST_TILT_DEG)
        )
    first_s = float(seen[keep][0])
    begun_s = motion.start_s + first_s
    return make_trace(seen[keep] - first_s, x[keep], y[keep], force[keep], altitude, azimuth, begun_s), first_s


def _waved(v: Floats, digitiser: Digitiser) -> Floats:
    """A grid of antennas errs with the place."""
    return v + digitiser.wave_mm * np.sin(2 * np.pi * v / digitiser.wave_period_mm) if digitiser.wave_mm else v


def reported_by(traces: Sequence[Trace], digitiser: Digitiser, seed: int) -> list[Trace]:
    """The same strokes as another device would have reported them; what was not told stays untold."""
    if sum(float(t.t_s[-1]) for t in traces) * digitiser.report_hz > MOST_REPORTS:
        raise InputError("These strokes last too long to be reported again. Take fewer of them.", "device")
    rng, found = np.random.default_rng(seed), []
    for t in traces:
        motion = Motion(0.0, t.t_s, t.x_mm, t.y_mm, t.force, t.altitude, t.azimuth)
        sampled = sample_motion(motion, digitiser, rng)
        if sampled is not None:
            found.append(dataclasses.replace(sampled[0], absent=sampled[0].absent | t.absent))
    return found
