"""What a panel's pixels show: each on its way from one tone to another.

Evenly over an update's time on e-paper, exponentially on panels that make their own light (ten to ninety percent of the
way in the panel's response).
"""

import numpy as np
from numpy.typing import NDArray

Tones = NDArray[np.float32]
Box = tuple[int, int, int, int]  # left, top, right, bottom in px
TEN_TO_NINETY = float(np.log(9))  # in time constants
SETTLED = 8.0  # time constants after which nothing of a change is left to see


class Glass:
    """Tones encoded 0..255, shape (h, w) or (h, w, 3)."""

    def __init__(self, picture: NDArray[np.uint8], exponential: bool) -> None:
        self.exponential = exponential
        shape = picture.shape
        self._from, self._to = picture.astype(np.float32), picture.astype(np.float32)
        self._at, self._lasts = np.zeros(shape, np.float32), np.full(shape, 1e-6, np.float32)

    def shown(self, t_s: float, box: Box | None = None) -> Tones:
        """Tones at a moment, in a box or everywhere."""
        here = slices(box) if box else (slice(None), slice(None))
        gone = np.maximum(t_s - self._at[here], 0) / self._lasts[here]
        left = np.exp(-TEN_TO_NINETY * gone) if self.exponential else np.maximum(1 - gone, 0)
        return np.asarray(self._to[here] + (self._from[here] - self._to[here]) * left, np.float32)

    def drive(self, box: Box, driven: Tones, t_s: float, lasts_s: float, ghost: float = 0, lighter: float = 1) -> None:
        """From a moment on a box goes to some tones, but for its ghost; NaN where a pixel is left alone."""
        here, now = slices(box), self.shown(t_s, box)
        kept = np.where(driven > now, np.minimum(ghost * lighter, 1.0), ghost)
        to = np.where(np.isnan(driven), self._to[here], driven + kept * (now - driven))
        moved = ~np.isnan(driven)
        self._from[here] = np.where(moved, now, self._from[here])
        self._to[here] = to
        self._at[here] = np.where(moved, t_s, self._at[here])
        self._lasts[here] = np.where(moved, max(lasts_s, 1e-6), self._lasts[here])

    def settles_s(self, lasts_s: float) -> float:
        """How long until nothing of a change is left to see."""
        return lasts_s * (SETTLED / TEN_TO_NINETY if self.exponential else 1.0)


def joined(one: Box | None, other: Box | None) -> Box | None:
    """The smallest box about two."""
    if one is None or other is None:
        return one or other
    return min(one[0], other[0]), min(one[1], other[1]), max(one[2], other[2]), max(one[3], other[3])


def slices(box: Box) -> tuple[slice, slice]:
    return slice(box[1], box[3]), slice(box[0], box[2])
