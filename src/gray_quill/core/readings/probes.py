"""What a steadying setting does to a line of known shape: told for every setting, whatever was written."""

import numpy as np

from gray_quill.core.pen.steady import Steady, is_raw, steady_path
from gray_quill.core.pen.steady.look_ahead import look_ahead

SLOW_MM_S = 15.0  # of a line drawn with care, on which a shake is seen
SHAKE_HZ = np.arange(5.0, 12.1, 0.5)
SHAKE_MM = 0.1  # RMS of the probe; a leash takes more of a small shake than of a large one
SECONDS, SETTLED_S = 3.0, 0.6
SLOWEST_HZ, QUICKEST_HZ = 60.0, 1000.0  # reports of the probe: too few would show the device's fault, not the pen's


def shake_left(steady: Steady, report_hz: float, shake_mm: float = SHAKE_MM) -> float:
    """How large a shake of 5 to 12 Hz across a slow line still is in the ink, over what it was: 0..1 and, where a
    method answers late, a little more.
    """
    return 1.0 if is_raw(steady) else _shaking(steady, report_hz, shake_mm, 0.0)


def shake_shown(steady: Steady, report_hz: float, shake_mm: float = SHAKE_MM) -> float:
    """The same at the end of the ink while the pen writes, which look-ahead draws."""
    return _shaking(steady, report_hz, shake_mm, steady.ahead_ms)


def _shaking(steady: Steady, report_hz: float, shake_mm: float, ahead_ms: float) -> float:
    t = _times(report_hz)
    tones = 2 * np.pi * (SHAKE_HZ * t[:, None] + np.linspace(0, 1, len(SHAKE_HZ)) ** 2 * len(SHAKE_HZ))
    shake = np.sin(tones).sum(axis=1)
    shake *= max(shake_mm, 1e-3) / np.sqrt((shake**2).mean())
    _, y = look_ahead(t, *steady_path(steady, t, SLOW_MM_S * t, shake), ahead_ms)
    after = t > SETTLED_S
    return float(np.sqrt((y[after] ** 2).mean() / (shake[after] ** 2).mean()))


def line_drag_ms(steady: Steady, report_hz: float, speed_mm_s: float) -> float:
    """How late the tip is on a straight line at an even speed, once it has settled: for `follow` its time constant."""
    if is_raw(steady) or speed_mm_s <= 0:
        return 0.0
    t = _times(report_hz)
    x, _ = steady_path(steady, t, speed_mm_s * t, 0 * t)
    return float((t[-1] - x[-1] / speed_mm_s) * 1000)


def _times(report_hz: float) -> np.ndarray:
    return np.arange(0, SECONDS, 1 / np.clip(report_hz, SLOWEST_HZ, QUICKEST_HZ))
