"""What a new user ran into: colours, chosen ink, double presses, a page that moved, waits, a small screen."""

import json
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskCase, until_true
from tests.browser.driver import resize
from tests.browser.mend_case import MendCase

PLACE = """
const [page, frame] = ['.page', '.scroll'].map((s) => document.querySelector(s).getBoundingClientRect())
return [page.x, page.y, page.width, frame.x, frame.y, frame.width, frame.height].map((v) => Math.round(v * 10) / 10)
"""
# what may be pressed while writing, by what it says; all else in view that is not meant to move or leave the page
MOVES_IT = (
    "whole sheet, full width, true size, closer, farther, closer on a part, fold, open, Whole screen, turn on, "
    "turn back, page after, page before, new page, last touch, Let the hand write, Clear the page, Ink "
).split(", ")
WHERE = "'header button, .margin button, .tools button, .holder button, nav .low button'"
MARGIN = "'.margin button, .verbs button'"
BUTTONS = """
const skip = arguments[0]
const words = (b) => (b.ariaLabel || b.textContent).trim().replace(/\\s+/g, ' ')
const seen = [...document.querySelectorAll(WHERE)]
  .filter((b) => b.checkVisibility() && !b.disabled && b.getBoundingClientRect().top < innerHeight)
return [...new Set(seen.map(words))].filter((w) => w && !skip.some((s) => w.startsWith(s)))
"""
PRESS = """
const words = (b) => (b.ariaLabel || b.textContent).trim().replace(/\\s+/g, ' ')
const found = [...document.querySelectorAll(WHERE)]
  .find((b) => words(b) === arguments[0] && b.checkVisibility() && !b.disabled)
if (!found) return false
found.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, pointerId: 1, pointerType: 'mouse', width: 1 }))
document.dispatchEvent(new PointerEvent('pointerup', { bubbles: true, pointerId: 1, pointerType: 'mouse' }))
found.click()
return true
"""
HOLDS = "return document.querySelector('.verbs [aria-pressed=true]')?.textContent.includes(arguments[0])"
KEPT = """
return new Promise((done) => {
  const asked = indexedDB.open('gray-quill-last-pictures')
  asked.onerror = () => done(0)
  asked.onsuccess = () => {
    const all = asked.result.transaction('pages').objectStore('pages').getAllKeys()
    all.onsuccess = () => done(all.result.some((name) => name.startsWith(arguments[0] + ' ')))
  }
})
"""
SLOW = {"offline": False, "latency": 3000, "downloadThroughput": -1, "uploadThroughput": -1}
# milliseconds from a press on a station's word until something says that it is on its way, or is there
SIGN = """
const [word, before] = arguments
const began = performance.now()
;[...document.querySelectorAll('nav a')].find((a) => a.textContent.trim() === word).click()
return new Promise((done) => {
  const look = () => {
    const said = [...document.querySelectorAll('main [data-wait]')].filter((e) => e.checkVisibility())
    const there = document.querySelector('main .station') && !said.length && location.pathname.endsWith(before)
    const ms = performance.now() - began
    const mine = said.some((e) => e.textContent.includes(word)) || (said.length && location.pathname.endsWith(before))
    if (mine || there || ms > 3000) done(ms)
    else requestAnimationFrame(look)
  }
  look()
})
"""


class ChosenInk(MendCase):
    def recipes(self) -> list[Any]:
        row = (
            "SELECT s.pen_id, s.revision, r.recipe FROM strokes s JOIN pen_revisions r USING (pen_id, revision) "
            "WHERE s.sheet_id = ? AND s.binned_at IS NULL ORDER BY s.place"
        )
        return [(p, n, json.loads(recipe)["body"]["colour"]) for p, n, recipe in self.db.execute(row, (self.sheet,))]

    def choose_lines(self) -> None:
        desk = self.desk
        desk.press("choose", ".verbs")
        desk.wait("document.querySelector('[aria-label=\"Choose ink here\"]')", "the pen to choose")
        desk.rests()
        self.go((15, 25), (85, 25), (85, 60), (15, 60), (15, 26))
        desk.says("3 strokes chosen", ".margin")

    def test_a_pen_and_a_colour_ink_what_is_chosen_which_stays_chosen(self) -> None:
        desk, before = self.desk, self.recipes()
        self.choose_lines()
        desk.pick("Heron brush")
        until_true(lambda: {p for p, _, _ in self.recipes()} == {"heron-brush"}, "all in the brush")
        desk.says("3 strokes chosen", ".margin")
        self.assertEqual(desk.ask("desk")["sheet_id"], self.sheet)
        wide = self.dark(50, 55)
        desk.js("document.querySelector('[aria-label=\"Colour of the chosen ink\"] button:nth-child(8)').click()")
        colour = desk.ask("desk")["palette"][7]["colour"]
        until_true(lambda: {c for _, _, c in self.recipes()} == {colour}, "all in the colour")
        self.assertEqual({p for p, _, _ in self.recipes()}, {"heron-brush"}, "of its own pen")
        desk.says("3 strokes chosen", ".margin")
        desk.rests()
        self.assertGreater(wide, 0)
        for undone in (("heron-brush",), ("reed-ballpoint", "dusk-wash")):
            desk.press("Undo")
            until_true(lambda: {p for p, _, _ in self.recipes()} == set(undone), "a step back")  # noqa: B023
        self.assertEqual(self.recipes(), before)
        self.assertEqual(desk.trouble(), [])

    def test_a_colour_pressed_while_writing_is_what_every_command_and_the_roll_use(self) -> None:
        desk = self.desk
        kept = "(document.querySelector('.roll [aria-pressed=true] img')?.src ?? '')"
        self.assertIn("/swatch.png", desk.js(f"return {kept}"))
        desk.press("write", ".verbs")
        desk.js("document.querySelector('[aria-label=\"Colour of the pen\"] button:nth-child(8)').click()")
        colour = desk.ask("desk")["palette"][7]["colour"]
        desk.wait(f"{kept}.startsWith('blob:')", "the roll to show what the pen writes now")
        self.choose_lines()
        desk.press("Ink these 3 strokes in Reed ballpoint 0.4, as it writes now", ".margin")
        until_true(lambda: {c for _, _, c in self.recipes()} == {colour}, "in the colour it writes now")
        self.assertTrue(all(n < 0 for _, n, _ in self.recipes()), "of no revision that is kept")
        desk.press("write", ".verbs")
        pens = len(desk.ask("desk")["pens"])
        desk.press("Keep as a pen of its own", ".pen-set")
        until_true(lambda: len(desk.ask("desk")["pens"]) == pens + 1, "one pen more")
        mine = next(p for p in desk.ask("desk")["pens"] if p["recipe"]["name"].startswith("Reed ballpoint 0.4, "))
        self.assertEqual((mine["recipe"]["body"]["colour"], mine["revision"]), (colour, 1))
        desk.says(mine["recipe"]["name"], "header h1")
        desk.wait("!document.querySelector('.pen-set').textContent.includes('of its own')", "nothing left to keep")
        desk.pick("Reed ballpoint")
        desk.wait(f"{kept}.includes('/reed-ballpoint/')", "the pen it came from as it was kept")
        self.assertEqual(desk.trouble(), [])

    def test_nothing_pressed_and_no_notice_moves_the_page(self) -> None:
        desk = self.desk
        self.addCleanup(resize, desk.driver, 1280, 800)
        moved: list[Any] = []
        for width, height in ((1280, 800), (1024, 768), (820, 1180), (390, 844)):
            resize(desk.driver, width, height)
            desk.open()
            for verb, where in (("write", WHERE), ("rub", MARGIN), ("choose", MARGIN)):
                self.press(where, verb)
                desk.rests(40)
                at = desk.js(PLACE)
                for words in desk.js(BUTTONS.replace("WHERE", where), MOVES_IT):
                    if not self.press(where, words):
                        continue
                    desk.frames(2)
                    desk.escape()
                    desk.rests(40)
                    if desk.js(PLACE) != at:
                        moved.append((width, verb, words, at, desk.js(PLACE)))
                        at = desk.js(PLACE)
                    if not desk.js(HOLDS, verb):
                        self.press(WHERE, verb)
            at = desk.js(PLACE)
            stroke = {"id": f"theirs-{width}-{self.sheet}", "pen_id": "reed-ballpoint", "revision": 1}
            way = {"t_ms": [0, 300], "x_mm": [20, 50], "y_mm": [70, 70]}
            desk.ask(f"sheets/{self.sheet}/strokes", {"strokes": [stroke | way]})
            desk.js("window.dispatchEvent(new Event('focus'))")
            desk.says("was written on", "body")
            if desk.js(PLACE) != at:
                moved.append((width, "a notice", at, desk.js(PLACE)))
        self.assertEqual(moved, [])

    def press(self, where: str, words: str) -> bool:
        return bool(self.desk.js(PRESS.replace("WHERE", where), words))

    def test_a_press_on_the_pen_in_hand_never_leaves_the_sheet(self) -> None:
        desk = self.desk
        self.go((20, 40), (60, 40))
        x, y = desk.middle(".roll [aria-pressed=true]")
        for _ in range(2):
            desk.write([(x, y, 0.5)])
            desk.write([(x, y, 0.5)])
        desk.rests()
        self.assertTrue(desk.driver.current_url.endswith("/sheet"), desk.driver.current_url)
        self.go((20, 47), (60, 47))
        desk.all_kept()
        until_true(lambda: len(self.there()) == 5, "both lines, with the pen still in hand")


class AtTheDesk(DeskCase):
    def sheets(self) -> list[Any]:
        return [s for s in self.desk.ask("desk")["sheets"] if s["page"] == 1]

    def test_a_command_takes_one_press_and_new_sheets_have_the_next_free_number(self) -> None:
        desk = self.desk
        desk.open()
        desk.ask(
            "sheets",
            {
                "id": "taken",
                "name": "Sheet 1",
                "paper": "blank A6",
                "hand_id": "right-firm",
                "device_id": "tablet-11",
                "pen_id": "fen-fountain",
            },
        )
        desk.open()
        before = {s["id"] for s in self.sheets()}
        desk.js("document.querySelector('header [data-part=sheet]').click()")
        found = "[...document.querySelectorAll('.choices button')].find(b => b.textContent.includes('Put down a new'))"
        desk.wait(found, "the command")
        told = desk.js(
            f"const b = {found}; b.click(); b.click(); b.click();"
            "return new Promise(d => requestAnimationFrame(() => requestAnimationFrame(() => d(b.ariaBusy))))"
        )
        self.assertEqual(told, "true", "it says that it works")
        until_true(lambda: len(self.sheets()) > len(before), "the new sheet")
        desk.rests()
        fresh = [s["name"] for s in self.sheets() if s["id"] not in before]
        self.assertEqual(len(fresh), 1)
        self.assertNotIn(fresh[0], {s["name"] for s in self.sheets() if s["id"] in before})

    def test_escape_closes_the_drills_and_what_is_unfolded(self) -> None:
        desk = self.desk
        escape = lambda: desk.driver.switch_to.active_element.send_keys(Keys.ESCAPE)  # noqa: E731
        desk.open("palm")
        desk.press("Do the drills yourself")
        desk.wait("document.querySelector('[data-glass]')", "the drills")
        escape()
        desk.wait("!document.querySelector('[data-glass]')", "the drills closed")
        desk.open()
        desk.press("choose", ".verbs")
        desk.press("Pieces", ".choose")
        desk.wait("document.querySelector('.choose [aria-expanded=true]')", "pieces")
        escape()
        desk.wait("!document.querySelector('.choose [aria-expanded=true]')", "pieces folded")

    def test_a_document_goes_out_whole_and_under_its_name(self) -> None:
        desk = self.desk
        desk.open()
        page = next(s for s in desk.ask("desk")["sheets"] if s["pages"] > 1)
        desk.ask("desk", {"sheet_id": page["id"]}, "PATCH")
        desk.open()
        desk.press("Take out", "nav")
        desk.wait("document.querySelector('.out')", "what can be taken out")
        self.assertEqual(
            desk.js("return document.querySelector('[aria-label=\"How files are named\"]').value"), page["name"]
        )
        desk.says(f"all {page['pages']} pages", ".out")
        desk.choose("Surface", "night")
        desk.wait("document.documentElement.dataset.surface === 'night'", "the surface of the list")
        desk.choose("Surface", "as the system says")

    def test_every_station_says_that_it_is_on_its_way_before_any_answer(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        late = {}
        desk.driver.execute_cdp_cmd("Network.enable", {})
        desk.driver.execute_cdp_cmd("Network.emulateNetworkConditions", SLOW)
        try:
            for word in ("Pen", "Wash", "Panels", "Lag", "Palm", "Line-up", "Cabinet", "Sheet"):
                ms = desk.js(SIGN, word, word.lower())
                if ms > 1500:  # before any answer; how long before is told in the report of a machine at rest
                    late[word] = round(ms)
                desk.wait("!document.querySelector('main > [data-wait]')", f"the frame of {word}", 60)
        finally:
            desk.driver.execute_cdp_cmd("Network.emulateNetworkConditions", SLOW | {"latency": 0})
        self.assertEqual(late, {})

    def test_a_page_that_was_seen_shows_at_once_and_nothing_is_called_empty(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        inked = desk.inked("page")
        self.assertGreater(inked, 1000)
        until_true(lambda: desk.js(KEPT, desk.ask("desk")["sheet_id"]), "the picture kept in this browser")
        desk.js("[...document.querySelectorAll('nav a')].find(a => a.textContent.trim() === 'Cabinet').click()")
        desk.rests()
        desk.driver.execute_cdp_cmd("Network.enable", {})
        desk.driver.execute_cdp_cmd("Network.emulateNetworkConditions", SLOW)
        try:
            desk.js("[...document.querySelectorAll('nav a')].find(a => a.textContent.trim() === 'Sheet').click()")
            desk.wait("document.querySelector('.on-its-way')", "what is not there yet is said")
            until_true(lambda: desk.inked("page") > 0.8 * inked, "the page as it was seen last")
            self.assertTrue(desk.js("return !!document.querySelector('.on-its-way')"), "before its ink has come")
            self.assertNotIn("Write a first line", desk.text(".margin"))
        finally:
            desk.driver.execute_cdp_cmd("Network.emulateNetworkConditions", SLOW | {"latency": 0})
        desk.rests()

    def test_on_a_telephone_the_page_has_most_of_the_screen_and_all_is_in_reach(self) -> None:
        desk = self.desk
        resize(desk.driver, 390, 844)
        self.addCleanup(resize, desk.driver, 1280, 800)
        desk.open()
        high = desk.js("return document.querySelector('.scroll').getBoundingClientRect().height")
        self.assertGreaterEqual(high, 0.7 * 844)
        at = desk.js(PLACE)
        for opener, what in (
            (".in-hand", "header h1"),
            (".holder .in-hand", ".roll"),
            (".station-word", "nav ul"),
            ("nav .line button:last-child", ".margin"),
        ):
            opener = "header .in-hand" if what == "header h1" else opener
            shown = f"document.querySelector('{what}').checkVisibility()"
            self.assertFalse(desk.js(f"return {shown}"), what)
            desk.js(f"document.querySelector('{opener}').click()")
            desk.wait(shown, what)
            self.assertEqual(desk.js(PLACE), at, f"{what} lies over the page")
            desk.driver.find_element("css selector", "body").send_keys(Keys.ESCAPE)
            desk.wait(f"!{shown}", f"{what} folded again")
        desk.js("document.querySelector('.station-word').click()")
        desk.press("Pen", "nav")
        desk.wait("location.pathname.endsWith('/pen')", "another station in two presses")

    def test_going_back_says_what_still_lies_over_it(self) -> None:
        desk = self.desk
        desk.open("cabinet")
        desk.turn_to("backups")
        for k in range(2):
            desk.press("Make a backup now")
            until_true(lambda: len(desk.ask("backups")["backups"]) > k, "a backup")  # noqa: B023
            desk.rests()
        rows = desk.js(
            "return [...document.querySelectorAll('[aria-label=Backups] th[scope=row]')].map(e => e.textContent)"
        )
        self.assertEqual(len(set(rows)), len(rows), "no two look the same")
        desk.ask(
            "sheets",
            {
                "id": "goes",
                "name": "Goes",
                "paper": "blank A6",
                "hand_id": "right-firm",
                "device_id": "tablet-11",
                "pen_id": "fen-fountain",
            },
        )
        desk.open("sheet")
        desk.press("write", ".verbs")
        desk.js("document.querySelector('[aria-label=\"Opacity of the pen\"] button:nth-child(3)').click()")
        desk.says("changes not kept", "header")
        desk.rests(400)  # drafts are put by a little later
        desk.open("cabinet")
        desk.turn_to("backups")
        desk.press("back to then", ".backups")
        desk.press("Go back", ".backups")
        desk.says("Changes that you have not kept still lie over", ".backups")
        said = desk.text(".backups [role=status]")
        self.assertNotIn(".db", said)
        desk.press("Put them away", ".backups")
        desk.wait("!document.querySelector('header').textContent.includes('not kept')", "the pen as it was kept")
