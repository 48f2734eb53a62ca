"""Where on the page a reading can be seen, so that a note's leader line ends at the ink it speaks of."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.drag import corner_losses_mm
from gray_quill.core.readings.ink_readings import path_pairs
from gray_quill.core.trace import Trace

Point = tuple[float, float]


def find_anchors(traces: Sequence[Trace], recipe: Recipe, inks: Sequence[Ink]) -> dict[str, Point]:
    """Page positions (mm): width (the thickest mark), tips (a thin end), trail (where the tip is farthest behind), corner (most lost)."""
    out: dict[str, Point] = {}
    thick = max(inks, key=lambda ink: float(ink.short_mm.max()))
    k = int(thick.short_mm.argmax())
    out["width"] = (float(thick.x_mm[k]), float(thick.y_mm[k]))
    last = max(inks, key=lambda ink: len(ink.x_mm))
    out["tips"] = (float(last.x_mm[-1]), float(last.y_mm[-1]))
    raw, steadied, caught_up = path_pairs(traces, recipe)
    worst_trail, worst_corner = 0.0, 0.0
    for r, s, c in zip(raw, steadied, caught_up, strict=True):
        gap = np.hypot(r[1] - s[1], r[2] - s[2])
        if gap.max() > worst_trail:
            worst_trail, i = float(gap.max()), int(gap.argmax())
            out["trail"] = (float(s[1][i]), float(s[2][i]))
        at, loss = corner_losses_mm(r, c)
        if len(loss) and loss.max() > worst_corner:
            worst_corner, i = float(loss.max()), int(at[loss.argmax()])
            out["corner"] = (float(r[1][i]), float(r[2][i]))
    return out
