"""The palm rules at work on the real Sheet: real touches with sizes and a real pen together, judged by strokes kept,
the page's place and its pixels.
"""

import json
import time
import unittest
import urllib.request
from typing import Any

from tests.browser.driver import browser, pen, served, wait_for
from tests.browser.test_first_minute import press

IN_TIME_MS = 3000  # the nib comes within this time of a palm, however busy the machine is
PLACE = """
const r = document.querySelector('.page').getBoundingClientRect(), f = document.querySelector('.scroll')
return [r.left, r.top, r.width, f.scrollLeft, f.scrollTop]
"""


def touches(driver: Any, kind: str, *points: tuple[int, float, float, float]) -> None:
    """Real touches through the DevTools: kind is touchStart, touchMove or touchEnd; each point id, x, y, radius in px.
    Ended ones are left out.
    """
    driver.execute_cdp_cmd(
        "Input.dispatchTouchEvent",
        {"type": kind, "touchPoints": [{"id": i, "x": x, "y": y, "radiusX": r, "radiusY": r} for i, x, y, r in points]},
    )


def slide(driver: Any, *ways: tuple[int, tuple[float, float], tuple[float, float], float], steps: int = 10) -> None:
    """Fingers land, go their ways together; they stay down."""
    for k in range(steps + 1):
        at = [(i, a[0] + (b[0] - a[0]) * k / steps, a[1] + (b[1] - a[1]) * k / steps, r) for i, a, b, r in ways]
        touches(driver, "touchMove" if k else "touchStart", *at)
        time.sleep(0.012)


class PalmOnTheSheet(unittest.TestCase):
    def test_palm_first_then_pen_zoom_lock_and_finger_ink(self) -> None:
        with served() as server, browser() as driver:
            self.driver, self.url = driver, server.url
            self.keep_rules(before_ms=IN_TIME_MS, take_back_ms=IN_TIME_MS, after_ms=600, size_mm=15, still=True)
            driver.get(server.url + "/sheet")
            wait_for(driver, "document.querySelector('[data-layer=page]')?.width > 300", "the page", 30)
            press(driver, "Trap log, first night", "h1")
            press(driver, "Put down a new sheet", ".choices")
            wait_for(driver, "document.querySelector('h1').textContent.startsWith('Sheet')", "a new sheet")
            driver.execute_script("localStorage.setItem('gray-quill-pen-seen', 'true')")
            driver.get(server.url + "/sheet")
            wait_for(driver, "document.querySelector('[data-layer=page]')?.width > 300", "the page again", 30)
            wait_for(
                driver, "document.body.textContent.includes('a finger moves the page')", "fingers that move the page"
            )
            time.sleep(1)
            self.x, self.y = driver.execute_script(
                "const r = document.querySelector('.scroll').getBoundingClientRect(); return [r.left, r.top]"
            )
            self.palm_first_then_pen()
            self.finger_moves_and_two_zoom()
            self.lock_holds()
            self.finger_ink()

    def keep_rules(self, **rules: float) -> None:
        body = {"hand_id": "right-firm", "device_id": "tablet-11", "rules": rules}
        request = urllib.request.Request(
            self.url + "/api/palm/setting",
            json.dumps(body).encode(),
            {"Content-Type": "application/json"},
            method="PUT",
        )
        urllib.request.urlopen(request).read()

    def strokes(self) -> list[Any]:
        desk = json.load(urllib.request.urlopen(self.url + "/api/desk"))
        sheet = json.load(urllib.request.urlopen(f"{self.url}/api/sheets/{desk['sheet_id']}"))
        return [sheet["sheet"]["strokes"]]

    def count(self) -> int:
        return int(self.strokes()[0])

    def nib(self, x: float, y: float) -> None:
        pen(self.driver, "mousePressed", x, y)
        for k in range(20):
            pen(self.driver, "mouseMoved", x + 6 * k, y + (k % 4))
        pen(self.driver, "mouseReleased", x + 120, y, 0)

    def ink_at(self, x: float, y: float, w: float, h: float) -> int:
        """Dark pixels of the page canvas in a box of the screen."""
        return int(
            self.driver.execute_script(
                """const c = document.querySelector('[data-layer=page]'), r = c.getBoundingClientRect()
                const s = c.width / r.width, [x, y, w, h] = arguments
                const d = c.getContext('2d').getImageData((x - r.left) * s, (y - r.top) * s, w * s, h * s).data
                let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i] < 90 && d[i + 3] > 200) n++
                return n""",
                x, y, w, h,
            )
        )  # fmt: skip

    def palm_first_then_pen(self) -> None:
        """A palm that begins small and slides moves the page; the nib comes in time: the page is back where it was and
        one clean stroke is there.
        """
        driver, x, y = self.driver, self.x, self.y
        press(driver, "closer", ".tools")
        time.sleep(1.2)
        before = driver.execute_script(PLACE)
        slide(driver, (1, (x + 420, y + 420), (x + 400, y + 360), 10))
        moved = driver.execute_script(PLACE)
        self.assertGreater(abs(moved[1] - before[1]), 20, "what is not known for a palm moves the page")
        self.nib(x + 150, y + 200)
        touches(driver, "touchEnd")
        self.assertEqual(driver.execute_script(PLACE), before, "taken back")
        # a large one does nothing at all
        slide(driver, (1, (x + 420, y + 420), (x + 380, y + 330), 60))
        self.assertEqual(driver.execute_script(PLACE), before)
        self.nib(x + 150, y + 260)
        touches(driver, "touchEnd")
        time.sleep(0.8)
        self.assertEqual(self.count(), 2)
        self.assertGreater(self.ink_at(x + 140, y + 190, 140, 30), 60)
        self.assertEqual(self.ink_at(x + 330, y + 300, 120, 140), 0, "no mark where the palm lay")

    def finger_moves_and_two_zoom(self) -> None:
        driver, x, y = self.driver, self.x, self.y
        time.sleep(1.5)  # the lock after the nib is over
        before = driver.execute_script(PLACE)
        slide(driver, (1, (x + 300, y + 400), (x + 300, y + 330), 9))
        touches(driver, "touchEnd")
        time.sleep(0.5)
        after = driver.execute_script(PLACE)
        self.assertAlmostEqual(
            before[1] - after[1], 70, delta=14, msg="less what it strayed before it counted as moving"
        )
        time.sleep(0.5)
        middle = (x + 300, y + 250)
        page_x = (middle[0] - after[0]) / after[2]
        slide(driver, (1, (x + 260, y + 250), (x + 220, y + 250), 9), (2, (x + 340, y + 250), (x + 380, y + 250), 9))
        held = driver.execute_script(PLACE)
        touches(driver, "touchEnd")
        time.sleep(1)
        zoomed = driver.execute_script(PLACE)
        self.assertAlmostEqual(zoomed[2] / after[2], 2, delta=0.15)
        self.assertAlmostEqual(
            zoomed[0] + page_x * zoomed[2], middle[0], delta=8, msg="the middle of the fingers stays where it was"
        )
        self.assertAlmostEqual(held[2], zoomed[2], delta=3, msg="laid out anew as it was held")

    def lock_holds(self) -> None:
        driver, x, y = self.driver, self.x, self.y
        before = driver.execute_script(PLACE)
        press(driver, "page free", ".tools")
        time.sleep(0.3)
        self.assertEqual(driver.execute_script(PLACE), before, "locking moves nothing")
        slide(driver, (1, (x + 260, y + 250), (x + 220, y + 250), 9), (2, (x + 340, y + 250), (x + 380, y + 200), 9))
        touches(driver, "touchEnd")
        time.sleep(0.4)
        slide(driver, (3, (x + 300, y + 400), (x + 200, y + 300), 9))
        touches(driver, "touchEnd")
        time.sleep(0.4)
        self.assertEqual(driver.execute_script(PLACE), before)
        press(driver, "page locked", ".tools")

    def finger_ink(self) -> None:
        """A finger's stroke stays; a palm's, finished or not when the nib comes, goes without a trace."""
        driver, x, y = self.driver, self.x, self.y
        press(driver, "a finger moves the page", ".tools")
        time.sleep(1.2)
        was = self.count()
        slide(driver, (1, (x + 100, y + 330), (x + 200, y + 330), 9))
        touches(driver, "touchEnd")
        time.sleep(1)
        self.assertEqual(self.count(), was + 1)
        self.assertGreater(self.ink_at(x + 90, y + 320, 120, 20), 60)
        time.sleep(IN_TIME_MS / 1000 + 0.3)  # the finger's stroke is too old for the nib to take it back
        slide(driver, (2, (x + 400, y + 420), (x + 440, y + 400), 9), steps=6)  # a dab that lifts before the nib comes
        touches(driver, "touchEnd")
        slide(driver, (3, (x + 420, y + 350), (x + 440, y + 340), 9), steps=6)  # one that rests
        self.nib(x + 120, y + 120)
        touches(driver, "touchEnd")
        wait_for(driver, "document.body.textContent.includes('all ink kept')", "all ink kept")
        until = time.time() + 8
        while self.count() != was + 2 and time.time() < until:
            time.sleep(0.2)
        time.sleep(0.8)
        self.assertEqual(self.count(), was + 2, "the finger's and the nib's")
        self.assertEqual(self.ink_at(x + 380, y + 320, 80, 120), 0)
        self.assertGreater(self.ink_at(x + 110, y + 110, 140, 30), 60)
