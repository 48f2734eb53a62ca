"""The cabinet on the screen: found, followed and named; let go of and brought back; from laptop to tablet."""

import unittest

from tests.browser.desk import Desk, DeskCase
from tests.browser.driver import another, browser, served

TILES = "[...document.querySelectorAll('.things button')]"
CARD = ".card-of"


class Cabinet(DeskCase):
    def fresh(self, way: str = "what is kept") -> Desk:
        desk = self.desk
        desk.open("cabinet")
        desk.turn_to(way)
        desk.rests()
        return desk

    def names(self) -> list[str]:
        return list(self.desk.js(f"return {TILES}.map(b => b.querySelector('b').textContent)"))

    def look_for(self, words: str, desk: Desk | None = None) -> None:
        desk = desk or self.desk
        desk.type_number("Words to look for", words)
        desk.rests()

    def open_thing(self, name: str, desk: Desk | None = None) -> None:
        desk = desk or self.desk
        found = f"{TILES}.find(b => b.querySelector('b').textContent === '{name}')"
        desk.wait(found, name)
        desk.js(f"{found}.click()")
        desk.wait(f"document.querySelector('{CARD} h2')?.textContent === '{name}'", f"{name} looked at")
        desk.rests()

    def test_a_thing_is_found_followed_to_where_it_is_used_copied_named_noted_and_written_with(self) -> None:
        desk = self.fresh()
        self.assertEqual(len(self.names()), 24, "a page of them")
        desk.press("After", ".turn")
        desk.rests()
        self.assertEqual(len(self.names()), desk.ask("cabinet")["count"] - 24)
        self.look_for("moth pen")
        self.assertEqual(self.names(), ["Moth pencil 2B"], "from the first page on")
        self.open_thing("Moth pencil 2B")
        # where it is used leads on, to the sheet and from there to what it is written with
        desk.press("Trap log", CARD)
        desk.wait(f"document.querySelector('{CARD} h2').textContent.startsWith('Trap log')", "the sheet")
        self.open_thing("Moth pencil 2B")
        desk.press("Copy it", CARD)
        desk.says("This is the copy", CARD)
        desk.type_number("Name of the thing", "Owlet pencil")
        desk.wait(f"document.querySelector('{CARD} h2').textContent === 'Owlet pencil'", "its new name")
        desk.type_number("Note on the thing", "for zebra moths")
        desk.rests()
        self.look_for("zebra")
        self.assertEqual(self.names(), ["Owlet pencil"], "by its note")
        desk.says("called otherwise", CARD)
        desk.press("Write with it", CARD)
        desk.wait("location.pathname === '/sheet'", "the sheet")
        desk.says("Owlet pencil")
        kept = desk.ask("desk")
        sheet = next(s for s in kept["sheets"] if s["id"] == kept["sheet_id"])
        names = {p["id"]: p["recipe"]["name"] for p in kept["pens"]}
        self.assertEqual(names[sheet["pen_id"]], "Owlet pencil")

    def test_keys_walk_through_what_is_found(self) -> None:
        desk = self.fresh()
        self.look_for("")
        desk.js(f"{TILES}[0].focus()")
        walk = (
            "const how = {key: arguments[0], bubbles: true, cancelable: true};"
            "document.activeElement.dispatchEvent(new KeyboardEvent('keydown', how));"
            f"return {TILES}.indexOf(document.activeElement)"
        )
        self.assertEqual([desk.js(walk, k) for k in ("ArrowRight", "ArrowRight", "ArrowLeft")], [1, 2, 1])
        below = desk.js(walk, "ArrowDown")
        self.assertGreater(below, 2, "the one below it")
        self.assertEqual(desk.js(walk, "ArrowUp"), 1)

    def test_a_pen_goes_back_in_its_history_and_its_ink_with_it(self) -> None:
        desk = self.fresh()
        recipe = next(p for p in desk.ask("desk")["pens"] if p["id"] == "sedge-nib")["recipe"]
        wide = {**recipe, "body": {**recipe["body"], "width_mm": 3.0}}
        desk.ask("pens/sedge-nib/revisions", {"recipe": wide, "note": "for headings"}, "POST")
        desk.open("cabinet")
        self.look_for("sedge")
        self.open_thing("Sedge flat nib 1.1")
        desk.says("1.1 to 3 mm", CARD)
        desk.js("document.querySelector('[aria-label=\"Revision 1\"]').click()")
        desk.press("Make it so again", CARD)
        desk.says("as in revision 1", CARD)
        kept = desk.ask("pens/sedge-nib/revisions")["pens"]
        self.assertEqual([p["recipe"]["body"]["width_mm"] for p in kept], [1.1, 3.0, 1.1])
        desk.says("3 to 1.1 mm", CARD)

    def test_a_press_curve_of_others_is_tried_on_ones_own_writing(self) -> None:
        desk = self.fresh()
        self.look_for("heron")
        self.open_thing("Heron brush 0.7")
        desk.press("take out", f"{CARD} .form")
        table = desk.download("Heron brush 0.7 press-curve.csv").decode().splitlines()
        self.assertEqual((len(table), table[0]), (257, "step,force,share,width_mm,opacity"))
        wider = [table[0]]
        for row in table[1:]:
            step, force, share, width, opacity = row.split(",")
            wider.append(f"{step},{force},{share},{2 * float(width)},{opacity}")
        desk.press("read back", f"{CARD} .form")
        desk.bring("Form to read back", "theirs.csv", "\n".join(wider).encode())
        desk.wait("location.pathname === '/pen'", "the pen")
        desk.says("It is tried on your writing")
        desk.says("1.40 mm", "[aria-label='Pens at hand']")
        desk.says("changes not kept", "header")
        kept = desk.ask("pens/heron-brush/revisions")["pens"]
        self.assertEqual(len(kept), 1, "nothing is kept of it before one says so")

    def test_a_hand_is_set_in_numbers(self) -> None:
        desk = self.fresh()
        self.look_for("hooked")
        self.open_thing("left hand, hooked")
        desk.press("In numbers", CARD)
        desk.wait("document.querySelector('form[aria-label=\"In numbers\"]')", "the form")
        desk.type_number("Letter height, mm", 4.5)
        desk.press("Keep these numbers", CARD)
        desk.rests()
        hands = {h["id"]: h["hand"] for h in desk.ask("desk")["hands"]}
        self.assertEqual(hands["left-hooked"]["x_height_mm"], 4.5)

    def test_what_the_bin_lets_go_of_a_backup_brings_back(self) -> None:
        desk = self.fresh()
        desk.press("documents", ".kinds")
        desk.rests()
        self.open_thing("Count by trap")
        desk.press("To the bin", CARD)
        desk.rests()
        self.assertEqual(self.names(), [])
        desk.turn_to("the bin")
        desk.rests()
        desk.press("Empty the bin")
        desk.says("The document Count by trap stays: the sheet Count by trap (lies on it) still needs it")
        desk.press("Leave it")
        self.open_thing("Count by trap")
        desk.press("Put it back", CARD)
        desk.rests()
        desk.turn_to("what is kept")
        desk.press("documents", ".kinds")  # every kind again
        desk.rests()
        self.look_for("dusk to dawn")
        self.open_thing("Dusk to dawn")
        desk.press("To the bin", CARD)
        desk.rests()
        desk.turn_to("the bin")
        self.look_for("")
        desk.press("Empty the bin")
        desk.says("1 thing would go for good: Dusk to dawn")
        desk.press("Let it go")
        desk.says("1 thing let go of")
        self.assertNotIn("Dusk to dawn", [s["name"] for s in desk.ask("desk")["sheets"]])
        desk.turn_to("backups")
        desk.rests()
        desk.press("back to then", "table")
        desk.says("1 comes back: sheet Dusk to dawn (in the bin)")
        desk.press("Go back")
        desk.says("All that is kept is as it was on")
        desk.turn_to("the bin")
        desk.rests()
        self.open_thing("Dusk to dawn")
        desk.press("Put it back", CARD)
        desk.rests()
        self.assertIn("Dusk to dawn", [s["name"] for s in desk.ask("desk")["sheets"]])
        desk.turn_to("backups")
        desk.says("of it ink")


class Travels(unittest.TestCase):
    """From a laptop to a tablet: two servers, and two browsers that know nothing of each other."""

    def test_everything_comes_along_and_a_pen_is_shared_well(self) -> None:
        with served(True) as laptop, served(False) as tablet, browser(1280, 800) as driver:
            here, there = Desk(driver, laptop), Desk(another(), tablet)
            here.open("cabinet")
            here.turn_to("what is kept")
            here.type_number("Words to look for", "alder")
            here.rests()
            here.js(f"{TILES}[0].click()")
            here.press("Share it", CARD)
            shared = here.download("Alder charcoal 8B, large.zip")
            here.type_number("Words to look for", "trap log")
            here.wait(f"{TILES}[0]?.textContent.includes('Trap log')", "the sheet")
            here.js(f"{TILES}[0].click()")
            here.wait(f"document.querySelector('{CARD} h2')?.textContent.startsWith('Trap log')", "it")
            here.press("Take it out", CARD)
            sheet = here.download("Trap log, first night.zip")
            there.driver.get(there.url)
            there.press("Bring in", ".first")  # before a first sheet is put down
            there.bring("Archive to bring in", "sheet.zip", sheet[: len(sheet) // 2])
            there.says("is not a zip")  # half an archive: refused, and nothing came
            there.bring("Archive to bring in", "sheet.zip", sheet)
            there.says("1 sheet would come in")
            self.assertNotIn("trap-log", [s["id"] for s in there.ask("desk")["sheets"]], "not yet")
            there.press("Bring it in")
            there.says("came in")
            pages = [
                d.js(
                    "return fetch('/api/sheets/trap-log/page.png?scale=2').then(r => r.arrayBuffer()).then(b => "
                    "crypto.subtle.digest('SHA-256', b)).then(d => [...new Uint8Array(d)].join())"
                )
                for d in (here, there)
            ]
            self.assertEqual(pages[0], pages[1], "the same pixels")
            there.bring("Archive to bring in", "pen.zip", shared)
            there.says("theirs: right hand, firm on 11-inch tablet")
            there.says("reads here exactly as there")
            mine = there.js("return document.querySelector('[data-ink=mine]').src.length")
            there.js("document.querySelector('.shared .el-checkbox').click()")
            there.says("fitted to my force")
            there.rests()
            self.assertNotEqual(there.js("return document.querySelector('[data-ink=mine]').src.length"), mine)
            there.press("Keep it and write with it")
            there.wait("location.pathname === '/sheet'", "the sheet")
            there.says("Alder charcoal 8B, large")
            kept = there.ask("pens/alder-charcoal/revisions")["pens"]
            self.assertEqual(kept[0]["note"], "fitted to my force")
            refused = ["/api/archive" in e["message"] for e in there.trouble() + here.trouble()]
            self.assertEqual(refused, [True], "half an archive, and nothing else")


if __name__ == "__main__":
    unittest.main()
