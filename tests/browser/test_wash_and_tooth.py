"""J5 and J6 on the real screens, to their ends, with errors on the way."""

import io
import json
import re
from typing import Any

import numpy as np
from PIL import Image

from gray_quill.store.database import connect
from tests.browser.desk import LAYER, DeskCase, Written, until_true

CELL = "document.querySelector('tr[data-paper={0}] td[data-passes=\"{1}\"]')"
WRITING = CELL.format('"#ffffff"', 2) + ".querySelector('b')"
SOLVED = "document.querySelector('[data-solve]')?.textContent ?? ''"
PATCH = "document.querySelector('[data-patch=\"{}\"]')"
TONE = f"parseFloat({PATCH.format('upright-middle')}?.querySelector('b').textContent)"
# how many pixels of the page are full ink now, and by how much those of the first call have changed at most, of 765
FULL_INK = f"""
const c = {LAYER.format("page")}, d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data
const sum = (i) => d[i] + d[i + 1] + d[i + 2], all = []
for (let i = 0; i < d.length; i += 4) if (sum(i) < 112) all.push([i, sum(i)])
window.fullInk ??= all
return [all.length, Math.max(...window.fullInk.map(([i, v]) => Math.abs(sum(i) - v)))]
"""
# height in CSS pixels of what the live layer carries
LIVE_HEIGHT = f"""
const c = {LAYER.format("live")}, d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data
let lo = 1e9, hi = -1
for (let j = 0; j < c.height; j++)
  for (let i = 0; i < c.width; i++) if (d[4 * (j * c.width + i) + 3] > 128) [lo, hi] = [Math.min(lo, j), j]
return (hi - lo + 1) * c.getBoundingClientRect().height / c.height
"""


def photograph(side: int, flat: bool = False) -> bytes:
    """A PNG of a bumpy surface, or of nothing."""
    y, x = np.mgrid[:side, :side]
    bumps = np.zeros((side, side)) if flat else np.sin(x / 3.1) * np.sin(y / 2.7) + np.sin((x + y) / 3.7)
    out = io.BytesIO()
    Image.fromarray((128 + 40 * bumps).astype(np.uint8)).save(out, "PNG")
    return out.getvalue()


class BenchCase(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        self.db = connect(self.desk.server.folder)
        self.addCleanup(self.db.close)

    def kept(self, pen_id: str) -> dict[str, Any]:
        row = "SELECT recipe FROM pen_revisions WHERE pen_id = ? ORDER BY revision DESC"
        return dict(json.loads(self.db.execute(row, (pen_id,)).fetchone()[0]))

    def keep(self, scope: str) -> None:
        self.desk.press("Keep as revision 2", scope)
        self.desk.wait(
            f"[...document.querySelectorAll('{scope} button')].some(b => b.textContent.includes('Keep as revision 3'))",
            "the revision kept",
        )


class Wash(BenchCase):
    def test_j5_a_highlighter_that_leaves_words_alone(self) -> None:
        self.words_hold_under_two_passes()
        self.a_plain_wash_drowns_them()
        self.words_the_face_has_not_are_refused()
        self.a_solution_is_found_and_used()
        self.other_colours_and_a_twin_are_proposed()
        self.a_dark_paper_has_its_own_answer()
        self.undo_redo_and_keep()
        self.a_held_stroke_lies_straight_on_the_sheet()

    def numbers(self, paper: str, passes: int) -> tuple[float, float]:
        """Contrast of writing and of print in a cell of the grid, once the grid is fresh."""
        self.desk.wait("document.querySelector('.grid-holder table:not(.stale) img')?.complete", "the grid")
        self.desk.rests()
        self.desk.wait("document.querySelector('.grid-holder table:not(.stale)')", "the grid")
        cell = CELL.format(json.dumps(paper), passes)
        texts = self.desk.js(f"return [...{cell}.querySelectorAll('b')].map(b => b.textContent)")
        writing, print_ = (float(re.findall(r"^[\d.]+", text)[0]) for text in texts)
        return writing, print_

    def words_hold_under_two_passes(self) -> None:
        self.desk.open("wash")
        self.good = self.numbers("#ffffff", 2)
        self.assertGreater(self.good[0], 4.5)

    def a_plain_wash_drowns_them(self) -> None:
        desk = self.desk
        desk.choose("Place", "over")
        desk.choose("Blend", "normal")
        desk.wait(f"{WRITING}.classList.contains('lost')", "drowned writing")
        writing, print_ = self.numbers("#ffffff", 2)
        self.assertLess(writing, 3)
        self.assertLess(print_, self.good[1])

    def words_the_face_has_not_are_refused(self) -> None:
        desk = self.desk
        printed = desk.driver.find_element("css selector", "[aria-label='Printed words']")
        printed.send_keys("é")
        desk.says("leave out", "[role=alert]")
        printed.send_keys("\b")
        desk.press("Understood", "[role=alert]")

    def a_solution_is_found_and_used(self) -> None:
        desk = self.desk
        desk.says("after two passes", "[data-solve]")
        desk.press("Use it", "[data-solve]")
        desk.wait(f"{WRITING}.className === 'good'", "readable writing")
        self.assertGreaterEqual(min(self.numbers("#ffffff", 2)), 4.5)

    def other_colours_and_a_twin_are_proposed(self) -> None:
        desk = self.desk
        colour = desk.js("return document.querySelector('[data-solve] .spots button').ariaLabel.split(/[ :]/)[1]")
        desk.js("document.querySelector('[data-solve] .spots button').click()")
        desk.wait("document.querySelector('.margin').textContent.includes('not kept')", "the other colour in use")
        desk.wait(f"{WRITING}.className === 'good'", "readable writing in the other colour")
        self.assertNotEqual(colour, self.kept("dusk-wash")["body"]["colour"])
        desk.press("Undo", ".margin")
        desk.rests()
        desk.press("Keep a twin for dark paper", "[data-solve]")
        desk.says("is on the roll", "[data-solve]")
        twin = next(p for p in desk.ask("desk")["pens"] if "for dark paper" in p["recipe"]["name"])
        self.assertEqual(twin["recipe"]["body"]["colour"], self.kept("dusk-wash")["body"]["colour"])
        self.assertIn(twin["recipe"]["wash"]["blend"], ("screen", "normal"))

    def a_dark_paper_has_its_own_answer(self) -> None:
        desk = self.desk
        desk.choose("Solve for paper", "for dark")
        desk.rests()
        said = desk.wait(f"/(\\d+(\\.\\d+)?):1 after two passes/.exec({SOLVED})?.[1]", "the dark answer")
        self.assertGreaterEqual(float(said), 4.5)
        self.assertIn("in Lamp white", desk.text('tr[data-paper="#2b3036"] th'))

    def undo_redo_and_keep(self) -> None:
        desk = self.desk
        desk.press("Undo", ".margin")
        desk.wait(f"{WRITING}.classList.contains('lost')", "undone")
        desk.press("Redo", ".margin")
        self.keep(".margin")
        wash = self.kept("dusk-wash")["wash"]
        self.assertEqual((wash["blend"], wash["place"]), ("multiply", "over"))

    def a_held_stroke_lies_straight_on_the_sheet(self) -> None:
        """With Fern wash: a wavering stroke, held still at its end, lies straight; ink under it stays as dark."""
        desk = self.desk
        desk.open()
        desk.pick("Fern wash")
        desk.says("Fern wash", "h1")
        desk.rests()
        before, _ = desk.js(FULL_INK)
        left, top = desk.corner("[data-layer=live]")
        scale = desk.js(f"return {LAYER.format('live')}.getBoundingClientRect().width") / 148
        waver = [(15 + 2.5 * k, 55 + (1.2 if k % 2 else -1.2)) for k in range(13)]
        points = [(left + x * scale, top + y * scale, 0.5) for x, y in waver]
        count = self.held_until_straight(points, 5.4 * scale * 1.1)
        desk.all_kept()
        until_true(lambda: self.strokes() == count + 1, "the stroke in the database")
        desk.rests()
        after, changed = desk.js(FULL_INK)
        self.assertGreater(before, 10_000)
        self.assertLessEqual(changed, 1, "full ink under the wash is untouched")
        self.assertAlmostEqual(after, before, delta=5)

    def held_until_straight(self, points: list[Written], height: float) -> int:
        """Number of strokes before it. On a busy machine the pen may seem to rest on the way and the figure be sized
        by what follows: then it is written again.
        """
        desk = self.desk
        for _ in range(4):
            count = self.strokes()
            desk.hold(points)
            try:
                until_true(lambda: 0 < desk.js(LIVE_HEIGHT) < height, "live ink to straighten while the pen is held", 8)
            except AssertionError:
                desk.lift(*points[-1][:2])
                desk.all_kept()
                desk.rests()
                continue
            desk.lift(*points[-1][:2])
            return count
        raise AssertionError("the held stroke never lay straight")

    def strokes(self) -> int:
        return int(self.db.execute("SELECT count(*) FROM strokes WHERE sheet_id = 'trap-log'").fetchone()[0])


class Tooth(BenchCase):
    def test_j6_a_pencil_that_shades_and_writes(self) -> None:
        self.a_pencil_shades_and_writes()
        self.a_softer_grade_is_darker()
        self.own_shading_is_measured_beside_it()
        self.own_grain_changes_the_marks()
        self.keep(".keep")
        tooth = self.kept("moth-pencil-2b")["tooth"]
        self.assertEqual((tooth["grain"], len(tooth["own"]), tooth["grade"]), ("own", 21848, "2B"))
        self.charcoal_shades_well_and_writes_badly()

    def a_pencil_shades_and_writes(self) -> None:
        desk = self.desk
        desk.open("pen")
        desk.pick("Moth pencil")
        desk.says("Moth pencil", "h1")
        desk.press("tooth", ".tabs")
        self.before = desk.wait(TONE, "the shading bench")
        leaned = desk.js(f"return parseFloat({PATCH.format('leaned-middle')}.querySelector('b').textContent)")
        self.assertLess(leaned, self.before)
        verdicts = desk.js("return [...document.querySelectorAll('[data-text] b')].map(b => b.textContent)")
        self.assertEqual(verdicts, ["reads well"] * 3)
        self.assertIn("pixels wide at 150 dpi", desk.text('tr[data-dpi="150"]'))

    def a_softer_grade_is_darker(self) -> None:
        desk = self.desk
        desk.js("document.querySelector('.ladder [aria-label^=\"6B\"]').click()")
        desk.wait(f"{TONE} > {self.before} + 5", "a darker patch")
        desk.press("Undo", ".keep")
        desk.wait(f"Math.abs({TONE} - {self.before}) < 0.5", "undone")

    def own_shading_is_measured_beside_it(self) -> None:
        self.desk.choose("Your own shading from", "from Test sheet")
        self.desk.says("your shading", '[data-patch="own"]')

    def own_grain_changes_the_marks(self) -> None:
        """A flat picture is refused in words, a good one changes the marks."""
        desk = self.desk
        picture = f"{PATCH.format('upright-middle')}.querySelector('img').src"
        old = desk.js(f"return {picture}")
        desk.bring("Grain picture", "flat.png", photograph(200, flat=True))
        desk.says("shows no grain", "[role=alert]")
        desk.press("Understood", "[role=alert]")
        desk.bring("Grain picture", "bumps.png", photograph(300))
        desk.wait(f"{picture} !== {json.dumps(old)}", "the new grain")

    def charcoal_shades_well_and_writes_badly(self) -> None:
        desk = self.desk
        desk.press("Moth pencil", "h1")
        desk.press("Alder charcoal", ".choices")
        desk.says("Alder charcoal", "h1")
        desk.press("tooth", ".tabs")
        desk.wait("document.querySelector('[data-text=\"2\"] b')?.textContent === 'letters fill up'", "the verdict")
