"""J1 and the first half of J2 on the real screens, with a real pen."""

import io
import json
import time
import unittest

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.formats.inkml import read_inkml
from gray_quill.store.database import connect
from gray_quill.store.sheets import list_strokes
from tests.browser.driver import browser, pen, served, wait_for, write_stroke

LAYER = "document.querySelector('[data-layer={}]')"


def press(driver, words: str, scope: str = "body") -> None:  # type: ignore[no-untyped-def]
    """Press the button or link that says these words."""
    wait_for(
        driver,
        f"[...document.querySelectorAll('{scope} button, {scope} a')].some(b => "
        f"b.textContent.trim().startsWith({json.dumps(words)}) && !b.disabled)",
        words,
    )
    driver.execute_script(
        "[...document.querySelectorAll(arguments[1] + ' button, ' + arguments[1] + ' a')]"
        ".find(b => b.textContent.trim().startsWith(arguments[0]) && !b.disabled).click()",
        words,
        scope,
    )


def inked(driver, layer: str, box: tuple[float, float, float, float] | None = None) -> int:  # type: ignore[no-untyped-def]
    """Dark or covered pixels of a canvas layer, in a box of canvas pixels."""
    return driver.execute_script(
        f"const c = {LAYER.format(layer)}; const [x, y, w, h] = arguments[0] ?? [0, 0, c.width, c.height];"
        "const d = c.getContext('2d').getImageData(x, y, w, h).data; let n = 0;"
        "for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 128 && d[i] + d[i + 1] + d[i + 2] < 430) n++; return n",
        box,
    )


class FirstMinute(unittest.TestCase):
    def test_write_tune_keep_and_take_out(self) -> None:
        with served() as server, browser() as driver:
            driver.get(server.url)
            wait_for(driver, LAYER.format("live"), "the sheet", 30)
            # say which hand, which device, which paper
            press(driver, "Trap log", "h1")
            press(driver, "Put down a new sheet")
            wait_for(driver, "document.querySelector('h1').textContent.startsWith('Sheet 4')", "the new sheet")
            for part, choice in (
                ("right hand", "left hand"),
                ("11-inch tablet", "10-inch e-paper slate"),
                ("dotted A5", "squared"),
            ):
                press(driver, part, "h1")
                press(driver, choice, ".choices")
                wait_for(driver, f"document.querySelector('h1').textContent.includes({json.dumps(choice)})", choice)
            self.assertTrue(
                driver.execute_script("return document.querySelector('.frame').classList.contains('stations-right')"),
                "stations left of a left hand",
            )
            time.sleep(0.8)

            # write: live ink while the pen is down, settled ink after
            left, top = driver.execute_script(
                f"const r = {LAYER.format('live')}.getBoundingClientRect(); return [r.left, r.top]"
            )
            scale = driver.execute_script(f"return {LAYER.format('live')}.getBoundingClientRect().width / 148")
            points = [(left + 100 + 3 * i, top + 200 + 30 * np.sin(i / 6), 0.1 + 0.5 * i / 100) for i in range(100)]
            before = inked(driver, "page")
            pen(driver, "mousePressed", *points[0])
            for p in points[1:]:
                pen(driver, "mouseMoved", *p)
            time.sleep(0.15)
            live = inked(driver, "live")
            self.assertGreater(live, 500)
            self.assertEqual(inked(driver, "page"), before, "nothing is settled while the pen is down")
            pen(driver, "mouseReleased", points[-1][0], points[-1][1], 0)
            wait_for(
                driver,
                "document.querySelector('header p').textContent.includes('all ink kept')",
                "the stroke to be kept",
            )
            time.sleep(0.6)
            self.assertEqual(inked(driver, "live"), 0)
            self.assertAlmostEqual((inked(driver, "page") - before) / live, 1, delta=0.12)

            # the trace is what was sent
            db = connect(server.folder)
            sheet_id = db.execute("SELECT id FROM sheets WHERE name = 'Sheet 4'").fetchone()[0]
            trace = list_strokes(db, sheet_id)[0].trace
            self.assertEqual(len(trace), 101, "and that the pen rested before it lifted")
            self.assertGreater(trace.t_s[-1] - trace.t_s[-2], 0.1)
            np.testing.assert_allclose(trace.force[:100], [p[2] for p in points], atol=1e-6)
            np.testing.assert_allclose(trace.x_mm, [(p[0] - left) / scale for p in [*points, points[-1]]], atol=0.02)
            np.testing.assert_allclose(np.degrees(trace.altitude), np.degrees(1.186474797446), atol=0.01)
            wait_for(driver, "document.querySelector('.margin').textContent.includes('Light and firm')", "readings")

            # undo and redo
            press(driver, "Undo")
            wait_for(
                driver,
                f"{LAYER.format('page')} && !document.querySelector('.margin').textContent.includes('reports in 1 "
                "stroke')",
                "undo",
            )
            time.sleep(0.5)
            self.assertEqual(inked(driver, "page"), before)
            press(driver, "Redo")
            time.sleep(0.8)
            self.assertGreater(inked(driver, "page"), before + 400)

            # tune: drag the ceiling of the press curve to the force that is really used
            press(driver, "Pen", "nav")
            picture = "document.querySelector('[data-ink=now]')"
            wait_for(driver, f"{picture}?.complete && {picture}.naturalWidth", "the line re-inked")
            old = driver.execute_script(f"return {picture}.src")
            wait_for(driver, "document.querySelector('.margin').textContent.includes('Width in letters')", "readings")
            ceiling = driver.execute_script(
                "const r = document.querySelector('.point:last-of-type .reach').getBoundingClientRect(); return "
                "[r.x + r.width / 2, r.y + r.height / 2]"
            )
            wide = driver.execute_script("return document.querySelector('.ground').getBoundingClientRect().width")
            pen(driver, "mousePressed", *ceiling)
            for step in range(1, 9):
                pen(driver, "mouseMoved", ceiling[0] - wide * 0.04 * step, ceiling[1])
            pen(driver, "mouseReleased", ceiling[0] - wide * 0.32, ceiling[1], 0)
            wait_for(driver, f"{picture}.src !== {json.dumps(old)}", "the picture to follow the curve")
            wait_for(driver, "document.querySelector('.margin').textContent.includes('→')", "old and new numbers")
            self.assertIn("revision 2 not kept yet", driver.find_element("css selector", "header p").text)
            self.assertNotEqual(
                driver.execute_script("return document.querySelector('[data-ink=kept]').src"),
                driver.execute_script(f"return {picture}.src"),
            )
            press(driver, "Keep as revision 2")
            wait_for(
                driver,
                "document.querySelector('header p').textContent.includes('all ink kept')",
                "the revision to be kept",
            )
            recipe = json.loads(
                db.execute(
                    "SELECT recipe FROM pen_revisions WHERE pen_id = 'fen-fountain' AND revision = 2"
                ).fetchone()[0]
            )
            self.assertAlmostEqual(recipe["press"]["ceiling"], 0.95 - 0.32, delta=0.02)

            # reload: all still there
            driver.refresh()
            wait_for(
                driver,
                "document.querySelector('.strip span')?.textContent.includes('kept revision 2')",
                "the pen after a reload",
                30,
            )
            press(driver, "Sheet", "nav")
            wait_for(driver, LAYER.format("page"), "the sheet after a reload")
            time.sleep(1)
            self.assertGreater(inked(driver, "page"), before + 400)

            # take it out in every form
            press(driver, "Take out")
            for word, form in (("SVG", "svg"), ("PNG", "png"), ("PDF", "pdf"), ("InkML", "inkml")):
                press(driver, word, ".out")
                target = driver.downloads / f"Sheet 4.{form}"
                for _ in range(100):
                    if target.exists() and target.stat().st_size:
                        break
                    time.sleep(0.1)
                data = target.read_bytes()
                if form == "svg":
                    self.assertEqual(data.count(b'<path fill="#20242b"'), 1)
                elif form == "png":
                    self.assertEqual(Image.open(io.BytesIO(data)).size, (1748, 2480))
                elif form == "pdf":
                    self.assertAlmostEqual(pypdfium2.PdfDocument(data)[0].get_size()[0], 148 * 72 / 25.4, delta=0.01)
                else:
                    back = read_inkml(data)[0]
                    self.assertLess(np.abs(back.xy_mm - trace.xy_mm).max(), 0.005)
                    self.assertLess(np.abs(back.force - trace.force).max(), 1 / 4096)
            db.close()
            severe = [e for e in driver.get_log("browser") if e["level"] == "SEVERE"]
            self.assertEqual(severe, [])


class Kill(unittest.TestCase):
    def test_a_killed_server_loses_nothing_that_was_written(self) -> None:
        with served() as server, browser() as driver:
            driver.get(server.url)
            wait_for(driver, LAYER.format("live"), "the sheet", 30)
            time.sleep(1.5)
            left, top = driver.execute_script(
                f"const r = {LAYER.format('live')}.getBoundingClientRect(); return [r.left, r.top]"
            )

            def stroke(k: int) -> None:
                write_stroke(driver, [(left + 60 + 40 * k + 2 * i, top + 40 + 3 * i, 0.5) for i in range(8)])

            count = "SELECT count(*) FROM strokes WHERE sheet_id = 'trap-log'"
            db = connect(server.folder)
            start = db.execute(count).fetchone()[0]
            for k in range(4):
                stroke(k)
            server.kill()
            for k in range(4, 9):
                stroke(k)
            waiting = wait_for(
                driver,
                "document.querySelector('header p').textContent.match(/(\\d+) strokes? waiting/)?.[1]",
                "strokes to wait",
            )
            self.assertGreaterEqual(int(waiting), 5)
            confirmed = db.execute(count).fetchone()[0]
            self.assertEqual(confirmed + int(waiting), start + 9)
            server.start()
            driver.get(server.url)
            wait_for(
                driver,
                "document.querySelector('header p')?.textContent.includes('all ink kept')",
                "the rest to be sent again",
                30,
            )
            deadline = time.time() + 10
            while db.execute(count).fetchone()[0] < start + 9 and time.time() < deadline:
                time.sleep(0.2)
            self.assertEqual(db.execute(count).fetchone()[0], start + 9, "no stroke missing, none twice")
            db.close()
