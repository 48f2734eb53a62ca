"""J14 on real screens: one writes and points, another looks on, and is not let do more."""

import json
import re
import urllib.error
import urllib.request

from tests.browser.desk import DeskCase, until_true
from tests.browser.driver import another, evaluate

DARK = """
const c = document.querySelector(`[data-layer=${arguments[0]}]`)
if (!c || !c.width) return -1
const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data
let n = 0
for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 100 && d[i] + d[i + 1] + d[i + 2] < 480) n++
return n
"""


class Mirror(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = another()
        self.addCleanup(self.other.get, "about:blank")

    def dark(self, layer: str) -> int:
        """Inked pixels of a layer of the mirror."""
        return int(evaluate(self.other, DARK, "mirror-" + layer))

    def said(self) -> str:
        return str(evaluate(self.other, "return document.querySelector('[data-delay]')?.textContent ?? ''"))

    def test_j14_another_screen_follows_and_only_looks(self) -> None:
        desk = self.desk
        desk.open("sheet")
        desk.press("Screens", "nav")
        desk.press("Show this sheet to others", "[role=dialog]")
        desk.says("/see/", "[data-look]")
        link = desk.text("[data-look]")
        desk.escape()
        self.other.get(link)
        until_true(lambda: self.dark("page") > 1000, "the settled page")
        self.assertTrue(self.other.current_url.endswith("/mirror"), "the link leaves the address")
        self.ink_is_seen_while_it_is_written()
        self.fading_ink_comes_and_goes()
        self.a_rub_is_seen_too()
        self.looking_gives_no_way_in(link)
        desk.press("Screens", "nav")
        desk.says("One looks", "[role=dialog]")
        desk.press("Show nothing any more", "[role=dialog]")
        until_true(lambda: "not shown any more" in self.said(), "the end of it")
        self.assertEqual(self.dark("page"), -1)
        with self.assertRaises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(link)
        self.assertEqual(refused.exception.code, 401)

    def ink_is_seen_while_it_is_written(self) -> None:
        desk = self.desk
        x, y = desk.middle("[data-layer=live]")
        bare, before = self.dark("live"), self.dark("page")
        desk.hold([(x - 200 + 10 * k, y + 120 + k % 3, 0.6) for k in range(30)])
        until_true(lambda: self.dark("live") > bare + 50, "live ink in the mirror, the pen still down")
        desk.lift(x + 90, y + 120)
        desk.all_kept()
        until_true(lambda: self.dark("page") > before + 50, "the settled stroke")
        until_true(lambda: self.dark("live") == 0, "live ink gives way to it")
        until_true(lambda: re.search(r"nib to here \d+", self.said()), "how late it is")

    def fading_ink_comes_and_goes(self) -> None:
        desk = self.desk
        kept = desk.ask("desk")["sheets"]
        desk.press("point", ".verbs")
        desk.turn_to("0.5 s")
        x, y = desk.middle("[data-layer=live]")
        desk.write([(x - 100 + 8 * k, y - 40, 0.5) for k in range(20)])
        self.assertGreater(desk.js(DARK, "point"), 50)
        until_true(lambda: self.dark("point") > 50, "the pointer in the mirror")
        until_true(lambda: self.dark("point") == 0, "it fades there")
        desk.wait("(() => { " + DARK.replace("${arguments[0]}", "point") + " })() === 0", "it fades here")
        desk.press("write", ".verbs")
        desk.rests()
        self.assertEqual([s["ink"] for s in desk.ask("desk")["sheets"]], [s["ink"] for s in kept], "nothing is kept")

    def a_rub_is_seen_too(self) -> None:
        desk = self.desk
        before = self.dark("page")
        desk.press("Undo", ".steps")
        until_true(lambda: self.dark("page") < before - 50, "the undone stroke gone from the mirror")

    def looking_gives_no_way_in(self, link: str) -> None:
        """A sheet that is not shown, a change, the desk: nothing of it comes with the link's cookie."""
        room = "return fetch(arguments[0], arguments[1]).then((r) => r.status)"
        self.assertEqual(evaluate(self.other, room, "/api/mirror/page", {}), 200)
        tampered = re.sub(r"/see/.*", "/see/" + "a" * 24, link)
        with self.assertRaises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(tampered)
        self.assertEqual((refused.exception.code, json.load(refused.exception)["error"]["code"]), (401, "outside"))


class Whole(DeskCase):
    def test_the_whole_page_or_what_the_writer_sees(self) -> None:
        desk = self.desk
        desk.open("sheet")
        sheet = desk.ask("desk")["sheet_id"]
        for whole in (True, False):
            told = desk.ask("stage", {"sheet_id": sheet, "whole": whole}, "POST")
            desk.open("sheet")
            desk.press("closer", ".tools")
            desk.rests()
            other = another()
            other.get(told["link"])
            shown = "const s = document.querySelector('.sheet'); return [s?.clientWidth, s?.clientHeight]"
            until_true(lambda: evaluate(other, shown)[0], "the mirror")  # noqa: B023
            wide, high = evaluate(other, shown)
            self.assertEqual(abs(wide / high - 148 / 210) < 0.02, whole)

    def test_those_who_look_on_turn_the_page_with_the_writer(self) -> None:
        desk = self.desk
        desk.ask("desk", {"sheet_id": "count-by-trap"}, "PATCH")
        desk.ask("stage", {"sheet_id": "count-by-trap", "whole": True}, "POST")
        desk.open("sheet")
        desk.press("page after", ".tools")
        until_true(lambda: desk.ask("stage")["sheet_id"] == "count-by-trap-typed", "the next page on the stage")
        desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        desk.open("sheet")
        self.assertEqual(desk.ask("stage")["sheet_id"], "count-by-trap-typed", "another sheet is not shown unasked")
