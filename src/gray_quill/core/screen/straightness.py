"""Straightness: a digitiser's own waviness, from slow lines ruled aslant, told apart from the hand's tremor.

A grid of antennas errs with the place: x by a sine of x, y by one of y, the same in every line. A tremor runs in time,
and comes out of step from line to line. So sines of the place are fitted to what all lines together stray across their
own straight ones; how large a sine chance makes of lines that are out of step is seen by shifting each line's places at
random, and a wave is told only where it is larger.

Lines aslant cross both grids; along a row or column of antennas no wave shows (common practice, no source).
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.readings.reading import reading
from gray_quill.core.trace import Trace, path_length_mm

LEAST_LINES, LEAST_MM = 4, 40.0
PERIODS_MM = np.geomspace(2.0, 20.0, 120)
STEP_MM = 0.25  # lines are looked at this often along their way
LEVEL = 1e-2  # how often chance alone may make so large a wave
SHUFFLES, SEED = 200, 3
TREMOR_HZ = (4.0, 12.0)
BOW_PARTS = 3  # a slow bow of the ruler or arm, taken out as a polynomial
TOO_CROOKED_MM = 3.0
SLANT = (20.0, 70.0)  # degrees from the rows of the screen
VISIBLE_MM = 0.1  # common practice, no source: about the width of the finest line


@dataclasses.dataclass(frozen=True)
class Straightness:
    """wave_mm: amplitude of the wave that is tied to the place, None where chance makes as large a one; period_mm: its
    length.
    """

    lines: int
    words: list[str]
    wave_mm: float | None = reading(
        "wave", "mm", "How far the digitiser errs to either side.", better="less", attention=VISIBLE_MM
    )
    period_mm: float | None = reading("period", "mm", "How long one wave of it is on the glass.")
    chance_mm: float = reading("chance", "mm", "The largest wave that chance makes of these lines, once in a hundred.")
    tremor_mm: float = reading("tremor", "mm", "What your hand shakes between 4 and 12 Hz, RMS across the line.")


def read_straightness(lines: Sequence[Trace]) -> Straightness:
    """What ruled lines say of the digitiser. Raises InputError for too few, short, steep or crooked ones."""
    strays = [_stray(k, line) for k, line in enumerate(lines, 1)]
    if len(strays) < LEAST_LINES:
        raise InputError(f"Rule {LEAST_LINES} slanting lines or more; {len(strays)} are there.", "lines")
    sums = [_sums(stray) for stray in strays]
    gain, fit, best = _largest(sums, np.zeros((len(strays), 2)))
    rng = np.random.default_rng(SEED)
    shuffled = [_largest(sums, rng.random((len(strays), 2)) * 2 * np.pi) for _ in range(SHUFFLES)]
    sure = gain > np.quantile([s[0] for s in shuffled], 1 - LEVEL)
    chance = float(np.quantile([_size_mm(s[1]) for s in shuffled], 1 - LEVEL))
    wave, period = (_size_mm(fit), float(PERIODS_MM[best])) if sure else (None, None)
    # a wave that a hand goes along is a shake in time as well: only what it leaves is the hand's
    waved = fit if sure else np.zeros(4)
    tremor = float(
        np.sqrt(np.mean([_tremor(line.t_s, _unwaved(line, waved, PERIODS_MM[best])) ** 2 for line in lines]))
    )
    read = Straightness(len(strays), [], wave, period, chance, tremor)
    return dataclasses.replace(read, words=_words(read))


def _stray(k: int, line: Trace) -> tuple[Floats, Floats, Floats]:
    """Places, (n, 2), at even steps along a line, how far it strays there across its own straight one, and the
    direction across, (2,).
    """
    if len(line) < 8 or path_length_mm(line.x_mm, line.y_mm) < LEAST_MM:
        raise InputError(f"Line {k} is too short: rule {LEAST_MM:g} mm or more.", "lines")
    xy = line.xy_mm
    middle = xy.mean(axis=0)
    _, _, axes = np.linalg.svd(xy - middle, full_matrices=False)
    slant = np.degrees(np.arctan2(abs(axes[0, 1]), abs(axes[0, 0])))
    if not SLANT[0] <= slant <= SLANT[1]:
        raise InputError(f"Line {k} runs along the screen: rule it aslant, from corner to corner.", "lines")
    along, across = (xy - middle) @ axes[0], (xy - middle) @ axes[1]
    if np.abs(across).max() > TOO_CROOKED_MM:
        raise InputError(f"Line {k} is not straight: hold the pen against a ruler.", "lines")
    order = np.argsort(along)
    at = np.arange(along.min(), along.max(), STEP_MM)
    height = np.interp(at, along[order], across[order])
    height -= np.polynomial.Polynomial.fit(at, height, BOW_PARTS)(at)
    return middle + at[:, None] * axes[0], height, axes[1]


def _sums(stray: tuple[Floats, Floats, Floats]) -> tuple[Floats, Floats]:
    """Normal equations of sines and cosines of x and of y for one line at every period, (p, 4, 4) and (p, 4): what an
    error of the place adds across the line is its part in that direction.
    """
    places, height, across = stray
    turn = 2 * np.pi * places[None] / PERIODS_MM[:, None, None]
    design = np.concatenate((np.sin(turn) * across, np.cos(turn) * across), axis=2)
    return np.einsum("pni,pnj->pij", design, design), np.einsum("pni,n->pi", design, height)


def _largest(sums: Sequence[tuple[Floats, Floats]], shifts: Floats) -> tuple[float, Floats, int]:
    """Of all periods the one whose sines explain all lines best: how much, their sizes (sine of x, of y, cosine of x,
    of y; mm), and which. shifts: of each line's phases in x and y, radians.
    """
    turned = np.zeros((len(sums), 1, 4, 4))
    for k in (0, 1):
        c, s = np.cos(shifts[:, k, None]), np.sin(shifts[:, k, None])
        turned[..., k, k] = turned[..., k + 2, k + 2] = c
        turned[..., k, k + 2], turned[..., k + 2, k] = s, -s
    back = np.swapaxes(turned, 2, 3)
    normal = (turned @ np.stack([n for n, _ in sums]) @ back).sum(axis=0)
    wanted = (np.stack([w for _, w in sums])[..., None, :] @ back)[..., 0, :].sum(axis=0)
    fit = np.linalg.solve(normal + 1e-9 * np.eye(4), wanted[..., None])[..., 0]
    gain = (fit * wanted).sum(axis=1)
    best = int(np.argmax(gain))
    return float(gain[best]), fit[best], best


def _size_mm(fit: Floats) -> float:
    """Amplitude of the wave, RMS of both axes."""
    return float(np.sqrt((fit**2).sum() / 2))


def _unwaved(line: Trace, fit: Floats, period_mm: float) -> Floats:
    """The line's places without the wave, (n, 2)."""
    turn = 2 * np.pi * line.xy_mm / period_mm
    return line.xy_mm - fit[:2] * np.sin(turn) - fit[2:] * np.cos(turn)


def _tremor(t_s: Floats, places: Floats) -> float:
    """RMS across a line of what is between 4 and 12 Hz in time."""
    hz = 1 / float(np.median(np.diff(t_s)))
    t = np.arange(0, t_s[-1], 1 / hz)
    if len(t) < 16:
        return 0.0
    xy = np.column_stack([np.interp(t, t_s, v) for v in places.T])
    _, _, axes = np.linalg.svd(xy - xy.mean(axis=0), full_matrices=False)
    across = (xy - xy.mean(axis=0)) @ axes[1]
    across -= np.polynomial.Polynomial.fit(t, across, BOW_PARTS)(t)
    spectrum = np.fft.rfft(across)
    at = np.fft.rfftfreq(len(t), 1 / hz)
    spectrum[(at < TREMOR_HZ[0]) | (at > TREMOR_HZ[1])] = 0
    return float(np.sqrt((np.fft.irfft(spectrum, len(t)) ** 2).mean()))


def _words(found: Straightness) -> list[str]:
    hand = f"Your hand shakes by {found.tremor_mm:.2f} mm along them."
    if found.wave_mm is None or found.period_mm is None:
        return [f"No wave of the digitiser is sure; one of {found.chance_mm:.2f} mm or more would show.", hand]
    seen = "it shows in slow slanting lines" if found.wave_mm >= VISIBLE_MM else "too little to be seen"
    return [
        f"This digitiser waves by {found.wave_mm:.2f} mm to either side every {found.period_mm:.1f} mm: {seen}.",
        hand,
    ]
