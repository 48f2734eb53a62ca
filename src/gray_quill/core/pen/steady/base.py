"""What every steadying method declares."""

import dataclasses
from collections.abc import Callable

from gray_quill.core.arrays import Floats


@dataclasses.dataclass(frozen=True)
class Method:
    """run(t_s, x, y, parameter, beta, d_cutoff_hz) -> (x, y), all (n,); methods without beta ignore it.

    parameter(amount) and amount(parameter) are inverse to each other on amount 0 < a <= 10.
    """

    name: str
    symbol: str
    unit: str
    help: str
    parameter: Callable[[float], float]
    amount: Callable[[float], float]
    run: Callable[[Floats, Floats, Floats, float, float, float], tuple[Floats, Floats]]


def power_law(largest: float, exponent: float) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Amount -> largest (amount / 10)^exponent, and back."""
    return (
        lambda amount: largest * (amount / 10) ** exponent,
        lambda value: 10 * (max(value, 0.0) / largest) ** (1 / exponent),
    )
