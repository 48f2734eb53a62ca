"""Outlines: the same footprint sweep as the coverage kernels, as filled shapes in mm for SVG and PDF.

`outline` gives rings to be filled by the nonzero rule. A round pen is walked once along its left and back along its
right (fast); other footprints, and `exact_outline`, are the union of the hulls of consecutive footprints (exact,
slower). The two are tested against each other.
"""

import math

import numba
import numpy as np
import shapely
from shapely.geometry.polygon import orient

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink

TOLERANCE_MM = 0.0008  # largest distance from a true arc to its chord
DIRECTIONS = 72  # supports that make the hull of two footprints


def outline(ink: Ink) -> list[Floats]:
    """Closed rings, each (k, 2), first point not repeated, for the nonzero fill rule."""
    if ink.shape == "area" and not ink.rubs:
        return [np.column_stack((ink.x_mm, ink.y_mm))]
    if ink.shape != "round" or ink.recipe.body.hollow.on or ink.rubs:
        return exact_outline(ink)
    x, y, radius = ink.x_mm, ink.y_mm, ink.long_mm / 2
    return [
        _walk(x[lo:hi], y[lo:hi], radius[lo:hi], TOLERANCE_MM)
        for start, stop in zip(ink.pieces, ink.pieces[1:], strict=False)
        for lo, hi in start + _runs(x[start:stop], y[start:stop], radius[start:stop])
    ]


def exact_outline(ink: Ink) -> list[Floats]:
    """Rings of the exact union; a hollow stroke's inside is left out."""
    area = ink_area(ink)
    return area_rings(area.difference(inside_area(ink)) if ink.recipe.body.hollow.on else area)


def inside_rings(ink: Ink) -> list[Floats]:
    """Rings of what lies between a hollow stroke's walls."""
    return area_rings(inside_area(ink).intersection(ink_area(ink)))


def ink_area(ink: Ink) -> shapely.Geometry:
    """The inked area as exact geometry."""
    return _union(ink, ink.long_mm, ink.short_mm)


def inside_area(ink: Ink) -> shapely.Geometry:
    """The area between a hollow stroke's walls."""
    wall = 2 * ink.recipe.body.hollow.wall_mm
    return _union(ink, np.maximum(ink.long_mm - wall, 0), np.maximum(ink.short_mm - wall, 0))


def rubbed_area(ink: Ink) -> shapely.Geometry:
    """What erasers went over."""
    lines = [shapely.LineString(way if len(way) > 1 else np.repeat(way, 2, axis=0)) for way, _ in ink.rubs]
    radii = [radius for _, radius in ink.rubs]
    return shapely.union_all(shapely.buffer(lines, radii, quad_segs=DIRECTIONS // 2))


def area_rings(area: shapely.Geometry) -> list[Floats]:
    """Exterior rings one way round and holes the other, so that the nonzero rule fills the same area."""
    rings = []
    for part in getattr(area, "geoms", [area]):
        if part.geom_type == "Polygon" and not part.is_empty:
            turned = orient(part)
            rings += [np.asarray(ring.coords)[:-1, :2] for ring in (turned.exterior, *turned.interiors)]
    return rings


def _union(ink: Ink, long: Floats, short: Floats) -> shapely.Geometry:
    parts = []
    for lo, hi in zip(ink.pieces, ink.pieces[1:], strict=False):
        prints = _footprint_supports(ink, long, short, lo, hi)
        if hi - lo == 1:
            parts.append(shapely.Polygon(prints[1][0]))
            continue
        height, points = prints
        further = height[1:] > height[:-1]
        hulls = np.where(further[..., None], points[1:], points[:-1])
        parts += list(shapely.polygons(hulls))
    whole = shapely.make_valid(np.array(parts, dtype=object))
    area = shapely.union_all(shapely.buffer(whole, 0))
    return area.difference(rubbed_area(ink)) if ink.rubs else area


def footprint_points(ink: Ink, k: int) -> Floats:
    """Points around one footprint of a stroke, (DIRECTIONS, 2)."""
    at = k % len(ink.x_mm)
    return _footprint_supports(ink, ink.long_mm, ink.short_mm, at, at + 1)[1][0]


def _footprint_supports(ink: Ink, long: Floats, short: Floats, lo: int, hi: int) -> tuple[Floats, Floats]:
    """Support height (m, DIRECTIONS) and support point (m, DIRECTIONS, 2) of each footprint in every direction."""
    even = np.arange(DIRECTIONS) * 2 * np.pi / DIRECTIONS + 0.01
    # directions even around the footprint squeezed to a disc, so that an ellipse's long sides get their share
    ratio = 1.0 if ink.shape == "chisel" else float(np.median(ink.long_mm[lo:hi] / ink.short_mm[lo:hi]))
    u = np.arctan2(ratio * np.sin(even), np.cos(even)) + float(np.median(ink.angle[lo:hi]))
    angle = ink.angle[lo:hi, None]
    a, b = long[lo:hi, None] / 2, short[lo:hi, None] / 2
    cos, sin = np.cos(u - angle), np.sin(u - angle)
    if ink.shape == "chisel":
        px, py = a * np.sign(cos), b * np.sign(sin)
    else:
        reach = np.maximum(np.hypot(a * cos, b * sin), 1e-12)
        px, py = a * a * cos / reach, b * b * sin / reach
    c, s = np.cos(angle), np.sin(angle)
    x = ink.x_mm[lo:hi, None] + px * c - py * s
    y = ink.y_mm[lo:hi, None] + px * s + py * c
    return x * np.cos(u) + y * np.sin(u), np.stack((x, y), -1)


@numba.njit(cache=True)
def _runs(x, y, r):  # type: ignore[no-untyped-def]
    """Offsets (k, 2) of the runs in which no disc lies inside the next or the one before: such a pair has no hull but
    the larger disc, so the outline ends there and begins anew. A disc that is a run of its own inside another is left
    out.
    """
    n = len(x)
    runs = np.empty((n, 2), np.int64)
    count = lo = 0
    for i in range(1, n + 1):
        nested = i < n and math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]) <= abs(r[i] - r[i - 1]) + 1e-9
        if i < n and not nested:
            continue
        inside = i - lo == 1 and ((lo > 0 and r[lo] <= r[lo - 1]) or (i < n and r[lo] < r[i]))
        if not inside or (count == 0 and i == n):
            runs[count] = lo, i
            count += 1
        lo = i
    return runs[:count]


@numba.njit(cache=True)
def _walk(x, y, r, tolerance):  # type: ignore[no-untyped-def]
    """One ring around the union of the hulls of consecutive discs, none of which lies inside its neighbour. It runs
    clockwise where y points up, so that rings that overlap add up.
    """
    count = len(x)
    step = 2 * math.acos(max(0.0, 1 - tolerance / max(r.max(), tolerance)))
    arc = int(math.ceil(2 * math.pi / step)) + 2
    ring = np.empty((count * (arc + 6) + 2 * arc, 2))
    size = 0
    if count == 1:
        for i in range(arc):
            t = -2 * math.pi * i / arc
            ring[size, 0], ring[size, 1] = x[0] + r[0] * math.cos(t), y[0] + r[0] * math.sin(t)
            size += 1
        return ring[:size].copy()
    # outward normals of each segment on its left (+) and right (-): n.u = (r0 - r1) / length
    heading, lean, reach = np.empty(count - 1), np.empty(count - 1), np.empty(count - 1)
    for k in range(count - 1):
        dx, dy = x[k + 1] - x[k], y[k + 1] - y[k]
        heading[k] = math.atan2(dy, dx)
        reach[k] = math.hypot(dx, dy)
        lean[k] = math.acos(min(1.0, max(-1.0, (r[k] - r[k + 1]) / reach[k])))
    for side in (1, -1):
        for s in range(count):
            p = k = s if side == 1 else count - 1 - s
            before = k - 1 if side == 1 else k
            after = k if side == 1 else k - 1
            if s == 0:  # the cap where this side begins is drawn by the side that ended here
                start = heading[after] + side * lean[after]
                ring[size, 0], ring[size, 1] = x[p] + r[p] * math.cos(start), y[p] + r[p] * math.sin(start)
                size += 1
                continue
            a0 = heading[before] + side * lean[before]
            if s == count - 1:  # end of this side: cap round to the other
                a1 = heading[before] - side * lean[before]
                turn = a1 - a0  # round the outside: the ring runs the same way all along
                while turn > 0:
                    turn -= 2 * math.pi
            else:
                # only the path's own turn is the shorter way round: of a disc wider than both its neighbours more than
                # half can be outside
                turn = heading[after] - heading[before]
                turn -= 2 * math.pi * round(turn / (2 * math.pi))
                turn += side * (lean[after] - lean[before])
                a1 = a0 + turn
                if turn > 0:  # inner side of the turn: go through the centre where the edge would run backwards
                    ring[size, 0], ring[size, 1] = x[p] + r[p] * math.cos(a0), y[p] + r[p] * math.sin(a0)
                    size += 1
                    if abs(turn) > 0.5 or r[p] * math.tan(abs(turn) / 2) > 0.5 * min(reach[before], reach[after]):
                        ring[size, 0], ring[size, 1] = x[p], y[p]
                        size += 1
                    if abs(turn) > 0.02:
                        ring[size, 0], ring[size, 1] = x[p] + r[p] * math.cos(a1), y[p] + r[p] * math.sin(a1)
                        size += 1
                    continue
            own = 2 * math.acos(max(0.0, 1 - tolerance / max(r[p], tolerance)))
            steps = min(arc, max(1, int(math.ceil(abs(turn) / own))))
            first = 0 if abs(turn) > 0.02 else 1
            for q in range(first, steps + 1):
                t = a0 + turn * q / steps
                ring[size, 0], ring[size, 1] = x[p] + r[p] * math.cos(t), y[p] + r[p] * math.sin(t)
                size += 1
    return ring[:size].copy()
