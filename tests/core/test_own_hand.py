"""A hand measured from writing: `make trial-hands` does this forty times."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.readings.own_hand import FIELDS, measure_hand
from gray_quill.core.trace import make_trace
from tests.trials.hands import LIKE, garlands, held, measured

TABLET = SHIPPED_DEVICES["tablet-11"]


class Measured(unittest.TestCase):
    def test_intervals_hold_the_habits_of_hands_they_were_not_tuned_on(self) -> None:
        """Two hands; of habits known and told nine in ten lie inside, joined and separate letters are told apart."""
        found = []
        for seed in (9001, 9002):
            hand, own = measured(seed)
            inside = held({f.name: getattr(hand, f.name) for f in dataclasses.fields(hand)}, own)
            self.assertGreaterEqual(len(inside), len(FIELDS) - 2)
            found += [ok for ok, _ in inside.values()]
            self.assertEqual((own.hand.letters, own.hand.side), (hand.letters, hand.side))
            self.assertAlmostEqual(own.hand.x_height_mm / hand.x_height_mm, 1, delta=0.06)
            self.assertAlmostEqual(own.hand.force, hand.force, delta=0.04)
            self.assertAlmostEqual(own.hand.pause_ms / hand.pause_ms, 1, delta=0.25)
            self.assertAlmostEqual(own.hand.drift_deg / hand.drift_deg, 1, delta=0.35)
        self.assertGreaterEqual(np.mean(found), 0.85)

    def test_garlands_of_another_generator(self) -> None:
        true, own = garlands(9005)
        told = {h.field: h for h in own.habits}
        for field, within in (("x_height_mm", 0.3), ("speed_mm_s", 2.0), ("altitude_deg", 2.0), ("force", 0.06)):
            self.assertAlmostEqual(float(told[field].value), true[field], delta=within, msg=field)
        self.assertFalse(told["tremor_mm"].told)
        self.assertIn("slow line", told["tremor_mm"].why_not)

    def test_what_writing_does_not_tell_stays_and_is_said(self) -> None:
        traces = write_text("moth seen at trap nine, wings folded", SHIPPED_HANDS["left-steep"], TABLET, 3)
        bare = [make_trace(t.t_s, t.x_mm, t.y_mm) for t in traces]
        own = measure_hand(bare, LIKE, TABLET)
        untold = {h.field: h.why_not for h in own.habits if not h.told}
        for field in ("force", "altitude_deg", "tremor_mm", "side", "palm_mm", "pause_ms"):
            self.assertTrue(untold[field], field)
            self.assertEqual(getattr(own.hand, field), getattr(LIKE, field), field)
        hooked = SHIPPED_HANDS["left-hooked"]
        rests = {}
        for wrote, like in (("left-hooked", LIKE), ("left-steep", hooked), ("left-steep", LIKE)):
            words = write_text("moth seen at trap nine, wings folded", SHIPPED_HANDS[wrote], TABLET, 4)
            own = measure_hand(words, dataclasses.replace(like, side="left"), TABLET)
            rests[wrote, like.rest] = (own.hand.rest, next(h.told for h in own.habits if h.field == "rest"))
        self.assertEqual(list(rests.values()), [("above", True), ("below", True), ("below", False)])
        with self.assertRaisesRegex(GrayQuillError, "two lines"):
            measure_hand(traces[:2], LIKE, TABLET)
