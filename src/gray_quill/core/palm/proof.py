"""Figures a reader can run: the recommended rules, those every hand starts with, and none at all, on sessions none of
them was tuned on; the drills, and the hard set.
"""

import dataclasses
from collections import Counter
from collections.abc import Callable, Iterable, Mapping

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.hard.drills import HARD_DRILLS, hard_session
from gray_quill.core.palm.outcome import SEEN_SHIFT_MM, Outcome, Session, outcome_of, total
from gray_quill.core.palm.practice import practise
from gray_quill.core.palm.recommend import recommend
from gray_quill.core.palm.rules import OFF, START, Rules
from gray_quill.core.palm.zone import zone_of

TUNING_SEEDS = (9000, 9001)  # the search sees these only
PRACTICE_SEEDS = range(800_000, 800_014)  # and these of practice
APART = 1000  # between the seeds of two numbered sessions, so that no two pairs draw alike
Case = tuple[Hand, Device, int, Mapping[str, Rules]]  # with a seed, and rules by name
Told = Callable[[str, Rules], None]


def tuning_sessions(hand: Hand, device: Device) -> list[Session]:
    """What rules for a hand on a device are searched on: its drills, and practice."""
    drills = [simulate(hand, device, name, seed) for name in DRILLS for seed in TUNING_SEEDS]
    return [*drills, *practice_sessions(hand, device)]


def practice_sessions(hand: Hand, device: Device) -> list[Session]:
    """What weighs beside drills, so that nothing is forgotten that these do not hold."""
    return [practise(hand, device, seed) for seed in PRACTICE_SEEDS]


@dataclasses.dataclass(frozen=True)
class Figures:
    """What some rules came to. drills: by name. shifted: sessions whose page palms left off by more than is seen, of
    sessions. causes: by drill and the device's faults, what went wrong and how often.
    """

    drills: dict[str, Outcome]
    sessions: int
    shifted: int
    causes: Counter[tuple[str, str, str]]

    @property
    def total(self) -> Outcome:
        return total(list(self.drills.values()))


@dataclasses.dataclass(frozen=True)
class Proof:
    """By set (drills, hard set) and rules (recommended, start, off; each with fingers that move the page and fingers
    that write).
    """

    figures: dict[str, dict[str, Figures]]


def prove(
    hands: Mapping[str, Hand],
    devices: Mapping[str, Device],
    seeds: range,
    told: Told = lambda *_: None,
    sets: Iterable[str] = ("drills", "hard set"),
) -> Proof:
    """Try three sets of rules for every hand on every device on sessions with other seeds than they were tuned on."""
    pairs = [(h, d) for h in hands for d in devices]
    rules_by_pair: dict[tuple[str, str], dict[str, Rules]] = {}
    for hand_id, device_id in pairs:
        hand, device = hands[hand_id], devices[device_id]
        best = recommend(tuning_sessions(hand, device), zone_of(hand)).rules
        told(f"{hand_id} on {device_id}", best)
        rules_by_pair[hand_id, device_id] = with_ink({"recommended": best, "start": START, "off": OFF})
    cases = [
        (hands[h], devices[d], APART * seed + k, rules_by_pair[h, d])
        for k, (h, d) in enumerate(pairs)
        for seed in seeds
    ]
    return Proof({of: SETS[of](cases) for of in sets})


def with_ink(rules: Mapping[str, Rules]) -> dict[str, Rules]:
    """Each also with fingers that write."""
    inked = {f"{name}, fingers write": dataclasses.replace(r, finger_ink=True) for name, r in rules.items()}
    return {**rules, **inked}


def figures(cases: Iterable[Case]) -> dict[str, Figures]:
    """The drills."""
    return _figures(
        Sample(name, *simulate(hand, device, name, seed), (), hand, rules)
        for hand, device, seed, rules in cases
        for name in DRILLS
    )


def hard_figures(cases: Iterable[Case]) -> dict[str, Figures]:
    """The hard set."""
    return _figures(
        Sample(name, stream, truth, faults.names, hand, rules)
        for hand, device, seed, rules in cases
        for name in HARD_DRILLS
        for stream, truth, faults in [hard_session(hand, device, name, seed)]
    )


SETS: dict[str, Callable[[Iterable[Case]], dict[str, Figures]]] = {"drills": figures, "hard set": hard_figures}


@dataclasses.dataclass(frozen=True)
class Sample:
    """One session with what was meant, its device's faults, and the rules it is tried with."""

    drill: str
    stream: Stream
    truth: Truth
    faults: tuple[str, ...]
    hand: Hand
    rules: Mapping[str, Rules]


def _figures(samples: Iterable[Sample]) -> dict[str, Figures]:
    found: dict[str, dict[str, list[Outcome]]] = {}
    shifted: Counter[str] = Counter()
    causes: dict[str, Counter[tuple[str, str, str]]] = {}
    for one in samples:
        for name, rules in one.rules.items():
            o = outcome_of(one.stream, rules, zone_of(one.hand), one.truth)
            found.setdefault(name, {}).setdefault(one.drill, []).append(o)
            off = o.page_shift_mm > SEEN_SHIFT_MM
            shifted[name] += off
            wrong = {"palm let through": o.palms_kept, "gesture refused": o.refused_gestures, "page left off": int(off)}
            on = ", ".join(one.faults).replace("_", " ") or "a device without faults"
            causes.setdefault(name, Counter()).update({(one.drill, on, w): n for w, n in wrong.items() if n})
    return {
        name: Figures(
            {drill: total(outcomes) for drill, outcomes in drills.items()},
            sum(map(len, drills.values())),
            shifted[name],
            causes.get(name, Counter()),
        )
        for name, drills in found.items()
    }
