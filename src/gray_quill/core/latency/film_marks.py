"""A film read by hand: nib and ink end marked in some frames, where the reader cannot find them."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.errors import InputError
from gray_quill.core.latency.film_reader import check_camera, t_95

LEAST_MARKED = 3


@dataclasses.dataclass(frozen=True)
class Mark:
    """In frame number `frame` (from 0) the nib is at nib_px, the ink ends at front_px, both (x, y) in pixels."""

    frame: int
    nib_px: tuple[float, float]
    front_px: tuple[float, float]


@dataclasses.dataclass(frozen=True)
class Marked:
    """As film_reader.Reading, from marks."""

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    frames_used: int
    speed_mm_s: float


def read_marks(marks: Sequence[Mark], fps: float, mm_per_px: float) -> Marked:
    """The delay from marks: the gap in each frame over the nib's speed, taken from a straight line through its places
    along the stroke.

    Raises InputError for too few frames, a nib that hardly moves, or ink marked ahead of it.
    """
    check_camera(fps, mm_per_px)
    by_frame = sorted({m.frame: m for m in marks}.values(), key=lambda m: m.frame)
    if len(by_frame) < LEAST_MARKED:
        raise InputError(
            f"Mark nib and ink end in {LEAST_MARKED} frames or more; {len(by_frame)} "
            f"{'is' if len(by_frame) == 1 else 'are'} marked.",
            "marks",
        )
    t = np.array([m.frame for m in by_frame]) / fps
    nib, front = (np.array([getattr(m, name) for m in by_frame], float) * mm_per_px for name in ("nib_px", "front_px"))
    way = nib[-1] - nib[0]
    length = float(np.hypot(*way))
    if length < 2.0:
        raise InputError(
            f"The nib moves {length:.1f} mm between these marks; mark frames that lie further apart, or check the "
            "scale.",
            "marks",
        )
    along, behind = nib @ way / length, (nib - front) @ way / length
    ahead = np.flatnonzero(behind < -0.5)
    if len(ahead):
        raise InputError(
            f"In frame {by_frame[ahead[0]].frame + 1} the ink ends ahead of the nib. Mark it again.", "marks"
        )
    speed = float(np.polyfit(t, along, 1)[0])
    late = 1000 * behind / speed
    freedom = len(late) - 1
    half = t_95(freedom) * float(late.std(ddof=1)) / len(late) ** 0.5
    return Marked(
        float(late.mean()), float(np.hypot(half, 1000 / fps / 12**0.5)), float(behind.mean()), len(late), speed
    )
