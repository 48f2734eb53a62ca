"""Choosing ink and making figures with the pen alone: ring, box, move, size, pull, cut; and what is kept of it."""

import json
import math
import urllib.request
from typing import Any

import numpy as np

from gray_quill.store.trace_blob import unpack_trace
from tests.browser.desk import until_true
from tests.browser.driver import resize
from tests.browser.mend_case import MendCase


class Choosing(MendCase):
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
        desk.says("“A figure held still turns clean”, below, has it off", ".margin")
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
        desk.press("A box, not a ring", ".choose")
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
        desk.press("More", ".choose")
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
        desk.press("A ring held still chooses", ".pen-set")
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

    def test_covers_and_pictures_are_ringed_turned_copied_and_deleted_with_the_ink(self) -> None:
        """As one step of undo each."""
        desk = self.desk
        where = f"sheets/{self.sheet}"
        cover = {"id": "c1", "left_mm": 60, "top_mm": 52, "width_mm": 14, "height_mm": 6}
        desk.ask(f"{where}/covers", {"covers": [cover]}, "PUT")
        drawing = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="8mm" height="4mm" viewBox="0 0 8 4">'
            b'<rect width="8" height="4" fill="#204080"/></svg>'
        )
        request = urllib.request.Request(
            f"{desk.url}/api/{where}/originals?name=blue", drawing, {"Content-Type": "application/octet-stream"}
        )
        urllib.request.urlopen(request).close()
        laid = {**self.page()["prints"][0], "left_mm": 80, "top_mm": 52, "width_mm": 8, "height_mm": 4}
        desk.ask(f"{where}/prints", {"prints": [laid]}, "PUT")
        desk.open("sheet")
        desk.rests()
        desk.press("choose", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.press("touched", ".choose")
        self.addCleanup(desk.js, "localStorage.removeItem('gray-quill-ring-takes')")
        self.go((57, 49), (91, 49), (91, 60), (57, 60), (57, 49))
        desk.says("1 stroke, 1 cover, 1 picture chosen", ".margin")
        strokes = self.there()
        desk.press("Quarter turn", ".margin")
        until_true(lambda: self.sides("covers") == [(6.0, 14.0)], "the cover turned")
        until_true(lambda: self.sides("prints") == [(4.0, 8.0)], "the picture too")
        self.assertEqual(self.page()["prints"][0]["quarter_turns"], 1)
        desk.press("Undo", ".margin")
        until_true(lambda: self.page()["covers"] == [{k: cover[k] for k in cover}], "the cover as it was")
        until_true(lambda: self.sides("prints") == [(8.0, 4.0)], "and the picture")
        desk.press("Duplicate", ".margin")
        until_true(lambda: (len(self.page()["covers"]), len(self.page()["prints"])) == (2, 2), "one more of each")
        desk.press("Delete", ".margin")
        until_true(lambda: (len(self.page()["covers"]), len(self.page()["prints"])) == (1, 1), "the copies gone")
        self.assertEqual(self.there(), strokes, "and the ink's")
        desk.press("Undo", ".margin")
        until_true(lambda: (len(self.page()["covers"]), len(self.page()["prints"])) == (2, 2), "both again")
        self.assertEqual(desk.trouble(), [])

    def page(self) -> dict[str, Any]:
        return dict(self.desk.ask(f"sheets/{self.sheet}")["sheet"])

    def sides(self, of: str) -> list[tuple[float, float]]:
        return [(round(one["width_mm"], 2), round(one["height_mm"], 2)) for one in self.page()[of]]
