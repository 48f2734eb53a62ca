"""Whatever can be called or noted is typed key by key, as a person does, and read back from what is stored."""

from collections.abc import Callable
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskCase, until_true

WORDS = "Dusk, trap 7"


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
