"""A page on a panel in time: what appears while the pen moves, what waits, and what stays behind.

Every pixel goes from the tone it had to the tone it is driven to: evenly over an update's time on e-paper,
exponentially on panels that make their own light (ten to ninety percent of the way in the panel's response). An e-paper
update leaves a share of the change undone, more where a pixel grows lighter: a ghost, which a clearing (to black, to
white, to the picture) takes away. Only boxes that change are computed.
"""

import dataclasses
from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import Panel, Updates
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View
from gray_quill.core.panel.proof import PLAIN, Toning, check_size, on_panel
from gray_quill.core.paper import Paper

Grey = NDArray[np.uint8]
Box = tuple[int, int, int, int]  # left, top, right, bottom in px
FAST, GREY, CLEAR = "fast", "grey", "clear"
TEN_TO_NINETY = float(np.log(9))  # in time constants
TWO_TONES = 128  # the fast path's black is every tone under it
SETTLED = 8.0  # time constants after which nothing of a change is left to see


@dataclasses.dataclass(frozen=True)
class Update:
    """One change of a part of the picture: when it begins, how long it takes, of which sort it is, and where."""

    at_s: float
    lasts_s: float
    mode: str
    box: Box


@dataclasses.dataclass(frozen=True, eq=False)
class Writing:
    """Strokes of one pen in time: each stroke's ink, and when it begins. erased: when strokes, by their places, go."""

    inks: Sequence[Ink]
    starts_s: Sequence[float]
    erased: Sequence[tuple[float, int]] = ()

    def ends_s(self) -> float:
        """When the last stroke is written, or erased."""
        written = [start + float(ink.t_s[-1]) for ink, start in zip(self.inks, self.starts_s, strict=True)]
        return max([*written, *(t for t, _ in self.erased)], default=0.0)

    def until(self, t_s: float) -> list[Ink]:
        """The ink there is at a moment."""
        gone = {k for at, k in self.erased if at <= t_s}
        pairs = enumerate(zip(self.inks, self.starts_s, strict=True))
        return [part for k, (ink, start) in pairs if k not in gone and (part := _until(ink, t_s - start))]


class Glass:
    """What a panel's pixels show: each on its way from one tone to another, encoded 0..255."""

    def __init__(self, picture: Grey, exponential: bool) -> None:
        self.exponential = exponential
        shape = picture.shape
        self._from, self._to = picture.astype(np.float32), picture.astype(np.float32)
        self._at, self._lasts = np.zeros(shape, np.float32), np.full(shape, 1e-6, np.float32)

    def shown(self, t_s: float, box: Box | None = None) -> NDArray[np.float32]:
        """Tones at a moment, in a box or everywhere."""
        here = _slices(box) if box else (slice(None), slice(None))
        gone = np.maximum(t_s - self._at[here], 0) / self._lasts[here]
        left = np.exp(-TEN_TO_NINETY * gone) if self.exponential else np.maximum(1 - gone, 0)
        return np.asarray(self._to[here] + (self._from[here] - self._to[here]) * left, np.float32)

    def drive(
        self, box: Box, driven: NDArray[np.float32], t_s: float, lasts_s: float, ghost: float = 0, lighter: float = 1
    ) -> None:
        """From a moment on a box goes to some tones, but for its ghost; NaN where a pixel is left alone."""
        here, now = _slices(box), self.shown(t_s, box)
        kept = np.where(driven > now, np.minimum(ghost * lighter, 1.0), ghost)
        to = np.where(np.isnan(driven), self._to[here], driven + kept * (now - driven))
        moved = ~np.isnan(driven)
        self._from[here] = np.where(moved, now, self._from[here])
        self._to[here] = to
        self._at[here] = np.where(moved, t_s, self._at[here])
        self._lasts[here] = np.where(moved, max(lasts_s, 1e-6), self._lasts[here])


class InTime:
    """A writing on a panel, moment by moment. late_s: from the nib to what the panel is told."""

    def __init__(
        self,
        writing: Writing,
        paper: Paper,
        view: View,
        panel: Panel,
        updates: Updates,
        late_s: float = 0.0,
        fast: bool = True,
        toning: Toning = PLAIN,
    ) -> None:
        check_size(view)
        self.writing, self.paper, self.view, self.panel, self.sort = writing, paper, view, panel, updates
        self.late_s, self.toning = late_s, toning
        self.of_paper = panel.technology == "e-paper"
        self.fast = fast and panel.fast_pen and self.of_paper
        self._picture = self.target(self.whole(), -1.0)
        self._moving: list[tuple[float, Box]] = []  # until when something changes, and where
        self.glass = Glass(self._picture, not self.of_paper)
        self.log: list[Update] = []
        self._since_clear, self._dirty = 0, None  # type: tuple[int, Box | None]
        self._busy_until = 0.0
        self._waiting: list[tuple[float, float, NDArray[np.float32]]] = []  # when, how long, to which tones: a blink's

    def lasts_s(self) -> float:
        """From the first stroke until nothing changes any more."""
        settle = SETTLED * self.panel.response_ms / 1000 / TEN_TO_NINETY
        after = self.panel.catch_up_ms / 1000 + (self.sort.grey_ms + self.sort.clear_ms) / 1000
        return self.writing.ends_s() + self.late_s + (after + 0.2 if self.of_paper else settle)

    def play(self, frames_hz: float) -> Iterator[tuple[float, Grey]]:
        """Pictures of the panel, so many a second, with their moments."""
        rate = self.panel.fast_pen_hz if self.fast else self.panel.refresh_hz
        end, tick, frame = self.lasts_s(), 0, 0
        last = -1.0
        while frame / frames_hz <= end:
            while tick / rate <= frame / frames_hz:
                self._tick(last, tick / rate)
                last, tick = tick / rate, tick + 1
            moment = frame / frames_hz
            yield moment, self.at(moment)
            frame += 1

    def at(self, moment_s: float) -> Grey:
        """What the panel shows at a moment that is not before the last one asked for: the one picture, going on."""
        self._blink(moment_s)
        for _, box in self._moving:
            self._picture[_slices(box)] = np.clip(np.round(self.glass.shown(moment_s, box)), 0, 255)
        self._moving = [(until, box) for until, box in self._moving if until > moment_s]
        return self._picture

    def _drive(self, box: Box, driven: NDArray[np.float32], at_s: float, lasts_s: float, *leaves: float) -> None:
        self.glass.drive(box, driven, at_s, lasts_s, *leaves)
        settles = SETTLED / TEN_TO_NINETY if self.glass.exponential else 1.0
        self._moving.append((at_s + settles * lasts_s, box))

    def _tick(self, before_s: float, now_s: float) -> None:
        """What the panel begins at one of its own moments."""
        self._blink(now_s)
        told, told_before = now_s - self.late_s, before_s - self.late_s
        written = self._box_between(told_before, told)
        erased = [k for at, k in self.writing.erased if told_before < at <= told]
        for k in erased:
            self._grey(now_s, self.box_of(self.writing.inks[k], slice(None)), told)
        if written and self.fast:
            self._ink_at_once(now_s, written, told)
        elif written:
            self._grey(now_s, written, told)
        last_pen = max((s + float(i.t_s[-1]) for i, s in self._begun(told)), default=-np.inf)
        if self._dirty and min(told, now_s) - min(last_pen, told) >= self.panel.catch_up_ms / 1000:
            box, self._dirty = self._dirty, None
            self._grey(now_s, box, told)
        if self._since_clear >= self.sort.clears_after > 0 and now_s >= self._busy_until and not self._dirty:
            self.clear(now_s, told)

    def clear(self, now_s: float, told_s: float) -> None:
        """The whole picture goes black, white, and comes anew without its ghosts."""
        whole, third = self.whole(), self.sort.clear_ms / 3000
        picture = self.target(whole, told_s).astype(np.float32)
        for k, tones in enumerate((np.zeros_like(picture), np.full_like(picture, 255), picture)):
            self._waiting.append((now_s + k * third, third, tones))
        self.log.append(Update(now_s, 3 * third, CLEAR, whole))
        self._since_clear, self._busy_until = 0, now_s + 3 * third

    def _blink(self, now_s: float) -> None:
        while self._waiting and self._waiting[0][0] <= now_s:
            at_s, lasts_s, tones = self._waiting.pop(0)
            self._drive(self.whole(), tones, at_s, lasts_s)

    def _ink_at_once(self, now_s: float, box: Box, told_s: float) -> None:
        black = self.target(box, told_s) < TWO_TONES
        driven = np.where(black, np.float32(0), np.float32(np.nan))
        lasts = self.sort.fast_ms / 1000
        self._drive(box, driven, now_s, lasts, self.sort.fast_ghost)
        self.log.append(Update(now_s, lasts, FAST, box))
        self._dirty = _joined(self._dirty, box)

    def _grey(self, now_s: float, box: Box, told_s: float) -> None:
        tones = self.target(box, told_s).astype(np.float32)
        if self.of_paper:
            lasts = self.sort.grey_ms / 1000
            self._drive(box, tones, now_s, lasts, self.sort.grey_ghost, self.sort.lighter)
            self._since_clear += 1
        else:
            lasts = self.panel.response_ms / 1000
            self._drive(box, tones, now_s, lasts)
        self.log.append(Update(now_s, lasts, GREY, box))
        self._busy_until = max(self._busy_until, now_s + lasts)

    def target(self, box: Box, told_s: float) -> Grey:
        """What a box shall show at a moment, in the panel's tones."""
        return self.of_ink(box, self.writing.until(told_s) if told_s >= 0 else [])

    def of_ink(self, box: Box, inks: Sequence[Ink]) -> Grey:
        """Some ink on the paper, in the panel's tones."""
        left, top, right, bottom = box
        scale = self.view.px_per_mm
        part = View(self.view.left_mm + left / scale, self.view.top_mm + top / scale, scale, right - left, bottom - top)
        return to_grey8(on_panel(page_pixels(inks, self.paper, part), self.panel, self.toning, self.paper.colour))

    def whole(self) -> Box:
        return 0, 0, self.view.width_px, self.view.height_px

    def _begun(self, told_s: float) -> list[tuple[Ink, float]]:
        pairs = zip(self.writing.inks, self.writing.starts_s, strict=True)
        return [(ink, start) for ink, start in pairs if start <= told_s]

    def _box_between(self, before_s: float, now_s: float) -> Box | None:
        """Where ink was written between two moments."""
        found: Box | None = None
        for ink, start in self._begun(now_s):
            first = int(np.searchsorted(ink.t_s, before_s - start, side="right"))
            end = int(np.searchsorted(ink.t_s, now_s - start, side="right"))
            if first < end:
                found = _joined(found, self.box_of(ink, slice(max(0, first - 1), end)))
        return found

    def box_of(self, ink: Ink, part: slice) -> Box:
        scale, view = self.view.px_per_mm, self.view
        reach = float(ink.long_mm[part].max()) * 0.75 + 2 / scale
        x, y = ink.x_mm[part], ink.y_mm[part]
        ends: Floats = np.array([x.min() - reach, y.min() - reach, x.max() + reach, y.max() + reach])
        left, top = np.floor((ends[:2] - (view.left_mm, view.top_mm)) * scale)
        right, bottom = np.ceil((ends[2:] - (view.left_mm, view.top_mm)) * scale)
        across = np.clip((left, right - 1), 0, view.width_px - 1)
        down = np.clip((top, bottom - 1), 0, view.height_px - 1)
        return int(across[0]), int(down[0]), int(across[1]) + 1, int(down[1]) + 1


def _until(ink: Ink, t_s: float) -> Ink | None:
    """What of a stroke is written so long after its start."""
    n = int(np.searchsorted(ink.t_s, t_s, side="right"))
    if n == 0:
        return None
    if n == len(ink.t_s):
        return ink
    pieces = np.append(ink.pieces[ink.pieces < n], n)
    columns = ("x_mm", "y_mm", "long_mm", "short_mm", "angle", "opacity", "at", "t_s")
    return dataclasses.replace(ink, pieces=pieces, **{c: getattr(ink, c)[:n] for c in columns})


def _joined(one: Box | None, other: Box) -> Box:
    if one is None:
        return other
    return min(one[0], other[0]), min(one[1], other[1]), max(one[2], other[2]), max(one[3], other[3])


def _slices(box: Box) -> tuple[slice, slice]:
    return slice(box[1], box[3]), slice(box[0], box[2])
