"""The drills: what each asks for, what is meant by it, and how the simulated hand does it."""

import dataclasses
from collections.abc import Callable, Sequence
from functools import lru_cache

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import unknown_choice
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import Event, Gesture, Stream, Truth
from gray_quill.core.palm.sim import Glass, a_word, resting, start_place

PAUSE_MS = (1250.0, 1900.0)  # from the nib's last lift to a finger that is meant
BETWEEN_MS = 12_000.0  # a pause long enough that no rule looks across it


@dataclasses.dataclass(frozen=True)
class Drill:
    """meant: the gesture that is asked for, empty where every touch is a palm. asks: how many of them."""

    name: str
    ask: str
    meant: str
    asks: int
    do: Callable[[Glass], None]


@lru_cache(maxsize=64)  # the same drill is judged again at every change of a rule
def simulate(hand: Hand, device: Device, drill: str, seed: int) -> tuple[Stream, Truth]:
    """The simulated hand does a drill on a device."""
    if drill not in DRILLS:
        raise unknown_choice("The drill", drill, DRILLS, "drill")
    glass = Glass(hand, device, np.random.default_rng([seed, *drill.encode()]))
    DRILLS[drill].do(glass)
    return glass.stream()


def join(parts: Sequence[tuple[Stream, Truth]]) -> tuple[Stream, Truth]:
    """Streams one after the other, BETWEEN_MS apart, with ids of their own."""
    events: list[Event] = []
    palms: set[int] = set()
    gestures: list[Gesture] = []
    clock, first = 0.0, 0
    for stream, truth in parts:
        events += [
            dataclasses.replace(e, t_ms=e.t_ms + clock, id=e.id + first if e.pointer == "touch" else e.id)
            for e in stream.events
        ]
        palms |= {i + first for i in truth.palms}
        gestures += [Gesture(g.kind, tuple(i + first for i in g.ids)) for g in truth.gestures]
        clock = (events[-1].t_ms if events else 0.0) + BETWEEN_MS
        first = max([first, *(e.id for e in events if e.pointer == "touch")])
    return Stream(tuple(events), parts[0][0].width_mm, parts[0][0].height_mm), Truth(frozenset(palms), tuple(gestures))


def intended(drill: str, stream: Stream) -> Truth:
    """What is true of a real hand's stream, from what the drill asks for: all palms, or all fingers of the gesture that
    was meant.

    In drills of two fingers, touches that are down together belong to one gesture.
    """
    if drill not in DRILLS:
        raise unknown_choice("The drill", drill, DRILLS, "drill")
    meant = DRILLS[drill].meant
    nib_down, palms = False, set()
    spans: dict[int, tuple[float, float]] = {}
    for e in stream.events:
        if e.pointer == "pen":
            nib_down = e.phase in ("down", "move")
        elif e.phase == "down":
            spans[e.id] = (e.t_ms, np.inf)
            if nib_down:
                palms.add(e.id)
        elif e.phase in ("up", "cancel"):
            spans[e.id] = (spans[e.id][0], e.t_ms)
        if nib_down:  # whatever is down while the nib writes rests there
            palms.update(i for i, (_, end) in spans.items() if end == np.inf)
    if not meant:
        return Truth(frozenset(spans))
    gestures: list[list[int]] = []
    reach = -np.inf
    for i, (start, end) in spans.items():
        if i in palms:
            continue
        if meant == "zoom" and gestures and start <= reach:
            gestures[-1].append(i)
        else:
            gestures.append([i])
        reach = max(reach, end)
    return Truth(frozenset(palms), tuple(Gesture(meant, tuple(g)) for g in gestures))


def _palm_first(g: Glass) -> None:
    t = 0.0
    for _ in range(2):
        nib = start_place(g)
        lands = t + g.rng.uniform(0, 80)
        starts = lands + g.rng.uniform(260, 700)
        ends = g.write(starts, *nib, a_word(g))
        g.palm(lands, ends + g.rng.uniform(40, 160), resting(g, nib), (float(g.rng.uniform(4, 12)), 0))
        t = ends + 900


def _palm_slides(g: Glass) -> None:
    nib = start_place(g)
    ends = g.write(420, *nib, a_word(g) + " " + a_word(g))
    at = resting(g, nib)
    cuts = np.linspace(0, ends, 4)
    for k in range(3):  # it slides, hops and slides on
        way = g.rng.uniform(8, 16)
        g.palm(
            float(cuts[k]) + (35 if k else 0),
            float(cuts[k + 1]),
            (at[0] + k * 12, at[1]),
            (float(way), float(g.rng.uniform(-2, 2))),
        )


def _second_palm(g: Glass) -> None:
    nib = start_place(g)
    at = resting(g, nib)
    ends = g.write(450, *nib, a_word(g) + " " + a_word(g))
    g.palm(0, ends + 80, at, (10, 0))
    side = -1 if g.hand.side == "right" else 1
    other = g.within(nib[0] + side * g.rng.uniform(30, 50), nib[1] + g.rng.uniform(10, 60))
    lands = g.rng.uniform(500, 900)
    g.palm(float(lands), float(lands + g.rng.uniform(600, 1200)), other)


def _thumb(g: Glass) -> None:
    nib = start_place(g)
    ends = g.write(1500, *nib, a_word(g))
    x = 4.0 if g.hand.side == "right" else g.width_mm - 4.0
    y = float(g.rng.uniform(0.3, 0.7) * g.height_mm)
    size = float(g.rng.uniform(10, 14))
    sway = float(g.rng.uniform(0.5, 2.5))
    thumb = g.touch(0, ends + 300, lambda t: (np.full(len(t), x), y + sway * np.sin(t / 350)), (size * 0.5, size))
    if thumb is not None:
        g.palms.add(thumb)
    g.palm(1100, ends + 60, resting(g, nib))


def _brush(g: Glass) -> None:
    nib = start_place(g)
    ends = g.write(400, *nib, a_word(g))
    g.palm(0, ends, resting(g, nib))
    t = ends + float(g.rng.uniform(120, 420))
    left, size = g.width_mm * 0.2, g.hand.palm_mm
    way = float(g.rng.uniform(40, 70))
    for k in range(1 + int(g.rng.random() < 0.6)):
        y = 9.0 + 12.0 * k
        found = g.touch(
            t + 20 * k,
            t + 20 * k + 260,
            lambda s, y=y: (left + way * s / 260, np.full(len(s), y)),  # type: ignore[misc]
            (size * 0.5, size * 0.36),
            30,
        )  # type: ignore[misc]
        if found is not None:
            g.palms.add(found)


def _rest(g: Glass) -> None:
    nib = start_place(g)
    ends = g.write(450, *nib, a_word(g))
    at = resting(g, nib)
    g.palm(0, ends, at)
    t = ends + float(g.rng.uniform(150, 400))
    for _ in range(3):
        hold = float(g.rng.uniform(500, 1100))
        off, drift = g.rng.normal(0, 4, 2), g.rng.normal(0, 5, 2)
        g.palm(t, t + hold, (at[0] + float(off[0]), at[1] + float(off[1])), (float(drift[0]), float(drift[1])))
        t += hold + float(g.rng.uniform(120, 300))


def _word_before(g: Glass) -> float:
    """The hand writes a word and goes; returns when a meant finger may land."""
    nib = start_place(g)
    ends = g.write(420, *nib, a_word(g))
    g.palm(0, ends + 50, resting(g, nib))
    return ends + float(g.rng.uniform(*PAUSE_MS))


def _zoom(g: Glass) -> None:
    t = _word_before(g)
    for _ in range(3):
        x, y = g.place()
        angle, lasts = g.rng.uniform(0, np.pi), float(g.rng.uniform(450, 750))
        near = float(g.rng.uniform(17, 26))
        far = near + float(g.rng.uniform(10, 22))
        first, last = (near, far) if g.rng.random() < 0.5 else (far, near)
        ends = [g.within(x + s * r * np.cos(angle), y + s * r * np.sin(angle)) for s in (-1, 1) for r in (first, last)]
        g.meant(
            "zoom",
            [g.finger(t + float(g.rng.uniform(0, 45)), t + lasts, ends[2 * k], ends[2 * k + 1]) for k in range(2)],
        )
        t += lasts + float(g.rng.uniform(400, 800))


def _scroll(g: Glass) -> None:
    t = _word_before(g)
    for _ in range(3):
        x, y = g.place()
        lasts, way = float(g.rng.uniform(260, 520)), g.rng.uniform(25, 60) * g.rng.choice((-1, 1))
        g.meant("scroll", [g.finger(t, t + lasts, (x, y), g.within(x + float(g.rng.normal(0, 4)), y + float(way)))])
        t += lasts + float(g.rng.uniform(400, 800))


def _tap(g: Glass) -> None:
    t = _word_before(g)
    for _ in range(3):
        x, y = g.place()
        lasts = float(g.rng.uniform(70, 150))
        g.meant("tap", [g.finger(t, t + lasts, (x, y), (x + 0.3, y))])
        t += lasts + float(g.rng.uniform(450, 900))


DRILLS = {
    d.name: d
    for d in (
        Drill("palm first", "Put your hand down as on paper, then write a word. Do it twice.", "", 0, _palm_first),
        Drill("palm slides", "Write two words and let your hand slide along on the glass.", "", 0, _palm_slides),
        Drill("second palm", "While you write, put your other hand on the glass too.", "", 0, _second_palm),
        Drill(
            "thumb on the edge",
            "Hold the device with your thumb on the edge of the glass, and write a word.",
            "",
            0,
            _thumb,
        ),
        Drill(
            "brush the tools",
            "Write a word, then reach across so that your hand brushes the top of the screen.",
            "",
            0,
            _brush,
        ),
        Drill(
            "rest", "Write a word, then rest your hand on the glass without writing and shift it about.", "", 0, _rest
        ),
        Drill(
            "two-finger zoom",
            "Write a word, take your hand off, and zoom with two fingers, three times.",
            "zoom",
            3,
            _zoom,
        ),
        Drill(
            "one-finger scroll",
            "Write a word, take your hand off, and move the page with one finger, three times.",
            "scroll",
            3,
            _scroll,
        ),
        Drill("finger tap", "Write a word, take your hand off, and tap with one finger, three times.", "tap", 3, _tap),
    )
}
