"""How long work takes, and how fast the machine is just then."""

import time
from collections.abc import Callable

import numpy as np

ROUNDS = 7
QUIET_MS = 18.6  # what `_same_work` took at its quickest on the machine the limits of the table were set on
VALUES = np.random.default_rng(0).random(300_000)


def best_ms(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """The quickest of some rounds, ms."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times) * 1000


def best_of_both(ours: Callable[[], object], theirs: Callable[[], object], turns: int = 8) -> tuple[float, float]:
    """The quickest of some rounds of each, ms, taken in turn, so that a busy moment meets both."""
    times = [(best_ms(ours, 3), best_ms(theirs, 3)) for _ in range(turns)]
    return min(t[0] for t in times), min(t[1] for t in times)


def pace() -> float:
    """How many times slower than quiet the machine is just now, by the same work each time; at least 1."""
    return max(1.0, best_ms(_same_work, 5) / QUIET_MS)


def _same_work() -> int:
    np.sort(VALUES)
    return sum(k * k % 7 for k in range(150_000))
