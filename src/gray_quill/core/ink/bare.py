"""What cannot be drawn by its pen is shown as its bare path, so that no stroke is missing in silence and none takes
others along.
"""

from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink, settle_each
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


def settle_or_bare(strokes: Sequence[tuple[Trace, Recipe]], paper: Paper | None = None) -> list[Ink]:
    """The ink of each stroke in its pen, or its bare path where the pen makes none of it that could be drawn."""
    if not strokes:
        return []
    try:
        inks = settle_each(strokes, paper)
    except Exception:  # whatever it is, the writer's path is not lost for it
        return [bare_ink(strokes[0][0])] if len(strokes) == 1 else [settle_or_bare([s], paper)[0] for s in strokes]
    if _sound(inks):
        return inks
    return [ink if _sound([ink]) else bare_ink(trace) for ink, (trace, _) in zip(inks, strokes, strict=True)]


def _sound(inks: Sequence[Ink]) -> bool:
    """Whether all of these are made of numbers, and have a width."""
    columns = ("x_mm", "y_mm", "long_mm", "short_mm", "angle", "opacity", "t_s")
    finite = all(np.isfinite(np.concatenate([getattr(ink, c) for ink in inks])).all() for c in columns)
    return finite and all(ink.short_mm.min() > 0 for ink in inks)


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
