"""The Wash trial: layers, passes, solving, sets, and that what is promised is what is drawn."""

import dataclasses
import itertools
import unittest

import numpy as np
from shapely import Polygon, box
from shapely.ops import unary_union

from gray_quill.core.colour.difference import ciede2000, lab
from gray_quill.core.colour.srgb import READABLE, contrast, relative_luminance, rgb
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.highlighter.grid import Bench, readable_ink, typed_words
from gray_quill.core.highlighter.layers import (
    CLEAR,
    GLARING,
    TYPED,
    Words,
    laid,
    layers,
    passes_until,
    visibility_words,
    wash_layers,
    words_of,
)
from gray_quill.core.highlighter.palette import check_set, propose_set
from gray_quill.core.highlighter.solve import BLENDS, PLACES, STRENGTHS, colours_that_work, solve_wash
from gray_quill.core.ink.areas import area_cover, typed_rings
from gray_quill.core.ink.view import View
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS

HAND, DEVICE = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"]
LINE = write_text("moth at trap nine", HAND, DEVICE, 3)
FEN, DUSK = SHIPPED_PENS["fen-fountain"], SHIPPED_PENS["dusk-wash"]
WASHES = [SHIPPED_PENS[n] for n in ("dusk-wash", "fern-wash", "mallow-wash", "pool-wash")]
PANELS = {d.name: d.panel for d in SHIPPED_DEVICES.values()}


def wash(**fields: object) -> Recipe:
    recipe = write_recipe(DUSK)
    body = {k: recipe["body"][k] if k not in fields else fields.pop(k) for k in ("width_mm", "colour", "opacity")}
    return read_recipe({**recipe, "body": {**recipe["body"], **body}, "wash": {**recipe["wash"], **fields}})


class Layers(unittest.TestCase):
    def test_each_pass_takes_contrast_and_adds_visibility(self) -> None:
        words = words_of(FEN, "#ffffff")
        for one in WASHES:
            found = [wash_layers(words, one, "#fbf6e6", n) for n in range(8)]
            self.assertTrue(all(b.contrast() < a.contrast() for a, b in itertools.pairwise(found)))
            self.assertTrue(all(b.visibility() > a.visibility() for a, b in itertools.pairwise(found)))
            drowned = passes_until(words, one, "#fbf6e6", READABLE)
            assert drowned
            self.assertLess(wash_layers(words, one, "#fbf6e6", drowned).contrast(), READABLE)
            self.assertGreaterEqual(wash_layers(words, one, "#fbf6e6", drowned - 1).contrast(), READABLE)

    def test_strokes_that_lie_as_one_layer_never_take_more_than_one_pass_does(self) -> None:
        words = words_of(FEN, "#ffffff")
        for blend in BLENDS:
            one = wash(place="over", blend=blend, streaks=0, opacity=0.3)
            first, fifth = (wash_layers(words, one, "#fbf6e6", n) for n in (1, 5))
            np.testing.assert_allclose(fifth.ground, first.ground)
            np.testing.assert_allclose(fifth.words, first.words)
            between = [
                wash_layers(words, wash(blend=blend, streaks=s), "#fbf6e6", 3).visibility() for s in (0, 0.5, 0.9)
            ]
            self.assertEqual(between, sorted(between))
        even = wash(place="over", blend="normal", streaks=0, opacity=0.3)
        self.assertTrue(passes_until(words, wash(place="over", blend="normal", opacity=0.3), "#ffffff", READABLE))
        self.assertIsNone(passes_until(words, even, "#ffffff", READABLE))

    def test_place_matters_to_writing_and_not_to_print(self) -> None:
        """Laid plainly over words a wash dims them; under writing it cannot; print lies below everything."""
        written = words_of(FEN, "#ffffff")
        for place in ("over", "under"):
            plain = wash(place=place, blend="normal")
            dimmed = wash_layers(written, plain, "#ffffff", 1).words
            self.assertEqual(bool(np.allclose(dimmed, rgb(FEN.body.colour))), place == "under")
        over, under = (wash_layers(TYPED, wash(place=p, blend="normal"), "#ffffff", 1) for p in PLACES)
        np.testing.assert_allclose(over.words, under.words)
        self.assertGreater(relative_luminance(over.words), 0.1, "print drowns")

    def test_words_for_how_it_is_seen(self) -> None:
        self.assertEqual(
            [visibility_words(v) for v in (0, 3.9, 4, 8, 44.9, 45)],
            ["hardly seen", "hardly seen", "faint", "clear", "clear", "glaring"],
        )


class Grid(unittest.TestCase):
    def test_drawn_words_have_the_contrast_of_the_layers(self) -> None:
        for one in (
            DUSK,
            wash(place="over", blend="normal"),
            wash(place="over", blend="multiply"),
            wash(blend="screen"),
            wash(place="over", blend="multiply", streaks=0),
            wash(blend="normal", streaks=0.4),
        ):
            bench = Bench(one, LINE, "wings folded", HAND, DEVICE, 12)
            for paper in ("#ffffff", "#d9dad7", "#2b3036"):
                ink = readable_ink(FEN, [SHIPPED_PENS["lamp-white"]], paper)
                self.assertEqual(ink is FEN, paper != "#2b3036", "light ink on dark paper")
                for passes in (1, 2, 4):
                    cell = bench.cell(ink, paper, passes)
                    for got, words in ((cell.writing, bench.words_in(ink, paper)), (cell.typed, typed_words(paper))):
                        expected = wash_layers(words, one, paper, passes)
                        self.assertAlmostEqual(got / float(expected.contrast()), 1, delta=0.03)
                    self.assertAlmostEqual(cell.visibility, float(expected.visibility()), delta=0.6)
            self.assertLessEqual(cell.unevenness, 0.03, "a flat wash is flat")

    def test_print_is_filled_exactly(self) -> None:
        """Area of every pixel against shapely's intersection, and what cannot be typed is named."""
        rings = typed_rings("g", 4, 1, 6)
        shape = Polygon()
        for ring in rings:
            shape = shape.symmetric_difference(Polygon(ring).buffer(0))
        cover = area_cover(rings, View(0, 0, 2, 16, 18))
        exact = [
            [unary_union([shape]).intersection(box(i / 2, j / 2, i / 2 + 0.5, j / 2 + 0.5)).area * 4 for i in range(16)]
            for j in range(18)
        ]
        np.testing.assert_allclose(cover, exact, atol=1e-3)
        self.assertAlmostEqual(float(cover.sum()) / 4, shape.area, delta=1e-3)
        with self.assertRaisesRegex(InputError, "leave out 'é'"):
            typed_rings("café", 2, 0, 0)


class Solve(unittest.TestCase):
    def test_solutions_hold_when_they_are_drawn(self) -> None:
        """Five papers: after two passes the drawn words measure 4.5:1 or better, and one pass is clear on the paper."""
        for paper in ("#ffffff", "#fbf6e6", "#d9dad7", "#f3dfe6", "#2b3036"):
            ink = readable_ink(FEN, [SHIPPED_PENS["lamp-white"]], paper)
            answer = solve_wash(DUSK, [words_of(ink, paper), typed_words(paper)], paper)
            assert answer.setting, paper
            s = answer.setting
            bench = Bench(wash(opacity=s.opacity, blend=s.blend, place=s.place), LINE, "wings folded", HAND, DEVICE, 12)
            twice, once = bench.cell(ink, paper, 2), bench.cell(ink, paper, 1)
            self.assertGreaterEqual(min(twice.writing, twice.typed), READABLE, paper)
            self.assertGreaterEqual(once.visibility, CLEAR, paper)
            self.assertAlmostEqual(once.visibility, s.visibility, delta=0.6)
            if paper == "#2b3036":
                lit = laid(rgb(paper), rgb(s.colour), s.opacity, s.blend)
                self.assertGreater(relative_luminance(lit), relative_luminance(rgb(paper)), "dark paper is lightened")
                self.assertAlmostEqual(s.lifts, float(lab(lit)[0] - lab(rgb(paper))[0]), places=6)
                self.assertIn(f"lightens this dark paper by {s.lifts:.1f} L*", answer.trade)
                self.assertIn(f"{answer.bare_contrast:.1f}:1 to {s.contrast:.1f}:1", answer.trade)
            else:
                self.assertEqual(answer.trade, "")

    def test_a_wash_as_one_layer_may_be_stronger_and_what_is_promised_of_it_is_drawn(self) -> None:
        """Laid over words a second time it takes nothing more, so a strength is found that two passes would drown."""
        ink, paper = Words("#41525e"), "#ffffff"
        for blend in ("normal", "multiply"):
            even, twice = (wash(place="over", blend=blend, streaks=s, colour="#d9a441") for s in (0, 1))
            found, drowned = solve_wash(even, [ink], paper), solve_wash(twice, [ink], paper)
            assert found.setting
            self.assertGreaterEqual(found.best_contrast, drowned.best_contrast)
            s = found.setting
            on = wash(opacity=s.opacity, blend=s.blend, place=s.place, colour=s.colour, streaks=0)
            for n in (1, 2, 6):
                self.assertGreaterEqual(float(wash_layers(ink, on, paper, n).contrast()), READABLE)

    def test_dark_paper_is_darkened_only_where_nothing_lightens_and_that_is_said(self) -> None:
        seen = set()
        for paper in ("#2b3036", "#4a4a4a", "#5a5048"):
            for colour in ("#f2c14e", "#b5651d", "#6a4fb0", "#2f7d5b"):
                answer = solve_wash(wash(colour=colour), [typed_words(paper)], paper)
                if answer.setting:
                    darker = answer.setting.lifts < 0
                    self.assertEqual(darker, "darkens this dark paper" in answer.trade, (paper, colour))
                    seen.add(darker)
        self.assertEqual(seen, {True, False})

    def test_a_refusal_is_proved_by_the_sweep(self) -> None:
        """On a middle grey no strength, blend or place does it: checked setting by setting; and it says how near it
        came.
        """
        paper, words = "#8a8d8a", [words_of(FEN, "#8a8d8a"), TYPED]
        answer = solve_wash(DUSK, words, paper)
        self.assertIsNone(answer.setting)
        best = 0.0
        for blend, place in itertools.product(BLENDS, PLACES):
            for strength in STRENGTHS:
                found = [
                    layers(w, rgb(DUSK.body.colour), np.float64(strength), blend, place, paper, 2).contrast()
                    for w in words
                ]
                seen = layers(
                    words[0], rgb(DUSK.body.colour), np.float64(strength), blend, place, paper, 1
                ).visibility()
                if CLEAR <= seen < 45:
                    self.assertLess(min(found), READABLE * 1.01)
                    best = max(best, float(min(found)))
        self.assertAlmostEqual(answer.best_contrast, best, delta=0.05)
        dark = solve_wash(DUSK, [words_of(FEN, "#2b3036")], "#2b3036")
        self.assertAlmostEqual(
            dark.bare_contrast, float(contrast(*relative_luminance([rgb(FEN.body.colour), rgb("#2b3036")]))), places=6
        )

    def test_another_lightness_is_offered_where_the_colour_cannot_do(self) -> None:
        murky = wash(colour="#3a3520")
        words = [Words("#20242b")]
        answer = solve_wash(murky, [*words, TYPED], "#ffffff")
        if answer.setting is None:
            assert answer.other
            self.assertGreater(relative_luminance(rgb(answer.other.colour)), relative_luminance(rgb("#3a3520")))

    def test_other_colours_work_and_are_told_apart(self) -> None:
        """On white and on dusk: laid anew, every colour proposed keeps words readable, and no two look alike."""
        for paper in ("#ffffff", "#2b3036"):
            words = [words_of(readable_ink(FEN, [SHIPPED_PENS["lamp-white"]], paper), paper)]
            own = solve_wash(DUSK, words, paper).setting
            proposed = colours_that_work(DUSK, words, paper, own)
            self.assertGreaterEqual(len(proposed), 2, paper)
            grounds = []
            for s in [*([own] if own else []), *proposed]:
                on = (rgb(s.colour), np.float64(s.opacity), s.blend, s.place, paper)
                self.assertGreaterEqual(float(layers(words[0], *on, 2).contrast()), READABLE)
                grounds.append(layers(words[0], *on, 1).ground)
            for one, other in itertools.combinations(grounds, 2):
                self.assertGreaterEqual(float(ciede2000(lab(one), lab(other))), 9.9, paper)


class Edges(unittest.TestCase):
    def test_what_lies_between_two_strengths_is_found(self) -> None:
        """A wash whose only fit lies between hundredths, as a brute search over a grid of its own says."""
        paper, wash = "#08bdff", dataclasses.replace(DUSK, body=dataclasses.replace(DUSK.body, colour="#7a277b"))
        words = words_of(FEN, paper)
        setting = solve_wash(wash, [words], paper).setting
        assert setting
        self.assertNotAlmostEqual(setting.opacity * 100, round(setting.opacity * 100), places=2)
        strengths = np.arange(0.03, 1, 0.0007)
        on = (np.array(rgb(wash.body.colour), float), strengths, setting.blend, setting.place, paper)
        kept = layers(words, *on, 2).contrast() >= READABLE
        seen = layers(words, *on, 1).visibility()
        fits = strengths[kept & (seen >= CLEAR) & (seen < GLARING)]
        self.assertLess(float(np.ptp(fits)), 0.02)
        self.assertTrue(fits.min() - 1e-3 <= setting.opacity <= fits.max() + 1e-3)


class Sets(unittest.TestCase):
    def test_it_names_the_pair_and_the_condition_that_fail(self) -> None:
        twins = [DUSK, dataclasses.replace(DUSK, name="twin"), SHIPPED_PENS["pool-wash"]]
        for condition in check_set(twins, "#ffffff", PANELS):
            self.assertEqual((condition.pair, condition.passes), ((0, 1), False), condition.name)
            self.assertAlmostEqual(condition.smallest, 0)
        names = [c.name for c in check_set(WASHES, "#ffffff", PANELS)]
        self.assertEqual(names[:4], ["full colour", "protanopia", "deuteranopia", "tritanopia"])
        kinds = ["pale" if "pale" in n else "greys" for n in names[4:]]
        self.assertEqual(sorted(kinds), ["greys", "greys", "pale"], "only panels that do not show full colour")

    def test_proposals_pass_and_keep_words_readable(self) -> None:
        words = [words_of(FEN, "#fffdf8"), TYPED]
        sixteen = {n: p for n, p in PANELS.items() if p.greys == 16}
        for washes, panels in ((WASHES, {}), (WASHES[:3], sixteen), (WASHES, sixteen)):
            before = check_set(washes, "#fffdf8", panels)
            self.assertFalse(all(c.passes for c in before))
            proposal = propose_set(washes, "#fffdf8", panels, words)
            changed = list(washes)
            for r in proposal.replacements:
                changed[r.place] = dataclasses.replace(
                    changed[r.place], body=dataclasses.replace(changed[r.place].body, colour=r.colour)
                )
            after = check_set(changed, "#fffdf8", panels)
            self.assertTrue(proposal.passes and all(c.passes for c in after), [(c.name, c.smallest) for c in after])
            for one in changed:
                for w in words:
                    self.assertGreaterEqual(float(wash_layers(w, one, "#fffdf8", 2).contrast()), READABLE)
        self.assertLess(len(proposal.replacements), 4, "what need not change stays")

    def test_the_paper_is_one_of_the_colours_to_be_told_from(self) -> None:
        """Random sets and their proposals: what passes never holds a wash that looks like the bare paper anywhere."""
        rng = np.random.default_rng(12)
        passed, sixteen = 0, {n: p for n, p in PANELS.items() if p.greys == 16}
        for paper in ("#ffffff", "#fffdf8", "#e8e8e8", "#f3ead2") * 3:
            colours = ["#" + bytes(rng.integers(40, 256, 3).tolist()).hex() for _ in range(3)]
            washes = [
                dataclasses.replace(w, body=dataclasses.replace(w.body, colour=c))
                for w, c in zip(WASHES, colours, strict=False)
            ]
            proposal = propose_set(washes, paper, sixteen, [words_of(FEN, paper), TYPED])
            for found in (check_set(washes, paper, sixteen), proposal.conditions):
                if all(c.passes for c in found):
                    passed += 1
                    for c in found:
                        self.assertNotIn(c.seen[-1], c.seen[:-1], c.name)
        self.assertGreater(passed, 2)
        pale = dataclasses.replace(DUSK, body=dataclasses.replace(DUSK.body, colour="#fffdf0", opacity=0.4))
        for condition in check_set([DUSK, pale], "#ffffff", PANELS):
            self.assertEqual((condition.pair, condition.passes), ((1, 2), False), condition.name)

    def test_one_wash_or_seven_are_refused(self) -> None:
        for count in (1, 7):
            with self.assertRaisesRegex(InputError, "2 to 6"):
                check_set([DUSK] * count, "#ffffff", {})
