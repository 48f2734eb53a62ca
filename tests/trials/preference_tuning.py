"""Tuning by choosing with simulated judges whose taste is none the model knows, beside pairs shown at random.

    python -m tests.trials.preference_tuning 25 --seed 700 [--directions 4] [--sharp 2]

Three families: a peak like a cone with steep sides, a ridge along some way through the box, and the largest of kinked
distances. Each judge answers 20 pairs, one answer in ten the wrong way round. Regret is the share of the whole range of
liking that the pen named falls short of the best. A fourth judge answers at random: nothing is to be said of it.
"""

import argparse
import concurrent.futures
import dataclasses
import os
from collections.abc import Callable

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.lineup.preference import Judged
from gray_quill.core.lineup.preference_tuning import Preferred, next_pair, pool, preferred, random_pair

CHOICES, WRONG = 20, 0.1
KINKS = np.array([1, 0.6, 1.4, 0.8, 1, 0.7, 1.2, 0.9])
FAMILIES = ("peaked", "ridge", "kinked")


@dataclasses.dataclass(frozen=True)
class Session:
    """regret: of the pen named; before: of the pen the search began with."""

    regret: float
    before: float
    told: Preferred


def liked(family: str, seed: int, directions: int, sharp: float) -> tuple[Callable[[Floats], Floats], Floats]:
    """How much places are liked, and the place liked best."""
    rng = np.random.default_rng([seed, len(family), directions])
    best = rng.uniform(-0.8, 0.8, directions)
    way = rng.normal(size=directions)
    way /= np.linalg.norm(way)
    each = {
        "peaked": lambda at: np.exp(-sharp * np.sqrt(((at - best) ** 2).sum(axis=1))),
        "ridge": lambda at: -np.abs((at - best) @ way),
        "kinked": lambda at: -np.max(np.abs(at - best) * KINKS[:directions], axis=1),
    }
    return each[family], best


def session(family: str, seed: int, directions: int, sharp: float, by_chance: bool) -> Session:
    """A judge's choices, of pairs that teach or of any; a judge of no family answers at random."""
    places = pool(directions, seed)
    judged: list[Judged] = []
    repeats: list[int | None] = []
    rng = np.random.default_rng([seed, by_chance, 5])
    likes, best = liked(family, seed, directions, sharp) if family in FAMILIES else (None, np.zeros(directions))
    for asked in range(CHOICES):
        pair = random_pair(places, asked, seed) if by_chance else next_pair(judged, places, seed)
        answer = int(rng.choice((1, -1)))
        if likes is not None:
            one, other = likes(np.array([pair.one, pair.other]))
            answer = (1 if one > other else -1) * (-1 if rng.random() < WRONG else 1)
        judged.append(Judged(pair.one, pair.other, answer))
        repeats.append(pair.repeats)
    told = preferred(judged, places, repeats, seed)
    if likes is None:
        return Session(0.0, 0.0, told)
    over = np.concatenate((places, np.random.default_rng(1).uniform(-1, 1, (4000, directions)), best[None]))
    all_ = likes(over)
    here, start = likes(np.array([told.at, np.zeros(directions)]))
    whole = all_.max() - all_.min()
    return Session(float((all_.max() - here) / whole), float((all_.max() - start) / whole), told)


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("count", type=int)
    parser.add_argument("--seed", type=int, default=0)
    parser.add_argument("--directions", type=int, default=4)
    parser.add_argument("--sharp", type=float, default=2.0)
    asked = parser.parse_args()
    seeds = range(asked.seed, asked.seed + asked.count)
    ours: list[float] = []
    theirs: list[float] = []
    with concurrent.futures.ProcessPoolExecutor(os.cpu_count()) as runs:

        def of(family: str, by_chance: bool) -> list[Session]:
            waiting = [runs.submit(session, family, s, asked.directions, asked.sharp, by_chance) for s in seeds]
            return [one.result() for one in waiting]

        for family in FAMILIES:
            taught, chance = of(family, False), of(family, True)
            mine, random = [s.regret for s in taught], [s.regret for s in chance]
            named = [s for s in taught if s.told.told]
            worse = sum(s.regret >= s.before for s in named)
            print(
                f"{family}: regret {np.mean(mine):.3f}, of pairs at random {np.mean(random):.3f}, ratio "
                f"{np.mean(mine) / np.mean(random):.2f}; before {np.mean([s.before for s in taught]):.3f}; a pen named "
                f"{len(named)} times of {len(taught)}, {worse} of them no better than the start",
                flush=True,
            )
            ours += mine
            theirs += random
        chance = of("random", False)
        print(f"answers at random: a pen named {sum(s.told.told for s in chance)} times of {len(chance)}")
    a, b = np.array(ours), np.array(theirs)
    draw = np.random.default_rng(0).integers(0, len(a), (2000, len(a)))
    low, high = np.percentile(a[draw].mean(axis=1) / b[draw].mean(axis=1), (2.5, 97.5))
    print(f"all: ratio {a.mean() / b.mean():.3f} ({low:.3f} to {high:.3f}), sharpness of the peak {asked.sharp:g}")


if __name__ == "__main__":
    main()
