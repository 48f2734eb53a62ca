"""Finding a line of writing among strokes, to tune a pen against."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.trace import Trace, bounds_mm

MOST_SAMPLES = 3000


def longest_line(traces: Sequence[Trace], most_samples: int = MOST_SAMPLES) -> list[int]:
    """Indices of the strokes of the line with the most writing: those whose middles lie in one band of height.

    The band is twice the median stroke's height. When the line has more samples than `most_samples`, its first strokes that fit.
    """
    if not traces:
        return []
    boxes = np.array([bounds_mm([t]) for t in traces])
    height = boxes[:, 3] - boxes[:, 1]
    band = float(np.clip(2 * np.median(height), 4, 14))
    middle = (boxes[:, 1] + boxes[:, 3]) / 2
    reach = np.maximum(boxes[:, 2] - boxes[:, 0], 0.5) + np.array([len(t) / 50 for t in traces])
    best = max(range(len(traces)), key=lambda i: (float(reach[_near(middle, middle[i], band)].sum()), -i))
    line: list[int] = []
    total = 0
    for i in np.flatnonzero(_near(middle, middle[best], band)).tolist():
        if line and total + len(traces[i]) > most_samples:
            break
        line.append(i)
        total += len(traces[i])
    return line


def _near(middle: NDArray[np.float64], at: float, band: float) -> NDArray[np.bool_]:
    return np.abs(middle - at) <= band / 2
