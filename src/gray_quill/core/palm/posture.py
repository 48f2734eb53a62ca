"""The hand's posture read off what it did: which hand, where it rests from the nib, and how the pen leans."""

import dataclasses
import math
from collections.abc import Sequence

import numpy as np

from gray_quill.core.errors import InputError
from gray_quill.core.palm.contacts import Stream
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import REQUIRED, choice, flag, integer, number, text

LEAST_SPREAD_MM = 18.0
ALONGSIDE = 0.5  # up to this rise over run a hand comes from the side


RESTS = ("below", "side", "above")
SIDES = ("left", "right")


@dataclasses.dataclass(frozen=True)
class Posture:
    """How the hand lies, and how that was found."""

    zone: Zone  # where the palm was, with room for its own size
    side: str = choice(REQUIRED, SIDES, "Side", "Which hand writes")
    rest: str = choice(REQUIRED, RESTS, "Comes from", "From where the hand comes to the line")
    azimuth_deg: float | None = number(
        None, -180, 180, 1, "deg", "Pen points", "Where the pen's top points; none where no tilt came", optional=True
    )
    from_tilt: bool = flag(False, "From tilt", "Only the tilt told the side")
    contacts: int = integer(0, 0, 100_000, "contacts", "Contacts", "How many contacts were read")
    words: str = text("As you say.", "Words", "All of it in a sentence", 300)


REST_WORDS = {"below": "from below the line", "side": "from the side", "above": "hooked above the line"}


def read_posture(stream: Stream, azimuths_deg: Sequence[float] = ()) -> Posture:
    """The posture behind a line written with the hand down: from every contact that was down while the nib wrote, each
    by the time it lay there.

    Raises InputError where nothing tells.
    """
    nib: tuple[float, float] | None = None
    at: dict[int, tuple[float, float]] = {}
    seen: dict[int, list[tuple[float, float]]] = {}
    for e in stream.events:
        if e.pointer == "touch":
            at[e.id] = (e.x_mm, e.y_mm)
            if e.phase in ("up", "cancel"):
                del at[e.id]
        else:
            nib = (e.x_mm, e.y_mm) if e.phase in ("down", "move") else None
        if nib is not None and e.pointer == "pen":
            for i, (x, y) in at.items():
                seen.setdefault(i, []).append((x - nib[0], y - nib[1]))
    azimuth = _mean_angle(azimuths_deg)
    if not seen:
        if azimuth is None:
            raise InputError(
                "No hand was felt while the nib wrote, and no tilt was reported. Write one line with your hand on "
                "the glass, "
                "or say it in words.",
                "events",
            )
        side = "right" if math.cos(math.radians(azimuth)) >= 0 else "left"
        sign = 1 if side == "right" else -1
        zone = Zone(sign * 38.0, 34.0, 28.0, 26.0)
        words = f"A {side} hand by the way the pen leans; no palm was felt."
        return Posture(zone, side, "below", azimuth, True, 0, words)
    offsets = np.array([p for places in seen.values() for p in places])
    dx, dy = (float(v) for v in np.median(offsets, axis=0))
    side = "right" if dx >= 0 else "left"
    rest = "side" if abs(dy) <= ALONGSIDE * abs(dx) else "below" if dy > 0 else "above"
    rx, ry = (max(LEAST_SPREAD_MM, 2.2 * float(v)) for v in offsets.std(axis=0))
    lean = f"; the pen's top points {azimuth:.0f} degrees from right" if azimuth is not None else ""
    words = f"A {side} hand that comes {REST_WORDS[rest]}, resting {math.hypot(dx, dy):.0f} mm from the nib{lean}."
    return Posture(Zone(dx, dy, rx, ry), side, rest, azimuth, False, len(seen), words)


def in_words(posture: Posture, side: str, rest: str) -> Posture:
    """The posture corrected by its owner: the zone is mirrored or turned to where such a hand rests."""
    zone = posture.zone
    away = math.hypot(zone.dx_mm, zone.dy_mm)
    dx = abs(zone.dx_mm) if rest == posture.rest else away * {"below": 0.74, "side": 0.99, "above": 0.69}[rest]
    dy = abs(zone.dy_mm) if rest == posture.rest else math.sqrt(max(0.0, away**2 - dx**2))
    turned = dataclasses.replace(zone, dx_mm=dx if side == "right" else -dx, dy_mm=-dy if rest == "above" else dy)
    return dataclasses.replace(
        posture, side=side, rest=rest, zone=turned, words=f"A {side} hand that comes {REST_WORDS[rest]}, as you say."
    )


def _mean_angle(degrees: Sequence[float]) -> float | None:
    if not len(degrees):
        return None
    turned = np.exp(1j * np.radians(np.asarray(degrees, float))).mean()
    return float(np.degrees(np.angle(turned)))
