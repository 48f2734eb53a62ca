"""Hands measured from writing: how often their own intervals hold the true habits, and where they do not.

    make trial-hands N=40 SEED=1

Hands of the core, drawn over the range of people's; then N / 4 written by a second generator, which shares neither
letter forms nor law of speed with it: garlands of two oscillations (Hollerbach, Biological Cybernetics 39, 1981; from
memory). Those are reported apart: their letters are nobody's.
"""

import argparse
import dataclasses
import time
from collections import defaultdict

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.readings.own_hand import OwnHand, measure_hand
from gray_quill.core.trace import Trace, make_trace

TEXT = "Hawk-moth on the white sheet, wings folded. Trap 3 in the wind, nine counted twice before the rain"
DEVICES = ("tablet-11", "convertible-13", "paper-slate-10")
LIKE = SHIPPED_HANDS["right-firm"]


def any_hand(rng: np.random.Generator) -> Hand:
    """A hand as people have them; sizes, paces and forces from memory."""
    return Hand(
        "any",
        str(rng.choice(["left", "right"])),
        str(rng.choice(["script", "plain"])),
        x_height_mm=rng.uniform(1.8, 4),
        slant_deg=rng.uniform(-10, 20),
        wander_mm=rng.uniform(0.1, 0.5),
        speed_mm_s=rng.uniform(18, 45),
        onset_ms=rng.uniform(20, 90),
        lift_ms=rng.uniform(30, 110),
        tremor_mm=rng.uniform(0.01, 0.15),
        pause_ms=rng.uniform(60, 320),
        drift_deg=rng.uniform(1, 5),
        force=rng.uniform(0.3, 0.65),
        force_swing=rng.uniform(0.08, 0.22),
        altitude_deg=rng.uniform(40, 75),
        azimuth_deg=rng.uniform(20, 70),
    )


def measured(seed: int) -> tuple[Hand, OwnHand]:
    """A hand of the core, and what its writing and two slow lines tell of it."""
    rng = np.random.default_rng(seed)
    hand, device = any_hand(rng), SHIPPED_DEVICES[DEVICES[seed % len(DEVICES)]]
    lines = [Intent(np.array([[20.0, y], [75.0, y + 0.4]]), None, 0.45) for y in (120.0, 130.0)]
    traces = write_intents(text_intents(TEXT, hand, 15, 30, 110, rng) + lines, hand, device, rng)
    return hand, measure_hand(traces, dataclasses.replace(LIKE, side=hand.side), device, seed)


def garlands(seed: int) -> tuple[dict[str, float], OwnHand]:
    """What the second generator did, and what is told of it."""
    rng = np.random.default_rng(seed)
    height, hz, slant = rng.uniform(2, 3.5), rng.uniform(3.5, 5), np.radians(rng.uniform(-8, 18))
    force, swing, altitude = rng.uniform(0.35, 0.6), rng.uniform(0.08, 0.15), np.radians(rng.uniform(45, 70))
    traces: list[Trace] = []
    travelled = seconds = clock = 0.0
    pause = rng.uniform(0.08, 0.25)
    for k in range(14):
        t = np.arange(0, rng.uniform(1.2, 2.2), 1 / 240)
        turn = 2 * np.pi * hz * t + rng.uniform(0, 6)
        up = height / 2 * np.cos(turn)
        x = 20 + 30 * (k % 4) + 0.9 * height * hz * t + 0.35 * height * np.cos(turn - 1.2) + up * np.tan(slant)
        y = 30 + 10 * (k // 4) - up + 0.1 * rng.standard_normal()
        press = force + swing * np.clip(np.sin(turn) * 1.6, -1, 1) + 0.01 * rng.standard_normal(len(t))
        traces.append(make_trace(t, x, y, np.clip(press, 0.02, 1), 0 * t + altitude, 0 * t + 0.7, clock))
        clock += float(t[-1]) + pause * float(rng.uniform(0.7, 1.3)) + 0.1
        travelled, seconds = travelled + float(np.hypot(np.diff(x), np.diff(y)).sum()), seconds + float(t[-1])
    true = {
        "x_height_mm": height,
        # of its downstrokes: the two waves lean by themselves, and the hand goes on while it comes down
        "slant_deg": float(np.degrees(np.arctan(np.tan(slant) + 0.7 * np.cos(1.2) - 0.45))),
        "speed_mm_s": travelled / seconds,
        "force": force,
        "altitude_deg": float(np.degrees(altitude)),
    }
    return true, measure_hand(traces, LIKE, SHIPPED_DEVICES["tablet-11"], seed)


def held(true: dict[str, float], own: OwnHand) -> dict[str, tuple[bool, float]]:
    """For each habit that is told and known: whether its interval holds it, and how far off it is, in scatters."""
    found = {}
    for habit in own.habits:
        if habit.told and habit.low is not None and habit.high is not None and habit.field in true:
            value, half = float(habit.value), max((habit.high - habit.low) / 2, 1e-9)
            found[habit.field] = (
                habit.low <= true[habit.field] <= habit.high,
                1.96 * (value - true[habit.field]) / half,
            )
    return found


def report(name: str, cases: list[dict[str, tuple[bool, float]]]) -> None:
    by_field: dict[str, list[tuple[bool, float]]] = defaultdict(list)
    for case in cases:
        for field, found in case.items():
            by_field[field].append(found)
    every = [ok for found in by_field.values() for ok, _ in found]
    print(f"{name}: {len(cases)} hands, {np.mean(every):.1%} of {len(every)} true values inside their intervals")
    for field, told in by_field.items():
        share, off = np.mean([ok for ok, _ in told]), np.mean([o for _, o in told])
        print(f"  {field:>14} {share:4.0%} of {len(told)}, off by {off:+.2f} scatters")


def main() -> None:
    parser = argparse.ArgumentParser(description="Measure simulated hands.")
    parser.add_argument("count", type=int, nargs="?", default=40)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    began = time.monotonic()
    cases = []
    for k in range(args.count):
        hand, own = measured(args.seed * 1000 + k)
        cases.append(held({f.name: getattr(hand, f.name) for f in dataclasses.fields(hand)}, own))
    report("hands of the core", cases)
    report("second generator", [held(*garlands(args.seed * 1000 + k)) for k in range(max(1, args.count // 4))])
    print(f"{time.monotonic() - began:.0f} s")


if __name__ == "__main__":
    main()
