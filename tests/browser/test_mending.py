"""Mending a sheet with the pen alone: rub out, take back, layers, guides; and what is kept of it."""

from functools import partial

import numpy as np

from tests.browser.desk import until_true
from tests.browser.mend_case import MendCase


class Mending(MendCase):
    def test_a_slip_is_rubbed_out_and_the_pen_writes_on(self) -> None:
        desk = self.desk
        whole = self.dark(50, 30)
        self.assertGreater(whole, 10)
        desk.press("rub", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Rub out here\"]')", "the pen to rub")
        for kind in ("washes", "figures", "fills"):
            desk.press(kind, ".kinds")
        desk.press("One rub, then write", ".rub")
        desk.rests()
        self.go((50, 24), (50, 36))
        until_true(lambda: len(self.there()) == 4, "a line cut in two")
        until_true(lambda: self.dark(50, 30) == 0, "no ink where it was rubbed")
        self.assertGreater(self.dark(40, 30), 10)
        self.assertIn(self.lines[2], self.there(), "the wash was not to be touched")
        desk.wait("document.querySelector('[aria-label=\"Write here\"]')", "the pen to write after one rub")
        desk.rests()
        self.go((30, 66), (60, 66))
        desk.all_kept()
        self.assertEqual(len(self.there()), 5)
        desk.driver.refresh()
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page")
        desk.rests()
        desk.press("Undo")
        until_true(lambda: len(self.there()) == 4, "the new stroke to go, after a reload")
        desk.press("Undo")
        until_true(lambda: sorted(self.there()) == self.lines, "the line as it was")
        until_true(lambda: self.dark(50, 30) == whole, "its ink, pixel for pixel as many")
        desk.press("Redo")
        until_true(lambda: self.dark(50, 30) == 0, "it rubbed out again")
        self.assertEqual(desk.trouble(), [])

    def test_layers_part_what_is_rough_from_what_is_right(self) -> None:
        """J11: a layer over the rest by two presses; hidden, thinned, merged, each taken back by undo."""
        desk = self.desk
        desk.press("one layer", "header")
        desk.press("A layer over this", ".choices")
        desk.says("on layer 2, over ink", "header")
        desk.escape()
        desk.press("write", ".verbs")
        desk.rests()
        self.go((20, 66), (80, 66))
        desk.all_kept()
        until_true(lambda: self.dark(50, 66) > 10, "the new line")
        row = "SELECT layer FROM strokes WHERE sheet_id = ? AND layer IS NOT NULL"
        self.assertEqual(len(self.db.execute(row, (self.sheet,)).fetchall()), 1)
        ink, old = self.dark(50, 66), self.dark(50, 30)
        desk.press("on layer 2", "header")
        desk.press("shown", ".choices .now")
        until_true(lambda: self.dark(50, 66) == 0, "the layer hidden")
        self.assertEqual(self.dark(50, 30), old, "the other is seen as before")
        desk.says("on ink", "header h1")  # the pen writes where it is seen
        desk.press("shown", ".choices section:not(.now)")
        until_true(lambda: self.dark(50, 66) == ink, "the layer shown")
        desk.press("written on", ".choices section:not(.now)")
        desk.says("on layer 2, over ink", "header")
        desk.press("more", ".choices .now")
        desk.press("merge into ink", ".choices")
        desk.says("one layer", "header")
        until_true(lambda: not self.db.execute(row + " AND layer <> 'first'", (self.sheet,)).fetchall(), "all on one")
        self.assertEqual(self.dark(50, 66), ink)
        desk.escape()
        desk.press("Undo")
        desk.says("on layer 2, over ink", "header")
        self.assertEqual(desk.trouble(), [])

    def test_ink_goes_along_the_straightedge_and_around_the_compass(self) -> None:
        """A wavering stroke that begins at the guide is kept as the nib went; one that begins elsewhere is free."""
        desk = self.desk
        desk.press("rule", ".verbs")
        desk.press("Straightedge", ".rule")
        desk.type_number("Angle, °", 30)
        guide = desk.js("return JSON.parse(localStorage.getItem('gray-quill-guide'))")
        before = self.there()
        desk.press("write", ".verbs")
        desk.rests()
        u, v = np.array([np.cos(np.pi / 6), -np.sin(np.pi / 6)]), np.array([np.sin(np.pi / 6), np.cos(np.pi / 6)])
        middle = np.array([guide["x"], guide["y"]])
        self.go(*[tuple(middle + u * k - v * (8.5 + (k % 20) / 10)) for k in range(-20, 21, 10)])
        desk.all_kept()
        path = self.newest(before)
        across = (path - middle) @ v
        self.assertLess(float(np.abs(across + 7).max()), 0.02, "along the nearer side, seven mm from its middle")
        self.assertGreater(float(np.ptp((path - middle) @ u)), 30)
        before = self.there()
        self.go(*[tuple(middle + u * k - v * (20 + (k % 20) / 5)) for k in range(-20, 21, 10)])
        desk.all_kept()
        self.assertGreater(float(np.ptp((self.newest(before) - middle) @ v)), 1, "free away from it")
        desk.press("rule", ".verbs")
        desk.press("Compass", ".rule")
        desk.type_number("Radius, mm", 20)
        guide = desk.js("return JSON.parse(localStorage.getItem('gray-quill-guide'))")
        middle = np.array([guide["x"], guide["y"]])
        before = self.there()
        desk.press("write", ".verbs")
        desk.rests()
        self.go(*[tuple(middle + 21.5 * np.array([np.cos(a), np.sin(a)])) for a in np.linspace(0, 3, 16)])
        desk.all_kept()
        away = np.hypot(*(self.newest(before) - middle).T)
        self.assertLess(float(np.abs(away - 20).max()), 0.02)
        desk.js("localStorage.removeItem('gray-quill-guide')")
        self.assertEqual(desk.trouble(), [])

    def test_the_erasers_own_end_rubs_whole_strokes_and_a_held_verb_ends(self) -> None:
        desk = self.desk
        desk.press("rub", ".verbs")
        desk.press("whole strokes", ".rub")
        desk.press("write", ".verbs")
        desk.rests()
        x, y = self.at(60, 55)
        desk.js(
            """
const c = document.querySelector('[data-layer=live]'), [x, y] = arguments
const say = (type, buttons, dy) => c.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 77,
  pointerType: 'pen', button: 5, buttons, clientX: x, clientY: y + dy, pressure: buttons ? 0.5 : 0, isPrimary: true }))
c.setPointerCapture = () => {}
say('pointerdown', 32, -9); for (let k = -8; k < 9; k++) say('pointermove', 32, k); say('pointerup', 0, 9)
""",
            x,
            y,
        )
        until_true(lambda: self.lines[1] not in self.there(), "the whole line to go")
        until_true(lambda: self.dark(30, 55) == 0, "its ink too")
        # the other hand holds a key while the pen does it
        desk.js("dispatchEvent(new KeyboardEvent('keydown', { key: 'r', bubbles: true }))")
        desk.wait("document.querySelector('.verbs [aria-pressed=true]').textContent.trim() === 'rub'", "rub held")
        desk.rests()
        self.go((40, 26), (40, 34))
        until_true(lambda: not {self.lines[0], self.lines[2]} & set(self.there()), "what the eraser met")
        desk.js("dispatchEvent(new KeyboardEvent('keyup', { key: 'r', bubbles: true }))")
        desk.wait(
            "document.querySelector('.verbs [aria-pressed=true]').textContent.trim() === 'write'", "writing again"
        )

    def left(self, lines: list[str]) -> bool:
        return self.there() == lines

    def test_whole_strokes_vanish_as_they_are_touched_but_not_what_may_not_be(self) -> None:
        desk = self.desk
        desk.press("rub", ".verbs")
        desk.press("whole strokes", ".rub")
        for kinds, hidden in (((), 2), (("ink",), 0)):
            for kind in kinds:
                desk.press(kind, ".kinds")
            desk.rests(900)
            way = [(*self.at(50, y), 0.5) for y in range(24, 37)]
            desk.hold(way)
            desk.frames()
            covers = desk.js("return +(document.querySelector('[data-covers]')?.dataset.covers ?? 0)")
            self.assertEqual(covers, hidden, kinds)
            self.assertEqual(self.there(), self.lines, "before it lifts nothing is gone")
            desk.lift(*way[-1][:2])
            left = self.lines[:2] if kinds else self.lines[1:2]
            until_true(partial(self.left, left), "what may be rubbed gone")
            desk.wait("!document.querySelector('[data-covers]')", "no cover left")
            desk.press("Undo")
            until_true(lambda: self.there() == self.lines, "all there again")

    def test_an_eraser_is_kept_on_the_roll_and_the_page_is_cleared(self) -> None:
        desk = self.desk
        self.addCleanup(lambda: desk.ask("desk", {"erasers": []}, "PATCH"))
        desk.press("rub", ".verbs")
        desk.press("whole strokes", ".rub")
        for kind in ("washes", "figures", "fills"):
            desk.press(kind, ".kinds")
        desk.type_number("Eraser, mm", 10)
        desk.press("Lies on the roll", ".rub")
        desk.says("rub strokes", ".roll")
        desk.type_number("Eraser, mm", 1.5)
        desk.press("washes", ".kinds")
        desk.press("write", ".verbs")
        desk.open()
        desk.press("rub strokes", ".roll")
        desk.wait("document.querySelector('[aria-label=\"Rub out here\"]')", "the eraser in hand")
        desk.wait("document.querySelector('.rub [aria-checked=true]')?.textContent.includes('Lies on')", "it kept")
        desk.rests()
        self.go((50, 24), (50, 36))
        until_true(lambda: self.there() == self.lines[1:], "the line gone and the wash under it left")
        desk.press("Clear the page", ".rub")
        until_true(lambda: not self.there(), "an empty page")
        desk.says("2 strokes cleared", ".margin")
        desk.press("Undo")
        until_true(lambda: len(self.there()) == 2, "its ink again")
        self.assertEqual(desk.trouble(), [])
