"""The palm rules at work on the real Sheet: real touches with sizes and a real pen together, judged by strokes kept,
the page's place and its pixels.
"""

import time
from typing import Any

from tests.browser.desk import DeskCase, until_true

IN_TIME_MS = 3000  # the nib comes within this time of a palm, however busy the machine is
PLACE = """
const r = document.querySelector('.page').getBoundingClientRect(), f = document.querySelector('.scroll')
return [r.left, r.top, r.width, f.scrollLeft, f.scrollTop]
"""
# dark pixels of the page canvas in a box of the screen
INK_AT = """
const c = document.querySelector('[data-layer=page]'), r = c.getBoundingClientRect()
const s = c.width / r.width, [x, y, w, h] = arguments
const d = c.getContext('2d').getImageData((x - r.left) * s, (y - r.top) * s, w * s, h * s).data
let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i] < 90 && d[i + 3] > 200) n++
return n
"""
FINGER_PX, PALM_PX = 9, 60


class PalmCase(DeskCase):
    """A bare sheet, and hands on it."""

    def bare(self) -> None:
        desk = self.desk
        desk.ask("desk", {"sheet_id": "trap-log"}, "PATCH")
        desk.open()
        desk.press("Trap log, first night", "h1")
        desk.press("Put down a new sheet", ".choices")
        desk.wait("document.querySelector('h1').textContent.startsWith('Sheet')", "a new sheet")
        desk.js("localStorage.setItem('gray-quill-pen-seen', 'true')")
        desk.open()
        desk.wait(
            "[...document.querySelectorAll('.tools .on-off')].at(-1)?.ariaChecked === 'false'", "no finger that writes"
        )
        self.x, self.y = desk.corner(".scroll")

    def slide(
        self,
        *ways: tuple[tuple[float, float], tuple[float, float], float],
        first: int = 1,
        from_s: float | None = None,
    ) -> None:
        """Touches that go their ways, in CSS pixels from the corner of the page's frame; they stay down."""
        x, y = self.x, self.y
        self.desk.slide(
            *((first + i, (x + a[0], y + a[1]), (x + b[0], y + b[1]), r) for i, (a, b, r) in enumerate(ways)),
            from_s=from_s,
        )

    def lift(self, at_s: float | None = None) -> None:
        self.desk.touches("touchEnd", at_s=at_s)
        self.desk.rests()

    def place(self) -> list[float]:
        self.desk.frames()
        return list(self.desk.js(PLACE))

    def strokes(self) -> int:
        sheet_id = self.desk.ask("desk")["sheet_id"]
        sheet: dict[str, Any] = self.desk.ask(f"sheets/{sheet_id}")
        return int(sheet["sheet"]["strokes"])


class StartRules(PalmCase):
    def test_a_hand_that_never_did_a_drill_is_kept_off_and_its_fingers_are_not(self) -> None:
        """The rules every hand starts with: a palm lies while the nib writes, then fingers scroll and pinch."""
        self.bare()
        before, now = self.place(), time.time()  # what happens when is said: these rules go by it
        self.slide(((420, 420), (380, 330), PALM_PX), from_s=now)
        for k in range(21):
            kind, at_s = "mouseMoved" if k else "mousePressed", now + 0.4 + 0.008 * k
            self.desk.pen(kind, self.x + 150 + 4 * k, self.y + 200, at_s=at_s)
        self.desk.pen("mouseReleased", self.x + 230, self.y + 200, 0, at_s=now + 0.6)
        self.desk.touches("touchEnd", at_s=now + 0.8)
        self.desk.rests()
        until_true(lambda: self.strokes() == 1, "the stroke kept")
        self.assertEqual(self.place(), before, "the palm moved nothing")
        self.desk.press("closer", ".tools")
        self.desk.rests()
        # long after the nib, and each longer than a touch is waited for
        before, now = self.place(), max(time.time(), now + 2)
        self.slide(((300, 400), (300, 300), FINGER_PX), from_s=now)
        self.lift(now + 0.3)
        self.assertGreater(before[1] - self.place()[1], 40, "a finger scrolls")
        before = self.place()
        self.slide(((270, 250), (200, 250), FINGER_PX), ((330, 250), (400, 250), FINGER_PX), from_s=now + 1)
        self.lift(now + 1.3)
        self.assertGreater(self.place()[2] / before[2], 1.4, "two zoom")
        self.assertEqual(self.strokes(), 1)

    def test_a_palm_taken_for_the_pen_leaves_no_ink(self) -> None:
        """The pen's place jumps by 70 mm between two reports: what was before goes, the stroke begins where the nib
        is.
        """
        self.bare()
        now = time.time()
        for k, x in enumerate((460, 462, 464)):
            self.desk.pen("mouseMoved" if k else "mousePressed", self.x + x, self.y + 420, 0.2, at_s=now + 0.008 * k)
        for k in range(20):
            self.desk.pen("mouseMoved", self.x + 120 + 4 * k, self.y + 150, 0.5, at_s=now + 0.03 + 0.008 * k)
        self.desk.pen("mouseReleased", self.x + 200, self.y + 150, 0, at_s=now + 0.3)
        until_true(lambda: self.strokes() == 1, "the stroke kept")
        self.desk.rests()
        ink = self.desk.js(INK_AT, self.x + 100, self.y + 130, 120, 40)
        self.assertGreater(ink, 60)
        self.assertEqual(self.desk.js(INK_AT, self.x + 230, self.y + 200, 280, 260), 0, "neither dab nor line")


class PalmOnTheSheet(PalmCase):
    def test_palm_first_then_pen_zoom_lock_and_finger_ink(self) -> None:
        self.a_bare_sheet_under_known_rules()
        self.a_palm_that_slid_is_taken_back_when_the_nib_comes()
        self.a_large_palm_does_nothing()
        self.it_is_asked_why_and_told_otherwise()
        self.a_finger_moves_the_page()
        self.two_fingers_zoom_it()
        self.a_locked_page_holds_still()
        self.a_finger_writes()
        self.palms_leave_no_ink()

    def a_bare_sheet_under_known_rules(self) -> None:
        desk = self.desk
        rules = {"before_ms": IN_TIME_MS, "take_back_ms": IN_TIME_MS, "after_ms": 600, "size_mm": 15, "still": True}
        desk.ask("palm/setting", {"hand_id": "right-firm", "device_id": "tablet-11", "rules": rules}, "PUT")
        self.bare()

    def nib(self, x: float, y: float) -> None:
        self.desk.write([(self.x + x + 6 * k, self.y + y + k % 4, 0.5) for k in range(21)])

    def ink_at(self, x: float, y: float, w: float, h: float) -> int:
        return int(self.desk.js(INK_AT, self.x + x, self.y + y, w, h))

    def kept(self, strokes: int) -> None:
        self.desk.all_kept()
        until_true(lambda: self.strokes() == strokes, f"{strokes} strokes kept")
        self.desk.rests()
        self.assertEqual(self.strokes(), strokes)

    def a_palm_that_slid_is_taken_back_when_the_nib_comes(self) -> None:
        """One that begins small and slides moves the page; the nib comes in time, and the page is back where it was."""
        self.desk.press("closer", ".tools")
        self.desk.rests()
        self.before = self.place()
        self.slide(((420, 420), (400, 360), 10))
        self.assertGreater(abs(self.place()[1] - self.before[1]), 20, "what is not known for a palm moves the page")
        self.nib(150, 200)
        self.desk.touches("touchEnd")
        self.assertEqual(self.place(), self.before, "taken back")

    def a_large_palm_does_nothing(self) -> None:
        self.slide(((420, 420), (380, 330), PALM_PX))
        self.assertEqual(self.place(), self.before)
        self.nib(150, 260)
        self.lift()
        self.kept(2)
        self.assertGreater(self.ink_at(140, 190, 140, 30), 60)
        self.assertEqual(self.ink_at(330, 300, 120, 140), 0, "no mark where the palm lay")

    def it_is_asked_why_and_told_otherwise(self) -> None:
        """The last touch in words; one press says that it was a finger, another takes that back."""
        desk = self.desk
        pair = "palm/setting?hand_id=right-firm&device_id=tablet-11"
        desk.press("last touch", ".tools")
        words = desk.wait("document.querySelector('[role=dialog] [data-why]')?.textContent", "why")
        self.assertRegex(words, "^Refused by .*: ")
        desk.press("That was my finger", "[role=dialog]")
        desk.says("it was your finger", "[role=dialog]")
        self.assertEqual(desk.ask(pair)["told"], 1)
        desk.press("Take that back", "[role=dialog]")
        until_true(lambda: desk.ask(pair)["told"] == 0, "taken back")
        desk.press("Close", "[role=dialog]")

    def a_finger_moves_the_page(self) -> None:
        """Once the lock after the nib is over."""
        self.desk.rests()
        before = self.place()
        self.slide(((300, 400), (300, 330), FINGER_PX))
        self.lift()
        strayed = before[1] - self.place()[1]
        self.assertAlmostEqual(strayed, 70, delta=14, msg="less what it strayed before it counted as moving")

    def two_fingers_zoom_it(self) -> None:
        """Twice as large, the middle of the fingers where it was, laid out anew as it was held."""
        before = self.place()
        x = self.x + 300
        page_x = (x - before[0]) / before[2]
        self.slide(((260, 250), (220, 250), FINGER_PX), ((340, 250), (380, 250), FINGER_PX))
        held = self.place()
        self.lift()
        zoomed = self.place()
        self.assertAlmostEqual(zoomed[2] / before[2], 2, delta=0.15)
        self.assertAlmostEqual(zoomed[0] + page_x * zoomed[2], x, delta=8)
        self.assertAlmostEqual(held[2], zoomed[2], delta=3)

    def a_locked_page_holds_still(self) -> None:
        before = self.place()
        self.desk.press("page locked", ".tools")
        self.desk.rests()
        self.assertEqual(self.place(), before, "locking moves nothing")
        self.slide(((260, 250), (220, 250), FINGER_PX), ((340, 250), (380, 200), FINGER_PX))
        self.lift()
        self.slide(((300, 400), (200, 300), FINGER_PX), first=3)
        self.lift()
        self.assertEqual(self.place(), before)
        self.desk.press("page locked", ".tools")

    def a_finger_writes(self) -> None:
        self.desk.press("a finger writes", ".tools")
        self.desk.rests()
        self.slide(((100, 330), (200, 330), FINGER_PX))
        self.lift()
        self.kept(3)
        self.assertGreater(self.ink_at(90, 320, 120, 20), 60)

    def palms_leave_no_ink(self) -> None:
        """A palm's stroke, finished or not when the nib comes, goes without a trace; the finger's is too old to go."""
        desk = self.desk
        written = desk.js("return performance.now()")
        desk.wait(f"performance.now() > {written + IN_TIME_MS}", "the finger's stroke to be old")
        self.slide(((400, 420), (440, 400), FINGER_PX), first=2)  # a dab that lifts before the nib comes
        desk.touches("touchEnd")
        self.slide(((420, 350), (440, 340), FINGER_PX), first=3)  # one that rests
        self.nib(120, 120)
        self.lift()
        self.kept(4)
        self.assertEqual(self.ink_at(380, 320, 80, 120), 0)
        self.assertGreater(self.ink_at(110, 110, 140, 30), 60)
        self.assertGreater(self.ink_at(90, 320, 120, 20), 60)
