"""What one criterion of a line-up is."""

import dataclasses
from collections.abc import Callable

from gray_quill.core.lineup.case import Case
from gray_quill.core.readings.reading import Reading

EACH, ONCE = "each block", "once"  # how often a criterion is measured


@dataclasses.dataclass(frozen=True)
class Criterion:
    """measured: of a candidate on a block; None where it cannot be told. nothing, all: the values that count 0 and 100
    points, which also say which way is better; reason: why these. needs: what it takes to be told, in words. often: of
    every block, or once for all of them, where no block changes it. of_ground: the same
    for all candidates on a ground.
    """

    key: str
    label: str
    unit: str
    help: str
    nothing: float
    all: float
    reason: str
    needs: str
    measured: Callable[[Case], float | None]
    often: str = EACH
    of_ground: bool = False

    @property
    def better(self) -> str:
        return "more" if self.all > self.nothing else "less"

    @property
    def reading(self) -> Reading:
        """What is known of its number, by which it is said."""
        return Reading(self.label, self.unit, self.help, better=self.better)

    def points(self, value: float) -> float:
        """0 to 100."""
        return 100 * min(1.0, max(0.0, (value - self.nothing) / (self.all - self.nothing)))

    def value_at(self, points: float) -> float:
        return self.nothing + points / 100 * (self.all - self.nothing)
