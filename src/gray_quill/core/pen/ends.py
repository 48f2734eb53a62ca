"""Ends: tapers at the start and end of a stroke."""

import dataclasses

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.quantities import number

THINNEST = 0.02  # a needle tip still leaves a trace; ln 0 would not


@dataclasses.dataclass(frozen=True)
class Ends:
    start_mm: float = number(
        0, 0, 40, 0.1, "mm", "Start taper", "Length over which the stroke swells to its width", knee=0.5
    )
    start_tip: float = number(1, 0, 1, 0.01, "", "Start tip", "1 is blunt, 0 a needle")
    end_mm: float = number(0, 0, 40, 0.1, "mm", "End taper", "Length over which the stroke thins out", knee=0.5)
    end_tip: float = number(1, 0, 1, 0.01, "", "End tip", "1 is blunt, 0 a needle")
    ease: float = number(0.6, 0, 1, 0.01, "", "Gentleness", "0 tapers abruptly, 1 gently")
    start_widths: float = number(
        0, 0, 20, 0.1, "widths", "Start, in widths", "Added to the start taper: grows with the pen's width", knee=0.5
    )
    end_widths: float = number(
        0, 0, 20, 0.1, "widths", "End, in widths", "Added to the end taper: grows with the pen's width", knee=0.5
    )

    def for_width(self, width_mm: float) -> "Ends":
        """The same on a pen of this width, with both tapers wholly in mm."""
        return dataclasses.replace(
            self,
            start_mm=self.start_mm + self.start_widths * width_mm,
            end_mm=self.end_mm + self.end_widths * width_mm,
            start_widths=0.0,
            end_widths=0.0,
        )


@numba.njit(cache=True)
def ease_curve(u, ease):  # type: ignore[no-untyped-def]
    """0..1 -> 0..1, rising. ease 0 reaches full width within the first tenth, ease 1 is the smooth
    cubic 3u^2 - 2u^3.
    """
    u = min(max(u, 0.0), 1.0)
    abrupt = min(u * 10.0, 1.0)
    gentle = u * u * (3.0 - 2.0 * u)
    return abrupt + (gentle - abrupt) * ease


@numba.vectorize(cache=True)  # type: ignore[no-untyped-call]
def taper(distance_mm, length_mm, tip, ease):  # type: ignore[no-untyped-def]
    """tip + (1 - tip) ease(s / length), never under THINNEST; 1 where there is no taper."""
    if length_mm <= 0.0 or tip >= 1.0:
        return 1.0
    return max(tip + (1.0 - tip) * ease_curve(distance_mm / length_mm, ease), THINNEST)


def taper_term(ends: Ends, distance_mm: Floats, offsets: NDArray[np.int64]) -> Floats:
    """ln taper along strokes parted by offsets, (k + 1,), whose points lie at `distance_mm` (rising from 0 to a
    stroke's length).

    Where the tapers overlap on a short stroke both are shortened to fit, and the stroke keeps at least the smaller tip.
    """
    if ends.start_mm * (1 - ends.start_tip) == 0 and ends.end_mm * (1 - ends.end_tip) == 0:
        return np.zeros(len(distance_mm))
    length = distance_mm[offsets[1:] - 1]
    both = (ends.start_mm if ends.start_tip < 1 else 0) + (ends.end_mm if ends.end_tip < 1 else 0)
    shrink = np.minimum(1.0, length / both) if both > 0 else np.ones(len(length))
    length, shrink = (np.repeat(each, np.diff(offsets)) for each in (length, shrink))
    start = taper(distance_mm, ends.start_mm * shrink, float(ends.start_tip), float(ends.ease))
    end = taper(length - distance_mm, ends.end_mm * shrink, float(ends.end_tip), float(ends.ease))
    floor = max(min(ends.start_tip, ends.end_tip), THINNEST)
    return np.asarray(np.log(np.maximum(start * end, floor)))
