"""What a panel's pixels show: each on its way from one tone to another.

Evenly over an update's time on e-paper, exponentially on panels that make their own light (ten to ninety percent of the
way in the panel's response).
"""

from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

Tones = NDArray[np.float32]
Box = tuple[int, int, int, int]  # left, top, right, bottom in px
TEN_TO_NINETY = float(np.log(9))  # in time constants
LEAST_S = 1e-6  # an update lasts
SETTLED = 8.0  # time constants after which nothing of a change is left to see


class _Ways(NamedTuple):
    """Of each pixel's way: tones at its start and end, when it began and how long it lasts. Channels stand beside each
    other, (h, w * channels).
    """

    start: Tones
    end: Tones
    at_s: Tones
    for_s: Tones


class Glass:
    """Tones encoded 0..255, shape (h, w) or (h, w, 3)."""

    def __init__(self, picture: NDArray[np.uint8], exponential: bool) -> None:
        self.exponential = exponential
        self._channels = picture.shape[2:]
        flat = picture.reshape(len(picture), -1).astype(np.float32)
        self._ways = _Ways(flat, flat.copy(), np.zeros_like(flat), np.full_like(flat, LEAST_S))

    def shown(self, t_s: float, box: Box | None = None) -> Tones:
        """Tones at a moment, in a box or everywhere."""
        tones = np.asarray(_tones(self._ways, self._place(box), np.float32(t_s), self.exponential), np.float32)
        return tones.reshape(len(tones), tones.shape[1] // self._each, *self._channels)

    def drive(self, box: Box, driven: Tones, t_s: float, lasts_s: float, ghost: float = 0, lighter: float = 1) -> None:
        """From a moment on a box goes to some tones, but for its ghost; NaN where a pixel is left alone."""
        left, top, right, bottom = place = self._place(box)
        goals = np.require(driven, np.float32, ("C", "W")).reshape(bottom - top, right - left)
        when = np.float32(t_s), np.float32(max(lasts_s, LEAST_S))
        kept = np.float32(min(ghost * lighter, 1.0)), np.float32(ghost)
        _drive(self._ways, place, goals, when, kept, self.exponential)

    def settles_s(self, lasts_s: float) -> float:
        """How long until nothing of a change is left to see."""
        return lasts_s * (SETTLED / TEN_TO_NINETY if self.exponential else 1.0)

    @property
    def _each(self) -> int:
        return self._channels[0] if self._channels else 1

    def _place(self, box: Box | None) -> Box:
        """What of a box lies on the glass, or all of it, with channels beside each other."""
        height, width = self._ways.end.shape
        left, top, right, bottom = box or (0, 0, width // self._each, height)
        left, top = max(left, 0) * self._each, max(top, 0)
        return left, top, max(left, min(right * self._each, width)), max(top, min(bottom, height))


@numba.njit(cache=True, nogil=True)
def _tone(ways, j, i, t_s, exponential):  # type: ignore[no-untyped-def]
    start, end = ways.start[j, i], ways.end[j, i]
    if start == end:
        return end
    gone = max(t_s - ways.at_s[j, i], np.float32(0)) / ways.for_s[j, i]
    left = np.exp(-np.float32(TEN_TO_NINETY) * gone) if exponential else max(np.float32(1) - gone, np.float32(0))
    return end + (start - end) * left


@numba.njit(cache=True, nogil=True)
def _tones(ways, place, t_s, exponential):  # type: ignore[no-untyped-def]
    left, top, right, bottom = place
    out = np.empty((bottom - top, right - left), np.float32)
    for j in range(top, bottom):
        for i in range(left, right):
            out[j - top, i - left] = _tone(ways, j, i, t_s, exponential)
    return out


@numba.njit(cache=True, nogil=True)
def _drive(ways, place, goals, when, kept, exponential):  # type: ignore[no-untyped-def]
    """when: from when, for how long. kept: share of the tone before, as a pixel gets lighter or darker."""
    left, top, right, bottom = place
    for j in range(top, bottom):
        for i in range(left, right):
            goal = goals[j - top, i - left]
            if not np.isnan(goal):
                now = _tone(ways, j, i, when[0], exponential)
                ways.start[j, i] = now
                ways.end[j, i] = goal + (kept[0] if goal > now else kept[1]) * (now - goal)
                ways.at_s[j, i], ways.for_s[j, i] = when


def joined(one: Box | None, other: Box | None) -> Box | None:
    """The smallest box about two."""
    if one is None or other is None:
        return one or other
    return min(one[0], other[0]), min(one[1], other[1]), max(one[2], other[2]), max(one[3], other[3])


def slices(box: Box) -> tuple[slice, slice]:
    return slice(box[1], box[3]), slice(box[0], box[2])
