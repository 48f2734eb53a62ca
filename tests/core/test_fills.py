"""Fills: the inside as exact area, under its own outline, moved and rubbed with it, and in files."""

import dataclasses
import unittest

import numpy as np
import pypdfium2
import shapely

from gray_quill.core.ink.area import Fill, cover_area
from gray_quill.core.ink.coverage import untouched
from gray_quill.core.ink.eraser import rubbed, sweep_of
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.stroke_edits import UNEDITED, StrokeEdits, shown, to_settle
from gray_quill.core.ink.view import View, page_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.trace import Trace, make_trace
from gray_quill.formats.export import export_sheet

PEN = read_recipe({"body": {"width_mm": 0.6, "colour": "#20242b"}})
FILL = Fill("#f2c14e", 0.5)
VIEW = View(0, 0, 10, 600, 600)


def ring(radius_mm: float = 12) -> Trace:
    t = np.linspace(0, 1, 200)
    return make_trace(t, 30 + radius_mm * np.cos(6.4 * t), 30 + radius_mm * np.sin(6.4 * t), 0 * t + 0.5)


def ink_of(trace: Trace, edits: StrokeEdits) -> Ink:
    return shown(trace, settle(to_settle(trace, edits), PEN), edits)[1]


class Fills(unittest.TestCase):
    def test_each_pixel_holds_the_area_of_the_polygon_in_it(self) -> None:
        """Against shapely's intersections, also where the polygon reaches beyond the page on every side."""
        rng = np.random.default_rng(4)
        for _ in range(25):
            n = int(rng.integers(3, 24))
            a, r = np.sort(rng.uniform(0, 2 * np.pi, n)), rng.uniform(3, 20, n)
            x, y = 16 + r * np.cos(a) + rng.uniform(-14, 14), 14 + r * np.sin(a) + rng.uniform(-12, 12)
            polygon = shapely.Polygon(np.column_stack((x, y)))
            if not polygon.is_valid:
                continue
            plane = untouched(np.zeros((28, 32), np.float32))
            cover_area(plane, x, y, 0, n)
            columns, rows = np.meshgrid(np.arange(32), np.arange(28))
            true = shapely.area(shapely.intersection(polygon, shapely.box(columns, rows, columns + 1, rows + 1)))
            self.assertLess(float(np.abs(true - plane.cov).max()), 2e-4)

    def test_it_lies_under_its_outline_and_goes_along_when_it_is_moved(self) -> None:
        page = ink_pixels([ink_of(ring(), StrokeEdits(fill=FILL))], VIEW)
        self.assertEqual(page[300, 300].tolist(), [0xF2, 0xC1, 0x4E, 128])
        self.assertEqual(page[300, 420, :3].tolist(), [0x20, 0x24, 0x2B], "its outline is whole")
        self.assertEqual(int(page[300, 450, 3]), 0)
        inside = float((page[..., 3] == 128).sum()) / 100
        self.assertAlmostEqual(inside / (np.pi * (12 - 0.3) ** 2), 1, delta=0.015)
        away = StrokeEdits(fill=FILL, placement=(2.0, 0.0, 0.0, 2.0, -30.0, -25.0, 0.0, 0.0))
        moved = ink_pixels([ink_of(ring(), away)], VIEW)
        self.assertEqual(int(moved[350, 300, 3]), 128)
        self.assertAlmostEqual(float((moved[..., 3] == 128).sum()) / 100 / inside, 4, delta=0.1)

    def test_a_rub_takes_of_it_and_a_cut_leaves_none(self) -> None:
        whole = StrokeEdits(fill=FILL)
        ink = ink_of(ring(), whole)
        (nicked,) = rubbed(ink, whole, sweep_of([(42.0, 30.0)], 0.2))
        page = ink_pixels([ink_of(ring(), nicked)], VIEW)
        self.assertEqual(int(page[300, 300, 3]), 128, "nicked, it is still filled")
        pieces = rubbed(ink, whole, sweep_of([(42.0, 30.0), (18.0, 30.0)], 1.0))
        cut = ink_pixels([ink_of(ring(), piece) for piece in pieces], VIEW)
        self.assertEqual(int(cut[340, 300, 3]), 0, "what is no ring any more has no inside")
        bare = ink_pixels([ink_of(ring(), dataclasses.replace(whole, fill=None))], VIEW)
        np.testing.assert_array_equal(bare, ink_pixels([ink_of(ring(), UNEDITED)], VIEW))

    def test_files_hold_it(self) -> None:
        paper = paper_from_spec("blank A6 white")
        inks = [ink_of(ring(), StrokeEdits(fill=FILL))]
        raster = page_pixels(inks, paper, page_view(paper, 144)).astype(float)
        page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", 144, True))[0]
        image = np.asarray(page.render(scale=2).to_pil().convert("RGB"), float)[: raster.shape[0], : raster.shape[1]]
        apart = np.abs(image - raster[: image.shape[0], : image.shape[1]]).max(axis=2) / 255
        self.assertLess(float((apart > 0.15).mean()), 0.002)
        self.assertIn('fill="#f2c14e" fill-opacity="0.5"', export_sheet(inks, paper, "svg", 144, True).decode())
