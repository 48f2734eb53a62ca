"""A new writer at the desk: the first minute from nothing, numbers typed as people type them, what is shown taken over,
and the frame arranged for the hand.
"""

import contextlib
import json
from typing import Any

import numpy as np

from gray_quill.core.hand.hand import Hand
from gray_quill.store.database import connect
from gray_quill.store.items import list_things
from gray_quill.store.strokes import load_traces, stroke_index
from tests.browser.desk import DeskCase, until_true


class FromNothing(DeskCase):
    demo = False

    def test_a_few_presses_and_a_line_that_is_told_in_words(self) -> None:
        desk = self.desk
        desk.driver.get(desk.url)
        desk.wait("document.querySelector('.first .tile')", "what is asked")
        desk.press("left hand, hooked", ".first")
        desk.press("sketch-notes", ".first")
        marked = "[...document.querySelectorAll('.first [aria-pressed=true]')].map(t => t.textContent.slice(0, 12))"
        desk.wait(f'JSON.stringify({marked}) === \'["left hand, h","sketch-notes","this screenm"]\'', "what was chosen")
        desk.press("Put the sheet down", ".first")
        for words in ("Moth pencil 2B", "left hand, hooked", "this screen", "blank A4 landscape"):
            desk.says(words, "h1")
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page")
        desk.rests()
        left, top = desk.corner("[data-layer=live]")
        desk.write([(left + 60 + 5 * i, top + 80 + 9 * (i % 2), 0.1 + 0.03 * i) for i in range(24)])
        desk.all_kept()
        desk.says("Your light strokes are", ".margin")
        self.assertTrue(desk.js("return document.querySelector('.frame').classList.contains('stations-right')"))


class OwnHand(DeskCase):
    demo = False

    def test_a_hand_is_measured_from_the_events_of_a_real_pen(self) -> None:
        """Waves written with a pen that leans 30 degrees, heavier as it goes down; taken for a hand of one's own."""
        desk = self.desk
        desk.driver.get(desk.url)
        desk.wait("document.querySelector('.first .tile')", "what is asked")
        desk.press("right hand", ".first")
        desk.press("Put the sheet down", ".first")
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page")
        desk.rests()
        left, top = desk.corner("[data-layer=live]")
        turn = np.linspace(0, 2 * np.pi * 8, 96)
        for k in range(9):  # of three seconds and more, however quickly events come
            y, force = top + 50 + 54 * k - 18 * np.cos(turn), 0.5 + 0.12 * np.sin(turn)
            x = left + 60 + 4 * np.arange(len(turn))
            for i, at in enumerate(zip(x.tolist(), y.tolist(), force.tolist(), strict=True)):
                desk.pen("mouseMoved" if i else "mousePressed", *at, tilt=(30, 0))
            desk.lift(float(x[-1]), float(y[-1]))
        desk.all_kept()
        with contextlib.closing(connect(desk.server.folder)) as db:
            sheet_id = db.execute("SELECT id FROM sheets").fetchone()[0]
            traces = load_traces(db, [entry[0] for entry in stroke_index(db, sheet_id)]).values()
        height = float(np.median([np.ptp(t.y_mm) for t in traces]))
        desk.js("[...document.querySelectorAll('h1 button')].find(b => /hand/.test(b.textContent)).click()")
        desk.press("New hand")
        desk.press("Measure it from this sheet")
        desk.wait("document.querySelector('[data-ink=sheet]')", "what is written, beside what the hand writes", 240)
        rows = "[...document.querySelectorAll('table tr')].map(r => [...r.children].map(c => c.textContent))"
        told = dict(desk.js(f"return {rows}"))
        self.assertAlmostEqual(float(told["Letter height"].split()[0]) / height, 1, delta=0.15)
        self.assertAlmostEqual(float(told["Grip"].split()[0]), 60, delta=3)
        self.assertAlmostEqual(float(told["Everyday force"].split()[0]), 0.5, delta=0.05)
        self.assertIn("slow line", told["Tremor"])
        desk.press("Keep this hand")
        desk.says("My hand", "h1")
        with contextlib.closing(connect(desk.server.folder)) as db:
            mine = next(h for h in list_things(db, Hand).values() if h.name == "My hand")
        self.assertAlmostEqual(mine.altitude_deg, float(told["Grip"].split()[0]), delta=0.06)


class AtTheDesk(DeskCase):
    shared = False

    def setUp(self) -> None:
        super().setUp()
        self.db = connect(self.desk.server.folder)
        self.addCleanup(self.db.close)

    def field(self, label: str) -> Any:
        return self.desk.js(
            "return [...document.querySelectorAll('input')].find(i => i.ariaLabel === arguments[0])?.value", label
        )

    def becomes(self, label: str, value: str) -> None:
        until_true(lambda: self.field(label) == value, f"{label} to become {value}, it is {self.field(label)}")

    def test_numbers_are_taken_as_people_type_them(self) -> None:
        desk = self.desk
        desk.open("pen")
        desk.turn_to("body")
        for typed, took, said in (
            ("0,72", "0.72", ""),
            ("2 mm", "2", ""),
            ("99", "20", "took 20"),
            ("wide", "20", "no number"),
        ):
            desk.type_number("Width, mm", typed)
            self.becomes("Width, mm", took)
            words = desk.text(".group [role=alert]")
            self.assertIn(said, words)
            self.assertEqual(bool(said), bool(words))
        knob = desk.driver.find_element("css selector", ".track .el-slider__button-wrapper")
        desk.type_number("Width, mm", "1")
        self.becomes("Width, mm", "1")
        knob.send_keys("\ue014")  # an arrow key steps by what is noticed: a twelfth of a width
        self.becomes("Width, mm", "1.08")
        knob.send_keys("\ue010")
        self.becomes("Width, mm", "20")

    def test_what_is_shown_is_taken_over_and_undone(self) -> None:
        desk = self.desk
        desk.open("pen")
        desk.turn_to("ladder")
        desk.press("0.80 mm", ".values")
        desk.turn_to("body")
        self.becomes("Width, mm", "0.8")
        desk.turn_to("thin, middle, thick")
        desk.press("Take 0.48 mm", ".strips")
        self.becomes("Width, mm", "0.48")
        desk.press("Undo", ".keep")
        desk.press("Undo", ".keep")
        self.becomes("Width, mm", "0.5")
        kept = self.db.execute("SELECT count(*) FROM strokes").fetchone()[0]
        desk.turn_to("scribble")
        desk.rests()
        x, y = desk.corner("[data-layer=scribble]")
        desk.write([(x + 40 + 6 * i, y + 40, 0.5) for i in range(20)])
        ink = until_true(lambda: desk.inked("scribble"), "scribbled ink")
        desk.type_number("Width, mm", "2")
        until_true(lambda: desk.inked("scribble") > 1.8 * ink, "the scribble inked again")
        self.assertEqual(self.db.execute("SELECT count(*) FROM strokes").fetchone()[0], kept, "it is on no sheet")
        desk.press("Wipe")
        until_true(lambda: desk.inked("scribble") == 0, "an empty field")
        desk.hold([(x + 40 + 6 * i, y + 40, 0.5) for i in range(20)])
        desk.write([(x + 400 + 6 * i, y + 60, 0.5) for i in range(20)])  # nobody told of the lift before
        until_true(lambda: desk.inked("scribble", (400, 0, 120, 100)) and desk.text(".scribble") == "Wipe", "both")
        self.assertEqual(desk.inked("scribble", (200, 0, 180, 100)), 0, "neither goes on where the other is")

    def test_a_plain_dial_moves_the_pen_is_one_undo_and_is_remembered_for_the_roll(self) -> None:
        desk = self.desk
        desk.open("pen")
        desk.turn_to("plain")
        desk.wait("document.querySelector('.dials .el-slider')", "the dials")
        desk.drag_slider("thinner to thicker", 0.8)
        desk.says("changes not kept", "header")
        desk.rests()
        desk.driver.refresh()
        desk.wait("document.querySelector('.dials .el-slider')", "the dials, remembered")
        desk.turn_to("body")
        until_true(lambda: float(self.field("Width, mm") or 0) > 2, "a much thicker pen")
        desk.press("Undo", ".keep")
        self.becomes("Width, mm", "0.5")

    def test_colours_are_arranged_by_dragging_and_by_keys(self) -> None:
        desk = self.desk
        desk.open("pen")
        desk.turn_to("body")
        colours = "return [...document.querySelectorAll('.palette [data-key]')].map(b => b.dataset.key)"
        first = desk.js(colours)
        places = [desk.middle(f".palette [data-key='{c}']") for c in (first[0], first[5])]
        desk.drag(places[0], (places[1][0] + 20, places[1][1]))
        until_true(lambda: desk.js(colours) == [*first[1:6], first[0], *first[6:]], "the colour in the second row")
        self.assertEqual([s["colour"] for s in desk.ask("desk")["palette"]], desk.js(colours), "kept so")
        desk.js(f"document.querySelector(\".palette [data-key='{first[0]}']\").focus()")
        press = "document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowLeft', shiftKey: true}))"
        desk.js(press)
        until_true(lambda: desk.js(colours)[4] == first[0], "one place back by keys")

    def test_little_sheets_open_beside_what_was_pressed(self) -> None:
        desk = self.desk
        desk.open()
        gap = """
        const [a, b] = [arguments[0], document.querySelector(arguments[1])].map(e => e.getBoundingClientRect())
        const beside = Math.min(Math.abs(b.top - a.bottom), Math.abs(a.top - b.bottom))
        return [beside, b.left < a.right && b.right > a.left, b.top >= 0 && b.bottom <= innerHeight]
        """
        for scope, words, sheet in (
            ("h1", "right hand", ".choices"),
            ("h1", "dotted", ".choices"),
            ("nav", "Frame", ".out"),
            ("nav", "Take out", ".out"),
        ):
            opener = next(
                b for b in desk.driver.find_elements("css selector", f"{scope} button") if words in str(b.text)
            )
            opener.click()
            desk.wait(f"document.querySelector('{sheet}')", words)
            desk.rests()
            beside, over, inside = desk.driver.execute_script(gap, opener, sheet)
            self.assertTrue(beside < 8 and over and inside, (words, beside, over, inside))
            desk.escape()
            desk.wait(f"!document.querySelector('{sheet}')", "it to close")

    def test_the_roll_lies_where_the_hand_wants_it_and_comes_in_three(self) -> None:
        desk = self.desk
        desk.open()
        pens = "return [...document.querySelectorAll('.roll [data-key]')].map(b => b.dataset.key)"
        notes = desk.js(pens)
        desk.press("notes", ".holder")
        desk.wait(
            f"JSON.stringify([...document.querySelectorAll('.roll [data-key]')].map(b => b.dataset.key)) !== "
            f"JSON.stringify({json.dumps(notes)})",
            "the drawing roll",
        )
        desk.says("drawing", ".which")
        desk.press("drawing", ".holder")
        desk.says("marking up", ".which")
        desk.press("marking up", ".holder")
        desk.says("notes", ".which")
        self.assertEqual(desk.js(pens), notes, "as it was arranged")
        x, y = desk.middle(f".roll [data-key={notes[0]}]")
        to, _ = desk.middle(f".roll [data-key={notes[2]}]")
        desk.drag((x, y), (to + 30, y))
        until_true(lambda: desk.js(pens)[:3] == [notes[1], notes[2], notes[0]], "the pen dragged along the roll")
        desk.press("Frame", "nav")
        desk.turn_to("left")
        desk.wait("document.querySelector('.holder.upright')", "the roll to stand upright")
        desk.frames()
        size = "const r = document.querySelector('.holder.upright').getBoundingClientRect(); return [r.width, r.height]"
        width, height = desk.js(size)
        self.assertTrue(height > 500 > width, "it stands upright")
        self.desk.js(
            "[...document.querySelectorAll('.out label')].find(l => l.textContent.includes('roll is folded')).click()"
        )
        desk.wait("document.querySelector('.holder .tab')", "the tab")
        desk.press("Pens", ".holder")
        desk.wait("document.querySelector('.roll [data-key]')", "the roll again")
        desk.driver.refresh()
        desk.wait("document.querySelector('.holder.upright .roll [data-key]')", "the same after a reload")
