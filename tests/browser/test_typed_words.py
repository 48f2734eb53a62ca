"""Whatever can be called or noted is typed key by key, as a person does, and read back from what is stored."""

from collections.abc import Callable
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskCase, until_true

WORDS = "Dusk, trap 7"


# by role, so that none is forgotten that comes later: [what it is called, whether it takes numbers]
FIELDS = """
const found = [...document.querySelectorAll('input, textarea')].filter((e) =>
  e.checkVisibility() && !e.disabled && !e.readOnly && e.getAttribute('role') !== 'combobox' &&
  ['text', 'number', 'search', 'textarea', ''].includes(e.type))
found.forEach((e, k) => (e.dataset.walk = k))
return found.map((e) => [e.ariaLabel || e.closest('label')?.textContent.trim() || e.placeholder,
  e.type === 'number' || e.getAttribute('role') === 'spinbutton' || e.inputMode === 'decimal' ||
  e.inputMode === 'numeric' || !!e.closest('.field, .el-input-number')])
"""
VIEWS = (
    *((station, tab) for station, tab in (("sheet", ""), ("wash", ""), ("panels", ""), ("lag", ""), ("palm", "rules"))),
    *(("pen", tab) for tab in ("body", "press", "steady", "tooth")),
    *(("cabinet", ""), ("line-up", "")),
)
PARTS = ("sheet", "hand", "device", "paper", "layers")


class EveryField(DeskCase):
    def test_letters_typed_into_any_field_stay_and_numbers_stay_numbers(self) -> None:
        desk, walked = self.desk, 0
        for station, tab in VIEWS:
            desk.open(station)
            if tab:
                desk.turn_to(tab)
                desk.rests()
            walked += self.walk(f"{station} {tab}")
        for part in PARTS:
            desk.open("cabinet")  # the sentence stands over every station; the sheet may be 10 mm high by now
            desk.js(f"document.querySelector('header [data-part={part}]').click()")
            desk.rests()
            for more in ("name, note", "Size, spacing", "New hand"):
                desk.js(
                    "[...document.querySelectorAll('.choices button, .choices [role=tab]')]"
                    ".find(b => b.textContent.trim().startsWith(arguments[0]))?.click()",
                    more,
                )
            desk.rests()
            walked += self.walk(f"under {part}")
        self.assertGreater(walked, 60, "fields that were found")

    def walk(self, where: str) -> int:
        desk = self.desk
        fields = desk.js(FIELDS)
        for k, (name, numbers) in enumerate(fields):
            found = desk.driver.find_elements("css selector", f"[data-walk='{k}']")
            if not found or not found[0].is_displayed():
                continue  # what was typed before took it away
            field, typed = found[0], "1" if numbers else "ab 7"
            with self.subTest(where, field=name):
                desk.js("arguments[0]; document.querySelector(`[data-walk='${arguments[0]}']`).focus()", k)
                field.send_keys(Keys.CONTROL, "a")
                for n, letter in enumerate(typed, 1):
                    field.send_keys(letter)
                    self.assertEqual(field.get_property("value"), typed[:n])
                field.send_keys(Keys.TAB)
                desk.rests(40)
                left = desk.driver.find_elements("css selector", f"[data-walk='{k}']")
                if left and numbers:
                    float(left[0].get_property("value"))  # whatever it was limited to, it is a number
                elif left and not left[0].get_attribute("placeholder"):
                    self.assertIn(left[0].get_property("value"), (typed, ""), "kept, or taken")
        return len(fields)


class TypedWords(DeskCase):
    def test_names_and_notes_are_kept_as_they_are_typed(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        self.part("sheet")
        desk.press("name, note", ".choices")
        self.types("Note on the sheet", lambda: self.of_any_sheet("note"))  # of the first that is listed
        self.types("Name of the sheet", lambda: self.of_any_sheet("name"))
        desk.open()
        desk.rests()
        self.part("sheet")
        desk.press("Pages of this sheet", ".choices")
        self.types("Bookmark of this page", lambda: self.sheet()["bookmark"])
        desk.open()
        desk.rests()
        self.part("layers")
        self.types("Name of the layer", lambda: self.sheet()["layers"][0]["name"])
        desk.open("cabinet")
        desk.rests()
        desk.js("document.querySelector('.things button').click()")
        desk.wait("document.querySelector('[aria-label=\"Note on the thing\"]')", "the thing")
        desk.rests()
        found = lambda: desk.ask("cabinet")["things"]  # noqa: E731
        self.types("Note on the thing", lambda: WORDS if any(t["note"] == WORDS for t in found()) else "")
        self.types("Name of the thing", lambda: WORDS if any(t["name"] == WORDS for t in found()) else "")

    def test_a_name_that_is_emptied_stays(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        self.part("sheet")
        desk.press("name, note", ".choices")
        field = self.field("Name of the sheet")
        before = field.get_property("value")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(Keys.BACKSPACE)
        field.send_keys(Keys.TAB)
        until_true(lambda: field.get_property("value") == before, "its name again")
        desk.rests()
        self.assertEqual(self.of_any_sheet("name", before), before)

    def types(self, label: str, stored: Callable[[], Any]) -> None:
        """Key by key in place of what is there; the letters stay while they are typed, and are stored then."""
        field = self.field(label)
        field.send_keys(Keys.CONTROL, "a")
        for k, letter in enumerate(WORDS, 1):
            field.send_keys(letter)
            self.assertEqual(field.get_property("value"), WORDS[:k], label)
        field.send_keys(Keys.TAB)
        until_true(lambda: stored() == WORDS, f"{label}: what was typed")

    def field(self, label: str) -> Any:
        self.desk.wait(f"document.querySelector('[aria-label=\"{label}\"]')", label)
        return self.desk.driver.find_element("css selector", f"[aria-label='{label}']")

    def part(self, part: str) -> None:
        self.desk.js(f"document.querySelector('header [data-part={part}]').click()")

    def of_any_sheet(self, key: str, words: str = WORDS) -> str:
        return words if any(s[key] == words for s in self.desk.ask("desk")["sheets"]) else ""

    def sheet(self) -> Any:
        now = self.desk.ask("desk")
        return next(s for s in now["sheets"] if s["id"] == now["sheet_id"])
