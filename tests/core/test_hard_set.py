"""The hard set holds what its drills say: measured from the streams themselves, drill by drill, before any fault."""

import dataclasses
import unittest
from collections.abc import Callable
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Event, Stream, Truth
from gray_quill.core.palm.hard.drills import HARD_DRILLS, hard_session
from gray_quill.core.palm.hard.faults import Faults, draw_faults
from gray_quill.core.palm.hard.ranges import HARD, Ranges
from gray_quill.core.palm.practice import PRACTICE, practise

NONE_OF_THESE: Any = {
    f.name: 0.0 for f in dataclasses.fields(Ranges) if f.name.endswith("_share") and f.name != "spot_share"
}
SOUND = dataclasses.replace(HARD, **NONE_OF_THESE)  # neither faults nor what comes about by chance
HAND, TABLET = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"]
FEEL_MS = 40.0  # what touch layer and report rate add to any time


class Session:
    """A session, and what can be measured on it."""

    def __init__(self, drill: str, seed: int) -> None:
        self.stream: Stream
        self.truth: Truth
        self.stream, self.truth, _ = hard_session(HAND, TABLET, drill, seed, SOUND)
        self.touches: dict[int, list[Event]] = {}
        for e in self.stream.events:
            if e.pointer == "touch":
                self.touches.setdefault(e.id, []).append(e)
        self.nib = [e for e in self.stream.events if e.pointer == "pen" and e.phase in ("down", "move", "up")]

    @property
    def fingers(self) -> list[list[Event]]:
        return [self.touches[i] for g in self.truth.gestures for i in g.ids]

    @property
    def palms(self) -> list[list[Event]]:
        return [self.touches[i] for i in sorted(self.truth.palms)]

    def before_nib_ms(self) -> float:
        return self.nib[0].t_ms - min(p[0].t_ms for p in self.palms)

    def after_nib_ms(self) -> float:
        return self.fingers[0][0].t_ms - [e for e in self.nib if e.t_ms <= self.fingers[0][0].t_ms][-1].t_ms

    def size_mm(self, which: list[list[Event]]) -> float:
        return max(e.size_mm for events in which for e in events)

    def apart_mm(self) -> float:
        a, b = (self.touches[i][0] for i in self.truth.gestures[0].ids)
        return float(np.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm))

    def gone_ms(self) -> float:
        """The longest time without the nib while a palm lies."""
        times = [e.t_ms for e in self.nib]
        return float(np.diff(times).max())

    def from_rim_mm(self) -> float:
        return min(min(p[0].x_mm, self.stream.width_mm - p[0].x_mm) for p in self.palms)


class Claims(unittest.TestCase):
    def test_each_drill_holds_what_it_says(self) -> None:
        """Over eight sessions each: the least and the most that is measured lie in the range, a device's part apart."""
        claims: dict[str, list[tuple[str, Callable[[Session], float], float, float]]] = {
            "early rest": [("before the nib", Session.before_nib_ms, 1500, 3000)],
            "three spots": [
                ("before the nib", Session.before_nib_ms, 800, 1600),
                ("spots", lambda s: s.size_mm(s.palms), 8, 12),
            ],
            "between words": [("the nib gone", Session.gone_ms, 500, 3000)],
            "little finger": [("light", lambda s: s.size_mm(s.palms), 8, 12)],
            "rim thumb stays": [("from the rim", Session.from_rim_mm, 2, 15)],
            "close pinch": [("after the nib", Session.after_nib_ms, 200, 1000)],
            "scroll soon": [("after the nib", Session.after_nib_ms, 200, 1000)],
            "tap soon": [
                ("after the nib", Session.after_nib_ms, 200, 1000),
                ("lasts", lambda s: s.fingers[0][-1].t_ms - s.fingers[0][0].t_ms, 45, 170),
            ],
            "thumb scroll": [("thumbs", lambda s: s.size_mm(s.fingers), 11, 17)],
            "flat finger": [("fingers", lambda s: s.size_mm(s.fingers), 10, 14)],
            "long press": [("lasts", lambda s: s.fingers[0][-1].t_ms - s.fingers[0][0].t_ms, 550, 1400)],
            "much later": [("after the nib", Session.after_nib_ms, 2000, 6000)],
        }
        for drill, measured in claims.items():
            sessions = [Session(drill, 60 + k) for k in range(8)]
            for words, measure, low, high in measured:
                values = [measure(s) for s in sessions]
                room = FEEL_MS if high > 100 else 0.25 * high  # sizes are read with noise
                self.assertGreaterEqual(min(values), low - room, f"{drill}, {words}: {values}")
                self.assertLessEqual(max(values), high + room, f"{drill}, {words}: {values}")
                self.assertGreater(np.ptp(values), 0.15 * (high - low), f"{drill}, {words} varies")

    def test_close_pinches_begin_or_end_close(self) -> None:
        starts = [Session("close pinch", 80 + k).apart_mm() for k in range(12)]
        self.assertLess(min(starts), 22)
        self.assertGreater(sum(s < 22 for s in starts), 4, "more than a third part from nearby")

    def test_the_other_hand_acts_while_this_one_rests(self) -> None:
        for drill in ("other hand scrolls", "other hand pinches", "other hand taps"):
            session = Session(drill, 7)
            first = session.fingers[0][0].t_ms
            down = [p for p in session.palms if p[0].t_ms < first < p[-1].t_ms]
            self.assertTrue(down, drill)
            away = min(
                np.hypot(p[0].x_mm - session.fingers[0][0].x_mm, p[0].y_mm - session.fingers[0][0].y_mm) for p in down
            )
            self.assertGreater(away, 20, drill)

    def test_palms_part_and_join(self) -> None:
        """A patch that parts lifts as two others land, and lands again where it lay."""
        session = Session("parts and joins", 5)
        self.assertGreaterEqual(len(session.palms), 4)
        lifts = sorted(p[-1].t_ms for p in session.palms)[0]
        lands = [p[0].t_ms for p in session.palms if abs(p[0].t_ms - lifts) < 120]
        self.assertGreaterEqual(len(lands), 2, "two land where one lifted")

    def test_every_fault_comes_about_as_often_as_is_said(self) -> None:
        rng = np.random.default_rng(6)
        drawn = [draw_faults(HARD, rng) for _ in range(3000)]
        for fault, share in (
            ("no_size", HARD.no_size_share),
            ("no_hover", HARD.no_hover_share),
            ("coarse_mm", HARD.coarse_share),
            ("late_hover_ms", HARD.late_hover_share),
            ("merge_mm", HARD.merge_share),
            ("pen_cancel", HARD.pen_cancel_share),
            ("touch_cancel", HARD.touch_cancel_share),
            ("palm_as_pen", HARD.palm_as_pen_share),
        ):
            found = sum(fault in f.names for f in drawn) / len(drawn)
            self.assertAlmostEqual(found, share, delta=0.03, msg=fault)
        self.assertEqual(Faults().names, ())

    def test_practice_is_wider_than_the_set_and_none_of_its_sessions(self) -> None:
        for f in dataclasses.fields(Ranges):
            wide, own = getattr(PRACTICE, f.name), getattr(HARD, f.name)
            if isinstance(own, tuple) and f.name.endswith(("_mm", "_ms", "scale", "slender", "landed")):
                self.assertLessEqual(wide[0], own[0], f.name)
                self.assertGreaterEqual(wide[1], own[1], f.name)
        hard = {hard_session(HAND, TABLET, drill, 500_000)[0].events for drill in HARD_DRILLS}
        self.assertNotIn(practise(HAND, TABLET, 500_000)[0].events, hard)
