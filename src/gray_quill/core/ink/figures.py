"""Rough figures made clean: which line, arrow, arc, circle, ellipse, triangle, rectangle or polygon a drawn way
means, by least squares.

Each kind is fitted to the way, and the smallest distance left over decides; what fits none becomes its own course
calmed (open_figures.py). Ellipses by direct least squares (Fitzgibbon, Pilu and Fisher, IEEE PAMI 21(5), 1999, in the
stable form of Halir and Flusser, WSCG 1998); circles the same with one radius (Kasa 1976); straight sides by total
least squares, where to part them by dynamic programming over all ways to.
"""

import itertools

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.arrow import find_arrow
from gray_quill.core.ink.clean_figure import CleanFigure, arrow_ring, points_of
from gray_quill.core.ink.open_figures import calmed, fit_arc, sharp_corners
from gray_quill.core.trace import along_path_mm

LOOKS = 72  # places of a way looked at
LEAST_MM = 6.0  # shorter ways are letters and dots
OPEN_SHARE = 0.2  # a way whose ends lie nearer than this share of its length is closed
STRAIGHT = 0.92  # of a line's way, what lies between its ends at least
MOST_OFF = 0.045  # mean distance left over, of the figure's size, beyond which it is none
LINE_OFF = 0.025
ROUND = 1.18  # an ellipse less long than this, of its width, means a circle
SQUARE_DEG = 25.0  # corners this near to right angles mean a rectangle
# what a kind must beat another by to be taken: a figure with more to choose fits better whatever was meant
COSTS = {"circle": 1.0, "ellipse": 1.12, "rectangle": 0.95, "triangle": 1.05, "polygon": 2.0}
MOST_CORNERS = 6
LEAST_CURVE_MM = 15.0  # across; smaller ones are letters and flourishes
MOST_BENT = 1.8  # length of an arrow's shaft over its size
MOST_WANDER = 4.0  # length of a way over its size, beyond which it is writing and no curve
CURVE_OFF = 0.04  # mean distance of a way from its calmed course, of its length, beyond which it is scribble


def fit_figure(x: Floats, y: Floats) -> CleanFigure | None:
    """The figure a way (n,) means, or None where none is meant."""
    along = along_path_mm(x, y)
    length = float(along[-1])
    if len(x) < 5 or length < LEAST_MM:
        return None
    even = np.linspace(0, length, LOOKS)
    way = np.column_stack((np.interp(even, along, x), np.interp(even, along, y)))
    between = float(np.hypot(*(way[-1] - way[0])))
    closed = between <= OPEN_SHARE * length
    if not closed:
        return _line(way, length, between) or _arrow(x, y, along) or _arc(way) or _curve(way, closed)
    found = [f for f in (_round(way), *(_polygon(way, n) for n in range(3, MOST_CORNERS + 1))) if f is not None]
    best = min(found, key=lambda f: f.off * COSTS[f.kind], default=None)
    return best if best is not None and best.off <= MOST_OFF else _curve(way, closed)


def _arrow(x: Floats, y: Floats, along: Floats) -> CleanFigure | None:
    """Straight where its shaft is, else along its shaft calmed."""
    found = find_arrow(x, y, along)
    if found is None:
        return None
    length = float(np.hypot(*np.diff(found.shaft, axis=0).T).sum())
    line = _line(found.shaft, length, float(np.hypot(*(found.shaft[-1] - found.shaft[0]))))
    shaft, off = (np.array(line.ring_mm), line.off) if line else calmed(found.shaft, False)
    if off > CURVE_OFF or length > MOST_BENT * float(np.hypot(*np.ptp(shaft, axis=0))):
        return None
    return CleanFigure(
        "arrow", points_of(arrow_ring(shaft, found.head_mm)), max(off, found.off * found.head_mm / length)
    )


def _arc(way: Floats) -> CleanFigure | None:
    found = fit_arc(way, fit_circle(way))
    return found and CleanFigure("arc", points_of(found[0]), found[1])


def _curve(way: Floats, closed: bool) -> CleanFigure | None:
    size = _size(way)
    if size < LEAST_CURVE_MM or float(np.hypot(*np.diff(way, axis=0).T).sum()) > MOST_WANDER * size:
        return None
    ring, off = calmed(way, closed)
    return CleanFigure("curve", points_of(ring), off) if off <= CURVE_OFF else None


def _line(way: Floats, length: float, between: float) -> CleanFigure | None:
    centre, direction, off = _total_line(way)
    if between < STRAIGHT * length or off > LINE_OFF * length:
        return None
    ends = [centre + direction * float((p - centre) @ direction) for p in (way[0], way[-1])]
    return CleanFigure("line", tuple((float(p[0]), float(p[1])) for p in ends), off / length)


def _total_line(points: Floats) -> tuple[Floats, Floats, float]:
    """Middle, direction and root mean square distance of the line nearest to points."""
    centre = points.mean(axis=0)
    _, values, axes = np.linalg.svd(points - centre, full_matrices=False)
    return centre, axes[0], float(values[1] / np.sqrt(len(points)))


def _size(way: Floats) -> float:
    return float(np.hypot(*np.ptp(way, axis=0)))


def _round(way: Floats) -> CleanFigure | None:
    ellipse = fit_ellipse(way)
    if ellipse is None:
        return None
    cx, cy, a, b, angle = ellipse
    kind = "ellipse"
    if max(a, b) < ROUND * min(a, b):
        kind = "circle"
        cx, cy, a = fit_circle(way)
        b, angle = a, 0.0
    c, s = np.cos(angle), np.sin(angle)
    u = ((way[:, 0] - cx) * c + (way[:, 1] - cy) * s) / a
    v = (-(way[:, 0] - cx) * s + (way[:, 1] - cy) * c) / b
    off = float(np.sqrt(np.mean(((np.hypot(u, v) - 1) * np.minimum(a, b) ** 0.5 * np.maximum(a, b) ** 0.5) ** 2)))
    around = np.unwrap(np.arctan2(v, u))
    turn = float(np.sign(around[-1] - around[0])) or 1.0
    if abs(around[-1] - around[0]) < 1.4 * np.pi:
        return None
    t = around[0] + turn * np.linspace(0, 2 * np.pi, 97)
    x, y = cx + a * np.cos(t) * c - b * np.sin(t) * s, cy + a * np.cos(t) * s + b * np.sin(t) * c
    return CleanFigure(kind, tuple(zip(x.tolist(), y.tolist(), strict=True)), off / _size(way))


def fit_circle(points: Floats) -> tuple[float, float, float]:
    """Centre and radius of the circle nearest to points (n, 2), by algebraic distance."""
    middle = points.mean(axis=0)
    p = points - middle
    design = np.column_stack((2 * p, np.ones(len(p))))
    (cx, cy, rest), *_ = np.linalg.lstsq(design, (p**2).sum(axis=1), rcond=None)
    return float(cx + middle[0]), float(cy + middle[1]), float(np.sqrt(rest + cx * cx + cy * cy))


def fit_ellipse(points: Floats) -> tuple[float, float, float, float, float] | None:
    """Centre, semi-axes and direction of the first of the ellipse nearest to points (n, 2), by algebraic distance; None
    where they lie on none.
    """
    middle, spread = points.mean(axis=0), max(float(np.std(points)), 1e-9)
    x, y = ((points - middle) / spread).T
    quadratic = np.column_stack((x * x, x * y, y * y))
    linear = np.column_stack((x, y, np.ones_like(x)))
    s1, s2, s3 = quadratic.T @ quadratic, quadratic.T @ linear, linear.T @ linear
    try:
        t = -np.linalg.solve(s3, s2.T)
        m = s1 + s2 @ t
        m = np.array([m[2] / 2, -m[1], m[0] / 2])
        _, vectors = np.linalg.eig(m)
    except np.linalg.LinAlgError:
        return None
    vectors = np.real(vectors)
    good = 4 * vectors[0] * vectors[2] - vectors[1] ** 2 > 0
    if not good.any():
        return None
    a, b, c = vectors[:, int(np.flatnonzero(good)[0])]
    d, e, f = t @ np.array((a, b, c))
    det = b * b - 4 * a * c
    cx, cy = (2 * c * d - b * e) / det, (2 * a * e - b * d) / det
    value = f + (d * cx + e * cy) / 2
    values, axes = np.linalg.eigh(np.array([[a, b / 2], [b / 2, c]]))
    with np.errstate(invalid="ignore", divide="ignore"):
        semi = np.sqrt(-value / values)
    if not np.isfinite(semi).all():
        return None
    first = axes[:, 0]
    angle = float(np.arctan2(first[1], first[0]))
    cx, cy = cx * spread + middle[0], cy * spread + middle[1]
    return float(cx), float(cy), float(semi[0] * spread), float(semi[1] * spread), angle


def _polygon(way: Floats, corners: int) -> CleanFigure | None:
    parts = _parted(way, corners)
    if parts is None:
        return None
    sides = [_total_line(_stretch(way, a, b)) for a, b in itertools.pairwise((*parts, parts[0] + len(way)))]
    found = [_crossing(sides[k - 1], sides[k]) for k in range(corners)]
    if any(p is None for p in found):
        return None
    ring = np.array(found)
    kind = "triangle" if corners == 3 else "polygon"
    squared = _rectangle(ring, sides) if corners == 4 else None
    if kind == "polygon" and squared is None and sharp_corners(way) != corners:
        return None
    if squared is not None:
        ring, kind = squared, "rectangle"
    size = _size(way)
    if np.hypot(*np.ptp(ring, axis=0)) > 1.6 * size:
        return None
    closed = np.vstack((ring, ring[:1]))
    off = float(np.sqrt(np.mean(_distances(way, closed) ** 2)))
    started = _from_start(closed, way)
    return CleanFigure(kind, tuple((float(p[0]), float(p[1])) for p in started), off / size)


def _stretch(way: Floats, first: int, last: int) -> Floats:
    """The points of a side, without those that round its corners."""
    take = np.arange(first, last) % len(way)
    trim = len(take) // 8
    return way[take[trim : len(take) - trim]] if len(take) > 4 else way[take]


def _parted(way: Floats, corners: int) -> list[int] | None:
    """Where a closed way is best parted into so many straight sides."""
    n = len(way)
    cost = _straightness(way)
    best, found = np.inf, None
    least = n // (4 * corners)
    reach = np.arange(n + 1)
    span = np.clip(reach[None] - reach[:, None], 0, n)
    short = span <= least
    for start in range(0, n // corners + least):
        # total[k]: smallest cost of the sides so far, the last of which ends at start + k
        total = cost[start, reach].copy()
        total[: least + 1] = np.inf
        sides = cost[(start + reach[:, None]) % n, span]
        sides[short] = np.inf
        back = []
        for _ in range(corners - 1):
            later = total[:, None] + sides
            back.append(later.argmin(axis=0))
            total = later.min(axis=0)
        if total[n] < best:
            best, at, cuts = float(total[n]), n, []
            for step in reversed(back):
                at = int(step[at])
                cuts.append(start + at)
            found = [start, *reversed(cuts)]
    return found


def _straightness(way: Floats) -> Floats:
    """Squared distances left over of the line nearest to the m points from i on, around the way: shape (n, n + 1)."""
    n = len(way)
    twice = np.vstack((way, way))
    sums = np.vstack((np.zeros(5), np.cumsum(np.column_stack((twice, twice**2, twice[:, :1] * twice[:, 1:])), axis=0)))
    i, m = np.arange(n)[:, None], np.arange(n + 1)[None]
    part = sums[np.minimum(i + m, 2 * n)] - sums[i]
    count = np.maximum(m, 1)[..., None]
    mean = part / count
    xx, yy, xy = (
        mean[..., 2] - mean[..., 0] ** 2,
        mean[..., 3] - mean[..., 1] ** 2,
        mean[..., 4] - mean[..., 0] * mean[..., 1],
    )
    smaller = (xx + yy) / 2 - np.sqrt(np.maximum(((xx - yy) / 2) ** 2 + xy**2, 0))
    return np.maximum(smaller, 0) * m


def _crossing(one: tuple[Floats, Floats, float], other: tuple[Floats, Floats, float]) -> Floats | None:
    (p, u, _), (q, v, _) = one, other
    det = u[0] * v[1] - u[1] * v[0]
    if abs(det) < 0.17:  # sides nearly along each other make no corner
        return None
    gap = q - p
    return np.asarray(p + u * (gap[0] * v[1] - gap[1] * v[0]) / det)


def _rectangle(ring: Floats, sides: list[tuple[Floats, Floats, float]]) -> Floats | None:
    """The rectangle nearest to a four-sided ring, or None where its corners are not right."""
    for k in range(4):
        u, v = sides[k - 1][1], sides[k][1]
        if abs(np.degrees(np.arccos(np.clip(abs(float(u @ v)), 0, 1))) - 90) > SQUARE_DEG:
            return None
    headings = [np.arctan2(side[1][1], side[1][0]) - (k % 2) * np.pi / 2 for k, side in enumerate(sides)]
    doubled = np.exp(2j * np.array(headings))
    heading = float(np.angle(doubled.sum())) / 2
    across = np.array((np.cos(heading), np.sin(heading)))
    down = np.array((-across[1], across[0]))
    low = [float(np.mean([sides[k][0] @ axis])) for k, axis in ((0, down), (1, across), (2, down), (3, across))]
    corners = [low[3] * across + low[0] * down, low[1] * across + low[0] * down]
    corners += [low[1] * across + low[2] * down, low[3] * across + low[2] * down]
    return np.array(corners)


def _distances(points: Floats, ring: Floats) -> Floats:
    """Distance of each point from a ring's sides."""
    a, b = ring[:-1], ring[1:]
    side = b - a
    share = np.clip(((points[:, None] - a) * side).sum(-1) / np.maximum((side**2).sum(-1), 1e-12), 0, 1)
    return np.asarray(np.hypot(*np.moveaxis(points[:, None] - (a + share[..., None] * side), -1, 0)).min(axis=1))


def _area(ring: Floats) -> float:
    """Twice the area a closed ring goes around, below 0 where it goes the other way."""
    return float(np.sum(ring[:-1, 0] * ring[1:, 1] - ring[1:, 0] * ring[:-1, 1]))


def _from_start(ring: Floats, way: Floats) -> Floats:
    """A closed ring of corners begun where the way began, and walked the way it went."""
    if _area(ring) * _area(np.vstack((way, way[:1]))) < 0:
        ring = ring[::-1]
    a, b = ring[:-1], ring[1:]
    side = b - a
    share = np.clip(((way[0] - a) * side).sum(-1) / np.maximum((side**2).sum(-1), 1e-12), 0, 1)
    feet = a + share[:, None] * side
    k = int(np.hypot(*(feet - way[0]).T).argmin())
    return np.vstack((feet[k], *(ring[:-1][(k + 1 + i) % len(a)] for i in range(len(a))), feet[k]))
