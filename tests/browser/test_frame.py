"""The frame by keys alone: little sheets, tabs, fields."""

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskCase

# each little sheet: the station, where its opener is, what the opener says, and what opens
LITTLE_SHEETS = (
    ("sheet", "nav button", "Take out", ".out"),
    ("sheet", "nav button", "Keys", "aside.keys"),
    ("sheet", "nav button", "Frame", ".out"),
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
            (".tabs", "plain", "pen", "wash"),
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
