"""Compiling every kernel once during set-up, so that nothing is slow the first time somebody uses it."""

import functools
import pathlib

import numpy as np

import gray_quill
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.highlighter.grid import Bench
from gray_quill.core.ink.eraser import rubbed, sweep_of, touched
from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.page import ink_pixels, opacity_plane, page_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.stroke_edits import UNEDITED
from gray_quill.core.ink.view import page_view
from gray_quill.core.latency.ahead import looked_ahead
from gray_quill.core.palm.features import NAMES
from gray_quill.core.palm.trees import odds_of
from gray_quill.core.panel.dither import DITHERS
from gray_quill.core.panel.glass import Glass
from gray_quill.core.panel.proof import Toning, proof_sheet
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import METHODS
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.readings.panel_readings import panel_readings
from gray_quill.core.shading.bench import export_crispness, shading_patches, small_text


def warm_kernels() -> None:
    """Compile every kernel. Those compiled earlier go first: they would not notice that one they call has changed."""
    for kept in pathlib.Path(gray_quill.__file__).parent.rglob("*.nb[ic]"):
        kept.unlink()
    use_everything()


@functools.cache
def use_everything() -> None:
    """Write a word, ink it with every shipped pen and every steadying method, shade, wash it, and show it on every
    panel once: kernels are loaded, or compiled, and what is made once (surfaces, tables) is there.
    """
    device = SHIPPED_DEVICES["tablet-11"]
    traces = write_text("moth", SHIPPED_HANDS["right-firm"], device, 1)
    paper = paper_from_spec("dotted A7")
    pens: list[Recipe] = list(SHIPPED_PENS.values())
    plain = write_recipe(SHIPPED_PENS["fen-fountain"])
    pens += [read_recipe({**plain, "steady": {"method": method, "amount": 4}}) for method in METHODS]
    for pen in pens:
        inks = settle_all(traces, pen)
        page_pixels(inks, paper, page_view(paper, 60))
        ink_pixels(inks, page_view(paper, 60))
        opacity_plane(inks, page_view(paper, 60))
        outline(inks[0])
        read_ink(traces, pen, inks)
    glass = Glass(np.zeros((1, 1), np.uint8), exponential=False)
    glass.drive((0, 0, 1, 1), glass.shown(0.0), 0.0, 1.0)
    odds_of([0.0] * len(NAMES))
    looked_ahead(pen.steady, 240, 60, 50, traces)
    sweep = sweep_of([(10, 10), (60, 40)], 2)
    for k in touched(inks, sweep):
        rubbed(inks[k], UNEDITED, sweep)
    hand = SHIPPED_HANDS["right-firm"]
    Bench(SHIPPED_PENS["dusk-wash"], traces, "moth", hand, device).cell(SHIPPED_PENS["fen-fountain"], "#ffffff", 1)
    pencil = SHIPPED_PENS["moth-pencil-2b"]
    shading_patches(pencil, hand, device, paper)
    export_crispness(pencil, hand, device)
    small_text(pencil, hand, device, paper)
    for shown in SHIPPED_DEVICES.values():
        for dither in DITHERS:
            panel_readings(inks, paper, shown.panel, proof_sheet(inks, paper, shown.panel, Toning(dither)))
