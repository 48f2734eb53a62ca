"""A setting card, read back: true sizes, the press curve as points, every setting that has an effect and no other."""

import io
import json
import pathlib

import numpy as np
import pypdf
import pypdfium2
from scipy.interpolate import PchipInterpolator

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.lineup.setting_card import in_effect, setting_card
from gray_quill.core.palm.rules import OFF, START
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.formats.card_pdf import HEIGHT_MM, MEASURE_MM, WIDTH_MM, write_card
from tests.web.api_case import ApiCase
from tests.web.cli_case import CliCase

TABLET, FIRM = SHIPPED_DEVICES["tablet-11"], SHIPPED_HANDS["right-firm"]
PX_PER_MM = 12


def read(data: bytes) -> tuple[str, np.ndarray]:
    """All text, and the first page as grey pixels at PX_PER_MM."""
    text = "\n".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages)
    page = pypdfium2.PdfDocument(data)[0].render(scale=PX_PER_MM * 25.4 / 72, grayscale=True)
    return text, np.asarray(page.to_numpy()).reshape(page.height, page.width)


class Cards(ApiCase):
    def test_sizes_are_true_and_the_curve_is_the_pens(self) -> None:
        answer = self.ask("GET", "/api/pens/fen-fountain/revisions/1/card.pdf?device_id=tablet-11&hand_id=right-firm")
        text, pixels = read(answer.data)
        np.testing.assert_allclose(pixels.shape, (HEIGHT_MM * PX_PER_MM, WIDTH_MM * PX_PER_MM), atol=1)
        dark = pixels < 100
        strip = dark[100 * PX_PER_MM : 108 * PX_PER_MM, : 64 * PX_PER_MM]
        measure = np.flatnonzero(strip[strip.sum(axis=1).argmax()])
        self.assertAlmostEqual((measure[-1] - measure[0]) / PX_PER_MM, MEASURE_MM, delta=0.4)
        line = dark[28 * PX_PER_MM : 34 * PX_PER_MM].sum(axis=0) / PX_PER_MM
        firm, light = 1.0, 0.25  # 0.5 mm wide, from thin to thick by 4
        self.assertTrue(light < np.percentile(line[line > 0.1], 95) <= firm + 0.1)
        press = SHIPPED_PENS["fen-fountain"].press
        at = (0.5 - press.floor) / (press.ceiling - press.floor)
        x, y = zip(*press.points, strict=True)
        self.assertIn(f"{float(PchipInterpolator(x, y)(at)):.3f}", text)
        self.assertIn(str(round(0.5 * (TABLET.digitiser.levels - 1))), text)
        for words in ("Fen fountain 0.5", TABLET.name, "one-euro", "0.25 mm at the lightest, 1 mm at the firmest"):
            self.assertIn(words.replace("1 mm", "1.00 mm"), text)

    def test_only_what_has_an_effect_is_on_it(self) -> None:
        pen = SHIPPED_PENS["fen-fountain"]
        steadied = dict(in_effect(pen.steady))
        self.assertIn("Speed answer", steadied)
        self.assertNotIn("Speed answer", dict(in_effect(changed(pen, "steady.method", "none").steady)))
        groups = {g.title: dict(g.rows) for g in setting_card(pen, TABLET, FIRM, START).groups}
        self.assertIn("drag", groups["What the steadying does"])
        bare = setting_card(changed(pen, "steady.method", "none"), TABLET, FIRM, OFF)
        self.assertNotIn("What the steadying does", {g.title for g in bare.groups})
        self.assertNotEqual(groups["Palm rules"], {g.title: dict(g.rows) for g in bare.groups}["Palm rules"])
        self.assertNotIn("Palm rules", {g.title for g in setting_card(pen, TABLET, FIRM, None).groups})

    def test_every_pen_has_one_on_every_device_whatever_its_name(self) -> None:
        for k, (name, pen) in enumerate(SHIPPED_PENS.items()):
            device = list(SHIPPED_DEVICES.values())[k % len(SHIPPED_DEVICES)]
            with self.subTest(name):
                recipe = changed(pen, "name", "Фен <&> 0.5")
                text, _ = read(write_card(setting_card(recipe, device, FIRM, START), recipe))
                self.assertIn("Фен <&> 0.5", text)
                self.assertNotIn("by their numbers", text)
                self.assertEqual(text.count("Palm rules"), 1)

    def test_what_is_not_there_has_none(self) -> None:
        for query in ("device_id=none&hand_id=right-firm", "device_id=tablet-11&hand_id=none"):
            self.assertEqual(self.ask("GET", f"/api/pens/fen-fountain/revisions/1/card.pdf?{query}").status_code, 404)
        self.assertEqual(self.ask("GET", "/api/pens/fen-fountain/revisions/1/card.pdf").status_code, 422)


class OnTheCommandLine(CliCase):
    TWO = ("lineup", "reed-ballpoint", "fen-fountain", "--counts", "handsome handwriting")

    def test_a_card_and_reports_go_where_they_are_wished(self) -> None:
        card = str(self.folder / "card.pdf")
        self.assertEqual(self.run_cli("card", "fen-fountain", "--device", "paper-slate-10", "-o", card)[0], 0)
        self.assertIn(SHIPPED_DEVICES["paper-slate-10"].name, read(pathlib.Path(card).read_bytes())[0])
        out = {form: self.folder / f"report.{form}" for form in ("html", "pdf", "csv")}
        self.assertEqual(self.run_cli(*self.TWO, "-o", str(out["html"]))[0], 0)
        self.assertEqual(self.run_cli(*self.TWO, "-o", str(out["pdf"]))[0], 0)
        self.assertEqual(self.run_cli(*self.TWO, "--csv", "-o", str(out["csv"]))[0], 0)
        text, page = out["html"].read_text(), read(out["pdf"].read_bytes())[0]
        total = next(p["total"] for p in json.loads(self.run_cli(*self.TWO, "--json")[1])["ranking"]["places"])
        for told in (text, page):
            self.assertIn(f"{total:.1f} points", told)
            self.assertIn("level with" if "level with" in text else "points", told)
        self.assertTrue(out["csv"].read_text().startswith("candidate,criterion"))
        self.assertEqual(self.run_cli(*self.TWO, "--html")[1], text)

    def test_where_nothing_can_be_written_that_is_said(self) -> None:
        nowhere = str(self.folder / "none" / "card.pdf")
        for args in (("card", "fen-fountain", "-o", nowhere), (*self.TWO, "-o", nowhere), ("card", "x", "-o", "c.pdf")):
            status, _, said = self.run_cli(*args)
            self.assertEqual(status, 2, args)
            self.assertNotIn("Traceback", said)
