"""Proposals: one small search over the readings that deserve attention.

Each part of the pen (areas.py) is tried for the readings it moves. A proposal is made only if it leaves less trouble in
all (look.py) than there was; what else it changes is its price. What no setting brings within bounds together is told
as a trade to choose from. Trouble falls with every proposal taken, so that following them comes to an end.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.advice.areas import AREAS, Area, Trial
from gray_quill.core.advice.diagnosis import BOUNDED, KNOWN, Look, Values, excess, look_at
from gray_quill.core.ink.settle import Ink
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.reading import in_words
from gray_quill.core.trace import Trace

LEAST_GAIN, LEAST_SHARE = 0.1, 0.1  # of trouble, in bounds and of all there is: less is not worth a press
AS_GOOD = 0.02  # of trouble: among trials that differ by less the gentler is taken
FULLY_READ = 3  # trials of an area that are read in full, the best guesses first
NOTED_CHANGE = 0.1  # of a reading that has no bound, from which it is told as a price
PRICED = ("width_p50_mm", "range_ratio", "shake_left", "drag_ms", "corner_loss_mm")
FEW_REPORTS_MM = 1.2
LARGER = (1.25, 1.5, 2.0, 3.0, 4.0)  # times the letters' height, tried where no pen of its kind leaves them open

# reading -> title; the area's largest trouble gives a proposal its name
TITLES = {
    "floor_share": "Light strokes are lost",
    "ceiling_share": "Firm strokes are clipped",
    "range_used": "Range lies idle",
    "width_step": "The width jumps",
    "drag_ms": "The pen is heavy",
    "wobble_out_mm": "The line shakes",
    "corner_loss_mm": "Corners are lost",
    "open_share": "Letters close up",
    "max_taper_slope": "Tips are abrupt",
    "strokes_all_taper": "Tapers outrun the strokes",
}
EVIDENCE = {
    "floor_share": "{} of your reports sit at the floor and come out equally thin.",
    "ceiling_share": "{} of your reports sit at the ceiling and come out equally thick.",
    "range_used": "Your force uses {} of what this pen can do.",
    "width_step": "From one force level of this device to the next the width changes by {}.",
    "drag_ms": "The tip is {} late at your speed.",
    "wobble_out_mm": "On slow lines it strays {} to either side.",
    "corner_loss_mm": "The ink stays up to {} away from your sharp corners.",
    "open_share": "Only {} of the white inside your letters stays open.",
    "max_taper_slope": "At the ends the width changes by {}.",
    "strokes_all_taper": "{} of your strokes are shorter than their two tapers together.",
}


@dataclasses.dataclass(frozen=True)
class Change:
    """A reading before and after."""

    reading: str
    before: float | None
    after: float | None


@dataclasses.dataclass(frozen=True)
class Choice:
    """One side of a trade: what the button does, the pen after it, and the readings it is about."""

    doing: str
    recipe: Recipe
    changes: list[Change]


@dataclasses.dataclass(frozen=True)
class Advice:
    """title; evidence: the reading in words; doing: what the button does; recipe: the pen after it, None when nothing
    in the pen helps or when there is only a trade; reading: which reading it moves; before, after: that reading now
    and as predicted; price: what else it changes; choices: the sides of a trade.
    """

    title: str
    evidence: str
    doing: str
    recipe: Recipe | None
    reading: str
    before: float
    after: float
    price: list[Change] = dataclasses.field(default_factory=list)
    choices: list[Choice] = dataclasses.field(default_factory=list)


@dataclasses.dataclass(frozen=True)
class Step:
    """One proposal taken: the reading as predicted and as obtained, and the trouble before and after."""

    title: str
    doing: str
    reading: str
    before: float
    predicted: float
    obtained: float
    trouble_before: float
    trouble_after: float


def advise(traces: Sequence[Trace], recipe: Recipe, inks: Sequence[Ink] | None = None) -> list[Advice]:
    """All there is to say about this pen on these traces, in the order of AREAS, what can be done before the rest."""
    look = look_at(traces, recipe, inks)
    found = [advice for area in AREAS if (advice := _of_area(look, area)) is not None]
    found.sort(key=lambda a: a.recipe is None)
    few = _few_reports(look)
    return [*found, few] if few else found


def follow(traces: Sequence[Trace], recipe: Recipe, most_steps: int = 20) -> tuple[list[Step], Recipe]:
    """The first proposal taken, and the next, until there is none: the steps, and the pen they end at."""
    steps: list[Step] = []
    while len(steps) < most_steps:
        first = next((a for a in advise(traces, recipe) if a.recipe is not None), None)
        if first is None or first.recipe is None:
            break
        before, after = look_at(traces, recipe), look_at(traces, first.recipe)
        obtained = float(after.values[first.reading] or 0.0)
        steps.append(
            Step(
                first.title,
                first.doing,
                first.reading,
                first.before,
                first.after,
                obtained,
                before.trouble,
                after.trouble,
            )
        )
        recipe = first.recipe
    return steps, recipe


def _of_area(look: Look, area: Area) -> Advice | None:
    here = {key: excess(key, look.values[key]) for key in area.readings}
    worst = max(here, key=lambda key: here[key])
    if here[worst] == 0:
        return None
    guesses = [(trial, area.guess(look, trial.recipe)) for trial in area.trials(look)]
    ranked = sorted(guesses, key=lambda g: (round(_trouble(area, g[1]) / AS_GOOD), area.prefer(look, g[1])))
    best: tuple[Trial, Look] | None = None
    for trial, _ in ranked[:FULLY_READ]:
        after = look_at(look.traces, trial.recipe)
        helps = look.trouble - after.trouble >= max(LEAST_GAIN, LEAST_SHARE * look.trouble) and _says(look, after, area)
        if helps and (best is None or after.trouble < best[1].trouble - AS_GOOD):
            best = (trial, after)
    if best is not None:
        moved = max(area.readings, key=lambda key: here[key] - excess(key, best[1].values[key]))
        before, after_value = (float(v[moved] or 0.0) for v in (look.values, best[1].values))
        return Advice(
            TITLES[moved],
            _evidence(moved, look),
            best[0].doing,
            best[0].recipe,
            moved,
            before,
            after_value,
            _price(look, best[1], moved),
        )
    if area.name == "steady":
        return _trade(look, area, guesses)
    return _write_larger(look) if area.name == "size" else None


def _trouble(area: Area, values: Values) -> float:
    return sum(excess(key, values[key]) for key in area.readings if key in values)


def _says(before: Look, after: Look, area: Area) -> bool:
    """Whether some reading that was beyond its bound says better afterwards."""
    return any(
        excess(key, after.values[key]) < excess(key, before.values[key])
        and in_words(KNOWN[key], after.values[key]) != in_words(KNOWN[key], before.values[key])
        for key in area.readings
    )


def _evidence(key: str, look: Look) -> str:
    return EVIDENCE[key].format(in_words(KNOWN[key], look.values[key]))


def _price(before: Look, after: Look, moved: str) -> list[Change]:
    """What else changes: readings with a bound that get worse by a tenth of it, and others by a tenth."""
    found = []
    for key in dict.fromkeys((*BOUNDED, *PRICED)):
        one, other = before.values.get(key), after.values.get(key)
        if key == moved or one is None or other is None:
            continue
        known = KNOWN[key]
        worse = (one - other) if known.better == "more" else (other - one)
        least = NOTED_CHANGE * (known.attention if known.attention is not None else abs(one))
        if (worse if known.better else abs(worse)) > max(least, 1e-9):
            found.append(Change(key, one, other))
    return found


def _trade(look: Look, area: Area, guesses: Sequence[tuple[Trial, Values]]) -> Advice | None:
    """A shaking line and a pen that keeps up cannot be had together: the best of either."""
    wobble = look.values["wobble_out_mm"]
    if not guesses or excess("wobble_out_mm", look.readings.wobble_in_mm) == 0:
        return None

    def ranked(first: tuple[str, ...], then: tuple[str, ...]) -> tuple[Trial, Values]:
        def worth(guess: tuple[Trial, Values]) -> tuple[float, float]:
            return tuple(round(sum(excess(k, guess[1][k]) for k in keys), 2) for keys in (first, then))  # type: ignore[return-value]

        return min(guesses, key=worth)

    costs = ("drag_ms", "corner_loss_mm")
    sides = [ranked(("wobble_out_mm",), costs), ranked(costs, ("wobble_out_mm",))]
    choices = [
        Choice(
            trial.doing,
            trial.recipe,
            [Change(key, look.values[key], values[key]) for key in area.readings],
        )
        for trial, values in sides
    ]
    if _trouble(area, sides[0][1]) == 0 or choices[0].recipe == choices[1].recipe:
        return None
    calm = sides[0][1]
    told = [in_words(KNOWN[key], calm[key]) for key in ("wobble_out_mm", *costs)]
    return Advice(
        "Calm or quick, not both",
        f"Calmed to {told[0]} the tip is {told[1]} late and cuts corners by {told[2]}.",
        "No setting does both for this hand. Choose a side, or write a little slower or larger",
        None,
        "wobble_out_mm",
        float(wobble or 0.0),
        float(wobble or 0.0),
        choices=choices,
    )


def _write_larger(look: Look) -> Advice | None:
    """Where no width of its kind leaves letters open: from which height on they do."""
    for factor in LARGER:
        larger = [dataclasses.replace(t, x_mm=t.x_mm * factor, y_mm=t.y_mm * factor) for t in look.traces]
        after = look_at(larger, look.recipe)
        if excess("open_share", after.values["open_share"]) == 0:
            height = after.values.get("nib_widths") or 0.0
            return Advice(
                TITLES["open_share"],
                _evidence("open_share", look),
                f"This is a pen for large letters: write them {factor:g} times as tall, {height:.1f} nib widths",
                None,
                "open_share",
                float(look.values["open_share"] or 0.0),
                float(after.values["open_share"] or 0.0),
            )
    return None


def _few_reports(look: Look) -> Advice | None:
    """A device that reports too seldom for this hand."""
    steps = np.concatenate(
        [np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)) for t in look.traces if len(t) > 1] or [np.zeros(1)]
    )
    far = float(np.percentile(steps, 95))
    if far <= FEW_REPORTS_MM:
        return None
    return Advice(
        "Reports are far apart",
        f"At your speed the device reports every {far:.1f} mm; details between are guessed.",
        "Nothing in the pen mends this: write slower, or on a device with more reports a second",
        None,
        "report_hz",
        look.readings.report_hz,
        look.readings.report_hz,
    )
