"""A pen's swatch, and a line of it: one flourish by a simulated hand that shows its range, its tips and its lean."""

from functools import lru_cache

import numpy as np

from gray_quill.core.digitiser.device import Digitiser
from gray_quill.core.digitiser.sampling import sample_motions
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent
from gray_quill.core.hand.motion import perform
from gray_quill.core.ink.page import Pixels, ink_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import Trace

WIDTH_MM, HEIGHT_MM, PX_PER_MM = 32.0, 12.0, 8.0


@lru_cache(maxsize=1)
def flourish() -> Trace:
    """A wave from light to firm to light, with the pen leaning."""
    u = np.linspace(0, 1, 60)
    x = 3 + 26 * u
    y = 6 - 2.4 * np.sin(u * 2 * np.pi * 1.5 - 0.5)
    hand = Hand("swatch", "right", force=0.5, tremor_mm=0, speed_mm_s=50, altitude_deg=50)
    rng = np.random.default_rng(4)
    steady = Digitiser(noise_mm=0, clock_jitter=0)
    wave = Intent(np.column_stack((x, y)), (0.12, 0.3, 0.6, 0.78, 0.6, 0.35, 0.3, 0.5, 0.4, 0.15), lean_deg=38)
    return sample_motions(perform(hand, [wave], rng), steady, rng)[0]


def swatch_pixels(recipe: Recipe, ground: str) -> Pixels:
    """The flourish in this pen, see-through."""
    view = View(0, 0, PX_PER_MM, round(WIDTH_MM * PX_PER_MM), round(HEIGHT_MM * PX_PER_MM))
    return ink_pixels([settle(flourish(), recipe)], view, ground)


LINE_MM = (120.0, 6.0)


@lru_cache(maxsize=1)
def _line() -> Trace:
    """Straight, firmer and lighter by turns, so that a pen shows what it does."""
    hand = Hand("line", "right", force=0.5, tremor_mm=0, speed_mm_s=80, altitude_deg=50)
    way = Intent(np.array([(1.0, LINE_MM[1] / 2), (LINE_MM[0] - 1, LINE_MM[1] / 2)]), (0.3, 0.7) * 8, lean_deg=38)
    steady = Digitiser(noise_mm=0, clock_jitter=0)
    rng = np.random.default_rng(4)
    return sample_motions(perform(hand, [way], rng), steady, rng)[0]


def line_pixels(recipe: Recipe, ground: str) -> Pixels:
    """A long line in this pen, see-through."""
    view = View(0, 0, PX_PER_MM, *(round(side * PX_PER_MM) for side in LINE_MM))
    return ink_pixels([settle(_line(), recipe)], view, ground)
