"""The wash grid: real words, written and printed, under real strokes of a wash, on several papers and under several
passes.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import difference
from gray_quill.core.colour.srgb import LARGE, READABLE, contrast, is_dark, relative_luminance, rgb
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent
from gray_quill.core.highlighter.layers import CLEAR, TYPED, Words, passes_until, wash_layers, words_of
from gray_quill.core.ink.areas import area_cover, typed_rings, typed_width_mm
from gray_quill.core.ink.page import Pixels, lay_ink, opacity_plane, paper_pixels
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import changed
from gray_quill.core.readings.reading import SHARE, Reading, declared, reading
from gray_quill.core.readings.tone import evenness
from gray_quill.core.trace import Trace, bounds_mm, moved

WIDTH_MM, HEIGHT_MM, MARGIN_MM = 42.0, 18.0, 2.0
ROWS_MM = (5.0, 13.5)  # middles of the written and the printed line
WORD_GAP_MM = 1.5
TYPED_X_HEIGHT_MM = 1.9  # of 11 point print, nearly
FULL, BARE = 0.97, 0.004  # coverage that counts as all ink, and as none
FEW_PX = 12


CONTRAST = Reading("contrast", ":1", "Of words with the washed paper.", better="more", attention=READABLE)


@dataclasses.dataclass(frozen=True, eq=False)
class Cell:
    """pixels: RGB of WIDTH_MM x HEIGHT_MM, written words above printed ones; what is read is measured on them.
    unevenness: coefficient of variation of the wash's tone at 1 mm inside a stroke.
    """

    pixels: Pixels
    writing: float = declared(dataclasses.replace(CONTRAST, label="your writing"))
    typed: float = declared(dataclasses.replace(CONTRAST, label="print"))
    visibility: float = reading(
        "stands out by", "", "How far the wash differs from the bare paper (CIEDE2000).", better="more", attention=CLEAR
    )
    unevenness: float = reading("unevenness", SHARE, "How much the tone varies inside a stroke.", better="less")


def typed_words(paper_colour: str) -> Words:
    """Print as it would be on this paper: dark, or light on dark sheets."""
    return dataclasses.replace(TYPED, colour="#e9e4d6") if is_dark(paper_colour) else TYPED


def readable_ink(ink: Recipe, others: Sequence[Recipe], paper_colour: str) -> Recipe:
    """The pen itself, or where its bare ink cannot be read on this paper the pen that reads best."""

    def bare(pen: Recipe) -> float:
        return float(wash_layers(words_of(pen, paper_colour), pen, paper_colour, 0).contrast())

    return ink if bare(ink) >= LARGE else max([ink, *others], key=bare)


class Bench:
    """Words and the hand that washes them, ready to be laid on any paper. Seeded; what papers share is worked out
    once.
    """

    def __init__(
        self,
        wash: Recipe,
        traces: Sequence[Trace],
        typed: str,
        hand: Hand,
        device: Device,
        px_per_mm: float = 10.0,
        most_passes: int = 4,
    ) -> None:
        self.view = View(0, 0, px_per_mm, round(WIDTH_MM * px_per_mm), round(HEIGHT_MM * px_per_mm))
        self.traces = _fitted(traces)
        self.print_cover = area_cover(
            typed_rings(typed, TYPED_X_HEIGHT_MM, MARGIN_MM, ROWS_MM[1] + TYPED_X_HEIGHT_MM / 2), self.view
        )
        typed_end = MARGIN_MM + max(8.0, typed_width_mm(typed, TYPED_X_HEIGHT_MM))
        ends = _ends(self.traces), (MARGIN_MM, min(WIDTH_MM - MARGIN_MM, typed_end))
        rng = np.random.default_rng(7)
        self.passes = [
            settle_all(
                [
                    t
                    for row, (a, b) in zip(ROWS_MM, ends, strict=True)
                    for t in write_intents([Intent(np.array([(a, row), (b, row)]), (0.5, 0.5), 0.8)], hand, device, rng)
                ],
                wash,
            )
            for _ in range(most_passes)
        ]
        full = [opacity_plane([_solid(ink) for ink in inks], self.view) >= 255 * FULL for inks in self.passes]
        self.washed = [np.logical_and.reduce(full[: n + 1]) for n in range(most_passes)]
        self.unevenness = [
            self._unevenness(
                opacity_plane([w for inks in self.passes[: n + 1] for w in inks], self.view) / 255,
                wash.body.width_mm,
                ends[0],
            )
            for n in range(most_passes)
        ]
        self._written: dict[Recipe, tuple[list[Ink], Floats]] = {}

    def cell(self, ink: Recipe, paper_colour: str, passes: int) -> Cell:
        """The words in `ink` under the first passes of the wash on one paper."""
        written, ink_cover = self._words(ink)
        page = paper_pixels(Paper(WIDTH_MM, 30, "blank", 5, 0.2, 0, paper_colour, paper_colour), self.view)
        colour = np.array(rgb(typed_words(paper_colour).colour), float)
        page[:] = np.round(page + (colour - page) * self.print_cover[..., None])
        lay_ink(page, [*written, *(w for inks in self.passes[:passes] for w in inks)], self.view, paper_colour)
        washed = self.washed[passes - 1]
        bare = washed & (ink_cover < BARE) & (self.print_cover < BARE)
        ground = page[bare].mean(axis=0) if bare.any() else np.array(rgb(paper_colour), float)
        return Cell(
            page,
            _contrast(page, ink_cover, washed, ground),
            _contrast(page, self.print_cover, washed, ground),
            float(difference(ground, rgb(paper_colour))),
            self.unevenness[passes - 1],
        )

    def words_in(self, ink: Recipe, paper_colour: str) -> Words:
        """The written words as one flat layer: what the pen lays on the mean where its strokes are, light force and
        grain included.
        """
        written, cover = self._words(ink)
        strokes = cover >= min(FULL, float(cover.max()))
        return dataclasses.replace(
            words_of(ink, paper_colour), opacity=float(opacity_plane(written, self.view)[strokes].mean() / 255)
        )

    def _words(self, ink: Recipe) -> tuple[list[Ink], Floats]:
        if ink not in self._written:
            written = settle_all(self.traces, ink)
            self._written[ink] = written, opacity_plane([_solid(i) for i in written], self.view) / 255
        return self._written[ink]

    def _unevenness(self, tone: Floats, width_mm: float, ends: tuple[float, float]) -> float:
        half, scale = max(0.5, 0.3 * width_mm), self.view.px_per_mm
        (left, right), row = ends, ROWS_MM[0]
        return evenness(
            tone[
                int((row - half) * scale) : int((row + half) * scale),
                int((left + 3) * scale) : int((right - 3) * scale),
            ],
            scale,
        )


@dataclasses.dataclass(frozen=True, eq=False)
class Row:
    """One paper: cells under one pass and more. readable, large: the first pass under which "writing" or "typed" falls
    below 4.5:1 and 3:1, None where they stay above. overlap: CIEDE2000 between one pass and two.
    """

    cells: list[Cell]
    readable: dict[str, int | None]
    large: dict[str, int | None]
    overlap: float


def grid_row(bench: Bench, wash: Recipe, ink: Recipe, paper_colour: str, passes: int) -> Row:
    """Words in `ink` on one paper under up to so many passes."""
    words = {"writing": bench.words_in(ink, paper_colour), "typed": typed_words(paper_colour)}
    once, twice = (wash_layers(words["typed"], wash, paper_colour, n).ground for n in (1, 2))
    return Row(
        [bench.cell(ink, paper_colour, n) for n in range(1, passes + 1)],
        {name: passes_until(w, wash, paper_colour, READABLE) for name, w in words.items()},
        {name: passes_until(w, wash, paper_colour, LARGE) for name, w in words.items()},
        float(difference(once, twice)),
    )


def _fitted(traces: Sequence[Trace]) -> list[Trace]:
    """The longest run of whole words of a line that fits, put in the upper half at its true size."""
    order = sorted(traces, key=lambda t: float(t.x_mm.min()))
    reach = np.maximum.accumulate([float(t.x_mm.max()) for t in order])
    starts = [0] + [k for k in range(1, len(order)) if order[k].x_mm.min() - reach[k - 1] > WORD_GAP_MM]
    ends = [*starts[1:], len(order)]
    room, best, longest = WIDTH_MM - 2 * MARGIN_MM, (0, ends[0]), 0.0
    for k, first in enumerate(starts):
        written = 0.0
        for start, last in zip(starts[k:], ends[k:], strict=True):
            written += float(reach[last - 1] - order[start].x_mm.min())
            if written > longest and reach[last - 1] - order[first].x_mm.min() <= room:
                best, longest = (first, last), written
    words = order[best[0] : best[1]]
    left, top, _, bottom = bounds_mm(words)
    return [moved(t, MARGIN_MM - left, ROWS_MM[0] - (top + bottom) / 2) for t in words]


def _ends(traces: Sequence[Trace]) -> tuple[float, float]:
    left, _, right, _ = bounds_mm(traces)
    return left, max(min(right, WIDTH_MM - MARGIN_MM), left + 8)


def _solid(ink: Ink) -> Ink:
    """The same geometry, fully covering."""
    recipe = changed(ink.recipe, "body.opacity", 1.0)
    return dataclasses.replace(ink, recipe=recipe, opacity=np.ones_like(ink.opacity))


def _contrast(page: Pixels, cover: NDArray[np.float32] | Floats, washed: NDArray[np.bool_], ground: Floats) -> float:
    """Contrast of the most inked pixels under the wash against the washed paper."""
    under = np.where(washed, cover, 0)
    full = under >= FULL
    if full.sum() < FEW_PX:  # lines thinner than a pixel have no full one
        if not (under > BARE).any():
            return 1.0
        full = under >= max(BARE, float(np.sort(under.ravel())[-FEW_PX]))
    return float(contrast(relative_luminance(page[full].mean(axis=0)), relative_luminance(ground)))
