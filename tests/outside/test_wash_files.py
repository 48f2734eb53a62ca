"""What washes promise, in every form: the PNG we draw, the SVG as Chromium shows it, the PDF as PDFium shows it."""

import base64
import dataclasses
import io
import pathlib
import tempfile
import unittest

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.trace import make_trace
from gray_quill.formats.export import export_sheet
from gray_quill.formats.png import read_png
from tests.browser.driver import browser, resize
from tests.zoo import zoo

PAPER = paper_from_spec("blank A6 landscape cream")
PX = 192 / 25.4
DARK = read_recipe({"body": {"width_mm": 1.2, "colour": "#20242b"}})


def wash(**fields: object) -> Recipe:
    return read_recipe(
        {"kind": "highlighter", "body": {"width_mm": 5, "colour": "#f2c14e", "opacity": 0.55}, "wash": fields}
    )


def eight(recipe: Recipe) -> Ink:
    """A stroke that crosses itself at (40, 40) mm."""
    loop = zoo()["self-crossing"]
    return settle(dataclasses.replace(loop, force=np.full(len(loop), 0.5)), recipe)


def line() -> Ink:
    t = np.linspace(0, 1, 80)
    return settle(make_trace(t, 25 + 30 * t, 40 + 0 * t, 0 * t + 0.5), DARK)


class EveryForm(unittest.TestCase):
    def shown(self, inks: list[Ink]) -> dict[str, np.ndarray]:
        """The page at 192 dpi as each form shows it."""
        page = pypdfium2.PdfDocument(export_sheet(inks, PAPER, "pdf", 0, True))[0]
        with tempfile.TemporaryDirectory() as folder:
            file = pathlib.Path(folder) / "page.svg"
            file.write_bytes(export_sheet(inks, PAPER, "svg", 0, True))
            self.driver.get(file.as_uri())
            shot = self.driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
        return {
            "png": read_png(export_sheet(inks, PAPER, "png", 192, True)).astype(int),
            "svg": np.asarray(Image.open(io.BytesIO(base64.b64decode(shot))).convert("RGB")).astype(int),
            "pdf": np.asarray(page.render(scale=192 / 72).to_pil().convert("RGB")).astype(int),
        }

    def setUp(self) -> None:
        chrome = browser()
        self.driver = chrome.__enter__()
        self.addCleanup(chrome.__exit__, None, None, None)
        resize(self.driver, 600, 420)
        self.driver.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride", {"width": 600, "height": 420, "deviceScaleFactor": 2, "mobile": False}
        )

    def at(self, picture: np.ndarray, x_mm: float, y_mm: float) -> np.ndarray:
        return picture[int(y_mm * PX), int(x_mm * PX)]

    def test_under_the_ink_no_pixel_of_full_ink_changes(self) -> None:
        for blend in ("multiply", "normal", "screen"):
            bare, washed = self.shown([line()]), self.shown([line(), eight(wash(place="under", blend=blend))])
            for form in bare:
                full = (bare[form] == (0x20, 0x24, 0x2B)).all(axis=-1)
                self.assertGreater(full.sum(), 500)
                np.testing.assert_allclose(washed[form][full], bare[form][full], atol=1, err_msg=f"{form} {blend}")

    def test_over_the_ink_multiply_never_lightens(self) -> None:
        bare, washed = self.shown([line()]), self.shown([line(), eight(wash(place="over", blend="multiply"))])
        for form in bare:
            self.assertLessEqual(int((washed[form] - bare[form]).max()), 1, form)

    def test_crossings_darken_only_when_asked_and_only_there(self) -> None:
        flat = self.shown([eight(wash(blend="multiply"))])
        built = self.shown([eight(wash(blend="multiply", build_up=True))])
        for form in flat:
            cross, arm = self.at(flat[form], 40, 40), self.at(flat[form], 50, 40)
            np.testing.assert_allclose(cross, arm, atol=2, err_msg=f"{form}: no darker crossing")
            darker = self.at(built[form], 40, 40)
            self.assertTrue((darker[1:] < arm[1:] - 15).all(), f"{form}: {darker} {arm}")
            np.testing.assert_allclose(self.at(built[form], 50, 40), arm, atol=3, err_msg=form)
