"""The simulated hand on the touch layer: palms, fingers and the nib of each drill, seeded, with what was meant.

A palm presses one to three patches that grow as they land, roll, and slide or hop after the nib; fingers press one
small one each.
"""

import dataclasses
from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.sampling import sample_motion
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import text_intents
from gray_quill.core.hand.motion import perform
from gray_quill.core.palm.contacts import Event, Gesture, Stream, Truth
from gray_quill.core.palm.zone import rest_place

Path = Callable[[Floats], tuple[Floats, Floats]]
WORDS = ("sedge", "moth", "lamp", "wing", "reed", "trap", "dusk", "hollow")
HOVER_HZ, HOVER_BEFORE_MS, HOVER_AFTER_MS = (
    60.0,
    220.0,
    180.0,
)  # common practice, no source: a pen is seen some 10 mm above the glass
GROW_MS = 55.0  # a palm's patch takes this long to reach its size
LANDED = 0.35  # of its size, as it lands
# A resting palm's patches: place from its middle and size, as shares of the palm's length; how often each is there.
PATCHES = (((0.0, 0.0), (1.0, 0.62), 1.0), ((-0.42, -0.5), (0.42, 0.36), 0.75), ((0.36, -0.42), (0.4, 0.33), 0.4))
EDGE_MM = 18.0  # meant gestures stay this far from the edge


class Glass:
    """What the device reports of one drill, gathered as it happens."""

    def __init__(self, hand: Hand, device: Device, rng: np.random.Generator) -> None:
        self.hand, self.device, self.rng = hand, device, rng
        self.width_mm, self.height_mm = (
            px / device.panel.ppi * 25.4 for px in (device.panel.width_px, device.panel.height_px)
        )
        self.events: list[Event] = []
        self.palms: set[int] = set()
        self.gestures: list[Gesture] = []
        self.seen: list[tuple[float, float]] = []  # spans in which the device sees the pen
        self._next = 1

    def touch(
        self,
        start_ms: float,
        end_ms: float,
        path: Path,
        size_mm: tuple[float, float],
        grow_ms: float = 0.0,
        landed: float = LANDED,
    ) -> int | None:
        """One contact along a path over ms since its start; returns its id, None where the device does not feel it.
        landed: the share of its size it has as it lands, before it grows.
        """
        layer, rng = self.device.touch, self.rng
        step = 1000 / layer.report_hz
        t = start_ms + rng.uniform(0, step) + np.arange(max(2, int((end_ms - start_ms) / step))) * step
        share = np.clip(landed + (1 - landed) * (t - start_ms) / grow_ms, 0, 1) if grow_ms else np.ones_like(t)
        felt = np.flatnonzero(max(size_mm) * share >= layer.least_mm)
        if not len(felt) or (layer.pen_first and any(a <= t[felt[0]] <= b for a, b in self.seen)):
            return None
        t, share = t[felt[0] :], share[felt[0] :]
        x, y = path(np.asarray(t - start_ms, np.float64))
        x, y = (v + rng.normal(0, layer.noise_mm, len(t)) for v in (x, y))
        noise = 1 + rng.normal(0, layer.size_noise, len(t))
        w, h = (s * share * noise if layer.size else np.zeros(len(t)) for s in size_mm)
        touch_id, self._next = self._next, self._next + 1
        for k in range(len(t)):
            phase = "down" if k == 0 else "up" if k == len(t) - 1 else "move"
            size = (float(max(0, w[k])), float(max(0, h[k])))
            self.events.append(
                Event(float(t[k]) + layer.transport_ms, "touch", touch_id, phase, float(x[k]), float(y[k]), *size)
            )
        return touch_id

    def write(
        self, start_ms: float, left_mm: float, baseline_mm: float, text: str, hovers_ms: float = HOVER_AFTER_MS
    ) -> float:
        """The nib writes a word and is seen for a while after; returns when it lifts for the last time, ms."""
        digitiser, rng = self.device.digitiser, self.rng
        motions = perform(self.hand, text_intents(text, self.hand, left_mm, baseline_mm, 200, rng), rng)
        pen: list[Event] = []
        end = start_ms
        for motion in motions:
            sampled = sample_motion(motion, digitiser, rng)
            if sampled is None:
                continue
            trace, first_s = sampled
            t = start_ms + 1000 * (motion.start_s + first_s + trace.t_s)
            if pen and digitiser.hover:
                pen += self._hover(
                    pen[-1].t_ms,
                    float(t[0]),
                    (pen[-1].x_mm, pen[-1].y_mm),
                    (float(trace.x_mm[0]), float(trace.y_mm[0])),
                )
            last = len(t) - 1
            pen += [
                Event(
                    float(t[k]),
                    "pen",
                    0,
                    "move" if k else "down",
                    float(trace.x_mm[k]),
                    float(trace.y_mm[k]),
                    force=float(trace.force[k]),
                )
                for k in range(last + 1)
            ]
            end = float(t[last]) + 1
            pen.append(Event(end, "pen", 0, "up", pen[-1].x_mm, pen[-1].y_mm))
        if digitiser.hover and pen:
            first, final = pen[0], pen[-1]
            pen = [
                *self._hover(
                    first.t_ms - HOVER_BEFORE_MS, first.t_ms, (first.x_mm - 6, first.y_mm - 4), (first.x_mm, first.y_mm)
                ),
                *pen,
            ]
            pen += self._hover(end, end + hovers_ms, (final.x_mm, final.y_mm), (final.x_mm + 5, final.y_mm + 8))
            pen.append(Event(end + hovers_ms, "pen", 0, "out", pen[-1].x_mm, pen[-1].y_mm))
        self.events += [dataclasses.replace(e, t_ms=e.t_ms + digitiser.transport_ms) for e in pen]
        if pen:
            self.seen.append((pen[0].t_ms, pen[-1].t_ms))
        return end

    def _hover(self, start_ms: float, end_ms: float, a: tuple[float, float], b: tuple[float, float]) -> list[Event]:
        count = int((end_ms - start_ms) * HOVER_HZ / 1000)
        shares = [(k + 0.5) / count for k in range(count)]
        return [
            Event(
                start_ms + s * (end_ms - start_ms),
                "pen",
                0,
                "hover",
                a[0] + (b[0] - a[0]) * s,
                a[1] + (b[1] - a[1]) * s,
            )
            for s in shares
        ]

    def palm(
        self, start_ms: float, end_ms: float, middle_mm: tuple[float, float], drift_mm: tuple[float, float] = (0.0, 0.0)
    ) -> None:
        """A palm rests, rolls and drifts; each patch is a contact."""
        rng, size = self.rng, self.hand.palm_mm
        mirror = 1 if self.hand.side == "right" else -1
        roll, phase = rng.uniform(0.4, 1.6), rng.uniform(0, 2 * np.pi)
        span = max(1.0, end_ms - start_ms)
        for k, ((px, py), (w, h), often) in enumerate(PATCHES):
            if k and rng.random() > often:
                continue
            x0, y0 = middle_mm[0] + mirror * px * size, middle_mm[1] + py * size

            def path(t: Floats, x0: float = x0, y0: float = y0) -> tuple[Floats, Floats]:
                sway = roll * np.sin(2 * np.pi * t / 900 + phase)
                return x0 + drift_mm[0] * t / span + sway, y0 + drift_mm[1] * t / span + 0.6 * sway

            late = float(rng.uniform(0, 70)) if k else 0.0
            grown = rng.uniform(0.85, 1.15)
            found = self.touch(
                start_ms + late, end_ms - float(rng.uniform(0, 60)), path, (w * size * grown, h * size * grown), GROW_MS
            )
            if found is not None:
                self.palms.add(found)

    def finger(self, start_ms: float, end_ms: float, a: tuple[float, float], b: tuple[float, float]) -> int | None:
        """A finger lands at a and goes to b, slow at both ends."""
        size = float(self.rng.uniform(7.5, 10.5))

        def path(t: Floats) -> tuple[Floats, Floats]:
            share = 0.5 - 0.5 * np.cos(np.pi * np.clip(t / (end_ms - start_ms), 0, 1))
            return a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share

        return self.touch(start_ms, end_ms, path, (size * 0.86, size))

    def meant(self, kind: str, found: Sequence[int | None]) -> None:
        self.gestures.append(Gesture(kind, tuple(i for i in found if i is not None)))

    def place(self) -> tuple[float, float]:
        """Somewhere a finger would go, off the edges."""
        return (
            float(self.rng.uniform(EDGE_MM + 12, self.width_mm - EDGE_MM - 12)),
            float(self.rng.uniform(EDGE_MM + 12, self.height_mm - EDGE_MM - 12)),
        )

    def within(self, x: float, y: float) -> tuple[float, float]:
        return float(np.clip(x, EDGE_MM, self.width_mm - EDGE_MM)), float(np.clip(y, EDGE_MM, self.height_mm - EDGE_MM))

    def stream(self) -> tuple[Stream, Truth]:
        """Everything in the order of its times, from 0 on."""
        first = min((e.t_ms for e in self.events), default=0.0)
        events = [dataclasses.replace(e, t_ms=e.t_ms - first) for e in sorted(self.events, key=lambda e: e.t_ms)]
        return Stream(tuple(events), self.width_mm, self.height_mm), Truth(frozenset(self.palms), tuple(self.gestures))


def start_place(glass: Glass) -> tuple[float, float]:
    """Where a word begins, so that the resting hand is on the glass."""
    dx, dy = rest_place(glass.hand)
    rng = glass.rng
    x = rng.uniform(0.18, 0.32) if dx > 0 else rng.uniform(0.45, 0.6)
    y = rng.uniform(0.25, 0.45) if dy > 0 else rng.uniform(0.5, 0.65)
    return float(x * glass.width_mm), float(y * glass.height_mm)


def resting(glass: Glass, nib: tuple[float, float]) -> tuple[float, float]:
    """Where the hand comes to rest for a nib here; never twice quite the same."""
    dx, dy = rest_place(glass.hand)
    return nib[0] + dx + float(glass.rng.normal(0, 3)), nib[1] + dy + float(glass.rng.normal(0, 3))


def a_word(glass: Glass) -> str:
    return str(glass.rng.choice(WORDS))
