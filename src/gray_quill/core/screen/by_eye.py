"""What an eye still sees on the screen in front of it: how many greys, how thin lines, how small print and writing.

Each is asked with four choices of which one is right, harder after two right answers and easier after a wrong one, so
that a guess is right one time in four and the answers say how far seeing goes beyond guessing (method of constant
stimuli and its up-down rule: Levitt, JASA 49, 1971, from memory). The threshold is where half of what is beyond
guessing is seen; its interval ends where the likelihood has fallen by half of the 95 % point of chi squared with one
degree of freedom.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np
from scipy import special

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import unknown_choice
from gray_quill.core.quantities import REQUIRED, flag, number

CHOICES = 4
GUESS, LAPSE = 1 / CHOICES, 0.03
# of the logistic, by the logarithm of the level: eyes differ, and the likeliest counts; common practice, no source
STEEP: Floats = np.array([2.0, 3.5, 6.0, 10.0])
HALF_CHI_95 = 1.92
SURE = 4.0  # nats by which seeing must explain the answers better than guessing
LEAST_LOOKS, ENOUGH_LOOKS, MOST_LOOKS = 12, 28, 200
CLOSE = 1.5  # an interval so narrow, upper over lower, needs no more answers
RIGHT_FOR_HARDER = 2
FULL_GREYS = 64  # from there on a step is as fine as an eye sees: no test of eyes tells more


@dataclasses.dataclass(frozen=True)
class Ladder:
    """levels: easiest first, in this unit."""

    unit: str
    levels: tuple[float, ...]


SMALL = (3.0, 2.5, 2.0, 1.6, 1.3, 1.0, 0.8, 0.65, 0.5, 0.4)
LADDERS = {
    "greys": Ladder("steps of 255", (96, 64, 48, 32, 24, 16, 12, 8, 6, 4, 3, 2)),
    "lines": Ladder("px", (12, 8, 6, 4, 3, 2, 1)),
    "print": Ladder("mm", SMALL),
    "bold print": Ladder("mm", SMALL),
    "writing": Ladder("mm", SMALL),
    "bold writing": Ladder("mm", SMALL),
}


@dataclasses.dataclass(frozen=True)
class Looked:
    """One answer at a level of a ladder."""

    level: float = number(REQUIRED, 0.01, 1000, 0.01, "", "Level", "How easy it was, in the ladder's unit")
    right: bool = flag(REQUIRED, "Right", "Whether the right one of the four was chosen")


@dataclasses.dataclass(frozen=True)
class EyeSees:
    """value: the smallest that is seen, of greys how many; None where that cannot be told. low, high: its 95 %
    interval, None on a side where the ladder ends first. level: what to show next; done: whether it needs no more.
    """

    value: float | None
    low: float | None
    high: float | None
    words: str
    level: float
    done: bool


def looked_at(kind: str, looks: Sequence[Looked]) -> EyeSees:
    """What answers so far say, and what to ask next. Raises RecordError for what is no ladder."""
    if kind not in LADDERS:
        raise unknown_choice("What is looked at", kind, LADDERS, "kind")
    ladder = LADDERS[kind]
    grid, seen = _greys(looks) if kind == "greys" else _sizes(ladder, looks)
    value, low, high, words = _told(kind, grid, seen, looks)
    close = low is not None and high is not None and high / low <= CLOSE
    done = len(looks) >= ENOUGH_LOOKS or (len(looks) >= LEAST_LOOKS and close)
    return EyeSees(value, low, high, words, next_level(ladder, looks), done)


def next_level(ladder: Ladder, looks: Sequence[Looked]) -> float:
    """Harder after two right answers in a row, before the first mistake after each; easier after a wrong one."""
    at = run = 0
    erred = False
    for look in looks:
        run = run + 1 if look.right else 0
        if not look.right:
            at, erred = max(at - 1, 0), True
        elif not erred or run >= RIGHT_FOR_HARDER:
            at, run = min(at + 1, len(ladder.levels) - 1), 0
    return ladder.levels[at]


def _sizes(ladder: Ladder, looks: Sequence[Looked]) -> tuple[Floats, Floats]:
    """Thresholds, and the chance of seeing each look under each and each steepness, (steep, thresholds, looks)."""
    grid = np.geomspace(ladder.levels[-1] / 3, ladder.levels[0] * 3, 400)
    level = np.array([look.level for look in looks])
    far = np.log(np.maximum(level, 1e-9)[None, :] / grid[:, None])
    return grid, 1 / (1 + np.exp(-STEEP[:, None, None] * far[None]))


def _greys(looks: Sequence[Looked]) -> tuple[Floats, Floats]:
    """Numbers of greys, and the chance that a step, laid at any grey, goes over one of the bounds between them; shape
    (1, numbers, looks).
    """
    grid = np.geomspace(2, 256, 400)
    step = np.array([look.level for look in looks])
    return grid, np.minimum(1.0, step[None, None, :] * (grid[None, :, None] - 1) / 255)


def _told(
    kind: str, grid: Floats, seen: Floats, looks: Sequence[Looked]
) -> tuple[float | None, float | None, float | None, str]:
    if len(looks) < LEAST_LOOKS:
        return None, None, None, f"{LEAST_LOOKS - len(looks)} more answers are needed"
    right = np.array([look.right for look in looks])
    chance = GUESS + (1 - GUESS - LAPSE) * seen
    likely: Floats = np.sum(np.where(right, np.log(chance), np.log(1 - chance)), axis=-1).max(axis=0)
    guessed = float(np.sum(np.where(right, np.log(GUESS), np.log(1 - GUESS))))
    best = int(likely.argmax())
    if likely[best] - guessed < SURE:
        return None, None, None, "these answers are no better than guessing: look again, closer or in better light"
    inside = np.flatnonzero(likely > likely[best] - HALF_CHI_95)
    low = float(grid[inside[0]]) if inside[0] > 0 else None
    high = float(grid[inside[-1]]) if inside[-1] < len(grid) - 1 else None
    value = float(grid[best])
    if kind == "greys":
        return _greys_told(value, low, high)
    finest = LADDERS[kind].levels[-1]
    if value < finest:
        return None, None, high, f"all of it is seen, down to {finest:g} {LADDERS[kind].unit}"
    return value, low, high, "told"


def _greys_told(
    value: float, low: float | None, high: float | None
) -> tuple[float | None, float | None, float | None, str]:
    if value >= FULL_GREYS:
        return None, low, None, f"{FULL_GREYS} greys or more: finer than an eye tells"
    return value, low, high, "told"


def panel_greys(seen: float) -> int:
    """The number a panel has whose greys were found to be about so many: panels have powers of two."""
    return int(2 ** np.clip(np.round(np.log2(seen)), 1, 8))


@dataclasses.dataclass(frozen=True)
class Matched:
    """Several settings that looked the same. off: half of the mean's 95 % interval."""

    value: float
    off: float


def matched(settings: Sequence[float]) -> Matched | None:
    """None for fewer than three: two that agree by chance say nothing."""
    if len(settings) < 3:
        return None
    n, spread = len(settings), float(np.std(settings, ddof=1))
    return Matched(float(np.mean(settings)), float(special.stdtrit(n - 1, 0.975)) * spread / np.sqrt(n))
