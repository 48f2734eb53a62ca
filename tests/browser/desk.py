"""The desk as its user meets it: what can be pressed, written, read and looked at, each under one name."""

import contextlib
import json
import pathlib
import time
import unittest
import urllib.request
from collections.abc import Callable, Iterator
from typing import Any

from tests.browser.driver import Server, browser, evaluate, served, wait_for

LAYER = "document.querySelector('[data-layer={}]')"
Place = tuple[float, float]
Written = tuple[float, float, float]  # x, y in CSS pixels, force

# For a while nothing is asked of the server, no timer is about to act and no picture is on its way.
REST = """
const calm = arguments[0]
let since = performance.now()
const comes = (i) => !i.complete && i.loading !== 'lazy'
const busy = () =>
  Number(document.documentElement.dataset.asking ?? 0) || timersSoon() || [...document.images].some(comes)
return new Promise((done) => {
  const look = () => {
    if (busy()) since = performance.now()
    if (performance.now() - since < calm) setTimeout(look, 20)
    else requestAnimationFrame(() => requestAnimationFrame(done))
  }
  look()
})
"""
INKED = """
const c = document.querySelector(`[data-layer=${arguments[0]}]`)
const [x, y, w, h] = arguments[1] ?? [0, 0, c.width, c.height]
const d = c.getContext('2d').getImageData(x, y, w, h).data
let n = 0
for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 128 && d[i] + d[i + 1] + d[i + 2] < 430) n++
return n
"""


class Desk:
    """One window on a server."""

    def __init__(self, driver: Any, server: Server) -> None:
        self.driver, self.server, self.url = driver, server, server.url

    # what is seen

    def wait(self, script: str, what: str, seconds: float = 30) -> Any:
        return wait_for(self.driver, script, what, seconds)

    def js(self, script: str, *arguments: Any) -> Any:
        return evaluate(self.driver, script, *arguments)

    def text(self, scope: str = "body") -> str:
        return str(self.js("return document.querySelector(arguments[0])?.textContent ?? ''", scope))

    def says(self, words: str, scope: str = "body", seconds: float = 30) -> None:
        """Wait until some words stand somewhere."""
        found = f"document.querySelector({json.dumps(scope)})?.textContent.includes({json.dumps(words)})"
        self.wait(found, words, seconds)

    def rests(self, calm_ms: int = 120) -> None:
        """Wait until nothing is asked of the server any more, and controls have had their say."""
        self.js(REST, calm_ms)

    def frames(self, n: int = 3) -> None:
        """Wait until the browser has painted what has happened."""
        self.js(
            "let n = arguments[0]; return new Promise((done) => {"
            "const next = () => (n-- ? requestAnimationFrame(next) : done(true)); next() })",
            n,
        )

    def inked(self, layer: str, box: tuple[float, float, float, float] | None = None) -> int:
        """Dark or covered pixels of a canvas layer, in a box of canvas pixels."""
        return int(self.js(INKED, layer, box))

    def middle(self, selector: str) -> Place:
        """Where something is, in CSS pixels."""
        x, y = self.js(
            "const r = document.querySelector(arguments[0]).getBoundingClientRect();"
            "return [r.x + r.width / 2, r.y + r.height / 2]",
            selector,
        )
        return x, y

    def corner(self, selector: str) -> Place:
        x, y = self.js(
            "const r = document.querySelector(arguments[0]).getBoundingClientRect(); return [r.x, r.y]", selector
        )
        return x, y

    # where to go

    def open(self, path: str = "", rests: bool = True) -> None:
        """Go to a station and wait until it has come to rest."""
        self.driver.get(f"{self.url}/{path}")
        self.wait("document.querySelector('.station')", "the station", 60)
        if path in ("", "sheet"):
            self.wait(f"{LAYER.format('page')}?.width > 300", "the page")
        if rests:
            self.rests()

    def press(self, words: str, scope: str = "body") -> None:
        """Press the button or link that says these words."""
        found = (
            f"[...document.querySelectorAll('{scope} button, {scope} a, {scope} [role=tab]')].find("
            f"b => b.textContent.trim().startsWith({json.dumps(words)}) && !b.disabled)"
        )
        self.wait(found, words)
        self.js(f"const b = {found}; b.focus({{preventScroll: true}}); b.click()")

    def escape(self, where: str = "document.activeElement") -> None:
        """Press Escape, as the keyboard does: an event that can be answered once."""
        keydown = "new KeyboardEvent('keydown', {key: 'Escape', bubbles: true, cancelable: true})"
        self.js(f"{where}.dispatchEvent({keydown})")

    def pick(self, pen: str) -> None:
        """Take a pen from the roll, by its name."""
        found = f"[...document.querySelectorAll('.roll button')].find(b => b.textContent.includes({json.dumps(pen)}))"
        self.wait(found, pen)
        self.js(f"const b = {found}; b.focus({{preventScroll: true}}); b.click()")

    def choose(self, label: str, option: str, nth: int = 0) -> None:
        """Open the select with this label, the nth of them, and take an option, by what it says."""
        opener = (
            "[...document.querySelectorAll('.el-select')].filter(s => "
            f"s.querySelector('[aria-label={json.dumps(label)}]'))[{nth}]?.querySelector('.el-select__wrapper')"
        )
        self.wait(opener, label)
        self.js(f"{opener}.click()")
        item = (
            "[...document.querySelectorAll('.el-select-dropdown__item')].find(i => i.offsetParent && "
            f"i.textContent.trim().startsWith({json.dumps(option)}))"
        )
        self.wait(item, option)
        self.js(f"{item}.click()")

    def turn_to(self, words: str) -> None:
        """Press the tab or radio button that says these words."""
        found = (
            "[...document.querySelectorAll('[role=tab], .el-radio-button__inner')].find("
            f"b => b.textContent.trim() === {json.dumps(words)})"
        )
        self.wait(found, words)
        self.js(f"const b = {found}; b.focus({{preventScroll: true}}); b.click()")

    def drag_slider(self, label: str, share: float) -> None:
        """Drag a slider's knob to a share of its track."""
        knob = (
            "[...document.querySelectorAll('.el-slider__button-wrapper')].find(b => "
            f"b.closest('.el-slider').outerHTML.includes('aria-label=' + JSON.stringify({json.dumps(label)})))"
        )
        self.wait(knob, label)
        x, y, left, wide = self.js(
            f"const k = {knob}; k.scrollIntoView({{block: 'center'}}); const r = k.getBoundingClientRect();"
            "const w = k.closest('.el-slider').querySelector('.el-slider__runway').getBoundingClientRect();"
            "return [r.x + r.width / 2, r.y + r.height / 2, w.x, w.width]"
        )
        self.drag((x, y), (left + wide * share, y), 6)

    def type_number(self, label: str, value: float | str) -> None:
        """Type a value into the number field with this label."""
        self.js(
            "const e = [...document.querySelectorAll('input')].find(i => i.ariaLabel === arguments[0]);"
            "e.value = arguments[1];"
            "for (const kind of ['input', 'change']) e.dispatchEvent(new Event(kind, {bubbles: true}))",
            label,
            str(value),
        )

    # the pen and the hand

    def pen(
        self,
        kind: str,
        x: float,
        y: float,
        force: float = 0.5,
        tilt: tuple[int, int] = (20, 10),
        at_s: float | None = None,
    ) -> None:
        """One real pen event through the DevTools: kind is mousePressed, mouseMoved or mouseReleased. at_s: when it
        happened, seconds since 1970; now where it is not said.
        """
        self.driver.execute_cdp_cmd(
            "Input.dispatchMouseEvent",
            {
                "type": kind,
                "x": x,
                "y": y,
                "button": "left",
                "buttons": 0 if kind == "mouseReleased" else 1,
                "clickCount": 1,
                "pointerType": "pen",
                "force": force,
                "tiltX": tilt[0],
                "tiltY": tilt[1],
                **({} if at_s is None else {"timestamp": at_s}),
            },
        )

    def hold(self, points: list[Written]) -> None:
        """A pen stroke that is not lifted yet."""
        self.pen("mousePressed", *points[0])
        for p in points[1:]:
            self.pen("mouseMoved", *p)

    def lift(self, x: float, y: float) -> None:
        self.pen("mouseReleased", x, y, 0)

    def write(self, points: list[Written]) -> None:
        """A pen stroke through (x, y, force)."""
        self.hold(points)
        self.lift(*points[-1][:2])

    def drag(self, start: Place, end: Place, steps: int = 10) -> None:
        """The pen moves something from here to there."""
        shares = [k / steps for k in range(steps + 1)]
        (x, y), dx, dy = start, end[0] - start[0], end[1] - start[1]
        self.write([(x + dx * share, y + dy * share, 0.5) for share in shares])

    def touches(self, kind: str, *points: tuple[int, float, float, float], at_s: float | None = None) -> None:
        """Real touches through the DevTools: kind is touchStart, touchMove or touchEnd; each point id, x, y, radius in
        px. Ended ones are left out. at_s: as of `pen`.
        """
        at = [{"id": i, "x": x, "y": y, "radiusX": r, "radiusY": r} for i, x, y, r in points]
        when = {} if at_s is None else {"timestamp": at_s}
        self.driver.execute_cdp_cmd("Input.dispatchTouchEvent", {"type": kind, "touchPoints": at, **when})

    def slide(self, *ways: tuple[int, Place, Place, float], steps: int = 10, from_s: float | None = None) -> None:
        """Fingers land and go their ways together; they stay down. from_s: when, a step every 16 ms from then on."""
        for k in range(steps + 1):
            at = [(i, a[0] + (b[0] - a[0]) * k / steps, a[1] + (b[1] - a[1]) * k / steps, r) for i, a, b, r in ways]
            self.touches("touchMove" if k else "touchStart", *at, at_s=from_s and from_s + 0.016 * k)

    # what is kept

    def ask(self, path: str, body: Any = None, method: str | None = None) -> Any:
        """Ask the server itself; `body` is sent as JSON."""
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            f"{self.url}/api/{path}", data, {"Content-Type": "application/json"}, method=method
        )
        return json.load(urllib.request.urlopen(request))

    def all_kept(self) -> None:
        self.says("all ink kept", "header p")

    def pen_kept(self) -> None:
        """Wait until the pen has no changes that are not kept, and all ink is."""
        self.wait("!document.querySelector('header').textContent.includes('changes not kept')", "the pen to be kept")
        self.all_kept()

    def download(self, name: str) -> bytes:
        """A file once it has arrived whole in the downloads."""
        target: pathlib.Path = self.driver.downloads / name
        until_true(lambda: target.exists() and target.stat().st_size > 0, f"{name} in the downloads")
        return target.read_bytes()

    def bring(self, chooser: str, name: str, data: bytes) -> None:
        """Hand a file to the file chooser with this label."""
        file = self.driver.downloads / name
        file.write_bytes(data)
        self.wait(f"document.querySelector('[aria-label=\"{chooser}\"]')", chooser)
        self.driver.find_element("css selector", f"[aria-label='{chooser}']").send_keys(str(file))

    def trouble(self) -> list[Any]:
        """What the browser's console calls severe."""
        return [e for e in self.driver.get_log("browser") if e["level"] == "SEVERE"]


def until_true(found: Callable[[], Any], what: str, seconds: float = 30) -> Any:
    """Wait until something outside the browser is so."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if value := found():
            return value
        time.sleep(0.03)
    raise AssertionError(f"waited {seconds} s for {what}")


class DeskCase(unittest.TestCase):
    """Tests at one desk in the browser all share: a server for the class, or one for each test."""

    demo = True
    shared = True
    desk: Desk

    @classmethod
    def setUpClass(cls) -> None:
        if cls.shared:
            cls.desk = cls.enterClassContext(at_desk(cls.demo))

    def setUp(self) -> None:
        if not self.shared:
            self.desk = self.enterContext(at_desk(self.demo))


@contextlib.contextmanager
def at_desk(demo: bool = True, width: int = 1280, height: int = 800) -> Iterator[Desk]:
    with served(demo) as server, browser(width, height) as driver:
        yield Desk(driver, server)
