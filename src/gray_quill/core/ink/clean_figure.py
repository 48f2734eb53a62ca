"""A clean figure: its outline, how a trace goes along it, and changing it: placed elsewhere, or one of its corners."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.ink.placement import Placement, placed
from gray_quill.core.trace import along_path_mm

SIDED = ("triangle", "rectangle", "polygon")
BARB = np.radians(27)  # of an arrow's head, from its shaft
LEAST_SIDE_MM = 1.0
Points = tuple[tuple[float, float], ...]


@dataclasses.dataclass(frozen=True)
class CleanFigure:
    """kind: line, arrow, arc, circle, ellipse, triangle, rectangle, polygon or curve. ring_mm: its outline as points in
    drawing order, the first again at the end where it is closed. off: mean distance of the way from it, of its size.
    """

    kind: str
    ring_mm: Points
    off: float


def points_of(ring: Floats) -> Points:
    return tuple((float(x), float(y)) for x, y in ring)


def along_figure(figure: CleanFigure, x: Floats, y: Floats) -> tuple[Floats, Floats]:
    """Where each sample of the way lies on the figure: as far along it as it was along the way. The samples nearest to
    corners lie in them.
    """
    ring = np.array(figure.ring_mm)
    along = along_path_mm(x, y)
    walked = along_path_mm(ring[:, 0], ring[:, 1])
    at = along / max(float(along[-1]), 1e-9) * walked[-1]
    if figure.kind in ("arrow", *SIDED):
        for corner in walked[-5:-1] if figure.kind == "arrow" else walked[1:-1]:
            at[int(np.abs(at - corner).argmin())] = corner
        at = np.maximum.accumulate(at)
    return np.interp(at, walked, ring[:, 0]), np.interp(at, walked, ring[:, 1])


def placed_figure(figure: CleanFigure, placement: Placement) -> CleanFigure:
    """The same figure elsewhere, sized and turned."""
    x, y = np.array(figure.ring_mm).T
    return dataclasses.replace(figure, ring_mm=points_of(np.column_stack(placed(x, y, placement))))


def anchor_of(figure: CleanFigure) -> tuple[float, float]:
    """What stays where it is while a figure is sized and turned: the middle of a closed one, the start of another."""
    if figure.kind in ("circle", "ellipse", *SIDED):
        x, y = np.mean(figure.ring_mm[:-1] if figure.kind in ("circle", "ellipse") else corners_of(figure), axis=0)
        return float(x), float(y)
    return figure.ring_mm[0]


def corners_of(figure: CleanFigure) -> Points:
    """The corners that can be taken elsewhere: both ends of a line or an arrow; none of what is round."""
    if figure.kind == "line":
        return figure.ring_mm
    if figure.kind == "arrow" and len(figure.ring_mm) == 5:
        return figure.ring_mm[:2]
    return figure.ring_mm[1:-1] if figure.kind in SIDED else ()


def with_corner(figure: CleanFigure, which: int, to_mm: tuple[float, float]) -> CleanFigure:
    """The figure with one of its corners elsewhere; the others stay. Raises InputError where it has no such corner, or
    nothing would be left of a side.
    """
    corners = np.array(corners_of(figure), float).reshape(-1, 2)
    if not 0 <= which < len(corners):
        raise InputError("This figure has no such corner. Choose it again.", "which")
    was = corners.copy()
    corners[which] = to_mm
    sides = np.hypot(*(corners - np.roll(corners, 1, axis=0)).T)
    if sides.min() < LEAST_SIDE_MM:
        raise InputError(f"Leave {LEAST_SIDE_MM:g} mm between two corners.", "to_mm")
    ring, kind = np.array(figure.ring_mm), figure.kind
    if kind == "line":
        ring = corners
    elif kind == "arrow":
        ring = arrow_ring(corners, float(np.hypot(*(ring[2] - ring[1]))))
    else:  # it began somewhere between its last corner and its first, and does so still
        side = float(np.hypot(*(was[0] - was[-1])))
        share = float(np.hypot(*(ring[0] - was[-1]))) / max(side, 1e-9)
        foot = corners[-1] + share * (corners[0] - corners[-1])
        ring = np.vstack((foot, corners, foot))
        kind = "triangle" if kind == "triangle" else "polygon"
    return dataclasses.replace(figure, kind=kind, ring_mm=points_of(ring))


def arrow_ring(shaft: Floats, head_mm: float) -> Floats:
    """The way of an arrow: along its shaft (n, 2) to the tip, and there out and back along each barb of its head."""
    tip, reach = shaft[-1], np.hypot(*(shaft - shaft[-1]).T)
    far = np.flatnonzero(reach >= min(head_mm, float(reach.max())))
    back = shaft[int(far[-1])] - tip
    back = back / max(float(np.hypot(*back)), 1e-9) * head_mm
    c, s = np.cos(BARB), np.sin(BARB)
    barbs = [tip + back @ np.array([[c, turn * s], [-turn * s, c]]) for turn in (1, -1)]
    return np.vstack((shaft, barbs[0], tip, barbs[1]))
