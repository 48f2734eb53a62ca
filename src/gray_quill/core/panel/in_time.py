"""A page on a panel in time: what appears while the pen moves, what waits, and what stays behind.

Panels that make their own light change at every refresh. E-paper puts ink of two tones down at once where it has a fast
path for the pen; all else it shows by updates in greys, whose depth and time differ, each of which leaves a share of
the change undone, more where a pixel grows lighter: a ghost, which a clearing (to black, to white, to the picture)
takes away. Only boxes that change are computed.
"""

import dataclasses
from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import Panel, Updates
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View
from gray_quill.core.panel.colour_filter import is_filtered, shared_px
from gray_quill.core.panel.dither import KERNELS
from gray_quill.core.panel.glass import SETTLED, TEN_TO_NINETY, Box, Glass, Tones, joined, slices
from gray_quill.core.panel.proof import PLAIN, Toning, check_size, on_panel
from gray_quill.core.panel.writing import Writing
from gray_quill.core.paper import Paper

Picture = NDArray[np.uint8]  # (h, w) in greys, (h, w, 3) in colours
FAST, GREY, FULL, CLEAR = "fast", "grey", "full", "clear"
TWO_TONES = 128  # the fast path's black is every tone under it
GRID_PX = 192  # a multiple of the period of every dither that has one, and of squares that share a colour


@dataclasses.dataclass(frozen=True)
class Update:
    """One change of a part of the picture: when it begins, how long it takes, of which sort it is, and where."""

    at_s: float
    lasts_s: float
    mode: str
    box: Box


def toned_in_time(toning: Toning) -> Toning:
    """How a picture that comes in parts is toned: diffused error would depend on where a part begins."""
    return dataclasses.replace(toning, dither="ordered") if toning.dither in KERNELS else toning


class InTime:
    """A writing on a panel, moment by moment. late_s: from the nib to what the panel is told. fast: whether the fast
    path may take the ink, of all strokes or of each.
    """

    def __init__(
        self,
        writing: Writing,
        paper: Paper,
        view: View,
        panel: Panel,
        updates: Updates,
        late_s: float = 0.0,
        fast: bool | Sequence[bool] = True,
        toning: Toning = PLAIN,
    ) -> None:
        check_size(view)
        self.writing, self.paper, self.view, self.panel, self.sort = writing, paper, view, panel, updates
        self.late_s, self.toning = late_s, toned_in_time(toning)
        self.of_paper = panel.technology == "e-paper"
        quick = [fast] * len(writing.inks) if isinstance(fast, bool) else list(fast)
        self._quick = [q and panel.fast_pen and self.of_paper for q in quick]
        self.shallow = self.of_paper and updates.quick_greys < (self.toning.greys or panel.greys)
        self._tall: tuple[tuple[int, ...], Pixels] | None = None
        self._picture = self.target(self.whole(), -1.0)
        self._moving: list[tuple[float, Box]] = []  # until when something changes, and where
        self.glass = Glass(self._picture, not self.of_paper)
        self.log: list[Update] = []
        self._inked = np.zeros(self._picture.shape[:2], bool)  # made black by the fast path
        self._since_clear = 0
        self._dirty: Box | None = None  # shown in two tones only
        self._coarse: Box | None = None  # shown in few greys only
        self._owed: Box | None = None  # changed, and not yet shown in any way
        self._whole_owed = False  # the page moves under a finger
        self._busy_until = self._next_grey = self._still_since = 0.0
        self._waiting: list[tuple[float, float, Tones]] = []  # when, how long, to which tones: a blink's

    def lasts_s(self) -> float:
        """From the first stroke until nothing changes any more."""
        sort, pause = self.sort, self.panel.catch_up_ms * (1 + self.shallow)
        after = pause + sort.grey_ms + sort.full_ms + sort.clear_ms + 200
        settle = SETTLED * self.panel.response_ms / TEN_TO_NINETY
        waits = 2000 / self.panel.refresh_hz
        return self.writing.ends_s() + self.late_s + (waits + (after if self.of_paper else settle + 40)) / 1000

    def play(self, frames_hz: float) -> Iterator[tuple[float, Picture]]:
        """Pictures of the panel, so many a second, with their moments."""
        for moment, picture, _ in self.play_boxes(frames_hz):
            yield moment, picture

    def play_boxes(self, frames_hz: float) -> Iterator[tuple[float, Picture, list[Box]]]:
        """The same, with where each differs from the one before it."""
        fast_pen = self.of_paper and self.panel.fast_pen
        rate = self.panel.fast_pen_hz if fast_pen else self.panel.refresh_hz
        end, tick, frame, last = self.lasts_s(), 0, 0, -1.0
        while frame / frames_hz <= end:
            while tick / rate <= frame / frames_hz:
                self._tick(last, tick / rate)
                last, tick = tick / rate, tick + 1
            moment = frame / frames_hz
            self._blink(moment)
            moved = [box for _, box in self._moving]
            yield moment, self.at(moment), moved
            frame += 1

    def at(self, moment_s: float) -> Picture:
        """What the panel shows at a moment that is not before the last one asked for: the one picture, going on."""
        self._blink(moment_s)
        for _, box in self._moving:
            self._picture[slices(box)] = np.clip(np.round(self.glass.shown(moment_s, box)), 0, 255)
        self._moving = [(until, box) for until, box in self._moving if until > moment_s]
        return self._picture

    def _drive(self, box: Box, driven: Tones, at_s: float, lasts_s: float, *leaves: float) -> None:
        self._inked[slices(box)] = False
        self.glass.drive(box, driven, at_s, lasts_s, *leaves)
        self._moving.append((at_s + self.glass.settles_s(lasts_s), box))

    def _tick(self, before_s: float, now_s: float) -> None:
        """What the panel begins at one of its own moments."""
        self._blink(now_s)
        told, told_before = now_s - self.late_s, before_s - self.late_s
        if self.writing.page(told) != self.writing.page(told_before):
            self._turn(now_s, told)
        elif self.writing.shift_mm(told) != self.writing.shift_mm(told_before):
            self._whole_owed, self._still_since = True, now_s
        for k in self.erased_between(told_before, told):
            self._owed = joined(self._owed, self.box_of(self.writing.inks[k], slice(None), told))
        quick, slow = self._boxes_between(told_before, told)
        if quick:
            self._ink_at_once(now_s, quick, told)
        self._owed = joined(self._owed, slow)
        if quick or slow:
            self._still_since = now_s
        if self._whole_owed and now_s >= self._busy_until:
            self._scroll(now_s, told)
        if self._owed and now_s >= self._next_grey:
            box, self._owed = self._owed, None
            self._grey(now_s, box, told)
            self._next_grey = now_s + 1 / self.panel.refresh_hz - 1e-9
        if not self.of_paper:
            return
        rests = self._rests_s(now_s, told)
        if self._dirty and rests >= self.panel.catch_up_ms / 1000:
            box, self._dirty = self._dirty, None
            self._grey(now_s, box, told)
        if self._coarse and not self._dirty and rests >= 2 * self.panel.catch_up_ms / 1000 and now_s > self._busy_until:
            box, self._coarse = self._coarse, None
            self._full(now_s, box, told)
        if self._since_clear >= self.sort.clears_after > 0 and now_s >= self._busy_until and not self._dirty:
            self.clear(now_s, told)

    def _rests_s(self, now_s: float, told_s: float) -> float:
        """For how long neither pen nor page has moved."""
        last_pen = max((start + float(ink.t_s[-1]) for _, ink, start in self.writing.begun(told_s)), default=-np.inf)
        return min(told_s - min(last_pen, told_s), now_s - self._still_since)

    def clear(self, now_s: float, told_s: float) -> None:
        """The whole picture goes black, white, and comes anew without its ghosts."""
        whole, third = self.whole(), self.sort.clear_ms / 3000
        picture = self.target(whole, told_s).astype(np.float32)
        for k, tones in enumerate((np.zeros_like(picture), np.full_like(picture, 255), picture)):
            self._waiting.append((now_s + k * third, third, tones))
        self.log.append(Update(now_s, 3 * third, CLEAR, whole))
        self._since_clear, self._coarse, self._busy_until = 0, None, now_s + 3 * third

    def _blink(self, now_s: float) -> None:
        while self._waiting and self._waiting[0][0] <= now_s:
            at_s, lasts_s, tones = self._waiting.pop(0)
            self._drive(self.whole(), tones, at_s, lasts_s)

    def _ink_at_once(self, now_s: float, box: Box, told_s: float) -> None:
        """Pixels that the fast path has made black are not driven again."""
        here = slices(box)
        tones = _darkest(self.target(box, told_s))
        black = (tones if tones.ndim == 2 else tones[..., 0]) < TWO_TONES
        fresh = black & ~self._inked[here]
        driven = np.where(fresh if tones.ndim == 2 else fresh[..., None], np.float32(0), np.float32(np.nan))
        self._fast(now_s, box, np.broadcast_to(driven, tones.shape))
        self._inked[here] |= black

    def _scroll(self, now_s: float, told_s: float) -> None:
        """The page under a moving finger: in two tones where the panel is quick at these, in greys else."""
        whole, self._whole_owed = self.whole(), False
        if self.of_paper and self.panel.fast_pen:
            light = self.target(whole, told_s) >= TWO_TONES
            self._fast(now_s, whole, np.where(light, np.float32(255), np.float32(0)))
            self._busy_until = now_s + self.sort.fast_ms / 1000
        else:
            self._grey(now_s, whole, told_s)

    def _turn(self, now_s: float, told_s: float) -> None:
        self._owed, self._dirty, self._whole_owed, self._still_since = None, None, False, now_s
        (self._full if self.of_paper else self._grey)(now_s, self.whole(), told_s)

    def _fast(self, now_s: float, box: Box, driven: Tones) -> None:
        lasts = self.sort.fast_ms / 1000
        self._drive(box, driven, now_s, lasts, self.sort.fast_ghost, self.sort.lighter)
        self.log.append(Update(now_s, lasts, FAST, box))
        self._dirty = joined(self._dirty, box)

    def _grey(self, now_s: float, box: Box, told_s: float) -> None:
        if self.of_paper:
            self._updated(GREY, now_s, box, told_s, self.sort.grey_ms, self.sort.grey_ghost)
            if self.shallow:
                self._coarse = joined(self._coarse, box)
        else:
            lasts = self.panel.response_ms / 1000
            self._drive(box, self.target(box, told_s).astype(np.float32), now_s, lasts)
            self.log.append(Update(now_s, lasts, GREY, box))

    def _full(self, now_s: float, box: Box, told_s: float) -> None:
        self._updated(FULL, now_s, box, told_s, self.sort.full_ms, self.sort.full_ghost)
        self._coarse = None

    def _updated(self, mode: str, now_s: float, box: Box, told_s: float, lasts_ms: float, ghost: float) -> None:
        tones = self.target(box, told_s, shallow=mode == GREY and self.shallow).astype(np.float32)
        self._drive(box, tones, now_s, lasts_ms / 1000, ghost, self.sort.lighter)
        self._since_clear += 1
        self.log.append(Update(now_s, lasts_ms / 1000, mode, box))
        self._busy_until = max(self._busy_until, now_s + lasts_ms / 1000)

    def target(self, box: Box, told_s: float, shallow: bool = False) -> Picture:
        """What a box shall show at a moment, in the panel's tones; shallow: in those of a quick grey update."""
        return self.of_ink(box, self.writing.until(told_s), self.writing.shift_mm(told_s), shallow)

    def of_ink(self, box: Box, inks: Sequence[Ink], shift_mm: float = 0.0, shallow: bool = False) -> Picture:
        """Some ink on the paper, in the panel's tones."""
        toning = dataclasses.replace(self.toning, greys=self.sort.quick_greys) if shallow else self.toning
        left, top, right, bottom = wide = self._toned_with(box)
        shift_px = round(shift_mm * self.view.px_per_mm)
        if self.writing.scrolled and box == self.whole():
            pixels = self._scrolled_pixels(inks)[top + shift_px : bottom + shift_px]
        else:
            pixels = page_pixels(inks, self.paper, self._part((left, top + shift_px, right, bottom + shift_px)))
        shown = on_panel(pixels, self.panel, toning, self.paper.colour)
        rows, columns = slices((box[0] - wide[0], box[1] - wide[1], box[2] - wide[0], box[3] - wide[1]))
        return np.ascontiguousarray(shown[rows, columns] if self.panel.colour else to_grey8(shown[rows, columns]))

    def _scrolled_pixels(self, inks: Sequence[Ink]) -> Pixels:
        """All of the page that scrolling brings into view, drawn once for the ink there is."""
        key = tuple(id(ink) for ink in inks)
        if self._tall is None or self._tall[0] != key:
            most = max(round(mm * self.view.px_per_mm) for _, mm in self.writing.scrolled)
            whole = self._toned_with(self.whole())
            self._tall = key, page_pixels(inks, self.paper, self._part((*whole[:3], whole[3] + most)))
        return self._tall[1]

    def _part(self, box: Box) -> View:
        scale = self.view.px_per_mm
        left, top, right, bottom = box
        return View(self.view.left_mm + left / scale, self.view.top_mm + top / scale, scale, right - left, bottom - top)

    def _toned_with(self, box: Box) -> Box:
        """The box without whose surroundings its tones would come out otherwise than those of the whole picture."""
        if self.toning.bolder_px == 0 and self.toning.dither == "none" and not is_filtered(self.panel):
            return box
        grid, spare = GRID_PX, self.toning.bolder_px + 1
        left, top = (max(0, (v - spare) // grid * grid) for v in box[:2])
        spare += shared_px(self.panel)
        return left, top, min(box[2] + spare, self.view.width_px), min(box[3] + spare, self.view.height_px)

    def whole(self) -> Box:
        return 0, 0, self.view.width_px, self.view.height_px

    def changed_between(self, before_s: float, now_s: float) -> list[Box]:
        """Where what shall be shown is another at a later moment."""
        moved = self.writing.shift_mm(now_s) != self.writing.shift_mm(before_s)
        if moved or self.writing.page(now_s) != self.writing.page(before_s):
            return [self.whole()]
        erased = [self.box_of(self.writing.inks[k], slice(None), now_s) for k in self.erased_between(before_s, now_s)]
        return [box for box in (*self._boxes_between(before_s, now_s), *erased) if box]

    def erased_between(self, before_s: float, now_s: float) -> list[int]:
        return [k for at, k in self.writing.erased if before_s < at <= now_s]

    def _boxes_between(self, before_s: float, now_s: float) -> tuple[Box | None, Box | None]:
        """Where ink was written between two moments that the fast path takes, and that it does not."""
        found: list[Box | None] = [None, None]
        for k, ink, start in self.writing.begun(now_s):
            first = int(np.searchsorted(ink.t_s, before_s - start, side="right"))
            end = int(np.searchsorted(ink.t_s, now_s - start, side="right"))
            if first < end:
                slow = not self._quick[k]
                found[slow] = joined(found[slow], self.box_of(ink, slice(max(0, first - 1), end), now_s))
        return found[0], found[1]

    def box_of(self, ink: Ink, part: slice, at_s: float = 0.0) -> Box:
        """Where a part of a stroke lies in the picture at a moment; at its rim where it lies outside."""
        scale, view = self.view.px_per_mm, self.view
        reach = float(ink.long_mm[part].max()) * 0.75 + (2 + self.toning.bolder_px) / scale
        x, y = ink.x_mm[part], ink.y_mm[part] - self.writing.shift_mm(at_s)
        ends: Floats = np.array([x.min() - reach, y.min() - reach, x.max() + reach, y.max() + reach])
        left, top = np.floor((ends[:2] - (view.left_mm, view.top_mm)) * scale)
        right, bottom = np.ceil((ends[2:] - (view.left_mm, view.top_mm)) * scale)
        across = np.clip((left, right - 1), 0, view.width_px - 1)
        down = np.clip((top, bottom - 1), 0, view.height_px - 1)
        return int(across[0]), int(down[0]), int(across[1]) + 1, int(down[1]) + 1


def _darkest(picture: Picture) -> Picture:
    """Colours as dark as their luma, in the picture's own shape."""
    if picture.ndim == 2:
        return picture
    return np.asarray(np.repeat(to_grey8(picture)[..., None], 3, axis=2))
