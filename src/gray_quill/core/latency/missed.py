"""What the device misses of quick small writing: stalls of the ink, gaps the reports bridge, and the detail those
cost.
"""

import dataclasses
from functools import lru_cache

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device, Digitiser
from gray_quill.core.digitiser.sampling import sample_motion
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import text_intents
from gray_quill.core.hand.motion import Motion, perform
from gray_quill.core.latency.trial import Lag, quick_lag
from gray_quill.core.latency.updates import panel_updates, update_period_s
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.ink_readings import REST_MM
from gray_quill.core.readings.reading import SHARE, declared, reading, readings_of
from gray_quill.core.trace import Trace, path_length_mm

QUICK_TEXT = "minim, moth. sill: inn"  # small letters with dots, which a slow digitiser joins up or passes over
X_HEIGHT_MM = 1.8
SEED = 3
RUN_S = 4.0
# a pause longer than this many report intervals means that one was lost; the simulated clock is never that uneven
LOST_INTERVALS = 1.5


@dataclasses.dataclass(frozen=True)
class Missed:
    """What a device misses of small writing at a nib speed."""

    speed_mm_s: float = reading("nib speed", "mm/s", "How fast the nib goes.")
    bridged: int = reading("bridged", "", "How often reports were lost while the nib moved.", digits=0, better="less")
    bridged_mm: float = reading("longest bridge", "mm", "The longest way without a report.", better="less")
    detail_mm: float = reading(
        "detail lost",
        "mm",
        "Nineteen twentieths of the true path lie nearer to the straight joins of its reports.",
        better="less",
    )
    start_mm: float = reading("start lost", "mm", "Mean way before a stroke is noticed.", better="less")
    strokes_lost: int = reading("strokes lost", "", "Strokes that leave no report at all.", digits=0, better="less")
    strokes: int = reading("strokes", "", "Strokes that were written.", digits=0)
    stall_share: float = reading(
        "stalls", SHARE, "Pictures in which the ink did not grow though the nib moved.", better="less"
    )
    stall_ms: float = reading("longest stall", "ms", "The longest time the ink stood still.", digits=0, better="less")


@dataclasses.dataclass(frozen=True)
class AtSpeed(Missed):
    """A nib speed with its delay and gap, and what is missed at it."""

    p50_ms: float = declared(readings_of(Lag)["p50_ms"])
    gap_mm_p50: float = declared(readings_of(Lag)["gap_mm_p50"])
    gap_mm_p95: float = declared(readings_of(Lag)["gap_mm_p95"])


def at_speed(device: Device, recipe: Recipe, speed_mm_s: float) -> AtSpeed:
    """Delay, gap and what is missed of small writing at a nib speed."""
    p50, p95 = quick_lag(device, recipe, speed_mm_s)
    gaps = (p50 * speed_mm_s / 1000, p95 * speed_mm_s / 1000)
    return AtSpeed(**vars(missed(device, recipe, speed_mm_s)), p50_ms=p50, gap_mm_p50=gaps[0], gap_mm_p95=gaps[1])


def missed(device: Device, recipe: Recipe, speed_mm_s: float) -> Missed:
    """Small writing at a mean speed on the device, seeded, against the way the nib really went. Noise is left out: it
    loses nothing.
    """
    return Missed(speed_mm_s, *_joins(device.digitiser, speed_mm_s), *_stalls(device, recipe, speed_mm_s))


@lru_cache(maxsize=128)
def _joins(digitiser: Digitiser, speed_mm_s: float) -> tuple[int, float, float, float, int, int]:
    hand = Hand("quick", "right", "plain", x_height_mm=X_HEIGHT_MM, speed_mm_s=speed_mm_s, tremor_mm=0)
    rng = np.random.default_rng(SEED)
    motions = perform(hand, text_intents(QUICK_TEXT, hand, 10, 20, 120, rng), rng)
    quiet = dataclasses.replace(digitiser, noise_mm=0.0)
    bridged, longest, lost, starts = 0, 0.0, 0, [0.0]
    off: list[Floats] = [np.zeros(1)]
    for motion in motions:
        sampled = sample_motion(motion, quiet, rng)
        if sampled is None:
            lost += 1
            continue
        trace, first_s = sampled
        ways = np.hypot(np.diff(trace.x_mm), np.diff(trace.y_mm))
        late = (np.diff(trace.t_s) > LOST_INTERVALS / digitiser.report_hz) & (ways > REST_MM)
        bridged += int(late.sum())
        longest = max(longest, float(ways[late].max(initial=0.0)))
        before = motion.t_s < first_s
        starts.append(path_length_mm(motion.x_mm[before], motion.y_mm[before]))
        off.append(_off_the_joins(motion, trace, first_s))
    return (
        bridged,
        longest,
        float(np.percentile(np.concatenate(off), 95)),
        float(np.mean(starts[1:] or starts)),
        lost,
        len(motions),
    )


def _off_the_joins(motion: Motion, trace: Trace, first_s: float) -> Floats:
    """Distance in mm of the true path from the straight piece between the reports before and after each of its
    moments.
    """
    if len(trace) < 2:
        return np.hypot(motion.x_mm - trace.x_mm[0], motion.y_mm - trace.y_mm[0])
    inside = (motion.t_s >= first_s) & (motion.t_s <= first_s + trace.t_s[-1])
    k = np.clip(np.searchsorted(trace.t_s + first_s, motion.t_s[inside], side="right") - 1, 0, len(trace) - 2)
    ax, ay = trace.x_mm[k], trace.y_mm[k]
    dx, dy = trace.x_mm[k + 1] - ax, trace.y_mm[k + 1] - ay
    px, py = motion.x_mm[inside] - ax, motion.y_mm[inside] - ay
    share = np.clip((px * dx + py * dy) / np.maximum(dx * dx + dy * dy, 1e-12), 0, 1)
    return np.asarray(np.hypot(px - share * dx, py - share * dy))


@lru_cache(maxsize=128)
def _stalls(device: Device, recipe: Recipe, speed_mm_s: float) -> tuple[float, float]:
    """Share of panel updates without new ink, and the longest time the ink stood, ms, over RUN_S of even motion."""
    _, reach = panel_updates(device, recipe, RUN_S, speed_mm_s, np.random.default_rng(SEED))
    begun = reach > 0
    grows = np.diff(reach[begun]) > 0
    if not len(grows):
        return 0.0, RUN_S * 1000
    moments = np.concatenate(([0], np.flatnonzero(grows) + 1))
    period_ms = update_period_s(device.panel, recipe) * 1000
    return float(1 - grows.mean()), float(np.diff(moments).max(initial=1)) * period_ms
