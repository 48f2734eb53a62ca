"""What is printed on a sheet, in true millimetres: one function a ruling.

Where nothing else is named, measures are common practice, no source.
"""

import dataclasses
import itertools
from collections.abc import Callable

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import RecordError
from gray_quill.core.paper import RULINGS, NumberedPaper, Paper

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
    lines = DRAWN[paper.ruling](paper) + _margins(paper) + _page_number(paper)
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


FIGURE_MM = (1.6, 2.8)  # width and height of a figure of the page number
FIGURE_GAP_MM = 0.7
# figures as ways through a box of 1 x 1, y downward
FIGURES: dict[str, list[list[tuple[float, float]]]] = {
    "0": [[(0.5, 0), (0.85, 0.12), (1, 0.5), (0.85, 0.88), (0.5, 1), (0.15, 0.88), (0, 0.5), (0.15, 0.12), (0.5, 0)]],
    "1": [[(0.2, 0.2), (0.6, 0), (0.6, 1)]],
    "2": [[(0, 0.22), (0.2, 0.04), (0.5, 0), (0.85, 0.1), (0.95, 0.32), (0.7, 0.6), (0, 1), (1, 1)]],
    "3": [
        [(0.05, 0.1), (0.45, 0), (0.85, 0.1), (0.88, 0.36), (0.4, 0.47)],
        [(0.4, 0.47), (0.9, 0.58), (0.95, 0.85), (0.5, 1), (0, 0.9)],
    ],
    "4": [[(0.7, 1), (0.7, 0), (0, 0.7), (1, 0.7)]],
    "5": [[(0.9, 0), (0.15, 0), (0.08, 0.45), (0.5, 0.38), (0.9, 0.5), (0.95, 0.8), (0.5, 1), (0, 0.9)]],
    "6": [
        [(0.85, 0.03), (0.4, 0.15), (0.05, 0.55), (0.1, 0.88), (0.5, 1), (0.92, 0.85), (0.9, 0.55), (0.5, 0.44)],
        [(0.5, 0.44), (0.1, 0.58)],
    ],
    "7": [[(0, 0), (1, 0), (0.35, 1)]],
    "8": [
        [(0.5, 0.47), (0.1, 0.35), (0.15, 0.08), (0.5, 0), (0.85, 0.08), (0.9, 0.35), (0.5, 0.47)],
        [(0.5, 0.47), (0.02, 0.62), (0.05, 0.9), (0.5, 1), (0.95, 0.9), (0.98, 0.62), (0.5, 0.47)],
    ],
    "9": [
        [(0.95, 0.4), (0.6, 0.54), (0.15, 0.48), (0.05, 0.2), (0.5, 0), (0.9, 0.12), (0.97, 0.4), (0.7, 0.85)],
        [(0.7, 0.85), (0.2, 1)],
    ],
}


def _page_number(paper: Paper) -> Lines:
    """The number of the page, where it is wished and known: outer is right on odd pages and left on even ones."""
    if not isinstance(paper, NumberedPaper) or paper.numbered == "none" or not paper.page_number:
        return []
    figures, (wide, high) = str(paper.page_number), FIGURE_MM
    length = len(figures) * (wide + FIGURE_GAP_MM) - FIGURE_GAP_MM
    top = EDGE_MM - high if paper.numbered == "head" else paper.height_mm - EDGE_MM
    left = (paper.width_mm - length) / 2
    if paper.numbered == "outer foot":
        left = paper.width_mm - EDGE_MM - length if paper.page_number % 2 else EDGE_MM
    lines: Lines = []
    for k, figure in enumerate(figures):
        x = left + k * (wide + FIGURE_GAP_MM)
        for way in FIGURES[figure]:
            points = [(x + u * wide, top + v * high) for u, v in way]
            lines += [(*a, *b) for a, b in itertools.pairwise(points)]
    return lines


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
