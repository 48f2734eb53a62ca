"""SVG, PDF and PNG show the same page."""

import io
import re
import unittest

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.view import page_view
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.core.trace import moved
from gray_quill.formats.export import export_sheet
from gray_quill.formats.pen_json import read_pen, write_pen
from gray_quill.formats.png import read_png, write_png, write_tinted_png
from tests.zoo import wave, zoo

DPI = 144


def page_of(pens: tuple[str, ...]) -> tuple[list[Ink], Paper]:
    paper = paper_from_spec("ruled 7mm A5")
    return [settle(moved(wave(), 0, 18 * k - 25), SHIPPED_PENS[p]) for k, p in enumerate(pens)], paper


class Pictures(unittest.TestCase):
    def test_pdf_matches_png_for_every_kind_of_pen(self) -> None:
        inks, paper = page_of(
            ("reed-ballpoint", "fen-fountain", "heron-brush", "sedge-nib", "stitch-reed", "hollow-reed", "dusk-wash")
        )
        raster = page_pixels(inks, paper, page_view(paper, DPI)).astype(float)
        page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", DPI, True))[0]
        self.assertAlmostEqual(page.get_size()[0], 148 * 72 / 25.4, delta=0.01)
        shown = np.asarray(page.render(scale=DPI / 72).to_pil().convert("RGB"), float)[
            : raster.shape[0], : raster.shape[1]
        ]
        difference = np.abs(shown - raster[: shown.shape[0], : shown.shape[1]]) / 255
        self.assertLess(difference.mean(), 0.02)
        self.assertLess((difference.max(axis=2) > 0.35).mean(), 0.002)

    def test_what_depends_on_the_strokes_below_is_in_the_file_as_on_the_page(self) -> None:
        """Even rows as one area, grain that earlier passes filled, rows half even with others between."""
        paper = paper_from_spec("blank A6 white")
        half = changed(SHIPPED_PENS["survey-marker"], "wash.streaks", 0.5)
        pens = [changed(p, "body.opacity", 0.6) for p in (SHIPPED_PENS["survey-marker"], half)]
        wide = [changed(p, "body.width_mm", 4.0) for p in pens]
        order = [wide[0]] * 3 + [wide[1]] * 2 + [wide[0]] + [wide[1]] + [SHIPPED_PENS["alder-charcoal"]] * 2
        inks = [settle(moved(wave(), 0, 2.0 * k - 20), pen) for k, pen in enumerate(order)]
        raster = page_pixels(inks, paper, page_view(paper, DPI)).astype(float)
        text = export_sheet(inks, paper, "svg", 0, True).decode()
        self.assertEqual((text.count("<path"), text.count("<image")), (1, 6), "the first three are one area")
        page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", DPI, True))[0]
        shown = np.asarray(page.render(scale=DPI / 72).to_pil().convert("RGB"), float)
        shown = shown[: raster.shape[0], : raster.shape[1]]
        apart = np.abs(shown - raster[: shown.shape[0], : shown.shape[1]]) / 255
        self.assertLess(apart.mean(), 0.004)
        self.assertLess((apart.max(axis=2) > 0.15).mean(), 0.01)

    def test_washes_that_lie_as_one_layer_do_in_a_file_too(self) -> None:
        """Two even washes that cross by turns: no place of the page is darker than each of them once, and of the PDF
        none but seams; the same strokes that do deepen are darker over a good part.
        """
        paper = paper_from_spec("blank A6 white")
        darker = {}
        for streaks in (0.0, 1.0):
            pens = [changed(SHIPPED_PENS[n], "wash.streaks", streaks) for n in ("dusk-wash", "fern-wash")]
            wide = [changed(p, "body.width_mm", 6.0) for p in pens]
            inks = [settle(moved(wave(), 0, 1.0 * k - 20), wide[k % 2]) for k in range(4)]
            raster, once = (page_pixels(i, paper, page_view(paper, DPI)) for i in (inks, inks[:2]))
            deepest = once.min(axis=(0, 1)).astype(float) - 3
            page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", DPI, True))[0]
            shown = np.asarray(page.render(scale=DPI / 72).to_pil().convert("RGB"), float)
            darker[streaks] = [float((p < deepest).any(axis=2).mean()) for p in (raster, shown)]
        self.assertLess(darker[0.0][0], 1e-4)
        self.assertLess(darker[0.0][1], 0.003)
        self.assertGreater(min(darker[1.0]), 0.015, darker)

    def test_png_keeps_its_density_and_leaves_the_paper_out_when_asked(self) -> None:
        inks, paper = page_of(("fen-fountain",))
        picture = Image.open(io.BytesIO(export_sheet(inks, paper, "png", 100, False)))
        self.assertEqual((picture.mode, round(picture.info["dpi"][0])), ("RGBA", 100))
        self.assertEqual(picture.size, (583, 827))
        pixels = np.asarray(picture)
        self.assertEqual(pixels[5, 5, 3], 0)
        darkest = pixels[pixels[..., 3] == 255]
        self.assertEqual(darkest[0, :3].tolist(), [0x20, 0x24, 0x2B])

    def test_svg_holds_one_filled_path_a_stroke_in_mm(self) -> None:
        inks, paper = page_of(("fen-fountain", "fern-wash"))
        text = export_sheet(inks, paper, "svg", 0, True).decode()
        self.assertIn('width="148mm" height="210mm" viewBox="0 0 148 210"', text)
        self.assertLess(text.index("#9ccb86"), text.index("#20242b"), "a wash lies under ink written before it")
        self.assertIn("mix-blend-mode:multiply", text)
        numbers = [float(n) for n in re.findall(r"[ML]([\d.]+) ", text)]
        self.assertTrue(0 <= min(numbers) and max(numbers) <= 148)
        self.assertNotIn("<rect", export_sheet(inks, paper, "svg", 0, False).decode())

    def test_a_dot_is_in_every_format(self) -> None:
        paper = paper_from_spec("blank A7 white")
        ink = [settle(zoo()["dot"], SHIPPED_PENS["survey-marker"])]
        self.assertLess(
            np.asarray(
                pypdfium2.PdfDocument(export_sheet(ink, paper, "pdf", 0, True))[0].render(scale=3).to_pil().convert("L")
            ).min(),
            120,
        )
        self.assertLess(read_png(export_sheet(ink, paper, "png", 150, True)).min(), 120)

    def test_png_in_refuses_what_is_none(self) -> None:
        good = write_png(np.zeros((4, 4, 3), np.uint8))
        for data, kind in ((b"GIF89a", FormatError), (good[:40], FormatError), (b"", FormatError)):
            with self.assertRaises(kind):
                read_png(data)
        huge = write_png(np.zeros((8, 8), np.uint8))
        huge = huge[:16] + (30_000).to_bytes(4, "big") * 2 + huge[24:]
        with self.assertRaises((TooLarge, FormatError)):
            read_png(huge)
        tinted = Image.open(io.BytesIO(write_tinted_png(np.array([[0, 128, 255]], np.uint8), (10, 20, 30)))).convert(
            "RGBA"
        )
        self.assertEqual(np.asarray(tinted)[0, 1:].tolist(), [[10, 20, 30, 128], [10, 20, 30, 255]])

    def test_pen_json_round_trip_and_refusals(self) -> None:
        for recipe in SHIPPED_PENS.values():
            self.assertEqual(read_pen(write_pen(recipe)), recipe)
        for data in (b"{", b"\xff", b"[" * 5000):
            with self.assertRaises(FormatError):
                read_pen(data)
        with self.assertRaises(TooLarge):
            read_pen(b" " * 200_000)
