"""Where ink lies that was moved, turned, sized, stretched, slanted or pulled by a corner: projective maps of the page.

A placement (a, b, c, d, e, f, g, h) takes a place (x, y) to ((a x + c y + e) / w, (b x + d y + f) / w) with
w = g x + h y + 1. Composition and inverse are those of the matrix with rows (a, c, e), (b, d, f), (g, h, 1) (Hartley
and Zisserman, Multiple View Geometry in Computer Vision, 2nd ed. 2004, section 2.3).
"""

import math

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError

Placement = tuple[float, float, float, float, float, float, float, float]
IDENTITY: Placement = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0)
SMALLEST, LARGEST = 0.02, 50.0  # times its size; beyond it ink is no longer ink
SIMILAR = 1e-6  # how far an even placement may be from one, of its scale
PAGE_MM = 300.0  # on which that is judged
FARTHEST_MM = 1e5


def scale_of(placement: Placement) -> float:
    """How many times its size the ink is; of one pulled by a corner, at the page's origin."""
    a, b, c, d, e, f, g, h = placement
    return math.sqrt(abs((a - e * g) * (d - f * h) - (b - f * g) * (c - e * h)))


def is_straight(placement: Placement) -> bool:
    """Whether lines side by side stay so: it was not pulled by a corner."""
    return math.hypot(*placement[6:]) * PAGE_MM <= SIMILAR


def is_even(placement: Placement) -> bool:
    """Whether it scales the same both ways: turning, flipping, moving and sizing do, stretching, slanting and pulling
    do not.
    """
    a, b, c, d = placement[:4]
    turned = max(abs(a - d), abs(b + c))
    flipped = max(abs(a + d), abs(b - c))
    return is_straight(placement) and min(turned, flipped) <= SIMILAR * scale_of(placement)


def check_placement(placement: Placement, x_mm: Floats | None = None, y_mm: Floats | None = None) -> None:
    """Raises InputError for one that leaves no ink, in one direction or both; x_mm, y_mm: where the ink lies before,
    which matters where it is pulled by a corner.
    """
    if all(map(math.isfinite, placement)):
        x, y = (np.zeros(1) if v is None or is_straight(placement) else v for v in (x_mm, y_mm))
        beside = placement[6] * x + placement[7] * y + 1
        if (beside > 1 / LARGEST).all():
            sizes = np.linalg.svd(_around(placement, x, y), compute_uv=False)
            if sizes.min() >= SMALLEST and sizes.max() <= LARGEST:
                return
    raise InputError(f"Ink can be made {SMALLEST:g} to {LARGEST:g} times its size.", "placement")


def after(first: Placement, then: Placement) -> Placement:
    """What comes of placing once, and then again."""
    return _placement(_matrix(then) @ _matrix(first))


def inverse(placement: Placement) -> Placement:
    """The placement that puts back."""
    return _placement(np.asarray(np.linalg.inv(_matrix(placement)), float))


def placed(x: Floats, y: Floats, placement: Placement) -> tuple[Floats, Floats]:
    """Where places of the trace lie on the page."""
    a, b, c, d, e, f, g, h = placement
    w = g * x + h * y + 1
    return (a * x + c * y + e) / w, (b * x + d * y + f) / w


def turned(angle: Floats, x: Floats, y: Floats, placement: Placement) -> Floats:
    """Directions on the page of directions at places of the trace, without jumps where those have none."""
    a, b, c, d = placement[:4]
    turn: float | Floats = math.atan2(b, a)
    if not is_straight(placement):
        near = _around(placement, x, y)
        turn = np.arctan2(near[:, 1, 0], near[:, 0, 0])
    return np.asarray(turn + (angle if a * d - b * c > 0 else -angle))


def _around(placement: Placement, x: Floats, y: Floats) -> Floats:
    """What a small step at places (n,) becomes: matrices (n, 2, 2)."""
    a, b, c, d, _, _, g, h = placement
    w = g * x + h * y + 1
    px, py = placed(x, y, placement)
    return np.moveaxis(np.array([[a - px * g, c - px * h], [b - py * g, d - py * h]]) / w, -1, 0)


def _matrix(placement: Placement) -> Floats:
    a, b, c, d, e, f, g, h = placement
    return np.array([[a, c, e], [b, d, f], [g, h, 1.0]])


def _placement(matrix: Floats) -> Placement:
    """Raises InputError where the page's origin would lie at no place."""
    whole = float(matrix[2, 2])
    if abs(whole) < 1 / FARTHEST_MM:
        raise InputError("Pull the corner less far.", "placement")
    (a, c, e), (b, d, f), (g, h, _) = (matrix / whole).tolist()
    return a, b, c, d, e, f, g, h
