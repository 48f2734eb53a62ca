"""An answer that comes after it was overtaken is never shown, on any station.

The first answer to a question is held back in the browser; meanwhile something else is asked for. Then it is let go,
and everything the screen says from then on is noted.
"""

import contextlib
from collections.abc import Iterator

from tests.browser.desk import DeskCase

HOLD = """
window.held = []
window.holding = ''
const ask = window.fetch
window.fetch = async (...a) => {
  const answer = await ask(...a)
  const url = a[0].url ?? String(a[0])
  if (!window.holding || !url.split('?')[0].endsWith(window.holding)) return answer
  window.holding = ''
  await new Promise((go) => window.held.push(go))
  return answer
}
"""
NOTE = """
window.said = [document.querySelector('main').textContent]
new MutationObserver(() => window.said.push(document.querySelector('main').textContent))
  .observe(document.querySelector('main'), { subtree: true, childList: true, characterData: true })
for (const go of window.held.splice(0)) go()
"""


class LateAnswers(DeskCase):
    @contextlib.contextmanager
    def holding(self, station: str) -> Iterator[None]:
        """A station where answers can be held back."""
        command = {"source": HOLD}
        script = self.desk.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", command)
        try:
            self.desk.open(station)
            yield
        finally:
            self.desk.driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", script)

    def hold(self, url: str) -> None:
        """Hold back the next answer to this."""
        self.desk.js("window.holding = arguments[0]", url)

    def let_go(self) -> str:
        """Let held answers go; all that the screen said from then until it rests."""
        self.desk.wait("window.held.length", "an answer held back")
        self.desk.js(NOTE)
        self.desk.rests()
        return "\n".join(self.desk.js("return window.said"))

    def take(self, old: str, new: str) -> None:
        self.desk.press(old, "h1")
        self.desk.press(new, ".choices")
        self.desk.says(new, "h1")

    def test_readings_of_a_pen_that_was_put_away(self) -> None:
        desk = self.desk
        with self.holding("pen"):
            desk.says("A fountain pen?", ".margin")
            self.hold("/pen/readings")
            desk.pick("Reed ballpoint")
            desk.wait("window.held.length", "the ballpoint's readings held back")
            desk.pick("Heron brush")
            desk.says("Heron brush", "h1")
            said = self.let_go()
            self.assertFalse("A ballpoint?" in said, "the ballpoint's readings")
            desk.says("A brush?", ".margin")
            desk.pick("Fen fountain")
            desk.rests()

    def test_the_lag_of_a_device_that_was_put_away(self) -> None:
        with self.holding("lag"):
            self.desk.says("slow motion only", ".margin")
            self.hold("/api/lag")
            self.take("11-inch tablet", "8-inch e-paper pad")
            self.desk.wait("window.held.length", "the pad's lag held back")
            self.take("8-inch e-paper pad", "11-inch tablet")
            said = self.let_go()
            self.assertFalse("unusable" in said, "the pad's verdict")
            self.desk.says("slow motion only", ".margin")

    def test_the_palm_rules_of_another_device(self) -> None:
        desk = self.desk
        rules = {"size_mm": 12, "before_ms": 900}
        desk.ask("palm/setting", {"hand_id": "right-firm", "device_id": "tablet-11", "rules": rules}, "PUT")
        with self.holding("palm"):
            desk.says("The sheet follows the rules kept", ".margin")
            self.hold("/palm/setting")
            self.take("11-inch tablet", "11-inch clamshell")
            desk.wait("window.held.length", "the other device's rules held back")
            self.take("11-inch clamshell", "11-inch tablet")
            said = self.let_go()
            self.assertFalse("Nothing kept for this pair" in said, "the other device's rules")
            desk.says("The sheet follows the rules kept", ".margin")

    def test_the_readings_of_a_sheet_that_was_put_away(self) -> None:
        desk = self.desk
        with self.holding("sheet"):
            mine = desk.wait("document.querySelector('.margin').textContent.match(/\\d+ strokes? in/)?.[0]", "strokes")
            self.hold("/readings")
            self.take("Trap log", "Count by trap")
            desk.wait("window.held.length", "the other sheet's readings held back")
            self.take("Count by trap", "Trap log, first night")
            self.let_go()
            desk.says(mine, ".margin")

    def test_the_wash_grid_of_a_wash_that_was_changed_again(self) -> None:
        desk = self.desk
        writing = 'document.querySelector(\'tr[data-paper="#ffffff"] td[data-passes="2"] b\')?.textContent'
        with self.holding("wash"):
            good = desk.wait(writing, "the grid")
            desk.choose("Place", "over")
            desk.rests()
            self.hold("/wash/grid")
            desk.choose("Blend", "normal")
            desk.wait("window.held.length", "the grid of the plain blend held back")
            desk.press("Undo", ".margin")
            desk.press("Undo", ".margin")
            self.let_go()
            desk.wait("!document.querySelector('.grid-holder table.stale')", "the grid")
            self.assertEqual(desk.wait(writing, "the grid"), good)

    def test_a_picture_of_the_page_from_before_the_last_stroke(self) -> None:
        desk = self.desk
        with self.holding("sheet"):
            asked = "performance.getEntriesByType('resource').map(e => e.name).filter(n => n.includes('page.png'))"
            pictures = desk.js(f"return {asked}")
            self.assertEqual(len(pictures), len(set(pictures)), "none is asked for while it is on its way")
            left, top = desk.corner("[data-layer=live]")
            self.hold("/page.png")
            desk.write([(left + 60 + 6 * k, top + 30 + k, 0.5) for k in range(30)])
            desk.wait("window.held.length", "the picture with the first stroke")
            asked_before = desk.js(f"return {asked}.length")
            desk.write([(left + 150, top + 25 + 2 * k, 0.5) for k in range(20)])
            desk.wait(
                f"{asked}.length > {asked_before} && document.documentElement.dataset.asking === '1'", "the second"
            )
            desk.all_kept()
            desk.frames()
            meanwhile = desk.inked("page")
            self.let_go()
            inked = desk.inked("page")
            desk.driver.refresh()
            desk.rests()
            self.assertEqual(desk.inked("page"), inked, "as it comes anew")
            self.assertAlmostEqual(meanwhile, inked, delta=0.002 * inked, msg="no stroke goes away meanwhile")
