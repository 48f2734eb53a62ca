"""The frame on every surface, for both hands, wide and narrow; keys; the roll; bringing ink in."""

import io
import json
import urllib.request

from PIL import Image, ImageStat
from selenium.webdriver.common.keys import Keys

from gray_quill.formats.inkml_write import write_inkml
from gray_quill.store.database import connect
from tests.browser.desk import DeskCase
from tests.browser.driver import resize
from tests.zoo import wave

LIVE = "document.querySelector('[data-layer=live]')"
# every text and control in the frame: its contrast with what lies behind it, by WCAG 2.2
CONTRAST = """
const light = c => { const v = c / 255; return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4 }
const lum = ([r, g, b]) => 0.2126 * light(r) + 0.7152 * light(g) + 0.0722 * light(b)
const parse = s => s.match(/[\\d.]+/g).map(Number)
const ground = e => {
  for (let n = e; n; n = n.parentElement) {
    const c = parse(getComputedStyle(n).backgroundColor)
    if (c.length < 4 || c[3] > 0.5) return c
  }
  return [255, 255, 255]
}
const speaks = e => [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()) && e.offsetParent
return [...document.querySelectorAll('header *, nav *, .margin *, .roll *')].filter(speaks).map(e => {
  const [a, b] = [lum(parse(getComputedStyle(e).color)), lum(ground(e))].sort((x, y) => y - x)
  return [(a + 0.05) / (b + 0.05), e.textContent.trim().slice(0, 40)]
})
"""


class Surfaces(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        self.driver = self.desk.driver
        resize(self.driver, 1280, 800)

    def lay(self, sheet: str, surface: str, station: str = "sheet") -> None:
        """This sheet on the desk, on this surface, at this station."""
        self.desk.ask("desk", {"sheet_id": sheet, "surface": surface}, "PATCH")
        self.desk.open(station)
        self.desk.says("mm", ".margin")

    def test_words_can_be_read_on_every_surface(self) -> None:
        desk = self.desk
        for surface in ("paper", "night", "e-ink"):
            for station in ("sheet", "lag", "palm"):
                self.lay("trap-log", surface, station)
                seen = desk.js(CONTRAST)
                self.assertGreater(len(seen), 20)
                for ratio, words in seen:
                    self.assertGreaterEqual(ratio, 4.5, f"{words!r} on {surface}, {station}")

    def test_the_nib_stands_still_under_reduced_motion_and_steps_on_e_ink(self) -> None:
        desk = self.desk
        places = (
            "const done = arguments[0], seen = new Set(), began = performance.now();"
            "const look = () => { seen.add(document.querySelector('.trail .nib').getAttribute('d')); "
            "performance.now() - began < 2300 ? requestAnimationFrame(look) : done(seen.size) }; look()"
        )
        for surface, still, least, most in (
            ("paper", False, 20, 999),
            ("e-ink", False, 2, 4),
            ("paper", True, 1, 1),
            ("e-ink", True, 1, 1),
        ):
            media = [{"name": "prefers-reduced-motion", "value": "reduce" if still else "no-preference"}]
            self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": media})
            self.lay("trap-log", surface, "lag")
            desk.wait("document.querySelector('.trail .nib')", "the nib")
            found = self.driver.execute_async_script(places)
            self.assertTrue(least <= found <= most, f"{found} places on {surface}, reduced motion: {still}")
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})

    def test_played_contacts_step_once_a_second_on_e_ink(self) -> None:
        desk = self.desk
        steps = (
            "const done = arguments[0], seen = new Set(), began = performance.now(), at = () => "
            "document.querySelector('.scrub .el-slider__button-wrapper').style.left;"
            "[...document.querySelectorAll('.scrub button')].find(b => b.textContent === 'Play').click();"
            "const look = () => { seen.add(at()); performance.now() - began < 2600 ? requestAnimationFrame(look) : "
            "done(seen.size) }; look()"
        )
        for surface, few in (("e-ink", True), ("paper", False)):
            self.lay("trap-log", surface, "palm")
            desk.wait("document.querySelector('[data-map]')", "the map")
            places = self.driver.execute_async_script(steps)
            self.assertEqual(places <= 5, few, f"{places} on {surface}")

    def test_e_ink_is_black_on_white_and_still(self) -> None:
        desk = self.desk
        self.lay("trap-log", "e-ink")
        style = desk.js(
            "const b = getComputedStyle(document.body), n = getComputedStyle(document.querySelector('nav'));"
            "return [b.color, b.backgroundColor, n.borderRightWidth, getComputedStyle(document.querySelector('.roll "
            "button')).transitionDuration]"
        )
        self.assertEqual(style, ["rgb(0, 0, 0)", "rgb(255, 255, 255)", "2px", "0s"])

    def test_at_night_the_page_is_shown_dark_and_nothing_of_it_changes(self) -> None:
        """Seen on the screen; the sheet's own picture stays, and a page that is dark already is shown as it is."""
        picture = f"{self.desk.url}/api/sheets/trap-log/page.png?scale=2"
        before = urllib.request.urlopen(picture).read()
        self.desk.ask("sheets/dusk-to-dawn", {"paper": "dotted A5 black"}, "PATCH")
        for sheet, kept in (("trap-log", False), ("dusk-to-dawn", True)):
            self.lay(sheet, "night")
            plain = self.page_light()
            self.desk.press("Frame", "nav")
            self.desk.js(
                "[...document.querySelectorAll('[role=dialog] .el-checkbox')]"
                ".find(c => /shown dark/.test(c.textContent)).click()"
            )
            self.lay(sheet, "night")
            if kept:
                self.assertAlmostEqual(self.page_light(), plain, delta=0.02)
            else:
                self.assertTrue(self.page_light() < 0.4 and plain > 0.8)
            self.desk.js("localStorage.setItem('gray-quill-dark-page', 'false')")
        self.assertEqual(urllib.request.urlopen(picture).read(), before)

    def page_light(self) -> float:
        """How light the page is on the screen, on the mean, 0..1."""
        x, y, w, h = self.desk.js(
            "const r = document.querySelector('.scroll').getBoundingClientRect(); return [r.x, r.y, r.width, r.height]"
        )
        screen = Image.open(io.BytesIO(self.driver.get_screenshot_as_png())).convert("L")
        part = screen.crop((int(x + w * 0.3), int(y + h * 0.3), int(x + w * 0.7), int(y + h * 0.7)))
        return float(ImageStat.Stat(part).mean[0]) / 255

    def test_stations_lie_where_the_hand_is_not(self) -> None:
        desk = self.desk
        for sheet, side in (("trap-log", "left"), ("dusk-to-dawn", "right")):
            self.lay(sheet, "paper")
            x = desk.js("return document.querySelector('nav').getBoundingClientRect().x")
            self.assertEqual(x < 640, side == "left")
        resize(self.driver, 800, 1280)
        y, width = desk.js("const r = document.querySelector('nav').getBoundingClientRect(); return [r.y, r.width]")
        self.assertTrue(y > 1200 and width == 800, "a row at the bottom when narrow")

    def test_targets_are_large_enough_for_a_finger(self) -> None:
        desk = self.desk
        for width, height in ((1280, 800), (800, 1280)):
            resize(self.driver, width, height)
            small = desk.js(
                "return [...document.querySelectorAll('nav a, .margin .word-button, .roll button, .tools "
                "button')].filter(e => e.offsetParent)"
                ".filter(e => e.getBoundingClientRect().height < 43.5).map(e => e.textContent.trim())"
            )
            self.assertEqual(small, [])

    def test_keys_pick_a_pen_walk_the_stations_and_list_themselves(self) -> None:
        desk = self.desk
        body = self.driver.find_element("tag name", "body")
        body.send_keys("3")
        desk.wait("document.querySelector('h1').textContent.includes('Heron brush')", "the third pen")
        body.send_keys("]")
        desk.wait("location.pathname === '/pen'", "the next station")
        body.send_keys("]")
        desk.wait("location.pathname === '/wash'", "and the one after")
        body.send_keys("[", "[")
        desk.wait("location.pathname === '/sheet'", "back again")
        body.send_keys("?")
        desk.wait("document.querySelector('.keys dl')", "the list of keys")
        body.send_keys(Keys.ESCAPE)
        desk.wait("!document.querySelector('.keys dl')", "escape to close it")

    def test_the_roll_is_ordered_by_keys(self) -> None:
        desk = self.desk
        names = "return [...document.querySelectorAll('.roll .name')].map(n => n.textContent)"
        before = desk.js(names)
        first = self.driver.find_element("css selector", ".roll button")
        first.send_keys(Keys.SHIFT + Keys.ARROW_RIGHT)
        desk.wait(
            f"document.querySelector('.roll .name').textContent === {json.dumps(before[1])}",
            "the pens to change places",
        )
        self.driver.refresh()
        desk.wait("document.querySelectorAll('.roll .name').length", "the roll after a reload", 20)
        self.assertEqual(desk.js(names)[:2], [before[1], before[0]])

    def test_ink_is_brought_in_and_a_bad_file_is_answered(self) -> None:
        desk = self.desk
        db = connect(self.desk.server.folder)
        self.addCleanup(db.close)
        for name, data, then in (
            (
                "broken.inkml",
                b"<ink><trace>1 2, x</trace></ink>",
                "document.querySelector('.trouble')?.textContent.includes('point 2')",
            ),
            ("wave.inkml", write_inkml([wave()]), "document.querySelector('h1').textContent.startsWith('Brought in')"),
        ):
            desk.press("Trap log", "h1")
            desk.bring("Ink, PDF, a picture or an archive", name, data)
            desk.wait(then, name)
            if name == "broken.inkml":
                desk.press("Understood")
        self.assertEqual(db.execute("SELECT count(*) FROM strokes WHERE sheet_id LIKE 'brought-in-%'").fetchone()[0], 1)

    def test_panels_show_the_sheet_and_say_what_vanishes(self) -> None:
        desk = self.desk
        desk.open("panels")
        cards = "[...document.querySelectorAll('.proof')]"
        desk.wait(f"{cards}.length === 2 && {cards}.every(c => c.querySelector('dl'))", "two proofs", 180)
        facts = desk.js(f"return {cards}.map(c => c.querySelector('dl').textContent)")
        self.assertIn("1538 × 2183 px", facts[0])
        self.assertIn(" of 16", facts[1])
        grey = (
            f"return {cards}.map(c => {{ const l = c.querySelector('[data-layer=lens]'); const d = "
            "l.getContext('2d').getImageData(0, 0, l.width, l.height).data;"
            "const seen = new Set(); for (let i = 0; i < d.length; i += 4) seen.add(d[i] + ',' + d[i + 1] + ',' + "
            "d[i + 2]); return seen.size })"
        )
        desk.rests()
        tablet, paper = desk.js(grey)
        self.assertLessEqual(paper, 16)
        self.assertGreater(tablet, paper)
