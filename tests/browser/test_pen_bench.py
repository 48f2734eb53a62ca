"""J2, J3 and J4 on the real screens, to their ends."""

import json
import time
import unittest

from gray_quill.store.database import connect
from tests.browser.driver import browser, pen, served, wait_for
from tests.browser.test_first_minute import press

MARGIN = "document.querySelector('.margin').textContent"
PICTURE = "document.querySelector('[data-ink=now]')"


class PenBench(unittest.TestCase):
    def setUp(self) -> None:
        server = served()
        self.server = server.__enter__()
        self.addCleanup(server.__exit__, None, None, None)
        chrome = browser()
        self.driver = chrome.__enter__()
        self.addCleanup(chrome.__exit__, None, None, None)
        self.db = connect(self.server.folder)
        self.addCleanup(self.db.close)

    def open_pen(self) -> None:
        self.driver.get(self.server.url + "/pen")
        wait_for(self.driver, f"{PICTURE}?.complete && {PICTURE}.naturalWidth", "the line re-inked", 30)
        wait_for(self.driver, f"{MARGIN}.includes('Width in letters')", "readings")

    def recipe(self, pen_id: str, revision: int) -> dict:
        return json.loads(
            self.db.execute(
                "SELECT recipe FROM pen_revisions WHERE pen_id = ? AND revision = ?", (pen_id, revision)
            ).fetchone()[0]
        )

    def source(self) -> str:
        return str(self.driver.execute_script(f"return {PICTURE}.src"))

    def drag_slider(self, label: str, share: float) -> None:
        """Drag a slider's knob to a share of its track, by real pen events."""
        find = (
            "[...document.querySelectorAll('.el-slider__button-wrapper')].find(b => "
            "(b.getAttribute('aria-label') ?? b.closest('.el-slider').getAttribute('aria-label')) === "
            f"{json.dumps(label)} || b.querySelector('[aria-label={json.dumps(label)}]') || "
            f"b.closest('.el-slider').innerHTML.includes({json.dumps(label)}))"
        )
        wait_for(self.driver, find, label)
        self.driver.execute_script(f"{find}.scrollIntoView({{block: 'center'}})")
        x, y = self.driver.execute_script(
            f"const r = {find}.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]"
        )
        left, width = self.driver.execute_script(
            f"const r = {find}.closest('.el-slider').querySelector('.el-slider__runway').getBoundingClientRect(); "
            "return [r.x, r.width]"
        )
        goal = left + width * share
        pen(self.driver, "mousePressed", x, y)
        for step in range(1, 7):
            pen(self.driver, "mouseMoved", x + (goal - x) * step / 6, y)
        pen(self.driver, "mouseReleased", goal, y, 0)

    def test_j2_light_strokes_are_won_back(self) -> None:
        """My light strokes vanish: write a force strip, fit the pen to it, see what changed, keep and remember it."""
        driver = self.driver
        driver.get(self.server.url)
        wait_for(driver, "document.querySelector('[data-layer=live]')", "the sheet", 30)
        press(driver, "Trap log", "h1")
        press(driver, "New force strip")
        wait_for(
            driver, "document.querySelector('.prompts')?.textContent.includes('as lightly as you can')", "the prompts"
        )
        press(driver, "Let it do the prompts")
        wait_for(driver, f"{MARGIN}.includes('Light and firm')", "readings", 20)
        self.open_pen()
        old = self.source()
        driver.execute_script(
            "[...document.querySelectorAll('[role=tab]')].find(b => b.textContent.trim() === 'press').click()"
        )
        press(driver, "Fit to my hand")
        wait_for(
            driver,
            "document.querySelector('.report')?.textContent.includes('of the range')",
            "the report before and after",
        )
        wait_for(driver, f"{PICTURE}.src !== {json.dumps(old)}", "the picture")
        wait_for(driver, f"{MARGIN}.includes('→')", "old and new numbers")
        press(driver, "Remember")
        press(driver, "Keep as revision 2")
        wait_for(driver, "document.querySelector('header p').textContent.includes('all ink kept')", "the revision")
        before, after = self.recipe("fen-fountain", 1)["press"], self.recipe("fen-fountain", 2)["press"]
        self.assertNotEqual(before["points"], after["points"])
        self.assertEqual(before["range"], after["range"])
        kept = self.db.execute(
            "SELECT press FROM press_fits WHERE hand_id = 'right-firm' AND device_id = 'tablet-11'"
        ).fetchone()
        self.assertEqual(json.loads(kept[0])["points"], after["points"])

    def test_j3_a_fountain_pen_gets_life(self) -> None:
        """Claim a ballpoint to be a fountain pen, be told, give it range and tips until it is one; undo; ask a spot
        why; compare.
        """
        driver = self.driver
        self.open_pen()
        driver.execute_script("document.querySelectorAll('.roll button')[1].click()")
        wait_for(driver, f"{MARGIN}.includes('A ballpoint?')", "the verdict on the ballpoint", 20)
        tab = "[...document.querySelectorAll('[role=tab]')].find(b => b.textContent.trim() === {})"
        driver.execute_script(tab.format("'pen'") + ".click()")
        wait_for(driver, "document.querySelector('.identity')", "the pen's card")
        driver.execute_script("document.querySelector('.identity .el-select__wrapper').click()")
        wait_for(
            driver,
            "[...document.querySelectorAll('.el-select-dropdown__item')].some(i => i.offsetParent && "
            "i.textContent.trim() === 'fountain')",
            "the kinds",
        )
        driver.execute_script(
            "[...document.querySelectorAll('.el-select-dropdown__item')].find(i => i.offsetParent && "
            "i.textContent.trim() === 'fountain').click()"
        )
        wait_for(driver, f"{MARGIN}.includes('It is really a ballpoint')", "to be told what it really is")
        old = self.source()
        driver.execute_script(tab.format("'press'") + ".click()")
        self.drag_slider("Thin to thick", 0.18)
        driver.execute_script(tab.format("'ends'") + ".click()")
        self.drag_slider("End taper", 0.05)
        self.drag_slider("End tip", 0.1)
        wait_for(driver, f"{MARGIN}.includes('Yes: varies inside letters')", "the verdict to change")
        wait_for(driver, f"{PICTURE}.src !== {json.dumps(old)}", "the picture")
        wait_for(
            driver,
            "[...document.querySelectorAll('.effect')].some(e => e.textContent.includes('of this ink'))",
            "what each control does",
        )
        # a spot on the ink explains its width
        x, y = driver.execute_script(
            f"const r = {PICTURE}.getBoundingClientRect(); return [r.left + 14, r.top + r.height / 2]"
        )
        for k in range(12):
            pen(driver, "mousePressed", x + 6 * k, y)
            pen(driver, "mouseReleased", x + 6 * k, y, 0)
            time.sleep(0.25)
            if driver.execute_script("return !!document.querySelector('.evidence table')"):
                break
        rows = dict(
            driver.execute_script(
                "return [...document.querySelectorAll('.evidence tr')].map(r => [r.children[0].textContent, "
                "r.children[1].textContent])"
            )
        )
        factor = [float(rows[n].replace("×", "")) for n in ("press", "pace", "ends")]
        self.assertAlmostEqual(
            float(rows["body"].split()[0]) * factor[0] * factor[1] * factor[2],
            float(rows["width"].split()[0]),
            delta=0.02,
        )
        # beside another pen, the differences are listed
        driver.execute_script(tab.format("'beside others'") + ".click()")
        wait_for(driver, "document.querySelector('.views .el-select__wrapper')", "the choice of pens")
        driver.execute_script("document.querySelector('.views .el-select__wrapper').click()")
        wait_for(
            driver,
            "[...document.querySelectorAll('.el-select-dropdown__item')].some(i => i.offsetParent && "
            "i.textContent.trim() === 'Heron brush 1.6')",
            "the pens",
        )
        driver.execute_script(
            "[...document.querySelectorAll('.el-select-dropdown__item')].find(i => i.offsetParent && "
            "i.textContent.trim() === 'Heron brush 1.6').click()"
        )
        wait_for(driver, f"{MARGIN}.includes('Differences') && {MARGIN}.includes('against')", "the differences")
        self.assertEqual(driver.execute_script("return document.querySelectorAll('.strip img').length"), 2)
        # everything is one undo a step
        driver.execute_script(tab.format("'before and after'") + ".click()")
        for _ in range(4):
            press(driver, "Undo", ".keep")
            time.sleep(0.2)
        wait_for(driver, f"{MARGIN}.includes('A ballpoint?')", "undo to lead back to the ballpoint")
        self.assertFalse(
            driver.execute_script(
                "return [...document.querySelectorAll('.keep button')].some(b => b.textContent.startsWith('Keep') "
                "&& !b.disabled)"
            )
        )

    def test_j4_the_wobble_is_calmed_within_a_drag(self) -> None:
        """Shaky lines: ask for the calmest setting within 20 ms, then for a wobble, then drag the point; a bad wish is
        answered.
        """
        driver = self.driver
        self.open_pen()
        driver.execute_script(
            "[...document.querySelectorAll('[role=tab]')].find(b => b.textContent.trim() === 'steady').click()"
        )
        wait_for(driver, "document.querySelector('.plot svg path')", "the chart", 20)
        driver.execute_script(
            "const i = document.querySelector('[aria-label=\"Most drag, ms\"]').querySelector('input') ?? "
            "document.querySelector('[aria-label=\"Most drag, ms\"]');"
            "i.value = 20; i.dispatchEvent(new Event('input', {bubbles: true})); i.dispatchEvent(new "
            "Event('change', {bubbles: true}))"
        )
        press(driver, "Calmest in")
        said = wait_for(
            driver,
            "document.querySelector('.steady [role=status]')?.textContent.match(/^(\\S+) ([\\d.]+): ([\\d.]+) mm "
            "left, ([\\d.]+) ms/)",
            "the answer",
        )
        self.assertLessEqual(float(said[4]), 20)
        self.assertGreater(float(said[4]), 10)
        wait_for(driver, f"{MARGIN}.match(/→[^→]*ms, trails/)", "drag old and new")
        press(driver, "Keep as revision 2")
        wait_for(driver, "document.querySelector('header p').textContent.includes('all ink kept')", "the revision")
        steady = self.recipe("fen-fountain", 2)["steady"]
        self.assertEqual((steady["method"], round(steady["amount"], 1)), (said[1], float(said[2])))
        # drag the point to the calm end of a curve
        left, top, height = driver.execute_script(
            "const r = document.querySelector('.plot').getBoundingClientRect(); return [r.x, r.y, r.height]"
        )
        pen(driver, "mousePressed", left + 60, top + height * 0.4)
        for k in range(1, 6):
            pen(driver, "mouseMoved", left + 60 + 30 * k, top + height * (0.4 + 0.06 * k))
        pen(driver, "mouseReleased", left + 210, top + height * 0.7, 0)
        wait_for(
            driver,
            "document.querySelector('header p').textContent.includes('revision 3 not kept yet')",
            "the point to move the pen",
        )
        wait_for(driver, f"{MARGIN}.includes('The pen is heavy')", "advice that the pen is heavy now", 20)
        driver.execute_script(
            "[...document.querySelectorAll('.note')].find(n => n.textContent.includes('The pen is "
            "heavy')).querySelector('.word-button').click()"
        )
        wait_for(driver, f"!{MARGIN}.includes('The pen is heavy')", "the advice, once tried, to be gone", 20)
