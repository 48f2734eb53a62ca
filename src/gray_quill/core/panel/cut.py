"""A part of a sheet and what is written in it, to be played on panels."""

import dataclasses
from collections.abc import Sequence

from gray_quill.core.errors import unknown_choice
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.panel.writing import Writing, scrolling, starts_of
from gray_quill.core.paper import Paper
from gray_quill.core.trace import Trace

Box = tuple[float, float, float, float]  # left, top, right, bottom in mm
THEN = ("nothing more", "last stroke erased", "scrolled", "page turned")
PLAYED_S = 12.0  # of writing; what was written before lies there from the start
RESTS_S = 3.0  # of the hand, before anything else is done: the slowest panels have caught up by then
LOWER = 0.62  # height of a part over its width
SCROLLED = 0.4  # of a part's height


def cut_view(paper: Paper, x_mm: float, y_mm: float, width_mm: float, scale: float) -> View:
    """The part of a page about a place, as much of it as there is, at `scale` px/mm."""
    width, height = min(width_mm, paper.width_mm), min(width_mm * LOWER, paper.height_mm)
    left = min(max(x_mm - width / 2, 0.0), paper.width_mm - width)
    top = min(max(y_mm - height / 2, 0.0), paper.height_mm - height)
    return box_view((left, top, left + width, top + height), scale)


def cut_of(drawn: Sequence[tuple[Trace, Ink]], view: View, then: str) -> Writing:
    """What is written in a part of a page, its last PLAYED_S in time, and what is done then: see `done_then`."""
    height = view.height_px / view.px_per_mm
    more = SCROLLED * height if then == "scrolled" else 0.0
    right, bottom = view.left_mm + view.width_px / view.px_per_mm, view.top_mm + height
    inside = [k for k, (_, ink) in enumerate(drawn) if _meet(ink, (view.left_mm, view.top_mm, right, bottom))]
    below = [
        k
        for k, (_, ink) in enumerate(drawn)
        if k not in set(inside) and _meet(ink, (view.left_mm, bottom, right, bottom + more))
    ]
    starts = starts_of([drawn[k][0] for k in inside])
    ends = [at + float(drawn[k][0].t_s[-1]) for k, at in zip(inside, starts, strict=True)]
    first = next((at for at in starts if at >= max(ends, default=0.0) - PLAYED_S), 0.0)
    order = sorted([*((k, at - first) for k, at in zip(inside, starts, strict=True)), *((k, -1e6) for k in below)])
    writing = Writing([drawn[k][1] for k, _ in order], [at for _, at in order])
    return done_then(writing, then, more)


def done_then(writing: Writing, then: str, scrolled_mm: float) -> Writing:
    """The writing, and one more of THEN after the hand has rested. Raises RecordError for anything else."""
    if then not in THEN:
        raise unknown_choice("What is done then", then, THEN, "then")
    at = max(writing.written_s(), 0.0) + RESTS_S
    if then == "last stroke erased" and writing.inks:
        last = max(range(len(writing.inks)), key=lambda k: writing.starts_s[k])
        return dataclasses.replace(writing, erased=[(at, last)])
    if then == "scrolled":
        return dataclasses.replace(writing, scrolled=scrolling(at, scrolled_mm))
    if then == "page turned":
        return dataclasses.replace(writing, turned=[at])
    return writing


def _meet(ink: Ink, box: Box) -> bool:
    left, top, right, bottom = ink.box_mm
    return left < box[2] and right > box[0] and top < box[3] and bottom > box[1]
