"""Twelve nasty contact streams, each made to break a rule that only looks at one thing; kept as CSV with their truth in
tests/data/palm. `python -m tests.core.palm_streams` makes them anew.
"""

import dataclasses
import json
import pathlib
from collections.abc import Callable, Mapping

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Stream, Truth, make_stream
from gray_quill.core.palm.hard.acts import Acts, Leg
from gray_quill.core.palm.hard.faults import Faults, spoil
from gray_quill.core.palm.hard.ranges import Ranges
from gray_quill.core.palm.sim import resting
from gray_quill.formats.contacts_csv import read_contacts, write_contacts
from gray_quill.formats.palm_json import read_truth, truth_json

DATA = pathlib.Path(__file__).parents[1] / "data" / "palm"
HAND, TABLET = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"]
NIB = (60.0, 60.0)
LEAST = Faults(no_size=True, no_hover=True)  # what the device that reports least leaves out
# all that is drawn is in the middle of what hands do, but for what a stream is about
USUAL = Ranges(
    palm_scale=(1, 1), light_share=0, spots=(2, 2), parts_share=0, roll_mm=(0.8, 0.8), slow_share=0, late_ms=(20, 60)
)


def _before(g: Acts, before_ms: float, after_ms: float, *legs: Leg) -> tuple[float, tuple[float, float]]:
    at = resting(g, NIB)
    ends = g.write(before_ms, *NIB, "lamp")
    g.rests(0, ends + after_ms, at, legs)
    return ends, at


def _light_early(g: Acts) -> None:
    g.light = True
    _before(g, 2500, 80)


def _little_finger_back(g: Acts) -> None:
    g.light = True
    ends = g.write(300, *NIB, "lamp")
    again = ends + 900
    last = g.write(again, NIB[0] + 12, NIB[1] + 9, "wing")
    g.rests(0, last + 60, resting(g, NIB), [Leg(ends + 250, ends + 800, -22, 3)])


def _little_finger_gone(g: Acts) -> None:
    g.light = True
    ends = g.write(300, *NIB, "lamp")
    g.rests(0, ends + 1400, resting(g, NIB), [Leg(ends + 250, ends + 800, -22, 3)])


def _three_spots(g: Acts) -> None:
    ends = g.write(1300, *NIB, "lamp")
    g.rests(0, ends + 60, (NIB[0] + 36, NIB[1] - 12), spots_mm=(35, 35))


def _rim_thumb_then_scroll(g: Acts) -> None:
    ends, _ = _before(g, 300, 60)
    g.rim_thumb(0, ends + 2500)
    g.scroll(ends + 900, at=(130.0, 90.0))


def _close_pinch(g: Acts) -> None:
    ends, _ = _before(g, 300, 60)
    g.pinch(ends + 700, "near_mm", other=(120.0, 80.0))


def _thumb_scroll(g: Acts) -> None:
    ends, _ = _before(g, 300, 60)
    g.scroll(ends + 800, "thumb_mm", (130.0, 90.0))


def _other_hand_soon(g: Acts) -> None:
    ends = g.write(300, *NIB, "lamp")
    t = g.scroll(ends + 450, at=(28.0, 100.0))
    g.rests(150, t + 400, resting(g, NIB))


def _long_press(g: Acts) -> None:
    ends, _ = _before(g, 300, 60)
    g.ranges = dataclasses.replace(g.ranges, press_ms=(900, 900), wander_mm=(0.3, 0.3), finger_grow_ms=(120, 120))
    g.tap(ends + 900, at=(140.0, 40.0), lasts="press_ms")


def _parts_late(g: Acts) -> None:
    ends = g.write(300, *NIB, "lamp")
    at, parts = resting(g, NIB), ends + 1500
    g.rests(0, parts, at)
    for side in (-9.0, 9.0):
        g.palm_mm = HAND.palm_mm * 0.55
        g.rests(parts + 10, parts + 1200, (at[0] + side, at[1]), [Leg(parts + 200, parts + 700, side / 2, 0)])


def _two_finger_tap(g: Acts) -> None:
    ends, _ = _before(g, 300, 60)
    g.tap(ends + 900, 2, (120.0, 80.0))


def _set_down_anew(g: Acts) -> None:
    ends, at = _before(g, 300, 60)
    lands = ends + 700
    last = g.write(lands + 900, NIB[0] + 14, NIB[1] + 9, "wing")
    g.rests(lands, last + 80, (at[0] + 14, at[1] + 9))


# by file name: how it is made, and what it is drawn from where that is not the usual
STREAMS: Mapping[str, tuple[Callable[[Acts], None], dict[str, object]]] = {
    "light-hand-early": (_light_early, {"light_mm": (9, 11)}),
    "little-finger-back": (_little_finger_back, {"spots": (1, 1)}),
    "little-finger-gone": (_little_finger_gone, {"spots": (1, 1)}),
    "three-spots": (_three_spots, {"light_mm": (9, 11)}),
    "rim-thumb-then-scroll": (_rim_thumb_then_scroll, {"rim_mm": (14, 14), "thumb_mm": (14, 14)}),
    "close-pinch": (_close_pinch, {"near_mm": (14, 14), "grows_mm": (25, 25)}),
    "thumb-scroll": (_thumb_scroll, {"thumb_mm": (16, 16)}),
    "other-hand-soon": (_other_hand_soon, {}),
    "long-press": (_long_press, {}),
    "parts-late": (_parts_late, {}),
    "two-finger-tap": (_two_finger_tap, {"tap_ms": (110, 110)}),
    "set-down-anew": (_set_down_anew, {}),
}
NO_HOVER = ("little-finger-gone", "set-down-anew")


def make(name: str) -> tuple[Stream, Truth]:
    do, drawn_from = STREAMS[name]
    ranges = dataclasses.replace(USUAL, **drawn_from)  # type: ignore[arg-type]
    rng = np.random.default_rng([12, *name.encode()])
    g = Acts(HAND, TABLET, ranges, rng)
    do(g)
    return spoil(g.stream(), Faults(no_hover=name in NO_HOVER), rng)


def kept(name: str) -> tuple[Stream, Truth]:
    """The stream as it is kept."""
    screen, truth = read_truth((DATA / f"{name}.json").read_bytes())
    return make_stream(read_contacts((DATA / f"{name}.csv").read_bytes()), *screen), truth


def main() -> None:
    for name in STREAMS:
        stream, truth = make(name)
        (DATA / f"{name}.csv").write_bytes(write_contacts(stream.events))
        (DATA / f"{name}.json").write_text(json.dumps(truth_json(stream, truth)) + "\n")


if __name__ == "__main__":
    main()
