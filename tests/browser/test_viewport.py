"""The page as a viewport: what is seen is drawn, however near, and each sheet is met again where it was left."""

import contextlib
import urllib.request

import numpy as np

from gray_quill.formats.png import read_png
from gray_quill.store.database import connect
from gray_quill.store.pens import get_pen
from tests.browser.desk import DeskCase

# the page canvas: where its first pixel lies on the page, its size, device pixels a mm
CANVAS = """
const c = document.querySelector('[data-layer=page]'), p = c.parentElement.getBoundingClientRect()
const r = c.getBoundingClientRect(), ratio = c.width / r.width
return [Math.round((r.left - p.left) * ratio), Math.round((r.top - p.top) * ratio), c.width, c.height,
        (p.width * ratio) / arguments[0]]
"""
PIXELS = """
const c = document.querySelector('[data-layer=page]'), [x, y, w, h] = arguments
return Array.from(c.getContext('2d').getImageData(x, y, w, h).data.filter((_, i) => i % 4 < 3))
"""
HELD = "return [...document.querySelectorAll('.page canvas')].reduce((sum, c) => sum + c.width * c.height, 0)"


class Viewport(DeskCase):
    def test_a_large_sheet_is_written_on_from_near_and_found_again(self) -> None:
        desk = self.desk
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        desk.ask("sheets", {"id": "wide", "name": "Wide", "paper": "dotted A3", **of})
        desk.ask("desk", {"sheet_id": "wide"}, "PATCH")
        desk.open("sheet")
        desk.says("Wide", "h1")
        nearest = self.as_near_as_it_goes()
        seen = 2 * (1280 + 320) * (800 + 320)  # two canvases of a window and what lies beside it; others only in use
        self.assertLess(int(desk.js(HELD)), seen, "memory does not grow with magnification")
        self.a_stroke_is_drawn_as_the_server_draws_it()
        self.a_pan_shows_what_lies_beside()
        self.a_correction_is_as_broad_as_it_is_seen()
        self.a_part_is_drawn_round()
        desk.press("true size", ".tools")
        desk.rests(900)
        before = desk.js(CANVAS, 297)
        desk.open("sheet")
        desk.says("Wide", "h1")
        after = desk.js(CANVAS, 297)
        np.testing.assert_allclose(after, before, atol=3, err_msg="met again where it was left")
        self.assertGreater(nearest, 30 * after[4] / 4)
        self.assertEqual(desk.trouble(), [])

    def as_near_as_it_goes(self) -> float:
        """32 times the full width; what is typed beyond is the limit."""
        desk = self.desk
        full = float(desk.js(CANVAS, 297)[4])
        desk.js("document.querySelector('.scroll').scrollTo(300, 200)")
        desk.type_number("Magnification, %", 99999)
        desk.rests()
        near = float(desk.js(CANVAS, 297)[4])
        self.assertAlmostEqual(near / full, 32, delta=0.1)
        return near

    def a_stroke_is_drawn_as_the_server_draws_it(self) -> None:
        desk = self.desk
        x, y = desk.middle(".scroll")
        desk.write([(x - 150 + 6 * k, y + 25 * np.sin(k / 4), 0.5) for k in range(50)])
        desk.all_kept()
        desk.rests()
        left, top, wide, high, scale = desk.js(CANVAS, 297)
        part = (wide // 2 - 200, high // 2 - 80, 400, 160)
        shown = np.reshape(desk.js(PIXELS, *part), (160, 400, 3)).astype(int)
        corner = ((left + part[0] + 0.01) / scale, (top + part[1] + 0.01) / scale)
        query = (
            f"left={corner[0]}&top={corner[1]}&right={corner[0] + 399.98 / scale}&bottom={corner[1] + 159.98 / scale}"
        )
        url = f"{desk.url}/api/sheets/wide/page.png?scale={scale}&{query}"
        settled = read_png(urllib.request.urlopen(url).read()).astype(int)
        self.assertGreater(int((settled.sum(axis=2) < 400).sum()), 2000, "ink is there")
        rows, columns = min(160, settled.shape[0]), min(400, settled.shape[1])
        apart = np.abs(shown[:rows, :columns] - settled[:rows, :columns]).max(axis=2)
        self.assertLess(float((apart > 8).mean()), 0.002)
        span = desk.ask("sheets/wide/strokes/like", {"ids": None})["strokes"][0]["path"]
        wide_mm = max(p[0] for p in span) - min(p[0] for p in span)
        ratio = float(desk.js("return devicePixelRatio"))
        self.assertAlmostEqual(wide_mm, 294 * ratio / scale, delta=0.3, msg="as long in mm as the pen went")

    def a_pan_shows_what_lies_beside(self) -> None:
        desk = self.desk
        there = desk.inked("page")
        desk.js("document.querySelector('.scroll').scrollBy(3000, 0)")
        desk.rests()
        self.assertLess(desk.inked("page"), there / 10)
        desk.js("document.querySelector('.scroll').scrollBy(-3000, 0)")
        desk.rests()
        self.assertAlmostEqual(desk.inked("page") / there, 1, delta=0.01)

    def a_correction_is_as_broad_as_it_is_seen(self) -> None:
        """From so near a pen of half a millimetre would fill the window: when asked it is as broad as at true size."""
        desk = self.desk
        desk.press("write", ".verbs")
        desk.press("Same width on the screen", ".margin")
        desk.rests()
        x, y = desk.middle(".scroll")
        desk.write([(x - 150 + 6 * k, y + 120, 0.5) for k in range(50)])
        desk.all_kept()
        with contextlib.closing(connect(desk.server.folder)) as db:
            row = db.execute(
                "SELECT pen_id, revision FROM strokes WHERE sheet_id = 'wide' ORDER BY place DESC"
            ).fetchone()
            width = get_pen(db, row[0], row[1]).recipe.body.width_mm
        field = "[...document.querySelectorAll('input')].find(i => i.ariaLabel === 'Magnification, %')"
        near = float(desk.js(f"return Number({field}.value)"))
        self.assertAlmostEqual(width / max(0.05, 0.5 * 100 / near), 1, delta=0.06)  # no pen is finer than that
        desk.press("Same width on the screen", ".margin")
        desk.press("Undo")
        desk.rests()

    def a_part_is_drawn_round(self) -> None:
        """From the whole sheet back to a part by drawing round it with the pen; nothing is written."""
        desk = self.desk
        desk.press("whole sheet", ".tools")
        desk.rests()
        before = len(desk.ask("sheets/wide")["stroke_ids"])
        scale = float(desk.js(CANVAS, 297)[4])
        desk.press("closer on a part", ".tools")
        x, y = desk.middle("[data-layer=page]")
        ring = [(x + 60 * np.cos(a), y + 40 * np.sin(a), 0.5) for a in np.linspace(0, 6.2, 30)]
        desk.write(ring)
        desk.rests()
        self.assertGreater(float(desk.js(CANVAS, 297)[4]), 4 * scale)
        self.assertEqual(len(desk.ask("sheets/wide")["stroke_ids"]), before)
