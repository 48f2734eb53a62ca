"""Which strokes belong to one word: those near in place on one line, and near in time where that is known."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.readings.letters import x_height_mm
from gray_quill.core.trace import Trace

GAP = 0.85  # between two strokes of a word at most, in x-heights; common practice, no source: words stand one x apart
BESIDE = 0.35  # share of the lower one's height that two strokes of a line have in common
ABOVE = 1.6  # how far over its letter a dot or bar stands at most, in x-heights
SMALL = 0.6  # of an x-height: what is no taller may be a dot or a bar
LOOKED_AT = 60  # points of a stroke, to say how near another is
APART_S = 20.0  # between two strokes of a word at most


def words(traces: Sequence[Trace]) -> list[int]:
    """A number for each stroke; strokes of one word share it."""
    if not traces:
        return []
    boxes = np.array([(t.x_mm.min(), t.y_mm.min(), t.x_mm.max(), t.y_mm.max()) for t in traces])
    height = x_height_mm(traces) or float(np.median(boxes[:, 3] - boxes[:, 1])) or 1.0
    owner = list(range(len(traces)))

    def root(k: int) -> int:
        while owner[k] != k:
            owner[k] = owner[owner[k]]
            k = owner[k]
        return k

    order = np.argsort(boxes[:, 0], kind="stable").tolist()
    for at, k in enumerate(order):
        reach = boxes[k, 2] + GAP * height
        for m in order[at + 1 :]:
            if boxes[m, 0] > reach:
                break
            near = _of_a_line(boxes[k], boxes[m], height) and _of_a_time(traces[k], traces[m])
            if near and _apart_mm(traces[k], traces[m]) <= GAP * height:
                owner[root(m)] = root(k)
    return [root(k) for k in range(len(traces))]


def letter_of_dots(traces: Sequence[Trace], word: Sequence[int]) -> dict[int, int]:
    """For each dot and bar of a word (as `words` numbers them), the stroke of it that it belongs to: the nearest that
    is as tall as a letter.
    """
    heights = np.array([float(np.ptp(t.y_mm)) for t in traces])
    x_mm = x_height_mm(traces) or (float(np.median(heights)) if len(heights) else 1.0)
    small = heights <= SMALL * x_mm
    found = {}
    for k in np.flatnonzero(small).tolist():
        tall = [m for m in range(len(traces)) if word[m] == word[k] and not small[m]]
        if tall:
            found[k] = min(tall, key=lambda m: _apart_mm(traces[k], traces[m]))
    return found


def _of_a_line(a: Floats, b: Floats, height: float) -> bool:
    tall_a, tall_b = a[3] - a[1], b[3] - b[1]
    common = min(a[3], b[3]) - max(a[1], b[1])
    if common > 0 and common >= BESIDE * min(tall_a, tall_b):
        return True
    over, under = (a, b) if a[1] < b[1] else (b, a)
    small = over[3] - over[1] <= SMALL * height
    return bool(small and under[1] - over[3] < ABOVE * height and min(a[2], b[2]) > max(a[0], b[0]) - height / 3)


def _apart_mm(a: Trace, b: Trace) -> float:
    """How near two strokes come, to about a fifth of a millimetre; crossing boxes tell nothing of slanted writing."""
    one, other = (t.xy_mm[:: max(1, len(t) // LOOKED_AT)] for t in (a, b))
    return float(np.sqrt(((one[:, None] - other[None]) ** 2).sum(axis=2).min()))


def _of_a_time(a: Trace, b: Trace) -> bool:
    if a.begun_s is None or b.begun_s is None:
        return True
    first, second = (a, b) if a.begun_s <= b.begun_s else (b, a)
    return (second.begun_s or 0.0) - (first.begun_s or 0.0) - float(first.t_s[-1]) < APART_S
