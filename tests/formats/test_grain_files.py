"""Strokes whose tone varies, in files: a picture of fixed density in the same tone, whatever the format."""

import base64
import dataclasses
import io
import re
import unittest

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.core.ink.settle import settle
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.body import Body
from gray_quill.core.pen.highlighter import Wash
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.export import export_sheet
from gray_quill.formats.png import read_png
from tests.zoo import wave

PAPER = paper_from_spec("blank A6 landscape white")


class GrainFiles(unittest.TestCase):
    def setUp(self) -> None:
        self.inks = [settle(wave(), SHIPPED_PENS[name]) for name in ("alder-charcoal", "fen-fountain")]

    def test_svg_holds_the_picture_pixelated_and_the_plain_stroke_as_outline(self) -> None:
        text = export_sheet(self.inks, PAPER, "svg", 0, True).decode()
        found = re.search(r'<image x="([\d.]+)".*?width="([\d.]+)".*?image-rendering:pixelated.*?base64,([^"]+)"', text)
        assert found
        picture = Image.open(io.BytesIO(base64.b64decode(found[3])))
        self.assertAlmostEqual(picture.width / float(found[2]) * 25.4, 600, delta=1)
        self.assertEqual(text.count("<path fill="), 1)
        alpha = np.asarray(picture)[..., 3]
        inked = alpha[alpha > 0]
        self.assertGreater(float(inked.std()), 65, "grit, not grey")

    def test_pdf_and_png_have_the_same_tone(self) -> None:
        """Grain, a spray, a wet edge, and crossings that build up."""
        builds = dataclasses.replace(
            SHIPPED_PENS["survey-marker"], wash=Wash(build_up=True), body=Body(width_mm=6, opacity=0.4)
        )
        for pen in (*(SHIPPED_PENS[n] for n in ("alder-charcoal", "mist-spray", "clover-marker")), builds):
            inks = [settle(wave(), pen)]
            ours = 255 - read_png(export_sheet(inks, PAPER, "png", 144, True)).astype(float)
            page = pypdfium2.PdfDocument(export_sheet(inks, PAPER, "pdf", 0, True))[0]
            shown = 255 - np.asarray(page.render(scale=2).to_pil().convert("RGB"), float)
            shown = shown[: ours.shape[0], : ours.shape[1]]
            self.assertAlmostEqual(shown.sum() / ours.sum(), 1, delta=0.03, msg=pen.name)
            apart = np.abs(shown - ours)[ours.max(axis=-1) > 8].mean()
            self.assertLess(apart, 40 if pen.tooth.toothed and pen.tooth.crisp else 8, pen.name)
