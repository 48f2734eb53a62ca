"""What a session of the hard set is drawn from: sizes, times and chances as ranges, never as constants. All of them are
common practice, no source.
"""

import dataclasses

import numpy as np

Range = tuple[float, float]


@dataclasses.dataclass(frozen=True)
class Ranges:
    """Ranges are drawn from evenly; `_share` is a chance."""

    # the resting hand
    palm_scale: Range = (0.6, 1.5)  # of the hand's own palm
    light_share: float = 0.25  # of hands that press light spots only
    light_mm: Range = (8, 12)
    slender: Range = (0.42, 0.85)  # the short axis of a patch as a share of the long one
    spots: tuple[int, int] = (1, 3)
    spot_share: Range = (0.28, 0.5)  # of the palm's length
    landed: Range = (0.25, 0.75)  # share of its size as it lands
    grow_ms: Range = (25, 160)
    late_ms: Range = (0, 180)  # from the first patch to another
    roll_mm: Range = (0.2, 1.8)
    parts_share: float = 0.3  # of patches that part in two and join again
    before_nib_ms: Range = (120, 3000)
    nib_gone_ms: Range = (500, 3000)
    think_ms: Range = (2000, 5000)
    slide_mm: Range = (3, 26)
    slide_ms: Range = (250, 1400)
    heel_mm: Range = (5, 14)
    back_mm: Range = (45, 100)  # a hand that slides back to the next line
    back_ms: Range = (260, 600)
    rim_mm: Range = (2, 15)  # of a thumb that holds the device, from the rim
    # fingers
    tip_mm: Range = (6.5, 11)
    flat_mm: Range = (10, 14)
    thumb_mm: Range = (11, 17)
    finger_slender: Range = (0.68, 1.0)
    finger_landed: Range = (0.55, 1.0)
    finger_grow_ms: Range = (15, 70)
    wander_mm: Range = (0.05, 0.35)
    soon_ms: Range = (200, 1000)  # from the nib's last lift to a finger
    scroll_mm: Range = (18, 65)
    scroll_ms: Range = (180, 600)
    slow_share: float = 0.3  # of gestures that start slowly
    slow_ms: Range = (80, 220)
    near_mm: Range = (12, 20)  # between fingertips of a close pinch
    wide_mm: Range = (22, 60)
    grows_mm: Range = (10, 45)  # by which the fingers' distance changes
    pinch_ms: Range = (300, 800)
    apart_ms: Range = (0, 70)  # between two fingers' landings
    tap_ms: Range = (45, 170)
    press_ms: Range = (550, 1400)
    then_nib_ms: Range = (250, 1300)  # from a finger's lift to the nib
    # devices
    no_size_share: float = 0.2
    coarse_share: float = 0.25
    coarse_mm: Range = (1.5, 4)
    no_hover_share: float = 0.2
    late_hover_share: float = 0.3
    late_hover_ms: Range = (0, 50)  # before the nib touches
    merge_share: float = 0.25
    merge_mm: Range = (7, 13)
    pen_cancel_share: float = 0.04
    touch_cancel_share: float = 0.1
    palm_as_pen_share: float = 0.04

    def draw(self, rng: np.random.Generator, name: str) -> float:
        return float(rng.uniform(*getattr(self, name)))


HARD = Ranges()
