"""Only rules that are on are asked, and a stream folded in pieces is the stream folded in one go."""

import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.engine import AGED, advance, begin, finish, fold, judges
from gray_quill.core.palm.rules import OFF, RULES, START, STRICTEST
from gray_quill.core.palm.zone import Zone


class Asked(unittest.TestCase):
    def test_none_where_all_are_off_and_each_where_all_are_on(self) -> None:
        self.assertEqual({name for asked in judges(OFF).values() for name, _ in asked}, set())
        asked = {name for each in judges(STRICTEST).values() for name, _ in each} | {rule.name for rule in AGED}
        self.assertEqual(asked, {rule.name for rule in RULES})

    def test_pieces_end_as_the_whole_and_leave_what_they_began_with(self) -> None:
        zone = Zone(20.0, 30.0, 40.0, 50.0)
        for drill in tuple(DRILLS)[:4]:
            stream, _ = simulate(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], drill, 3)
            size = (stream.width_mm, stream.height_mm)
            whole = fold(stream.events, START, zone, *size)
            middle = len(stream.events) // 2
            first = advance(begin(*size), stream.events[:middle], START, zone)
            seen = first.reports
            last = finish(advance(first, stream.events[middle:], START, zone), START, zone)
            self.assertEqual((first.reports, seen), (middle, middle))
            told = [[(t.id, t.decision, t.rule, t.at_ms) for t in s.touches.values()] for s in (whole, last)]
            self.assertEqual(told[0], told[1], drill)
            self.assertEqual((whole.marks, whole.taps, whole.episodes), (last.marks, last.taps, last.episodes))
