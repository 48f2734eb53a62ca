"""The shading bench: tone by force and grade, small writing, what exports keep, and who is to blame."""

import dataclasses
import itertools
import unittest
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.tone import raggedness_mm
from gray_quill.core.shading.bench import (
    export_crispness,
    grade_ladder,
    grit,
    own_patch,
    shading_patches,
    small_text,
    text_verdict,
)
from gray_quill.core.trace import moved

HAND, DEVICE, PAPER = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], paper_from_spec("dotted A5")
PENCIL = SHIPPED_PENS["moth-pencil-2b"]


def toothed(recipe: Recipe, **tooth: Any) -> Recipe:
    return dataclasses.replace(recipe, tooth=dataclasses.replace(recipe.tooth, **tooth))


class Patches(unittest.TestCase):
    def test_force_darkens_lean_lightens_and_rough_paper_is_less_even(self) -> None:
        tones = {(p.lean, p.force): p for p in shading_patches(PENCIL, HAND, DEVICE, PAPER)}
        for lean in ("upright", "leaned"):
            light, middle, firm = (tones[lean, f].tone for f in ("light", "middle", "firm"))
            self.assertTrue(light < middle - 0.02 < firm - 0.04)
        for force in ("light", "middle", "firm"):
            self.assertLess(tones["leaned", force].tone, tones["upright", force].tone)
        marker = shading_patches(SHIPPED_PENS["survey-marker"], HAND, DEVICE, PAPER)
        self.assertTrue(
            all(p.unevenness <= 0.03 and (p.raggedness_mm or 0) < 0.005 for p in marker), "flat tone, clean edge"
        )
        rough = shading_patches(toothed(PENCIL, grain="rough", scale_mm=0.8), HAND, DEVICE, PAPER)
        for one, other in zip(rough, tones.values(), strict=True):
            self.assertGreater(one.unevenness, 0.03)
            self.assertGreater(one.unevenness, other.unevenness)

    def test_own_shading_is_measured_wherever_it_was_laid(self) -> None:
        from gray_quill.core.shading.bench import hatched

        traces = hatched(PENCIL, HAND, DEVICE, HAND.force, 78)
        here, there = (own_patch([moved(t, dx, 2 * dx) for t in traces], PENCIL, PAPER).tone for dx in (0, 30))
        self.assertAlmostEqual(here, there, delta=0.01)
        upright = next(
            p for p in shading_patches(PENCIL, HAND, DEVICE, PAPER) if (p.lean, p.force) == ("upright", "middle")
        )
        self.assertAlmostEqual(here, upright.tone, delta=0.02)

    def test_grades_climb(self) -> None:
        tones = [tone for _, tone, _ in grade_ladder(PENCIL, HAND, DEVICE, PAPER)]
        self.assertEqual(len(tones), 14)
        self.assertTrue(all(b > a for a, b in itertools.pairwise(tones)))
        self.assertEqual(grade_ladder(SHIPPED_PENS["survey-marker"], HAND, DEVICE, PAPER), [])


class SmallWriting(unittest.TestCase):
    def test_shades_well_writes_badly_is_a_number(self) -> None:
        verdicts = {
            name: [t.verdict for t in small_text(SHIPPED_PENS[name], HAND, DEVICE, PAPER)]
            for name in ("moth-pencil-2b", "alder-charcoal", "lichen-pencil-2h", "fen-fountain")
        }
        self.assertEqual(verdicts["moth-pencil-2b"], ["reads well"] * 3)
        self.assertEqual(verdicts["alder-charcoal"], ["letters fill up"] * 3)
        self.assertEqual(verdicts["lichen-pencil-2h"], ["lines break up"] * 3)
        thick = [t.thickness for t in small_text(SHIPPED_PENS["alder-charcoal"], HAND, DEVICE, PAPER)]
        self.assertTrue(thick[0] > thick[1] > thick[2])
        broken = [small_text(toothed(PENCIL, grade=g), HAND, DEVICE, PAPER)[0].broken for g in ("4H", "HB", "6B")]
        self.assertTrue(broken[0] > broken[1] >= broken[2], broken)
        self.assertEqual(text_verdict(4.0, 0, 0.2), "pale")


class Crispness(unittest.TestCase):
    def test_loss_is_blamed_on_density_or_on_the_pen(self) -> None:
        panel, rows = export_crispness(toothed(PENCIL, scale_mm=0.3), HAND, DEVICE)
        self.assertTrue(rows[0].kept < rows[1].kept and rows[0].kept < 0.9 <= rows[2].kept)
        self.assertRegex(rows[0].cause, "1.8 pixels wide at 150 dpi")
        self.assertEqual(rows[2].cause, "")
        for row in rows:
            self.assertEqual(row.words == "grittier than the panel shows", row.kept > 1.005, row)
        self.assertIn(f"keeps {100 * rows[0].kept:.0f} %", rows[0].words)
        _, soft = export_crispness(toothed(PENCIL, crisp=False, scale_mm=0.8), HAND, DEVICE)
        self.assertTrue(all("Crisp" in r.cause for r in soft), soft)
        self.assertEqual(export_crispness(SHIPPED_PENS["survey-marker"], HAND, DEVICE)[1], [])
        self.assertGreater(panel, 0.1)

    def test_grit_and_raggedness_of_known_pictures(self) -> None:
        checks = np.indices((400, 400)).sum(axis=0) // 40 % 2  # squares of 2 mm at 20 px/mm
        self.assertAlmostEqual(grit(checks.astype(float), 20), 0.5, delta=0.03)
        self.assertAlmostEqual(grit(np.full((200, 200), 0.4), 20), 0)
        x = np.arange(1200)
        for depth_mm in (0.0, 0.1, 0.3):
            edge = 40 + depth_mm * 40 * np.sin(2 * np.pi * x / 120)
            bar = (np.arange(120)[:, None] >= edge) & (np.arange(120)[:, None] < 90)
            self.assertAlmostEqual(
                raggedness_mm(bar.astype(float), 40), depth_mm / 2**0.5, delta=0.02 + 0.05 * depth_mm
            )
