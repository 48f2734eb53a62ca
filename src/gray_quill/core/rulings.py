"""What is printed on a sheet, in true millimetres: one function a ruling.

Where nothing else is named, measures are common practice, no source.
"""

import dataclasses
from collections.abc import Callable

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import RecordError
from gray_quill.core.paper import RULINGS, Paper

EDGE_MM = 8.0  # dots, staves and frames keep this far from the edge
STAVE_LINES = 5
SLANT = float(np.tan(np.radians(30)))  # of isometric rules
LEAST_FRAME_MM = 10.0
FRAME = 9 / 16  # height of a frame over its width
FRAME_RULES = 3  # to write on, under each frame
Lines = list[tuple[float, float, float, float]]


@dataclasses.dataclass(frozen=True)
class Marks:
    """lines: shape (n, 4) as x0, y0, x1, y1; dots: shape (n, 2); in mm, all `weight_mm` thick."""

    lines: Floats
    dots: Floats
    weight_mm: float


def ruling_marks(paper: Paper) -> Marks:
    """The ruling's geometry."""
    if paper.spacing_mm * 2 > min(paper.width_mm, paper.height_mm):
        raise RecordError("The spacing is wider than half the sheet. Choose a smaller spacing.", "paper.spacing_mm")
    if paper.first_mm and paper.first_mm > paper.width_mm * 0.8:
        raise RecordError("The first column takes all of the sheet. Make it narrower.", "paper.first_mm")
    lines = DRAWN[paper.ruling](paper) + _margins(paper)
    dots = _dots(paper) if paper.ruling == "dotted" else np.zeros((0, 2))
    return Marks(np.array(lines, float).reshape(-1, 4), dots, paper.weight_mm)


def _ruled(paper: Paper) -> Lines:
    """The first rule lies where the band ends, or a spacing and a head margin below the edge, as stationery has it."""
    s = paper.spacing_mm
    first = paper.band_mm or max(2.5 * s, 15)
    return [(0, y, paper.width_mm, y) for y in np.arange(first, paper.height_mm - s * 0.5, s)]


def _squared(paper: Paper) -> Lines:
    w, h, s, top = paper.width_mm, paper.height_mm, paper.spacing_mm, paper.band_mm
    level = np.arange(top or s, h - 1e-6, s)
    return [(0, y, w, y) for y in level] + [(x, top, x, h) for x in np.arange(s, w - 1e-6, s)]


def _dots(paper: Paper) -> Floats:
    xs, ys = _centred(paper.width_mm, paper.spacing_mm), _centred(paper.height_mm, paper.spacing_mm)
    return np.stack(np.meshgrid(xs, ys[ys >= paper.band_mm]), -1).reshape(-1, 2)


def _staves(paper: Paper) -> Lines:
    w, h, s = paper.width_mm, paper.height_mm, paper.spacing_mm
    height, gap = s * (STAVE_LINES - 1), s * 5
    tops = np.arange(paper.band_mm or EDGE_MM + s, h - height - EDGE_MM, height + gap)
    return [(EDGE_MM, top + i * s, w - EDGE_MM, top + i * s) for top in tops for i in range(STAVE_LINES)]


def _isometric(paper: Paper) -> Lines:
    """Triangles of even sides: upright rules, and two families at 30 degrees that meet on them."""
    w, h, s, top = paper.width_mm, paper.height_mm, paper.spacing_mm, paper.band_mm
    lines: Lines = [(x, top, x, h) for x in np.arange(0, w + 1e-6, s * np.cos(np.radians(30)))[1:] if x < w]
    for slope in (SLANT, -SLANT):
        first, last = min(0.0, -slope * w), max(0.0, -slope * w) + h
        for at in np.arange(np.ceil(first / s) * s, last, s):
            ends = sorted(((top - at) / slope, (h - at) / slope))
            left, right = max(0.0, ends[0]), min(w, ends[1])
            if right - left > 1e-6:
                lines.append((left, at + slope * left, right, at + slope * right))
    return lines


def column_edges(paper: Paper) -> Floats:
    """Where columns begin, and the last ends."""
    first = paper.first_mm if paper.columns > 1 else 0.0
    others = paper.columns - bool(first)
    rest = np.linspace(first, paper.width_mm, others + 1)
    return np.concatenate(([0.0], rest)) if first else rest


def _columns(paper: Paper) -> Lines:
    """Rows a spacing apart, and upright rules between columns, from the head row on."""
    h, s = paper.height_mm, paper.spacing_mm
    top = paper.band_mm or max(s, 12.0)
    rows: Lines = [(0, y, paper.width_mm, y) for y in np.arange(top, h - s * 0.5, s)]
    return rows + [(x, top - min(s, top), x, h) for x in column_edges(paper)[1:-1]]


def _frames(paper: Paper) -> Lines:
    """Frames of 16 to 9, with rules to write on under each."""
    w, h, s = paper.width_mm, paper.height_mm, paper.spacing_mm
    gap = EDGE_MM / 2
    wide = (w - 2 * EDGE_MM - gap * (paper.columns - 1)) / paper.columns
    if wide < LEAST_FRAME_MM:
        raise RecordError("So many frames do not fit beside each other. Take fewer columns.", "paper.columns")
    high = wide * FRAME
    lines: Lines = []
    below = FRAME_RULES * s
    for top in np.arange(paper.band_mm or EDGE_MM, h - high - below - EDGE_MM / 2, high + below + gap):
        for k in range(paper.columns):
            left = EDGE_MM + k * (wide + gap)
            right, low = left + wide, top + high
            lines += [(left, y, right, y) for y in (top, low)] + [(x, top, x, low) for x in (left, right)]
            lines += [(left, low + (n + 1) * s, right, low + (n + 1) * s) for n in range(FRAME_RULES)]
    return lines


def _margins(paper: Paper) -> Lines:
    """Upright margin lines."""
    left, right = paper.margin_mm, paper.width_mm - paper.margin_mm
    at = {"left": [left], "right": [right], "both": [left, right]}[paper.margin_side]
    return [(x, 0, x, paper.height_mm) for x in at] if paper.margin_mm else []


def _centred(length_mm: float, spacing_mm: float) -> Floats:
    count = int((length_mm - 2 * EDGE_MM) // spacing_mm) + 1
    return np.asarray(length_mm / 2 + (np.arange(count) - (count - 1) / 2) * spacing_mm, dtype=np.float64)


DRAWN: dict[str, Callable[[Paper], Lines]] = {
    "blank": lambda _: [],
    "dotted": lambda _: [],
    "ruled": _ruled,
    "squared": _squared,
    "staves": _staves,
    "isometric": _isometric,
    "columns": _columns,
    "frames": _frames,
}
assert set(DRAWN) == set(RULINGS), "every ruling is drawn"
