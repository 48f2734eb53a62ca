"""What a line-up measures: candidates, the ground they are measured on, and each candidate on one block of it.

A block is a line by one seed of a simulated hand, or a run of strokes of a real one. Every candidate on a ground writes
the same blocks, so what two of them differ by is read block by block.
"""

import dataclasses
from collections.abc import Sequence
from functools import cached_property

import numpy as np

from gray_quill.core.advice.kinds import Nature, nature_of
from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.view import box_view
from gray_quill.core.palm.rules import OFF, Rules
from gray_quill.core.panel.proof import NO_GLARE, PLAIN, proof_of
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.readings.panel_readings import VISIBLE, contrast_along, lengths_along
from gray_quill.core.trace import Trace, path_length_mm
from gray_quill.core.units import px_per_mm

BLOCKS = 8
TEXT = "a moth at nine"
LEAST_BLOCK_MM = 40.0  # of path, that a block of a real hand's writing has
EDGE_MM = 2.0


@dataclasses.dataclass(frozen=True, eq=False)
class Ground:
    """Blocks of traces and what they were written on. real: a hand's own writing, not a simulated one's; rules: for
    its palm.
    """

    hand: Hand
    device: Device
    paper: Paper
    blocks: tuple[tuple[Trace, ...], ...]
    rules: Rules = Rules()
    real: bool = False


def simulated_ground(
    hand: Hand,
    device: Device,
    paper: Paper,
    rules: Rules = OFF,
    text: str = TEXT,
    blocks: int = BLOCKS,
    seed: int = 1,
) -> Ground:
    """The hand writes a text once a block, each by a seed of its own."""
    lines = [tuple(write_text(text, hand, device, 1000 * seed + k)) for k in range(blocks)]
    return Ground(hand, device, paper, tuple(lines), rules)


def own_ground(traces: Sequence[Trace], hand: Hand, device: Device, paper: Paper, rules: Rules = OFF) -> Ground:
    """Writing that is there, in up to BLOCKS runs of strokes of about the same length of path, in the order written.
    Shorter writing makes fewer, down to one.
    """
    lengths = np.array([path_length_mm(t.x_mm, t.y_mm) for t in traces])
    count = int(np.clip(lengths.sum() // LEAST_BLOCK_MM, 1, min(BLOCKS, len(traces))))
    middle = np.cumsum(lengths) - lengths / 2
    block = np.minimum((middle / max(lengths.sum(), 1e-9) * count).astype(int), count - 1)
    runs = [tuple(t for t, b in zip(traces, block, strict=True) if b == k) for k in range(count)]
    return Ground(hand, device, paper, tuple(run for run in runs if run), rules, True)


@dataclasses.dataclass(frozen=True, eq=False)
class Candidate:
    """key: by which it is told from the others; ground: which of the line-up's it is measured on."""

    key: str
    name: str
    recipe: Recipe
    ground: int = 0


class Case:
    """A candidate on one block of its ground. What several criteria ask for is worked out once."""

    def __init__(self, recipe: Recipe, ground: Ground, block: int) -> None:
        self.recipe, self.ground, self.block = recipe, ground, block
        self.traces = ground.blocks[block]

    @cached_property
    def inks(self) -> list[Ink]:
        return settle_all(self.traces, self.recipe)

    @cached_property
    def readings(self) -> Readings:
        return read_ink(self.traces, self.recipe, self.inks)

    @cached_property
    def nature(self) -> Nature:
        return nature_of(self.recipe)

    @cached_property
    def has_force(self) -> bool:
        return any("force" not in t.absent for t in self.traces)

    @cached_property
    def contrasts(self) -> tuple[Floats, Floats]:
        """Contrast of the ink with its paper along its way, as the panel shows it, and how much way each stands for."""
        panel = self.ground.device.panel
        boxes = np.array([ink.box_mm for ink in self.inks])
        box = (*(boxes[:, :2].min(axis=0) - EDGE_MM), *(boxes[:, 2:].max(axis=0) + EDGE_MM))
        view = box_view(tuple(float(v) for v in box), px_per_mm(panel.ppi))  # type: ignore[arg-type]
        paper = dataclasses.replace(self.ground.paper, ruling="blank", margin_mm=0.0)
        proof = proof_of(page_pixels(self.inks, paper, view), paper.colour, panel, PLAIN, NO_GLARE)
        toned = to_grey8(proof.pixels)
        ratios = [contrast_along(ink, toned, proof.seen, proof.ground, view) for ink in self.inks]
        return np.concatenate(ratios), np.concatenate([lengths_along(ink) for ink in self.inks])

    def middle_contrast(self) -> float:
        ratios, lengths = self.contrasts
        return float(weighted_percentiles(ratios, lengths, (50,))[0])

    def hairlines_kept(self) -> float:
        ratios, lengths = self.contrasts
        return float(lengths[ratios >= VISIBLE].sum() / lengths.sum())
