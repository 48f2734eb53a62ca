"""What a stroke may cost to draw. What is dearer is refused before it is kept, in words the writer can act on."""

from gray_quill.core.errors import TooLarge
from gray_quill.core.pen.body import PATTERNS
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import Trace, path_length_mm

MOST_PATH_MM = 200_000.0  # half an hour of shading without a lift, at 110 mm/s
MOST_MARKS = 40_000  # of a line pattern along one stroke


def check_cost(trace: Trace, recipe: Recipe) -> None:
    """Raises TooLarge for a stroke that would take too long to draw with this pen."""
    length_mm = path_length_mm(trace.x_mm, trace.y_mm)
    if length_mm > MOST_PATH_MM:
        raise TooLarge(
            f"This stroke is {length_mm / 1000:.0f} m long; {MOST_PATH_MM / 1000:.0f} m is the most. Lift the pen, or "
            "check the units: positions are millimetres.",
            "x_mm",
        )
    check_dashes(length_mm, recipe)


def check_dashes(length_mm: float, recipe: Recipe) -> None:
    """Raises TooLarge for a line pattern that would be too many marks on this length."""
    line = recipe.body.line
    if line.pattern == "solid":
        return
    marks = length_mm / (sum(PATTERNS[line.pattern]) * recipe.body.width_mm * line.scale)
    if marks > MOST_MARKS:
        raise TooLarge(
            f"This stroke would be {marks:.0f} marks of a {line.pattern} line; {MOST_MARKS} is the most. Take a wider "
            "pen, a larger pattern or a solid line.",
            "recipe.body.line",
        )
