"""A walk over every view: each control is pressed and each slider dragged by pen, by finger, by mouse and by keys."""

import pathlib
from typing import Any

from tests.browser.desk import DeskCase
from tests.browser.test_layout import VIEWS

WALK = (pathlib.Path(__file__).parent / "walk.js").read_text()
POINTERS = ("mouse", "pen", "finger")
KNOBS = "[...document.querySelectorAll('[role=slider]')].filter(k => k.checkVisibility() && k.tabIndex >= 0)"
MOST_KNOBS = 2
TRIES = 4  # a browser that is kept waiting lets go of touches
FRAME = ("header", "nav", ".holder")
LEAST = 150  # controls there are in all


# Where a knob is, how wide its track, and whether there is more room to its right than to its left
PLACE = """
const k = {knob}
k.scrollIntoView({{block: 'center'}})
const r = k.getBoundingClientRect(), x = r.x + r.width / 2
const track = k.closest('.el-slider')?.querySelector('.el-slider__runway') ?? k.ownerSVGElement
const w = (track ?? k.parentElement).getBoundingClientRect()
const share = (k.ariaValueNow - k.ariaValueMin) / (k.ariaValueMax - k.ariaValueMin)
return [x, r.y + r.height / 2, w.width, track ? x < w.x + w.width / 2 : share < 0.5]
"""


class Walk(DeskCase):
    def press_at(self, pointer: str, *places: tuple[float, float]) -> None:
        """Down at the first place, over the others, up at the last."""
        desk = self.desk
        if pointer == "finger":
            for k, (x, y) in enumerate(places):
                desk.touches("touchMove" if k else "touchStart", (1, x, y, 4))
            desk.touches("touchEnd")
            return
        for kind, (x, y) in [
            ("mousePressed", places[0]),
            *(("mouseMoved", p) for p in places[1:]),
            ("mouseReleased", places[-1]),
        ]:
            body = {"type": kind, "x": x, "y": y, "button": "left", "clickCount": 1, "pointerType": pointer}
            body |= {"buttons": 0 if kind == "mouseReleased" else 1}
            desk.driver.execute_cdp_cmd("Input.dispatchMouseEvent", body)

    def key(self, name: str) -> None:
        code = {"ArrowRight": 39, "ArrowLeft": 37}[name]
        for kind in ("rawKeyDown", "keyUp"):
            body = {"type": kind, "key": name, "code": name, "windowsVirtualKeyCode": code}
            self.desk.driver.execute_cdp_cmd("Input.dispatchKeyEvent", body)

    def missed(self, scope: str) -> list[Any]:
        """Controls that one of the four did not reach."""
        desk, found = self.desk, []
        desk.js(WALK)
        self.known += desk.js("return walk.start(arguments[0], arguments[1])", scope, self.known)
        count = desk.js("return walk.all.length")
        for k in range(count):
            if place := desk.js("return walk.at(arguments[0])", k):
                for pointer in POINTERS:
                    self.press_at(pointer, tuple(place))
                words, hits, keys = desk.js("return walk.told(arguments[0])", k)
                if hits < len(POINTERS) or not keys:
                    found.append((words, hits, keys))
        desk.js("walk.end()")
        return found

    def move(self, knob: str, by: str) -> None:
        x, y, wide, more = self.desk.js(PLACE.format(knob=knob))
        way = 1 if more else -1
        if by == "keys":
            self.desk.js(f"{knob}.focus()")
            self.key("ArrowRight" if way > 0 else "ArrowLeft")
        else:
            self.press_at(by, (x, y), *[(x + way * wide * s / 20, y) for s in range(1, 5)])

    def still(self) -> list[Any]:
        """Sliders that one of the four did not move."""
        desk, found = self.desk, []
        for k in range(min(desk.js(f"return {KNOBS}.length"), MOST_KNOBS)):
            for by in (*POINTERS, "keys"):
                now = f"return {KNOBS}[{k}]?.getAttribute('aria-valuenow')"
                value = desk.js(now)
                for _ in range(TRIES):
                    self.move(f"{KNOBS}[{k}]", by)
                    desk.frames(2)
                    if desk.js(now) != value:
                        break
                else:
                    said = desk.js(f"return {KNOBS}[{k}]?.ariaLabel ?? ''")
                    found.append((by, said, value))
        return found

    def test_every_control_is_reached_by_pen_finger_mouse_and_keys(self) -> None:
        self.desk.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": True, "maxTouchPoints": 5})
        self.desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        self.known: list[str] = []
        self.desk.open()
        for part in FRAME:
            with self.subTest(part):
                self.assertEqual(self.missed(part), [])
        for station, tabs in VIEWS:
            with self.subTest(" ".join((station, *tabs))):
                if station not in self.desk.driver.current_url:
                    self.desk.open(station)
                for tab in tabs:
                    self.desk.turn_to(tab)
                self.desk.rests()
                self.assertEqual(self.missed(".station"), [])
                self.assertEqual(self.still(), [])
                self.assertEqual(self.desk.trouble(), [])
        self.assertGreater(len(self.known), LEAST)
