"""What a page costs and loses on a panel in time: updates, blinks, how long until it is true, what stays behind."""

import dataclasses

import numpy as np
from numpy.typing import ArrayLike, NDArray

from gray_quill.core.colour.difference import lab
from gray_quill.core.digitiser.device import Updates
from gray_quill.core.panel.followed import Moment, apart, follow
from gray_quill.core.panel.glass import Box, slices
from gray_quill.core.panel.in_time import CLEAR, FAST, FULL, GREY, InTime
from gray_quill.core.readings.reading import reading

FRAMES_HZ = 60.0
TRUE_WITHIN = 12.0  # encoded tones; nearer to the picture than that a pixel counts as true. Common practice, no source
SEEN_L = 2.3  # a difference in L* that is just noticed (Mahy and others, Color Res. Appl. 19, 1994; from memory)
NEVER = float("inf")
PASSES_OF_CLEARING = 3  # black, white, the picture


@dataclasses.dataclass(frozen=True)
class InTimeReadings:
    """Counts over the whole writing. Times are None where there was nothing of the sort, or where it does not become
    true before the panel clears; ghost_l where no bare paper is left.
    """

    fast: int = reading("fast updates", "", "Times ink of two tones was put down at once.", digits=0)
    grey: int = reading("grey updates", "", "Times a part of the picture was shown anew.", digits=0)
    full: int = reading("full updates", "", "Times a part of the picture was shown anew in all greys.", digits=0)
    clears: int = reading("blinks", "", "Times the whole picture went black and white.", digits=0, better="less")
    driven: float = reading(
        "driven",
        "pictures",
        "All pixels that were changed, in whole pictures: a count that goes with the energy, not a measure of it.",
        better="less",
    )
    true_p50_ms: float | None = reading(
        "until true", "ms", "From a stroke's end until all of it is shown as it shall be; half are quicker.", digits=0
    )
    true_p95_ms: float | None = reading("until true, 95 %", "ms", "A twentieth of the strokes takes longer.", digits=0)
    wash_ms: float | None = reading("washes until true", "ms", "Half of the washes are quicker.", digits=0)
    erased_ms: float | None = reading(
        "erased until gone", "ms", "From erasing until the paper is bare, but for a faint ghost.", digits=0
    )
    scrolled_ms: float | None = reading("scrolled until true", "ms", "From the end of scrolling.", digits=0)
    turned_ms: float | None = reading("turned until true", "ms", "From a press until the next page is shown.", digits=0)
    ghost_l: float | None = reading(
        "ghost",
        "L*",
        "Of all places that show bare paper at the end, how far off the worst is.",
        better="less",
        attention=SEEN_L,
    )


@dataclasses.dataclass(eq=False)
class _Event:
    """Something done that shall be seen. where: its pixels, in a box. true_s: when all of them were first true."""

    sort: str
    at_s: float
    box: Box
    where: NDArray[np.bool_]
    true_s: float | None = None


class InTimeReader:
    """Watches a page go by."""

    def __init__(self, page: InTime) -> None:
        self.page = page
        self._before = page.target(page.whole(), -1.0)
        self._coming = sorted(self._events(), key=lambda e: e.at_s)
        self._open: list[_Event] = []
        self._done: list[_Event] = []
        shape = page.view.height_px, page.view.width_px
        self._asked = np.full(shape, -1.0, np.float32)  # when another tone was last asked for
        self._waits = np.zeros(shape, np.float32)  # how long until it was there
        self._waiting = np.zeros(shape, bool)
        self._last: Moment | None = None

    def see(self, moment: Moment) -> None:
        """The next moment of the page."""
        for box in moment.believed_boxes:
            changed = apart(moment.believed[slices(box)], self._before[slices(box)]) > 0
            self._asked[slices(box)][changed] = moment.t_s
            self._waiting[slices(box)] |= changed
            self._before[slices(box)] = moment.believed[slices(box)]
        for box in {*moment.seen_boxes, *moment.believed_boxes}:
            here = slices(box)
            off = apart(moment.seen[here], moment.believed[here]) > TRUE_WITHIN
            there = self._waiting[here] & ~off
            self._waits[here][there] = moment.t_s - self._asked[here][there]
            self._waiting[here] &= off
        while self._coming and self._coming[0].at_s <= moment.t_s:
            self._open.append(self._coming.pop(0))
        for event in self._open:
            if self._moved_since(event.at_s, moment.t_s):
                continue
            off = apart(moment.seen[slices(event.box)], moment.believed[slices(event.box)]) > TRUE_WITHIN
            if not off[event.where].any():
                event.true_s = moment.t_s
        self._done += [e for e in self._open if e.true_s is not None]
        self._open = [e for e in self._open if e.true_s is None]
        self._last = moment

    def _moved_since(self, at_s: float, t_s: float) -> bool:
        """Whether the page lies elsewhere by now, so that what was done there cannot be seen to become true."""
        writing = self.page.writing
        return writing.shift_mm(at_s) != writing.shift_mm(t_s) or writing.page(at_s) != writing.page(t_s)

    def waits_s(self) -> NDArray[np.float32]:
        """For each pixel, from when its last tone was asked for until it was there, or until the end; 0 where none was
        asked for. Shape (h, w).
        """
        assert self._last is not None, "nothing was seen"
        return np.where(self._waiting, self._last.t_s - self._asked, self._waits)

    def readings(self) -> InTimeReadings:
        """What it came to."""
        of = [u.mode for u in self.page.log]
        whole = self.page.view.width_px * self.page.view.height_px
        driven = sum(_area(u.box) * (PASSES_OF_CLEARING if u.mode == CLEAR else 1) for u in self.page.log) / whole
        return InTimeReadings(
            of.count(FAST),
            of.count(GREY),
            of.count(FULL),
            of.count(CLEAR),
            driven,
            self._late_ms("ink", 50),
            self._late_ms("ink", 95),
            self._late_ms("wash", 50),
            self._late_ms("erased", 50),
            self._late_ms("scrolled", 50),
            self._late_ms("turned", 50),
            self._ghost_l(),
        )

    def _events(self) -> list[_Event]:
        writing, page = self.page.writing, self.page
        whole = page.whole()
        everywhere = np.ones((page.view.height_px, page.view.width_px), bool)
        events = [_Event("turned", at, whole, everywhere) for at in writing.turned]
        if writing.scrolled:
            events.append(_Event("scrolled", max(at for at, _ in writing.scrolled), whole, everywhere))
        for k, (ink, start) in enumerate(zip(writing.inks, writing.starts_s, strict=True)):
            if max([start, *(at for at, gone in writing.erased if gone == k)]) < 0:
                continue
            box = page.box_of(ink, slice(None), start)
            own = apart(page.of_ink(box, [ink]), page.of_ink(box, [])) > 0
            if not own.any():
                continue
            sort = "ink" if ink.recipe.wash.place == "over" else "wash"
            if start >= 0:
                events.append(_Event(sort, start + float(ink.t_s[-1]), box, own))
            events += [_Event("erased", at, box, own) for at, gone in writing.erased if gone == k]
        return events

    def _late_ms(self, sort: str, percentile: float) -> float | None:
        late = [e.true_s - e.at_s for e in self._done if e.sort == sort and e.true_s is not None]
        late += [NEVER for e in [*self._open, *self._coming] if e.sort == sort]
        found = float(np.percentile(late, percentile, method="higher")) if late else NEVER
        return None if found == NEVER else 1000 * found

    def _ghost_l(self) -> float | None:
        assert self._last is not None, "nothing was seen"
        shift_mm = self.page.writing.shift_mm(self._last.t_s)
        paper = self.page.of_ink(self.page.whole(), [], shift_mm)
        bare = apart(self._last.believed, paper) == 0
        off = np.where(bare, apart(self._last.seen, paper), 0)
        there = np.unravel_index(int(off.argmax()), off.shape)
        return _apart_l(self._last.seen[there], paper[there]) if bare.any() else None


def read_in_time(page: InTime, frames_hz: float = FRAMES_HZ) -> InTimeReadings:
    """Plays a page to its end and says what it came to."""
    reader = InTimeReader(page)
    for moment in follow(page, frames_hz):
        reader.see(moment)
    return reader.readings()


@dataclasses.dataclass(frozen=True)
class Ghosts:
    """apart_l: how far bare paper is off in L* where ink was written and erased once, twice and so on by grey updates.
    seen_after: how often until it is noticed, None where it is not.
    """

    apart_l: list[float]
    seen_after: int | None


def ghosts_of(ink_tone: float, paper_tone: float, updates: Updates, times: int = 20) -> Ghosts:
    """Ink of one encoded grey on paper of another, put down and taken away again and again without a clearing."""
    apart_by_time, tone = [], paper_tone
    for _ in range(times):
        for to in (ink_tone, paper_tone):
            share = updates.grey_ghost * (updates.lighter if to > tone else 1.0)
            tone = to + min(share, 1.0) * (tone - to)
        apart_by_time.append(_apart_l(tone, paper_tone))
    return Ghosts(apart_by_time, next((n for n, off in enumerate(apart_by_time, 1) if off >= SEEN_L), None))


def _area(box: Box) -> int:
    return (box[2] - box[0]) * (box[3] - box[1])


def _apart_l(one: ArrayLike, other: ArrayLike) -> float:
    """Between two greys or colours."""
    light = [float(lab(np.broadcast_to(np.asarray(tone, float), 3))[0]) for tone in (one, other)]
    return abs(light[1] - light[0])
