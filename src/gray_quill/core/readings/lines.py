"""Finding a line of writing among strokes, to tune a pen against."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.trace import Trace, bounds_mm

MOST_SAMPLES = 3000


def longest_line(traces: Sequence[Trace], most_samples: int = MOST_SAMPLES) -> list[int]:
    """Indices of the strokes of the line that reaches farthest across the page: those whose middles lie in one band of
    height.

    The band is twice the median stroke's height. When the line has more samples than `most_samples`, its first strokes
    that fit.
    """
    if not traces:
        return []
    boxes = np.array([bounds_mm([t]) for t in traces])
    band = _band(boxes)
    middle = (boxes[:, 1] + boxes[:, 3]) / 2
    best = max(range(len(traces)), key=lambda i: (_covered(boxes[_near(middle, middle[i], band)]), -i))
    line: list[int] = []
    total = 0
    for i in np.flatnonzero(_near(middle, middle[best], band)).tolist():
        if line and total + len(traces[i]) > most_samples:
            break
        line.append(i)
        total += len(traces[i])
    return line


def last_line(traces: Sequence[Trace]) -> list[int]:
    """Indices of the strokes of the line written last: backwards from the last stroke, those whose middles lie in its
    band of height (twice the median stroke's), until one lies elsewhere.
    """
    if not traces:
        return []
    boxes = np.array([bounds_mm([t]) for t in traces])
    band = _band(boxes)
    middle = (boxes[:, 1] + boxes[:, 3]) / 2
    elsewhere = np.flatnonzero(np.abs(middle - middle[-1]) > band)
    first = int(elsewhere[-1]) + 1 if len(elsewhere) else 0
    return list(range(first, len(traces)))


def _band(boxes: Floats) -> float:
    return float(np.clip(2 * np.median(boxes[:, 3] - boxes[:, 1]), 4, 14))


def _covered(boxes: Floats) -> float:
    """How many mm of the page's width lie under some box, to the millimetre."""
    under = np.zeros(2000, bool)
    for left, right in zip(
        np.clip(boxes[:, 0], 0, 1990).astype(int), np.clip(boxes[:, 2], 0, 1990).astype(int), strict=True
    ):
        under[left : right + 1] = True
    return float(under.sum())


def _near(middle: Floats, at: float, band: float) -> NDArray[np.bool_]:
    return np.abs(middle - at) <= band / 2
