"""Aim: how far from the nib its ink appears, from a nib put down on crosses at several leans.

Offset in mm over the screen, from its middle: o(x, y, lean) = a + B (x, y) + p lean, where lean points to where the pen
leans, as long as the cotangent of its altitude: a shift, a wrong scale or turn, and what the lean adds (the coil that
is sensed sits above the nib). Fitted by least squares; what is left over is the hand's own aim. A part is told only
where it is larger than its own uncertainty.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np
from scipy import special

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.quantities import number
from gray_quill.core.readings.reading import reading

LEAST_TAPS = 9
SURE = 0.999  # how sure one must be of a part before it is told
FELT_MM = 0.3  # common practice, no source: from there on ink is seen beside the nib
FARTHEST_MM = 15.0  # beyond it another cross was meant
LEAN_SPREAD = 0.15  # of the cotangent: leans more alike than that tell nothing of leaning


@dataclasses.dataclass(frozen=True)
class Tap:
    """A nib put down on a cross: where the cross is and where the pen was reported, mm on the screen from its upper
    left; how it leant, radians, None where that is not reported.
    """

    cross_x_mm: float
    cross_y_mm: float
    x_mm: float
    y_mm: float
    altitude: float | None = None
    azimuth: float | None = None


def _part(label: str, help: str) -> float:
    return number(0.0, -100, 100, 0.0001, "mm", label, help)


@dataclasses.dataclass(frozen=True)
class Correction:
    """What is taken from a reported place: shift and the rows of B, mm a mm, about a middle; lean, mm."""

    middle_x_mm: float = number(0, -10_000, 10_000, 0.001, "mm", "Middle across", "Of the crosses")
    middle_y_mm: float = number(0, -10_000, 10_000, 0.001, "mm", "Middle down", "Of the crosses")
    shift_x_mm: float = _part("Shift across", "Ink is so far to the right of the nib")
    shift_y_mm: float = _part("Shift down", "Ink is so far below the nib")
    x_by_x: float = _part("Scale across", "Shift across for each mm across")
    x_by_y: float = _part("Shear across", "Shift across for each mm down")
    y_by_x: float = _part("Shear down", "Shift down for each mm across")
    y_by_y: float = _part("Scale down", "Shift down for each mm down")
    lean_mm: float = _part("Lean", "Shift to where a pen leans at 45 degrees")


@dataclasses.dataclass(frozen=True)
class Aim:
    """offsets: where each cross's ink lies off it, mm (n, 2), as measured. correction: None where nothing is sure."""

    taps: int
    offsets: list[tuple[float, float]]
    correction: Correction | None
    words: list[str]
    mean_mm: float = reading("offset", "mm", "Mean distance of the ink from the cross.", better="less")
    scatter_mm: float = reading("aim of the hand", "mm", "RMS of what no map of the screen explains.", better="less")
    left_mm: float = reading("left", "mm", "Mean distance that a correction leaves.", better="less")
    leans: bool | None = None


def read_aim(taps: Sequence[Tap]) -> Aim:
    """What nine and more taps say of a screen. Raises InputError for too few, or for one far from its cross."""
    if len(taps) < LEAST_TAPS:
        raise InputError(f"Put the nib down on {LEAST_TAPS} crosses or more; {len(taps)} are told.", "taps")
    cross = np.array([(t.cross_x_mm, t.cross_y_mm) for t in taps])
    off = np.array([(t.x_mm, t.y_mm) for t in taps]) - cross
    far = np.flatnonzero(np.hypot(*off.T) > FARTHEST_MM)
    if len(far):
        raise InputError(
            f"Tap {far[0] + 1} lies {np.hypot(*off[far[0]]):.0f} mm from its cross: put the nib down on the cross that "
            "is shown.",
            "taps",
        )
    middle = cross.mean(axis=0)
    lean = _leans(taps)
    told = lean is not None and float(np.ptp(lean, axis=0).max()) > LEAN_SPREAD
    design = _design(cross - middle, lean if told and lean is not None else np.zeros_like(cross))
    parts, sure, left = _fit(design, off, told)
    correction = Correction(*map(float, middle), *(round(float(v), 6) for v in parts)) if sure.any() else None
    n = len(taps)
    after = off - (design @ parts).reshape(2, n).T
    found = Aim(
        taps=n,
        offsets=[(float(x), float(y)) for x, y in off],
        correction=correction,
        words=[],
        mean_mm=float(np.hypot(*off.T).mean()),
        scatter_mm=left,
        left_mm=float(np.hypot(*after.T).mean()),
        leans=told if lean is not None else None,
    )
    return dataclasses.replace(found, words=_words(found))


def corrected(found: Correction, x_mm: Floats, y_mm: Floats, lean: Floats) -> tuple[Floats, Floats]:
    """Where the nib is, of where it is reported, mm; lean: (n, 2) as of `lean_of`."""
    x, y = x_mm - found.middle_x_mm, y_mm - found.middle_y_mm
    dx = found.shift_x_mm + found.x_by_x * x + found.x_by_y * y + found.lean_mm * lean[:, 0]
    dy = found.shift_y_mm + found.y_by_x * x + found.y_by_y * y + found.lean_mm * lean[:, 1]
    return x_mm - dx, y_mm - dy


def lean_of(altitude: float, azimuth: float) -> tuple[float, float]:
    """Where a pen leans to, as long as the cotangent of its altitude; no longer than at 20 degrees."""
    far = min(1 / np.tan(max(altitude, 1e-3)), 1 / np.tan(np.radians(20)))
    return far * float(np.cos(azimuth)), far * float(np.sin(azimuth))


def _leans(taps: Sequence[Tap]) -> Floats | None:
    if any(t.altitude is None or t.azimuth is None for t in taps):
        return None
    return np.array([lean_of(t.altitude or 0.0, t.azimuth or 0.0) for t in taps])


def _design(at: Floats, lean: Floats) -> Floats:
    """Rows of both axes, first all of x; columns in the order of Correction."""
    one, none = np.ones((len(at), 1)), np.zeros((len(at), 1))
    two = np.zeros((len(at), 2))
    across = np.hstack((one, none, at, two, lean[:, :1]))
    down = np.hstack((none, one, two, at, lean[:, 1:]))
    return np.vstack((across, down))


def _fit(design: Floats, off: Floats, leans: bool) -> tuple[Floats, np.ndarray, float]:
    """The parts that one can be sure of (others are 0), which they are, and the RMS of the rest each way.

    Parts are dropped together with what cannot be told: first everything is fitted, then only what was sure.
    """
    wanted = off.T.ravel()
    use = np.array([True] * 6 + [leans])
    sure = use
    parts = np.zeros(7)
    for _ in range(2):
        some = design[:, sure]
        if not some.shape[1]:
            break
        fit, *_ = np.linalg.lstsq(some, wanted, rcond=None)
        rest = wanted - some @ fit
        free = len(wanted) - some.shape[1]
        sd = np.sqrt(np.diag(np.linalg.pinv(some.T @ some)) * (rest @ rest) / free)
        parts = np.zeros(7)
        parts[sure] = fit
        certain = np.zeros(7, bool)
        certain[sure] = np.abs(fit) > special.stdtrit(free, (1 + SURE) / 2) * sd
        sure = certain
    parts[~sure] = 0.0
    rest = wanted - design @ parts
    return parts, sure, float(np.sqrt((rest**2).mean()))


def _words(found: Aim) -> list[str]:
    c = found.correction
    if c is None:
        words = [f"No offset is sure: what is seen is no more than your hand's own aim, {found.scatter_mm:.2f} mm."]
    else:
        shift = float(np.hypot(c.shift_x_mm, c.shift_y_mm))
        words = []
        if shift:
            words.append(f"Ink lies {shift:.2f} mm {_way(c.shift_x_mm, c.shift_y_mm)} of the nib.")
        stretch = max(abs(v) for v in (c.x_by_x, c.x_by_y, c.y_by_x, c.y_by_y))
        if stretch:
            words.append(f"Over the screen this changes by {100 * stretch:.1f} mm in 100.")
        if c.lean_mm:
            to = "towards" if c.lean_mm > 0 else "away from"
            words.append(f"A pen at 45 degrees shifts it {abs(c.lean_mm):.2f} mm {to} its own lean.")
        calm = found.mean_mm < FELT_MM
        words.append(
            f"A correction leaves {found.left_mm:.2f} mm of {found.mean_mm:.2f}"
            + ("; hardly seen either way." if calm else ".")
        )
    if found.leans is None:
        words.append("This pen reports no lean: how leaning shifts the ink cannot be told.")
    elif not found.leans:
        words.append("The pen leant nearly the same each time: how leaning shifts the ink cannot be told.")
    return words


def _way(x: float, y: float) -> str:
    """In which direction, in words, of eight."""
    names = ("right", "below right", "below", "below left", "left", "above left", "above", "above right")
    return names[round(np.arctan2(y, x) / (np.pi / 4)) % 8]
