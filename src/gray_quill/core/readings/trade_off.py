"""Shake left against drag: what every steadying method does to a trace at every amount, and the amount that
meets a wish.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.pen.steady import METHODS, Steady, parameter_of
from gray_quill.core.readings.pace import median_speed_mm_s, report_hz
from gray_quill.core.readings.probes import line_drag_ms, shake_left
from gray_quill.core.trace import Trace

AMOUNTS = tuple(np.round(np.linspace(0, 10, 11), 2).tolist())
FINE_AMOUNT = 0.05


@dataclasses.dataclass(frozen=True)
class TradePoint:
    """One setting: its method's own parameter, the share of a shake left on a slow line, the drag on these strokes."""

    method: str
    amount: float
    parameter: float
    shake_left: float
    drag_ms: float


def trade_point(traces: Sequence[Trace], steady: Steady) -> TradePoint:
    """What one setting does to these traces."""
    parameter = parameter_of(steady.method, steady.amount) if steady.method in METHODS else 0.0
    hz = report_hz(traces)
    drag = line_drag_ms(steady, hz, median_speed_mm_s(traces))
    return TradePoint(steady.method, steady.amount, parameter, shake_left(steady, hz), drag)


def trade_curves(traces: Sequence[Trace], steady: Steady) -> list[TradePoint]:
    """Every method at AMOUNTS, with the setting's own beta and derivative cutoff."""
    return [trade_point(traces, dataclasses.replace(steady, method=m, amount=a)) for m in METHODS for a in AMOUNTS]


def calmest_under(traces: Sequence[Trace], steady: Steady, most_drag_ms: float) -> TradePoint:
    """The setting that leaves the least of a shake with no more than most_drag_ms of drag, over all methods."""
    best = [
        _edge(traces, dataclasses.replace(steady, method=m), lambda p: p.drag_ms <= most_drag_ms, calmer=True)
        for m in METHODS
    ]
    fits = [p for p in best if p is not None]
    return (
        min(fits, key=lambda p: p.shake_left)
        if fits
        else trade_point(traces, dataclasses.replace(steady, method="none", amount=0.0))
    )


def smallest_below(traces: Sequence[Trace], steady: Steady, most_left: float) -> TradePoint | None:
    """The setting with the least drag that leaves most_left of a shake or less, over all methods; None when no
    setting does.
    """
    best = [
        _edge(traces, dataclasses.replace(steady, method=m), lambda p: p.shake_left <= most_left, calmer=False)
        for m in METHODS
    ]
    fits = [p for p in best if p is not None]
    return min(fits, key=lambda p: p.drag_ms) if fits else None


def _edge(traces: Sequence[Trace], steady: Steady, fits, calmer: bool) -> TradePoint | None:  # type: ignore[no-untyped-def]
    """The last amount that still fits (calmer) or the first that does, by bisection: both drag and calm grow with the
    amount.
    """
    low, high = 0.0, 10.0
    at_high = trade_point(traces, dataclasses.replace(steady, amount=high))
    at_low = trade_point(traces, dataclasses.replace(steady, amount=low))
    if calmer and fits(at_high):
        return at_high
    if not calmer and fits(at_low):
        return at_low
    if (calmer and not fits(at_low)) or (not calmer and not fits(at_high)):
        return None
    found = at_low if calmer else at_high
    while high - low > FINE_AMOUNT:
        middle = (low + high) / 2
        point = trade_point(traces, dataclasses.replace(steady, amount=middle))
        if fits(point) == calmer:
            low = middle
        else:
            high = middle
        if fits(point):
            found = point
    return found
