"""J9 on the screen: a hairline that vanishes on e-paper is found, fixed and proofed, in the light of several rooms."""

from tests.browser.desk import DeskCase, until_true

PAPER = "document.querySelectorAll('.proof')[1]"
SAID = f"{PAPER}?.querySelector('.verdict')?.textContent"
VANISHES = f"parseFloat(/([\\d.]+) % of the ink is fainter/.exec({SAID})?.[1] ?? 0)"
NEEDED = "[...document.querySelectorAll('[data-needed]')].map(d => d.textContent.trim())"
# of each panel: how many pixels are not paper, and its readings in time
DARK = (
    "[...document.querySelectorAll('.card-in-time canvas')].map(c => "
    "c.getContext('2d').getImageData(0, 0, c.width, c.height).data.filter((v, k) => k % 4 === 1 && v < 250).length)"
)
TIMES = (
    "[...document.querySelectorAll('.card-in-time:not(.waits)')].map(c => Object.fromEntries("
    "[...c.querySelectorAll('[data-reading]')].map(d => [d.dataset.reading, parseFloat(d.textContent)])))"
)


class Panels(DeskCase):
    def test_j9_a_hairline_that_vanishes_is_found_fixed_and_proofed(self) -> None:
        self.a_faint_line_is_written()
        self.the_proof_says_that_it_vanishes()
        self.what_helps_comes_true_when_it_is_tried()
        self.a_change_is_found_tried_and_seen_before_it_is_kept()
        self.it_is_kept_and_still_holds()
        self.what_is_sent_out_is_compared()
        self.in_the_sun_only_paper_can_be_read()
        self.in_time_e_paper_shows_it_late_and_erasing_leaves_a_ghost()
        self.four_panels_stand_beside_each_other()
        self.a_panel_of_ones_own_is_made_and_changed()

    def a_faint_line_is_written(self) -> None:
        desk = self.desk
        desk.open()
        pen = next(p for p in desk.ask("desk")["pens"] if p["id"] == "reed-ballpoint")
        recipe = {**pen["recipe"], "body": {**pen["recipe"]["body"], "width_mm": 0.15, "colour": "#b8b8b8"}}
        desk.ask("pens/reed-ballpoint/revisions", {"recipe": recipe, "note": "faint"})
        self.sheet = "faint"
        like = {"hand_id": "left-steep", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        desk.ask("sheets", {"id": self.sheet, "name": "Faint", "paper": "blank A5", **like})
        desk.ask("desk", {"sheet_id": self.sheet}, "PATCH")
        desk.ask(f"sheets/{self.sheet}/write", {"text": "hollow sedge"})

    def the_proof_says_that_it_vanishes(self) -> None:
        desk = self.desk
        desk.open("panels")
        desk.wait(f"{VANISHES} > 20 && {VANISHES}", "the verdict", 180)
        shown = desk.js("return [...document.querySelectorAll('.proof')].map(p => p.dataset.device)")
        self.assertEqual(shown, ["tablet-11", "paper-slate-10"], "the writer's own, and the first grey e-paper")
        desk.choose("How many panels", "2")

    def what_helps_comes_true_when_it_is_tried(self) -> None:
        """A way of toning, on the e-paper beside the tablet: the proof then reads what was predicted."""
        desk = self.desk
        desk.js("[...document.querySelectorAll('.proof')[1].querySelectorAll('[role=tab]')][1].click()")
        change = (
            "[...document.querySelectorAll('[data-panel-advice] .change')].find(c => /contrast/.test(c.textContent))"
        )
        predicted = float(desk.wait(f"{change}?.querySelector('b').dataset.predicted", "a prediction", 180))
        desk.js("document.querySelector('[aria-label=\"Mark what vanishes\"]').click()")
        desk.press("the e-ink surface", "[data-panel-advice]")
        desk.wait("document.documentElement.dataset.surface === 'e-ink'", "the e-ink surface")
        desk.press("Back to the surface there was", "[data-panel-advice]")
        desk.wait("document.documentElement.dataset.surface !== 'e-ink'", "the surface there was")
        desk.rests()
        desk.press("contrast", "[data-panel-advice]")
        desk.wait(f"{VANISHES} < 20", "the proof toned so")
        desk.rests()
        self.assertAlmostEqual(float(desk.js(f"return {VANISHES}")), 100 * predicted, delta=0.06)
        desk.press("Plain toning", ".proof")
        desk.wait(f"{VANISHES} > 20", "as it was")
        desk.js("[...document.querySelectorAll('.proof')[1].querySelectorAll('[role=tab]')][0].click()")
        desk.js("document.querySelector('[aria-label=\"Mark what vanishes\"]').click()")

    def what_is_sent_out_is_compared(self) -> None:
        desk = self.desk
        desk.js("[...document.querySelectorAll('.proof')[1].querySelectorAll('[role=tab]')][2].click()")
        desk.wait("document.querySelector('[data-exports] [data-dpi=\"600\"]')", "the exports", 180)
        edges = desk.js(
            "return [...document.querySelectorAll('[data-exports] tbody tr')]"
            ".map(r => parseFloat(r.children[1].textContent))"
        )
        self.assertTrue(edges[1] > edges[2] > edges[3] > 0)
        desk.says("a picture at 150 dpi is softer", "[data-exports]")
        desk.js("[...document.querySelectorAll('.proof')[1].querySelectorAll('[role=tab]')][0].click()")

    def a_change_is_found_tried_and_seen_before_it_is_kept(self) -> None:
        desk = self.desk
        desk.press("One pen for all of these", "[data-fit]")
        desk.says("keeps it; what vanishes", "[data-fit]")
        desk.press("Try it", "[data-fit]")
        until_true(lambda: desk.js(f"return {VANISHES}") <= 2, "the proof of the pen as it is tried")
        pen = next(p for p in desk.ask("desk")["pens"] if p["id"] == "reed-ballpoint")
        self.assertEqual(pen["revision"], 2, "nothing is kept yet")

    def it_is_kept_and_still_holds(self) -> None:
        desk = self.desk
        desk.press("Keep as revision", "[data-fit]")
        kept = until_true(
            lambda: next(
                (
                    p["recipe"]["body"]
                    for p in desk.ask("desk")["pens"]
                    if p["id"] == "reed-ballpoint" and p["revision"] == 3
                ),
                None,
            ),
            "the pen kept",
        )
        self.assertNotEqual((kept["width_mm"], kept["colour"]), (0.15, "#b8b8b8"))
        desk.press("Ink this sheet again", "[data-fit]")
        desk.says("inked again", "[data-fit]")
        desk.rests()
        self.assertLessEqual(desk.js(f"return {VANISHES}"), 2)
        desk.press("One pen for all of these", "[data-fit]")
        desk.says("Nothing of this pen's line vanishes", "[data-fit]")

    def in_the_sun_only_paper_can_be_read(self) -> None:
        desk = self.desk
        desk.choose("Light of the room", "sun")
        desk.wait(f"/no width/.test({NEEDED}[0])", "the tablet fades", 180)
        desk.rests()
        on_tablet, on_paper = desk.js(f"return {NEEDED}")
        self.assertEqual(on_tablet, "no width reaches 3:1")
        self.assertRegex(on_paper, r"^0\.\d+ mm$")
        desk.press("One pen for all of these", "[data-fit]")
        desk.says("No width up to four times this one", "[data-fit]")
        desk.choose("Light of the room", "no glare")

    def in_time_e_paper_shows_it_late_and_erasing_leaves_a_ghost(self) -> None:
        """The same moment on both: scrubbed, stepped and played; what the program believes is there before it is."""
        desk = self.desk
        desk.turn_to("in time")
        desk.wait("document.querySelectorAll('.card-in-time dl').length === 2", "both films", 180)
        desk.choose("Device", "10-inch e-paper slate", 1)
        desk.choose("What is done then", "last stroke erased")
        desk.wait(f"{TIMES}[1]?.erased_ms && {TIMES}[0]?.erased_ms", "both films with what is done then", 180)
        times = desk.js(f"return {TIMES}")
        self.assertLess(times[0]["true_p50_ms"], 200)
        self.assertGreater(times[1]["true_p50_ms"], 1300, "e-paper waits until the pen pauses")
        slider = "document.querySelector('[data-film-bar] [role=slider]')"
        desk.drag_slider("Moment", 1.0)
        desk.wait(f"+{slider}.getAttribute('aria-valuenow') > 5000 && {DARK}[1] > 0", "the end")
        seen = desk.js(f"return {DARK}")
        desk.turn_to("believed")
        desk.wait(f"{DARK}[1] !== {seen[1]}", "what is believed")
        believed = desk.js(f"return {DARK}")
        self.assertEqual(seen[0], believed[0], "the tablet shows what it is told")
        self.assertGreater(seen[1], believed[1], "paper keeps a ghost")
        desk.turn_to("seen")
        desk.drag_slider("Moment", 0.0)
        desk.wait(f"+{slider}.getAttribute('aria-valuenow') < 30 && {DARK}[0] === 0", "bare paper")
        desk.press("Play", "[data-film-bar]")
        desk.wait(f"{DARK}[0] > 50 && {DARK}[1] > 20", "ink on both")
        desk.press("Stop", "[data-film-bar]")
        at = float(desk.js(f"return {slider}.getAttribute('aria-valuenow')"))
        desk.js("document.querySelector('[aria-label=\"One picture on\"]').click()")
        desk.wait(f"+{slider}.getAttribute('aria-valuenow') > {at}", "one picture on")
        desk.js("document.querySelector('[aria-label=\"One picture back\"]').click()")
        desk.wait(f"+{slider}.getAttribute('aria-valuenow') <= {at + 1}", "and back")
        desk.drag_slider("Moment", 0.0)
        desk.js("document.documentElement.dataset.surface = 'e-ink'")
        start = float(desk.js(f"return {slider}.getAttribute('aria-valuenow')"))
        desk.press("Play", "[data-film-bar]")
        desk.wait(f"+{slider}.getAttribute('aria-valuenow') > {start}", "a step")
        first = float(desk.js(f"return {slider}.getAttribute('aria-valuenow')"))
        self.assertGreaterEqual(first - start, 990, "on e-ink it goes in steps, one a second")
        desk.press("Stop", "[data-film-bar]")
        desk.turn_to("standing")
        desk.wait("document.querySelectorAll('.proof dl').length === 2", "the proofs again")

    def four_panels_stand_beside_each_other(self) -> None:
        """As large on each, with the lens on the same place of the page."""
        desk = self.desk
        desk.choose("How many panels", "4")
        desk.wait("document.querySelectorAll('.proof dl').length === 4", "four proofs", 180)
        desk.rests()
        heights = desk.js("return [...document.querySelectorAll('.whole')].map(c => c.getBoundingClientRect().height)")
        self.assertLess(max(heights) - min(heights), 1.5)
        devices = desk.js("return [...document.querySelectorAll('.proof')].map(c => c.dataset.device)")
        self.assertEqual(len(set(devices)), 4)
        desk.js("document.querySelector('[aria-label=\"Difference from the first panel\"]').click()")
        desk.wait("document.querySelectorAll('[data-apart]').length === 3", "three differences from the first", 180)
        desk.js("document.querySelector('[aria-label=\"Difference from the first panel\"]').click()")
        desk.wait("!document.querySelector('[data-apart]')", "the proofs alone")

    def a_panel_of_ones_own_is_made_and_changed(self) -> None:
        """Its figures count on the proof before they are kept; one that shipped stays as it is."""
        desk = self.desk
        desk.choose("How many panels", "1")
        desk.press("Figures of this panel", ".proof")
        desk.says("Density", "[data-panel-form]")
        desk.type_number("Density, px/inch", 127)
        pixels = "[...document.querySelectorAll('.proof dd')].map(d => d.textContent).join()"
        desk.wait(f"{pixels}.includes('740 × 1050 px')", "the sheet at 127 pixels an inch")
        kept = {d["id"] for d in desk.ask("desk")["devices"]}
        desk.press("Keep as a device of my own", "[data-panel-form]")
        made = until_true(lambda: [d for d in desk.ask("desk")["devices"] if d["id"] not in kept], "the device")
        self.assertEqual((made[0]["device"]["name"], made[0]["device"]["panel"]["ppi"]), ("My panel", 127))
        desk.says("Change My panel", "[data-panel-form]")
        desk.type_number("White, cd/m²", 90)
        desk.press("Change My panel", "[data-panel-form]")
        own = made[0]["id"]
        until_true(
            lambda: (
                [d["device"]["panel"]["white_cd_m2"] for d in desk.ask("desk")["devices"] if d["id"] == own] == [90]
            ),
            "the change kept",
        )
        tablet = next(d for d in desk.ask("desk")["devices"] if d["id"] == "tablet-11")
        self.assertEqual(tablet["device"]["panel"]["ppi"], 264)
