"""What cannot be drawn by its pen is shown as its bare path, so that no stroke is missing in silence and none takes
others along.
"""

from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.body import Body
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import Trace

BARE = Recipe("bare path", body=Body(width_mm=0.35, colour="#a23b2a"))  # thin, in the colour of harm
MOST_PX = 4000  # a side of the picture on which a stroke is tried


def is_bare(ink: Ink) -> bool:
    return ink.recipe is BARE


def bare_ink(trace: Trace) -> Ink:
    """The path the hand went, as a thin even line."""
    n = len(trace)
    even = np.full(n, BARE.body.width_mm)
    ends = np.array([0, n])
    at = np.arange(n, dtype=float)
    return Ink(BARE, trace.x_mm, trace.y_mm, even, even, np.zeros(n), np.ones(n), at, trace.t_s, ends)


def settle_or_bare(trace: Trace, recipe: Recipe, paper: Paper | None = None) -> Ink:
    """The stroke's ink, or its bare path where the pen makes none of it that could be drawn."""
    try:
        ink = settle(trace, recipe, paper)
    except Exception:  # whatever it is, the writer's path is not lost for it
        return bare_ink(trace)
    columns = (ink.x_mm, ink.y_mm, ink.long_mm, ink.short_mm, ink.angle, ink.opacity, ink.t_s)
    sound = all(np.isfinite(c).all() for c in columns) and bool((ink.short_mm > 0).all())
    return ink if sound else bare_ink(trace)


def undrawable(inks: Sequence[Ink], view: View, draw: Callable[[Sequence[Ink], View], object]) -> list[int]:
    """Which of these cannot be drawn, each tried by itself."""
    found = []
    for k, ink in enumerate(inks):
        left, top, right, bottom = ink.box_mm
        side = min(view.px_per_mm, MOST_PX / max(right - left, bottom - top, 1e-6))
        try:
            draw([ink], box_view((left, top, right, bottom), side))
        except Exception:
            found.append(k)
    return found
