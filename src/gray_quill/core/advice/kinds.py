"""Does a pen do what its name says? Each kind is defined by numbers measured on fixed probes, not on a trace.

The bounds are common practice, no source: a ballpoint keeps its width, a fountain or brush pen widens with force, a
flat nib varies with direction only, a pencil answers to lean and force, a marker lays an even band, a highlighter lets
words through, a spray builds up where it rests.
"""

import dataclasses

import numpy as np

from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.pace import pace_term
from gray_quill.core.pen.pressure_curve import opacity_factor, press_term
from gray_quill.core.pen.recipe import KINDS, Recipe
from gray_quill.core.trace import Trace, make_trace


@dataclasses.dataclass(frozen=True)
class Nature:
    """What a pen does on the probes. Ratios are larger over smaller width: force_range from 10 to 90 % of the pen's own
    force span, light_answer over its lightest quarter, speed_range from 20 to 150 mm/s, direction_range over twelve
    directions, lean_range from 65 to 30 degrees. tone_range: opacity at firm over light. tips: the smaller of both
    ends' tips, tip_mm: the longer taper. rest_range: tone after resting a second over a tenth of one.
    """

    force_range: float
    light_answer: float
    speed_range: float
    direction_range: float
    lean_range: float
    tone_range: float
    tip: float
    tip_mm: float
    width_mm: float
    cover: float
    rest_range: float


@dataclasses.dataclass(frozen=True)
class Demand:
    """One bound of a kind's definition: a reading of Nature, its limits, and what it means in words."""

    reading: str
    low: float
    high: float
    words: str


MANY = 1e9
DEFINITIONS: dict[str, tuple[Demand, ...]] = {
    "ballpoint": (
        Demand("force_range", 0, 1.15, "keeps its width whatever the force"),
        Demand("direction_range", 0, 1.1, "keeps its width in every direction"),
        Demand("speed_range", 0, 1.15, "keeps its width at every speed"),
        Demand("width_mm", 0, 1.2, "writes a line, not a band"),
    ),
    "fountain": (
        Demand("force_range", 1.6, 8, "varies inside letters with force"),
        Demand("light_answer", 1.05, MANY, "answers light force"),
        Demand("tip", 0, 0.75, "tapers at an end"),
        Demand("width_mm", 0, 1.4, "writes letters"),
        Demand("direction_range", 0, 3, "is not ruled by direction alone"),
    ),
    "brush": (
        Demand("force_range", 4, MANY, "swells with force"),
        Demand("tip", 0, 0.35, "ends in a point"),
        Demand("width_mm", 0.7, MANY, "has a body to swell"),
    ),
    "flat nib": (
        Demand("direction_range", 2, MANY, "varies with direction"),
        Demand("force_range", 0, 1.3, "hardly varies with force"),
    ),
    "pencil": (
        Demand("lean_range", 1.5, MANY, "shades when leaned"),
        Demand("tone_range", 1.3, MANY, "darkens with force"),
        Demand("width_mm", 0, 1.5, "can still write"),
    ),
    "marker": (
        Demand("force_range", 0, 1.7, "lays an even band"),
        Demand("width_mm", 0.7, MANY, "is broad"),
        Demand("tip", 0.6, 1, "has blunt ends"),
        Demand("cover", 0.7, 1, "covers"),
    ),
    "highlighter": (
        Demand("width_mm", 2, MANY, "is as high as a line of words"),
        Demand("cover", 0, 0.75, "lets the words through"),
        Demand("force_range", 0, 1.5, "lays an even band"),
    ),
    "spray": (
        Demand("rest_range", 1.5, MANY, "builds up where it rests"),
        Demand("width_mm", 2, MANY, "spreads"),
        Demand("direction_range", 0, 1.1, "spreads the same in every direction"),
    ),
}
assert set(DEFINITIONS) == set(KINDS)


@dataclasses.dataclass(frozen=True)
class Failed:
    """A bound that a pen misses, in words, and its reading of Nature."""

    words: str
    reading: str
    value: float


@dataclasses.dataclass(frozen=True)
class Verdict:
    """met: whether the pen is what it says. failed: the bounds it misses. nearest: the kind it really is. demands: what
    its own kind asks for, in words.
    """

    kind: str
    met: bool
    failed: list[Failed]
    nearest: str
    demands: list[str]
    nature: Nature


def nature_of(recipe: Recipe) -> Nature:
    """Measure a pen on the probes."""
    press, span = recipe.press, recipe.press.ceiling - recipe.press.floor
    force = recipe.press.floor + span * np.array([0.1, 0.9, 0.0, 0.25])
    p = press_term(press, force)
    tone = opacity_factor(press, force)
    pace = pace_term(recipe.pace, np.array([20.0, 150.0]))
    ends = recipe.ends.for_width(recipe.body.width_mm)
    tips = [
        tip if length > 0 else 1.0 for tip, length in ((ends.start_tip, ends.start_mm), (ends.end_tip, ends.end_mm))
    ]
    plain = dataclasses.replace(
        recipe,
        steady=type(recipe.steady)(),
        ends=type(ends)(),
        body=dataclasses.replace(recipe.body, line=type(recipe.body.line)()),
    )
    directions = [_width(plain, k * np.pi / 6, np.pi / 2) for k in range(12)]
    leans = [_width(plain, np.pi / 2, np.radians(a)) for a in (65, 30)]
    return Nature(
        float(np.exp(p[1] - p[0])),
        float(np.exp(p[3] - p[2])),
        float(np.exp(abs(pace[1] - pace[0]))),
        max(directions) / min(directions),
        max(leans) / min(leans),
        float(tone[1] / tone[0]),
        min(tips),
        max(ends.start_mm, ends.end_mm),
        recipe.body.width_mm,
        recipe.body.opacity,
        float((1 - np.exp(-recipe.wash.flow)) / (1 - np.exp(-recipe.wash.flow / 10)))
        if recipe.wash.tip.shape == "spray"
        else 1.0,
    )


def _width(recipe: Recipe, heading: float, altitude: float) -> float:
    """Mark width on a straight probe stroke at middle force and everyday speed, the pen pointing along +x."""
    ink = settle(_probe(heading, altitude, recipe), recipe)
    return float(np.median(ink.mark_width_mm()))


def _probe(heading: float, altitude: float, recipe: Recipe) -> Trace:
    n = 60
    t = np.arange(n) / 120
    reach = recipe.pace.reference_mm_s * t
    middle = (recipe.press.floor + recipe.press.ceiling) / 2
    return make_trace(
        t, reach * np.cos(heading), reach * np.sin(heading), np.full(n, middle), np.full(n, altitude), np.zeros(n)
    )


def judge_kind(recipe: Recipe) -> Verdict:
    """Whether the pen does what its kind says, and if not, what it really is."""
    nature = nature_of(recipe)
    failed = [
        Failed(d.words, d.reading, float(getattr(nature, d.reading)))
        for d in DEFINITIONS[recipe.kind]
        if not d.low <= getattr(nature, d.reading) <= d.high
    ]
    demands = [d.words for d in DEFINITIONS[recipe.kind]]
    if not failed:
        return Verdict(recipe.kind, True, [], recipe.kind, demands, nature)
    nearest = min(KINDS, key=lambda kind: (_miss(nature, kind), kind != recipe.kind))
    return Verdict(recipe.kind, False, failed, nearest, demands, nature)


def _miss(nature: Nature, kind: str) -> float:
    """How far a pen is from a kind: the sum of the log distances to its bounds."""
    total = 0.0
    for d in DEFINITIONS[kind]:
        value = max(float(getattr(nature, d.reading)), 1e-3)
        total += max(0.0, np.log(max(d.low, 1e-3) / value)) + max(0.0, np.log(value / max(d.high, 1e-3)))
    return total
