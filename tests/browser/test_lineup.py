"""J13 on the screen, as far as it is measured: pens lined up, weights moved, a must set, an own criterion scored."""

from tests.browser.desk import DeskCase

ROWS = "[...document.querySelectorAll('ol .row')]"
NAMES = f"{ROWS}.map(r => r.querySelector('.name b').textContent)"


class Lineup(DeskCase):
    def order(self) -> list[str]:
        return list(self.desk.js(f"return {NAMES}"))

    def test_j13_which_pen_by_what_counts(self) -> None:
        desk = self.desk
        desk.open("line-up")
        desk.says("Choose pens and measure them")
        desk.press("Measure 5 candidates")
        desk.wait(f"{ROWS}.length === 5", "five places", 120)
        desk.press("handsome handwriting", ".presets")
        desk.rests()
        handsome = self.order()
        self.assertNotIn("Reed ballpoint 0.4", handsome[:2], "a line of one width is not handsome")
        desk.press("fast notes", ".presets")
        desk.rests()
        fast = self.order()
        self.assertNotEqual(fast, handsome)
        # a border of the bar by the keys: shares move between two criteria, nothing else changes
        shares = "[...document.querySelectorAll('.names b')].map(b => parseFloat(b.textContent))"
        before = desk.js(f"return {shares}")
        desk.js(
            "const b = document.querySelector('.bar .border');"
            "for (let k = 0; k < 3; k++) b.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight'}))"
        )
        desk.wait(f"{shares}[0] > {before[0]} + 4", "a larger share")
        after = desk.js(f"return {shares}")
        self.assertAlmostEqual(sum(after), sum(before), delta=1.5)
        self.assertEqual(after[2:], before[2:])
        # opened, a place says what made it so
        desk.js(f"{ROWS}[1].querySelector('.head').click()")
        desk.says("of the total", "ol")
        desk.says("Behind", "ol")
        # a must puts out who misses it, with the reading that did
        desk.choose("A must", "thick over thin")
        desk.wait("document.querySelector(`[aria-label='Bound of thick over thin, ×']`)", "its bound")
        desk.type_number("Bound of thick over thin, ×", 2)
        desk.says("Out: range is", "ol")
        desk.press("no must")
        desk.rests()
        # a criterion of one's own, and nothing else counts
        desk.js(
            "const i = document.querySelector(`[aria-label='A criterion of your own']`);"
            "i.value = 'grip'; i.dispatchEvent(new Event('input'))"
        )
        desk.press("Score it by hand")
        desk.wait("document.querySelector(`[aria-label='grip of Moth pencil 2B']`)", "points by hand")
        desk.type_number("grip of Moth pencil 2B", 100)
        for _ in range(7):
            desk.press("out", ".names")
        desk.wait(f"{NAMES}[0] === 'Moth pencil 2B'", "the pen that lies best in the hand")
        desk.rests()
        self.assertEqual(desk.js(f"return {ROWS}[0].querySelector('.total b').textContent"), "100.0")
        desk.press("Take out the report")
        desk.says("is in your downloads")
        self.assertIn(b"Moth pencil 2B", desk.download("Line-up.html"))
        self.assertEqual(desk.trouble(), [])
