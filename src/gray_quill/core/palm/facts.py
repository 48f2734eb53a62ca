"""What is learned of a contact as it lands and moves: its size, its way, the nib about it. Both the rules and its look
read these.
"""

import math

from gray_quill.core.palm.contacts import Event
from gray_quill.core.palm.state import AGAIN_MM, AGAIN_MS, FOREVER, SLOP_MM, TRAIL_MS, State, Touch


def landed(s: State, e: Event) -> Touch:
    """The contact that lands with this report."""
    t = Touch(e.id, e.t_ms, e.x_mm, e.y_mm, e.x_mm, e.y_mm, e.size_mm)
    t.first_mm, t.short_mm = e.size_mm, min(e.width_mm, e.height_mm)
    t.trail = [(e.t_ms, e.x_mm, e.y_mm)]
    t.since_nib_ms = 0.0 if s.nib_present else e.t_ms - s.nib_seen_ms
    t.nib_age_ms = 0.0 if s.nib_present else FOREVER
    t.nib_with = s.nib_down
    t.again_ms = min(
        (
            e.t_ms - o.ended_ms
            for o in s.touches.values()
            if o.nib_with and e.t_ms - o.ended_ms <= AGAIN_MS and math.hypot(o.x - t.x, o.y - t.y) <= AGAIN_MM
        ),
        default=FOREVER,
    )
    return t


def strayed(t: Touch, e: Event) -> None:
    """The contact takes in one more report of its own."""
    now_ms, x, y = e.t_ms, e.x_mm, e.y_mm
    if e.width_mm > t.size_mm or e.height_mm > t.size_mm:
        t.size_mm, t.short_mm = e.size_mm, min(e.width_mm, e.height_mm)
    t.path_mm += math.hypot(x - t.x, y - t.y)
    t.x, t.y = x, y
    far_mm = math.hypot(x - t.x0, y - t.y0)
    if far_mm > t.far_mm:
        t.far_mm = far_mm
        if t.onset_ms == FOREVER and far_mm > SLOP_MM:
            t.onset_ms = now_ms - t.born_ms
    trail = t.trail
    trail.append((now_ms, x, y))
    while trail[1][0] <= now_ms - TRAIL_MS:
        del trail[0]
