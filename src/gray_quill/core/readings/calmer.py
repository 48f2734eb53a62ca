"""How evenly small writing stands on its line for its size, and so how much calmer it is where it was written large.

A hand shakes by as many millimetres whatever it writes: the smaller the letters, the more of each their shaking comes
to. At the speed of writing a shake is longer than a letter, so it does not roughen letters but moves them: their feet
leave the line they stand on. Letters of one hand leave it by a share of their height of their own; the shaking comes on
top.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.readings.letters import x_height_mm
from gray_quill.core.readings.lines import longest_line
from gray_quill.core.readings.reading import reading
from gray_quill.core.trace import Trace

TURN = 0.3  # of the letters' height: lesser ups and downs have no feet
NEAR = 0.35  # of the letters' height: what turns farther from the line is a descender, or no foot
FEWEST_FEET = 25
MOST_SAMPLES = 20_000  # of the line that is read
KNOT = 25.0  # letters' heights, over which a line may bend of itself
BOOTSTRAPS = 200
CLEAR = (2.5, 97.5)  # percentiles of what chance makes of the quotient: over one at both, or under, is told


@dataclasses.dataclass(frozen=True)
class Calmer:
    """One writing beside another; None where there is too little of it to tell."""

    strip: float | None = reading(
        "unevenness in the strip", "%", "How far letters' feet leave their line, of the letters' height."
    )
    elsewhere: float | None = reading("unevenness elsewhere", "%", "The same of what was written at its own size.")
    calmer: float | None = reading(
        "calmer", "×", "Unevenness elsewhere over that in the strip; over one the strip helps.", better="more"
    )
    low: float | None = reading("calmer at least", "×", "Lower end of what the quotient may be (95 %).")
    high: float | None = reading("calmer at most", "×", "Upper end of what the quotient may be (95 %).")


def calmer(strip: Sequence[Trace], elsewhere: Sequence[Trace], seed: int = 1) -> Calmer:
    in_strip, beside = feet_off_line(strip), feet_off_line(elsewhere)
    if in_strip is None or beside is None:
        return Calmer(_rms(in_strip), _rms(beside), None, None, None)
    rng = np.random.default_rng(seed)
    drawn = [
        _rms(rng.choice(beside, len(beside))) / _rms(rng.choice(in_strip, len(in_strip))) for _ in range(BOOTSTRAPS)
    ]
    low, high = np.percentile(drawn, CLEAR)
    one, other = _rms(in_strip), _rms(beside)
    return Calmer(one, other, other / one, float(low), float(high))


def _rms(off: Floats | None) -> float:
    return None if off is None else float(np.sqrt((off**2).mean()))  # type: ignore[return-value]


def feet_off_line(traces: Sequence[Trace]) -> Floats | None:
    """How far each foot of the longest line's letters stands off it, in letters' heights; None where there are too few.
    The line may bend slowly: only what changes from letter to letter counts.
    """
    height = x_height_mm(traces)
    if height is None:
        return None
    line = [traces[k] for k in longest_line(traces, MOST_SAMPLES)]
    feet = np.concatenate([_feet(t, height * TURN) for t in line] or [np.zeros((0, 2))]) / height
    for _ in range(3):
        if len(feet) < FEWEST_FEET:
            return None
        feet = feet[np.argsort(feet[:, 0])]
        off = feet[:, 1] - _course(feet)
        near = np.abs(off - np.median(off)) < NEAR
        if near.all():
            break
        feet = feet[near]
    return off[near] - off[near].mean() if near.sum() >= FEWEST_FEET else None


def _course(feet: Floats) -> Floats:
    """Where the line runs under each foot: a bend at most every KNOT letters' heights, by the middle of the feet."""
    x, y = feet.T
    degree = int(np.clip(np.ptp(x) / KNOT, 1, 6))
    fit = np.polynomial.Chebyshev.fit(x, y, degree)
    off = y - fit(x)
    inside = np.abs(off - np.median(off)) < NEAR
    return np.asarray(np.polynomial.Chebyshev.fit(x[inside], y[inside], degree)(x), float)


def _feet(trace: Trace, least_mm: float) -> Floats:
    """Where a way turns from down to up, x and y in mm, shape (n, 2); turns of less than least_mm passed over."""
    feet: list[tuple[float, float]] = []
    low, high, at = float(trace.y_mm[0]), float(trace.y_mm[0]), float(trace.x_mm[0])
    falling = False
    for x, y in zip(trace.x_mm.tolist(), trace.y_mm.tolist(), strict=True):  # y grows downwards
        if y > low:
            low, at = y, x
        if falling and low - y >= least_mm:
            feet.append((at, low))
            falling, high = False, y
        high = min(high, y)
        if not falling and y - high >= least_mm:
            falling, low, at = True, y, x
    if falling:
        feet.append((at, low))
    return np.array(feet).reshape(-1, 2)
