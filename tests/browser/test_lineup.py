"""J13 on the screen: pens lined up, weights moved, kept and measured again, judged blind, and found by choosing."""

import io

import pypdf

from tests.browser.desk import Desk, DeskCase, until_true

ROWS = "[...document.querySelectorAll('ol .row')]"
# Which of the two lines shown has more dark on it, as a promise of its number.
DARKER = """Promise.all([...document.querySelectorAll('.pair img')].map(async (i) => {
  const c = new OffscreenCanvas(i.naturalWidth, i.naturalHeight).getContext('2d')
  await i.decode()
  c.drawImage(i, 0, 0)
  return c.getImageData(0, 0, i.naturalWidth, i.naturalHeight).data.reduce((s, v) => s + v, 0)
})).then(([a, b]) => (a <= b ? 0 : 1))"""
NAMES = f"{ROWS}.map(r => r.querySelector('.name b').textContent)"


class Lineup(DeskCase):
    def fresh(self) -> Desk:
        """The station as it is found first."""
        self.desk.open("line-up")
        self.desk.rests()
        self.desk.wait("[...document.images].every(i => i.complete)", "all swatches")
        self.desk.js("localStorage.clear()")
        self.desk.open("line-up")
        return self.desk

    def order(self) -> list[str]:
        return list(self.desk.js(f"return {NAMES}"))

    def test_j13_which_pen_by_what_counts(self) -> None:
        desk = self.fresh()
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

    def test_j13_kept_measured_again_and_handed_on(self) -> None:
        desk = self.fresh()
        desk.press("Measure 5 candidates")
        desk.wait(f"{ROWS}.length === 5", "five places", 120)
        desk.rests()
        order = self.order()
        self.type("Name of the line-up", "For the notes")
        desk.press("Keep this line-up")
        desk.says("“For the notes” is kept.")
        desk.press("The report as PDF")
        desk.says("Line-up.pdf is in your downloads", seconds=60)
        pages = pypdf.PdfReader(io.BytesIO(desk.download("Line-up.pdf")))
        self.assertIn(f"1. {order[0]}", pages.pages[0].extract_text())
        desk.js(f"{ROWS}[0].querySelector('.head').click()")
        desk.wait("document.querySelector('ol a.card')", "its setting card")
        desk.js("document.querySelector('ol a.card').click()")
        card = until_true(lambda: next(iter(desk.driver.downloads.glob("*card.pdf")), None), "the card")
        self.assertIn(order[0], pypdf.PdfReader(card).pages[0].extract_text())
        # a pen is changed: measured again, that moved and nothing else did
        pen = desk.ask("pens/fen-fountain/revisions")["pens"][0]["recipe"]
        pen["press"]["range"] = 1.2
        desk.ask("pens/fen-fountain/revisions", {"recipe": pen}, "POST")
        desk.press("measure again", ".kept")
        desk.wait("document.querySelectorAll('.moved tbody tr').length > 1", "what moved", 120)
        moved = desk.js("return [...document.querySelectorAll('.moved tbody tr')].map(r => r.cells[0].textContent)")
        self.assertEqual(set(moved), {"Fen fountain 0.5"})
        desk.says("worse, surely", ".moved")
        # opened again, it is what it was
        desk.press("For the notes", ".kept")
        desk.wait("!document.querySelector('.moved')", "the line-up as it was kept")
        desk.wait(f"{ROWS}.length === 5", "five places")
        desk.rests()
        self.assertEqual(self.order(), order)
        # the same steps of every pen: how the first feels counts, its palm is left out, and the report says so
        desk.press("Begin a guided run")
        desk.says("Write the same line", ".guided")
        desk.press("Go there with it", ".guided")
        desk.wait("location.pathname === '/sheet'", "the sheet")
        desk.press("Line-up", "nav")
        desk.press("Done", ".guided")
        desk.wait("document.querySelector(`.guided [aria-label='How it feels, points']`)", "how it feels")
        desk.type_number("How it feels, points", 90)
        desk.press("Done", ".guided")
        desk.press("leave it out", ".guided")
        desk.says("guided run, palm: left out for", ".guided")
        first = desk.js("return document.querySelector('.guided b').textContent")
        desk.wait(f"document.querySelector(`[aria-label='feel of {first}']`)?.value === '90'", "its points")
        desk.press("Take out the report")
        desk.says("Line-up.html is in your downloads", seconds=60)
        self.assertIn(f"guided run, palm: left out for {first}", desk.download("Line-up.html").decode())
        self.assertEqual(desk.trouble(), [])

    def test_pens_are_judged_blind_by_someone_who_knows_what_he_likes(self) -> None:
        desk = self.fresh()
        desk.turn_to("blind pairs")
        self.type("Name of the judge", "moss")
        desk.press("Judge 5 pens blind")
        desk.wait("document.querySelector('.pair img')", "a pair", 60)
        asked = "parseInt(document.querySelector('.pairs [role=status]').textContent)"
        for n in range(12):
            desk.rests()
            desk.js(f"return {DARKER}.then(k => document.querySelectorAll('.pair button')[k].click())")
            desk.wait(f"{asked} === {n + 1}", f"answer {n + 1}", 60)
        desk.press("take the last back")
        desk.wait(f"{asked} === 11", "an answer less", 60)
        self.assertEqual([j["asked"] for j in desk.ask("pairs")["judgings"]], [11], "as it is kept")
        desk.press("What do the answers say?")
        desk.wait("document.querySelectorAll('.told ol li').length === 5", "five pens", 60)
        names = desk.js("return [...document.querySelectorAll('.told ol .name')].map(n => n.textContent)")
        pale = {"Moth pencil 2B", "Reed ballpoint 0.4"}
        self.assertEqual((set(names[-2:]), pale & set(names[:2])), (pale, set()), "who likes dark lines")
        # left, and gone on with after a reload
        desk.press("Judge more pairs")
        desk.driver.get(desk.url + "/line-up")
        desk.wait(f"document.querySelector('.pairs [role=status]') && {asked} === 11", "where it was left", 60)
        self.assertEqual(desk.trouble(), [])

    def test_a_pen_found_by_choosing_is_kept_and_written_with(self) -> None:
        desk = self.fresh()
        desk.turn_to("tune by choosing")
        desk.press("Choose for Fen fountain")
        desk.wait("document.querySelector('.pair img')", "a pair", 60)
        chosen = "parseInt([...document.querySelectorAll('.choosing [role=status]')].at(-1).textContent)"
        for n in range(8):
            desk.rests()
            desk.js(f"return {DARKER}.then(k => document.querySelectorAll('.pair button')[k].click())")
            desk.wait(f"{chosen} === {n + 1}", f"choice {n + 1}", 60)
        desk.press("What do my choices say?")
        desk.wait("document.querySelectorAll('[data-found] img').length === 2", "what was found", 60)
        desk.press("Take it as a draft")
        desk.wait("location.pathname === '/pen'", "the pen's bench")
        desk.press("Keep as revision 2")
        until_true(lambda: len(desk.ask("pens/fen-fountain/revisions")["pens"]) == 2, "a revision")
        now, before = (p["recipe"] for p in desk.ask("pens/fen-fountain/revisions")["pens"])
        widest = [r["body"]["width_mm"] * r["press"]["range"] ** 0.5 for r in (now, before)]
        self.assertGreater(widest[0], widest[1], "the darker line was chosen each time")
        desk.open("sheet")
        desk.rests()
        x, y = desk.middle(".page")
        desk.drag((x - 60, y), (x + 60, y + 6))
        desk.all_kept()
        detail = desk.ask(f"sheets/{desk.ask('desk')['sheet_id']}")
        self.assertEqual(detail["sheet"]["pen_id"], "fen-fountain")
        self.assertEqual(desk.trouble(), [])

    def type(self, label: str, words: str) -> None:
        self.desk.js(
            f"const i = document.querySelector(`[aria-label='{label}']`);"
            f"i.value = '{words}'; i.dispatchEvent(new Event('input'))"
        )
