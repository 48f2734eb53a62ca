"""What is known of a contact at a moment: every number of its look on a small stream made by hand."""

import math
import unittest

from gray_quill.core.palm.contacts import Event, make_stream
from gray_quill.core.palm.engine import advance, begin
from gray_quill.core.palm.features import NAMES, looks
from gray_quill.core.palm.rules import OFF
from gray_quill.core.palm.state import AGAIN_MS, State
from gray_quill.core.palm.zone import Zone

ZONE = Zone(40, 30, 20, 10)
SIZE = (200.0, 150.0)
NAN = math.nan


def touch(id: int, t: float, phase: str, x: float, y: float, width: float = 0, height: float = 0) -> Event:
    return Event(t, "touch", id, phase, x, y, width, height)


def pen(t: float, phase: str, x: float = 60, y: float = 50) -> Event:
    return Event(t, "pen", 0, phase, x, y)


def state_after(*events: Event) -> State:
    stream = make_stream(events, *SIZE)
    return advance(begin(*SIZE), stream.events, OFF, ZONE)


def look(now: float, *events: Event, of: int = 1) -> dict[str, float]:
    state = state_after(*events)
    return dict(zip(NAMES, looks(state, state.touches[of], now, ZONE), strict=True))


class Numbers(unittest.TestCase):
    def the(self, found: dict[str, float], **wanted: float) -> None:
        for name, value in wanted.items():
            if math.isnan(value):
                self.assertTrue(math.isnan(found[name]), f"{name} is {found[name]}, and should not be told")
            else:
                self.assertAlmostEqual(found[name], value, places=6, msg=name)

    def test_a_contact_alone_of_a_device_that_tells_no_size(self) -> None:
        found = look(30, touch(1, 0, "down", 100, 20), touch(1, 10, "move", 100, 20))
        self.the(found, size_mm=NAN, slender=NAN, growth=NAN, near_size_mm=NAN, near_mm=NAN, zone=NAN, across_mm=NAN)
        self.the(found, since_nib_ms=NAN, nib_age_ms=NAN, nib_gone_ms=NAN, again_ms=NAN, speed_mm_s=NAN, straight=NAN)
        self.the(found, age_ms=30, far_mm=0, still_ms=30, nib_with=0, crowd=0, lifted=0, edge_mm=20)

    def test_its_size_and_how_it_grew(self) -> None:
        events = (
            touch(1, 0, "down", 50, 50, 6, 5),
            touch(1, 10, "move", 50, 50, 9, 12),
            touch(1, 20, "move", 50, 50, 8, 11),
        )
        self.the(look(20, *events), size_mm=12, slender=9 / 12, growth=2)

    def test_its_way(self) -> None:
        """It lies for 40 ms, then goes 3 mm to and 4 mm fro at 0.1 mm a ms."""
        lies = [touch(1, 0, "down", 50, 50), touch(1, 40, "move", 50, 50)]
        goes = [touch(1, 40 + 10 * k, "move", 50 + k, 50) for k in range(1, 4)]
        back = [touch(1, 70 + 10 * k, "move", 53 - k, 50) for k in range(1, 5)]
        self.the(look(70, *lies, *goes), far_mm=3, straight=1, still_ms=60, speed_mm_s=1000 * 3 / 70)
        self.the(look(110, *lies, *goes, *back), far_mm=3, straight=3 / 7, still_ms=60, speed_mm_s=1000 * 1 / 110)

    def test_the_nib_before_with_and_after_it(self) -> None:
        word = [pen(0, "down"), pen(10, "move", 62), pen(20, "up", 62)]
        soon = look(150, *word, touch(1, 120, "down", 100, 80))
        self.the(soon, since_nib_ms=100, nib_gone_ms=130, nib_with=0, nib_age_ms=NAN)
        self.the(soon, across_mm=38, down_mm=30, zone=math.hypot((38 - 40) / 20, 0))
        within = look(15, *word[:2], touch(1, 15, "down", 30, 80))
        self.the(within, since_nib_ms=0, nib_gone_ms=0, nib_with=1, nib_age_ms=0, across_mm=-32)
        after = look(400, touch(1, 0, "down", 100, 80), pen(300, "hover"), pen(350, "hover"))
        self.the(after, nib_age_ms=300, nib_with=0, nib_gone_ms=0)
        lands = look(400, touch(1, 0, "down", 100, 80), pen(300, "hover"), pen(350, "down"))
        self.the(lands, nib_age_ms=300, nib_with=1)

    def test_a_left_hand_is_the_same_in_a_mirror(self) -> None:
        state = state_after(pen(0, "down", 100, 50), touch(1, 10, "down", 62, 75))
        found = dict(zip(NAMES, looks(state, state.touches[1], 10, Zone(-40, 30, 20, 10)), strict=True))
        self.the(found, across_mm=38, down_mm=25)

    def test_those_about_it(self) -> None:
        events = (
            touch(1, 0, "down", 50, 50, 9, 9),
            touch(2, 30, "down", 62, 50, 14, 10),
            touch(3, 40, "down", 50, 110, 30, 20),
            touch(4, 50, "down", 190, 140, 40, 20),
            touch(2, 60, "move", 66, 53, 14, 10),
        )
        found = look(60, *events)
        self.the(found, near_mm=math.hypot(16, 3), near_apart_ms=30, near_far_mm=5, crowd=2, near_size_mm=30)
        self.the(found, parting_mm=math.hypot(16, 3) - 12, near_nib_with=0)
        self.the(look(70, *events, pen(65, "down"), of=2), near_nib_with=1, crowd=2, near_mm=math.hypot(16, 3))

    def test_how_it_ended_and_where_the_hand_had_lain(self) -> None:
        hand = [touch(1, 0, "down", 100, 80), pen(10, "down"), pen(20, "up"), touch(1, 100, "up", 104, 80)]
        self.the(look(500, *hand), age_ms=100, lifted=1)
        taken = [*hand[:3], touch(1, 100, "cancel", 104, 80)]
        self.the(look(500, *taken), lifted=2)
        for lands_ms, x, again in ((400, 110, 300), (400, 160, NAN), (100 + AGAIN_MS + 1, 110, NAN)):
            self.the(look(lands_ms, *hand, touch(2, lands_ms, "down", x, 80), of=2), again_ms=again)
        finger = [touch(1, 0, "down", 100, 80), touch(1, 100, "up", 100, 80)]
        self.the(look(400, *finger, touch(2, 400, "down", 100, 80), of=2), again_ms=NAN)
