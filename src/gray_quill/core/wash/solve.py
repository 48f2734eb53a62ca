"""Solving for a wash: a strength and a blend under which words stay readable and the wash can be seen."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.colour.difference import from_lab, lab
from gray_quill.core.colour.srgb import READABLE, hex_of, rgb
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.wash.layers import CLEAR, GLARING, Words, layers

PASSES = 2
STRENGTHS = np.round(np.arange(0.03, 1.005, 0.01), 2)
BLENDS = ("multiply", "normal", "screen")
PLACES = ("under", "over")
SAFE = 1.01  # pages hold 8 bits a channel, so a bound met to the last digit could fail by rounding
WELL_SEEN = 18.0  # difference from the paper the solution comes nearest to: clear, without glare
LIGHTNESSES = np.arange(20.0, 98.0, 3.0)


@dataclasses.dataclass(frozen=True)
class Setting:
    """A wash that works: what to set, the contrast of the worst words after PASSES passes, and its visibility after
    one.
    """

    colour: str
    opacity: float
    blend: str
    place: str
    contrast: float
    visibility: float


@dataclasses.dataclass(frozen=True)
class Answer:
    """setting: the one found, or None. best_contrast: the best among settings that can be seen; best_visibility: the
    best among those that keep words readable (0 where there are none); both from the sweep of `tried` settings. other:
    a setting with another lightness of the same hue where the colour itself has none. bare_contrast: of the worst words
    without any wash.
    """

    setting: Setting | None
    best_contrast: float
    best_visibility: float
    tried: int
    other: Setting | None
    bare_contrast: float


def with_setting(recipe: Recipe, setting: Setting) -> Recipe:
    """A wash as a solution sets it."""
    return dataclasses.replace(
        recipe,
        body=dataclasses.replace(recipe.body, colour=setting.colour, opacity=setting.opacity),
        wash=dataclasses.replace(recipe.wash, blend=setting.blend, place=setting.place),
    )


def solve_wash(wash: Recipe, words: Sequence[Words], paper_colour: str) -> Answer:
    """The setting of this wash's strength, blend and, where its own finds none, place, nearest to WELL_SEEN; or why
    there is none.
    """
    own = np.array(rgb(wash.body.colour), float)
    bare = min(float(layers(w, own, np.float64(0), "normal", "over", paper_colour, 0).contrast()) for w in words)
    places = (wash.wash.place, *(p for p in PLACES if p != wash.wash.place))
    found = _sweep(own, words, paper_colour, places)
    setting = found[0]
    other = None
    if setting is None:
        base = lab(own)
        for lightness in sorted(LIGHTNESSES, key=lambda v: abs(v - base[0])):
            colour, inside = from_lab((lightness, base[1], base[2]))
            if inside and (other := _sweep(np.round(colour), words, paper_colour, places)[0]):
                break
    return Answer(setting, found[1], found[2], len(BLENDS) * len(places) * len(STRENGTHS), other, bare)


def _sweep(
    colour: np.ndarray, words: Sequence[Words], paper_colour: str, places: Sequence[str]
) -> tuple[Setting | None, float, float]:
    best: Setting | None = None
    seen_contrast = kept_visibility = 0.0
    for place in places:
        for blend in BLENDS:
            ratio = np.min(
                [layers(w, colour, STRENGTHS, blend, place, paper_colour, PASSES).contrast() for w in words], axis=0
            )
            seen = layers(words[0], colour, STRENGTHS, blend, place, paper_colour, 1).visibility()
            clear, readable = (seen >= CLEAR * SAFE) & (seen < GLARING), ratio >= READABLE * SAFE
            seen_contrast = max(seen_contrast, float(ratio[clear].max(initial=0)))
            kept_visibility = max(kept_visibility, float(seen[readable].max(initial=0)))
            for k in np.flatnonzero(clear & readable):
                if best is None or abs(seen[k] - WELL_SEEN) < abs(best.visibility - WELL_SEEN) - 0.05:
                    best = Setting(hex_of(colour), float(STRENGTHS[k]), blend, place, float(ratio[k]), float(seen[k]))
        if best is not None:
            break
    return best, seen_contrast, kept_visibility
