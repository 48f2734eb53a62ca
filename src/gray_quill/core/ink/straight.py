"""Drawing a stroke towards a straight line: its own best one, or the sheet's ruling."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.paper import Paper
from gray_quill.core.pen.highlighter import Wash
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.trace import Trace

HOLD_S, HOLD_MM = 0.5, 0.8  # a rest at the end this long, inside a circle this large, asks for a straight stroke
HOLD_LEAST_MM = 6.0  # shorter strokes are letters
RULING_DEG = 20.0  # a stroke within this of a rule's direction follows it
ON_RULE_MM = 1.0  # and lies on the rule where it is this near


@dataclasses.dataclass(frozen=True, eq=False)
class Rules:
    """Where the ruling runs: level rules at y_mm, upright ones at x_mm. Dots count as rules both ways."""

    x_mm: Floats
    y_mm: Floats


def rules_of(paper: Paper | None) -> Rules:
    """The rules of a sheet; none for blank sheets or no sheet."""
    if paper is None or paper.ruling == "blank":
        return Rules(np.zeros(0), np.zeros(0))
    marks = ruling_marks(paper)
    level = marks.lines[:, 1] == marks.lines[:, 3]
    margins = (paper.margin_mm, paper.width_mm - paper.margin_mm)
    upright = (marks.lines[:, 0] == marks.lines[:, 2]) & ~(np.isin(marks.lines[:, 0], margins) & (paper.margin_mm > 0))
    return Rules(
        np.unique(np.concatenate((marks.lines[upright, 0], marks.dots[:, 0]))),
        np.unique(np.concatenate((marks.lines[level, 1], marks.dots[:, 1]))),
    )


def held_still(trace: Trace) -> bool:
    """Whether the hand rested at the end of a stroke long enough to ask for a straight one."""
    from_end = np.hypot(trace.x_mm - trace.x_mm[-1], trace.y_mm - trace.y_mm[-1])
    moving = np.flatnonzero(from_end > HOLD_MM)
    if not moving.size or float(np.hypot(np.diff(trace.x_mm), np.diff(trace.y_mm)).sum()) < HOLD_LEAST_MM:
        return False
    return float(trace.t_s[-1] - trace.t_s[moving[-1] + 1]) >= HOLD_S


def strength_for(trace: Trace, wash: Wash) -> float:
    """How strongly this stroke is straightened: the pen's own strength, or fully where the hand held still to ask for
    it.
    """
    return 1.0 if wash.hold_straight and wash.straighten < 1 and held_still(trace) else wash.straighten


def straightened(x: Floats, y: Floats, strength: float, rules: Rules | None = None) -> tuple[Floats, Floats]:
    """The path (n,) drawn by `strength` 0..1 towards its line of least squared distance, each part weighing by its
    length.

    With rules, a stroke that runs along them takes their direction, and lies on a rule that is near.
    """
    if strength == 0 or len(x) < 3:
        return x, y
    step = np.hypot(np.diff(x), np.diff(y))
    weight = np.concatenate(([0.0], step)) + np.concatenate((step, [0.0]))
    if weight.sum() < 1e-9:
        return x, y
    weight = weight / weight.sum()
    cx, cy = float(weight @ x), float(weight @ y)
    dx, dy = x - cx, y - cy
    heading = 0.5 * np.arctan2(2 * weight @ (dx * dy), weight @ (dx * dx) - weight @ (dy * dy))
    if rules is not None:
        heading, cx, cy = _onto(rules, float(heading), cx, cy)
    ux, uy = np.cos(heading), np.sin(heading)
    along = (x - cx) * ux + (y - cy) * uy
    return x + strength * (cx + along * ux - x), y + strength * (cy + along * uy - y)


def _onto(rules: Rules, heading: float, cx: float, cy: float) -> tuple[float, float, float]:
    """Direction and a point of the rule a line follows; the line itself where it follows none."""
    off_level = abs((heading + np.pi / 2) % np.pi - np.pi / 2)
    off_upright = np.pi / 2 - off_level
    if len(rules.y_mm) and off_level <= np.radians(RULING_DEG):
        near = float(rules.y_mm[np.abs(rules.y_mm - cy).argmin()])
        return 0.0, cx, near if abs(near - cy) <= ON_RULE_MM else cy
    if len(rules.x_mm) and off_upright <= np.radians(RULING_DEG):
        near = float(rules.x_mm[np.abs(rules.x_mm - cx).argmin()])
        return np.pi / 2, near if abs(near - cx) <= ON_RULE_MM else cx, cy
    return heading, cx, cy
