"""Pieces to start with: figures, curves, axes, frames and signs as ways of the pen, drawn by the project.

Lengths in mm about the middle of the piece; a unit of the axes is UNIT_MM, and the curves are drawn in the same units,
so that they fit when both are put down at one place. Curves by their definitions: parabola y = x^2 / 2, exponential
y = 2^x / 4, bell y = 2 exp(-x^2 / 2).
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.trace import Trace, make_trace

UNIT_MM = 10.0
STEP_MM, SPEED_MM_S, FORCE = 0.6, 60.0, 0.5
Way = Floats


@dataclasses.dataclass(frozen=True)
class Piece:
    """ways: what the pen does, each (n, 2) mm, y downwards."""

    name: str
    ways: tuple[Way, ...]


def _line(*points: Sequence[float]) -> Way:
    return np.array(points, float)


def _curve(x: Floats, y: Floats) -> Way:
    """In units of the axes, y upwards."""
    return np.column_stack((x * UNIT_MM, -y * UNIT_MM))


def _ring(n: int, radius: float, turn: float = 0.0) -> Way:
    a = turn + np.linspace(0, 2 * np.pi, n + 1)
    return np.column_stack((radius * np.cos(a), radius * np.sin(a)))


def _oval(cx: float, cy: float, a: float, b: float, first: float = 0.0, last: float = 2 * np.pi) -> Way:
    t = np.linspace(first, last, 48)
    return np.column_stack((cx + a * np.cos(t), cy + b * np.sin(t)))


def _tip(x: float, y: float, angle: float, size: float = 2.5) -> Way:
    """An arrow's head with its point at (x, y)."""
    ends = [(x - size * np.cos(angle + s), y - size * np.sin(angle + s)) for s in (-0.45, 0.45)]
    return _line(ends[0], (x, y), ends[1])


def _ticks(values: Sequence[int], upright: bool) -> tuple[Way, ...]:
    at = [v * UNIT_MM for v in values]
    return tuple(_line((-1, -v), (1, -v)) if upright else _line((v, -1), (v, 1)) for v in at)


_X = np.linspace(-2.5, 2.5, 81)
_WHOLE = [k for k in range(-2, 3) if k]
_AXES = (
    _line((-28, 0), (28, 0)),
    _tip(28, 0, 0),
    _line((0, 28), (0, -28)),
    _tip(0, -28, -np.pi / 2),
    *_ticks(_WHOLE, False),
    *_ticks(_WHOLE, True),
)
_CLOUD = np.vstack(
    [_oval(x, y, r, r, a, b) for x, y, r, a, b in ((-7, 1, 5, 1.8, 4.6), (0, -3, 6.5, 3.5, 5.9), (8, 1, 5, 4.6, 7.6))]
)

PIECES: dict[str, Piece] = {
    piece.name: piece
    for piece in (
        Piece("axes", _AXES),
        Piece("number line", (_line((-35, 0), (35, 0)), _tip(35, 0, 0), *_ticks(range(-3, 4), False))),
        Piece("straight line", (_curve(_X, 0.8 * _X),)),
        Piece("parabola", (_curve(np.linspace(-2.2, 2.2, 81), np.linspace(-2.2, 2.2, 81) ** 2 / 2),)),
        Piece("sine", (_curve(_X, np.sin(np.pi * _X / 1.25)),)),
        Piece("exponential", (_curve(_X, 2**_X / 4),)),
        Piece("bell", (_curve(_X, 2 * np.exp(-(_X**2) / 2)),)),
        Piece("triangle", (_ring(3, 14, -np.pi / 2),)),
        Piece("square", (_line((-11, -11), (11, -11), (11, 11), (-11, 11), (-11, -11)),)),
        Piece("hexagon", (_ring(6, 13),)),
        Piece("circle", (_ring(96, 12),)),
        Piece(
            "cube",
            (
                _line((-11, -5), (5, -5), (5, 11), (-11, 11), (-11, -5), (-5, -11), (11, -11), (11, 5), (5, 11)),
                _line((5, -5), (11, -11)),
            ),
        ),
        Piece(
            "cylinder",
            (_oval(0, -12, 9, 3), _line((-9, -12), (-9, 12)), _oval(0, 12, 9, 3, 0, np.pi), _line((9, -12), (9, 12))),
        ),
        Piece("cone", (_oval(0, 11, 10, 3.2), _line((-10, 11), (0, -13), (10, 11)))),
        Piece("arrow", (_line((-18, 0), (18, 0)), _tip(18, 0, 0, 4))),
        Piece("arrow both ways", (_line((-18, 0), (18, 0)), _tip(18, 0, 0, 4), _tip(-18, 0, np.pi, 4))),
        Piece("frame", (_line((-30, -18), (30, -18), (30, 18), (-30, 18), (-30, -18)),)),
        Piece(
            "banner",
            (
                _line((-24, -6), (24, -6), (24, 6), (-24, 6), (-24, -6)),
                _line((-24, -2), (-33, -2), (-29, 4), (-33, 10), (-18, 10), (-18, 6)),
                _line((24, -2), (33, -2), (29, 4), (33, 10), (18, 10), (18, 6)),
            ),
        ),
        Piece(
            "table",
            tuple(_line((-30, y), (30, y)) for y in (-16, -8, 0, 8, 16))
            + tuple(_line((x, -16), (x, 16)) for x in (-30, -10, 10, 30)),
        ),
        Piece("sun", (_ring(48, 5), *(7 * _ring(8, 1)[k] * np.array([[1.0], [1.6]]) for k in range(8)))),
        Piece("cloud", (np.vstack((_CLOUD, _CLOUD[:1])),)),
        Piece("rain", (np.vstack((_CLOUD, _CLOUD[:1])), *(_line((x, 8), (x - 2, 13)) for x in (-7, -1, 5)))),
        Piece(
            "wind",
            tuple(
                _curve(np.linspace(-1.4, 1.4, 40), 0.12 * np.sin(3 * np.linspace(-1.4, 1.4, 40)) + dy)
                for dy in (-0.5, 0, 0.5)
            ),
        ),
    )
}


def piece_traces(piece: Piece, x_mm: float, y_mm: float, scale: float = 1.0) -> list[Trace]:
    """The piece as strokes with its middle at a place of the page, one after another."""
    traces, clock = [], 0.0
    for way in piece.ways:
        steps = np.hypot(*np.diff(way, axis=0).T) * scale
        along = np.concatenate(([0.0], np.cumsum(steps)))
        at = np.union1d(np.linspace(0, along[-1], max(4, int(along[-1] / STEP_MM) + 1)), along)
        x, y = (np.interp(at, along, way[:, k] * scale) for k in (0, 1))
        traces.append(make_trace(at / SPEED_MM_S, x_mm + x, y_mm + y, np.full(len(at), FORCE), begun_s=clock))
        clock += float(along[-1]) / SPEED_MM_S + 0.2
    return traces
