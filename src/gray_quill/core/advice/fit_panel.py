"""The smallest change of a pen's width and tone with which none of its ink vanishes on some panels, or that there is
none.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import from_lab, lab
from gray_quill.core.colour.srgb import hex_of, is_dark, rgb
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.panel.light import Room
from gray_quill.core.panel.proof import NO_GLARE, PLAIN, Toning
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.on_panel import vanishing_share
from gray_quill.core.readings.panel_readings import VANISHING
from gray_quill.core.trace import Trace

WIDER = np.round(2 ** (np.arange(13) / 6), 4)  # once to four times as wide
TONES = np.arange(0.0, 101.0, 10.0)  # steps of L* away from the paper
# What weighs as much as what: a quarter more width and ten steps of lightness. Common practice, no source.
QUARTER, TEN = np.log(1.25), 10.0
MOST_STROKES = 24  # of the writing, evenly taken


@dataclasses.dataclass(frozen=True)
class Fitted:
    """width_mm, colour: what to set; None where no change within reach does it. before, after: of each panel, the share
    of the ink's length that vanishes. cost: 0 where nothing needs to change.
    """

    width_mm: float | None
    colour: str | None
    cost: float
    before: list[float]
    after: list[float]


def fit_to_panels(
    traces: Sequence[Trace],
    recipe: Recipe,
    paper: Paper,
    panels: Sequence[Panel],
    tonings: Sequence[Toning] = (),
    room: Room = NO_GLARE,
) -> Fitted:
    """One pen for all of these panels at once. tonings: of each panel; plain where none are given."""
    some = [traces[k] for k in np.unique(np.linspace(0, len(traces) - 1, MOST_STROKES).astype(int))]
    shares = _Shares(some, paper, panels, tonings or [PLAIN] * len(panels), room)
    before = shares.of(recipe)
    best: tuple[float, Recipe] | None = None
    for step, colour in tones_of(recipe.body.colour, paper.colour):
        cost = step / TEN
        if best and cost >= best[0]:
            break
        wider = _narrowest(shares, recipe, colour)
        if wider is not None and (best is None or cost + cost_of(wider) < best[0]):
            best = cost + cost_of(wider), with_change(recipe, wider, colour)
    if best is None:
        return Fitted(None, None, 0.0, before, before)
    found = best[1]
    return Fitted(found.body.width_mm, found.body.colour, best[0], before, shares.of(found))


def tones_of(colour: str, paper_colour: str) -> list[tuple[float, str]]:
    """A colour and what it is so many steps of L* farther from the paper, hue kept as far as sRGB goes."""
    light, a, b = (float(v) for v in lab(np.array(rgb(colour), float)))
    away = 1 if is_dark(paper_colour) else -1
    out: list[tuple[float, str]] = []
    for step in TONES:
        to = light + away * step
        if not 0 <= to <= 100:
            break
        made, _ = from_lab((to, a, b))
        out.append((float(step), colour if step == 0 else hex_of(np.clip(np.round(made), 0, 255))))
    return out


def with_change(recipe: Recipe, wider: float, colour: str) -> Recipe:
    """The pen so many times as wide, in another colour."""
    body = dataclasses.replace(recipe.body, width_mm=round(recipe.body.width_mm * wider, 2), colour=colour)
    return dataclasses.replace(recipe, body=body)


def cost_of(wider: float) -> float:
    return float(np.log(wider) / QUARTER)


class _Shares:
    """How much of the writing vanishes on each panel, of any pen."""

    def __init__(
        self, traces: Sequence[Trace], paper: Paper, panels: Sequence[Panel], tonings: Sequence[Toning], room: Room
    ) -> None:
        self._traces, self._paper, self._room = traces, paper, room
        self._panels = list(zip(panels, tonings, strict=True))

    def of(self, recipe: Recipe) -> list[float]:
        inks = settle_all(self._traces, recipe)
        return [vanishing_share(inks, self._paper, p, toned, self._room) for p, toned in self._panels]

    def holds(self, recipe: Recipe) -> bool:
        return max(self.of(recipe)) <= VANISHING


def _narrowest(shares: _Shares, recipe: Recipe, colour: str) -> float | None:
    """The smallest of WIDER that holds in this colour: wider ink never vanishes more."""
    widths: Floats = WIDER[recipe.body.width_mm * WIDER <= 20]
    low, high = -1, len(widths) - 1
    if not shares.holds(with_change(recipe, float(widths[high]), colour)):
        return None
    while high - low > 1:
        middle = (low + high) // 2
        fits = shares.holds(with_change(recipe, float(widths[middle]), colour))
        low, high = (low, middle) if fits else (middle, high)
    return float(widths[high])
