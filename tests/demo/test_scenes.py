"""The demo sheets: inside their paper, repeatable, written with shipped pens by both hands."""

import unittest

import numpy as np

from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import bounds_mm
from gray_quill.demo.build import ROLL
from gray_quill.demo.drawing import circle, moth, shade
from gray_quill.demo.scenes import scenes, timeline


class Scenes(unittest.TestCase):
    def test_every_stroke_lies_on_its_sheet_in_a_shipped_pen(self) -> None:
        made = scenes()
        self.assertEqual({s.hand_id for s in made}, set(SHIPPED_HANDS))
        self.assertEqual(len({s.id for s in made}), len(made))
        for scene in made:
            self.assertGreater(len(scene.strokes), 30, scene.id)
            left, top, right, bottom = bounds_mm([trace for _, trace in scene.strokes])
            self.assertTrue(left > 5 and top > 5, scene.id)
            self.assertTrue(right < scene.paper.width_mm - 2 and bottom < scene.paper.height_mm - 2, scene.id)
            self.assertIn(scene.pen_id, SHIPPED_PENS)
            self.assertLessEqual({pen for pen, _ in scene.strokes}, set(SHIPPED_PENS))
        kinds = {SHIPPED_PENS[pen].kind for scene in made for pen, _ in scene.strokes}
        self.assertLessEqual({"ballpoint", "fountain", "brush", "flat nib", "pencil", "marker", "highlighter"}, kinds)

    def test_a_scene_repeats_exactly(self) -> None:
        one, two = timeline(), timeline()
        for (pen, a), (other, b) in zip(one.strokes, two.strokes, strict=True):
            self.assertEqual(pen, other)
            np.testing.assert_array_equal(a.xy_mm, b.xy_mm)

    def test_the_roll_is_full_of_different_shipped_pens(self) -> None:
        self.assertEqual(len(set(ROLL)), 10)
        self.assertLessEqual(set(ROLL), set(SHIPPED_PENS))


class Drawing(unittest.TestCase):
    def test_shading_stays_in_its_area_and_fills_it(self) -> None:
        from shapely import LineString, Point

        area = Point(30, 30).buffer(9)
        strokes = shade(area, 0.8, 35, 0.5)
        filled = area.intersection(LineString(np.vstack([s.path for s in strokes])).buffer(0.45))
        self.assertGreater(filled.area / area.area, 0.9)
        self.assertTrue(all(area.buffer(1.2).contains(LineString(s.path)) for s in strokes))

    def test_a_moth_is_symmetric(self) -> None:
        points = np.vstack([intent.path for intent in moth(50, 40, 20)])
        self.assertAlmostEqual(points[:, 0].max() - 50, 50 - points[:, 0].min(), delta=0.01)
        self.assertAlmostEqual(float(np.hypot(*(circle(0, 0, 3).path.T)).std()), 0, places=9)


class Inks(unittest.TestCase):
    def test_a_washs_own_ink_never_hides_the_words(self) -> None:
        for name in ("dusk-wash", "fern-wash"):
            recipe = SHIPPED_PENS[name]
            self.assertEqual(recipe.wash.place, "under")
            self.assertLess(recipe.body.opacity, 0.75)
        scene = timeline()
        lines = [settle(t, SHIPPED_PENS[p]) for p, t in scene.strokes if p == "needle-liner"]
        self.assertTrue(all(float(np.median(ink.long_mm)) == 0.2 for ink in lines))
