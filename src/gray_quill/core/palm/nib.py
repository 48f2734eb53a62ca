"""The nib's own ink: what of it is meant, what is drawn, and the jump that gives away a palm taken for the pen."""

import dataclasses

from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.state import FASTEST_MM_S

Span = tuple[float, float]


def jumps(jump_mm: float, step_mm: float, step_ms: float) -> bool:
    """Whether a nib in contact went farther between two reports than a nib can: until then something else was taken for
    it. 0 trusts every report.
    """
    return 0 < jump_mm < step_mm and step_mm * 1000 > FASTEST_MM_S * step_ms


@dataclasses.dataclass(frozen=True)
class NibInk:
    """Ways, mm: meant by the writer and not there; of that what the device never reported; there and not meant."""

    lost_mm: float
    unreported_mm: float
    stray_mm: float


def nib_ink(stream: Stream, truth: Truth | None, not_drawn: list[Span]) -> NibInk:
    """What became of the nib's ink. not_drawn: spans of time in which it was taken back or not drawn."""
    spans = truth.not_nib if truth else ()
    drawn = stray = reported = 0.0
    for start, end, way in stream.nib_steps:
        meant = not any(a <= start <= b for a, b in spans)
        there = not any(a < end <= b for a, b in not_drawn)
        reported += way * meant
        drawn += way * (meant and there)
        stray += way * (there and not meant)
    meant_mm = reported if truth is None or truth.ink_mm is None else truth.ink_mm
    return NibInk(max(0.0, round(meant_mm - drawn, 6)), max(0.0, round(meant_mm - reported, 6)), round(stray, 6))
