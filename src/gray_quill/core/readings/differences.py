"""Differences between two pens' readings on the same traces, largest first."""

import dataclasses

from gray_quill.core.readings.ink_readings import Readings
from gray_quill.core.readings.reading import readings_of

SAME = 0.01  # relative difference below which two readings are called the same


@dataclasses.dataclass(frozen=True)
class Difference:
    """A reading of two pens on the same traces."""

    reading: str
    one: float
    other: float


def differences(one: Readings, other: Readings) -> list[Difference]:
    """Every reading a pen can change that differs, by relative size."""
    rows = []
    for name, known in readings_of(Readings).items():
        pair = getattr(one, name), getattr(other, name)
        if None in pair:
            continue
        a, b = map(float, pair)
        size = abs(a - b) / max(abs(a), abs(b), 1e-9)
        if not known.of_the_hand and size > SAME and abs(a - b) > 1e-4:
            rows.append((size, Difference(name, a, b)))
    return [d for _, d in sorted(rows, key=lambda r: (-r[0], r[1].reading))]
