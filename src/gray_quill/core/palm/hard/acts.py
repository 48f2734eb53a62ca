"""How a hand of the hard set lies on the glass and how its fingers move: drawn anew for every session."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.hard.ranges import Range, Ranges
from gray_quill.core.palm.sim import Glass, Path, a_word, resting

Place = tuple[float, float]
LEAST_PART_MS = 350.0  # a patch that is to part lies at least this long before and after


@dataclasses.dataclass(frozen=True)
class Leg:
    """A way the hand goes while it lies, from start to end."""

    start_ms: float
    end_ms: float
    dx_mm: float
    dy_mm: float


class Acts(Glass):
    """A hand and its device in one session; what is drawn once for the session is drawn here."""

    def __init__(self, hand: Hand, device: Device, ranges: Ranges, rng: np.random.Generator) -> None:
        super().__init__(hand, device, rng)
        self.ranges = ranges
        self.light = bool(rng.random() < ranges.light_share)
        self.palm_mm = hand.palm_mm * self.draw("palm_scale")
        self.slender = self.draw("slender")
        self.landed, self.grow_ms = self.draw("landed"), self.draw("grow_ms")
        self.roll_mm = self.draw("roll_mm")
        self.toward = 1 if hand.side == "right" else -1  # where the writing hand lies, seen from the nib

    def draw(self, name: str) -> float:
        return self.ranges.draw(self.rng, name)

    def chance(self, share: float) -> bool:
        return bool(self.rng.random() < share)

    # the resting hand

    def rests(
        self, start_ms: float, end_ms: float, at: Place, legs: Sequence[Leg] = (), spots_mm: Range | None = None
    ) -> None:
        """The hand lies from start to end, goes its legs, rolls, and may part in two. spots_mm: light spots this far
        apart in place of the hand's own patches.
        """
        rng = self.rng
        phase, period = rng.uniform(0, 2 * np.pi), rng.uniform(600, 1600)
        for k, (off, size) in enumerate(self._patches(spots_mm)):
            late = self.draw("late_ms") if k else 0.0
            early = float(rng.uniform(0, 90)) if k else 0.0
            place = (at[0] + off[0], at[1] + off[1])
            self._patch(start_ms + late, end_ms - early, place, size, legs, (phase + 0.4 * k, period), start_ms)

    def _patches(self, spots_mm: Range | None) -> list[tuple[Place, tuple[float, float]]]:
        rng = self.rng
        count = int(rng.integers(self.ranges.spots[0], self.ranges.spots[1] + 1))
        out: list[tuple[Place, tuple[float, float]]] = []
        if spots_mm or self.light:
            apart = spots_mm or (14.0, 34.0)
            angle = float(rng.uniform(0, np.pi))
            for k in range(3 if spots_mm else count):
                size, way = self.draw("light_mm"), k * float(rng.uniform(*apart))
                tilt = angle + float(rng.normal(0, 0.25))
                off = (float(way * np.cos(tilt) * self.toward), float(way * np.sin(tilt)))
                out.append((off, (size, size * float(rng.uniform(0.65, 1)))))
            return out
        sizes = [1.0, *(self.draw("spot_share") for _ in range(count - 1))]
        for k, share in enumerate(sizes):
            long = self.palm_mm * share
            dx, dy = (self.toward * rng.uniform(-0.6, 0.6), rng.uniform(-0.7, -0.3)) if k else (0.0, 0.0)
            along = rng.random() < 0.7
            shape = (long, long * self.slender) if along else (long * self.slender, long)
            out.append(((float(dx * self.palm_mm), float(dy * self.palm_mm)), shape))
        return out

    def _patch(
        self,
        start_ms: float,
        end_ms: float,
        at: Place,
        size: tuple[float, float],
        legs: Sequence[Leg],
        roll: tuple[float, float],
        clock_ms: float,
    ) -> None:
        """One patch, whole or parting in two and joining again."""
        rng = self.rng
        if end_ms - start_ms > 2.5 * LEAST_PART_MS and self.chance(self.ranges.parts_share):
            first = float(rng.uniform(start_ms + LEAST_PART_MS, end_ms - LEAST_PART_MS))
            last = min(end_ms, first + float(rng.uniform(250, 1500)))
            angle, half = rng.uniform(0, np.pi), 0.28 * max(size)
            cut = (size[0] * 0.58, size[1] * 0.8)
            spans = [(start_ms, first, at, size), (last + 15, end_ms, at, size)]
            for s in (-1, 1):
                off = (at[0] + s * half * np.cos(angle), at[1] + s * half * np.sin(angle))
                spans.append((first + float(rng.uniform(0, 40)), last - float(rng.uniform(0, 30)), off, cut))
        else:
            spans = [(start_ms, end_ms, at, size)]
        for k, (a, b, place, patch) in enumerate(spans):
            if b - a < 40:
                continue

            def path(t: Floats, a: float = a, place: Place = place) -> tuple[Floats, Floats]:
                now = t + a
                sway = self.roll_mm * np.sin(2 * np.pi * (now - clock_ms) / roll[1] + roll[0])
                x, y = place[0] + sway, place[1] + 0.6 * sway
                for leg in legs:
                    share = np.clip((now - leg.start_ms) / (leg.end_ms - leg.start_ms), 0, 1)
                    share = share * share * (3 - 2 * share)
                    x, y = x + leg.dx_mm * share, y + leg.dy_mm * share
                return x, y

            self._palm_contact(a, b, path, patch, place, 1.0 if k else self.landed)

    def _palm_contact(
        self, a: float, b: float, path: Path, size: tuple[float, float], at: Place, landed: float
    ) -> None:
        if not (0 <= at[0] <= self.width_mm and 0 <= at[1] <= self.height_mm):
            return  # beside the glass
        found = self.touch(a, b, path, size, self.grow_ms, landed)
        if found is not None:
            self.palms.add(found)

    def follows(self, start_ms: float, end_ms: float, path_mm: float) -> Leg:
        """The hand goes along with the line it writes."""
        return Leg(start_ms, end_ms, path_mm, 0.0)

    def slides(self, start_ms: float) -> Leg:
        """The hand slides somewhere while the nib is gone."""
        way, angle = self.draw("slide_mm"), self.rng.uniform(0, 2 * np.pi)
        return Leg(start_ms, start_ms + self.draw("slide_ms"), float(way * np.cos(angle)), float(way * np.sin(angle)))

    def rim_thumb(self, start_ms: float, end_ms: float) -> None:
        """The other hand's thumb holds the device."""
        rng, size = self.rng, self.draw("thumb_mm")
        x = self.draw("rim_mm")
        x = x if self.toward > 0 else self.width_mm - x
        y, sway = float(rng.uniform(0.25, 0.8) * self.height_mm), float(rng.uniform(0.2, 2.5))
        path = lambda t: (np.full(len(t), x), y + sway * np.sin(t / 420))  # noqa: E731
        self._palm_contact(start_ms, end_ms, path, (size * self.draw("finger_slender"), size), (x, y), 0.7)

    # fingers that are meant

    def strokes(
        self, kind: str, start_ms: float, lasts_ms: float, ways: Sequence[tuple[Place, Place]], size: str = "tip_mm"
    ) -> float:
        """Fingers go their ways together, each landing a little apart; some start slowly. Returns when they are up."""
        slow = self.draw("slow_ms") if self.chance(self.ranges.slow_share) else 0.0
        found = []
        for k, (a, b) in enumerate(ways):
            begins = start_ms + (self.draw("apart_ms") if k else 0.0)
            found.append(self._finger(begins, start_ms + slow + lasts_ms, a, b, size, slow))
        self.meant(kind, found)
        return start_ms + slow + lasts_ms

    def _finger(self, start_ms: float, end_ms: float, a: Place, b: Place, size: str, slow_ms: float) -> int | None:
        rng, long = self.rng, self.draw(size)
        wander, phase = self.draw("wander_mm"), rng.uniform(0, 2 * np.pi, 2)
        lasts = max(1.0, end_ms - start_ms - slow_ms)

        def path(t: Floats) -> tuple[Floats, Floats]:
            share = 0.5 - 0.5 * np.cos(np.pi * np.clip((t - slow_ms) / lasts, 0, 1))
            creep = np.minimum(t, slow_ms) / max(slow_ms, 1.0) * 0.02
            share = np.clip(share + creep * (1 - share), 0, 1)
            return (
                a[0] + (b[0] - a[0]) * share + wander * np.sin(t / 210 + phase[0]),
                a[1] + (b[1] - a[1]) * share + wander * np.sin(t / 170 + phase[1]),
            )

        short = long * self.draw("finger_slender")
        return self.touch(
            start_ms, end_ms, path, (short, long), self.draw("finger_grow_ms"), self.draw("finger_landed")
        )

    def pinch(self, start_ms: float, near: str, kind: str = "zoom", other: Place | None = None) -> float:
        """Two fingers part or come together."""
        rng = self.rng
        x, y = other or self.place()
        angle, near_mm = rng.uniform(0, np.pi), self.draw(near)
        far_mm = near_mm + self.draw("grows_mm")
        first, last = (near_mm, far_mm) if self.chance(0.6) else (far_mm, near_mm)
        ways = []
        for s in (-0.5, 0.5):
            a, b = (self.within(x + s * r * np.cos(angle), y + s * r * np.sin(angle)) for r in (first, last))
            ways.append((a, b))
        return self.strokes(kind, start_ms, self.draw("pinch_ms"), ways)

    def scroll(self, start_ms: float, size: str = "tip_mm", at: Place | None = None, fingers: int = 1) -> float:
        """One finger or two move the page."""
        rng = self.rng
        x, y = at or self.place()
        way, across = self.draw("scroll_mm") * rng.choice((-1, 1)), float(rng.normal(0, 4))
        if self.chance(0.2):
            across, way = float(way), across
        apart = [k * float(rng.uniform(15, 26)) for k in range(fingers)]
        ways = [(self.within(x + d, y), self.within(x + d + across, y + float(way))) for d in apart]
        return self.strokes("scroll", start_ms, self.draw("scroll_ms"), ways, size)

    def tap(self, start_ms: float, fingers: int = 1, at: Place | None = None, lasts: str = "tap_ms") -> float:
        """A tap, or a press where it lasts."""
        x, y = at or self.place()
        apart = [k * float(self.rng.uniform(14, 28)) for k in range(fingers)]
        kind = "press" if lasts == "press_ms" else "tap"
        found = []
        ends = start_ms + self.draw(lasts)
        for k, d in enumerate(apart):
            a = self.within(x + d, y + 0.3 * d)
            begins = start_ms + (min(30.0, self.draw("apart_ms")) if k else 0.0)
            b = (a[0] + float(self.rng.normal(0, 0.25)), a[1] + float(self.rng.normal(0, 0.25)))
            found.append(self._finger(begins, ends, a, b, "tip_mm", 0.0))
        self.meant(kind, found)
        return ends

    def beside(self, palm: Place) -> Place:
        """Where the other hand would put a finger while this one rests."""
        rng = self.rng
        x = palm[0] - self.toward * float(rng.uniform(55, 110))
        return self.within(x, float(rng.uniform(0.25, 0.8)) * self.height_mm)

    def word_and_hand(self, start_ms: float, nib: Place, before_ms: float, after_ms: float) -> tuple[float, Place]:
        """A word with the hand down from before_ms ahead of the nib until after_ms after it; when the nib lifts, and
        where the hand lay.
        """
        at = resting(self, nib)
        ends = self.write(start_ms, *nib, a_word(self))
        legs = [self.follows(start_ms, ends, float(self.rng.uniform(3, 12)))]
        self.rests(start_ms - before_ms, ends + after_ms, at, legs)
        return ends, at
