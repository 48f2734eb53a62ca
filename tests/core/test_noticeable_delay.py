"""What a hand feels: hidden turns, what they tell of writers whose thresholds are known, and when they tell nothing."""

import dataclasses
import itertools
import unittest
from collections import Counter
from collections.abc import Callable

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.latency.figures import Filmed, base_of, figures
from gray_quill.core.latency.noticeable_delay import FEWEST_TURNS, feel, felt
from gray_quill.core.latency.sentences import sentence
from gray_quill.core.latency.staircase import (
    BLOCK,
    CATCH,
    DISTURBED,
    LEAST_ADDED_MS,
    MOST_ADDED_MS,
    NOTICED,
    STARTS_MS,
    Turn,
    next_turn,
)
from gray_quill.core.latency.trial import compare, model_lag
from gray_quill.core.latency.verdict import THRESHOLDS, called, of_this_hand, verdict
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from tests.trials.feel import FAMILIES, TELL_NOTHING, Writer, session

BARE_MS = 22.0


def turns_of(says: Callable[[float], str], count: int, seed: int = 3, off_ms: float = 0) -> list[Turn]:
    """A session of a writer; off_ms: how much less the browser adds than it was asked."""
    turns: list[Turn] = []
    for _ in range(count):
        asked = next_turn(turns, seed)
        added = asked.added_ms
        turns.append(Turn(asked.kind, added, says(added), BARE_MS + max(0.0, added - off_ms), 80))
    return turns


def firm(added_ms: float) -> str:
    return "laggy" if added_ms >= 120 else "slight" if added_ms >= 50 else "none"


class Turns(unittest.TestCase):
    def test_every_block_holds_a_catch_turn_and_both_staircases_in_an_order_of_its_own(self) -> None:
        kinds = [t.kind for t in turns_of(firm, 40)]
        blocks = [kinds[k : k + BLOCK] for k in range(0, 40, BLOCK)]
        for block in blocks:
            self.assertEqual(Counter(block), {NOTICED: 2, DISTURBED: 2, CATCH: 1})
        self.assertGreater(len({tuple(b) for b in blocks}), 3)

    def test_a_staircase_goes_down_after_a_yes_and_up_after_a_no_by_ever_smaller_steps(self) -> None:
        own = [t for t in turns_of(firm, 60) if t.kind == NOTICED]
        self.assertEqual(own[0].added_ms, STARTS_MS[NOTICED])
        for one, other in itertools.pairwise(own):
            self.assertEqual(other.added_ms < one.added_ms, one.answer != "none")
        self.assertTrue(all(40 < t.added_ms < 62 for t in own[-6:]), "it settles about the threshold")
        for says, end in ((lambda _: "none", MOST_ADDED_MS), (lambda _: "laggy", LEAST_ADDED_MS)):
            self.assertEqual([t.added_ms for t in turns_of(says, 60) if t.kind == DISTURBED][-1], end)

    def test_the_same_seed_and_answers_ask_the_same_and_another_seed_other_sentences(self) -> None:
        turns = turns_of(firm, 12)
        self.assertEqual(next_turn(turns, 5), next_turn(turns, 5))
        self.assertNotEqual(next_turn(turns, 5).sentence, next_turn(turns, 6).sentence)
        drawn = {sentence(np.random.default_rng(k)) for k in range(300)}
        self.assertGreater(len(drawn), 298)
        self.assertTrue(all(20 < len(s) < 60 for s in drawn))


class Told(unittest.TestCase):
    def test_a_firm_writer_is_told_within_narrow_bounds(self) -> None:
        found = feel(turns_of(firm, 40))
        for bound, truth in ((found.noticed, 50), (found.disturbed, 120)):
            assert bound.low_ms
            assert bound.high_ms
            assert bound.added_ms
            self.assertTrue(bound.low_ms <= truth <= bound.high_ms and bound.low_ms < bound.added_ms < bound.high_ms)
        self.assertTrue(found.enough)
        self.assertEqual((found.catches, found.mistaken, found.set_aside, found.bare_frame_ms), (8, 0, 0, BARE_MS))

    def test_nothing_is_told_where_it_cannot_be(self) -> None:
        rng = np.random.default_rng(8)
        for says, why in (
            (lambda _: "none", "none of the added delays, up to 500 ms"),
            (lambda _: "laggy", "8 of 8 turns without any"),
            (lambda a: "slight" if a else "none", "every added delay, down to"),
            (lambda _: str(rng.choice(["none", "none", "slight", "laggy"])), "do not go with the delay"),
        ):
            found = feel(turns_of(says, 40))
            self.assertIn(why, found.noticed.words)
            self.assertIsNone(felt(found, 30, "modelled"))
            self.assertFalse(found.enough)
        self.assertIn(f"{FEWEST_TURNS} more turns", feel([]).noticed.words)

    def test_turns_in_which_the_browser_added_something_else_are_set_aside(self) -> None:
        found = feel(turns_of(firm, 40, off_ms=30))
        self.assertGreater(found.set_aside, 20)
        self.assertIsNone(found.noticed.added_ms)

    def test_simulated_writers(self) -> None:
        """The interval holds the truth of most of every family, also of those it does not assume; of writers that
        answer at random, feel nothing or feel the screen as it is, hardly ever is anything told.
        """
        for k, family in enumerate(FAMILIES + TELL_NOTHING):
            told, held = 0, 0
            for n in range(10):
                seed = 900_000 + 100 * k + n
                writer = Writer(family, np.random.default_rng(seed))
                bound = session(writer, seed).noticed
                if bound.low_ms is None or bound.high_ms is None:
                    continue
                told += 1
                held += bound.low_ms <= writer.noticed_ms <= bound.high_ms
            if family in TELL_NOTHING:
                self.assertLessEqual(told, 1, family)
            else:
                self.assertGreaterEqual(told, 7, family)
                self.assertGreaterEqual(held, told - 2, family)


class Verdicts(unittest.TestCase):
    def test_facts_of_the_trade(self) -> None:
        """Common practice, no source: 2.8 ms is imperceptible, 9 ms seen in slow motion only, first ink after a second
        of no use, and two devices whose sheets state the same may differ.
        """
        self.assertEqual((verdict(2.8).word, verdict(9).word), ("imperceptible", "seen in slow motion only"))
        self.assertEqual((called(40, 999), called(40, 1000)), ("seen in slow motion only", "unusable"))
        pen = SHIPPED_PENS["reed-ballpoint"]
        quick = dataclasses.replace(SHIPPED_DEVICES["tablet-11"], stated_ms=9.0)
        slow = dataclasses.replace(SHIPPED_DEVICES["paper-pad-8"], stated_ms=9.0)
        one, other = (figures(model_lag(d, pen), d.stated_ms) for d in (quick, slow))
        self.assertEqual([f.ms for f in (one[1], other[1])], [9, 9])
        self.assertGreater(other[0].ms, 2 * one[0].ms)
        self.assertNotEqual(one[1].words, other[1].words)
        self.assertIn("left out", other[1].words)

    def test_ink_that_first_comes_after_a_second_is_unusable_however_close_it_follows(self) -> None:
        slow = changed(SHIPPED_DEVICES["tablet-11"], "digitiser.report_hz", 20.0)
        late = changed(slow, "panel.response_ms", 990.0)
        lag = model_lag(late, SHIPPED_PENS["reed-ballpoint"])
        self.assertGreater(lag.first_ink_ms, 1000)
        self.assertEqual(lag.word, "unusable")
        self.assertEqual(compare({"d": late}, [SHIPPED_PENS["reed-ballpoint"]], 60)[0].word, "unusable")

    def test_a_hands_own_thresholds_take_the_place_of_the_general_ones(self) -> None:
        for noticed, disturbed in ((28, 61), (5, None), (80, 300), (150, None)):
            own = of_this_hand(noticed, disturbed, "own")
            self.assertEqual([t.from_ms for t in own], sorted(t.from_ms for t in own))
            self.assertEqual(verdict(noticed, own).word, "felt")
            self.assertNotEqual(verdict(noticed - 0.1, own).word, "felt")
            if disturbed:
                self.assertEqual(verdict(disturbed, own).word, "disturbing")
        self.assertEqual(len({t.word for t in of_this_hand(28, 61, "own")}), len(THRESHOLDS))
        pen, device = SHIPPED_PENS["fen-fountain"], SHIPPED_DEVICES["tablet-11"]
        self.assertEqual(model_lag(device, pen).word, "seen in slow motion only")
        self.assertEqual(model_lag(device, pen, thresholds=of_this_hand(28, None, "own")).word, "felt")

    def test_what_was_there_before_is_filmed_or_modelled_with_the_browser_timed(self) -> None:
        lag = model_lag(SHIPPED_DEVICES["tablet-11"], SHIPPED_PENS["fen-fountain"])
        self.assertEqual(base_of(lag, 30, Filmed(51, 3)), (51, "filmed"))
        self.assertAlmostEqual(base_of(lag, lag.browser_ms + 7, None)[0], lag.p50_ms + 7)
        own = felt(feel(turns_of(firm, 40)), 38, "modelled")
        assert own
        assert own.disturbed_ms
        self.assertTrue(own.low_ms < 88 < own.high_ms and 150 < own.disturbed_ms < 180)
        figure = figures(lag, felt=own)[-1]
        self.assertEqual((figure.name, figure.ms), ("felt", own.noticed_ms))
        self.assertIn(f"{own.noticed_ms - lag.p50_ms:.0f} ms under it", figure.words)


if __name__ == "__main__":
    unittest.main()
