"""Lean: tilting the pen widens its mark towards the side of the lead."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Lean:
    side_mm: float = number(
        0,
        0,
        20,
        0.1,
        "mm",
        "Side of the lead",
        "Length of the mark when the pen lies on its side; 0 ignores tilt",
        knee=0.5,
    )
    from_deg: float = number(
        60, 1, 90, 1, "deg", "Leaning from", "Altitude at which the side begins to touch", needs="side_mm"
    )
    to_deg: float = number(25, 0, 89, 1, "deg", "Flat at", "Altitude at which the whole side touches", needs="side_mm")


def lean_share(lean: Lean, altitude: Floats) -> Floats:
    """0 where the pen stands on its tip, 1 where its whole side touches, smooth between."""
    if lean.side_mm == 0:
        return np.zeros(len(altitude))
    span = max(lean.from_deg - lean.to_deg, 1.0)
    u = np.clip((lean.from_deg - np.degrees(altitude)) / span, 0, 1)
    return np.asarray(u * u * (3 - 2 * u))


def lean_aspect(lean: Lean, width_mm: float, altitude: Floats) -> Floats:
    """Length of the leaning mark over its width, >= 1; grows in the log domain from 1 to side_mm / width_mm."""
    longest = max(lean.side_mm / width_mm, 1.0)
    return np.asarray(longest ** lean_share(lean, altitude))
