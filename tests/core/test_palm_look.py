"""The look of a hand and the hard set: what one rule alone gets wrong, devices that spoil what they report, and ink
that can really be lost.
"""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.generated.palm_look import BASE, MEANS, ROOTS
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Event, Stream, Truth, make_stream
from gray_quill.core.palm.drills import simulate
from gray_quill.core.palm.engine import advance, begin, fold, fold_stream
from gray_quill.core.palm.features import LOOKS, looks, told
from gray_quill.core.palm.hard.drills import HARD_DRILLS, digest, hard_session
from gray_quill.core.palm.hard.faults import Faults, spoil
from gray_quill.core.palm.outcome import outcome_of, palms_kept_share
from gray_quill.core.palm.proof import hard_figures
from gray_quill.core.palm.rules import OFF, START, Rules
from gray_quill.core.palm.scores import contacts_of, explain
from gray_quill.core.palm.state import REFUSED, WAITING
from gray_quill.core.palm.trees import odds_of, terms_of
from gray_quill.core.palm.zone import zone_of
from tests.core.palm_streams import HAND, LEAST, STREAMS, kept
from tests.core.palm_streams import make as make_nasty
from tests.core.test_palm import with_rules
from tools.make_fields_doc import DOCS

ZONE = zone_of(HAND)
TABLET = SHIPPED_DEVICES["tablet-11"]
# What the device that reports least still gets wrong, with all that goes wrong there.
MISSED = {("two-finger-tap", True): (0, 1)}
# The figures are of the devices there were before this one. With it every second pair is another, and of the pinches of
# the other hand one more is refused than the floor allows: 7.
LATER = "paper-colour-10"
SET = "5fe80621a215"


class Nasty(unittest.TestCase):
    def test_twelve_streams_are_decided_as_a_writer_wants(self) -> None:
        for name in STREAMS:
            stream, truth = kept(name)
            self.assertEqual(make_nasty(name)[1], truth, "kept as it is made")
            for least in (False, True):
                spoilt = spoil((stream, truth), LEAST, np.random.default_rng(1)) if least else (stream, truth)
                found = outcome_of(spoilt[0], START, ZONE, spoilt[1])
                wrong = found.palms_kept, found.refused_gestures
                self.assertEqual(wrong, MISSED.get((name, least), (0, 0)), f"{name}, least: {least}")
                self.assertEqual((found.page_shift_mm, found.stray_ink_mm, found.taps), (0, 0, 0), name)


class HardSet(unittest.TestCase):
    def test_start_rules_on_the_hard_set(self) -> None:
        """What `gray-quill palm-proof --set "hard set"` prints; seeds nothing was tuned on. Bounds leave room for the
        chance of some 270 sessions; the figures stand in docs/palm-rules.md.
        """
        devices = [device for name, device in SHIPPED_DEVICES.items() if name != LATER]
        pairs = [(hand, device) for hand in SHIPPED_HANDS.values() for device in devices][::2]
        found = hard_figures((h, d, 7_700_000 + k, {"start": START, "off": OFF}) for k, (h, d) in enumerate(pairs))
        start, off = found["start"], found["off"]
        self.assertEqual(start.sessions, len(HARD_DRILLS) * len(pairs))
        self.assertLessEqual(palms_kept_share(start.total), 0.015)
        self.assertLessEqual(start.total.refused_gestures / start.total.gestures, 0.04)
        self.assertLessEqual(start.shifted / start.sessions, 0.02)
        for name, o in start.drills.items():  # floors, where the pool could hide a drill
            palms = o.palms_kept + (o.confusion or {})["palm_refused"]
            self.assertLessEqual(o.palms_kept, max(2, 0.2 * palms), name)
            self.assertLessEqual(o.refused_gestures, max(2, 0.25 * o.gestures), name)
        self.assertGreater(off.shifted / off.sessions, 0.5, "the set is hard: without rules most pages are left off")
        self.assertTrue(all(drill in HARD_DRILLS and n > 0 for (drill, _, _), n in start.causes.items()))

    def test_the_set_is_known_by_its_digest(self) -> None:
        self.assertEqual(digest(), SET, "the hard set changed: print its figures again and say so")
        self.assertIn(f"hard set {SET}", (DOCS / "palm-figures.txt").read_text(), "the figures are of this set")

    def test_sessions_repeat_and_hold_what_was_meant(self) -> None:
        for k, drill in enumerate(HARD_DRILLS):
            stream, truth, _ = hard_session(HAND, TABLET, drill, 40 + k)
            self.assertEqual(hard_session(HAND, TABLET, drill, 40 + k)[:2], (stream, truth))
            make_stream(stream.events, stream.width_mm, stream.height_mm)
            fingers = {i for g in truth.gestures for i in g.ids}
            self.assertEqual(fingers | truth.palms, set(stream.contacts), drill)
            self.assertFalse(fingers & truth.palms)


class Spoilt(unittest.TestCase):
    def session(self, seed: int = 5) -> tuple[Stream, Truth]:
        stream, truth, _ = hard_session(HAND, TABLET, "between words", seed)
        return stream, dataclasses.replace(truth, ink_mm=None, not_nib=())

    def test_each_fault_does_what_it_says(self) -> None:
        rng = np.random.default_rng(3)
        session = hard_session(HAND, TABLET, "pinch", 11)[:2]
        bare, _ = spoil(session, LEAST, rng)
        self.assertFalse(any(e.size_mm or e.phase == "hover" for e in bare.events))
        coarse, _ = spoil(session, Faults(coarse_mm=4), rng)
        sizes = {e.width_mm for e in coarse.events if e.pointer == "touch"}
        self.assertTrue(all(abs(s / 4 - round(s / 4)) < 1e-9 for s in sizes))
        cancelled, _ = spoil(session, Faults(touch_cancel=True), rng)
        self.assertIn("cancel", {e.phase for e in cancelled.events if e.pointer == "touch"})

    def test_merged_contacts_are_one_until_they_part(self) -> None:
        a = [Event(10 * k, "touch", 1, "move" if k else "down", 50, 50, 8, 8) for k in range(20)]
        b = [Event(10 * k + 5, "touch", 2, "move" if k else "down", 54 + k, 50, 8, 8) for k in range(20)]
        ends = [dataclasses.replace(x[-1], t_ms=300, phase="up") for x in (a, b)]
        stream = make_stream(sorted([*a, *b], key=lambda e: e.t_ms) + ends, 200, 150)
        merged, truth = spoil((stream, Truth(frozenset({1, 2}))), Faults(merge_mm=8), np.random.default_rng(1))
        make_stream(merged.events, 200, 150)
        second = next(e for e in merged.events if e.phase == "down" and e.id != 1)
        self.assertAlmostEqual(second.x_mm, 54 + 7, delta=1.1, msg="where they were 10 mm apart it lands")
        self.assertEqual(truth.palms, set(merged.contacts))

    def test_ink_can_be_lost_and_nobody_s_ink_can_stay(self) -> None:
        rng = np.random.default_rng(8)
        stream, truth = self.session()
        cut = spoil((stream, truth), Faults(pen_cancel=True), rng)
        lost = outcome_of(cut[0], START, ZONE, cut[1])
        self.assertGreater(lost.lost_ink_mm, 0.1)
        self.assertAlmostEqual(lost.lost_ink_mm, lost.unreported_mm, places=6, msg="the device lost it, not the rules")
        taken = spoil((stream, truth), Faults(palm_as_pen=True), rng)
        self.assertTrue(taken[1].not_nib)
        trusting = outcome_of(taken[0], with_rules(START, jump_mm=0), ZONE, taken[1])
        wary = outcome_of(taken[0], START, ZONE, taken[1])
        self.assertGreater(trusting.stray_ink_mm, 30, "the line from the palm to the nib")
        self.assertEqual((wary.stray_ink_mm, round(wary.lost_ink_mm, 3)), (0, 0))
        locked = with_rules(START, page_lock=True)
        scrolls = hard_session(HAND, TABLET, "scroll soon", 3)[:2]
        found = outcome_of(scrolls[0], locked, ZONE, scrolls[1])
        self.assertEqual(found.refused_gestures, found.gestures, "a page locked by mistake refuses them all")
        refused = with_rules(OFF, size_mm=1, finger_ink=True)
        self.assertGreater(outcome_of(scrolls[0], refused, ZONE, scrolls[1]).lost_ink_mm, 15, "what fingers wrote")

    def test_a_quick_flick_is_not_taken_for_a_jump(self) -> None:
        for speed, left in ((2000, 0), (6000, 2)):  # mm/s at 100 reports/s
            step = speed / 100
            pen = [Event(10 * k, "pen", 0, "move" if k else "down", 10 + step * k, 60, force=0.4) for k in range(3)]
            state = fold(pen, START, ZONE, 200, 150)
            self.assertAlmostEqual(state.ink_mm, step * (2 - left), msg=f"{speed} mm/s")


class Look(unittest.TestCase):
    def test_terms_add_up_and_every_number_has_words(self) -> None:
        stream, _ = kept("parts-late")
        for c in contacts_of(stream, ZONE).values():
            self.assertEqual(len(c.look), len(LOOKS))
            roots = BASE + sum(MEANS[r] for r in ROOTS)
            self.assertAlmostEqual(roots + sum(terms_of(c.look).values()), odds_of(c.look), places=6)
            words = explain(REFUSED, "looks like a hand", START, c)
            self.assertRegex(words, r"a hand with \d+ %: .*[a-z]")
            self.assertNotIn("nan", " ".join(told(k, v) for k, v in enumerate(c.look) if not np.isnan(v)))
            self.assertNotIn("nan", words)

    def test_what_is_larger_or_lay_while_the_nib_wrote_is_never_less_of_a_hand(self) -> None:
        stream, _ = kept("thumb-scroll")
        state = fold_stream(stream, Rules(likely=1), ZONE)
        names = [name for name, _ in LOOKS]
        for t in state.touches.values():
            look = looks(state, t, t.ended_ms, ZONE)
            for name, values in (("size_mm", (4, 9, 14, 20, 35)), ("nib_with", (0, 1)), ("near_size_mm", (6, 12, 30))):
                odds = []
                for v in values:
                    look[names.index(name)] = v
                    odds.append(odds_of(look))
                self.assertEqual(odds, sorted(odds), name)

    def test_what_is_in_doubt_waits_and_does_nothing(self) -> None:
        """Under rules that hardly ever refuse, a hand that lies while the nib writes waits, moves nothing, and does
        nothing as it lifts.
        """
        stream, truth = simulate(HAND, TABLET, "palm slides", 3)
        patient = with_rules(START, likely=1)
        lifts = next(e for e in stream.events if e.pointer == "touch" and e.phase == "up")
        before = [e for e in stream.events if e.t_ms < lifts.t_ms]
        waits = advance(begin(stream.width_mm, stream.height_mm), before, patient, ZONE)
        touch = waits.touches[lifts.id]
        self.assertGreater(touch.far_mm, 5)
        self.assertEqual((touch.decision, touch.odds >= 0), (WAITING, True))
        self.assertLess(np.hypot(*waits.view()[1:]), 0.5)
        self.assertEqual(fold_stream(stream, patient, ZONE).touches[touch.id].rule, "looks like a hand")
        certain = with_rules(OFF, wait_ms=40)  # without a look it moves the page
        self.assertGreater(outcome_of(stream, certain, ZONE, truth).jiggle_mm, 5)
