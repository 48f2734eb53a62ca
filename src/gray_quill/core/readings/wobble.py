"""Wobble: how shaky a path is, and how much of the shake steadying takes away."""

import dataclasses
import functools
from collections.abc import Sequence

import numba
import numpy as np

from gray_quill.core.arrays import Floats

Timed = tuple[Floats, Floats, Floats]  # t_s, x_mm, y_mm of one stroke
EVEN_HZ = 240.0
LOWPASS_HZ = 7.0  # 8th order, run both ways: 90 % of a shake at 8 Hz and all of one at 10 Hz is left in the difference
SHORTEST_S = 0.3
BAND_HZ = (8.0, 12.0)  # physiological tremor (Elble and Koller 1990; from memory)


@dataclasses.dataclass(frozen=True, eq=False)
class Shake:
    """wobble_mm: RMS distance of the paths from their zero-phase low-passed selves; band_power: power of position in
    the 8-12 Hz band, mm^2. Both are 0 when no stroke lasts SHORTEST_S with reports enough to tell (Nyquist).
    """

    wobble_mm: float
    band_power: float


def shake(strokes: Sequence[Timed]) -> Shake:
    """Wobble of a set of strokes, judged on those long enough."""
    squares, power, count = 0.0, 0.0, 0
    for t, x, y in strokes:
        if t[-1] < SHORTEST_S or len(t) < 2 * BAND_HZ[1] * t[-1]:
            continue
        now = np.arange(0, t[-1], 1 / EVEN_HZ)
        path = np.vstack((np.interp(now, t, x), np.interp(now, t, y)))
        calm = _lowpass(path)
        squares += float((distance_to_path(path[0], path[1], calm[0], calm[1]) ** 2).sum())
        taper = np.hanning(len(now))
        hz = np.fft.rfftfreq(len(now), 1 / EVEN_HZ)
        band = (hz >= BAND_HZ[0]) & (hz <= BAND_HZ[1])
        spectrum = np.abs(np.fft.rfft((path - calm) * taper, axis=1)) ** 2
        power += 2 * float(spectrum[:, band].sum()) / float((taper**2).sum())
        count += len(now)
    return Shake(float(np.sqrt(squares / count)), power / count) if count else Shake(0.0, 0.0)


def shake_left(before: Shake, after: Shake) -> float:
    """The size of the 8-12 Hz band after steadying over that before, in amplitude; 1 where there is none to compare."""
    return float(np.sqrt(after.band_power / before.band_power)) if before.band_power > 0 else 1.0


def _lowpass(path: Floats) -> Floats:
    """Zero-phase low-pass of the rows of `path`, shape (2, n)."""
    # late: scipy.signal takes most of a second to import, which the first page need not wait for
    from scipy.signal import sosfiltfilt

    return np.asarray(sosfiltfilt(_sections(), path, padtype="odd", padlen=min(path.shape[1] - 1, 120)))


@functools.cache
def _sections() -> Floats:
    from scipy.signal import butter

    return np.asarray(butter(8, LOWPASS_HZ, fs=EVEN_HZ, output="sos"))


@numba.njit(cache=True, nogil=True)
def distance_to_path(x, y, px, py):  # type: ignore[no-untyped-def]
    """Distance of each point (x, y) to the nearest piece of the path (px, py) close to it in order.

    Looks a quarter of a second of samples each way, so that a crossing elsewhere does not count as near.
    """
    out = np.empty(len(x))
    for i in range(len(x)):
        best = (x[i] - px[i]) ** 2 + (y[i] - py[i]) ** 2
        for k in range(max(0, i - 60), min(len(px) - 1, i + 60)):
            dx, dy = px[k + 1] - px[k], py[k + 1] - py[k]
            length2 = dx * dx + dy * dy
            u = 0.0 if length2 == 0 else min(1.0, max(0.0, ((x[i] - px[k]) * dx + (y[i] - py[k]) * dy) / length2))
            gap = (x[i] - px[k] - u * dx) ** 2 + (y[i] - py[k] - u * dy) ** 2
            best = min(best, gap)
        out[i] = np.sqrt(best)
    return out
