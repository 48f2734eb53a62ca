"""Writing and its paper: whether the ruling drowns the ink, and which spacing suits the letters."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import contrast, relative_luminance, rgb
from gray_quill.core.paper import Paper
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.letters import x_height_mm
from gray_quill.core.readings.lines import longest_line
from gray_quill.core.readings.reading import reading
from gray_quill.core.trace import Trace

OVER_RULES = 2.0  # times the contrast of the rules that ink has which reads over them; common practice, no source
AIR = 1.08  # of the reach of letters, between lines that do not touch
STEP_MM = 0.5
REACH = (1.0, 99.0)  # percentiles of the ink's height about its line: flourishes are no reason for wider rules
FULL = 1.0


@dataclasses.dataclass(frozen=True)
class OnPaper:
    """suits_mm: a spacing for these letters; None, as all that is read of letters, where there are too few."""

    rules: float = reading("rules", ":1", "Contrast of the ruling with the paper.")
    ink: float = reading("ink", ":1", "Contrast of the pen's ink with the paper.", better="more", attention=3.0)
    over_rules: float | None = reading(
        "ink over rules",
        "×",
        "Contrast of the ink over that of the ruling, both over none: under it rules drown thin lines.",
        better="more",
        attention=OVER_RULES,
    )
    x_height_mm: float | None = reading("x-height", "mm", "The commonest height of your letters.", digits=1)
    reach_mm: float | None = reading(
        "reach", "mm", "From the lowest to the highest of your letters on one line, but for flourishes.", digits=1
    )
    fill: float | None = reading(
        "line fill",
        "%",
        "Reach over the ruling's spacing; over 100 % lines run into each other.",
        better="less",
        attention=FULL,
    )
    slant_deg: float | None = reading("rise", "°", "How much your line rises over the ruling.", digits=1)
    suits_mm: float | None = reading("suits", "mm", "Spacing in which lines of these letters stay apart.", digits=1)


def read_on_paper(traces: Sequence[Trace], ink_contrast: float, paper: Paper, pitch_mm: float | None = None) -> OnPaper:
    """pitch_mm: from one line of writing to the next on this ruling, the spacing where it is not given."""
    light = contrast(relative_luminance(rgb(paper.rule_colour)), relative_luminance(rgb(paper.colour)))
    rules = 1.0 if paper.ruling == "blank" else float(light)
    over = None if rules <= 1.001 else (ink_contrast - 1) / (rules - 1)
    height = x_height_mm(traces)
    if height is None:
        return OnPaper(rules, ink_contrast, over, None, None, None, None, None)
    line = [traces[k] for k in longest_line(traces)]
    reach, rise = _reach(line)
    pitch = pitch_mm or paper.spacing_mm
    fill = reach / pitch if paper.ruling in ("ruled", "squared", "dotted", "columns") else None
    suits = float(np.ceil(reach * AIR / STEP_MM - 1e-9) * STEP_MM)
    return OnPaper(rules, ink_contrast, over, height, reach, fill, rise, suits)


def _reach(line: Sequence[Trace]) -> tuple[float, float]:
    """How far the letters of one line reach up and down, mm, and by how many degrees it rises."""
    x, y = (np.concatenate([getattr(t, axis) for t in line]) for axis in ("x_mm", "y_mm"))
    step: Floats = np.concatenate([np.append(np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)), 0.0) for t in line])
    wide = float(np.ptp(x)) > 20
    slope = float(np.polyfit(x, y, 1, w=np.sqrt(step + 1e-9))[0]) if wide else 0.0
    low, high = weighted_percentiles(y - slope * x, step, REACH)
    return float(high - low), float(-np.degrees(np.arctan(slope)))
