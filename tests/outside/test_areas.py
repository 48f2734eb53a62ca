"""Areas of strokes and sizes of paper against closed forms, shapely and reportlab."""

import math
import unittest

import numpy as np
import pypdfium2
import shapely
from reportlab.lib import pagesizes

from gray_quill.core.arrays import plain
from gray_quill.core.ink.outline import _walk, ink_area
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.width import across_motion_mm
from gray_quill.core.paper import SIZES_MM, paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.trace import make_trace
from gray_quill.formats.pdf import write_pdf
from tests.core.test_ink import nonzero_area


class Strokes(unittest.TestCase):
    def test_constant_width_is_the_minkowski_sum(self) -> None:
        """Steiner formula, A = 2 r L + pi r^2 - sum r^2 (tan(a/2) - a/2); values confirmed by shapely's buffer."""
        for line, r, exact in (
            ([(0, 0), (100, 0)], 2, 412.566370614),
            ([(0, 0), (50, 0), (50, 40)], 3, 566.342917353),
            ([(0, 0), (30, 20), (60, 0), (90, 25), (120, 5)], 4, 1223.379368309),
        ):
            x, y = plain(np.array(line).T)
            ring = shapely.Polygon(_walk(x, y, np.full(len(x), float(r)), 0.0001))
            self.assertAlmostEqual(ring.buffer(0).area / exact, 1, delta=2e-4)

    def test_variable_width_is_the_union_of_hulls(self) -> None:
        for points, exact in (
            ([(0, 0, 1), (40, 0, 4)], 227.266301673),
            ([(0, 0, 1), (30, 10, 3), (60, 0, 2), (80, 25, 5), (110, 20, 0.5)], 679.9348433),
        ):
            x, y, r = plain(np.array(points).T)
            self.assertAlmostEqual(nonzero_area([_walk(x, y, r, 0.0001)]) / exact, 1, delta=3e-4)

    def test_nibs_sweep_the_area_of_the_support_function(self) -> None:
        """Width across the motion times length plus the footprint: pi a b + w L for an ellipse, W H + w L for a
        rectangle.
        """
        for shape, long, short, degrees, end, width, area in (
            ("ellipse", 12, 2, 45, (50, 0), 8.602325267043, 448.965819274),
            ("ellipse", 10, 4, 30, (40, 30), 4.147511991473, 238.791526110),
            ("ellipse", 8, 1, 0, (0, 60), 8.0, 486.283185307),
            ("chisel", 6, 1, 45, (50, 0), 4.949747468306, 253.487373415),
            ("chisel", 5, 1.5, 30, (40, 30), 2.087306695895, 111.865334795),
        ):
            heading = math.atan2(end[1], end[0])
            got = across_motion_mm(
                shape, np.array([long]), np.array([short]), np.array([math.radians(degrees)]), np.array([heading])
            )
            self.assertAlmostEqual(float(got[0]), width, places=9)
            recipe = read_recipe(
                {
                    "body": {"width_mm": long},
                    "wash": {"tip": {"shape": shape, "aspect": long / short, "angle_deg": -degrees}},
                }
            )
            ink = settle(make_trace([0, 1], [0, end[0]], [0, end[1]], [0.5, 0.5]), recipe)
            self.assertAlmostEqual(ink_area(ink).area / area, 1, delta=2e-3)

    def test_flat_nib_widths_in_twelve_directions_are_the_ellipse_formulas(self) -> None:
        recipe = read_recipe(
            {"body": {"width_mm": 2}, "wash": {"tip": {"shape": "ellipse", "aspect": 5, "angle_deg": 40}}}
        )
        for k in range(12):
            a = k * math.pi / 6
            t = np.linspace(0, 1, 100)
            ink = settle(make_trace(t, 50 + 30 * t * math.cos(a), 50 + 30 * t * math.sin(a), t * 0 + 0.5), recipe)
            phi = -math.radians(40)
            formula = 2 * math.hypot(1.0 * math.sin(a - phi), 0.2 * math.cos(a - phi))
            self.assertAlmostEqual(float(np.median(ink.mark_width_mm())) / formula, 1, delta=0.02)


class Sizes(unittest.TestCase):
    def test_sheets_are_the_standards_sizes_and_so_are_pdf_pages(self) -> None:
        """ISO 216:2007 and ANSI/ASME Y14.1 as reportlab holds them; 72 points an inch (ISO 32000)."""
        for name, theirs in (
            ("A3", pagesizes.A3),
            ("A4", pagesizes.A4),
            ("A5", pagesizes.A5),
            ("A6", pagesizes.A6),
            ("A7", pagesizes.A7),
            ("letter", pagesizes.letter),
            ("11x17", pagesizes.elevenSeventeen),
        ):
            np.testing.assert_allclose(np.array(SIZES_MM[name]) * 72 / 25.4, theirs, atol=1e-4)
            page = pypdfium2.PdfDocument(write_pdf([([], paper_from_spec(f"blank {name}"))]))[0]
            np.testing.assert_allclose(page.get_size(), theirs, atol=0.01)
        self.assertEqual(SIZES_MM["11x14"], (279.4, 355.6))  # common practice, no source

    def test_stationery_spacings(self) -> None:
        """Wide 11/32 in, medium 9/32 in, narrow 1/4 in: common practice, no source."""
        for words, inches in (("wide ruled", 11 / 32), ("medium ruled", 9 / 32), ("narrow ruled", 1 / 4)):
            self.assertAlmostEqual(paper_from_spec(words).spacing_mm, inches * 25.4, delta=0.001)
