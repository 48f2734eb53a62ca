"""J2, J3 and J4 on the real screens, to their ends."""

import json
from typing import Any

from gray_quill.store.database import connect
from tests.browser.desk import DeskCase

MARGIN = "document.querySelector('.margin').textContent"
PICTURE = "document.querySelector('[data-ink=now]')"
EVIDENCE = """
const rows = [...document.querySelectorAll('.evidence tr')]
return rows.map((r) => [...r.children].slice(0, 2).map((c) => c.textContent))
"""


class PenBench(DeskCase):
    shared = False  # each story keeps pens of its own

    def setUp(self) -> None:
        super().setUp()
        self.db = connect(self.desk.server.folder)
        self.addCleanup(self.db.close)

    def open_pen(self) -> None:
        self.desk.open("pen")
        self.desk.wait(f"{PICTURE}?.complete && {PICTURE}.naturalWidth", "the line re-inked")
        self.desk.says("Width in letters", ".margin")

    def recipe(self, pen_id: str, revision: int) -> dict[str, Any]:
        row = "SELECT recipe FROM pen_revisions WHERE pen_id = ? AND revision = ?"
        return dict(json.loads(self.db.execute(row, (pen_id, revision)).fetchone()[0]))

    def source(self) -> str:
        return str(self.desk.js(f"return {PICTURE}.src"))

    def keep_as(self, revision: int) -> None:
        self.desk.press(f"Keep as revision {revision}")
        self.desk.pen_kept()

    # J2: my light strokes vanish

    def test_j2_light_strokes_are_won_back(self) -> None:
        self.write_a_force_strip()
        self.fit_the_pen_to_it()
        self.keep_and_remember()

    def write_a_force_strip(self) -> None:
        desk = self.desk
        desk.open()
        desk.press("Trap log", "h1")
        desk.press("New force strip")
        desk.says("as lightly as you can", ".prompts")
        desk.press("Let it do the prompts")
        desk.says("Light and firm", ".margin")

    def fit_the_pen_to_it(self) -> None:
        desk = self.desk
        self.open_pen()
        old = self.source()
        desk.press("press", ".tabs")
        desk.press("Fit to my hand")
        desk.says("of the range", ".report")
        desk.wait(f"{PICTURE}.src !== {json.dumps(old)}", "the picture")
        desk.says("→", ".margin")

    def keep_and_remember(self) -> None:
        self.desk.press("Remember")
        self.keep_as(2)
        before, after = (self.recipe("fen-fountain", revision)["press"] for revision in (1, 2))
        self.assertNotEqual(before["points"], after["points"])
        self.assertEqual(before["range"], after["range"])
        kept = self.db.execute(
            "SELECT press FROM press_fits WHERE hand_id = 'right-firm' AND device_id = 'tablet-11'"
        ).fetchone()
        self.assertEqual(json.loads(kept[0])["points"], after["points"])

    # J3: is this really a fountain pen

    def test_j3_a_fountain_pen_gets_life(self) -> None:
        self.open_pen()
        self.claim_a_ballpoint_to_be_a_fountain_pen()
        self.give_it_range_and_tips()
        self.ask_a_spot_why()
        self.lay_it_beside_another()
        self.undo_it_all()

    def claim_a_ballpoint_to_be_a_fountain_pen(self) -> None:
        desk = self.desk
        desk.pick("Reed ballpoint")
        desk.says("A ballpoint?", ".margin")
        desk.press("pen", ".tabs")
        desk.choose("Kind", "fountain")
        desk.says("It is really a ballpoint", ".margin")

    def give_it_range_and_tips(self) -> None:
        desk = self.desk
        old = self.source()
        for tab, label, share in (
            ("press", "Thin to thick", 0.5),
            ("ends", "End taper", 0.37),
            ("ends", "End tip", 0.1),
        ):
            desk.press(tab, ".tabs")
            desk.drag_slider(label, share)
        desk.says("Yes: varies inside letters", ".margin")
        desk.wait(f"{PICTURE}.src !== {json.dumps(old)}", "the picture")
        of_this_ink = "[...document.querySelectorAll('.group .effect i')].some(i => parseFloat(i.style.width) > 0)"
        desk.wait(of_this_ink, "what each control does")

    def ask_a_spot_why(self) -> None:
        """A spot on the ink explains its width: the factors multiply to it."""
        desk = self.desk
        left, top = desk.corner("[data-ink=now]")
        y = top + desk.js(f"return {PICTURE}.getBoundingClientRect().height") / 2
        for k in range(12):
            desk.write([(left + 14 + 6 * k, y, 0.5)])
            desk.rests()
            if rows := dict(desk.js(EVIDENCE)):
                break
        press, pace, ends = (float(rows[name].replace("×", "")) for name in ("press", "pace", "ends"))
        body, width = (float(rows[name].split()[0]) for name in ("body", "width"))
        self.assertAlmostEqual(body * press * pace * ends, width, delta=0.02)

    def lay_it_beside_another(self) -> None:
        desk = self.desk
        desk.press("beside others", ".views")
        desk.choose("Other pens", "Heron brush 0.7")
        desk.wait(f"{MARGIN}.includes('Differences') && {MARGIN}.includes('against')", "the differences")
        self.assertEqual(desk.js("return document.querySelectorAll('.strip img').length"), 2)

    def undo_it_all(self) -> None:
        """Everything is one undo a step, back to what is kept."""
        desk = self.desk
        desk.press("before and after", ".views")
        for _ in range(4):
            desk.press("Undo", ".keep")
            desk.rests()
        desk.says("A ballpoint?", ".margin")
        can_keep = (
            "[...document.querySelectorAll('.keep button')].some(b => /^Keep/.test(b.textContent) && !b.disabled)"
        )
        self.assertFalse(desk.js(f"return {can_keep}"))

    # J4: the line wobbles

    def test_j4_the_wobble_is_calmed_within_a_drag(self) -> None:
        self.open_pen()
        self.desk.press("steady", ".tabs")
        self.desk.wait("document.querySelector('.plot svg path')", "the chart")
        self.ask_for_the_calmest_in_20_ms()
        self.drag_the_point_too_far()
        self.try_the_advice()

    def ask_for_the_calmest_in_20_ms(self) -> None:
        desk = self.desk
        desk.type_number("Most drag, ms", 20)
        desk.press("Calmest in")
        answer = "/^(\\S+) ([\\d.]+): ([\\d.]+) % left, ([\\d.]+) ms/"
        said = desk.wait(f"document.querySelector('.steady [role=status]')?.textContent.match({answer})", "the answer")
        self.assertLessEqual(float(said[4]), 20)
        self.assertGreater(float(said[4]), 10)
        desk.wait(f"{MARGIN}.match(/→[^→]*ms, trails/)", "drag old and new")
        self.keep_as(2)
        steady = self.recipe("fen-fountain", 2)["steady"]
        self.assertEqual((steady["method"], round(steady["amount"], 1)), (said[1], float(said[2])))

    def drag_the_point_too_far(self) -> None:
        desk = self.desk
        left, top = desk.corner(".plot")
        high = desk.js("return document.querySelector('.plot').getBoundingClientRect().height")
        desk.drag((left + 60, top + high * 0.4), (left + 210, top + high * 0.7), 5)
        desk.says("changes not kept", "header p")
        desk.says("heavy:", ".margin")
        desk.says("Corners are lost", ".margin")

    def try_the_advice(self) -> None:
        desk = self.desk
        note = "[...document.querySelectorAll('.note')].find(n => n.textContent.includes('Corners are lost'))"
        desk.js(f"{note}.querySelector('.word-button').click()")
        desk.wait(f"!{MARGIN}.includes('Corners are lost')", "the advice, once tried, to be gone")
