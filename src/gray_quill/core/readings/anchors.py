"""Where on the page a reading can be seen, so that a note's leader line ends at the ink it speaks of."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink
from gray_quill.core.readings.drag import corner_losses_mm
from gray_quill.core.readings.ink_readings import path_pairs
from gray_quill.core.trace import Trace

Spot = tuple[float, float]
MOST_SPOTS = 24
NEAR_BEST = 0.8  # spots that show the reading at least this share as strongly as the best one


def find_anchors(traces: Sequence[Trace], inks: Sequence[Ink]) -> dict[str, list[Spot]]:
    """Page positions (mm), best first, one a stroke: width (a thick mark), tips (a stroke's end), trail (the tip far
    behind), corner (much of one lost). Several each, so that a screen can choose one in sight.
    """
    found: dict[str, list[tuple[float, Spot]]] = {"width": [], "tips": [], "trail": [], "corner": []}
    for ink in inks:
        k = int(ink.short_mm.argmax())
        found["width"].append((float(ink.short_mm[k]), (float(ink.x_mm[k]), float(ink.y_mm[k]))))
        found["tips"].append((min(float(len(ink.x_mm)), 20.0), (float(ink.x_mm[-1]), float(ink.y_mm[-1]))))
    raw, steadied, caught_up = path_pairs(traces, [ink.recipe for ink in inks])
    for trace, r, s, c in zip(traces, raw, steadied, caught_up, strict=True):
        gap = np.hypot(r[1] - s[1], r[2] - s[2])
        i = int(gap.argmax())
        if gap[i] > 0:
            found["trail"].append((float(gap[i]), (float(s[1][i]), float(s[2][i]))))
        at, loss = corner_losses_mm(trace, c)
        if len(loss) and loss.max() > 0:
            i = int(at[loss.argmax()])
            found["corner"].append((float(loss.max()), (float(r[1][i]), float(r[2][i]))))
    return {name: _best(spots) for name, spots in found.items() if spots}


def _best(spots: list[tuple[float, Spot]]) -> list[Spot]:
    ranked = sorted(spots, key=lambda s: -s[0])
    return [spot for strength, spot in ranked if strength >= NEAR_BEST * ranked[0][0]][:MOST_SPOTS]
