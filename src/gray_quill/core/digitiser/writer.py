"""The simulated hand on a simulated digitiser: text or prompts in, traces out. Seeded, repeats exactly."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.sampling import sample_motions
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.hand.motion import perform
from gray_quill.core.hand.prompts import prompt_hand, prompt_intents, prompts_for
from gray_quill.core.paper import LONGEST_MM, Paper
from gray_quill.core.trace import Trace, bounds_mm


def write_text(
    text: str,
    hand: Hand,
    device: Device,
    seed: int,
    left_mm: float = 15,
    baseline_mm: float = 25,
    width_mm: float = 118,
    line_mm: float | None = None,
) -> list[Trace]:
    """The hand writes text, wrapped to a column, and the device reports it. One trace a stroke."""
    rng = np.random.default_rng(seed)
    return write_intents(text_intents(text, hand, left_mm, baseline_mm, width_mm, rng, line_mm), hand, device, rng)


def write_below(text: str, hand: Hand, device: Device, seed: int, paper: Paper, there: Sequence[Trace]) -> list[Trace]:
    """Text on the next free lines of a sheet, below what is there. Raises InputError where the sheet is full."""
    margin = max(paper.margin_mm + 3, 14.0)
    line = max(3.5 * hand.x_height_mm, 7.0)
    first = (bounds_mm(there)[3] + 0.8 * line) if there else 2.6 * line
    traces = write_text(text, hand, device, seed, margin, first, paper.width_mm - margin - 12, line)
    if bounds_mm(traces)[3] > (LONGEST_MM if paper.endless else paper.height_mm):
        raise InputError(
            "The sheet is full: there is no room for that text below the ink. Put down a new sheet or write less.",
            "text",
        )
    return traces


def fill_prompts(paper: Paper, hand: Hand, device: Device, seed: int, kind: str = "test") -> list[Trace]:
    """The hand does every prompt of a test sheet or a force strip."""
    rng = np.random.default_rng(seed)
    return [
        trace
        for prompt in prompts_for(paper, kind)
        for trace in write_intents(prompt_intents(prompt, hand, rng), prompt_hand(prompt, hand), device, rng)
    ]


def write_intents(intents: list[Intent], hand: Hand, device: Device, rng: np.random.Generator) -> list[Trace]:
    """Any strokes the hand means to make."""
    return sample_motions(perform(hand, intents, rng), device.digitiser, rng)
