"""Steady: causal smoothing while writing, in physical parameters that do not depend on the report rate.

`amount` 0..10 is one-to-one with each method's own parameter (Hz, ms or mm); `parameter_of` and `amount_of` convert.
A new method is one file with a `Method` and one line in METHODS.
"""

import dataclasses
from collections.abc import Callable

import numpy as np

from gray_quill.core.arrays import Floats, plain
from gray_quill.core.errors import unknown_choice
from gray_quill.core.pen.steady.base import Method
from gray_quill.core.pen.steady.follow import FOLLOW
from gray_quill.core.pen.steady.leash import LEASH
from gray_quill.core.pen.steady.one_euro import ONE_EURO
from gray_quill.core.pen.steady.window import WINDOW
from gray_quill.core.quantities import choice, number

METHODS: dict[str, Method] = {m.name: m for m in (ONE_EURO, FOLLOW, LEASH, WINDOW)}
NONE = "none"


@dataclasses.dataclass(frozen=True)
class Steady:
    method: str = choice(NONE, (NONE, *METHODS), "Method", "How the path is calmed while you write")
    amount: float = number(
        0, 0, 10, 0.1, "", "Amount", "0 leaves the path untouched, 10 is the calmest and slowest", needs="method"
    )
    beta: float = number(
        0.05,
        0,
        2,
        0.01,
        "Hz per mm/s",
        "Speed answer",
        "one-euro: how much quicker it follows when the hand is fast",
        needs="method=one-euro",
    )
    d_cutoff_hz: float = number(
        5,
        0.2,
        30,
        0.1,
        "Hz",
        "Speed cutoff",
        "one-euro: how calmly it judges the hand's speed",
        needs="method=one-euro",
    )
    ahead_ms: float = number(
        0, 0, 50, 1, "ms", "Look-ahead", "Ink is drawn so far ahead while you write; nothing of it is kept"
    )


def is_raw(steady: Steady) -> bool:
    """Whether the path stays exactly as the hand made it."""
    return steady.method == NONE or steady.amount == 0


def steadied(steady: Steady, t_s: Floats, values: Floats) -> Floats:
    """What the tip does at each sample, of what the hand did: x and y in mm and whatever goes with them, (n, m). The
    lift's catch-up is added by `caught_up`, not here.
    """
    return values if is_raw(steady) else steadying(steady)(t_s, values)


def steadying(steady: Steady) -> Callable[[Floats, Floats], Floats]:
    """`steadied` for many strokes of a pen that does steady."""
    method = METHODS[steady.method]
    numbers = (float(method.parameter(steady.amount)), float(steady.beta), float(steady.d_cutoff_hz))
    return lambda t_s, values: method.run(plain(t_s), plain(values), *numbers)


def steady_path(steady: Steady, t_s: Floats, x_mm: Floats, y_mm: Floats) -> tuple[Floats, Floats]:
    """The steadied path at each sample, shapes (n,), without the lift's catch-up."""
    if is_raw(steady):
        return x_mm, y_mm
    x, y = steadied(steady, t_s, np.column_stack((x_mm, y_mm))).T
    return x, y


def parameter_of(method: str, amount: float) -> float:
    """The method's own parameter (in its unit) for an amount."""
    return _method(method).parameter(amount)


def amount_of(method: str, parameter: float) -> float:
    """The amount, clipped to 0..10, whose parameter this is."""
    return float(np.clip(_method(method).amount(parameter), 0, 10))


def _method(name: str) -> Method:
    if name not in METHODS:
        raise unknown_choice("The steadying method", name, METHODS, "steady.method")
    return METHODS[name]
