"""Heat views: the ink coloured by what made it, drawn by the same engine."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import hex_of
from gray_quill.core.errors import unknown_choice
from gray_quill.core.ink.page import Pixels, ink_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View
from gray_quill.core.ink.width import pen_samples
from gray_quill.core.trace import Trace

QUANTITIES = {"width": "mm", "force": "of full force", "speed": "mm/s"}
BINS = 16
# Light to dark and pale to deep at once, so that it reads without colour: straw, rust, plum, night.
STOPS = np.array([(222, 196, 130), (196, 120, 70), (120, 56, 74), (34, 26, 60)], float)


@dataclasses.dataclass(frozen=True, eq=False)
class Heat:
    """pixels: RGBA (h, w, 4); low and high: values at the ends of the scale; colours: BINS of "#rrggbb" from low to
    high.
    """

    pixels: Pixels
    low: float
    high: float
    unit: str
    colours: list[str]


def heat_view(traces: Sequence[Trace], inks: Sequence[Ink], quantity: str, view: View) -> Heat:
    """The inks with every piece of path in the colour of its width, force or speed, from the 2nd to the 98th
    percentile.
    """
    if quantity not in QUANTITIES:
        raise unknown_choice("The heat view", quantity, QUANTITIES, "heat")
    values = [_values(t, ink, quantity) for t, ink in zip(traces, inks, strict=True)]
    low, high = np.percentile(np.concatenate(values), (2, 98))
    high = max(float(high), float(low) + 1e-6)
    colours = [
        hex_of(float(np.interp(i / (BINS - 1), np.linspace(0, 1, len(STOPS)), STOPS[:, c])) for c in range(3))
        for i in range(BINS)
    ]
    parts = [
        part
        for ink, v in zip(inks, values, strict=True)
        for part in _split(ink, np.clip((v - low) / (high - low) * BINS, 0, BINS - 1).astype(int), colours)
    ]
    return Heat(ink_pixels(parts, view), float(low), high, QUANTITIES[quantity], colours)


def _values(trace: Trace, ink: Ink, quantity: str) -> Floats:
    if quantity == "width":
        return ink.mark_width_mm()
    samples = trace.force if quantity == "force" else pen_samples(trace, ink.recipe).speed_mm_s[: len(trace)]
    return np.interp(ink.at, np.arange(len(samples)), samples)


def _split(ink: Ink, level: NDArray[np.int64], colours: Sequence[str]) -> list[Ink]:
    """One ink a level, each of the runs of path at that level and one point more, so that runs meet."""
    n = len(ink.x_mm)
    starts = np.unique(np.concatenate(([0], np.flatnonzero(np.diff(level)) + 1, ink.pieces[:-1])))
    ends = np.minimum(np.append(starts[1:], n) + 1, n)
    last_of_piece = np.searchsorted(ink.pieces, starts, side="right")
    ends = np.minimum(ends, ink.pieces[last_of_piece])
    out = []
    body = dataclasses.replace(ink.recipe.body, opacity=1.0, hollow=type(ink.recipe.body.hollow)())
    for k in np.unique(level[starts]):
        runs = [np.arange(a, b) for a, b in zip(starts, ends, strict=True) if level[a] == k]
        pick = np.concatenate(runs)
        recipe = dataclasses.replace(
            ink.recipe,
            body=dataclasses.replace(body, colour=colours[int(k)]),
            wash=dataclasses.replace(ink.recipe.wash, blend="normal", place="over", build_up=False),
        )
        out.append(
            Ink(
                recipe,
                ink.x_mm[pick],
                ink.y_mm[pick],
                ink.long_mm[pick],
                ink.short_mm[pick],
                ink.angle[pick],
                np.ones(len(pick)),
                ink.at[pick],
                ink.t_s[pick],
                np.concatenate(([0], np.cumsum([len(r) for r in runs]))),
            )
        )
    return out
