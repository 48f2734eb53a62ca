"""J5 and J6 on the real screens, to their ends, with errors on the way."""

import contextlib
import io
import json
import pathlib
import re
import tempfile
import time
import unittest

import numpy as np
from PIL import Image

from gray_quill.store.database import connect
from tests.browser.driver import browser, choose, pen, served, wait_for
from tests.browser.test_first_minute import press

CELL = "document.querySelector('tr[data-paper={0}] td[data-passes=\"{1}\"]')"
SOLVED = "document.querySelector('[data-solve]')?.textContent ?? ''"


def photograph(side: int, flat: bool = False) -> bytes:
    """A PNG of a bumpy surface, or of nothing."""
    y, x = np.mgrid[:side, :side]
    bumps = np.zeros((side, side)) if flat else np.sin(x / 3.1) * np.sin(y / 2.7) + np.sin((x + y) / 3.7)
    out = io.BytesIO()
    Image.fromarray((128 + 40 * bumps).astype(np.uint8)).save(out, "PNG")
    return out.getvalue()


class WashAndTooth(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        stack = contextlib.ExitStack()
        cls.addClassCleanup(stack.close)
        cls.server = stack.enter_context(served())
        cls.driver = stack.enter_context(browser())
        cls.db = stack.enter_context(contextlib.closing(connect(cls.server.folder)))

    def recipe(self, pen_id: str) -> dict:
        row = self.db.execute(
            "SELECT recipe FROM pen_revisions WHERE pen_id = ? ORDER BY revision DESC", (pen_id,)
        ).fetchone()
        return dict(json.loads(row[0]))

    def numbers(self, paper: str, passes: int) -> tuple[float, float]:
        """Contrast of writing and of print in a cell of the grid."""
        texts = self.driver.execute_script(
            "return [..." + CELL.format(json.dumps(paper), passes) + ".querySelectorAll('b')].map(b => b.textContent)"
        )
        return tuple(float(re.match(r"[\d.]+", t)[0]) for t in texts)  # type: ignore[index, return-value]

    def settled_grid(self) -> None:
        wait_for(self.driver, "document.querySelector('.grid-holder table:not(.stale) img')?.complete", "the grid", 20)
        time.sleep(0.4)
        wait_for(self.driver, "document.querySelector('.grid-holder table:not(.stale)')", "the grid", 20)

    def test_j5_a_highlighter_that_leaves_words_alone(self) -> None:
        driver = self.driver
        driver.get(self.server.url + "/wash")
        self.settled_grid()
        good = self.numbers("#ffffff", 2)
        self.assertGreater(good[0], 4.5)
        # a wash laid plainly over the words dims them, and the numbers say so
        choose(driver, "Place", "over")
        choose(driver, "Blend", "normal")
        wait_for(
            driver,
            f"{CELL.format(json.dumps('#ffffff'), 2)}.querySelector('b').classList.contains('lost')",
            "drowned writing",
            20,
        )
        self.settled_grid()
        drowned = self.numbers("#ffffff", 2)
        self.assertTrue(drowned[0] < 3 and drowned[1] < good[1], drowned)
        # printed words the face does not have are refused, and nothing is lost
        printed = driver.find_element("css selector", "[aria-label='Printed words']")
        printed.send_keys("é")
        wait_for(driver, "document.querySelector('[role=alert]')?.textContent.includes('leave out')", "the refusal")
        printed.send_keys("\b")
        press(driver, "Understood", "[role=alert]")
        # solve for the sheet's paper, take it, and see the numbers hold
        wait_for(driver, f"{SOLVED}.includes('after two passes')", "a solution", 20)
        press(driver, "Use it", "[data-solve]")
        wait_for(
            driver,
            f"{CELL.format(json.dumps('#ffffff'), 2)}.querySelector('b').className === 'good'",
            "readable writing",
            20,
        )
        self.settled_grid()
        self.assertGreaterEqual(min(self.numbers("#ffffff", 2)), 4.5)
        # a dark paper has its own answer, in light ink
        choose(driver, "Solve for paper", "for dark")
        time.sleep(0.6)
        said = wait_for(driver, f"/(\\d+(\\.\\d+)?):1 after two passes/.exec({SOLVED})?.[1]", "the dark answer", 20)
        self.assertGreaterEqual(float(said), 4.5)
        self.assertIn(
            "in Lamp white",
            driver.execute_script("return document.querySelector('tr[data-paper=\"#2b3036\"] th').textContent"),
        )
        # undo goes back over the solution; redo takes it again; keep it
        press(driver, "Undo", ".margin")
        wait_for(
            driver,
            f"{CELL.format(json.dumps('#ffffff'), 2)}.querySelector('b').classList.contains('lost')",
            "undone",
            20,
        )
        press(driver, "Redo", ".margin")
        press(driver, "Keep as revision 2", ".margin")
        wait_for(
            driver,
            "[...document.querySelectorAll('.margin button')].some(b => b.textContent.includes('Keep as revision 3'))",
            "kept",
        )
        kept = self.recipe("dusk-wash")
        self.assertEqual((kept["wash"]["blend"], kept["wash"]["place"]), ("multiply", "over"))
        self.wash_a_line()

    def wash_a_line(self) -> None:
        """With Fern wash on the sheet: a wavering stroke, held still at its end, lies straight; the ink under it stays
        as dark as it was.
        """
        driver = self.driver
        driver.get(self.server.url + "/sheet")
        wait_for(driver, "document.querySelector('[data-layer=live]')", "the sheet", 30)
        time.sleep(1)
        driver.execute_script(
            "[...document.querySelectorAll('.roll button')].find(b => b.textContent.includes('Fern wash')).click()"
        )
        wait_for(driver, "document.querySelector('h1').textContent.includes('Fern wash')", "the wash in the hand")
        time.sleep(0.8)
        before, _ = self.full_ink()
        left, top, width = driver.execute_script(
            "const r = document.querySelector('[data-layer=live]').getBoundingClientRect(); return [r.x, r.y, r.width]"
        )
        scale = width / 148
        points = [(left + (15 + 30 * k / 12) * scale, top + (55 + (1.2 if k % 2 else -1.2)) * scale) for k in range(13)]
        count = self.db.execute("SELECT count(*) FROM strokes WHERE sheet_id = 'trap-log'").fetchone()[0]
        pen(driver, "mousePressed", *points[0])
        for at in points[1:]:
            pen(driver, "mouseMoved", *at)
        time.sleep(0.8)  # hold still
        live = self.spread("live")
        pen(driver, "mouseReleased", *points[-1], 0)
        wait_for(driver, "document.querySelector('header p').textContent.includes('all ink kept')", "the stroke kept")
        for _ in range(50):
            if self.db.execute("SELECT count(*) FROM strokes WHERE sheet_id = 'trap-log'").fetchone()[0] == count + 1:
                break
            time.sleep(0.1)
        else:
            self.fail("the stroke is not in the database")
        time.sleep(1)
        after, changed = self.full_ink()
        self.assertGreater(before, 10_000)
        self.assertLessEqual(changed, 1, "full ink under the wash is untouched")
        self.assertAlmostEqual(after, before, delta=5)
        self.assertLess(live, 5.4 * scale * 1.1, f"live ink straightens while the pen is held: {live / scale} mm high")

    def full_ink(self) -> list[int]:
        """How many pixels of the page are full ink now, and by how much those of the first call have changed at most,
        of 765.
        """
        return list(
            self.driver.execute_script(
                "const c = document.querySelector('[data-layer=page]'), d = c.getContext('2d').getImageData(0, 0, "
                "c.width, c.height).data;"
                "const sum = i => d[i] + d[i + 1] + d[i + 2]; const all = []; for (let i = 0; i < d.length; i += 4) "
                "if (sum(i) < 112) all.push([i, sum(i)]);"
                "window.fullInk ??= all; return [all.length, Math.max(...window.fullInk.map(([i, v]) => "
                "Math.abs(sum(i) - v)))]"
            )
        )

    def spread(self, layer: str) -> float:
        """Height in CSS pixels of what a layer carries."""
        return float(
            self.driver.execute_script(
                f"const c = document.querySelector('[data-layer={layer}]'), d = c.getContext('2d').getImageData(0, "
                "0, c.width, c.height).data; let lo = 1e9, hi = -1;"
                "for (let j = 0; j < c.height; j++) for (let i = 0; i < c.width; i++) if (d[4 * (j * c.width + i) + "
                "3] > 128) { lo = Math.min(lo, j); hi = j }"
                "return (hi - lo + 1) * c.getBoundingClientRect().height / c.height"
            )
        )

    def test_j6_a_pencil_that_shades_and_writes(self) -> None:
        driver = self.driver
        driver.get(self.server.url + "/pen")
        wait_for(driver, "document.querySelectorAll('.roll button').length === 10", "the roll", 30)
        driver.execute_script(
            "[...document.querySelectorAll('.roll button')].find(b => b.textContent.includes('Moth pencil')).click()"
        )
        wait_for(driver, "document.querySelector('h1').textContent.includes('Moth pencil')", "the pencil")
        driver.execute_script(
            "[...document.querySelectorAll('[role=tab]')].find(b => b.textContent.trim() === 'tooth').click()"
        )
        patch = "document.querySelector('[data-patch=\"{}\"]')"
        tone = f"parseFloat({patch.format('upright-middle')}?.querySelector('b').textContent)"
        wait_for(driver, tone, "the shading bench", 30)
        before = driver.execute_script(f"return {tone}")
        self.assertLess(
            driver.execute_script(f"return parseFloat({patch.format('leaned-middle')}.querySelector('b').textContent)"),
            before,
        )
        self.assertEqual(
            driver.execute_script("return [...document.querySelectorAll('[data-text] b')].map(b => b.textContent)"),
            ["reads well"] * 3,
        )
        self.assertIn(
            "pixels wide at 150 dpi",
            driver.execute_script("return document.querySelector('tr[data-dpi=\"150\"]').textContent"),
        )
        # a softer grade is darker, and can still write; one step of undo
        driver.execute_script("document.querySelector('.ladder [aria-label^=\"6B\"]').click()")
        wait_for(driver, f"{tone} > {before} + 5", "a darker patch", 20)
        press(driver, "Undo", ".keep")
        wait_for(driver, f"Math.abs({tone} - {before}) < 0.5", "undone", 20)
        # your own shading from the test sheet is measured beside it
        choose(driver, "Your own shading from", "from Test sheet")
        wait_for(driver, f"{patch.format('own')}?.textContent.includes('your shading')", "own shading", 20)
        # an own grain: a flat picture is refused in words, a good one changes the marks
        old = driver.execute_script(f"return {patch.format('upright-middle')}.querySelector('img').src")
        with tempfile.TemporaryDirectory() as folder:
            chooser = driver.find_element("css selector", "[aria-label='Grain picture, PNG']")
            for name, data in (("flat.png", photograph(200, flat=True)), ("bumps.png", photograph(300))):
                file = pathlib.Path(folder) / name
                file.write_bytes(data)
                chooser.send_keys(str(file))
                if name == "flat.png":
                    wait_for(
                        driver,
                        "document.querySelector('[role=alert]')?.textContent.includes('shows no grain')",
                        "the refusal",
                    )
                    press(driver, "Understood", "[role=alert]")
            wait_for(
                driver,
                f"{patch.format('upright-middle')}.querySelector('img').src !== {json.dumps(old)}",
                "the new grain",
                20,
            )
        press(driver, "Keep as revision 2", ".keep")
        wait_for(
            driver,
            "[...document.querySelectorAll('.keep button')].some(b => b.textContent.includes('Keep as revision 3'))",
            "kept",
        )
        kept = self.recipe("moth-pencil-2b")["tooth"]
        self.assertEqual((kept["grain"], len(kept["own"]), kept["grade"]), ("own", 21848, "2B"))
        # shades well, writes badly: a number, in words
        driver.get(self.server.url + "/sheet")
        press(driver, "Moth pencil", "h1")
        press(driver, "Alder charcoal", ".choices")
        wait_for(driver, "document.querySelector('h1').textContent.includes('Alder charcoal')", "the charcoal")
        driver.get(self.server.url + "/pen")
        wait_for(
            driver,
            "[...document.querySelectorAll('[role=tab]')].some(b => b.textContent.trim() === 'tooth')",
            "the tabs",
            30,
        )
        driver.execute_script(
            "[...document.querySelectorAll('[role=tab]')].find(b => b.textContent.trim() === 'tooth').click()"
        )
        wait_for(
            driver,
            "document.querySelector('[data-text=\"2\"] b')?.textContent === 'letters fill up'",
            "the verdict",
            30,
        )
