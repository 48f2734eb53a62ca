"""Advice followed to its end from any start: random pens, hands, devices and texts.

    make trial-advice N=200 SEED=1

A failure is more than MOST_STEPS steps, a step that leaves more trouble than there was, or a reading that comes out
otherwise than predicted.
"""

import argparse
import dataclasses
import time
from collections import Counter

import numpy as np

from gray_quill.core.advice.diagnosis import KNOWN
from gray_quill.core.advice.proposals import advise, follow
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.trace import Trace

MOST_STEPS = 6
TEXTS = ("moth nine", "wings folded", "hawk-moth", "trap 3 lamp")
# What advice may change, spoilt at random over all of its range.
FIELDS = {
    "body.width_mm": (0.2, 4),
    "press.range": (1, 12),
    "press.floor": (0, 0.4),
    "press.ceiling": (0.45, 1),
    "pace.exponent": (0, 0.4),
    "ends.start_mm": (0, 12),
    "ends.start_tip": (0, 1),
    "ends.end_mm": (0, 12),
    "ends.end_tip": (0, 1),
    "ends.ease": (0, 1),
    "steady.amount": (0, 10),
    "steady.beta": (0, 0.6),
}


def any_case(rng: np.random.Generator) -> tuple[list[Trace], Recipe]:
    """A pen spoilt at random, and a few words with a slow line under them."""
    hand = SHIPPED_HANDS[str(rng.choice(sorted(SHIPPED_HANDS)))]
    hand = dataclasses.replace(hand, tremor_mm=float(rng.choice([0.0, 0.03, 0.1, 0.25])))
    device = SHIPPED_DEVICES[str(rng.choice(sorted(SHIPPED_DEVICES)))]
    intents = text_intents(str(rng.choice(TEXTS)), hand, 20, 30, 100, rng)
    if rng.random() < 0.5:
        intents.append(Intent(np.array([[20.0, 40.0], [70.0, 40.5]]), None, 0.45))
    recipe = SHIPPED_PENS[str(rng.choice(sorted(SHIPPED_PENS)))]
    for path, (low, high) in FIELDS.items():
        if rng.random() < 0.5:
            recipe = changed(recipe, path, float(rng.uniform(low, high)))
    method = str(rng.choice(["none", "one-euro", "follow", "leash", "window"]))
    return write_intents(intents, hand, device, rng), changed(recipe, "steady.method", method)


def faults_of(traces: list[Trace], recipe: Recipe) -> tuple[int, list[str]]:
    """Steps to the end, and what is wrong with them."""
    steps, end = follow(traces, recipe)
    faults = [f"more than {MOST_STEPS} steps"] if len(steps) > MOST_STEPS else []
    for step in steps:
        if step.trouble_after >= step.trouble_before:
            faults.append(f"{step.doing}: more trouble")
        if abs(step.obtained - step.predicted) > 1e-9:
            faults.append(f"{step.doing}: predicted otherwise")
    for advice in advise(traces, recipe):
        if advice.recipe is not None and hasattr(read := read_ink(traces, advice.recipe), advice.reading):
            told = {advice.reading: advice.after} | {c.reading: c.after for c in advice.price}
            wrong = [k for k, v in told.items() if hasattr(read, k) and abs(getattr(read, k) - v) > 1e-9]
            unsaid = [
                key
                for key, known in KNOWN.items()
                if known.attention is not None
                and hasattr(read, key)
                and known.calls_for_attention(getattr(read, key))
                and not known.calls_for_attention(getattr(read_ink(traces, recipe), key))
                and key not in told
            ]
            faults += [f"{advice.doing}: {key} not as told" for key in wrong]
            faults += [f"{advice.doing}: pushes {key} past its bound unsaid" for key in unsaid]
    if any(a.recipe is not None for a in advise(traces, end)):
        faults.append("not at its end")
    return len(steps), faults


def main() -> None:
    parser = argparse.ArgumentParser(description="Follow advice from random starts.")
    parser.add_argument("count", type=int, nargs="?", default=200)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    began, taken, found = time.monotonic(), Counter[int](), 0
    for k in range(args.count):
        traces, recipe = any_case(np.random.default_rng(args.seed * 1000 + k))
        steps, faults = faults_of(traces, recipe)
        taken[steps] += 1
        found += len(faults)
        for fault in faults:
            print(f"seed {args.seed * 1000 + k}: {fault}", flush=True)
    counts = ", ".join(f"{n} in {steps}" for steps, n in sorted(taken.items()))
    print(f"{args.count} starts, {found} faults, steps: {counts}; {time.monotonic() - began:.0f} s")


if __name__ == "__main__":
    main()
