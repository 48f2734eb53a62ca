"""How a trace shows on the page where it is not simply itself: moved, turned, scaled, or with parts rubbed out.

What the hand did is never altered: a showing is a view on a trace, so that inking again, readings and files stay true.
"""

import dataclasses
import itertools
import math

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.curves import between
from gray_quill.core.ink.area import Fill
from gray_quill.core.ink.clean_figure import CleanFigure, along_figure
from gray_quill.core.ink.placement import IDENTITY, Placement, is_even, placed, scale_of, turned
from gray_quill.core.ink.settle import Ink
from gray_quill.core.trace import Trace


@dataclasses.dataclass(frozen=True)
class Rub:
    """Where an eraser went, mm of the trace, and its radius."""

    path_mm: tuple[tuple[float, float], ...]
    radius_mm: float


@dataclasses.dataclass(frozen=True)
class StrokeEdits:
    """figure: what the way was made clean to. placement: where places of the trace lie on the page. wider: widths grow
    with the ink, where it is placed evenly; else the pen draws the placed trace as if written so. span: first and last
    position left among the trace's samples, None for all. rubs: what an eraser took of that. fill: what the inside is
    filled with, while all of it shows.
    """

    figure: CleanFigure | None = None
    placement: Placement = IDENTITY
    wider: bool = True
    span: tuple[float, float] | None = None
    rubs: tuple[Rub, ...] = ()
    fill: Fill | None = None


UNEDITED = StrokeEdits()


def _grows(edits: StrokeEdits) -> bool:
    """Whether the ink is what is placed, its widths with it; else the trace is, and inked there."""
    return edits.wider and is_even(edits.placement)


def to_settle(trace: Trace, edits: StrokeEdits) -> Trace:
    """What the pen is given: the trace as written or made clean, or as placed where its widths stay the pen's."""
    trace = _figured(trace, edits.figure)
    if edits.placement == IDENTITY or _grows(edits):
        return trace
    return _placed_trace(trace, edits.placement)


def _figured(trace: Trace, figure: CleanFigure | None) -> Trace:
    """The trace gone along a clean figure, with the force and at the times it had so far along."""
    if figure is None:
        return trace
    x, y = along_figure(figure, trace.x_mm, trace.y_mm)
    return dataclasses.replace(trace, x_mm=x, y_mm=y)


def _placed_trace(trace: Trace, placement: Placement) -> Trace:
    x, y = placed(trace.x_mm, trace.y_mm, placement)
    azimuth = np.mod(turned(trace.azimuth, trace.x_mm, trace.y_mm, placement), 2 * np.pi)
    return dataclasses.replace(trace, x_mm=x, y_mm=y, azimuth=azimuth)


def shown(trace: Trace, ink: Ink, edits: StrokeEdits) -> tuple[Trace, Ink]:
    """The part of a trace that shows, where it lies on the page, and its ink there. ink: of `to_settle`."""
    if edits == UNEDITED:
        return trace, ink
    if edits.fill and edits.span is None:
        ink = dataclasses.replace(ink, fill=edits.fill)
    placement, trace = edits.placement, _figured(trace, edits.figure)
    if placement != IDENTITY:
        trace = _placed_trace(trace, placement)
    if placement != IDENTITY and _grows(edits):
        x, y = placed(ink.x_mm, ink.y_mm, placement)
        scale = scale_of(placement)
        ink = dataclasses.replace(
            ink,
            x_mm=x,
            y_mm=y,
            long_mm=ink.long_mm * scale,
            short_mm=ink.short_mm * scale,
            angle=turned(ink.angle, ink.x_mm, ink.y_mm, placement),
        )
    if edits.span is not None:
        trace, ink = _part(trace, ink, *edits.span)
    if edits.rubs:
        scale = scale_of(placement)
        rubs = tuple((_page_way(rub, placement), rub.radius_mm * scale) for rub in edits.rubs)
        ink = dataclasses.replace(ink, rubs=rubs)
    return trace, ink


def moved_ink(ink: Ink, dx_mm: float, dy_mm: float) -> Ink:
    """The same ink elsewhere, with what was rubbed out of it."""
    rubs = tuple((way + np.array([dx_mm, dy_mm]), radius) for way, radius in ink.rubs)
    return dataclasses.replace(ink, x_mm=ink.x_mm + dx_mm, y_mm=ink.y_mm + dy_mm, rubs=rubs)


def _page_way(rub: Rub, placement: Placement) -> Floats:
    x, y = np.array(rub.path_mm, float).T
    return np.column_stack(placed(x, y, placement))


def _part(trace: Trace, ink: Ink, first: float, last: float) -> tuple[Trace, Ink]:
    """The part of a stroke between two positions among its samples; no taper begins where it was cut."""
    lo = min(max(0, int(math.floor(first))), len(trace) - 1)
    hi = max(lo, min(int(math.ceil(last)), len(trace) - 1))
    columns = {f: getattr(trace, f)[lo : hi + 1] for f in ("x_mm", "y_mm", "force", "altitude", "azimuth")}
    start_s = float(trace.t_s[lo])
    at, source, pieces = [], [], [0]
    for begin, end in itertools.pairwise(ink.pieces.tolist()):
        own = ink.at[begin:end]
        inside = own[(own > first) & (own < last)]
        ends = max(first, own[0]), min(last, own[-1])
        if ends[0] > ends[1]:
            continue
        at.append(np.unique(np.concatenate(([ends[0]], inside, [ends[1]]))))
        source.append(begin + np.interp(at[-1], own, np.arange(end - begin)))
        pieces.append(pieces[-1] + len(at[-1]))
    if not at:  # it was cut in a gap of its pattern: the place nearest to it stays, under what was rubbed
        nearest = int(np.abs(ink.at - first).argmin())
        at, source, pieces = [ink.at[nearest : nearest + 1]], [np.array([float(nearest)])], [0, 1]
    where, own_at = np.concatenate(source), np.concatenate(at)
    names = ("x_mm", "y_mm", "long_mm", "short_mm", "angle", "opacity", "t_s")
    inked = {name: between(getattr(ink, name), where) for name in names}
    inked["t_s"] = inked["t_s"] - start_s
    return (
        dataclasses.replace(trace, t_s=trace.t_s[lo : hi + 1] - start_s, **columns),
        dataclasses.replace(ink, **inked, at=own_at - lo, pieces=np.array(pieces)),
    )


def first_sample(edits: StrokeEdits) -> int:
    """Which of the trace's samples is the first that shows."""
    return 0 if edits.span is None else max(0, int(math.floor(edits.span[0])))
