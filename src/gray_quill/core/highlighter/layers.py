"""Flat layers: the colours of words, wash and paper where each covers fully. W3C compositing on an opaque ground, as in
ink/compositing.py.
"""

import dataclasses

import numpy as np
from numpy.typing import ArrayLike

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import difference
from gray_quill.core.colour.srgb import contrast, relative_luminance, rgb
from gray_quill.core.pen.highlighter import blend_on
from gray_quill.core.pen.recipe import Recipe

MOST_PASSES = 20
# Difference from the paper (CIEDE2000) from which a wash is called by these words. Common practice, no source.
VISIBILITY = ((0.0, "hardly seen"), (4.0, "faint"), (8.0, "clear"), (45.0, "glaring"))
CLEAR, GLARING = VISIBILITY[2][0], VISIBILITY[3][0]


@dataclasses.dataclass(frozen=True)
class Words:
    """What a wash meets: colour and opacity of the words, and whether they are printed on the sheet, below every
    stroke.
    """

    colour: str
    opacity: float = 1.0
    blend: str = "normal"
    printed: bool = False


TYPED = Words("#1c1c1c", printed=True)


def words_of(recipe: Recipe, paper_colour: str) -> Words:
    """The words a pen writes, where its ink covers fully."""
    return Words(recipe.body.colour, recipe.body.opacity, blend_on(recipe.wash, paper_colour))


def laid(ground: ArrayLike, colour: ArrayLike, opacity: ArrayLike, blend: str) -> Floats:
    """A ground (..., 3) in 0..255 with one layer of a colour over it; opacity 0..1 of shape (...)."""
    below, above = np.asarray(ground, float), np.asarray(colour, float)
    mixed = {
        "normal": above + 0 * below,
        "multiply": below * above / 255,
        "screen": below + above - below * above / 255,
    }[blend]
    return below + (mixed - below) * np.asarray(opacity, float)[..., None]


@dataclasses.dataclass(frozen=True, eq=False)
class Layers:
    """Colours 0..255 under some passes of a wash, shape (..., 3): of the bare paper, of the washed paper, of the words
    on it.
    """

    paper: Floats
    ground: Floats
    words: Floats

    def contrast(self) -> Floats:
        """Contrast ratio of the words on the washed paper."""
        return contrast(relative_luminance(self.words), relative_luminance(self.ground))

    def visibility(self) -> Floats:
        """CIEDE2000 between washed and bare paper."""
        return difference(self.ground, self.paper)


def layers(
    words: Words,
    colour: ArrayLike,
    opacity: ArrayLike,
    blend: str,
    place: str,
    paper_colour: str,
    passes: int,
    streaks: float = 1.0,
) -> Layers:
    """Paper, `passes` of a wash and words in the order they lie. opacity may be an array; the colours follow its
    shape. streaks: as of the wash; less than 1, its passes are laid as one.
    """
    if streaks < 1 and passes:
        opacity, passes = as_one(opacity, passes, streaks), 1
    paper = np.broadcast_to(np.array(rgb(paper_colour), float), (*np.shape(opacity), 3))
    ground, inked = paper, laid(paper, rgb(words.colour), np.full(np.shape(opacity), words.opacity), words.blend)
    for _ in range(passes):
        ground, inked = laid(ground, colour, opacity, blend), laid(inked, colour, opacity, blend)
    if place == "under" and not words.printed:
        inked = laid(ground, rgb(words.colour), np.full(np.shape(opacity), words.opacity), words.blend)
    return Layers(paper, ground, inked)


def as_one(opacity: ArrayLike, passes: int, streaks: float) -> Floats:
    """Opacity of the one layer that so many passes of an even wash make, as ink/compositing.py steps it."""
    alpha = np.asarray(opacity, float)
    made = np.zeros_like(alpha)
    for _ in range(passes):
        twice = 1 - (1 - made) * (1 - alpha)
        made = (1 - streaks) * np.maximum(made, alpha) + streaks * twice
    return made


def wash_layers(words: Words, wash: Recipe, paper_colour: str, passes: int) -> Layers:
    """Layers of a wash as its recipe has it."""
    return layers(
        words,
        rgb(wash.body.colour),
        np.float64(wash.body.opacity),
        blend_on(wash.wash, paper_colour),
        wash.wash.place,
        paper_colour,
        passes,
        wash.wash.streaks,
    )


def ink_contrast(pen: Recipe, paper_colour: str) -> float:
    """WCAG contrast of a pen's ink with the paper it lies on, by its opacity and blend too, 1..21."""
    words = words_of(pen, paper_colour)
    return float(layers(words, words.colour, np.float64(0), "normal", "over", paper_colour, 0).contrast())


def passes_until(words: Words, wash: Recipe, paper_colour: str, ratio: float) -> int | None:
    """The first pass under which contrast falls below `ratio`, 0 when it is below before any; None where it stays above
    for MOST_PASSES.
    """
    return next(
        (n for n in range(MOST_PASSES + 1) if wash_layers(words, wash, paper_colour, n).contrast() < ratio), None
    )


def visibility_words(value: float) -> str:
    """How a wash that differs from the paper by `value` is called."""
    return [word for low, word in VISIBILITY if value >= low][-1]
