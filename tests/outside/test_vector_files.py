"""SVG and PDF against independent renderers: Chromium draws the SVG, PDFium the PDF, our own kernels the PNG."""

import base64
import io
import pathlib
import tempfile
import unittest

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.core.ink.settle import settle
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import moved
from gray_quill.formats.export import export_sheet
from gray_quill.formats.png import read_png
from tests.browser.driver import browser, resize
from tests.zoo import wave

DPI = 192
PENS = (
    "reed-ballpoint",
    "fen-fountain",
    "heron-brush",
    "sedge-nib",
    "survey-marker",
    "stitch-reed",
    "hollow-reed",
    "dusk-wash",
    "fern-wash",
)


class Renderers(unittest.TestCase):
    def inks(self) -> tuple[list, Paper]:
        # each wash lies right over a line written before it, so that place and blend are seen
        rows = [k * 18 - 28 for k in range(7)] + [-27, -9]
        return [
            settle(moved(wave(), 0, row), SHIPPED_PENS[p]) for p, row in zip(PENS, rows, strict=True)
        ], paper_from_spec("ruled 7mm A5")

    def agree(self, shown: np.ndarray, ours: np.ndarray, what: str) -> None:
        height, width = min(shown.shape[0], ours.shape[0]), min(shown.shape[1], ours.shape[1])
        apart = np.abs(shown[:height, :width].astype(float) - ours[:height, :width].astype(float)) / 255
        self.assertLess(apart.mean(), 0.005, what)
        self.assertLess((apart.max(axis=2) > 0.3).mean(), 0.001, what)

    def test_svg_in_a_browser(self) -> None:
        inks, paper = self.inks()
        ours = read_png(export_sheet(inks, paper, "png", DPI, True))
        with tempfile.TemporaryDirectory() as folder, browser() as driver:
            page = pathlib.Path(folder) / "page.svg"
            page.write_bytes(export_sheet(inks, paper, "svg", DPI, True))
            driver.get(page.as_uri())
            resize(driver, 600, 820)
            driver.execute_cdp_cmd(
                "Emulation.setDeviceMetricsOverride",
                {"width": 600, "height": 820, "deviceScaleFactor": 2, "mobile": False},
            )
            shot = driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
        shown = np.asarray(Image.open(io.BytesIO(base64.b64decode(shot))).convert("RGB"))
        self.agree(shown[: ours.shape[0], : ours.shape[1]], ours, "svg")

    def test_pdf_in_pdfium(self) -> None:
        inks, paper = self.inks()
        ours = read_png(export_sheet(inks, paper, "png", DPI, True))
        page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", DPI, True))[0]
        self.agree(np.asarray(page.render(scale=DPI / 72).to_pil().convert("RGB")), ours, "pdf")
