"""Tremor: how much a hand shakes, told only where the hand meant to draw a smooth line.

Letters turn up and down as quickly as a hand shakes, so no reading can tell one from the other there. On a slow line
it can: what the hand meant lies below 1.5 Hz, letters and drawing between it and the band, tremor in the band (from
memory: 4 to 13 Hz, of essential and physiological tremor together), and the noise of a digitiser, which is the same at
all frequencies, above it. A garland of tiny letters that runs on for 20 mm without a lift is still taken for a tremor.
"""

import dataclasses
import functools
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.trace import Trace

Timed = tuple[Floats, Floats, Floats]  # t_s, x_mm, y_mm of one stroke
Z95 = 1.96
MEANT_HZ = 1.2  # what is slower is the line as it was meant, and drift
DRAWN_HZ = (1.6, 3.6)
TREMOR_HZ = (4.0, 13.0)
EDGES_HZ = (3.7, 14.5)  # where the filter of the band has half its power left, so that the band itself is whole
NOISE_HZ = 15.0  # from here on nothing but noise
TRIM_S = 0.2  # of both ends, where the pen lands and lifts
SHORTEST_S, SHORTEST_MM = 1.2, 20.0  # of a line between its trimmed ends; few words in one stroke reach so far
FEWEST_HZ = 40.0  # reports a second, from which some of the noise can be told alone
MOST_MM = 0.45  # RMS: what is larger are letters, not a shaking line
DRAWN_MM, DRAWN_SHARE = 0.05, 0.25  # between line and band no more than this, or this share of the band's
UNSEEN_MM = 0.01  # a tremor no larger cannot be seen in any ink


@dataclasses.dataclass(frozen=True)
class Tremor:
    """rms_mm: RMS across the line, None where it cannot be told; low_mm, high_mm: its 95 % interval. hz: where most of
    it lies, None where there is none. noise_mm: RMS of the reports' own noise. lines: how many strokes were read.
    """

    rms_mm: float | None
    low_mm: float
    high_mm: float
    hz: float | None
    noise_mm: float
    lines: int


NOT_TOLD = Tremor(None, 0.0, 0.0, None, 0.0, 0)


@dataclasses.dataclass(frozen=True, eq=False)
class _Spectrum:
    """Power of the displacement across one line: mm^2 in each bin of hz; noise: mm^2 a bin; shake: mm^2 in the band,
    over the line evenly (a spectrum weighs its middle most); seconds: of the line.
    """

    hz: Floats
    power: Floats
    noise: float
    shake: float
    seconds: float


@functools.lru_cache(maxsize=16)  # of the same traces many pens are read in turn
def tremor_of(traces: tuple[Trace, ...]) -> Tremor:
    """Tremor of the hand over the slow lines it drew."""
    return _told([_spectrum_of(t) for t in traces])


def read_tremor(strokes: Sequence[Timed]) -> Tremor:
    """Tremor over the slow lines among some strokes."""
    return _told([_spectrum(*stroke) for stroke in strokes])


def _told(found: Sequence[_Spectrum | None]) -> Tremor:
    spectra = [s for s in found if s is not None]
    if not spectra:
        return NOT_TOLD
    seconds = sum(s.seconds for s in spectra)
    power = sum(s.seconds * s.shake for s in spectra) / seconds
    noise = sum(s.seconds * s.noise * len(_band(s)) for s in spectra) / seconds
    white = sum(s.seconds * s.noise * len(s.hz) for s in spectra) / seconds
    freedom = sum(2 / 1.5 * float(_band(s).sum()) ** 2 / float((_band(s) ** 2).sum()) for s in spectra)  # 1.5: of Hann
    low, high = (max(0.0, power * spread - noise) ** 0.5 for spread in _chi_square_spread(freedom))
    rms, hidden = max(0.0, power - noise) ** 0.5, 2 * noise**0.5  # under twice the noise a tremor cannot be told
    hz = _middle_hz(spectra)
    if rms >= max(hidden, UNSEEN_MM):
        return Tremor(rms, low, high, hz, white**0.5, len(spectra))
    if max(hidden, high) <= 2 * UNSEEN_MM:
        return Tremor(0.0, 0.0, max(hidden, high), None, white**0.5, len(spectra))
    return Tremor(None, 0.0, max(hidden, high), None, white**0.5, len(spectra))


@functools.lru_cache(maxsize=1024)  # a sheet is read again with every stroke that is added
def _spectrum_of(trace: Trace) -> _Spectrum | None:
    return _spectrum(trace.t_s, trace.x_mm, trace.y_mm)


def _spectrum(t: Floats, x: Floats, y: Floats) -> _Spectrum | None:
    """Of a stroke that is a slow, smooth line with reports enough; else None."""
    seconds = float(t[-1]) - 2 * TRIM_S
    if len(t) < FEWEST_HZ * t[-1] or seconds < SHORTEST_S:
        return None
    # late: scipy.signal takes most of a second to import, which the first page need not wait for
    from scipy.interpolate import CubicSpline
    from scipy.signal import detrend, sosfiltfilt

    count = len(t)
    rate = (count - 1) / float(t[-1])
    path = CubicSpline(t, np.column_stack((x, y)))(np.linspace(0, t[-1], count)).T
    meant = sosfiltfilt(_sections(rate, MEANT_HZ), path, padlen=min(count - 1, int(rate)))
    kept = slice(int(TRIM_S * rate), count - int(TRIM_S * rate))
    way = np.gradient(meant, axis=1)[:, kept]
    step = np.hypot(*way)
    if step.sum() < SHORTEST_MM or step.min() <= 0:
        return None
    off = (path - meant)[:, kept]
    across = detrend((off[1] * way[0] - off[0] * way[1]) / step)
    taper = np.hanning(len(across) + 2)[1:-1]
    power: Floats = 2 * np.abs(np.fft.rfft(across * taper)) ** 2 / (len(across) * float((taper**2).sum()))
    hz = np.asarray(np.fft.rfftfreq(len(across), 1 / rate), float)
    shaken = sosfiltfilt(_sections(rate, EDGES_HZ), path - meant, padlen=min(count - 1, int(rate / 2)))
    shaken_across = (shaken[1, kept] * way[0] - shaken[0, kept] * way[1]) / step
    noise = float(np.median(power[hz >= NOISE_HZ])) / np.log(2)  # of chi-square with two degrees of freedom
    found = _Spectrum(hz, power, noise, float((shaken_across**2).mean()), seconds)
    band, drawn = float(_band(found).sum()), float(power[(hz >= DRAWN_HZ[0]) & (hz <= DRAWN_HZ[1])].sum())
    smooth = band <= MOST_MM**2 and drawn <= max(DRAWN_MM**2, DRAWN_SHARE**2 * band)
    return found if smooth else None


@functools.lru_cache(maxsize=256)  # strokes of one device are reported at few rates
def _sections(rate: float, hz: float | tuple[float, float]) -> Floats:
    from scipy.signal import butter

    return np.asarray(butter(4, hz, "bandpass" if isinstance(hz, tuple) else "lowpass", fs=rate, output="sos"))


def _band(spectrum: _Spectrum) -> Floats:
    return spectrum.power[(spectrum.hz >= EDGES_HZ[0]) & (spectrum.hz <= EDGES_HZ[1])]


def _middle_hz(spectra: Sequence[_Spectrum]) -> float:
    """Mean frequency of what lies in the band above the noise."""
    inside = [(s.hz >= TREMOR_HZ[0]) & (s.hz <= TREMOR_HZ[1]) for s in spectra]
    over = [(s.hz, np.maximum(s.power - s.noise, 0) * i) for s, i in zip(spectra, inside, strict=True)]
    total = sum(float(p.sum()) for _, p in over)
    return sum(float((hz * p).sum()) for hz, p in over) / total if total > 0 else 0.0


def _chi_square_spread(freedom: float) -> tuple[float, float]:
    """Factors from a variance with so many degrees of freedom to the ends of its 95 % interval (Wilson and Hilferty,
    1931).
    """
    a = 2 / (9 * freedom)
    return tuple(1 / max(1e-3, 1 - a + z * a**0.5) ** 3 for z in (Z95, -Z95))  # type: ignore[return-value]
