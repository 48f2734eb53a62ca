"""Body: the mark itself."""

import dataclasses

from gray_quill.core.quantities import choice, flag, number, tint

# Visible lengths along the arc in multiples of the body width: on, off, on, off ... A dot is one width long.
PATTERNS: dict[str, tuple[float, ...]] = {
    "solid": (),
    "dash": (5.0, 3.0),
    "dot": (1.0, 1.5),
    "dash-dot": (6.0, 2.0, 1.0, 2.0),
}


@dataclasses.dataclass(frozen=True)
class Line:
    pattern: str = choice("solid", tuple(PATTERNS), "Line", "Whole line or a pattern along it")
    scale: float = number(
        1,
        0.3,
        5,
        0.05,
        "x",
        "Pattern length",
        "Stretches the pattern; lengths are multiples of the width",
        knee=0.3,
        needs="pattern",
    )


@dataclasses.dataclass(frozen=True)
class Hollow:
    on: bool = flag(False, "Hollow", "Draw the stroke as two walls with a filling between them")
    wall_mm: float = number(0.15, 0.03, 2, 0.01, "mm", "Wall", "Thickness of each wall", knee=0.03, needs="on")
    fill: str = tint("#ffffff", "Filling", "Colour between the walls", needs="on")
    fill_opacity: float = number(
        0, 0, 1, 0.01, "", "Filling opacity", "0 leaves the paper showing between the walls", needs="on"
    )


@dataclasses.dataclass(frozen=True)
class Body:
    width_mm: float = number(
        0.5, 0.05, 20, 0.01, "mm", "Width", "Width at the middle of the press curve and the reference speed", knee=0.05
    )
    colour: str = tint("#20242b", "Colour", "Colour of the ink")
    opacity: float = number(
        1, 0.02, 1, 0.01, "", "Opacity", "How much of what lies below is covered; applied once to the whole stroke"
    )
    line: Line = Line()
    hollow: Hollow = Hollow()
