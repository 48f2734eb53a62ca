"""Which delay is added next, hidden from the writer: two staircases, one to where a delay is noticed and one to where
it disturbs, taken in random order, with catch turns to which nothing is added.

Each goes down after a yes and up after a no, which settles where half the answers are yes (Levitt, JASA 49, 1971, from
memory); its step, a factor, gets smaller with each return up to the third.
"""

import dataclasses
import itertools
from collections.abc import Sequence
from typing import Literal

import numpy as np

from gray_quill.core.latency.sentences import sentence
from gray_quill.core.quantities import REQUIRED, choice, number

ANSWERS = ("none", "slight", "laggy")
NOTICED: Literal["noticed"] = "noticed"
DISTURBED: Literal["disturbed"] = "disturbed"
CATCH: Literal["catch"] = "catch"
Kind = Literal["noticed", "disturbed", "catch"]
KINDS: tuple[Kind, ...] = (NOTICED, DISTURBED, CATCH)
LEAST_ADDED_MS, MOST_ADDED_MS = 4.0, 500.0
BLOCK = 5  # turns, one of them a catch turn
STARTS_MS = {NOTICED: 60.0, DISTURBED: 160.0}
STEPS = (2.0, 1.6, 1.35, 1.2)  # by returns so far


@dataclasses.dataclass(frozen=True)
class Turn:
    """A sentence written under a hidden delay, and what the writer said of it. frame_ms: from a pen event to the frame
    that showed it, as this browser timed it, which holds the added delay.
    """

    kind: str = choice(REQUIRED, KINDS, "Kind", "Which staircase it belongs to, or a catch turn")
    added_ms: float = number(REQUIRED, 0, MOST_ADDED_MS, 0.1, "ms", "Added", "Delay added to what the browser has")
    answer: str = choice(REQUIRED, ANSWERS, "Answer", "What the writer said of it")
    frame_ms: float = number(REQUIRED, 0, 10_000, 0.1, "ms", "To the frame", "From an event to its frame, median")
    speed_mm_s: float = number(REQUIRED, 0, 10_000, 0.1, "mm/s", "Speed", "How fast the nib went, median")


@dataclasses.dataclass(frozen=True)
class Next:
    """What is to be written next, under which delay."""

    kind: Kind
    added_ms: float
    sentence: str


def says_yes(kind: str, answer: str) -> bool:
    """Whether an answer is a yes to a staircase's question; a catch turn asks whether any delay was noticed."""
    return answer == "laggy" if kind == DISTURBED else answer != "none"


def next_turn(turns: Sequence[Turn], seed: int) -> Next:
    """The turn after these; the same for the same seed and answers."""
    n = len(turns)
    kind = _kinds(seed, n // BLOCK)[n % BLOCK]
    words = sentence(np.random.default_rng((seed, 1, n)))
    return Next(kind, 0.0 if kind == CATCH else _added_ms([t for t in turns if t.kind == kind], kind), words)


def _kinds(seed: int, block: int) -> list[Kind]:
    rng = np.random.default_rng((seed, 0, block))
    kinds: list[Kind] = [NOTICED, NOTICED, DISTURBED, DISTURBED, CATCH]
    return [kinds[k] for k in rng.permutation(BLOCK)]


def _added_ms(own: Sequence[Turn], kind: str) -> float:
    """Where a staircase stands after its own turns."""
    if not own:
        return STARTS_MS[kind]
    yes = [says_yes(kind, t.answer) for t in own]
    returns = sum(a != b for a, b in itertools.pairwise(yes))
    step = STEPS[min(returns, len(STEPS) - 1)]
    moved = own[-1].added_ms / step if yes[-1] else own[-1].added_ms * step
    return float(np.clip(round(moved, 1), LEAST_ADDED_MS, MOST_ADDED_MS))
