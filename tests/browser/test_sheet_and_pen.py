"""The sheet and the pen agree: what writes is the pen as it is set, the sheet says what drew its ink, and nothing that
was written or undone is lost on the way between stations and windows.
"""

import json
from typing import Any

import numpy as np

from gray_quill.store.database import connect
from gray_quill.store.strokes import list_strokes
from tests.browser.desk import DeskCase, until_true


class SheetAndPen(DeskCase):
    shared = False

    def setUp(self) -> None:
        super().setUp()
        self.db = connect(self.desk.server.folder)
        self.addCleanup(self.db.close)
        self.desk.open()

    def revisions(self) -> list[int]:
        """Revisions of the sheet's fountain pen ink, in the order written."""
        row = (
            "SELECT revision FROM strokes WHERE sheet_id = 'trap-log' AND pen_id = 'fen-fountain' AND binned_at IS NULL"
        )
        return [r[0] for r in self.db.execute(f"{row} ORDER BY place")]

    def width(self, revision: int) -> Any:
        row = "SELECT recipe FROM pen_revisions WHERE pen_id = 'fen-fountain' AND revision = ?"
        return json.loads(self.db.execute(row, (revision,)).fetchone()[0])["body"]["width_mm"]

    def write(self, x: float = 60) -> None:
        self.desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page")
        left, top = self.desk.corner("[data-layer=live]")
        self.desk.write([(left + x + 4 * i, top + 40 + 2 * i, 0.5) for i in range(12)])
        self.desk.all_kept()

    def widen(self, width_mm: float) -> None:
        desk = self.desk
        desk.press("Pen", "nav")
        desk.press("body", ".tabs")
        desk.wait("[...document.querySelectorAll('input')].some(i => i.ariaLabel === 'Width, mm')", "the width")
        desk.type_number("Width, mm", width_mm)
        desk.says("changes not kept", "header")

    def test_the_pen_writes_as_it_is_set_and_ink_follows_it_when_asked(self) -> None:
        desk = self.desk
        old = self.revisions()
        self.assertEqual(set(old), {1})
        self.widen(0.9)
        desk.press("Sheet", "nav")
        desk.rests()
        self.write()
        self.assertEqual((self.revisions()[-1], self.width(-1)), (-1, 0.9))
        desk.says("1 stroke in Fen fountain 0.5, changes not kept", ".margin")
        desk.driver.refresh()
        desk.says("changes not kept", "header")
        desk.rests()
        self.write(150)
        self.assertEqual(self.revisions()[-2:], [-1, -1], "the draft is there after a reload")

        desk.press("Pen", "nav")
        desk.press("Keep as revision 2")
        desk.press("Ink this sheet again")
        desk.says(f"{len(old)} strokes inked again")
        self.assertEqual((set(self.revisions()), self.width(2)), ({2}, 0.9), "what the draft wrote is the revision's")
        desk.press("Sheet", "nav")
        desk.says(f"{len(old) + 2} strokes in Fen fountain 0.5, revision 2", ".margin")
        desk.press("Undo")
        desk.says(f"{len(old)} strokes in Fen fountain 0.5, revision 1", ".margin")
        self.assertEqual(self.revisions(), [*old, 2, 2])
        desk.press("Ink this sheet again", ".margin")
        desk.says("was", ".margin")  # the same strokes in other ink can be compared
        desk.press("last line", ".margin")
        desk.says("2 strokes in Fen fountain 0.5", ".margin")
        self.assertNotIn("was", desk.text(".notes").split(), "other strokes cannot")
        for station in ("Wash", "Panels", "Lag", "Palm", "Pen", "Sheet"):
            desk.press(station, "nav")
            desk.wait("document.querySelector('main .station')", station)
        self.assertEqual(desk.trouble(), [], "no station fails as it is left")

    def test_chosen_ink_is_read_and_inked_again(self) -> None:
        desk = self.desk
        rows = self.db.execute(
            "SELECT id FROM strokes WHERE sheet_id = 'trap-log' AND binned_at IS NULL ORDER BY place"
        )
        before = [r[0] for r in rows]
        desk.pick("Heron brush")
        desk.press("chosen", ".margin")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.rests()
        left, top = desk.corner("[data-layer=live]")
        dark = desk.inked("page")
        desk.write([(left + 60 + 6 * i, top + 150, 0.5) for i in range(60)])
        desk.wait("+document.querySelector('[data-chosen]')?.dataset.chosen > 2", "chosen ink")
        chosen = desk.js("return +document.querySelector('[data-chosen]').dataset.chosen")
        desk.says(f"{chosen} strokes in Fen fountain 0.5, revision 1", ".margin")
        desk.press(f"Ink these {chosen} strokes in Heron brush", ".margin")
        until_true(lambda: desk.inked("page") > dark + 50, "the brush's ink")
        row = "SELECT COUNT(*) FROM strokes WHERE sheet_id = 'trap-log' AND pen_id = 'heron-brush'"
        self.assertEqual(self.db.execute(row).fetchone()[0], chosen)
        desk.press("Undo", ".margin")
        until_true(lambda: desk.inked("page") == dark, "the fountain pen's ink again")
        desk.write([(left + 60 + 6 * i, top + 150, 0.5) for i in range(60)])
        desk.wait("!document.querySelector('[data-chosen]')", "the same way to let it go")
        desk.press("write", ".verbs")
        rows = self.db.execute(
            "SELECT id FROM strokes WHERE sheet_id = 'trap-log' AND binned_at IS NULL ORDER BY place"
        )
        self.assertEqual([r[0] for r in rows], before, "choosing writes nothing")
        self.write()
        self.assertEqual(self.db.execute(row).fetchone()[0], 1, "it writes again")

    def test_undo_outlives_a_visit_and_a_stroke_a_change_of_station(self) -> None:
        desk = self.desk
        start = len(self.revisions())
        self.write()
        desk.press("Pen", "nav")
        desk.press("Sheet", "nav")
        desk.rests()
        desk.press("Undo")
        until_true(lambda: len(self.revisions()) == start, "the stroke to go")
        left, top = desk.corner("[data-layer=live]")
        desk.hold([(left + 60 + 4 * i, top + 60, 0.5) for i in range(10)])
        until_true(lambda: desk.inked("live") > 20, "live ink")
        desk.js("document.dispatchEvent(new KeyboardEvent('keydown', {key: ']', bubbles: true}))")
        desk.wait("document.querySelector('.strips')", "the Pen station")
        until_true(lambda: len(self.revisions()) == start + 1, "the stroke to be kept")
        desk.lift(left + 100, top + 60)

    def test_a_nib_writes_over_what_is_selected_and_after_a_lift_nobody_told_of(self) -> None:
        desk, start = self.desk, len(self.revisions())
        left, top = desk.corner("[data-layer=live]")
        desk.drag(desk.middle("header p span"), (left + 300, top + 30))  # slips off the words
        self.write(60)
        self.write(120)
        desk.js("getSelection().selectAllChildren(document.body)")
        self.write(180)
        self.write(240)
        self.assertEqual(len(self.revisions()), start + 4)
        desk.hold([(left + 60 + 4 * i, top + 100, 0.5) for i in range(12)])
        until_true(lambda: desk.inked("live") > 20, "live ink")
        desk.write([(left + 400 + 4 * i, top + 140, 0.5) for i in range(12)])
        until_true(lambda: len(self.revisions()) == start + 6, "both strokes")
        for stroke in list_strokes(self.db, "trap-log")[-2:]:
            self.assertLess(np.ptp(stroke.trace.x_mm), 20, "neither goes on where the other is")

    def test_ink_stays_where_its_picture_does_not_come(self) -> None:
        desk = self.desk
        page, size = (desk.js(f"return document.querySelector('{part}').clientHeight") for part in (".page", ".scroll"))
        desk.driver.execute_cdp_cmd("Network.enable", {})
        desk.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*page.png*"]})
        dark = desk.inked("page")
        self.write()
        desk.says("The picture of this sheet did not come", ".holder")
        desk.js("document.querySelector('.scroll').scrollTop += 40")
        desk.frames()
        desk.says("The picture of this sheet did not come", ".holder")
        desk.js("document.querySelector('.scroll').scrollTop -= 40")
        desk.frames()
        seen = desk.inked("page")
        self.assertGreater(seen, dark + 50, "what was written")
        held = (desk.js(f"return document.querySelector('{part}').clientHeight") for part in (".page", ".scroll"))
        self.assertEqual([*held], [page, size], "the words take no room of the page")
        desk.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
        desk.wait("!document.querySelector('.missing')", "the picture, asked for again")
        desk.rests()
        self.assertAlmostEqual(desk.inked("page"), seen, delta=0.002 * seen)

    def test_a_desk_whose_first_answer_does_not_come_is_there_when_it_does(self) -> None:
        desk = self.desk
        desk.driver.execute_cdp_cmd("Network.enable", {})
        desk.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/api/desk"]})
        desk.driver.get(f"{desk.url}/sheet")
        desk.says("The server does not answer", ".news")
        self.assertFalse(desk.js("return !!document.querySelector('.station')"))
        desk.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page")
        desk.wait("!document.querySelector('.news').textContent.trim()", "the words to go by themselves")
        desk.all_kept()

    def test_keys_only_pick_and_go_back(self) -> None:
        desk = self.desk
        for key, pen in (("2", "Reed ballpoint"), ("3", "Heron brush"), ("3", "Reed ballpoint"), ("2", "Heron brush")):
            desk.js("document.dispatchEvent(new KeyboardEvent('keydown', {key: arguments[0], bubbles: true}))", key)
            desk.says(pen, "h1")
        self.assertTrue(desk.js("return location.pathname + location.hash").endswith("sheet"))

    def test_what_another_window_did_is_shown_and_said_and_a_server_that_comes_back_is_seen(self) -> None:
        desk = self.desk
        desk.js("document.querySelector('.scroll').scrollTo(0, 9999)")
        desk.rests()
        dark = desk.inked("page")
        stroke = {"id": "theirs", "pen_id": "fen-fountain", "revision": 1, "t_ms": [0, 9, 20], "force": [0.9, 0.9, 0.9]}
        stroke |= {"x_mm": [20.0, 60.0, 90.0], "y_mm": [180.0, 184.0, 180.0]}
        desk.ask("sheets/trap-log/strokes", {"strokes": [stroke]})
        desk.js("window.dispatchEvent(new Event('focus'))")
        desk.says("was written on", ".news")
        until_true(lambda: desk.inked("page") > dark, "their stroke")
        desk.press("Understood", ".news")
        desk.server.kill()
        desk.says("the server is not reached", "header p")
        desk.press("all", ".margin .word-tabs")
        desk.says("The server does not answer", ".news")
        desk.server.start()
        desk.wait("!document.querySelector('.news').textContent.trim()", "the words to go by themselves")
        desk.all_kept()
        desk.server.kill()
        desk.says("the server is not reached", "header p")
        desk.server.start()
        desk.all_kept()
