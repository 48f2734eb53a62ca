"""How a contact looks: what is known of it at a moment, as numbers. NaN stands for what the device does not tell or
what is not there.
"""

import math

from gray_quill.core.palm.state import FOREVER, LEAST_TRAIL_MS, LEAST_WAY_MM, NEAR_MM, State, Touch
from gray_quill.core.palm.zone import Zone

NONE = math.nan

# Each number with the words that explain a decision, in the order of `looks`.
LOOKS: tuple[tuple[str, str], ...] = (
    ("size_mm", "it is {:.0f} mm long"),
    ("slender", "it is {:.1f} times as wide as long"),
    ("growth", "it grew to {:.1f} times its size"),
    ("age_ms", "it lay for {:.0f} ms"),
    ("far_mm", "it strayed {:.1f} mm"),
    ("still_ms", "it lay still for {:.0f} ms"),
    ("speed_mm_s", "it went at {:.0f} mm/s"),
    ("straight", "it went {:.1f} as straight as a line"),
    ("since_nib_ms", "it landed {:.0f} ms after the nib was seen"),
    ("nib_age_ms", "the nib came {:.0f} ms after it"),
    ("nib_with", "the nib wrote while it lay"),
    ("zone", "it lay {:.1f} of the way out of your hand's resting place"),
    ("across_mm", "it lay {:.0f} mm to the hand's side of the nib"),
    ("down_mm", "it lay {:.0f} mm towards the hand from the line"),
    ("edge_mm", "it landed {:.0f} mm from the rim"),
    ("near_mm", "another contact lay {:.0f} mm away"),
    ("near_apart_ms", "another landed {:.0f} ms apart from it"),
    ("parting_mm", "it parted from another by {:.1f} mm"),
    ("near_far_mm", "the one beside it strayed {:.1f} mm"),
    ("crowd", "{:.0f} others lay about it"),
    ("near_size_mm", "those about it are up to {:.0f} mm long"),
    ("near_nib_with", "the nib wrote while those about it lay"),
    ("lifted", "it was taken away"),
    ("nib_gone_ms", "the nib had been gone for {:.0f} ms"),
    ("again_ms", "your hand had lain there {:.0f} ms before"),
)
NAMES = tuple(name for name, _ in LOOKS)
ABSENT = {
    "nib_with": "the nib did not write while it lay",
    "near_nib_with": "the nib did not write while those about it lay",
    "lifted": "it still lay",
}


def told(number: int, value: float) -> str:
    """One number of a look in words; of what is missing nothing can be told."""
    name, words = LOOKS[number]
    return ABSENT[name] if name in ABSENT and not value else words.format(value)


def looks(s: State, t: Touch, now_ms: float, zone: Zone) -> list[float]:
    """The numbers of LOOKS for a contact at a moment."""
    sized = t.size_mm > 0
    age = min(now_ms, t.ended_ms) - t.born_ms
    (t0, x0, y0), (t1, x1, y1) = t.trail[0], t.trail[-1]
    across = down = out = NONE
    if s.nib is not None:
        dx, dy = t.x - s.nib[0], t.y - s.nib[1]
        across, down = math.copysign(dx, dx * zone.dx_mm), math.copysign(dy, dy * zone.dy_mm)
        out = zone.distance(dx, dy)
    others = [o for o in s.touches.values() if o is not t and o.ended_ms == FOREVER]
    near, distance = _nearest(t, others)
    about = [o for o in others if math.hypot(o.x - t.x, o.y - t.y) <= NEAR_MM]
    return [
        t.size_mm if sized else NONE,
        t.short_mm / t.size_mm if sized else NONE,
        t.size_mm / t.first_mm if sized and t.first_mm > 0 else NONE,
        age,
        t.far_mm,
        min(age, t.onset_ms),
        1000 * math.hypot(x1 - x0, y1 - y0) / (t1 - t0) if t1 - t0 >= LEAST_TRAIL_MS else NONE,
        t.far_mm / t.path_mm if t.path_mm >= LEAST_WAY_MM else NONE,
        _finite(t.since_nib_ms),
        _finite(t.nib_age_ms),
        float(t.nib_with),
        out,
        across,
        down,
        min(t.x0, t.y0, 2 * s.middle[0] - t.x0, 2 * s.middle[1] - t.y0),
        distance,
        abs(t.born_ms - near.born_ms) if near else NONE,
        abs(distance - math.hypot(near.x0 - t.x0, near.y0 - t.y0)) if near else NONE,
        near.far_mm if near else NONE,
        float(len(about)),
        max((o.size_mm for o in about if o.size_mm > 0), default=NONE),
        float(any(o.nib_with for o in about)),
        2.0 if t.cancelled else float(t.lifted),
        0.0 if s.nib_present else _finite(now_ms - s.nib_seen_ms),
        _finite(t.again_ms),
    ]


def _finite(value: float) -> float:
    return value if math.isfinite(value) else NONE


def _nearest(t: Touch, others: list[Touch]) -> tuple[Touch | None, float]:
    if not others:
        return None, NONE
    near = min(others, key=lambda o: math.hypot(o.x - t.x, o.y - t.y))
    return near, math.hypot(near.x - t.x, near.y - t.y)
