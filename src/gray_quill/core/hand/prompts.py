"""The test sheet: prompts that bring out what a pen does, laid out for a sheet of any size."""

import dataclasses

import numpy as np

from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.paper import Paper

MARGIN_MM = 14.0


@dataclasses.dataclass(frozen=True)
class Prompt:
    """One thing to write: its name, what to do in a few words, and its box (left, top, right, bottom) in mm."""

    name: str
    ask: str
    box_mm: tuple[float, float, float, float]


# name, what to do, column and row of a grid of 2 x 5, columns taken
_GRID = (
    ("wedge", "One line, from hardly touching to as firm as you ever press", 0, 0, 2),
    ("loops", "A row of even loops", 0, 1, 1),
    ("hatch", "Quick slanted strokes", 1, 1, 1),
    ("dots", "Nine dots", 0, 2, 1),
    ("flicks", "Short flicks, lifting fast", 1, 2, 1),
    ("ruler line", "A straight line, slowly", 0, 3, 1),
    ("shading", "Shade the patch, lightly", 1, 3, 1),
    ("small text", "A line of your smallest writing", 0, 4, 2),
)
SAMPLE_TEXT = "moth seen at trap nine, wings folded"


# the force strip: name, what to do, factor on the hand's everyday force
STRIP = (
    ("light", "Write this line as lightly as you can: hollow sedge", 0.45),
    ("everyday", "Now as you write every day: hollow sedge", 1.0),
    ("firm", "Now as firmly as you ever would: hollow sedge", 1.5),
)
STRIP_TEXT = "hollow sedge, a lamp and a moth"
KINDS = ("test", "strip")


def prompts_for(paper: Paper, kind: str = "test") -> list[Prompt]:
    """The prompts of a test sheet or a force strip with their boxes on this sheet."""
    if kind == "strip":
        row = min(40.0, (paper.height_mm - 2 * MARGIN_MM) / len(STRIP))
        right = paper.width_mm - MARGIN_MM
        return [
            Prompt(name, ask, (MARGIN_MM, MARGIN_MM + k * row, right, MARGIN_MM + (k + 1) * row - 5))
            for k, (name, ask, _) in enumerate(STRIP)
        ]
    width, height = paper.width_mm - 2 * MARGIN_MM, paper.height_mm - 2 * MARGIN_MM
    row, gap = height / 5, 6.0
    column = (width - gap) / 2
    out = []
    for name, ask, c, r, span in _GRID:
        left, top = MARGIN_MM + c * (column + gap), MARGIN_MM + r * row
        out.append(Prompt(name, ask, (left, top, left + (width if span == 2 else column), top + row - gap)))
    return out


def prompt_hand(prompt: Prompt, hand: Hand) -> Hand:
    """The hand as it does a prompt: lighter or firmer on the force strip."""
    factor = {name: f for name, _, f in STRIP}.get(prompt.name, 1.0)
    force = min(0.9, hand.force * factor)
    return dataclasses.replace(hand, force=force, force_swing=min(hand.force_swing * factor, 0.95 - force))


def prompt_intents(prompt: Prompt, hand: Hand, rng: np.random.Generator) -> list[Intent]:
    """What the simulated hand does for a prompt."""
    left, top, right, bottom = prompt.box_mm
    width, height = right - left, bottom - top
    middle = top + height * 0.6
    if prompt.name == "wedge":
        x = np.linspace(left, right, 12)
        return [Intent(np.column_stack((x, middle + 0.8 * np.sin(x / 9))), (0.0, 1.0), 0.8)]
    if prompt.name == "loops":
        u = np.linspace(0, 2 * np.pi * 6, 160)
        return [
            Intent(
                np.column_stack((left + width * (0.06 + 0.88 * u / u[-1]) + 3.2 * np.sin(u), middle - 4.5 * np.cos(u)))
            )
        ]
    if prompt.name == "hatch":
        return [
            Intent(np.array([[x + 5, middle - 7], [x, middle + 5]]), None, 1.6)
            for x in np.arange(left + 2, right - 6, 3.4)
        ]
    if prompt.name == "dots":
        return [
            Intent(np.array([[left + width * (0.1 + 0.1 * i), middle]]), (0.1 + 0.09 * i,) * 2, dwell_s=0.07)
            for i in range(9)
        ]
    if prompt.name == "flicks":
        u = np.linspace(0, 1, 8)
        return [
            Intent(np.column_stack((x + 7 * u, middle + 3 - 9 * u + 2.5 * u * u)), (0.7, 0.5, 0.04), 2.2)
            for x in np.arange(left + 2, right - 8, 8.0)
        ]
    if prompt.name == "ruler line":
        return [Intent(np.array([[left + 2, middle], [right - 2, middle]]), None, 0.45)]
    if prompt.name == "shading":
        rows = np.arange(top + 8, bottom - 2, 0.9)
        zigzag = np.array([[(left + 4, right - 8)[i % 2], y] for i, y in enumerate(rows)])
        return [Intent(zigzag, (0.3, 0.34, 0.3), 1.9, lean_deg=34)]
    if prompt.name in {name for name, _, _ in STRIP}:
        return text_intents(STRIP_TEXT, hand, left + 2, middle + 2, width, rng)
    small = dataclasses.replace(hand, x_height_mm=min(hand.x_height_mm * 0.72, 1.9))
    return text_intents(SAMPLE_TEXT, small, left, middle, width, rng)
