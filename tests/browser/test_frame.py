"""The frame by keys alone, and at every width: little sheets, tabs, and a layout that never scrolls sideways."""

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskCase
from tests.browser.driver import resize

STATIONS = ("sheet", "pen", "wash", "panels", "lag", "palm")
WIDTHS = (390, 600, 800, 1024, 1280, 1600, 1920)
# each little sheet: the station, where its opener is, what the opener says, and what opens
LITTLE_SHEETS = (
    ("sheet", "nav button", "Take out", ".out"),
    ("sheet", "nav button", "Keys", "aside.keys"),
    ("sheet", "h1 button", "Trap log", ".choices"),
    ("sheet", "h1 button", "Fen fountain", ".choices"),
    ("sheet", "h1 button", "right hand", ".choices"),
    ("sheet", "h1 button", "11-inch tablet", ".choices"),
    ("sheet", "h1 button", "dotted", ".choices"),
    ("lag", ".margin button", "Size this screen", ".sizer"),
)
FOCUS = (
    "const b = [...document.querySelectorAll(arguments[0])].find(e => e.textContent.trim().startsWith(arguments[1]));"
)
# what can be pressed or read and lies under something else at its middle, though it is in sight
COVERED = """
const seen = (e) => {
  const r = e.getBoundingClientRect()
  if (r.width < 2 || r.height < 2) return
  const x = r.left + r.width / 2, y = r.top + r.height / 2
  for (let n = e.parentElement; n; n = n.parentElement) {
    const c = n.getBoundingClientRect(), o = getComputedStyle(n).overflow
    if (o !== 'visible' && (x < c.left || x > c.right || y < c.top || y > c.bottom)) return
  }
  return x > 0 && y > 0 && x < innerWidth && y < innerHeight && [x, y]
}
return [...document.querySelectorAll('button, a, h1, h2, h3, .el-select, .el-slider, input')].filter((e) => {
  const at = e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }) && seen(e)
  const top = at && document.elementFromPoint(...at)
  return top && !e.contains(top) && !top.contains(e)
}).map((e) => (e.textContent.trim() || e.ariaLabel || e.className).slice(0, 40))
"""
OUTSIDE = """
return [...document.querySelectorAll('body *')].filter((e) => {
  if (!e.checkVisibility() || e.closest('svg, canvas, .el-select-dropdown, .visually-hidden')) return false
  for (let n = e.parentElement; n; n = n.parentElement) if (getComputedStyle(n).overflowX !== 'visible') return false
  return e.getBoundingClientRect().right > innerWidth + 1
}).map((e) => `${e.tagName} ${e.className}`).slice(0, 5)
"""


class ByKeys(DeskCase):
    def keys(self, *keys: str) -> None:
        self.desk.driver.switch_to.active_element.send_keys(*keys)

    def test_every_little_sheet_takes_focus_closes_on_escape_and_gives_focus_back(self) -> None:
        desk, at = self.desk, ""
        for station, scope, words, sheet in LITTLE_SHEETS:
            with self.subTest(sheet=sheet, words=words):
                if station != at:
                    desk.open(station)
                    at = station
                desk.js(f"{FOCUS} b.focus()", scope, words)
                self.keys(Keys.ENTER)
                desk.wait(f"document.querySelector('{sheet}')?.contains(document.activeElement)", "focus inside")
                self.keys(Keys.ESCAPE)
                desk.wait(f"!document.querySelector('{sheet}')", "it to close")
                back = desk.js("return document.activeElement.textContent.trim()")
                self.assertTrue(back.startswith(words), f"focus is on {back!r}")

    def test_tabs_are_walked_with_arrows_home_and_end(self) -> None:
        desk = self.desk
        desk.open("pen")
        for row, first, second, last in (
            (".tabs", "pen", "body", "wash"),
            (".views", "before and after", "heat", "shading"),
        ):
            desk.js(f"document.querySelector('{row} [role=tab]').focus()")
            for key, words in (
                (Keys.END, last),
                (Keys.HOME, first),
                (Keys.ARROW_RIGHT, second),
                (Keys.ARROW_LEFT, first),
                (Keys.ARROW_LEFT, last),
                (Keys.ARROW_RIGHT, first),
            ):
                self.keys(key)
                here = desk.js("return document.activeElement.textContent.trim()")
                chosen = desk.text(f"{row} [aria-selected=true]").strip()
                self.assertEqual((here.lower(), chosen.lower()), (words, words), row)

    def test_keys_in_a_field_are_letters_not_commands(self) -> None:
        desk = self.desk
        desk.open()
        field = desk.driver.find_element("css selector", ".margin input")
        field.send_keys("3?]")
        desk.rests()
        self.assertTrue(str(field.get_attribute("value")).endswith("3?]"))
        self.assertEqual(desk.js("return location.pathname"), "/sheet")
        self.assertEqual(desk.js("return document.querySelectorAll('aside.keys').length"), 0)
        self.assertIn("Fen fountain", desk.text("h1"))


class Widths(DeskCase):
    def test_nothing_scrolls_sideways_or_lies_under_something_else(self) -> None:
        desk = self.desk
        for station in STATIONS:
            desk.open(station)
            for width in WIDTHS:
                resize(desk.driver, width, 800)
                desk.frames()
                desk.rests(100)
                with self.subTest(station=station, width=width):
                    wide = desk.js("return document.documentElement.scrollWidth")
                    self.assertLessEqual(wide, width)
                    self.assertEqual(desk.js(OUTSIDE), [])
                    self.assertEqual(desk.js(COVERED), [])
            resize(desk.driver, 1280, 800)
