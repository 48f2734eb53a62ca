"""Differences between two pens' readings on the same traces, largest first."""

import dataclasses

from gray_quill.core.readings.ink_readings import Readings

SAME = 0.01  # relative difference below which two readings are called the same
OF_THE_HAND = (
    "samples",
    "length_mm",
    "duration_s",
    "report_hz",
    "force_p05",
    "force_p50",
    "force_p95",
    "gaps",
    "wobble_in_mm",
)


def differences(one: Readings, other: Readings) -> list[tuple[str, float, float]]:
    """(reading, value of one, value of other) of every reading a pen can change that differs, by relative size."""
    rows = []
    for f in dataclasses.fields(Readings):
        a, b = float(getattr(one, f.name)), float(getattr(other, f.name))
        size = abs(a - b) / max(abs(a), abs(b), 1e-9)
        if f.name not in OF_THE_HAND and size > SAME and abs(a - b) > 1e-4:
            rows.append((size, f.name, a, b))
    return [(name, a, b) for _, name, a, b in sorted(rows, key=lambda r: (-r[0], r[1]))]
