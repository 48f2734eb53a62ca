"""Figures a reader can run: the recommended rules, and none at all, on sessions they were not tuned on."""

import dataclasses
from collections.abc import Callable, Mapping

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.outcome import Outcome, total
from gray_quill.core.palm.recommend import Session, evaluate, recommend
from gray_quill.core.palm.rules import OFF, Rules
from gray_quill.core.palm.zone import zone_of

TUNING_SEEDS = (9000, 9001, 9002, 9003)  # the search sees these only


@dataclasses.dataclass(frozen=True)
class Proof:
    """sessions of one drill each. The same sessions under the recommended rules and under none, with fingers that move
    the page and fingers that write.
    """

    sessions: int
    recommended: Outcome
    recommended_ink: Outcome
    off: Outcome
    off_ink: Outcome


def tuning_sessions(hand: Hand, device: Device) -> list[Session]:
    """What the recommended rules of a simulated hand are searched on."""
    return [simulate(hand, device, name, seed) for name in DRILLS for seed in TUNING_SEEDS]


def prove(
    hands: Mapping[str, Hand],
    devices: Mapping[str, Device],
    seeds: range,
    told: Callable[[str, Rules], None] = lambda *_: None,
) -> Proof:
    """Recommend for every hand on every device, and try it on all drills with other seeds."""
    found: list[list[Outcome]] = [[], [], [], []]
    for hand_id, hand in hands.items():
        for device_id, device in devices.items():
            zone = zone_of(hand)
            rules = recommend(tuning_sessions(hand, device), zone).rules
            told(f"{hand_id} on {device_id}", rules)
            sessions = [simulate(hand, device, name, seed) for name in DRILLS for seed in seeds]
            for k, tried in enumerate(
                (rules, dataclasses.replace(rules, finger_ink=True), OFF, dataclasses.replace(OFF, finger_ink=True))
            ):
                found[k].append(evaluate(sessions, tried, zone))
    return Proof(len(hands) * len(devices) * len(DRILLS) * len(seeds), *(total(outcomes) for outcomes in found))
