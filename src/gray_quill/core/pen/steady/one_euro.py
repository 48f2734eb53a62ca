"""one-euro: a low-pass whose cutoff rises with speed.

Casiez, Roussel and Vogel, "1 Euro Filter", CHI 2012, Algorithm 1. The derivative is the difference of two reports over
their time: taken from the last filtered value, as the paper's listing has it, it holds the lag divided by the report
interval, so that the cutoff, and with it the lag, would depend on the report rate. The cutoff follows the magnitude of
the filtered velocity, so that the result does not depend on direction. In one dimension, fed the same derivative, it
is the paper's filter.
"""

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method

QUICK_HZ, CALM_HZ = 30.0, 0.8  # minimum cutoff at amounts 0 and 10


@numba.njit(cache=True)
def one_euro(t, values, min_cutoff_hz, beta, d_cutoff_hz):  # type: ignore[no-untyped-def]
    """A filtered copy of the values. beta in Hz per unit of x per second."""
    n, m = values.shape
    out = np.empty((n, m))
    out[0] = values[0]
    vx = vy = 0.0
    for i in range(1, n):
        dt = t[i] - t[i - 1]
        a_d = 1.0 / (1.0 + 1.0 / (2 * np.pi * d_cutoff_hz * dt))
        vx += a_d * ((values[i, 0] - values[i - 1, 0]) / dt - vx)
        vy += a_d * ((values[i, 1] - values[i - 1, 1]) / dt - vy)
        cutoff = min_cutoff_hz + beta * np.sqrt(vx * vx + vy * vy)
        a = 1.0 / (1.0 + 1.0 / (2 * np.pi * cutoff * dt))
        for k in range(m):
            out[i, k] = out[i - 1, k] + a * (values[i, k] - out[i - 1, k])
    return out


ONE_EURO = Method(
    "one-euro",
    "minimum cutoff",
    "Hz",
    "Calms slow strokes, lets go when the hand is fast",
    parameter=lambda amount: float(QUICK_HZ * (CALM_HZ / QUICK_HZ) ** (amount / 10)),
    amount=lambda hz: float(10 * np.log(max(hz, 1e-9) / QUICK_HZ) / np.log(CALM_HZ / QUICK_HZ)),
    run=one_euro,
)
