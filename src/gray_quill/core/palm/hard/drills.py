"""What a hand of the hard set does: each a session of its own, with what was meant by it."""

import dataclasses
import hashlib
import inspect
import sys
from collections.abc import Callable, Mapping
from functools import lru_cache

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import unknown_choice
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm import sim
from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.hard import acts, faults, ranges
from gray_quill.core.palm.hard.acts import Acts, Leg
from gray_quill.core.palm.hard.faults import Faults, draw_faults, spoil
from gray_quill.core.palm.hard.ranges import HARD, Ranges
from gray_quill.core.palm.sim import a_word, resting, start_place


@dataclasses.dataclass(frozen=True)
class HardDrill:
    """holds: what it contains, in words; meant: the gesture, empty where every touch is a palm."""

    name: str
    holds: str
    meant: str
    do: Callable[[Acts], None]


def _early_rest(g: Acts) -> None:
    g.word_and_hand(3200, start_place(g), float(g.rng.uniform(1500, 3000)), 100)


def _between_words(g: Acts) -> None:
    nib = start_place(g)
    at, gone = resting(g, nib), g.draw("nib_gone_ms")
    before = g.draw("before_nib_ms")
    ends = g.write(before, *nib, a_word(g))
    again = ends + gone
    last = g.write(again, nib[0] + 18, nib[1], a_word(g))
    legs = [g.follows(before, ends, 6.0), g.slides(ends + float(g.rng.uniform(80, 300))), g.follows(again, last, 6.0)]
    g.rests(0, last + 80, at, legs)


def _thinking(g: Acts) -> None:
    nib = start_place(g)
    before = g.draw("before_nib_ms")
    ends = g.write(before, *nib, a_word(g))
    thinks = g.draw("think_ms")
    legs = [g.slides(ends + share * thinks) for share in (0.2, 0.6)]
    g.rests(0, ends + thinks, resting(g, nib), legs)


def _parts_and_joins(g: Acts) -> None:
    g.ranges = dataclasses.replace(g.ranges, parts_share=1.0)
    g.word_and_hand(g.draw("before_nib_ms"), start_place(g), 120, g.draw("nib_gone_ms"))


def _three_spots(g: Acts) -> None:
    nib, before = start_place(g), float(g.rng.uniform(800, 1600))
    ends = g.write(before, *nib, a_word(g))
    g.rests(0, ends + 60, resting(g, nib), spots_mm=(25, 40))


def _heel_rolls(g: Acts) -> None:
    nib, before = start_place(g), g.draw("before_nib_ms")
    ends = g.write(before, *nib, a_word(g))
    angle = g.rng.uniform(0, 2 * np.pi)
    way = g.draw("heel_mm")
    roll = Leg(0, float(g.rng.uniform(200, 500)), float(way * np.cos(angle)), float(way * np.sin(angle)))
    g.rests(0, ends + 90, resting(g, nib), [roll])


def _rim_thumb_stays(g: Acts) -> None:
    starts = float(g.rng.uniform(600, 2500))
    ends, _ = g.word_and_hand(starts, start_place(g), g.draw("before_nib_ms") * 0.3, 120)
    g.rim_thumb(float(g.rng.uniform(0, starts)), ends + float(g.rng.uniform(300, 1500)))


def _new_line(g: Acts) -> None:
    nib = start_place(g)
    before, at = g.draw("before_nib_ms"), resting(g, nib)
    ends = g.write(before, *nib, a_word(g))
    back, takes, waits = g.draw("back_mm"), g.draw("back_ms"), float(g.rng.uniform(60, 400))
    nib = g.within(nib[0] - 0.5 * back, nib[1] + 9)
    again = ends + waits + takes + float(g.rng.uniform(150, 900))
    last = g.write(again, *nib, a_word(g))
    if g.chance(0.5):  # it slides all the way
        legs = [Leg(ends + waits, ends + waits + takes, -back, 9.0)]
        g.rests(0, last + 90, at, legs)
        return
    g.rests(0, ends + waits, at)
    g.rests(again - float(g.rng.uniform(50, 600)), last + 90, resting(g, nib))


def _set_down_anew(g: Acts) -> None:
    nib = start_place(g)
    ends, at = g.word_and_hand(g.draw("before_nib_ms"), nib, 120, 60)
    lands = ends + float(g.rng.uniform(300, 1500))
    starts = lands + float(g.rng.uniform(300, 1500))
    last = g.write(starts, nib[0] + 12, nib[1] + 8, a_word(g))
    g.rests(lands, last + 80, (at[0] + 12 + float(g.rng.normal(0, 4)), at[1] + 8 + float(g.rng.normal(0, 4))))


def _little_finger(g: Acts) -> None:
    g.light = True
    nib = start_place(g)
    before, at = g.draw("before_nib_ms"), resting(g, nib)
    ends, gone = g.write(before, *nib, a_word(g)), g.draw("nib_gone_ms")
    slides = Leg(ends + 0.3 * gone, ends + 0.3 * gone + g.draw("slide_ms"), -g.draw("slide_mm"), 2.0)
    last = ends + gone
    if g.chance(0.6):  # the nib comes back
        last = g.write(last, nib[0] + 10, nib[1] + 8, a_word(g))
    g.rests(0, last + 60, at, [slides])


def _brush(g: Acts) -> None:
    ends, _ = g.word_and_hand(400, start_place(g), 300, 20)
    t = ends + float(g.rng.uniform(120, 700))
    y, takes = float(g.rng.uniform(6, 24)), float(g.rng.uniform(220, 420))
    at = (g.width_mm * float(g.rng.uniform(0.25, 0.6)), y)
    g.rests(t, t + takes, at, [Leg(t, t + takes, -g.toward * float(g.rng.uniform(25, 70)), 0.0)])


def _after_a_word(g: Acts) -> float:
    """A word, the hand goes; when a meant finger may land."""
    ends, _ = g.word_and_hand(g.draw("before_nib_ms"), start_place(g), 150, float(g.rng.uniform(10, 90)))
    return ends + g.draw("soon_ms")


def _twice(do: Callable[[Acts, float], float]) -> Callable[[Acts], None]:
    def session(g: Acts) -> None:
        t = _after_a_word(g)
        for _ in range(2):
            t = do(g, t) + float(g.rng.uniform(350, 900))

    return session


def _while_resting(do: Callable[[Acts, float, tuple[float, float]], float]) -> Callable[[Acts], None]:
    """The other hand's gestures while this one lies where it wrote; the pen may be seen above the glass."""

    def session(g: Acts) -> None:
        nib, before = start_place(g), g.draw("before_nib_ms")
        at = resting(g, nib)
        hovers = 180.0 if g.chance(0.7) else 6000.0
        ends = g.write(before, *nib, a_word(g), hovers)
        t = ends + float(g.rng.uniform(300, 1800))
        for _ in range(2):
            t = do(g, t, g.beside(at)) + float(g.rng.uniform(350, 900))
        legs = [g.slides(ends + 150)] if g.chance(0.4) else []
        g.rests(before - 120, t + 100, at, legs)

    return session


def _before_any_pen(g: Acts) -> None:
    """Reading first: fingers move the page before the pen was ever seen."""
    t = g.scroll(0.0, "thumb_mm" if g.chance(0.4) else "tip_mm")
    t = g.pinch(t + float(g.rng.uniform(400, 900)), "wide_mm")
    g.word_and_hand(t + float(g.rng.uniform(1500, 3000)), start_place(g), g.draw("before_nib_ms") * 0.4, 80)


def _much_later(g: Acts) -> None:
    ends, _ = g.word_and_hand(g.draw("before_nib_ms"), start_place(g), 150, 80)
    t = g.scroll(ends + float(g.rng.uniform(2000, 6000)))
    g.pinch(t + float(g.rng.uniform(400, 900)), "wide_mm", "zoom")


def _pinch_beside(g: Acts, start_ms: float, at: tuple[float, float]) -> float:
    return g.pinch(start_ms, "wide_mm", other=at)


def _scroll_then_write(g: Acts) -> None:
    t = _after_a_word(g)
    ends = g.scroll(t)
    starts = ends + g.draw("then_nib_ms")
    g.word_and_hand(starts, start_place(g), min(200.0, starts - ends - 40), 80)


def _rim_thumb_and_scroll(g: Acts) -> None:
    starts = float(g.rng.uniform(800, 1800))
    ends, _ = g.word_and_hand(starts, start_place(g), 200, 60)
    t = ends + g.draw("soon_ms")
    for _ in range(2):
        t = g.scroll(t) + float(g.rng.uniform(350, 900))
    g.rim_thumb(float(g.rng.uniform(0, 600)), t + 200)


# Meant fingers land 0.2 to 1 s after the nib's last lift where nothing else is said.
HARD_DRILLS: Mapping[str, HardDrill] = {
    name: HardDrill(name, holds, meant, do)
    for name, holds, meant, do in (
        ("early rest", "the hand lies 1.5 to 3 s before the nib comes", "", _early_rest),
        ("between words", "the nib is gone for seconds while the hand lies and slides", "", _between_words),
        ("thinking", "the hand stays for seconds after the last word and shifts", "", _thinking),
        ("parts and joins", "each patch parts in two and joins again", "", _parts_and_joins),
        ("three spots", "three light spots 25 to 40 mm apart, a second before the nib", "", _three_spots),
        ("heel rolls", "the heel rolls as it lands", "", _heel_rolls),
        ("rim thumb stays", "the other hand's thumb holds the device all the time", "", _rim_thumb_stays),
        ("new line", "the hand slides or hops back to the next line", "", _new_line),
        ("set down anew", "the hand lifts, lands again, and the nib comes later", "", _set_down_anew),
        ("little finger", "light contacts slide back while the nib is gone", "", _little_finger),
        ("brush", "the hand brushes the top of the screen", "", _brush),
        ("close pinch", "fingertips 12 to 20 mm apart", "zoom", _twice(lambda g, t: g.pinch(t, "near_mm"))),
        ("pinch", "two fingers", "zoom", _twice(lambda g, t: g.pinch(t, "wide_mm"))),
        ("scroll soon", "one finger", "scroll", _twice(lambda g, t: g.scroll(t))),
        ("thumb scroll", "thumbs of 11 to 17 mm", "scroll", _twice(lambda g, t: g.scroll(t, "thumb_mm"))),
        ("flat finger", "fingers laid flat", "scroll", _twice(lambda g, t: g.scroll(t, "flat_mm"))),
        ("two-finger scroll", "two fingers side by side", "scroll", _twice(lambda g, t: g.scroll(t, fingers=2))),
        ("tap soon", "one finger", "tap", _twice(lambda g, t: g.tap(t))),
        ("two-finger tap", "two fingers side by side", "tap", _twice(lambda g, t: g.tap(t, 2))),
        ("long press", "one finger held", "press", _twice(lambda g, t: g.tap(t, lasts="press_ms"))),
        ("scroll, then write", "the nib comes soon after the finger", "scroll", _scroll_then_write),
        ("before any pen", "the page is moved before the pen was ever seen", "scroll, zoom", _before_any_pen),
        ("much later", "fingers 2 to 6 s after the nib", "scroll, zoom", _much_later),
        ("rim thumb and scroll", "a thumb holds the device, a finger scrolls", "scroll", _rim_thumb_and_scroll),
        ("other hand scrolls", "this hand rests", "scroll", _while_resting(lambda g, t, at: g.scroll(t, at=at))),
        ("other hand pinches", "this hand rests", "zoom", _while_resting(_pinch_beside)),
        ("other hand taps", "this hand rests", "tap", _while_resting(lambda g, t, at: g.tap(t, at=at))),
    )
}


def digest() -> str:
    """What stands beside every figure of the hard set: it changes with its ranges, its drills and its simulation."""
    text = "".join(inspect.getsource(part) for part in (ranges, faults, acts, sim)) + inspect.getsource(
        sys.modules[__name__]
    )
    return hashlib.sha256(text.encode()).hexdigest()[:12]


def hard_session(
    hand: Hand, device: Device, drill: str, seed: int, drawn_from: Ranges = HARD
) -> tuple[Stream, Truth, Faults]:
    """One session of the hard set, and the faults its device had."""
    if drill not in HARD_DRILLS:
        raise unknown_choice("The drill", drill, HARD_DRILLS, "drill")
    rng = np.random.default_rng([seed, *drill.encode()])
    hands = Acts(hand, device, drawn_from, rng)
    HARD_DRILLS[drill].do(hands)
    spoilt_by = draw_faults(drawn_from, rng)
    return *spoil(hands.stream(), spoilt_by, rng), spoilt_by


@lru_cache(maxsize=2048)
def simulate_hard(hand: Hand, device: Device, drill: str, seed: int) -> tuple[Stream, Truth]:
    """One session of the hard set."""
    return hard_session(hand, device, drill, seed)[:2]
