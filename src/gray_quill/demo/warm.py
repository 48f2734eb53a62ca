"""Compiling every kernel once during set-up, so that nothing is slow the first time somebody uses it."""

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.writer import write_text
from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.page import ink_pixels, opacity_plane, page_pixels, page_view
from gray_quill.core.ink.settle import settle
from gray_quill.core.panel.proof import proof_sheet
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import METHODS
from gray_quill.core.readings.ink_readings import read_ink


def warm_kernels() -> None:
    """Write a word, ink it with every shipped pen and every steadying method, and show it on every panel once."""
    device = SHIPPED_DEVICES["tablet-11"]
    traces = write_text("moth", SHIPPED_HANDS["right-firm"], device, 1)
    paper = paper_from_spec("dotted A7")
    pens: list[Recipe] = list(SHIPPED_PENS.values())
    plain = write_recipe(SHIPPED_PENS["fen-fountain"])
    pens += [read_recipe({**plain, "steady": {"method": method, "amount": 4}}) for method in METHODS]
    for pen in pens:
        inks = [settle(t, pen) for t in traces]
        page_pixels(inks, paper, page_view(paper, 60))
        ink_pixels(inks, page_view(paper, 60))
        opacity_plane(inks, page_view(paper, 60))
        outline(inks[0])
        read_ink(traces, pen, inks)
    for shown in SHIPPED_DEVICES.values():
        proof_sheet(inks, paper, shown.panel, "diffuse")
