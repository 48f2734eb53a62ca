"""The Palm trial's rules: laws that hold for any stream, and what each rule does on small streams made by hand."""

import dataclasses
import math
import unittest
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Event, Stream, make_stream
from gray_quill.core.palm.drills import DRILLS, intended, join, simulate
from gray_quill.core.palm.engine import advance, begin, finish, fold
from gray_quill.core.palm.outcome import GRADES, grade, measure, outcome_of, palms_kept_share
from gray_quill.core.palm.posture import in_words, read_posture
from gray_quill.core.palm.proof import prove
from gray_quill.core.palm.rules import OFF, TIGHTER, Rules
from gray_quill.core.palm.rules.contact_size import size_mm
from gray_quill.core.palm.rules.crowd import reach_mm
from gray_quill.core.palm.rules.resting_zone import zone_of_contact
from gray_quill.core.palm.scores import contacts_of, explain, firing
from gray_quill.core.palm.state import KEPT, REFUSED, SLOP_MM, State
from gray_quill.core.palm.zone import Zone, zone_of
from gray_quill.core.quantities import quantities

ZONE = Zone(40, 30, 30, 25)
SIZE = (200.0, 150.0)
LEAST = "clamshell-11"  # the device that reports least
STRICT = Rules(
    before_ms=800,
    after_ms=600,
    size_mm=13,
    zone=1.2,
    edge_mm=8,
    crowd_count=2,
    crowd_mm=25,
    lie_ms=450,
    wait_ms=40,
    take_back_ms=1500,
    still=True,
)


def touch(
    id: int, start: float, *places: tuple[float, float], size: float = 9, step: float = 20, lift: bool = True
) -> list[Event]:
    """A contact that goes from place to place, one each step of ms, then lifts."""
    out = [
        Event(start + k * step, "touch", id, "move" if k else "down", x, y, size, size)
        for k, (x, y) in enumerate(places)
    ]
    return [*out, dataclasses.replace(out[-1], t_ms=out[-1].t_ms + step, phase="up")] if lift else out


def line(a: tuple[float, float], b: tuple[float, float], count: int = 11) -> list[tuple[float, float]]:
    return [(a[0] + (b[0] - a[0]) * k / (count - 1), a[1] + (b[1] - a[1]) * k / (count - 1)) for k in range(count)]


def nib(
    start: float, a: tuple[float, float] = (60, 60), b: tuple[float, float] = (80, 60), hover: bool = False
) -> list[Event]:
    before = [Event(start - 100, "pen", 0, "hover", *a)] if hover else []
    return [
        *before,
        *(Event(start + 10 * k, "pen", 0, "move" if k else "down", *p, force=0.4) for k, p in enumerate(line(a, b))),
        Event(start + 110, "pen", 0, "up", *b),
    ]


def played(rules: Rules, *parts: list[Event]) -> tuple[State, Stream]:
    stream = make_stream(sorted((e for part in parts for e in part), key=lambda e: e.t_ms), *SIZE)
    return fold(stream.events, rules, ZONE, *SIZE), stream


def random_stream(seed: int) -> Stream:
    """Palms, fingers and nib strokes at random; about what a busy screen reports."""
    rng = np.random.default_rng(seed)
    parts: list[list[Event]] = []
    clock = 0.0
    for _ in range(int(rng.integers(1, 4))):
        clock += float(rng.uniform(100, 900))
        parts.append(
            nib(clock, tuple(rng.uniform(40, 90, 2)), tuple(rng.uniform(60, 120, 2)), bool(rng.random() < 0.5))
        )  # type: ignore[arg-type]
        clock += 150
    for k in range(int(rng.integers(2, 9))):
        a = rng.uniform(2, (198, 148))
        b = np.clip(a + rng.normal(0, 15, 2) * rng.integers(0, 2), 1, (199, 149))
        parts.append(
            touch(
                k,
                float(rng.uniform(0, clock + 900)),
                *line(tuple(a), tuple(b), int(rng.integers(2, 40))),
                size=float(rng.uniform(5, 30)),
            )
        )  # type: ignore[arg-type]
    return make_stream(sorted((e for part in parts for e in part), key=lambda e: e.t_ms), *SIZE)


def with_rules(rules: Rules, **settings: Any) -> Rules:
    return dataclasses.replace(rules, **settings)


def random_rules(rng: np.random.Generator) -> Rules:
    """Any rules within their bounds, each off about one time in three."""
    values: dict[str, Any] = {}
    for name, q in quantities(Rules).items():
        if q.kind == "flag":
            values[name] = bool(rng.random() < 0.4)
        else:
            value = float(rng.uniform(q.low, min(q.high, 1500))) * (rng.random() < 0.67)
            values[name] = int(value) if q.kind == "integer" else max(q.low, value)
    return Rules(**values)


class Laws(unittest.TestCase):
    def test_nib_ink_is_never_lost_whatever_the_rules(self) -> None:
        for seed in range(60):
            stream, rules = random_stream(seed), random_rules(np.random.default_rng(seed))
            state = fold(stream.events, rules, ZONE, *SIZE)
            self.assertAlmostEqual(state.ink_mm, stream.nib_way_mm, places=9, msg=f"{seed} {rules}")

    def test_in_one_pass_or_in_pieces_and_the_state_given_stays(self) -> None:
        for seed in range(30):
            rng = np.random.default_rng(seed)
            stream, rules = random_stream(seed + 500), random_rules(rng)
            whole = fold(stream.events, rules, ZONE, *SIZE)
            state, at = begin(*SIZE), 0
            while at < len(stream.events):
                cut = at + int(rng.integers(1, 25))
                before = repr(state)
                after = advance(state, stream.events[at:cut], rules, ZONE)
                self.assertEqual(repr(state), before)
                state, at = after, cut
            self.assertEqual(finish(state, rules, ZONE), whole, f"{seed} {rules}")

    def test_tightening_one_rule_never_keeps_more_contacts(self) -> None:
        for seed in range(80):
            rng = np.random.default_rng(seed)
            stream, rules = random_stream(seed + 900), random_rules(rng)
            kept = {t.id for t in fold(stream.events, rules, ZONE, *SIZE).touches.values() if t.decision == KEPT}
            for name, way in TIGHTER.items():
                q, now = quantities(Rules)[name], getattr(rules, name)
                if way > 0:
                    tight = now + float(rng.uniform(0, 1)) * (q.high - now)
                else:  # from off to its loosest, or from a value to a smaller one
                    tight = float(rng.uniform(0.2, 1)) * (now or q.high)
                tight = max(2, round(tight)) if q.kind == "integer" else max(tight, q.low, 1e-3)
                if way < 0 and now and tight > now:
                    continue
                stricter = fold(stream.events, with_rules(rules, **{name: tight}), ZONE, *SIZE)
                now_kept = {t.id for t in stricter.touches.values() if t.decision == KEPT}
                self.assertLessEqual(now_kept, kept, f"{seed}: {name} from {now} to {tight}")

    def test_taking_back_leaves_no_trace_of_a_refused_contact(self) -> None:
        for finger_ink in (False, True):
            rules = with_rules(OFF, before_ms=900, take_back_ms=900, finger_ink=finger_ink)
            palm = touch(1, 0, *line((100, 90), (112, 95), 20))
            state, stream = played(rules, palm, nib(500))
            self.assertEqual((state.touches[1].decision, state.touches[1].rule), (REFUSED, "nib arrived"))
            self.assertEqual((state.view(), state.marks), ((1.0, 0.0, 0.0), {}))
            found = measure(stream, state, rules, None)
            self.assertEqual((found.stray_marks, found.page_shift_mm), (0, 0))
            self.assertGreater(found.jiggle_mm, 9) if not finger_ink else self.assertEqual(found.jiggle_mm, 0)
            # too late to undo: refused all the same, but what it did stays
            late, _ = played(with_rules(rules, take_back_ms=100), palm, nib(500))
            self.assertEqual(late.touches[1].decision, REFUSED)
            self.assertTrue(late.marks if finger_ink else abs(late.view()[1]) > 9)

    def test_what_a_finger_did_meanwhile_stays_when_a_palm_is_taken_back(self) -> None:
        rules = with_rules(OFF, before_ms=900, take_back_ms=900)
        finger = touch(1, 0, *line((30, 30), (50, 30)))
        palm = touch(2, 600, *line((100, 90), (112, 95), 20))
        alone, _ = played(rules, finger)
        both, _ = played(rules, finger, palm, nib(1100))
        self.assertEqual(both.view(), alone.view())


class EachRule(unittest.TestCase):
    def test_each_rule_refuses_what_it_says_and_only_that(self) -> None:
        far = line((150, 20), (150, 60))
        palm = [(100.0, 90.0)] * 30
        cases = [
            ({"after_ms": 300}, touch(1, 250, *far), "nib near", touch(1, 450, *far)),
            (
                {"after_ms": 300, "radius_mm": 40},
                touch(1, 150, *line((90, 70), (90, 110))),
                "nib near",
                touch(1, 150, *far),
            ),
            ({"before_ms": 200}, touch(1, -150, *far), "nib arrived", touch(1, -350, *far)),
            ({"size_mm": 12}, touch(1, 400, *far, size=13), "contact size", touch(1, 400, *far, size=12)),
            (
                {"zone": 1, "zone_ms": 500},
                touch(1, 400, *line((118, 88), (140, 120))),
                "resting zone",
                touch(1, 400, *far),
            ),
            (
                {"zone": 1, "zone_ms": 100},
                touch(1, 200, *line((118, 88), (140, 120))),
                "resting zone",
                touch(1, 400, *line((118, 88), (140, 120))),
            ),
            ({"edge_mm": 8}, touch(1, 400, *line((7, 60), (60, 60))), "edge", touch(1, 400, *line((9, 60), (60, 60)))),
            (
                {"crowd_count": 2, "crowd_mm": 20},
                [*touch(1, 400, *far), *touch(2, 410, *line((160, 20), (160, 60)))],
                "crowd",
                [*touch(1, 400, *far), *touch(2, 410, *line((175, 20), (175, 60)))],
            ),
            ({"lie_ms": 300}, touch(1, 400, *palm), "lies still", touch(1, 400, *line((100, 90), (104, 90)))),
        ]
        for fields, refused, rule, kept in cases:
            rules = with_rules(OFF, **fields)  # type: ignore[arg-type]
            base = 400 if min(e.t_ms for e in refused) < 0 else 0
            shift = lambda part: [dataclasses.replace(e, t_ms=e.t_ms + base) for e in part]  # noqa: E731, B023
            state, _ = played(rules, nib(base), shift(refused))
            self.assertEqual({t.rule for t in state.touches.values()}, {rule}, fields)
            state, _ = played(rules, nib(base), shift(kept))
            self.assertEqual({t.decision for t in state.touches.values()}, {KEPT}, fields)

    def test_deciding_later_costs_delay_and_hides_the_jiggle(self) -> None:
        swipe = touch(1, 0, *line((150, 20), (150, 80), 15))
        now, _stream = played(OFF, swipe)
        later, _ = played(with_rules(OFF, wait_ms=100), swipe)
        self.assertEqual((now.touches[1].at_ms, later.touches[1].at_ms), (0, 100))
        self.assertTrue(0 < later.view()[2] < now.view()[2], "what it did while it waited is not done afterwards")
        big = touch(1, 0, (100, 80), (104, 80), size=8)[:-1] + touch(1, 40, *line((108, 80), (130, 80)), size=25)[1:]
        hidden, shown = (played(with_rules(OFF, size_mm=12, wait_ms=w, take_back_ms=1000), big) for w in (100, 0))
        self.assertEqual(
            outcome_of(hidden[1], with_rules(OFF, size_mm=12, wait_ms=100, take_back_ms=1000), ZONE, None).jiggle_mm,
            0,
        )
        self.assertEqual(shown[0].view(), (1, 0, 0))

    def test_one_finger_moves_two_zoom_a_tap_taps_and_locks_hold(self) -> None:
        pinch = [*touch(1, 0, *line((90, 75), (70, 75))), *touch(2, 5, *line((110, 75), (130, 75)))]
        zoomed, _ = played(OFF, pinch)
        scale, x, _ = zoomed.view()
        self.assertAlmostEqual(scale, 3, delta=0.05)
        self.assertAlmostEqual(scale * 100 + x, 100, delta=1.5, msg="the middle of the fingers stays put")
        moved, _ = played(OFF, touch(1, 0, *line((150, 20), (150, 60), 21)))
        self.assertEqual(moved.view()[0], 1)
        self.assertAlmostEqual(moved.view()[2], 40 - SLOP_MM, delta=2.1)
        tapped, _stream = played(OFF, touch(1, 0, (100, 80), (100.4, 80)))
        self.assertEqual([i for i, _ in tapped.taps], [1])
        self.assertEqual(tapped.view(), (1, 0, 0))
        locked, _ = played(with_rules(OFF, page_lock=True), pinch)
        self.assertEqual(locked.view(), (1, 0, 0))
        still, _ = played(with_rules(OFF, still=True), touch(1, 0, *line((150, 20), (150, 60))), nib(0))
        self.assertLess(abs(still.view()[2]), 41 - 20, "no move while the nib wrote")
        ink, _ = played(with_rules(OFF, finger_ink=True), touch(1, 0, *line((20, 20), (60, 20))))
        self.assertEqual((ink.marks[1][:2], ink.marks[1][-2:], ink.view()), ([20, 20], [60, 20], (1, 0, 0)))
        both, _ = played(with_rules(OFF, finger_ink=True), pinch)
        self.assertEqual(
            (both.marks, both.view()[0] > 2), ({}, True), "two fingers move the page even where one writes"
        )


class Hand(unittest.TestCase):
    def test_streams_repeat_fit_the_device_and_hold_what_was_meant(self) -> None:
        for device_id, device in SHIPPED_DEVICES.items():
            for name, drill in DRILLS.items():
                stream, truth = simulate(SHIPPED_HANDS["right-firm"], device, name, 3)
                self.assertEqual(simulate(SHIPPED_HANDS["right-firm"], device, name, 3), (stream, truth))
                make_stream(stream.events, stream.width_mm, stream.height_mm)
                self.assertEqual(len(truth.gestures), drill.asks)
                sized = {e.size_mm > 0 for e in stream.events if e.pointer == "touch"}
                self.assertEqual(sized, {device.touch.size}, device_id)
                self.assertEqual(any(e.phase == "hover" for e in stream.events), device.digitiser.hover)
                self.assertEqual({i for g in truth.gestures for i in g.ids} | truth.palms, set(stream.contacts))
                guessed = intended(name, stream)
                self.assertEqual(
                    {frozenset(g.ids) for g in guessed.gestures}, {frozenset(g.ids) for g in truth.gestures}
                )
                self.assertEqual(guessed.palms, truth.palms)
        pair = SHIPPED_HANDS["left-steep"], SHIPPED_DEVICES["tablet-11"]
        whole, truth = join([simulate(*pair, name, 3) for name in DRILLS])
        self.assertEqual(len(truth.gestures), 9)
        make_stream(whole.events, whole.width_mm, whole.height_mm)

    def test_palm_sizes_are_true_millimetres(self) -> None:
        for hand in SHIPPED_HANDS.values():
            largest = [
                max(e.size_mm for e in simulate(hand, SHIPPED_DEVICES["tablet-11"], "palm first", s)[0].events)
                for s in range(8)
            ]
            # the largest of several patches that differ by 15 %, each read with noise
            self.assertAlmostEqual(float(np.mean(largest)), hand.palm_mm * 1.2, delta=0.1 * hand.palm_mm)

    def test_posture_is_read_off_contacts_or_tilt_and_can_be_corrected(self) -> None:
        for name, hand in SHIPPED_HANDS.items():
            for device in ("tablet-11", "clamshell-11", "paper-pad-8"):
                for seed in range(4):
                    stream, _ = simulate(hand, SHIPPED_DEVICES[device], "palm slides", seed)
                    found = read_posture(stream)
                    self.assertEqual((found.side, found.rest), (hand.side, hand.rest), f"{name} {device} {seed}")
                    self.assertLess(zone_of(hand).distance(found.zone.dx_mm, found.zone.dy_mm), 0.8)
        alone = make_stream(nib(0), *SIZE)
        self.assertEqual(
            [read_posture(alone, [a, a + 8]).side for a in (40, 140, -170, 350)], ["right", "left", "left", "right"]
        )
        with self.assertRaisesRegex(InputError, "say it in words"):
            read_posture(alone)
        right = read_posture(simulate(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], "palm slides", 1)[0])
        left = in_words(right, "left", "above")
        self.assertTrue(left.zone.dx_mm < 0 and left.zone.dy_mm < 0)
        self.assertEqual(in_words(right, "right", right.rest).zone, right.zone)

    def test_each_decision_explains_itself_for_every_size_of_crowd(self) -> None:
        stream, _ = simulate(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], "palm first", 2)
        zone = zone_of(SHIPPED_HANDS["right-firm"])
        contacts = contacts_of(stream, zone)
        crowds = [with_rules(OFF, crowd_count=n, crowd_mm=60) for n in (1, 2, 3, 8)]
        for rules in (STRICT, OFF, *crowds):
            for t in fold(stream.events, rules, zone, stream.width_mm, stream.height_mm).touches.values():
                words = explain(t.decision, t.rule, rules, contacts[t.id])
                self.assertTrue(words.startswith("Refused by " + t.rule if t.rule else "Kept"), words)
                if t.rule == "crowd":
                    self.assertIn("crowd", firing(rules, contacts[t.id]), "what fired is what the scores say fires")
        self.assertTrue(all(size_mm(c) > 7 for c in contacts.values()))
        self.assertLess(min(zone_of_contact(c) for c in contacts.values()), 1)

    def test_a_crowd_of_three_is_three(self) -> None:
        events = [Event(10 * k, "touch", k, "down", 50 + x, 50) for k, x in enumerate((0, 10, 25))]
        contacts = contacts_of(make_stream(events, *SIZE), ZONE)
        for count, rows in ((2, (10, 10, 15)), (3, (25, 15, 25)), (4, (math.inf,) * 3)):
            self.assertEqual([reach_mm(contacts[k], count) for k in range(3)], list(rows), count)
        kept = explain("kept", "", with_rules(OFF, crowd_count=3, crowd_mm=5), contacts[0])
        self.assertIn("a crowd of 3 within 25 mm", kept)

    def test_grades_and_bad_streams(self) -> None:
        stream, truth = simulate(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], "rest", 2)
        zone = zone_of(SHIPPED_HANDS["right-firm"])
        lasts = stream.events[-1].t_ms
        good, bad = (grade([outcome_of(stream, r, zone, truth)], lasts).word for r in (STRICT, OFF))
        self.assertEqual((good, bad), (GRADES[0].word, GRADES[-1].word))
        down = Event(0, "touch", 1, "down", 5, 5)
        for events, why in (
            ([down, down], "Event 2: touch 1 lands twice"),
            ([dataclasses.replace(down, phase="up")], "without having landed"),
            ([dataclasses.replace(down, t_ms=9), dataclasses.replace(down, id=2)], "time runs backwards"),
            ([dataclasses.replace(down, phase="hover")], "Event 1: touch hover is not known"),
            ([dataclasses.replace(down, x_mm=float("nan"))], "not finite"),
            ([dataclasses.replace(down, width_mm=900)], "0 to 400 mm"),
            ([dataclasses.replace(down, id=k) for k in range(80)], "more than 64 touches"),
        ):
            with self.assertRaisesRegex(InputError, why):
                make_stream(events, *SIZE)


class Recommended(unittest.TestCase):
    def test_recommended_rules_hold_on_sessions_they_were_not_tuned_on(self) -> None:
        """What `gray-quill palm-proof` prints, for a hand above its line on the device that reports least; all drills,
        new seeds.
        """
        hands, devices = {"left-hooked": SHIPPED_HANDS["left-hooked"]}, {LEAST: SHIPPED_DEVICES[LEAST]}
        by_rules = prove(hands, devices, range(402, 404), sets=("drills",)).figures["drills"]
        for name in ("recommended", "recommended, fingers write"):
            found = by_rules[name]
            self.assertEqual(found.sessions, 18)
            self.assertLessEqual(palms_kept_share(found.total), 0.02)
            self.assertLessEqual(found.total.refused_gestures / found.total.gestures, 0.03)
            self.assertEqual(found.total.lost_ink_mm, 0)
        off, off_ink = (by_rules[name].total for name in ("off", "off, fingers write"))
        self.assertEqual((palms_kept_share(off), off.refused_gestures), (1, 0))
        self.assertGreater(off.page_shift_mm, 100)
        self.assertGreater(min(off_ink.stray_marks, off_ink.stray_ink_mm), 5)
