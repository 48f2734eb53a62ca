"""What the learned look of a hand is trained on: sessions of any acts in any order, with wider ranges than any drill's.
Neither its sessions nor its seeds are those of the drills or of the hard set.
"""

import dataclasses

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.hard.acts import Acts
from gray_quill.core.palm.hard.faults import draw_faults, spoil
from gray_quill.core.palm.hard.ranges import Ranges
from gray_quill.core.palm.sim import a_word, resting, start_place

PRACTICE = Ranges(
    palm_scale=(0.5, 1.7),
    light_share=0.35,
    light_mm=(6.5, 13),
    slender=(0.38, 0.95),
    spots=(1, 4),
    landed=(0.2, 0.9),
    grow_ms=(15, 220),
    late_ms=(0, 260),
    roll_mm=(0.1, 2.4),
    parts_share=0.35,
    before_nib_ms=(80, 3600),
    nib_gone_ms=(250, 4000),
    slide_mm=(1, 34),
    slide_ms=(200, 1800),
    rim_mm=(1, 18),
    tip_mm=(6, 12),
    flat_mm=(9, 15),
    thumb_mm=(10, 18),
    finger_slender=(0.6, 1.0),
    finger_landed=(0.45, 1.0),
    finger_grow_ms=(10, 100),
    wander_mm=(0.03, 0.5),
    soon_ms=(120, 2500),
    scroll_mm=(10, 80),
    scroll_ms=(140, 800),
    slow_share=0.4,
    slow_ms=(50, 300),
    near_mm=(11, 26),
    wide_mm=(18, 75),
    grows_mm=(7, 60),
    pinch_ms=(220, 1000),
    apart_ms=(0, 110),
    tap_ms=(35, 210),
    press_ms=(450, 1700),
    no_size_share=0.3,
    coarse_mm=(1, 5),
    no_hover_share=0.3,
    merge_mm=(5, 15),
)
FINGERS = ("tip_mm", "tip_mm", "flat_mm", "thumb_mm")


def practise(hand: Hand, device: Device, seed: int) -> tuple[Stream, Truth]:
    """Three to five acts in any order, with what was meant."""
    rng = np.random.default_rng([seed, 0x9AC7])
    g = Acts(hand, device, PRACTICE, rng)
    t = float(rng.uniform(0, 300))
    holds = g.chance(0.2)
    for _ in range(int(rng.integers(3, 6))):
        kind = rng.random()
        if kind < 0.4:
            t = _writes(g, t)
        elif kind < 0.8:
            t = _gesture(g, t)
        else:
            t = _lies(g, t)
        t += float(rng.uniform(150, 500)) if rng.random() < 0.3 else g.draw("soon_ms")
    if holds:
        g.rim_thumb(float(rng.uniform(0, 0.5 * t)), t)
    return spoil(g.stream(), draw_faults(PRACTICE, rng), rng)


def _writes(g: Acts, t: float) -> float:
    """One word or two with the hand down; between them, before and after it may slide, hop, or the other hand act."""
    rng, nib = g.rng, start_place(g)
    at = resting(g, nib)
    at = (at[0] + float(rng.normal(0, 6)), at[1] + float(rng.normal(0, 6)))
    starts = t + g.draw("before_nib_ms") * float(rng.uniform(0.1, 1))
    ends = g.write(starts, *nib, a_word(g), 180.0 if g.chance(0.8) else 3000.0)
    legs = [g.follows(starts, ends, float(rng.uniform(0, 14)))]
    if g.chance(0.3):  # it rolls or slides as it lands
        legs.append(dataclasses.replace(g.slides(t), end_ms=t + float(rng.uniform(150, 700))))
    lifts = ends + float(rng.uniform(-60, 300))
    if g.chance(0.45):
        lifts = ends + g.draw("nib_gone_ms")
        legs.append(g.slides(ends + float(rng.uniform(0, 600))))
        if g.chance(0.5):
            _gesture(g, ends + float(rng.uniform(150, 0.7 * (lifts - ends) + 200)), g.beside(at))
    spots = (18.0, 44.0) if g.chance(0.15) else None
    g.rests(t, lifts, at, legs, spots)
    t = max(lifts, ends)
    if g.chance(0.12):  # and then crosses the glass
        return _crosses(g, t + float(rng.uniform(60, 1200)))
    while g.chance(0.3):  # and lies down about there again
        t += float(rng.uniform(80, 1500))
        lasts = float(rng.uniform(250, 2000))
        legs = [g.slides(t + float(rng.uniform(0, lasts)))] if g.chance(0.6) else []
        g.rests(t, t + lasts, (at[0] + float(rng.normal(0, 7)), at[1] + float(rng.normal(0, 7))), legs)
        t += lasts
    return t


def _crosses(g: Acts, t: float) -> float:
    rng = g.rng
    lasts, rim = float(rng.uniform(160, 600)), float(rng.uniform(4, 40))
    y = rim if g.chance(0.7) else g.height_mm - rim
    at = (g.width_mm * float(rng.uniform(0.15, 0.85)), y)
    g.rests(t, t + lasts, at, [g.follows(t, t + lasts, float(rng.choice((-1, 1))) * float(rng.uniform(15, 90)))])
    return t + lasts


def _lies(g: Acts, t: float) -> float:
    """The hand lies or crosses the glass without a pen in sight."""
    rng = g.rng
    if g.chance(0.3):
        return _crosses(g, t)
    at = resting(g, start_place(g)) if g.chance(0.6) else (rng.uniform(0.1, 0.9) * g.width_mm, 0.0)
    at = (float(at[0]), float(at[1]) or float(rng.uniform(5, 0.9 * g.height_mm)))
    lasts = float(rng.uniform(150, 2500))
    legs = [g.slides(t + float(rng.uniform(0, 0.5)) * lasts) for _ in range(int(rng.integers(0, 3)))]
    g.rests(t, t + lasts, at, legs)
    return t + lasts


def _gesture(g: Acts, t: float, at: tuple[float, float] | None = None) -> float:
    rng = g.rng
    size = str(rng.choice(FINGERS))
    kind = int(rng.integers(0, 8))
    if kind <= 2:
        return g.scroll(t, size, at)
    if kind == 3:
        return g.scroll(t, "tip_mm", at, 2)
    if kind <= 5:
        return g.pinch(t, "near_mm" if g.chance(0.4) else "wide_mm", other=at)
    if kind == 6:
        return g.tap(t, 2 if g.chance(0.35) else 1, at)
    return g.tap(t, 1, at, "press_ms")
