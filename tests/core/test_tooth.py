"""Tooth: tone follows force and grade, stays the same at any density, and grain has no seam."""

import dataclasses
import itertools
import unittest

import numpy as np
from scipy.ndimage import label

from gray_quill.core.ink.grain import CRISP, SIDE, SOFT, THIN, WAVELENGTH, deposit, surface
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.tooth import GRADES, SURFACES
from gray_quill.core.quantities import changed
from gray_quill.core.readings.tone import evenness, mean_tone
from gray_quill.core.trace import make_trace
from gray_quill.core.units import px_per_mm

PATCH = (22, 22, 58, 38)


def pencil(**tooth: object):  # type: ignore[no-untyped-def]
    return read_recipe(
        {
            "body": {"width_mm": 2.5},
            "press": {"floor": 0, "ceiling": 1, "opacity_range": 6},
            "tooth": {"grain": "cold-pressed", "scale_mm": 0.35, "grade": "2B", **tooth},
        }
    )


def patch(recipe, force: float, dpi: float = 200, seed: int = 0) -> np.ndarray:  # type: ignore[no-untyped-def]
    """Opacity of an even patch: one zigzag of rows closer than the pen is wide."""
    rows = np.arange(20, 40, 1.2)
    ends = np.array([[(18.0, 62.0)[i % 2], y] for i, y in enumerate(rows)])
    t = np.arange(0, len(rows) - 1, 0.02)
    x, y = np.interp(t, np.arange(len(rows)), ends[:, 0]), np.interp(t, np.arange(len(rows)), ends[:, 1])
    jitter = np.random.default_rng(seed).normal(0, 0.02, (2, len(t)))
    ink = settle(make_trace(t, x + jitter[0], y + jitter[1], np.full(len(t), force)), recipe)
    return ink_pixels([ink], box_view(PATCH, px_per_mm(dpi)))[..., 3] / 255


class Tone(unittest.TestCase):
    def test_it_rises_with_force_on_every_surface(self) -> None:
        for grain in SURFACES:
            for seed in range(2):
                for crisp in (True, False):
                    tones = [
                        mean_tone(patch(pencil(grain=grain, crisp=crisp), f, 120, seed)) for f in (0.05, 0.3, 0.6, 1.0)
                    ]
                    self.assertTrue(all(b > a + 0.01 for a, b in itertools.pairwise(tones)), (grain, tones))

    def test_it_rises_from_4h_to_8b(self) -> None:
        for force in (0.3, 0.9):
            tones = [mean_tone(patch(pencil(grade=g), force, 120)) for g in GRADES]
            self.assertTrue(all(b > a for a, b in itertools.pairwise(tones)), tones)
            self.assertGreater(tones[-1], 2 * tones[0])

    def test_density_does_not_change_it(self) -> None:
        for grain in ("smooth", "cold-pressed", "rough"):
            for crisp in (True, False):
                tones = [mean_tone(patch(pencil(grain=grain, crisp=crisp), 0.5, dpi)) for dpi in (100, 200, 1200)]
                self.assertLess((max(tones) - min(tones)) / tones[0], 0.02, (grain, crisp, tones))

    def test_a_marker_lies_flat_and_a_rough_pencil_does_not(self) -> None:
        flat = read_recipe({"kind": "marker", "body": {"width_mm": 2.5, "opacity": 0.9}})
        self.assertLessEqual(evenness(patch(flat, 0.5), px_per_mm(200)), 0.03)
        rough = evenness(patch(pencil(grain="rough", scale_mm=0.8), 0.4), px_per_mm(200))
        self.assertGreater(rough, 0.08)

    def test_crisp_grit_survives_the_export_and_soft_grain_has_its_tone(self) -> None:
        for depth in (0.5, 1.0):
            crisp, soft = (patch(pencil(crisp=c, depth=depth), 0.5, 600) for c in (True, False))
            self.assertGreater(float(crisp.std()), 1.15 * float(soft.std()), depth)
            self.assertAlmostEqual(mean_tone(soft) / mean_tone(crisp), 1, delta=0.02, msg=str(depth))

    def test_a_surface_is_marked_as_far_as_the_load_reaches(self) -> None:
        """Whatever depth and softness; peaks first, valleys last, and more with more load at every height."""
        heights = (np.arange(2000) + 0.5) / 2000
        for depth in (0.0, 0.4, 0.85, 1.0):
            for soft in (CRISP, SOFT):
                before = np.zeros(2000)
                for load in (0.02, 0.1, 0.3, 0.5, 0.8, 0.97, 1.0):
                    marks = np.array([deposit(h, load, depth, soft) for h in heights])
                    tone = THIN + (1 - THIN) * load
                    self.assertAlmostEqual(float(marks.mean()) / (load * tone), 1, delta=0.004, msg=f"{depth} {load}")
                    self.assertTrue((np.diff(marks) >= -1e-9).all() and (marks >= before - 0.02).all())
                    if depth and load < 0.5:
                        self.assertLess(marks[:20].max(), 0.01, "valleys stay bare")
                    before = marks

    def test_a_lead_presses_most_in_its_middle(self) -> None:
        """Across one straight stroke the tone falls to the rim; rows laid apart leave lighter ground between them."""
        t = np.arange(300) / 240
        recipe = read_recipe({"body": {"width_mm": 4}, "tooth": {"grain": "smooth", "scale_mm": 0.2, "grade": "B"}})
        ink = settle(make_trace(t, 10 + 60 * t, 0 * t + 30, 0 * t + 0.6), recipe)
        across = (ink_pixels([ink], View(20, 28, 20, 800, 80))[..., 3] / 255).mean(axis=1)
        middle, between, rim = (float(across[rows].mean()) for rows in (slice(36, 44), slice(60, 66), slice(76, 80)))
        self.assertTrue(middle > 1.1 * between > 1.5 * rim > 0, (middle, between, rim))

        def rows(apart: float) -> float:
            n = 12
            x = np.tile([10.0, 60, 60, 10], n)[: 2 * n]
            y = 20 + apart * np.repeat(np.arange(n), 2)
            at = np.linspace(0, 2 * n - 1, 4000)
            x, y = np.interp(at, np.arange(2 * n), x), np.interp(at, np.arange(2 * n), y)
            hatch = settle(make_trace(np.arange(4000) / 240, x, y, np.full(4000, 0.6)), recipe)
            return mean_tone(ink_pixels([hatch], View(20, 22, 10, 200, 100))[..., 3] / 255)

        tones = [rows(apart) for apart in (1.0, 2.0, 3.0)]
        self.assertTrue(tones[0] > tones[1] + 0.02 > tones[2] + 0.04, tones)


class Passes(unittest.TestCase):
    def passes(self, count: int) -> list[Ink]:
        """Light shading of one place, each pass a stroke of its own, turned a little."""
        rows = np.arange(-8, 8, 0.9)
        at = np.linspace(0, len(rows) - 1, 900)
        x = np.interp(at, np.arange(len(rows)), np.where(np.arange(len(rows)) % 2, 8, -8))
        y = np.interp(at, np.arange(len(rows)), rows)
        force, lean = np.full(900, 0.3), np.full(900, 0.6)
        turns = [(np.cos(0.5 * k), np.sin(0.5 * k)) for k in range(count)]
        strokes = [
            make_trace(np.arange(900) / 240, 30 + c * x - s * y, 30 + s * x + c * y, force, lean) for c, s in turns
        ]
        return [settle(t, SHIPPED_PENS["moth-pencil-2b"]) for t in strokes]

    def test_passes_over_each_other_fill_the_tooth(self) -> None:
        pages = [ink_pixels(self.passes(n), View(26, 26, 12, 96, 96))[..., 3] / 255 for n in (1, 2, 4, 7)]
        bare = [float((page < 0.05).mean()) for page in pages]
        self.assertTrue(bare[0] > 0.5 and bare[0] > bare[1] > bare[2] and bare[3] < 0.01, bare)
        tones = [mean_tone(page) for page in pages]
        self.assertTrue(all(b > a + 0.05 for a, b in itertools.pairwise(tones)), tones)
        alone = [ink_pixels([ink], View(26, 26, 12, 96, 96))[..., 3] / 255 for ink in self.passes(7)]
        apart = 1 - np.prod([1 - page for page in alone], axis=0)  # each on fresh paper, laid over each other
        self.assertGreater(tones[3], mean_tone(apart) + 0.02)

    def test_a_part_of_a_page_and_the_page_without_its_last_stroke_are_what_they_were(self) -> None:
        inks = self.passes(4)
        whole = ink_pixels(inks, View(20, 20, 10, 200, 200))
        part = ink_pixels(inks, View(26, 25, 10, 70, 80))
        np.testing.assert_array_equal(part, whole[50:130, 60:130])
        np.testing.assert_array_equal(
            ink_pixels(inks[:3], View(20, 20, 10, 200, 200)), ink_pixels(self.passes(3), View(20, 20, 10, 200, 200))
        )


class Brush(unittest.TestCase):
    def stroke(self, bristles: float) -> np.ndarray:
        """Opacity of a straight brush stroke of 90 mm, rows across it, columns along it."""
        t = np.arange(540) / 240
        tooth = {"grain": "smooth", "depth": 0.3, "scale_mm": 0.2, "grade": "8B", "bristles": bristles}
        recipe = read_recipe({"kind": "brush", "body": {"width_mm": 4}, "tooth": tooth})
        ink = settle(make_trace(t, 10 + 40 * t, 0 * t + 30, 0 * t + 0.9), recipe)
        return ink_pixels([ink], View(10, 28.4, 20, 1800, 64))[..., 3] / 255

    def test_it_splits_into_bristles_that_run_along_the_stroke_and_run_dry(self) -> None:
        whole, split = self.stroke(0), self.stroke(0.9)

        def runs(dark: np.ndarray) -> float:
            """Mean length of dark runs along the last axis, px."""
            edges = np.diff(np.pad(dark.astype(int), ((0, 0), (1, 1))), axis=1)
            return float(dark.sum() / max(1, (edges == 1).sum()))

        late = split[:, 1100:1700] > 0.4
        self.assertGreater(runs(late), 4 * runs(late.T), "far longer along than across")
        thirds = [float(split[:, k : k + 300].mean()) for k in (100, 700, 1300)]
        self.assertTrue(thirds[0] > thirds[1] + 0.03 > thirds[2] + 0.06, thirds)
        even = [float(whole[:, k : k + 300].mean()) for k in (100, 700, 1300)]
        self.assertLess(max(even) - min(even), 0.03, "without bristles it lays one tone")


class Lead(unittest.TestCase):
    def line(self, dpi: float = 254, force: float = 0.5, **tooth: object) -> np.ndarray:
        """Opacity of a straight line of 60 mm, rows across it."""
        t = np.arange(360) / 240
        ink = settle(make_trace(t, 10 + 40 * t, 0 * t + 30, 0 * t + force), pencil(**tooth))
        scale = px_per_mm(dpi)
        return ink_pixels([ink], View(10, 27.5, scale, int(60 * scale), int(5 * scale)))[..., 3] / 255

    def test_smear_drags_the_mark_along_the_motion_and_keeps_its_tone(self) -> None:
        def alike(page: np.ndarray, px: int, axis: int) -> float:
            """Correlation of the mark with itself so many px further."""
            middle = page[20:30]
            a, b = (middle[:, :-px], middle[:, px:]) if axis else (middle[:-px], middle[px:])
            return float(np.corrcoef(a.ravel(), b.ravel())[0, 1])

        tones = []
        for smear in (0, 0.5, 1):
            page = self.line(smear=smear, crisp=True)
            tones.append(mean_tone(page))
            ratio = alike(page, 3, 1) - alike(page, 3, 0)
            self.assertTrue(abs(ratio) < 0.1 if smear == 0 else ratio > 0.2 * smear, (smear, ratio))
        self.assertLess(max(tones) / min(tones) - 1, 0.03, tones)

    def test_a_crumbling_lead_leaves_bits_in_the_mark_and_beside_it(self) -> None:
        before = (0.0, 0.0)
        for crumbs in (0.0, 0.3, 0.6, 1.0):
            page = self.line(crumbs=crumbs, grade="8B")
            beside = np.concatenate((page[8:11], page[-11:-8]))  # 1.3 to 1.7 mm from the middle of a line 2.5 mm broad
            now = (float(beside.mean()), mean_tone(page))
            self.assertTrue(now[0] == 0 if crumbs == 0 else now[0] > before[0] and now[1] > before[1], (crumbs, now))
            self.assertEqual(float(page[:6].max()), 0, "they do not fall farther than said")
            self.assertLess(float((beside > 0.02).mean()), 0.5, "single bits, no halo")
            before = now
        tones = [mean_tone(self.line(dpi, crumbs=0.6, smear=0.3)) for dpi in (127, 254, 1016)]
        self.assertLess(max(tones) / min(tones) - 1, 0.02, tones)


class Marker(unittest.TestCase):
    VIEW = View(20, 20, 10, 300, 160)

    def rows(self, apart_mm: float = 2.0, **wash: object) -> list[Ink]:
        """An area filled by strokes of their own, there and back."""
        recipe = read_recipe(
            {
                "kind": "marker",
                "body": {"width_mm": 3, "opacity": 0.6, "colour": "#5d7d9a"},
                "wash": {"blend": "normal", **wash},
            }
        )
        t = np.arange(200) / 200
        return [
            settle(make_trace(t, (10 + 50 * t)[:: 1 if k % 2 else -1], 0 * t + 15 + apart_mm * k, 0 * t + 0.5), recipe)
            for k in range(14)
        ]

    def test_without_streaks_an_area_of_many_strokes_is_flat_in_every_blend(self) -> None:
        for blend in ("normal", "multiply", "screen"):
            paper = dataclasses.replace(Paper(), colour="#b5a58d", ruling="blank")
            spread = {}
            for streaks in (0.0, 0.5, 1.0):
                page = page_pixels(self.rows(streaks=streaks, blend=blend), paper, self.VIEW).astype(float)
                spread[streaks] = float(np.ptp(page, axis=(0, 1)).max()) / 255
            self.assertLess(spread[0.0], 0.01, blend)
            self.assertTrue(0.02 < spread[0.5] < 0.9 * spread[1.0], (blend, spread))
            once = page_pixels(self.rows(apart_mm=40, streaks=0, blend=blend)[:1], paper, View(20, 14, 10, 90, 20))
            filled = page_pixels(self.rows(streaks=0, blend=blend), paper, self.VIEW)
            self.assertLessEqual(np.abs(once[10, 40].astype(int) - filled[80, 40]).max(), 1, "as if gone over once")

    def test_two_washes_that_cross_by_turns_lie_as_one_layer_each(self) -> None:
        """A over B over A at one place is A and B once, whichever blend; a third in turn is too many to remember."""
        for blend in ("normal", "multiply", "screen"):
            one = self.rows(apart_mm=0, streaks=0, blend=blend)[0]
            other = settle(
                make_trace(np.arange(200) / 200, 10 + 50 * np.arange(200) / 200, np.full(200, 15.0), np.full(200, 0.5)),
                changed(one.recipe, "body.colour", "#c86a3a"),
            )
            view, paper = View(20, 14, 10, 90, 20), dataclasses.replace(Paper(), colour="#b5a58d", ruling="blank")
            once, turns = (page_pixels(inks, paper, view) for inks in ([one, other], [one, other] * 3))
            middle = np.abs(once[8:12].astype(int) - turns[8:12])
            self.assertLessEqual(middle.max(), 2, blend)

    def test_a_shipped_marker_fills_evenly(self) -> None:
        recipe = SHIPPED_PENS["survey-marker"]
        t = np.arange(200) / 200
        rows = [settle(make_trace(t, 10 + 50 * t, 0 * t + 15 + 0.5 * k, 0 * t + 0.5), recipe) for k in range(40)]
        alpha = ink_pixels(rows, View(20, 20, 10, 300, 100))[..., 3] / 255
        self.assertLess(float(np.ptp(alpha)), 0.02)

    def test_it_pools_where_it_lands_and_lifts(self) -> None:
        def along(pool: float) -> np.ndarray:
            ink = self.rows(pool=pool)[0]
            return ink_pixels([ink], View(8, 14.5, 10, 540, 10))[..., 3].mean(axis=0) / 255

        self.assertLess(float(np.ptp(along(0)[30:-30])), 0.01)
        before = 0.6
        for pool in (0.3, 0.6, 1.0):
            tone = along(pool)
            landed, middle, lifted = tone[20:24].mean(), tone[270], tone[-24:-20].mean()
            self.assertAlmostEqual(landed / lifted, 1, delta=0.02)
            self.assertTrue(abs(landed - 0.6) < 0.03 and middle < before - 0.05, (pool, landed, middle))
            before = middle

    def test_what_is_even_is_a_matter_of_the_strokes_below(self) -> None:
        inks = self.rows(streaks=0.4)
        whole = ink_pixels(inks, View(0, 0, 10, 700, 500))
        np.testing.assert_array_equal(ink_pixels(inks, View(20, 20, 10, 90, 80)), whole[200:280, 200:290])
        last = ink_pixels(inks[-1:], View(0, 0, 10, 700, 500), below=inks[:-1])[..., 3] / 255.0
        before = ink_pixels(inks[:-1], View(0, 0, 10, 700, 500))[..., 3] / 255.0
        self.assertLess(np.abs(1 - (1 - before) * (1 - last) - whole[..., 3] / 255.0).max(), 0.01)


class Spray(unittest.TestCase):
    def test_it_is_drops_of_many_sizes_and_more_of_them_the_longer_it_rests(self) -> None:
        recipe = SHIPPED_PENS["mist-spray"]
        counts: list[float] = []
        sizes = np.zeros(0, np.int64)
        for rest_s in (0.02, 0.1, 0.4):
            t = np.linspace(0, rest_s, 12)
            ink = settle(make_trace(t, 0 * t + 30, 0 * t + 30, 0 * t + 0.6), recipe)
            drops, _ = label(ink_pixels([ink], View(24, 24, 20, 240, 240))[..., 3] > 60)
            counts.append(float((drops > 0).sum()))
            sizes = np.bincount(drops.ravel())[1:] if rest_s == 0.02 else sizes
        self.assertTrue(counts[0] < 0.8 * counts[1] < 0.64 * counts[2], counts)
        self.assertGreater(len(sizes), 20)
        self.assertGreater(np.percentile(sizes, 95), 6 * np.percentile(sizes, 40))


class Grain(unittest.TestCase):
    def test_surfaces_have_grain_a_finer_roughness_and_clumps_and_do_not_repeat_in_sight(self) -> None:
        """Power by wavelength: natural surfaces have it at several scales, white noise evenly to the finest. Within
        half a tile, some twenty millimetres, no place is like another.
        """
        for grain in SURFACES:
            tile = surface(grain).astype(float) - 0.5
            power = np.abs(np.fft.fft2(tile)) ** 2
            frequency = np.hypot(np.fft.fftfreq(SIDE)[:, None], np.fft.fftfreq(SIDE)[None])
            share = {
                name: float(power[(frequency > low) & (frequency <= high)].sum() / power.sum())
                for name, low, high in (
                    ("clumps", 1 / 64, 1 / 18),
                    ("grain", 1 / 18, 1 / 4.5),
                    ("fine", 1 / 4.5, 1 / 2),
                )
            }
            self.assertTrue(share["grain"] > share["fine"] > 0.04 and share["clumps"] > 0.03, (grain, share))
            alike = np.fft.ifft2(power).real / power.sum() * SIDE * SIDE
            far = np.hypot(*np.meshgrid(*[np.minimum(np.arange(SIDE), SIDE - np.arange(SIDE))] * 2)) > 5 * WAVELENGTH
            if grain not in ("laid", "board"):  # whose lines are regular
                self.assertLess(alike[far].max() / alike[0, 0], 0.1, grain)

    def test_tiles_repeat_without_a_seam_and_are_even(self) -> None:
        for grain in SURFACES:
            tile = surface(grain).astype(float)
            np.testing.assert_allclose(np.sort(tile.ravel()), (np.arange(SIDE * SIDE) + 0.5) / SIDE**2, atol=1e-6)
            for axis in (0, 1):
                inside = np.abs(np.diff(tile, axis=axis)).mean(axis=1 - axis)
                seam = np.abs(np.take(tile, 0, axis) - np.take(tile, -1, axis)).mean()
                self.assertTrue(inside.min() <= seam <= inside.max(), grain)
            np.testing.assert_array_equal(surface(grain), tile.astype(np.float32))
