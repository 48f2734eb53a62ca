"""The wash grid: real words, written and printed, under real strokes of a wash, on several papers and under several passes."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour import contrast, relative_luminance
from gray_quill.core.colour_difference import difference
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent
from gray_quill.core.hand.writer import write_intents
from gray_quill.core.ink.areas import area_cover, typed_rings, typed_width_mm
from gray_quill.core.ink.page import Pixels, View, lay_ink, opacity_plane, paper_pixels, rgb
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.paper import Paper, is_dark
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.tone import evenness
from gray_quill.core.trace import Trace, bounds_mm, moved
from gray_quill.core.wash.layers import LARGE, TYPED, Words, wash_layers, words_of

Floats = NDArray[np.float64]
WIDTH_MM, HEIGHT_MM, MARGIN_MM = 42.0, 21.0, 2.0
TYPED_X_HEIGHT_MM = 1.9  # of 11 point print, nearly
FULL, BARE = 0.97, 0.004  # coverage that counts as all ink, and as none
FEW_PX = 12


@dataclasses.dataclass(frozen=True, eq=False)
class Cell:
    """pixels: RGB of WIDTH_MM x HEIGHT_MM, written words above printed ones. writing, typed: contrast ratios of the words under the
    wash, measured on these pixels. visibility: CIEDE2000 of washed against bare paper. unevenness: coefficient of variation of
    the wash's tone at 1 mm inside a stroke."""

    pixels: Pixels
    writing: float
    typed: float
    visibility: float
    unevenness: float


def typed_words(paper_colour: str) -> Words:
    """Print as it would be on this paper: dark, or light on dark sheets."""
    return dataclasses.replace(TYPED, colour="#e9e4d6") if is_dark(paper_colour) else TYPED


def readable_ink(ink: Recipe, others: Sequence[Recipe], paper_colour: str) -> Recipe:
    """The pen itself, or where its bare ink cannot be read on this paper the pen that reads best."""
    def bare(pen: Recipe) -> float:
        return float(wash_layers(words_of(pen, paper_colour), pen, paper_colour, 0).contrast())
    return ink if bare(ink) >= LARGE else max([ink, *others], key=bare)


class Bench:
    """Words and the hand that washes them, ready to be laid on any paper. Seeded."""

    def __init__(self, wash: Recipe, traces: Sequence[Trace], typed: str, hand: Hand, device: Device, px_per_mm: float = 10.0, most_passes: int = 4) -> None:
        self.wash, self.typed = wash, typed
        self.view = View(0, 0, px_per_mm, round(WIDTH_MM * px_per_mm), round(HEIGHT_MM * px_per_mm))
        self.traces = _fitted(traces)
        self.rings = typed_rings(typed, TYPED_X_HEIGHT_MM, MARGIN_MM, HEIGHT_MM * 0.75 + TYPED_X_HEIGHT_MM / 2)
        ends = _ends(self.traces), (MARGIN_MM, min(WIDTH_MM - MARGIN_MM, MARGIN_MM + typed_width_mm(typed, TYPED_X_HEIGHT_MM)))
        rng = np.random.default_rng(7)
        self.rows = tuple(HEIGHT_MM * share for share in (0.25, 0.75))
        self.passes = [[t for row, (a, b) in zip(self.rows, ends, strict=True)
                        for t in write_intents([Intent(np.array([(a, row), (b, row)]), (0.5, 0.5), 0.8)], hand, device, rng)] for _ in range(most_passes)]

    def cell(self, ink: Recipe, paper_colour: str, passes: int) -> Cell:
        """The words in `ink` under the first passes of the wash on one paper."""
        paper = Paper(WIDTH_MM, 30, "blank", 5, 0.2, 0, paper_colour, paper_colour)
        written = [settle(t, ink) for t in self.traces]
        washes = [settle(t, self.wash) for strokes in self.passes[:passes] for t in strokes]
        print_cover = area_cover(self.rings, self.view)
        page = paper_pixels(paper, self.view)
        colour = np.array(rgb(typed_words(paper_colour).colour), float)
        page[:] = np.round(page + (colour - page) * print_cover[..., None])
        lay_ink(page, [*written, *washes], self.view, paper_colour)
        ink_cover = opacity_plane([_solid(i) for i in written], self.view) / 255
        washed = np.min([opacity_plane([_solid(settle(t, self.wash)) for t in strokes], self.view) for strokes in self.passes[:passes]], axis=0) >= 255 * FULL
        bare = washed & (ink_cover < BARE) & (print_cover < BARE)
        ground = page[bare].mean(axis=0) if bare.any() else np.array(rgb(paper_colour), float)
        return Cell(page, _contrast(page, ink_cover, washed, ground), _contrast(page, print_cover, washed, ground),
                    float(difference(ground, rgb(paper_colour))), self._unevenness(washes, paper))

    def _unevenness(self, washes: Sequence[Ink], paper: Paper) -> float:
        page = paper_pixels(paper, self.view)
        lay_ink(page, washes, self.view, paper.colour)
        tone = np.abs(relative_luminance(page) - relative_luminance(rgb(paper.colour)))
        half, scale = max(0.5, 0.3 * self.wash.body.width_mm), self.view.px_per_mm
        left, right = (float(v) for v in (min(w.x_mm.min() for w in washes), max(w.x_mm.max() for w in washes)))
        parts = [tone[int((row - half) * scale):int((row + half) * scale), int((left + 3) * scale):int((right - 3) * scale)] for row in self.rows[:1]]
        return max(evenness(part, scale) for part in parts)


def _fitted(traces: Sequence[Trace]) -> list[Trace]:
    """The first words of a line that fit, put in the upper half at their true size."""
    left, top, _, bottom = bounds_mm(traces)
    kept = [t for t in traces if t.x_mm.max() - left <= WIDTH_MM - 2 * MARGIN_MM] or list(traces[:1])
    return [moved(t, MARGIN_MM - left, HEIGHT_MM * 0.25 - (top + bottom) / 2) for t in kept]


def _ends(traces: Sequence[Trace]) -> tuple[float, float]:
    left, _, right, _ = bounds_mm(traces)
    return left, max(min(right, WIDTH_MM - MARGIN_MM), left + 8)


def _solid(ink: Ink) -> Ink:
    """The same geometry, fully covering."""
    recipe = dataclasses.replace(ink.recipe, body=dataclasses.replace(ink.recipe.body, opacity=1.0))
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
