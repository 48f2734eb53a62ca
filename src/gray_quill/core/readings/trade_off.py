"""Wobble against drag: what every steadying method does to a trace at every amount, and the amount that
meets a wish.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.errors import InputError
from gray_quill.core.pen.steady import METHODS, Steady, parameter_of, steady_path
from gray_quill.core.readings.drag import drag_ms
from gray_quill.core.readings.wobble import Timed, shake
from gray_quill.core.trace import Trace

AMOUNTS = tuple(np.round(np.linspace(0, 10, 11), 2).tolist())
FINE_AMOUNT = 0.05


@dataclasses.dataclass(frozen=True)
class TradePoint:
    """One setting: its method's own parameter, the wobble left (mm) and the drag (ms)."""

    method: str
    amount: float
    parameter: float
    wobble_mm: float
    drag_ms: float


def trade_point(traces: Sequence[Trace], steady: Steady) -> TradePoint:
    """What one setting does to these traces."""
    raw: list[Timed] = [(t.t_s, t.x_mm, t.y_mm) for t in traces]
    calm: list[Timed] = [(t.t_s, *steady_path(steady, t.t_s, t.x_mm, t.y_mm)) for t in traces]
    parameter = parameter_of(steady.method, steady.amount) if steady.method in METHODS else 0.0
    return TradePoint(steady.method, steady.amount, parameter, shake(calm).wobble_mm, drag_ms(raw, calm))


def trade_curves(traces: Sequence[Trace], steady: Steady) -> list[TradePoint]:
    """Every method at AMOUNTS, with the setting's own beta and derivative cutoff."""
    return [trade_point(traces, dataclasses.replace(steady, method=m, amount=a)) for m in METHODS for a in AMOUNTS]


def check_shake(traces: Sequence[Trace]) -> None:
    """Refuse traces on which wobble cannot be judged."""
    if shake([(t.t_s, t.x_mm, t.y_mm) for t in traces]).wobble_mm == 0:
        raise InputError(
            "These strokes are too short to judge their wobble. Write a line in joined letters, or some loops.",
            "source",
        )


def calmest_under(traces: Sequence[Trace], steady: Steady, most_drag_ms: float) -> TradePoint:
    """The setting that leaves the least wobble with no more than most_drag_ms of drag, over all methods."""
    best = [
        _edge(traces, dataclasses.replace(steady, method=m), lambda p: p.drag_ms <= most_drag_ms, calmer=True)
        for m in METHODS
    ]
    fits = [p for p in best if p is not None]
    return (
        min(fits, key=lambda p: p.wobble_mm)
        if fits
        else trade_point(traces, dataclasses.replace(steady, method="none", amount=0.0))
    )


def smallest_below(traces: Sequence[Trace], steady: Steady, most_wobble_mm: float) -> TradePoint | None:
    """The setting with the least drag that brings wobble to most_wobble_mm or under, over all methods; None when no
    setting does.
    """
    best = [
        _edge(traces, dataclasses.replace(steady, method=m), lambda p: p.wobble_mm <= most_wobble_mm, calmer=False)
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
