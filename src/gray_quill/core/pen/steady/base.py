"""What every steadying method declares."""

import dataclasses
from collections.abc import Callable

from gray_quill.core.arrays import Floats


@dataclasses.dataclass(frozen=True)
class Method:
    """run(t_s, values, parameter, beta, d_cutoff_hz) -> values, both (n, m). The first two columns are x and y, mm, and
    decide what is done; whatever else the hand did there (force, lean) is held back with them. Methods without beta
    ignore it.

    parameter(amount) and amount(parameter) are inverse to each other on amount 0 < a <= 10.
    """

    name: str
    symbol: str
    unit: str
    help: str
    parameter: Callable[[float], float]
    amount: Callable[[float], float]
    run: Callable[[Floats, Floats, float, float, float], Floats]


def power_law(largest: float, exponent: float) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Amount -> largest (amount / 10)^exponent, and back."""
    return (
        lambda amount: largest * (amount / 10) ** exponent,
        lambda value: 10 * (max(value, 0.0) / largest) ** (1 / exponent),
    )
