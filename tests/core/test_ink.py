"""Width, coverage, outlines and pages."""

import dataclasses
import itertools
import unittest

import numba
import numpy as np
import shapely

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.coverage import SHAPES, Path, blank_plane, cover, cover_piece, seen_points
from gray_quill.core.ink.outline import exact_outline, ink_area, outline
from gray_quill.core.ink.page import ink_pixels, opacity_plane, page_pixels
from gray_quill.core.ink.plan import compile_plan
from gray_quill.core.ink.settle import Ink, settle, settle_each, width_terms
from gray_quill.core.ink.sleeve import straight_points
from gray_quill.core.ink.view import View, box_view, page_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.anchors import find_anchors
from gray_quill.core.readings.ink_readings import ink_widths, read_ink
from gray_quill.core.trace import make_trace
from tests.zoo import wave, zoo

BALLPOINT = read_recipe({"body": {"width_mm": 0.6}})


def nonzero_area(rings: list[np.ndarray]) -> float:
    """Area that the nonzero rule fills: faces of the noded rings whose winding number is not 0. Slow and independent of
    the ink code.
    """
    closed = [np.vstack((r, r[:1])) for r in rings]
    lines = shapely.unary_union([shapely.LineString(r) for r in closed])
    (x0, y0), (x1, y1) = (np.concatenate([r[part] for r in closed]).T for part in (slice(-1), slice(1, None)))
    total = 0.0
    for face in shapely.polygonize([lines]).geoms:
        x, y = face.representative_point().coords[0]
        up, down = np.flatnonzero((y0 <= y) & (y1 > y)), np.flatnonzero((y0 > y) & (y1 <= y))
        left_of = [(x1[k] - x0[k]) * (y - y0[k]) - (x - x0[k]) * (y1[k] - y0[k]) for k in (up, down)]
        winding = np.count_nonzero(left_of[0] > 0) - np.count_nonzero(left_of[1] < 0)
        total += face.area if winding else 0.0
    return total


class Width(unittest.TestCase):
    def test_terms_add_up_to_the_width_of_the_formula(self) -> None:
        trace, recipe = wave(), SHIPPED_PENS["fen-fountain"]
        plain = dataclasses.replace(recipe, steady=dataclasses.replace(recipe.steady, amount=0))
        terms = width_terms(trace, plain)
        ink = settle(trace, plain)
        at = np.searchsorted(ink.at, np.arange(len(trace)) - 1e-9)
        np.testing.assert_allclose(np.exp(sum(terms.values())), ink.long_mm[at], rtol=1e-9)
        middle = slice(60, -60)
        np.testing.assert_allclose(terms["taper"][middle], 0, atol=1e-9)
        speed = np.hypot(25, 4 * 2 * np.pi * 1.2 * np.cos(2 * np.pi * 1.2 * trace.t_s))
        np.testing.assert_allclose(terms["pace"][middle], -0.15 * np.log((speed + 10) / 45)[middle], atol=0.02)

    def test_a_ballpoint_keeps_its_width_whatever_the_hand_does(self) -> None:
        for name, trace in zoo().items():
            widths, _ = ink_widths([settle(trace, BALLPOINT)])
            np.testing.assert_allclose(widths, 0.6, rtol=1e-9, err_msg=name)

    def test_more_force_is_never_thinner_and_more_speed_never_thicker(self) -> None:
        for seed in range(6):
            rng = np.random.default_rng(seed)
            x = np.sort(rng.uniform(0.05, 0.95, 3))
            y = np.sort(rng.uniform(0, 1, 3))
            if np.diff(x).min() < 0.01:
                continue
            recipe = read_recipe({"press": {"points": [[0, 0], *np.column_stack((x, y)).tolist(), [1, 1]], "range": 5}})
            plan = compile_plan(recipe, "#ffffff")
            self.assertTrue(np.all(np.diff(plan.press) >= -1e-9))
        slow, fast = (
            settle(
                make_trace(np.linspace(0, s, 200), np.linspace(10, 60, 200), np.full(200, 20.0), np.full(200, 0.5)),
                read_recipe({"pace": {"exponent": 0.3}}),
            )
            for s in (4, 0.4)
        )
        self.assertGreater(np.median(slow.long_mm), 1.5 * np.median(fast.long_mm))

    def test_tapers_reach_their_tips_and_a_short_stroke_keeps_the_smaller_one(self) -> None:
        ends = {"ends": {"start_mm": 5, "start_tip": 0.4, "end_mm": 8, "end_tip": 0.2}}
        ink = settle(zoo()["straight"], read_recipe({"body": {"width_mm": 1}, **ends}))
        np.testing.assert_allclose([ink.long_mm[0], ink.long_mm[-1], np.median(ink.long_mm)], [0.4, 0.2, 1], rtol=1e-6)
        short = settle(zoo()["shorter than its tapers"], read_recipe({"body": {"width_mm": 1}, **ends}))
        self.assertGreaterEqual(short.long_mm.min(), 0.2 - 1e-9)

    def test_dashes_are_as_long_as_they_say(self) -> None:
        trace = make_trace(np.linspace(0, 4, 900), np.linspace(10, 90, 900), np.full(900, 20.0), np.full(900, 0.5))
        ink = settle(trace, read_recipe({"body": {"width_mm": 0.8, "line": {"pattern": "dash"}}}))
        self.assertGreater(len(ink.pieces), 10)
        runs = [
            (ink.x_mm[lo] - 0.4, ink.x_mm[hi - 1] + 0.4)
            for lo, hi in zip(ink.pieces[1:-1], ink.pieces[2:-1], strict=False)
        ]
        np.testing.assert_allclose([b - a for a, b in runs], 4.0, rtol=0.01)
        np.testing.assert_allclose([b[0] - a[1] for a, b in itertools.pairwise(runs)], 2.4, rtol=0.01)


class Zoo(unittest.TestCase):
    def test_every_pen_inks_every_awkward_trace(self) -> None:
        paper = paper_from_spec("blank A6")
        for pen_name, recipe in SHIPPED_PENS.items():
            for name, trace in zoo().items():
                with self.subTest(pen=pen_name, trace=name):
                    ink = settle(trace, recipe)
                    self.assertTrue(np.isfinite(ink.long_mm).all() and (ink.short_mm > 0).all())
                    readings = read_ink([trace], recipe, [ink])
                    self.assertTrue(all(np.isfinite(v) for v in dataclasses.asdict(readings).values() if v is not None))
                    find_anchors([trace], [ink])
                    self.assertGreater(ink_pixels([ink], box_view((0, 0, 105, 148), 4))[..., 3].max(), 20)
                    if len(ink.x_mm) < 500:
                        self.assertGreater(len(outline(ink)), 0)
        self.assertEqual(page_pixels([], paper, page_view(paper, 50)).shape, (291, 207, 3))

    def test_strokes_settled_together_are_as_each_alone(self) -> None:
        paper = paper_from_spec("wide A5")
        pens = [*SHIPPED_PENS.values(), read_recipe({"wash": {"straighten": 0.5, "straight_to": "the ruling"}})]
        pairs = [(trace, recipe) for trace in zoo().values() for recipe in pens]
        for (trace, recipe), ink in zip(pairs, settle_each(pairs, paper), strict=True):
            alone = settle(trace, recipe, paper)
            for field in ("x_mm", "y_mm", "long_mm", "short_mm", "angle", "opacity", "at", "t_s", "pieces"):
                np.testing.assert_allclose(getattr(ink, field), getattr(alone, field), atol=1e-9, err_msg=recipe.name)


class Coverage(unittest.TestCase):
    def test_coverage_is_the_area_to_within_the_stated_error(self) -> None:
        """Against 16 x 16 samples a pixel of the same hulls: mean error <= 1/32 over edge pixels, worst <= 1/8."""
        rng = np.random.default_rng(3)
        u = np.linspace(0, 1, 40)
        for shape, aspect in (("round", 1.0), ("ellipse", 4.0), ("chisel", 4.0)):
            for thick in (0.8, 1.2, 2.4, 5.0):
                bend = 2 * np.pi * u * rng.uniform(0.5, 0.9) + rng.uniform(0, 6)
                x, y = 32 + rng.uniform(8, 18) * np.cos(bend), 32 + rng.uniform(8, 18) * np.sin(bend)
                short = thick * (1 + 0.3 * np.sin(4 * u))
                angle = np.full(40, 0.6)
                plane = blank_plane(64, 64)
                path = Path(x, y, short * aspect, short, angle, np.ones(40), np.zeros(40))
                cover(plane, SHAPES[shape], path, 0, 40)
                cov, truth = plane.cov, _supersampled(shape, x, y, short * aspect, short, angle)
                edge = (truth > 0) & (truth < 1) | (cov > 0) & (cov < 1)
                error = np.abs(cov - truth)[edge]
                self.assertLessEqual(error.mean(), 1 / 32, (shape, thick))
                # at a nib's corners, and where one thinner than two pixels meets its own earlier edge, the bound is
                # wider
                self.assertLessEqual(
                    error.max(), 1 / 8 if shape == "round" else 1 / 5 if thick > 2 else 1 / 4, (shape, thick)
                )

    def test_a_faint_line_keeps_its_area(self) -> None:
        for width in (0.2, 0.5, 0.9):
            x, y = np.linspace(5, 55, 60), np.linspace(10, 37, 60)
            plane = blank_plane(64, 64)
            ones = np.ones(60)
            cover(plane, SHAPES["round"], Path(x, y, ones * width, ones * width, ones * 0, ones, ones * 0), 0, 60)
            self.assertAlmostEqual(
                float(plane.cov.sum()) / (width * np.hypot(50, 27) + np.pi * width**2 / 4), 1, delta=0.03
            )

    def test_a_stroke_never_darkens_itself_and_opacity_is_applied_once(self) -> None:
        pen = read_recipe({"body": {"width_mm": 3, "opacity": 0.5, "colour": "#000000"}})
        page = page_pixels(
            [settle(zoo()["self-crossing"], pen)], paper_from_spec("blank A6 white"), box_view((20, 20, 60, 60), 10)
        )
        self.assertEqual(sorted(set(page.reshape(-1, 3)[:, 0].tolist()))[0], 128)


def _supersampled(
    shape: str, x: np.ndarray, y: np.ndarray, long: np.ndarray, short: np.ndarray, angle: np.ndarray
) -> np.ndarray:
    """Share of 16 x 16 points in each pixel inside the hulls of consecutive footprints, by shapely."""
    u = np.linspace(0, 2 * np.pi, 128, endpoint=False)
    prints = []
    for k in range(len(x)):
        a, b = long[k] / 2, short[k] / 2
        px, py = (
            (a * np.cos(u), b * np.sin(u))
            if shape != "chisel"
            else (np.array([a, -a, -a, a]), np.array([b, b, -b, -b]))
        )
        c, s = np.cos(angle[k]), np.sin(angle[k])
        prints.append(np.column_stack((x[k] + px * c - py * s, y[k] + px * s + py * c)))
    area = shapely.union_all([shapely.MultiPoint(np.vstack(pair)).convex_hull for pair in itertools.pairwise(prints)])
    grid = (np.arange(64 * 16) + 0.5) / 16
    gx, gy = np.meshgrid(grid, grid)
    shapely.prepare(area)
    return shapely.contains_xy(area, gx, gy).reshape(64, 16, 64, 16).mean(axis=(1, 3))


@numba.njit(cache=True)
def cover_each(plane, path):  # type: ignore[no-untyped-def]
    """Every point of a path of discs, none passed over."""
    last = len(path.x) - 1
    for m in range(last):
        cover_piece(plane, 0, path, m, m + 1, min(m + 2, last), m == 0)


class Raster(unittest.TestCase):
    def test_points_that_are_passed_over_could_not_be_seen(self) -> None:
        """Zigzags of cusps closer than two pixels, and gentle bows: drawn with and without the points between."""
        rng = np.random.default_rng(2)
        for case in range(20):
            s = np.linspace(0, 40, 1200)
            tooth = rng.uniform(0.3, 2.0)
            y = 20 + tooth * np.abs((s / rng.uniform(1.5, 6)) % 2 - 1) if case % 2 else 20 + 6 * np.sin(s / 6)
            x, width = 10 + s, np.full(1200, rng.uniform(0.8, 2.5))
            ones = np.ones(1200)
            path = Path(x, y, width, width, 0 * ones, ones, ones)
            every, fewer = blank_plane(48, 64), blank_plane(48, 64)
            cover_each(every, path)
            self.assertLess(len(seen_points(path, 0, 1200)), 1100 if case % 2 else 60)
            cover(fewer, 0, path, 0, 1200)
            planes = every.cov, fewer.cov
            self.assertLess(np.abs(planes[0] - planes[1]).max(), 0.12, case)
            self.assertLess(abs(float(planes[0].sum() / planes[1].sum()) - 1), 0.01, case)

    def test_a_sleeve_holds_all_it_passes_over(self) -> None:
        """Random walks that wander, turn back and rest, of changing width: each point passed over against the piece
        drawn instead, by brute force.
        """
        rng = np.random.default_rng(4)
        off, fuller, longest = 0.06, 0.02, 0
        for case in range(60):
            step = rng.uniform(0, 0.4, 300)
            turn = np.cumsum(rng.normal(0, rng.uniform(0.01, 0.4), 300)) + np.pi * (rng.random(300) < 0.02).cumsum()
            x, y = np.cumsum(step * np.cos(turn)), np.cumsum(step * np.sin(turn))
            width, alpha = 2 + np.cumsum(rng.normal(0, 0.01, 300)), np.clip(np.cumsum(rng.normal(0, 0.004, 300)), 0, 1)
            path = Path(x, y, width, width, np.zeros(300), alpha, np.zeros(300))
            points = straight_points(path, 0, 300, off, 0.0, fuller, 1e9)
            self.assertEqual((points[0], points[-1]), (0, 299))
            longest = max(longest, int(np.diff(points).max()))
            for k, m in itertools.pairwise(points.tolist()):
                piece = shapely.LineString([(x[k], y[k]), (x[m], y[m])])
                for i in range(k + 1, m):
                    share = piece.project(shapely.Point(x[i], y[i])) / max(piece.length, 1e-9)
                    self.assertLess(piece.distance(shapely.Point(x[i], y[i])), 2 * off, case)
                    if piece.length > 2 * off:
                        self.assertLess(abs(width[i] - width[k] - share * (width[m] - width[k])), 4 * off, case)
                        self.assertLess(abs(alpha[i] - alpha[k] - share * (alpha[m] - alpha[k])), 2 * fuller, case)
        self.assertGreater(longest, 8)

    def test_a_chisel_of_any_two_footprints_is_their_hull(self) -> None:
        """Area in every pixel against shapely's: growing, shrinking, one inside the other, thin ones."""
        rng = np.random.default_rng(1)
        for case in range(25):
            x, y = rng.uniform(8, 16, 2), rng.uniform(8, 16, 2)
            long, short, angle = rng.uniform(0.2, 10, 2), rng.uniform(0.05, 3, 2), rng.uniform(-4, 4)
            if case % 5 == 0:
                x[1], y[1] = x[0], y[0]
            corners = []
            for k in (0, 1):
                for u, v in ((1, 1), (-1, 1), (-1, -1), (1, -1)):
                    a, b = u * long[k] / 2, v * short[k] / 2
                    c, s = np.cos(angle), np.sin(angle)
                    corners.append((x[k] + a * c - b * s, y[k] + a * s + b * c))
            hull = shapely.MultiPoint(corners).convex_hull
            plane = blank_plane(24, 24)
            cover(plane, SHAPES["chisel"], Path(x, y, long, short, np.full(2, angle), np.ones(2), np.zeros(2)), 0, 2)
            squares = shapely.box(*np.meshgrid(np.arange(24), np.arange(24)), *np.meshgrid(range(1, 25), range(1, 25)))
            np.testing.assert_allclose(plane.cov, shapely.area(shapely.intersection(squares, hull)), atol=1e-5)


class Outlines(unittest.TestCase):
    def test_the_fast_walk_fills_what_the_exact_union_fills(self) -> None:
        for name in ("dot", "straight", "wedge", "cusp", "self-crossing", "jittering clock", "shorter than its tapers"):
            for pen in ("reed-ballpoint", "fen-fountain", "heron-brush", "stitch-reed"):
                ink = settle(zoo()[name], SHIPPED_PENS[pen])
                exact = ink_area(ink).area
                self.assertAlmostEqual(nonzero_area(outline(ink)) / exact, 1, delta=0.006, msg=f"{name} {pen}")
                self.assertAlmostEqual(nonzero_area(exact_outline(ink)) / exact, 1, delta=1e-6, msg=f"{name} {pen}")

    def test_reversals_of_written_strokes_lose_no_tip(self) -> None:
        """Every stroke of "minimum 9" by every hand in the pens whose width plays most."""
        for hand in SHIPPED_HANDS.values():
            traces = write_text("minimum 9", hand, SHIPPED_DEVICES["tablet-11"], 5)
            for pen in ("fen-fountain", "heron-brush", "survey-marker", "clover-marker", "lamp-white"):
                for k, trace in enumerate(traces):
                    ink = settle(trace, SHIPPED_PENS[pen])
                    share = nonzero_area(outline(ink)) / ink_area(ink).area
                    self.assertAlmostEqual(share, 1, delta=0.005, msg=f"{hand.name} {pen} stroke {k}")

    def test_any_walk_of_discs_fills_the_union_of_their_hulls(self) -> None:
        """Sharp turns, discs inside each other, equal ones, growing and shrinking, without any order."""
        rng = np.random.default_rng(3)
        for case in range(60):
            n = int(rng.integers(2, 9))
            steps = rng.uniform(0.05, 3, n)
            turns = np.cumsum(rng.choice([0.1, 2.0, np.pi - 0.1, np.pi], n) * rng.choice([-1, 1], n))
            x, y = np.cumsum(steps * np.cos(turns)), np.cumsum(steps * np.sin(turns))
            r = rng.choice([0.2, 0.5, 1.4], n) * rng.uniform(0.9, 1.1, n)
            if case % 4 == 0:
                x[1:], y[1:], r[1:] = np.where(rng.random(n - 1) < 0.4, (x[:-1], y[:-1], r[:-1]), (x[1:], y[1:], r[1:]))
            ink = Ink(BALLPOINT, x, y, 2 * r, 2 * r, 0 * r, 0 * r + 1, 0 * r, 0 * r, np.array([0, n]))
            self.assertAlmostEqual(nonzero_area(outline(ink)) / ink_area(ink).area, 1, delta=0.004, msg=str(case))

    def test_a_ballpoint_outline_is_a_buffer(self) -> None:
        trace = wave()
        ink = settle(trace, BALLPOINT)
        truth = shapely.LineString(np.column_stack((ink.x_mm, ink.y_mm))).buffer(0.3, quad_segs=64)
        self.assertAlmostEqual(nonzero_area(outline(ink)) / truth.area, 1, delta=0.005)
        widths, weights = ink_widths([ink])
        np.testing.assert_allclose(widths, 0.6, rtol=0.01)
        self.assertAlmostEqual(weights.sum(), truth.length / 2, delta=1.5)

    def test_raster_area_is_the_outline_area(self) -> None:
        for pen in ("fen-fountain", "heron-brush", "sedge-nib", "moth-pencil-2b", "hollow-reed", "dusk-wash"):
            plain = write_recipe(SHIPPED_PENS[pen])
            plain["body"] |= {"opacity": 1, "hollow": {"on": False}}
            plain["press"]["opacity_range"] = 1
            plain["tooth"] = {"grain": "none"}
            ink = settle(zoo()["leaning"], read_recipe(plain))
            left, top, right, bottom = ink.box_mm
            plane = opacity_plane(
                [ink], View(left - 1, top - 1, 12, int((right - left + 2) * 12), int((bottom - top + 2) * 12))
            )
            self.assertAlmostEqual(plane.sum() / 255 / 144 / ink_area(ink).area, 1, delta=0.02, msg=pen)


class PlainInk(unittest.TestCase):
    def test_a_pen_in_plain_ink_keeps_its_widths_and_lays_all_or_nothing(self) -> None:
        for name, recipe in SHIPPED_PENS.items():
            for paper, ink in (("#ffffff", "#000000"), ("#15171a", "#ffffff")):
                usual, plain = (compile_plan(recipe, paper, None, p) for p in (False, True))
                if recipe.is_wash or recipe.wash.tip.shape == "spray":
                    self.assertEqual(plain, usual, f"{name} would hide what lies below")
                    continue
                self.assertEqual((plain.colour, plain.opacity, plain.hard_edges), (ink, 1.0, True), name)
                self.assertEqual((plain.grain, plain.wet, plain.hollow, plain.pool), (None,) * 4, name)
                same = ("ln_width", "press", "pace", "start", "aspect", "pattern_mm", "steady", "straight")
                kept = [[getattr(p, k) for k in same] for p in (usual, plain)]
                self.assertEqual(kept[0], kept[1], name)
