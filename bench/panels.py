"""What proofs cost: error diffusion against Pillow's, and four proofs of a page."""

import time

import numpy as np
from PIL import Image

from bench.timing import best_of_both
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.view import page_view
from gray_quill.core.panel.cut import THEN, cut_of, cut_view
from gray_quill.core.panel.dither import reduce_greys
from gray_quill.core.panel.in_time import InTime
from gray_quill.core.panel.proof import Toning, proof_sheet
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.panel_readings import panel_readings
from gray_quill.core.trace import moved
from gray_quill.core.units import px_per_mm

A4 = paper_from_spec("dotted A4")
ON = ("tablet-11", "convertible-13", "paper-slate-10", "paper-pad-8")
GREYS = 16


def page_of_words() -> list[Ink]:
    """A written page."""
    line = write_text("moth at trap nine, wings folded", SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 1)
    return [
        ink for k in range(22) for ink in settle_all([moved(t, 0, 12 * k) for t in line], SHIPPED_PENS["fen-fountain"])
    ]


def diffusion() -> tuple[float, float]:
    """ms for a page of 1404 x 1872 in 16 greys, and of Pillow for the same in two tones."""
    page = page_pixels(page_of_words(), A4, page_view(A4, 227))[:1872, :1404]
    grey = np.ascontiguousarray(page.mean(axis=2).astype(np.uint8))
    picture = Image.fromarray(grey)
    return best_of_both(lambda: reduce_greys(grey, GREYS, "floyd-steinberg"), lambda: picture.convert("1"))


def in_time() -> tuple[float, float]:
    """Seconds to play some ten seconds of writing on e-paper at 60 pictures a second, and how long it lasts."""
    device, paper = SHIPPED_DEVICES["paper-slate-10"], paper_from_spec("dotted A5")
    traces = write_text("moth at trap nine, wings folded", SHIPPED_HANDS["right-firm"], device, 1)
    drawn = list(zip(traces, settle_all(traces, SHIPPED_PENS["fen-fountain"]), strict=True))
    view = cut_view(paper, 45, 25, 60, px_per_mm(device.panel.ppi))
    writing = cut_of(drawn, view, THEN[0])
    lasts, best = 0.0, float("inf")
    for _ in range(3):
        page = InTime(writing, paper, view, device.panel, device.updates, 0.02)
        began, lasts = time.perf_counter(), page.lasts_s()
        for _ in page.play(60):
            pass
        best = min(best, time.perf_counter() - began)
    return best, lasts


def four_proofs() -> tuple[float, float]:
    """ms to make four proofs of an A4 page, and with their readings."""
    inks = page_of_words()
    toned = Toning("floyd-steinberg")
    took = []
    for readings in (False, True):
        best = float("inf")
        for _ in range(3):
            began = time.perf_counter()
            for name in ON:
                panel = SHIPPED_DEVICES[name].panel
                proof = proof_sheet(inks, A4, panel, toned)
                if readings:
                    panel_readings(inks, A4, panel, proof)
            best = min(best, 1000 * (time.perf_counter() - began))
        took.append(best)
    return took[0], took[1]
