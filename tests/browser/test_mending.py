"""Mending a sheet with the pen alone: rub out, take back, choose, move, size, copy; and what is kept of it."""

import itertools
import json
import math

import numpy as np

from gray_quill.store.database import connect
from gray_quill.store.trace_blob import unpack_trace
from tests.browser.desk import DeskCase, until_true
from tests.browser.driver import resize

STRIP = [("reed-ballpoint", 30), ("reed-ballpoint", 55), ("dusk-wash", 30)]


class Mending(DeskCase):
    """Two lines and a wash on a blank sheet, mended on the screen."""

    number = itertools.count(1)

    def setUp(self) -> None:
        super().setUp()
        desk, number = self.desk, next(self.number)
        self.sheet, self.lines = f"mend-{number}", [f"line-{number}-{n}" for n in range(3)]
        self.db = connect(desk.server.folder)
        self.addCleanup(self.db.close)
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        desk.ask("sheets", {"id": self.sheet, "name": "Mend", "paper": "blank A6", **like})
        strokes = [
            {
                "id": self.lines[k],
                "pen_id": pen,
                "revision": 1,
                "t_ms": [0, 300, 600],
                "x_mm": [20, 50, 80],
                "y_mm": [y] * 3,
            }
            for k, (pen, y) in enumerate(STRIP)
        ]
        desk.ask(f"sheets/{self.sheet}/strokes", {"strokes": strokes})
        desk.ask("desk", {"sheet_id": self.sheet}, "PATCH")
        desk.open(rests=False)
        desk.js("for (const k of Object.keys(localStorage)) if (/eraser|write/.test(k)) localStorage.removeItem(k)")
        desk.open()

    def there(self) -> list[str]:
        row = "SELECT id FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place"
        return [r[0] for r in self.db.execute(row, (self.sheet,))]

    def at(self, x_mm: float, y_mm: float) -> tuple[float, float]:
        left, top, wide = self.desk.js(
            "const r = document.querySelector('[data-layer=live]').getBoundingClientRect(); return [r.x, r.y, r.width]"
        )
        return left + x_mm * wide / 105, top + y_mm * wide / 105

    def go(self, *places: tuple[float, float]) -> None:
        """A pen's way through places of the page, mm."""
        ends = [self.at(*p) for p in places]
        way = [
            (a[0] + (b[0] - a[0]) * k / 8, a[1] + (b[1] - a[1]) * k / 8, 0.5)
            for a, b in itertools.pairwise(ends)
            for k in range(9)
        ]
        self.desk.write(way)

    def dark(self, x_mm: float, y_mm: float, reach_mm: float = 1.5) -> int:
        """Dark pixels of the page around a place."""
        scale = self.desk.js("return document.querySelector('[data-layer=page]').width") / 105
        side = 2 * reach_mm * scale
        return self.desk.inked("page", ((x_mm - reach_mm) * scale, (y_mm - reach_mm) * scale, side, side))

    def test_a_slip_is_rubbed_out_and_the_pen_writes_on(self) -> None:
        desk = self.desk
        whole = self.dark(50, 30)
        self.assertGreater(whole, 10)
        desk.press("rub", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Rub out here\"]')", "the pen to rub")
        for kind in ("washes", "figures", "fills"):
            desk.press(kind, ".kinds")
        desk.press("Rub until told otherwise", ".rub")
        desk.says("One rub, then write", ".rub")
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
        desk.js("document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))")
        desk.press("write", ".verbs")
        desk.rests()
        self.go((20, 66), (80, 66))
        desk.all_kept()
        until_true(lambda: self.dark(50, 66) > 10, "the new line")
        row = "SELECT layer FROM strokes WHERE sheet_id = ? AND layer IS NOT NULL"
        self.assertEqual(len(self.db.execute(row, (self.sheet,)).fetchall()), 1)
        ink, old = self.dark(50, 66), self.dark(50, 30)
        desk.press("on layer 2", "header")
        desk.press("hide", ".choices .now")
        until_true(lambda: self.dark(50, 66) == 0, "the layer hidden")
        self.assertEqual(self.dark(50, 30), old, "the other is seen as before")
        desk.says("on ink", "header h1")  # the pen writes where it is seen
        desk.press("show", ".choices section")
        until_true(lambda: self.dark(50, 66) == ink, "the layer shown")
        desk.press("write on it", ".choices")
        desk.says("on layer 2, over ink", "header")
        desk.press("more", ".choices .now")
        desk.press("merge into ink", ".choices")
        desk.says("one layer", "header")
        until_true(lambda: not self.db.execute(row + " AND layer <> 'first'", (self.sheet,)).fetchall(), "all on one")
        self.assertEqual(self.dark(50, 66), ink)
        desk.js("document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))")
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

    def newest(self, before: list[str]) -> np.ndarray:
        """The way of the one stroke that was not there before, mm."""
        until_true(lambda: len(self.there()) == len(before) + 1, "the stroke")
        fresh = next(i for i in self.there() if i not in before)
        blob = self.db.execute("SELECT trace FROM strokes WHERE id = ?", (fresh,)).fetchone()[0]
        return unpack_trace(blob).xy_mm

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

    def test_ink_is_ringed_moved_sized_copied_and_deleted_by_pen_alone(self) -> None:
        desk = self.desk
        desk.press("choose", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.rests()
        self.go((70, 51), (70, 59))
        desk.says("1 stroke chosen", ".margin")
        self.go((50, 55), (50, 64))  # inside the frame: it is carried
        until_true(lambda: self.dark(50, 64) > 10 and self.dark(50, 55) == 0, "the line further down")
        desk.says("1 stroke chosen", ".margin")
        moved = self.there()
        self.assertNotIn(self.lines[1], moved)
        box = desk.js(
            "const p = document.querySelector('[data-chosen] ~ .frame').points;"
            "return [p[0].x, p[0].y, p[2].x - p[0].x, p[2].y - p[0].y]"
        )
        corner = (box[0] + box[2], box[1] + box[3])
        self.go(corner, (box[0] + box[2] / 2, box[1] + box[3] / 2))
        until_true(lambda: self.there() != moved and self.dark(75, 64) == 0, "the line half as long")
        desk.press("Duplicate", ".margin")
        until_true(lambda: len(self.there()) == 4, "a copy")
        desk.press("Delete", ".margin")
        until_true(lambda: len(self.there()) == 3, "the copy gone")
        desk.press("Undo")
        until_true(lambda: len(self.there()) == 4, "the copy again")
        for _ in range(3):
            desk.press("Undo")
        until_true(lambda: self.lines[1] in self.there(), "all as it was")
        until_true(lambda: self.dark(50, 55) > 10, "its ink where it was")
        desk.press("All ink", ".margin")
        desk.says("3 strokes chosen", ".margin")
        self.addCleanup(resize, desk.driver, 1280, 800)
        resize(desk.driver, 390, 844)
        desk.frames()
        self.assertLessEqual(desk.js("return document.documentElement.scrollWidth"), 390)
        self.assertEqual(desk.trouble(), [])

    def test_room_is_opened_a_ring_rubs_and_ink_goes_to_another_sheet(self) -> None:
        desk = self.desk
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        desk.ask("sheets", {"id": "other", "name": "Other", "paper": "blank A6", **like})
        desk.open()
        desk.press("choose", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.rests()
        desk.press("Open space", ".margin")
        self.go((90, 42), (90, 50))
        until_true(lambda: self.dark(50, 63) > 10 and self.dark(50, 55) == 0, "the lower line 8 mm further down")
        self.assertGreater(self.dark(50, 30), 10, "what lies above stays")
        desk.says("1 stroke chosen", ".margin")
        desk.press("Take along", ".margin")
        desk.press("Mend", "h1")
        desk.press("Other", ".choices")
        desk.says("Other", "h1")
        desk.rests()
        desk.press("choose", ".verbs")
        desk.press("Put 1 stroke here", ".margin")
        until_true(lambda: self.dark(50, 63) > 10, "its ink on the other sheet")
        desk.press("rub", ".verbs")
        desk.press("inside a ring", ".rub")
        desk.rests()
        self.go((10, 58), (95, 58), (95, 69), (10, 69), (10, 58))
        until_true(lambda: self.dark(50, 63) == 0, "the ring to rub it out")
        desk.press("write", ".verbs")
        desk.press("write", ".verbs")
        desk.press("0.60 mm", ".pen-set")
        desk.says("changes not kept", "header")
        desk.rests()
        self.go((30, 20), (60, 20))
        desk.all_kept()
        row = "SELECT r.recipe FROM strokes s JOIN pen_revisions r USING (pen_id, revision) WHERE s.sheet_id = 'other'"
        widths = [json.loads(r[0])["body"]["width_mm"] for r in self.db.execute(f"{row} AND s.binned_at IS NULL")]
        self.assertEqual(widths, [0.6], "the pen writes as it was set in the margin")
        self.assertEqual(desk.trouble(), [])

    def test_a_circle_held_still_at_its_end_is_made_clean_and_one_that_is_not_held_stays(self) -> None:
        desk = self.desk
        desk.press("write", ".verbs")
        desk.press("Strokes of this pen stay as drawn", ".pen-set")
        desk.rests()

        def ring(x_mm: float) -> list[tuple[float, float, float]]:
            turns = [2 * math.pi * k / 40 for k in range(41)]
            return [
                (*self.at(x_mm + 8 * math.cos(t) + 0.3 * math.sin(5 * t), 44 + 8 * math.sin(t)), 0.5) for t in turns
            ]

        desk.hold(ring(30))
        desk.wait("document.querySelector('[data-figure=circle]')", "the circle that is meant")
        desk.lift(*ring(30)[-1][:2])
        row = "SELECT showing FROM strokes WHERE sheet_id = ? AND binned_at IS NULL AND trace_of IS NOT NULL"
        until_true(lambda: self.db.execute(row, (self.sheet,)).fetchall(), "the clean circle")
        self.assertEqual(len(self.there()), 4)
        desk.rests()
        desk.press("Undo")
        until_true(lambda: not self.db.execute(row, (self.sheet,)).fetchall(), "it as it was drawn")
        self.assertEqual(len(self.there()), 4)
        desk.write(ring(75))
        desk.all_kept()
        desk.rests()
        self.assertEqual((len(self.there()), self.db.execute(row, (self.sheet,)).fetchall()), (5, []))

    def figure_of(self, stroke: str) -> dict[str, object]:
        return dict(self.desk.ask(f"sheets/{self.sheet}/strokes/{stroke}/figure"))

    def test_a_line_held_still_is_sized_and_turned_before_it_lifts_and_its_end_moved_later(self) -> None:
        desk = self.desk
        desk.press("write", ".verbs")
        desk.press("Strokes of this pen stay as drawn", ".pen-set")
        desk.rests()
        way = [(*self.at(20 + k, 66 + 0.2 * math.sin(k)), 0.5) for k in range(31)]
        desk.hold(way)
        desk.wait("document.querySelector('[data-figure=line]')", "the line that is meant")
        goal = (60.0, 44.0)
        for share in (0.3, 0.6, 1):
            desk.pen("mouseMoved", *self.at(50 + (goal[0] - 50) * share, 66 + (goal[1] - 66) * share))
        desk.lift(*self.at(*goal))
        until_true(lambda: "figure-" in self.there()[-1], "the line made clean")
        desk.all_kept()
        line = self.there()[-1]
        told = np.array(self.figure_of(line)["corners_mm"])
        np.testing.assert_allclose(told, [(20, 66), goal], atol=0.6)
        trace = "SELECT o.trace FROM strokes s JOIN strokes o ON o.id = s.trace_of WHERE s.id = ?"
        drawn = unpack_trace(self.db.execute(trace, (line,)).fetchone()[0])
        self.assertGreater(float(drawn.y_mm.min()), 64, "what sized it is no ink")
        until_true(lambda: self.dark(40, 55) > 5, "ink where it was turned to")
        desk.press("choose", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.rests()
        self.go((28, 57), (33, 63))
        desk.wait("document.querySelectorAll('[data-corner]').length === 2", "its two ends")
        self.go(goal, (85, 66))
        until_true(lambda: self.there()[-1] != line, "the line anew")
        told = np.array(self.figure_of(self.there()[-1])["corners_mm"])
        np.testing.assert_allclose(told, [(20, 66), (85, 66)], atol=0.6)
        until_true(lambda: self.dark(70, 66) > 5, "ink on the way there")
        frame = desk.js(
            "const p = document.querySelector('[data-chosen] ~ .frame').points; return [p[0].x, p[0].y, p[2].x, p[2].y]"
        )
        corner = (frame[0], frame[3])
        self.go(corner, (corner[0] + 12, corner[1] - 8))
        row = "SELECT showing FROM strokes WHERE id = ?"
        pulled = until_true(
            lambda: [
                p for p in json.loads(self.db.execute(row, (self.there()[-1],)).fetchone()[0])["placement"][6:] if p
            ],
            "a corner pulled",
        )
        self.assertEqual(len(pulled), 2)
        self.assertEqual(desk.trouble(), [])

    def test_a_box_chooses_ink_is_cut_and_put_down_and_another_window_takes_it_back(self) -> None:
        desk = self.desk
        desk.press("choose", ".verbs")
        desk.press("By a ring or a line", ".choose")
        desk.rests()
        self.addCleanup(desk.js, "localStorage.removeItem('gray-quill-chooses-by-box')")
        corners = [self.at(*p) for p in ((15, 20), (50, 25), (60, 62))]
        desk.hold([(*p, 0.5) for p in corners])
        ring = desk.js("return document.querySelector('[data-figure=box]').points.length")
        self.assertEqual(ring, 5, "the box is shown as it is drawn")
        desk.lift(*corners[-1])
        desk.says("3 strokes chosen", ".margin")
        desk.press("Let it go", ".choose")
        self.go((40, 55), (40, 55.5))
        desk.says("1 stroke chosen", ".margin")
        desk.press("colour", ".like")
        desk.says("2 strokes chosen", ".margin")
        key = (
            "document.body.dispatchEvent("
            "new KeyboardEvent('keydown', {key: arguments[0], ctrlKey: true, bubbles: true}))"
        )
        desk.js(key, "x")
        until_true(lambda: self.there() == [self.lines[2]], "the two lines cut away")
        desk.js(key, "v")
        until_true(lambda: len(self.there()) == 3, "both put down again")
        desk.wait("document.querySelector('[data-chosen]')?.dataset.chosen === '2'", "them chosen")
        until_true(lambda: len(desk.ask(f"sheets/{self.sheet}/steps")["past"]) == 2, "two steps kept with the sheet")
        desk.js("localStorage.removeItem('gray-quill-steps')")
        desk.open()
        desk.wait("![...document.querySelectorAll('.steps button')][0].disabled", "the steps of the other window")
        desk.press("Undo")
        until_true(lambda: self.there() == [self.lines[2]], "what was put down taken back")
        desk.press("Undo")
        until_true(lambda: len(self.there()) == 3 and self.lines[0] in self.there(), "the lines as they were")
        self.assertEqual(desk.trouble(), [])

    def test_a_ring_held_still_chooses_and_one_lifted_early_is_ink(self) -> None:
        desk = self.desk
        desk.press("write", ".verbs")
        desk.press("Rings are ink", ".pen-set")
        desk.rests()
        turns = [2 * math.pi * k / 40 for k in range(41)]
        ring = [(*self.at(50 + 34 * math.cos(t), 55 + 8 * math.sin(t)), 0.5) for t in turns]
        desk.hold(ring)
        desk.wait("document.querySelector('[data-figure=choice]')", "the ring that chooses")
        desk.lift(*ring[-1][:2])
        desk.says("1 stroke chosen", ".margin")
        self.assertEqual(self.there(), self.lines, "the ring is no ink")
        desk.press("write", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Write here\"]')", "the pen to write")
        desk.rests()
        desk.write(ring)
        until_true(lambda: len(self.there()) == 4, "a ring of ink")

    def test_an_eraser_is_kept_on_the_roll_and_the_page_is_cleared(self) -> None:
        desk = self.desk
        self.addCleanup(lambda: desk.ask("desk", {"erasers": []}, "PATCH"))
        desk.press("rub", ".verbs")
        desk.press("whole strokes", ".rub")
        for kind in ("washes", "figures", "fills"):
            desk.press(kind, ".kinds")
        desk.type_number("Eraser, mm", 10)
        desk.press("Keep on the roll", ".rub")
        desk.says("rub strokes", ".roll")
        desk.type_number("Eraser, mm", 1.5)
        desk.press("washes", ".kinds")
        desk.press("write", ".verbs")
        desk.open()
        desk.press("rub strokes", ".roll")
        desk.wait("document.querySelector('[aria-label=\"Rub out here\"]')", "the eraser in hand")
        desk.says("On the roll", ".rub")
        desk.rests()
        self.go((50, 24), (50, 36))
        until_true(lambda: self.there() == self.lines[1:], "the line gone and the wash under it left")
        desk.press("Clear the page", ".rub")
        until_true(lambda: not self.there(), "an empty page")
        desk.says("2 strokes cleared", ".margin")
        desk.press("Undo")
        until_true(lambda: len(self.there()) == 2, "its ink again")
        self.assertEqual(desk.trouble(), [])
