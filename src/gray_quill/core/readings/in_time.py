"""What a page costs and loses on a panel in time: updates, blinks, how long until it is true, what stays behind."""

import dataclasses

import numpy as np

from gray_quill.core.colour.difference import lab
from gray_quill.core.colour.srgb import rgb, to_grey8
from gray_quill.core.panel.in_time import CLEAR, FAST, GREY, InTime
from gray_quill.core.panel.proof import on_panel
from gray_quill.core.readings.reading import reading

FRAMES_HZ = 60.0
TRUE_WITHIN = 12.0  # encoded tones; nearer to the picture than that a pixel counts as true. Common practice, no source
SEEN_L = 2.3  # a difference in L* that is just noticed (Mahy and others, Color Res. Appl. 19, 1994; from memory)


@dataclasses.dataclass(frozen=True)
class InTimeReadings:
    """Counts over the whole writing. true_ms: None where there is no ink."""

    fast: int = reading("fast updates", "", "Times ink of two tones was put down at once.", digits=0)
    grey: int = reading("grey updates", "", "Times a part of the picture was shown anew.", digits=0)
    clears: int = reading("blinks", "", "Times the whole picture went black and white.", digits=0, better="less")
    true_p50_ms: float | None = reading(
        "until true", "ms", "From the end of a stroke until all of it is shown as it stays; half are quicker.", digits=0
    )
    true_p95_ms: float | None = reading("until true, 95 %", "ms", "A twentieth of the strokes takes longer.", digits=0)
    ghost_l: float = reading(
        "ghost",
        "L*",
        "Of all places that show bare paper at the end, how far off the worst is.",
        better="less",
        attention=SEEN_L,
    )


def read_in_time(page: InTime, frames_hz: float = FRAMES_HZ) -> InTimeReadings:
    """Plays a page to its end and says what it came to."""
    end = page.lasts_s()
    final = page.target(page.whole(), end).astype(np.float32)
    wrong_at = np.full(final.shape, -1.0)
    shown = final
    for moment, picture in page.play(frames_hz):
        shown = picture.astype(np.float32)
        wrong_at[np.abs(shown - final) > TRUE_WITHIN] = moment
    bare = final == np.float32(_bare(page))
    late = []
    gone = {k for _, k in page.writing.erased}
    for k, (ink, start) in enumerate(zip(page.writing.inks, page.writing.starts_s, strict=True)):
        left, top, right, bottom = box = page.box_of(ink, slice(None))
        own = page.of_ink(box, [ink]) != _bare(page)
        if own.any() and k not in gone:
            until = float(wrong_at[top:bottom, left:right][own].max())
            late.append(1000 * max(0.0, until - start - float(ink.t_s[-1])))
    of = [u.mode for u in page.log]
    return InTimeReadings(
        of.count(FAST),
        of.count(GREY),
        of.count(CLEAR),
        float(np.percentile(late, 50)) if late else None,
        float(np.percentile(late, 95)) if late else None,
        _apart_l(shown[bare], float(_bare(page))) if bare.any() else 0.0,
    )


def _bare(page: InTime) -> int:
    """The tone the panel shows bare paper in."""
    flat = np.full((1, 1, 3), rgb(page.paper.colour), np.uint8)
    return int(to_grey8(on_panel(flat, page.panel, page.toning, page.paper.colour))[0, 0])


def _apart_l(shown: np.ndarray, bare: float) -> float:
    worst = shown[np.argmax(np.abs(shown - bare))]
    return abs(float(lab(np.full(3, float(worst)))[0] - lab(np.full(3, bare))[0]))
