"""Small drawings as strokes for the simulated hand, in mm."""

from collections.abc import Iterable, Sequence

import numpy as np
from scipy.interpolate import CubicSpline
from shapely import LineString, Polygon, affinity

from gray_quill.core.arrays import Floats
from gray_quill.core.hand.intent import Intent

Points = Sequence[tuple[float, float]]

# A moth with its wings spread, unit size, right half; y down, body on x = 0.
FOREWING = [
    (0.02, -0.12),
    (0.35, -0.42),
    (0.78, -0.6),
    (1.0, -0.56),
    (0.94, -0.34),
    (0.8, -0.12),
    (0.42, 0.04),
    (0.05, 0.06),
]
HINDWING = [(0.05, 0.08), (0.4, 0.08), (0.68, 0.12), (0.72, 0.34), (0.52, 0.52), (0.26, 0.44), (0.06, 0.2)]
FEELER = [(0.03, -0.24), (0.14, -0.46), (0.34, -0.66)]
BARS = [[(0.5, -0.49), (0.46, -0.25), (0.5, 0.0)], [(0.68, -0.56), (0.63, -0.3), (0.66, -0.06)]]
EYE = (0.3, 0.27)


def curve(points: Points, **how: object) -> Intent:
    """A smooth stroke through points."""
    return Intent(_through(points), **how)  # type: ignore[arg-type]


def moth(x: float, y: float, size: float) -> list[Intent]:
    """The outline of a moth."""
    out = []
    for side in (1, -1):
        for shape in (FOREWING, HINDWING, FEELER, *BARS):
            out.append(curve([(x + side * px * size, y + py * size) for px, py in shape]))
        out.append(circle(x + side * EYE[0] * size, y + EYE[1] * size, 0.07 * size))
    out.append(
        curve(
            [
                (x, y - 0.26 * size),
                (x + 0.05 * size, y - 0.1 * size),
                (x + 0.055 * size, y + 0.2 * size),
                (x, y + 0.46 * size),
                (x - 0.055 * size, y + 0.2 * size),
                (x - 0.05 * size, y - 0.1 * size),
                (x, y - 0.26 * size),
            ]
        )
    )
    return out


def moth_shading(x: float, y: float, size: float) -> list[Intent]:
    """Pencil shading of the wings: light all over, firmer at the outer edge."""
    out = []
    for side in (1, -1):
        for shape, force in ((FOREWING, 0.34), (HINDWING, 0.2)):
            wing = Polygon([(x + side * px * size, y + py * size) for px, py in shape])
            out += shade(wing, 0.85, 62 * side, force)
        outer = Polygon(
            [(x + side * px * size, y + py * size) for px, py in [*FOREWING[3:6], (0.62, -0.2), (0.74, -0.5)]]
        )
        out += shade(outer, 0.7, 50 * side, 0.62)
    return out


def moth_body(x: float, y: float, size: float) -> list[Intent]:
    """Charcoal along the body and the dark bars."""
    body = [Intent(np.array([(x, y - 0.2 * size), (x + 0.3, y), (x, y + 0.38 * size)]), (0.3, 0.6, 0.25), 0.8, 50)]
    return body + [
        curve([(x + side * px * size, y + py * size) for px, py in bar], force=(0.2, 0.4, 0.2), lean_deg=60)
        for side in (1, -1)
        for bar in BARS
    ]


def shadow(x: float, y: float, half: float) -> list[Intent]:
    """A soft shadow on the sheet below the wings, sprayed in two sweeps."""
    return [
        Intent(np.array([(x - half, y + k), (x, y + 3 + k), (x + half, y + k)]), (0.12, 0.3, 0.12), 1.6)
        for k in (0.0, 4.0)
    ]


def band(left: float, right: float, y: float) -> Intent:
    """A stroke of a wash over words, held still at its end so that it lies straight."""
    return Intent(np.array([(left, y + 0.3), ((left + right) / 2, y - 0.2), (right, y)]), (0.5, 0.5), 0.8, hold_s=0.7)


def shade(area: Polygon, spacing_mm: float, angle_deg: float, force: float, lean_deg: float = 36) -> list[Intent]:
    """A zigzag that fills an area, one stroke for every eight turns."""
    turned = affinity.rotate(area, -angle_deg, origin=(0, 0))
    left, top, right, bottom = turned.bounds
    rows: list[list[tuple[float, float]]] = []
    for k, row in enumerate(np.arange(top + spacing_mm / 2, bottom, spacing_mm)):
        cut = turned.intersection(LineString([(left - 1, row), (right + 1, row)]))
        if not cut.is_empty and cut.geom_type == "LineString":
            ends = list(affinity.rotate(cut, angle_deg, origin=(0, 0)).coords)
            rows.append(ends if k % 2 == 0 else ends[::-1])
    return [
        Intent(np.array([p for row in rows[i : i + 8] for p in row]), (force * 0.8, force, force * 0.9), 1.7, lean_deg)
        for i in range(0, len(rows), 8)
        if len(rows[i : i + 8]) > 1
    ]


def circle(x: float, y: float, r: float) -> Intent:
    u = np.linspace(-1.9, 2 * np.pi - 1.6, 28)
    return Intent(np.column_stack((x + r * np.cos(u), y + r * np.sin(u))))


def box(left: float, top: float, right: float, bottom: float) -> Intent:
    return Intent(
        np.array([(left, top), (right, top + 0.4), (right - 0.3, bottom), (left + 0.2, bottom - 0.3), (left, top)])
    )


def underline(left: float, right: float, y: float) -> Intent:
    return curve([(left, y), ((left + right) / 2, y + 0.5), (right, y - 0.2)])


def arrow(points: Points) -> list[Intent]:
    """A shaft through points with a head at the last."""
    (x0, y0), (x1, y1) = points[-2], points[-1]
    back = np.arctan2(y0 - y1, x0 - x1)
    barbs = [(x1 + 2.2 * np.cos(back + d), y1 + 2.2 * np.sin(back + d)) for d in (0.45, -0.45)]
    return [curve(points), Intent(np.array([barbs[0], (x1, y1), barbs[1]]))]


def moon(x: float, y: float, r: float) -> list[Intent]:
    u = np.linspace(0.9, 2 * np.pi - 0.9, 24)
    inner = np.linspace(2 * np.pi - 1.25, 1.25, 20)
    outer = np.column_stack((x + r * np.cos(u), y + r * np.sin(u)))
    hollow = np.column_stack((x + 0.45 * r + 0.8 * r * np.cos(inner), y + 0.82 * r * np.sin(inner)))
    return [Intent(np.vstack((outer, hollow, outer[:1])))]


def sun(x: float, y: float, r: float) -> list[Intent]:
    rays = [
        Intent(
            np.array(
                [
                    (x + 1.35 * r * np.cos(a), y + 1.35 * r * np.sin(a)),
                    (x + 1.9 * r * np.cos(a), y + 1.9 * r * np.sin(a)),
                ]
            )
        )
        for a in np.linspace(np.pi, 2 * np.pi, 7)
    ]
    u = np.linspace(np.pi, 2 * np.pi, 16)
    return [Intent(np.column_stack((x + r * np.cos(u), y + r * np.sin(u)))), *rays]


def reeds(x: float, y: float, heights: Iterable[float]) -> list[Intent]:
    """Sedge stems leaning in the wind."""
    return [
        curve(
            [(x + 2.6 * i, y), (x + 2.6 * i + 0.6, y - h * 0.6), (x + 2.6 * i + 2.4, y - h)], force=(0.75, 0.55, 0.12)
        )
        for i, h in enumerate(heights)
    ]


def _through(points: Points) -> Floats:
    p = np.array(points, float)
    if len(p) < 3:
        return p
    along = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(p, axis=0).T))))
    return np.asarray(CubicSpline(along, p)(np.linspace(0, along[-1], 12 * len(p))))
