"""Simulated writers whose thresholds are known: how often the interval holds them, and how often nothing is said.

    make trial-feel N=100 SEED=1

Only the first family is the one the estimate assumes.
"""

import argparse
from collections.abc import Callable

import numpy as np
from scipy.special import ndtr

from gray_quill.core.latency.noticeable_delay import Feel, feel
from gray_quill.core.latency.staircase import Turn, next_turn

Chance = Callable[[float, int], float]  # of a yes, of an added delay in ms and the turn's number
TURNS = 40


class Writer:
    """Says laggy, slight or none by two thresholds; the chance of a yes is of the family's making."""

    def __init__(self, family: str, rng: np.random.Generator) -> None:
        self.rng, self.family = rng, family
        self.noticed_ms = float(np.exp(rng.uniform(np.log(15), np.log(120))))
        self.disturbed_ms = self.noticed_ms * float(rng.uniform(1.4, 3.0))
        self.spread = float(rng.uniform(0.2, 0.6))
        self.mistake = float(rng.uniform(0, 0.25)) if family != "quick to say yes" else 0.35

    def says(self, added_ms: float, n: int) -> str:
        if self.family == "at random":
            return str(self.rng.choice(["none", "slight", "laggy"]))
        if self.family == "feels nothing":
            return "none" if self.rng.random() > 0.05 else "slight"
        if self.family == "feels this screen":
            return "slight" if self.rng.random() > 0.05 else "laggy"
        if self.family == "lapses" and self.rng.random() < 0.1:
            return str(self.rng.choice(["none", "slight", "laggy"]))
        noise = self.rng.normal()
        if self._chance(added_ms, self.disturbed_ms, n) > ndtr(noise):
            return "laggy"
        yes = self._chance(added_ms, self.noticed_ms, n) > ndtr(noise) or self.rng.random() < self.mistake
        return "slight" if yes else "none"

    def _chance(self, added_ms: float, threshold_ms: float, n: int) -> float:
        if self.family == "linear":
            return float(ndtr((added_ms - threshold_ms) / (self.spread * threshold_ms)))
        if self.family == "drifts":  # learns to look for it
            threshold_ms *= 1.2 - 0.4 * n / TURNS
        return float(ndtr(np.log(added_ms / threshold_ms) / self.spread)) if added_ms else 0.0


FAMILIES = ("as assumed", "linear", "lapses", "drifts", "quick to say yes")
TELL_NOTHING = ("at random", "feels nothing", "feels this screen")


def session(writer: Writer, seed: int) -> Feel:
    """One whole session."""
    turns: list[Turn] = []
    for n in range(TURNS):
        asked = next_turn(turns, seed)
        frame_ms = 24 + asked.added_ms + float(writer.rng.normal(0, 2))
        turns.append(Turn(asked.kind, asked.added_ms, writer.says(asked.added_ms, n), frame_ms, 80))
        if n >= 24 and feel(turns).enough:
            break
    return feel(turns)


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("count", type=int, nargs="?", default=100)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    for k, family in enumerate(FAMILIES + TELL_NOTHING):
        held: list[list[bool]] = [[], []]
        off: list[float] = []
        turns: list[int] = []
        for n in range(args.count):
            seed = 100_000 * args.seed + 1000 * k + n
            writer = Writer(family, np.random.default_rng(seed))
            found = session(writer, seed)
            turns.append(found.turns)
            for into, bound, truth in zip(
                held, (found.noticed, found.disturbed), (writer.noticed_ms, writer.disturbed_ms), strict=True
            ):
                if bound.low_ms is not None and bound.high_ms is not None:
                    into.append(bound.low_ms <= truth <= bound.high_ms)
            if found.noticed.added_ms is not None:
                off.append(found.noticed.added_ms / writer.noticed_ms)
        told = [f"{sum(h)} of {len(h)} held" for h in held]
        line = f"{family:18} noticed {told[0]}, disturbed {told[1]} of {args.count}; {np.mean(turns):.0f} turns"
        print(line + (f"; off by a factor of {np.exp(np.std(np.log(off))):.2f}" if len(off) > 1 else ""))
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
