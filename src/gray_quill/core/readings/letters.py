"""Letters: how tall they are written, and whether the ink leaves their counters (the white they enclose) open."""

import dataclasses
import functools
from collections.abc import Sequence

import numpy as np
import shapely

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink
from gray_quill.core.trace import Trace

SMALLEST_TURN_MM = 0.25  # ups and downs under this are not strokes of letters
SAME = 0.12  # spread, in the logarithm, of heights that count as one when the commonest is sought
FEWEST_TURNS = 12
CLOSED = 0.1  # of the x-height: a bowl whose ends come so near counts as closed
SMALLEST_COUNTER = 0.3  # of the x-height: what is narrower is a place where a line goes back along itself
LARGEST_COUNTER = 3.0  # x-heights: what is wider is a drawing
FEWEST_COUNTERS = 4
OPEN_MM = 0.12  # white that still shows: a minute of arc at 40 cm; from memory
MOST_TURNS = 1500  # that height is sought among, evenly taken
MOST_CORNERS = 800  # of a stroke, roughly drawn; a long word has half of it, a scribble is no letter
MOST_STROKES = 60  # letters of so many strokes, evenly among them, speak for the others
GRID = 9


def x_height_mm(traces: Sequence[Trace]) -> float | None:
    """The commonest way the nib goes straight up or down, which in writing is the height of a small x; None where there
    are too few turns to say.
    """
    ways = np.concatenate([_ways_mm(t.y_mm) for t in traces] or [np.zeros(0)])
    if len(ways) < FEWEST_TURNS:
        return None
    at = np.log(ways[:: len(ways) // MOST_TURNS + 1])
    near = np.exp(-((at[:, None] - at) ** 2) / (2 * SAME**2)).sum(axis=1)
    best = at[near.argmax()]
    return float(np.exp(np.mean(at[np.abs(at - best) < 1.5 * SAME])))


def _ways_mm(y: Floats) -> Floats:
    """Heights between the turns of a path up and down, small turns passed over."""
    turns = [float(y[0])]
    peak, rising = float(y[0]), 0
    for value in y.tolist():
        if (rising >= 0 and value > peak) or (rising <= 0 and value < peak):
            if rising == 0 and abs(value - peak) >= SMALLEST_TURN_MM:
                rising = 1 if value > peak else -1
            if rising:
                peak = value
        elif abs(value - peak) >= SMALLEST_TURN_MM:
            turns.append(peak)
            peak, rising = value, -rising
    turns.append(peak)
    ways = np.abs(np.diff(turns))
    return ways[ways >= SMALLEST_TURN_MM]


@dataclasses.dataclass(frozen=True, eq=False)
class Letters:
    """Letters as written, whatever the pen. counters: the white they enclose."""

    x_height_mm: float | None
    counters: tuple[shapely.Polygon, ...]


@functools.lru_cache(maxsize=16)  # of the same traces many pens are read in turn
def letters_of(traces: tuple[Trace, ...]) -> Letters:
    """Height and counters of the letters among some strokes."""
    x_height = x_height_mm(traces)
    if x_height is None:
        return Letters(None, ())
    picked = np.unique(np.linspace(0, len(traces) - 1, min(len(traces), MOST_STROKES)).astype(int))
    return Letters(x_height, tuple(_counters([traces[i] for i in picked], x_height)))


def open_share(letters: Letters, inks: Sequence[Ink]) -> float | None:
    """Share of counters in which the ink leaves white that shows; None where there are too few to say."""
    if len(letters.counters) < FEWEST_COUNTERS:
        return None
    x, y = (np.concatenate([getattr(ink, axis) for ink in inks]) for axis in ("x_mm", "y_mm"))
    half = np.concatenate([ink.mark_width_mm() for ink in inks]) / 2
    return float(np.mean([_white_mm(counter, x, y, half) >= OPEN_MM for counter in letters.counters]))


def _counters(traces: Sequence[Trace], x_height: float) -> list[shapely.Polygon]:
    """Faces that the strokes enclose, of the size of counters."""
    reach = CLOSED * x_height / 2
    lines = [
        shapely.LineString(t.xy_mm).simplify(0.03 * x_height, preserve_topology=False) for t in traces if len(t) > 3
    ]
    letters = [line for line in lines if len(line.coords) <= MOST_CORNERS]
    drawn = shapely.unary_union([line.buffer(reach, quad_segs=2) for line in letters])
    found = []
    for part in getattr(drawn, "geoms", [drawn]):
        for ring in part.interiors:
            counter = shapely.Polygon(ring).buffer(reach)
            left, top, right, bottom = counter.bounds
            narrow = counter.buffer(-SMALLEST_COUNTER * x_height / 2).is_empty
            if not narrow and max(right - left, bottom - top) <= LARGEST_COUNTER * x_height:
                found.append(counter)
    return found


def _white_mm(counter: shapely.Polygon, x: Floats, y: Floats, half_mm: Floats) -> float:
    """Width of the largest disc of white in a counter, to a ninth of its size; negative where ink covers it all."""
    left, top, right, bottom = counter.bounds
    reach = float(half_mm.max()) + 0.1
    near = (x > left - reach) & (x < right + reach) & (y > top - reach) & (y < bottom + reach)
    gx, gy = (
        g.ravel()
        for g in np.meshgrid(np.linspace(left, right, GRID + 2)[1:-1], np.linspace(top, bottom, GRID + 2)[1:-1])
    )
    inside = shapely.contains_xy(counter, gx, gy)
    if not near.any() or not inside.any():
        return float(min(right - left, bottom - top)) if not near.any() else -1.0
    away = np.hypot(gx[inside, None] - x[near], gy[inside, None] - y[near]) - half_mm[near]
    return 2 * float(away.min(axis=1).max())
