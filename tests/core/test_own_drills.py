"""Rules judged on what a hand did itself: proposed only where they are better on those contacts, and else what would
help is said.
"""

import dataclasses
import itertools
import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.hard.drills import HARD_DRILLS, simulate_hard
from gray_quill.core.palm.outcome import Session, evaluate
from gray_quill.core.palm.own_drills import OnOwn, better, measured_zone, with_hover
from gray_quill.core.palm.practice import practise
from gray_quill.core.palm.recommend import Recommended, recommend
from gray_quill.core.palm.rules import OFF, START, Rules
from gray_quill.core.palm.zone import Zone, zone_of

HAND, DEVICE = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"]
OTHERS = [practise(HAND, DEVICE, 1)]
ZONE = zone_of(HAND)
SOME, HARDEST = list(DRILLS)[::2], list(HARD_DRILLS)[:6]


def found_on(own: list[Session], now: Rules, zone: Zone = ZONE) -> tuple[Recommended, OnOwn]:
    found = recommend(OTHERS, zone, own=own, now=now)
    assert found.on_own is not None
    return found, found.on_own


class OwnDrills(unittest.TestCase):
    def test_what_is_proposed_is_better_on_the_own_contacts_or_is_not_proposed(self) -> None:
        cases = {
            "drills, no rules yet": ([simulate(HAND, DEVICE, name, 31) for name in SOME], OFF),
            "drills, rules of the start": ([simulate(HAND, DEVICE, name, 32) for name in SOME], START),
            "a hand that is hard to tell": (
                [simulate_hard(HAND, DEVICE, name, 33) for name in list(HARD_DRILLS)[:6]],
                START,
            ),
        }
        helped = {}
        for name, (own, now) in cases.items():
            with self.subTest(name):
                found, told = found_on(own, now)
                was, then = evaluate(own, now, ZONE), evaluate(own, found.rules, ZONE)
                self.assertEqual((told.now, told.found, found.expected), (was, then, then))
                made = sum(len(truth.palms) for _, truth in own)
                self.assertEqual(then.palms_kept + (then.confusion or {})["palm_refused"], made, "of own palms only")
                self.assertEqual(told.helps, found.rules != now)
                if told.helps:
                    self.assertTrue(better(then, was))
                else:
                    self.assertEqual(found.rules, now)
                self.assertEqual(bool(told.would_help), then.palms_kept > 0)
                bend = told.bend
                self.assertTrue(all(a[0] < b[0] and a[1] > b[1] for a, b in itertools.pairwise(bend)))
                helped[name] = told.helps
        self.assertTrue(helped["drills, no rules yet"])

    def test_good_rules_stay_and_nothing_is_said(self) -> None:
        own = [simulate(HAND, DEVICE, name, 41) for name in SOME]
        good, _ = found_on(own, OFF)
        if evaluate(own, good.rules, ZONE).palms_kept == 0:
            again, told = found_on(own, good.rules)
            self.assertEqual((again.rules, told.helps, told.would_help), (good.rules, False, []))

    def test_a_zone_is_measured_where_palms_lay_and_a_hover_changes_nothing_else(self) -> None:
        own = [simulate(HAND, DEVICE, name, 51) for name in SOME]
        zone = measured_zone(own)
        assert zone is not None
        self.assertGreater(zone.dx_mm, 0, "right of the nib, for a right hand")
        left = dataclasses.replace(HAND, side="left")
        mirrored = measured_zone([simulate(left, DEVICE, name, 51) for name in SOME])
        assert mirrored is not None
        self.assertLess(mirrored.dx_mm, 0)
        stream, _ = own[0]
        seen = with_hover(stream)
        self.assertEqual(
            [e for e in seen.events if e.phase != "hover"], [e for e in stream.events if e.phase != "hover"]
        )
        self.assertEqual(sorted(e.t_ms for e in seen.events), [e.t_ms for e in seen.events])
        self.assertIsNone(measured_zone([]))
