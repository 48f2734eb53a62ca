"""Every view, in seven windows and on three surfaces: nothing lies on another, is cut, or scrolls sideways (by
geometry), and axe-core finds nothing (WCAG 2.2 A and AA, best practice; https://github.com/dequelabs/axe-core).
"""

import pathlib
from typing import Any

from tests.browser.desk import Desk, DeskCase, at_desk
from tests.browser.driver import resize

GEOMETRY = (pathlib.Path(__file__).parent / "geometry.js").read_text()
AXE = pathlib.Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN_AXE = """
const done = arguments[arguments.length - 1]
// a surface changes colours only: what is not about colours is asked once
const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']
const runOnly = arguments[0] ? tags : { type: 'rule', values: ['color-contrast'] }
axe.run(document, { runOnly, resultTypes: ['violations'], preload: false }).then((r) =>
  done(r.violations.flatMap((v) => v.nodes.slice(0, 3).map((n) => [v.id, n.target.join(' ').slice(0, 90)]))))
"""
# a colour that is still on its way is no colour to judge
STILL = """
if (!document.getElementById('still')) document.head.insertAdjacentHTML('beforeend',
  '<style id="still">*, *::before, *::after { transition: none !important; animation: none !important }</style>')
"""
SIZES = ((390, 844), (820, 1180), (1024, 768), (1112, 834), (1280, 800), (1366, 1024), (1920, 1080))
SURFACES = ("paper", "night", "e-ink")
# a station, and what is pressed there
VIEWS = (
    ("sheet", ()),
    ("pen", ("body",)),
    ("pen", ("tooth",)),
    ("pen", ("ladder",)),
    ("pen", ("shading",)),
    ("wash", ()),
    ("wash", ("told apart",)),
    ("panels", ()),
    ("lag", ()),
    ("palm", ()),
    ("palm", ("rules",)),
    ("line-up", ()),
    ("cabinet", ("what is kept",)),
    ("cabinet", ("backups",)),
    ("cabinet", ("bring in",)),
)
LITTLE = ("Trap log", "Fen fountain", "right hand", "11-inch", "dotted")


def surfaced(desk: Desk, surface: str) -> None:
    desk.js(STILL)
    desk.js("document.documentElement.dataset.surface = arguments[0]", surface)
    desk.frames(2)


class Layout(DeskCase):
    def faults(self, where: str, sizes: tuple[tuple[int, int], ...] = SIZES) -> list[Any]:
        """What geometry says of this view in windows: on e-ink, whose lines are the thickest, and once on each."""
        desk, found = self.desk, []
        for k, (width, height) in enumerate(sizes):
            resize(desk.driver, width, height)
            desk.frames(6)
            for surface in SURFACES if not k else SURFACES[-1:]:
                surfaced(desk, surface)
                found += [[where, f"{width}x{height}", surface, *f] for f in desk.js(GEOMETRY)]
        resize(desk.driver, 1280, 800)
        return found

    def axe(self, where: str) -> list[Any]:
        desk, found = self.desk, []
        desk.js(AXE.read_text())
        for surface in SURFACES:
            surfaced(desk, surface)
            found += [[where, surface, *f] for f in desk.driver.execute_async_script(RUN_AXE, surface == SURFACES[0])]
        return found

    def test_stations_hold_in_every_window_and_pass_axe(self) -> None:
        self.desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        for station, tabs in VIEWS:
            where = " ".join((station, *tabs))
            with self.subTest(where):
                self.desk.open(station)
                for tab in tabs:
                    self.desk.turn_to(tab)
                    self.desk.rests()
                if where == "cabinet what is kept":  # and a thing is looked at
                    self.desk.js("document.querySelector('.things button').click()")
                    self.desk.rests()
                self.assertEqual(self.axe(where), [])
                self.assertEqual(self.faults(where), [])

    def test_every_verb_holds_in_narrow_windows_and_passes_axe(self) -> None:
        desk = self.desk
        desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        desk.open("sheet")
        for verb in ("rub", "choose", "rule"):
            with self.subTest(verb):
                desk.press(verb, ".verbs")
                desk.rests()
                if verb == "choose":
                    desk.press("All ink", ".margin")
                    desk.says("strokes chosen", ".margin")
                self.assertEqual(self.axe(verb), [])
                self.assertEqual(self.faults(verb, SIZES[:3]), [])

    def test_little_sheets_hold_in_every_window_and_pass_axe(self) -> None:
        desk = self.desk
        desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        desk.open()
        for part in LITTLE:
            with self.subTest(part):
                desk.press(part, "h1")
                desk.wait("document.querySelector('.choices')", part)
                desk.rests()
                self.assertEqual(self.axe(part), [])
                self.assertEqual(self.faults(part), [])
                desk.press(part, "h1")
        for words, opened in (("Take out", ".out"), ("Keys", ".keys dl")):
            desk.press(words, "nav")
            desk.wait(f"document.querySelector('{opened}')", words)
            self.assertEqual(self.axe(words), [])
            desk.escape()

    def test_a_left_hand_and_an_empty_desk_hold_too(self) -> None:
        self.desk.ask("desk", {"sheet_id": "dusk-to-dawn"}, "PATCH")
        self.desk.open()
        self.assertEqual(self.faults("sheet, left hand"), [])
        with at_desk(demo=False) as empty:
            self.desk = empty  # type: ignore[misc]
            self.addCleanup(lambda: delattr(self, "desk"))
            empty.driver.get(empty.url)
            empty.wait("document.querySelector('.first .tile')", "the first minute")
            empty.rests()
            self.assertEqual(self.axe("first minute"), [])
            self.assertEqual(self.faults("first minute"), [])
