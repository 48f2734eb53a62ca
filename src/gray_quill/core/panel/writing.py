"""A writing in time: strokes and when each begins, what is erased, how far the page is scrolled, when it is turned."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink
from gray_quill.core.trace import Trace

GAP_S = 0.25  # between strokes whose traces do not say when they began
MOST_GAP_S = 0.8  # longer pauses of the hand are cut to this, or most of a film would be waiting
SCROLLS_HZ = 60.0


@dataclasses.dataclass(frozen=True, eq=False)
class Writing:
    """Each stroke's ink, and when it begins; ink that is there from the start began before 0. erased: when strokes, by
    their places, go. scrolled: from when on the page lies so many mm higher. turned: when the next page comes, on which
    all later strokes are. times_s: when each point of each stroke comes about, where that is not when it was written.
    """

    inks: Sequence[Ink]
    starts_s: Sequence[float]
    erased: Sequence[tuple[float, int]] = ()
    scrolled: Sequence[tuple[float, float]] = ()
    turned: Sequence[float] = ()
    times_s: Sequence[Floats] = ()

    def lasts_s(self, k: int) -> float:
        """How long a stroke takes."""
        return float(self._times(k)[-1])

    def _times(self, k: int) -> Floats:
        return self.times_s[k] if self.times_s else self.inks[k].t_s

    def written_s(self) -> float:
        """When the last stroke is written."""
        written = [start + self.lasts_s(k) for k, start in enumerate(self.starts_s)]
        return max(written, default=0.0)

    def ends_s(self) -> float:
        """When nothing more is done."""
        return max([self.written_s(), *(t for t, _ in self.erased), *(t for t, _ in self.scrolled), *self.turned])

    def page(self, t_s: float) -> int:
        """How often the page was turned until a moment."""
        return sum(at <= t_s for at in self.turned)

    def shift_mm(self, t_s: float) -> float:
        """How much higher the page lies at a moment."""
        since = max([at for at in self.turned if at <= t_s], default=-np.inf)
        return next((mm for at, mm in reversed(self.scrolled) if since <= at <= t_s), 0.0)

    def begun(self, t_s: float) -> list[tuple[int, Ink, float]]:
        """Strokes of the page there is at a moment that were begun by then: place, ink, start."""
        since = max([at for at in self.turned if at <= t_s], default=-np.inf)
        pairs = enumerate(zip(self.inks, self.starts_s, strict=True))
        return [(k, ink, start) for k, (ink, start) in pairs if since <= start <= t_s]

    def nib(self, t_s: float) -> tuple[float, float] | None:
        """Where the nib is on the screen at a moment, mm; None while it is up."""
        for k, ink, start in self.begun(t_s):
            if t_s - start <= self.lasts_s(k):
                x, y = (float(np.interp(t_s - start, self._times(k), way)) for way in (ink.x_mm, ink.y_mm))
                return x, y - self.shift_mm(t_s)
        return None

    def until(self, t_s: float) -> list[Ink]:
        """The ink there is at a moment."""
        gone = {k for at, k in self.erased if at <= t_s}
        begun = [(k, ink, t_s - at) for k, ink, at in self.begun(t_s) if k not in gone]
        return [part for k, ink, since_s in begun if (part := _until(ink, self._times(k), since_s))]


def starts_of(traces: Sequence[Trace]) -> list[float]:
    """When each stroke begins, s from the first, as their traces say; their pauses not longer than MOST_GAP_S."""
    starts, now = [], 0.0
    for k, trace in enumerate(traces):
        if k:
            now += _pause_s(traces[k - 1], trace)
        starts.append(now)
        now += float(trace.t_s[-1])
    return starts


def _pause_s(before: Trace, after: Trace) -> float:
    if before.begun_s is None or after.begun_s is None:
        return GAP_S
    pause = after.begun_s - before.begun_s - float(before.t_s[-1])
    return float(np.clip(pause, 0.02, MOST_GAP_S)) if pause >= 0 else GAP_S


def scrolling(from_s: float, by_mm: float, lasts_s: float = 0.8) -> list[tuple[float, float]]:
    """A page pushed up by a finger, that starts and ends slowly."""
    share = np.linspace(0, 1, max(2, round(lasts_s * SCROLLS_HZ)) + 1)[1:]
    return [(from_s + lasts_s * float(s), by_mm * float(s * s * (3 - 2 * s))) for s in share]


def _until(ink: Ink, times_s: Floats, t_s: float) -> Ink | None:
    """What of a stroke is written so long after its start."""
    n = int(np.searchsorted(times_s, t_s, side="right"))
    if n == 0:
        return None
    if n == len(ink.t_s):
        return ink
    pieces = np.append(ink.pieces[ink.pieces < n], n)
    columns = ("x_mm", "y_mm", "long_mm", "short_mm", "angle", "opacity", "at", "t_s")
    return dataclasses.replace(ink, pieces=pieces, **{c: getattr(ink, c)[:n] for c in columns})
