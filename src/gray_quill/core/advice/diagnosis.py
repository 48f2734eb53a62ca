"""What advice looks at: a pen on some writing, the readings that deserve attention, and how much trouble they make."""

import dataclasses
import functools
from collections.abc import Mapping, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.pen.fit import FEWEST_SAMPLES
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.readings.press_use import press_use
from gray_quill.core.readings.reading import SHARE, Reading, readings_of
from gray_quill.core.trace import Trace, path_length_mm

# relative width between neighbouring force levels that can be seen (Weber fraction of about 1/12; from memory)
COARSE_STEP = 0.08
SMALLEST_RANGE = 1.5  # thin to thick from which a hand expects its force to be seen
MOST_LEVELS = 400  # a device with more levels of force steps too finely to be seen

# What advice reads beside the readings of the ink. Bounds are common practice, no source.
ADVICE_READINGS: dict[str, Reading] = {
    "range_used": Reading(
        "range in use",
        SHARE,
        "Share of what the pen can do that nine tenths of your force bring out.",
        better="more",
        attention=0.6,
    ),
    "strokes_all_taper": Reading(
        "strokes all taper",
        SHARE,
        "Strokes shorter than their two tapers together.",
        better="less",
        attention=0.5,
    ),
    "width_step": Reading(
        "step of width",
        SHARE,
        "Change of width from one level of force to the next.",
        better="less",
        attention=COARSE_STEP,
    ),
}
KNOWN = readings_of(Readings) | ADVICE_READINGS
BOUNDED = {key: known for key, known in KNOWN.items() if known.attention is not None}
Values = Mapping[str, float | None]


@dataclasses.dataclass(frozen=True, eq=False)
class Look:
    """A pen on some writing. values: every reading by key, None where it cannot be told."""

    traces: tuple[Trace, ...]
    recipe: Recipe
    readings: Readings
    values: Values

    @functools.cached_property
    def trouble(self) -> float:
        """How far the readings that deserve attention lie beyond their bounds, in bounds, added up."""
        return sum(excess(key, value) for key, value in self.values.items())

    @functools.cached_property
    def force(self) -> Floats | None:
        """All force told, None where it is too little to go by."""
        told = [t.force for t in self.traces if "force" not in t.absent]
        force = np.concatenate(told) if told else np.zeros(0)
        return force if len(force) >= FEWEST_SAMPLES else None

    @functools.cached_property
    def lengths_mm(self) -> Floats:
        """Lengths of the strokes that are more than dots."""
        return np.array([path_length_mm(t.x_mm, t.y_mm) for t in self.traces if len(t) > 1])


def look_at(traces: Sequence[Trace], recipe: Recipe, inks: Sequence[Ink] | None = None) -> Look:
    """Everything read of a pen on some writing."""
    inks = inks or settle_all(traces, recipe)
    readings = read_ink(traces, recipe, inks)
    look = Look(tuple(traces), recipe, readings, {})
    values = {key: getattr(readings, key) for key in readings_of(Readings)}
    values |= force_values(look, recipe.press) | {"strokes_all_taper": all_taper(look, recipe)}
    return dataclasses.replace(look, values=values)


def excess(key: str, value: float | None) -> float:
    """How far a reading lies beyond its bound, over the bound; 0 within it, and where there is none to tell."""
    known = BOUNDED.get(key)
    if known is None or value is None or known.attention is None:
        return 0.0
    beyond = known.attention - value if known.better == "more" else value - known.attention
    return max(0.0, beyond / known.attention)


def force_values(look: Look, press: Press) -> dict[str, float | None]:
    """What a press record does with the force of this writing."""
    if look.force is None or press.widening == 1:
        return {"range_used": None, "width_step": None}
    use = press_use(look.force, press)
    told = press.widening >= SMALLEST_RANGE
    return {
        "floor_share": use.floor_share,
        "ceiling_share": use.ceiling_share,
        "range_used": use.range_used if told else None,
        "width_step": _width_step(look.force, press),
    }


def _width_step(force: Floats, press: Press) -> float | None:
    levels = np.unique(np.round(force, 6))
    if not 3 <= len(levels) <= MOST_LEVELS:
        return None
    slope = np.log(press.range) / max(press.ceiling - press.floor, 0.01)
    return float(np.exp(float(np.median(np.diff(levels))) * slope) - 1)


def all_taper(look: Look, recipe: Recipe) -> float | None:
    """Share of strokes shorter than their two tapers together."""
    both = tapers_mm(recipe)
    return float((look.lengths_mm < both).mean()) if both and len(look.lengths_mm) else None


def tapers_mm(recipe: Recipe) -> float:
    """Length of both tapers together, as far as they thin the line."""
    ends = recipe.ends.for_width(recipe.body.width_mm)
    return ends.start_mm * (ends.start_tip < 1) + ends.end_mm * (ends.end_tip < 1)
