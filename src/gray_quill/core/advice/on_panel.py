"""What to change about a pen, or about how a panel's software tones, so that more of the ink is seen there. Each change
is measured on the sheet before it is told.
"""

import dataclasses
from collections.abc import Callable, Iterator, Sequence
from typing import TypeVar

import numpy as np

from gray_quill.core.advice.fit_panel import WIDER, tones_of, with_change
from gray_quill.core.colour.srgb import READABLE, contrast, rgb, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.panel.light import Room, seen_luminance
from gray_quill.core.panel.proof import NO_GLARE, PLAIN, Toning, on_panel, proof_sheet
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import changed
from gray_quill.core.readings.on_panel import PenOnPanel, alike, vanishing_share
from gray_quill.core.readings.panel_readings import VANISHING, PanelReadings, panel_readings
from gray_quill.core.readings.reading import Reading, in_words, percent, readings_of
from gray_quill.core.trace import Trace

RAISED = (1.25, 1.5, 2.0, 3.0)
BOLDER_PX = (1, 2, 3)
MIXED = ("blue-noise", "floyd-steinberg", "ordered")
WORTH = 0.2  # share by which a reading must get better for a change to be told; common practice, no source
SEEN_ERROR = 0.004  # grey error that is worth mixing greys for: a step of eight bits; common practice, no source
KNOWN = readings_of(PanelReadings)
FRAME_READINGS: dict[str, Reading] = {
    "contrast": Reading(
        "the frame's quiet words",
        ":1",
        "Their contrast with their ground on this panel.",
        better="more",
        attention=READABLE,
    )
}
ON_PEN = readings_of(PenOnPanel)
Change = tuple[str, Recipe | None, Toning | None]
One = TypeVar("One")


@dataclasses.dataclass(frozen=True)
class PanelAdvice:
    """reading: what it is about, by its group and key. before, after: that reading now, and as it will be. recipe,
    toning: what to try, None where that stays as it is; surface: of the frame, "" where that stays.
    """

    title: str
    evidence: str
    doing: str
    reading: tuple[str, str]
    before: float
    after: float
    recipe: Recipe | None = None
    toning: Toning | None = None
    surface: str = ""


@dataclasses.dataclass(frozen=True)
class OnPanel:
    """A sheet on a panel. inks_of: all its ink as this pen would draw what it drew. traces: of the pen's own line."""

    inks_of: Callable[[Recipe], Sequence[Ink]]
    traces: Sequence[Trace]
    paper: Paper
    panel: Panel
    room: Room = NO_GLARE

    def read(self, recipe: Recipe, toning: Toning) -> PanelReadings:
        """The readings of its proof."""
        inks = self.inks_of(recipe)
        proof = proof_sheet(inks, self.paper, self.panel, toning, self.room)
        return panel_readings(inks, self.paper, self.panel, proof)

    def vanishes(self, recipe: Recipe, toning: Toning) -> float:
        """Share of the pen's own line that does: much quicker to tell."""
        return vanishing_share(settle_all(self.traces, recipe), self.paper, self.panel, toning, self.room)

    def alike(self, recipe: Recipe, toning: Toning) -> int:
        """Pairs of the sheet's pens that only this panel shows alike."""
        pens = list({ink.recipe.name: ink.recipe for ink in self.inks_of(recipe)}.values())
        return len(alike(pens, self.paper.colour, self.panel, toning, self.room))


def advise_on_panel(on: OnPanel, recipe: Recipe, toning: Toning = PLAIN) -> list[PanelAdvice]:
    """What helps most first; nothing where nothing does."""
    now = on.read(recipe, toning)
    told = []
    writes = any(ink.recipe.wash.place == "over" for ink in on.inks_of(recipe))  # a wash is meant to be pale
    if writes and now.hairline_share > VANISHING:
        thin = in_words(KNOWN["thinnest_px"], now.thinnest_px)
        share = percent(now.hairline_share)
        evidence = f"{share} of the ink's length is fainter than 3:1; its thinnest lines are {thin}"
        told += list(_share_told(on, recipe, toning, "hairline_share", now, evidence, _bolder(on, recipe, toning)))
    else:
        words = in_words(KNOWN["grey_error"], now.grey_error)
        evidence = f"its greys are off by {words} of the whole range, over small squares"
        mixed = [*_mixed(toning), *_crisp(recipe)] if now.grey_error > SEEN_ERROR else []
        told += list(_share_told(on, recipe, toning, "grey_error", now, evidence, mixed))
    told += list(_pairs_told(on, recipe, toning))
    return sorted(told, key=lambda a: a.after / a.before)


def surface_advice(panel: Panel, words: str, ground: str, room: Room = NO_GLARE) -> list[PanelAdvice]:
    """What the e-ink surface does for the frame's own words, of these colours now; nothing where that is little."""
    before, after = (_contrast(panel, *pair, room) for pair in ((words, ground), ("#000000", "#ffffff")))
    if panel.technology != "e-paper" or before > after * (1 - WORTH):
        return []
    said = in_words(FRAME_READINGS["contrast"], before)
    evidence = f"quiet words of the frame stand at {said} here; its greys and moving parts cost updates"
    doing, reading = "the e-ink surface: black on white, and still", ("frame", "contrast")
    return [PanelAdvice("The frame on this panel", evidence, doing, reading, before, after, surface="e-ink")]


def _contrast(panel: Panel, one: str, other: str, room: Room) -> float:
    """Of two colours as the panel shows them in a room."""
    flat = np.array([[rgb(one), rgb(other)]], np.uint8)
    shown = to_grey8(on_panel(flat, panel))[0]
    return float(contrast(*seen_luminance(panel, room)[shown]))


def _share_told(
    on: OnPanel,
    recipe: Recipe,
    toning: Toning,
    key: str,
    now: PanelReadings,
    evidence: str,
    changes: Iterator[Change] | list[Change],
) -> Iterator[PanelAdvice]:
    """Of these changes, those after which a reading of the proof is better, and no more ink vanishes than before."""
    before = float(getattr(now, key))
    title = "Ink that may vanish here" if key == "hairline_share" else "Greys this panel does not have"
    for doing, pen, toned in changes:
        then = on.read(pen or recipe, toned or toning)
        after = float(getattr(then, key))
        if after <= before * (1 - WORTH) and then.hairline_share <= max(now.hairline_share, VANISHING):
            yield PanelAdvice(title, evidence, doing, ("panel", key), before, after, pen, toned)


def _pairs_told(on: OnPanel, recipe: Recipe, toning: Toning) -> Iterator[PanelAdvice]:
    """Ways of toning with which fewer of the sheet's pens look alike."""
    before = on.alike(recipe, toning)
    if not before:
        return
    evidence = f"{before} {'pair' if before == 1 else 'pairs'} of this sheet's pens, told apart on paper, look alike"
    for doing, _, toned in _mixed(toning):
        assert toned is not None, "only the toning is changed"
        after = on.alike(recipe, toned)
        if after < before:
            pairs = ("pen on panel", "alike")
            yield PanelAdvice("Pens that look alike here", evidence, doing, pairs, before, after, None, toned)


def _bolder(on: OnPanel, recipe: Recipe, toning: Toning) -> Iterator[Change]:
    """The smallest of each sort of change that keeps the pen's own line, the most of it where none does."""
    yield from () if recipe.wash.place != "over" else _bolder_pen(on, recipe, toning)
    raised = [dataclasses.replace(toning, raised=r) for r in RAISED if r > toning.raised]
    if raised:
        to = _least(raised, lambda one: on.vanishes(recipe, one))
        yield f"contrast × {to.raised:g}", None, to
    bolder = [dataclasses.replace(toning, bolder_px=px) for px in BOLDER_PX if px > toning.bolder_px]
    if bolder:
        to = _least(bolder, lambda one: on.vanishes(recipe, one))
        yield f"{to.bolder_px} px bolder", None, to
    if toning.dither != "none":
        yield "no dither", None, dataclasses.replace(toning, dither="none")


def _bolder_pen(on: OnPanel, recipe: Recipe, toning: Toning) -> Iterator[Change]:
    width, colour = recipe.body.width_mm, recipe.body.colour
    wide = [with_change(recipe, float(w), colour) for w in WIDER[1:] if width * w <= 20]
    if wide:
        pen = _least(wide, lambda one: on.vanishes(one, toning))
        yield f"width {width:g} → {pen.body.width_mm:g} mm", pen, None
    tones = [with_change(recipe, 1.0, darker) for step, darker in tones_of(colour, on.paper.colour) if step]
    if tones:
        pen = _least(tones, lambda one: on.vanishes(one, toning))
        yield f"colour {colour} → {pen.body.colour}", pen, None


def _mixed(toning: Toning) -> list[Change]:
    mixed = [dataclasses.replace(toning, dither=dither) for dither in MIXED if dither != toning.dither]
    return [(f"dither: {to.dither}", None, to) for to in mixed]


def _crisp(recipe: Recipe) -> list[Change]:
    soft = recipe.tooth.toothed and not recipe.tooth.crisp
    return [("crisp grit", changed(recipe, "tooth.crisp", True), None)] if soft else []


def _least(changes: Sequence[One], vanishes: Callable[[One], float]) -> One:
    """The first of these, each of which keeps more than the one before it, that keeps all; the last where none does."""
    low, high = -1, len(changes) - 1
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if vanishes(changes[middle]) <= VANISHING else (middle, high)
    return changes[high]
