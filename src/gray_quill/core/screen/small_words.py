"""Words to be read very small: four at a time that look alike, and one of them in writing."""

import dataclasses

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe

ALIKE = (
    ("moor", "noon", "mown", "moan"),
    ("sedge", "ledge", "hedge", "wedge"),
    ("fen", "ten", "pen", "den"),
    ("cave", "cove", "care", "core"),
    ("heron", "haven", "raven", "baron"),
    ("lamp", "camp", "damp", "lamb"),
    ("reed", "seed", "weed", "need"),
    ("moth", "math", "both", "month"),
)
NIB_SHARE = 0.16  # of the x-height: about what a pen of 0.4 mm has in writing of everyday size
BOLD = 1.5  # times as wide
MARGIN = 0.6  # of the x-height, around the word
PEN = Recipe("small writing")
HAND = Hand(letters="plain", tremor_mm=0.0, wander_mm=0.0)
WHITE = Paper(200, 100, "blank", 5, 0.2, 0, "#ffffff", "#ffffff")


def like_words(rng: np.random.Generator) -> list[str]:
    """Four words that differ by a letter or two, in any order."""
    found = ALIKE[int(rng.integers(len(ALIKE)))]
    return [found[k] for k in rng.permutation(len(found))]


def small_writing(word: str, x_height_mm: float, px_per_mm: float, bold: bool = False) -> Pixels:
    """Grey pixels of a word in plain black writing, cut close."""
    hand = dataclasses.replace(HAND, x_height_mm=x_height_mm)
    width = max(0.05, x_height_mm * NIB_SHARE * (BOLD if bold else 1))
    body = dataclasses.replace(PEN.body, width_mm=round(width, 3), colour="#000000")
    press = dataclasses.replace(PEN.press, range=1.0)
    inks = settle_all(write_text(word, hand, Device(), 1, 15, 40), dataclasses.replace(PEN, body=body, press=press))
    boxes = np.array([ink.box_mm for ink in inks])
    margin = MARGIN * x_height_mm
    (left, top), (right, bottom) = boxes[:, :2].min(axis=0) - margin, boxes[:, 2:].max(axis=0) + margin
    view = box_view((float(left), float(top), float(right), float(bottom)), px_per_mm)
    return np.ascontiguousarray(page_pixels(inks, WHITE, view)[..., 0])
