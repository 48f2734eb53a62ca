"""Rules that turn readings into proposals. Each looks at the pen on the writer's trace and may propose one change.

A new rule is one function and one line in RULES.
"""

import dataclasses
from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.ink.settle import Ink
from gray_quill.core.pen.fit import FEWEST_SAMPLES, fit_press
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import NONE
from gray_quill.core.quantities import changed
from gray_quill.core.readings.ink_readings import ABRUPT_MM_A_MM, HEAVY_MS, LOST_CORNER_MM, SHAKY_MM, Readings, read_ink
from gray_quill.core.readings.press_use import CLIPPED, PressUse, press_use
from gray_quill.core.readings.reading import SHARE, Reading, in_words, readings_of
from gray_quill.core.readings.trade_off import calmest_under
from gray_quill.core.trace import Trace, path_length_mm

LIGHT_MS = 15.0  # of drag that is proposed where there is too much; common practice, no source
ROOM_FOR_TAPERS = 0.6  # of a typical stroke's length
FEW_REPORTS_MM = 1.2
# relative width between neighbouring force levels that can be seen (Weber fraction of about 1/12; from memory)
COARSE_STEP = 0.08


@dataclasses.dataclass(frozen=True)
class Look:
    """What a rule may look at."""

    traces: Sequence[Trace]
    recipe: Recipe
    inks: Sequence[Ink]
    readings: Readings


@dataclasses.dataclass(frozen=True)
class Advice:
    """title; evidence: the reading in words; doing: what the button does; recipe: the pen after it, None when nothing
    in the pen helps; reading: which reading it moves; before, after: that reading now and as predicted.
    """

    title: str
    evidence: str
    doing: str
    recipe: Recipe | None
    reading: str
    before: float
    after: float


def _force(look: Look) -> np.ndarray:
    return np.concatenate([t.force for t in look.traces])


def clipped(look: Look) -> Advice | None:
    """Force that is stuck at the floor or the ceiling."""
    r = look.readings
    low_share, high_share = r.floor_share or 0.0, r.ceiling_share or 0.0
    share = low_share + high_share
    if (
        look.recipe.press.widening == 1
        or max(low_share, high_share) <= CLIPPED
        or r.samples < FEWEST_SAMPLES
        or "force" in look.traces[0].absent
    ):
        return None
    low, high = np.percentile(_force(look), (2, 98))
    press = dataclasses.replace(
        look.recipe.press, floor=round(float(min(low, 0.9)), 3), ceiling=round(float(np.clip(high, low + 0.05, 1)), 3)
    )
    where = "light strokes are lost" if low_share > high_share else "firm strokes are clipped"
    recipe = dataclasses.replace(look.recipe, press=press)
    after = press_use(_force(look), press)
    return Advice(
        where.capitalize(),
        f"{share:.0%} of your reports sit at the floor or the ceiling and come out alike.",
        f"Set the floor to {press.floor:g} and the ceiling to {press.ceiling:g}",
        recipe,
        "clipped_share",
        share,
        after.floor_share + after.ceiling_share,
    )


def unused_range(look: Look) -> Advice | None:
    """A pen that could vary more than this hand makes it vary."""
    press = look.recipe.press
    if press.widening < 1.5 or look.readings.samples < FEWEST_SAMPLES or "force" in look.traces[0].absent:
        return None
    use = press_use(_force(look), press)
    fitted = fit_press(_force(look), press, 0.6)
    after = press_use(_force(look), fitted)
    if use.range_used > 0.6 or after.range_used < use.range_used + 0.1:
        return None
    return Advice(
        "Range lies idle",
        f"Your force uses {use.range_used:.0%} of what this pen can do.",
        "Fit the press curve to this writing",
        dataclasses.replace(look.recipe, press=fitted),
        "range_used",
        use.range_used,
        after.range_used,
    )


def heavy(look: Look) -> Advice | None:
    """Steadying that makes the pen heavy."""
    if look.readings.drag_ms <= HEAVY_MS:
        return None
    point = calmest_under(look.traces, look.recipe.steady, LIGHT_MS)
    recipe = dataclasses.replace(
        look.recipe, steady=dataclasses.replace(look.recipe.steady, method=point.method, amount=round(point.amount, 2))
    )
    return Advice(
        "The pen is heavy",
        f"The tip is {look.readings.drag_ms:.0f} ms late and trails {look.readings.trail_mm:.2f} mm.",
        f"Take the calmest setting under {LIGHT_MS:g} ms: {point.method} {point.amount:.1f}",
        recipe,
        "drag_ms",
        look.readings.drag_ms,
        point.drag_ms,
    )


def shaky(look: Look) -> Advice | None:
    """A slow hand's wobble that little steadying would calm."""
    r, steady = look.readings, look.recipe.steady
    if r.wobble_out_mm < SHAKY_MM or r.drag_ms > LIGHT_MS * 0.6:
        return None
    point = calmest_under(look.traces, steady, LIGHT_MS)
    if point.method == NONE or point.wobble_mm > 0.85 * r.wobble_out_mm:
        return None
    recipe = dataclasses.replace(
        look.recipe, steady=dataclasses.replace(steady, method=point.method, amount=round(point.amount, 2))
    )
    return Advice(
        "The line shakes",
        f"It strays {r.wobble_out_mm:.2f} mm; {point.drag_ms:.0f} ms of drag would calm it.",
        f"Steady with {point.method} {point.amount:.1f}",
        recipe,
        "wobble_out_mm",
        r.wobble_out_mm,
        point.wobble_mm,
    )


def lost_corners(look: Look) -> Advice | None:
    """Corners that steadying rounds off."""
    r, steady = look.readings, look.recipe.steady
    if r.corner_loss_mm <= LOST_CORNER_MM:
        return None
    for tried in (
        [dataclasses.replace(steady, beta=round(min(2.0, steady.beta * k + 0.05), 3)) for k in (2, 4, 8)]
        if steady.method == "one-euro"
        else []
    ) + [dataclasses.replace(steady, amount=round(steady.amount * k, 2)) for k in (0.6, 0.35)]:
        recipe = dataclasses.replace(look.recipe, steady=tried)
        after = read_ink(look.traces, recipe)
        if after.corner_loss_mm < 0.6 * r.corner_loss_mm:
            doing = (
                f"Raise the speed answer to {tried.beta:g}"
                if tried.beta != steady.beta
                else f"Lower the amount to {tried.amount:g}"
            )
            return Advice(
                "Corners are lost",
                f"The ink stays {r.corner_loss_mm:.2f} mm away from a sharp corner of yours.",
                doing,
                recipe,
                "corner_loss_mm",
                r.corner_loss_mm,
                after.corner_loss_mm,
            )
    return None


def abrupt_tips(look: Look) -> Advice | None:
    """Tapers so steep that they look cut."""
    r, ends = look.readings, look.recipe.ends.for_width(look.recipe.body.width_mm)
    if r.max_taper_slope <= ABRUPT_MM_A_MM or (ends.start_mm == 0 and ends.end_mm == 0):
        return None
    both = ends.start_mm * (ends.start_tip < 1) + ends.end_mm * (ends.end_tip < 1)
    lengths = np.array([path_length_mm(t.x_mm, t.y_mm) for t in look.traces if len(t) > 1])
    room = ROOM_FOR_TAPERS * float(np.median(lengths)) / both if both > 0 and len(lengths) else 1.0
    factor = min(4.0, r.max_taper_slope / (0.75 * ABRUPT_MM_A_MM), room)  # tapers must leave a typical stroke its body
    if factor < 1.1:
        return None
    longer = dataclasses.replace(
        ends,
        start_mm=round(min(40, ends.start_mm * factor), 1),
        end_mm=round(min(40, ends.end_mm * factor), 1),
        ease=max(ends.ease, 0.8),
    )
    recipe = dataclasses.replace(look.recipe, ends=longer)
    after = read_ink(look.traces, recipe).max_taper_slope
    if not 0 < after <= 0.9 * r.max_taper_slope:
        return None
    return Advice(
        "Tips are abrupt",
        f"At the ends the width changes by up to {r.max_taper_slope:.1f} mm a mm.",
        f"Taper over {longer.start_mm:g} and {longer.end_mm:g} mm, gently",
        recipe,
        "max_taper_slope",
        r.max_taper_slope,
        after,
    )


def long_tapers(look: Look) -> Advice | None:
    """Tapers longer than the strokes they end."""
    ends = look.recipe.ends.for_width(look.recipe.body.width_mm)
    both = ends.start_mm * (ends.start_tip < 1) + ends.end_mm * (ends.end_tip < 1)
    lengths = np.array([path_length_mm(t.x_mm, t.y_mm) for t in look.traces if len(t) > 1])
    if both == 0 or not len(lengths):
        return None
    short = float((lengths < both).mean())
    if short <= 0.5:
        return None
    factor = float(np.percentile(lengths, 25)) / both
    tidy = dataclasses.replace(ends, start_mm=round(ends.start_mm * factor, 2), end_mm=round(ends.end_mm * factor, 2))
    recipe = dataclasses.replace(look.recipe, ends=tidy)
    after = float((lengths < both * factor).mean())
    return Advice(
        "Tapers outrun the strokes",
        f"{short:.0%} of your strokes are shorter than their two tapers together.",
        f"Shorten them to {tidy.start_mm:g} and {tidy.end_mm:g} mm",
        recipe,
        "strokes_all_taper",
        short,
        after,
    )


def few_reports(look: Look) -> Advice | None:
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


def coarse_levels(look: Look) -> Advice | None:
    """Force levels so coarse that the width jumps."""
    force = np.unique(np.round(_force(look), 6))
    press = look.recipe.press
    if press.widening == 1 or len(force) < 3 or "force" in look.traces[0].absent:
        return None
    step = float(np.median(np.diff(force)))
    slope = np.log(press.range) / max(press.ceiling - press.floor, 0.01)
    jump = float(np.exp(step * slope) - 1)
    if jump <= COARSE_STEP or len(force) > 400:
        return None
    calmer = round(max(1.0, press.range ** (COARSE_STEP / jump)), 1)
    recipe = changed(look.recipe, "press.range", calmer)
    return Advice(
        "The width jumps",
        f"From one force level of this device to the next the width changes by {jump:.0%}.",
        f"Lower thin to thick to {calmer:g}",
        recipe,
        "width_step",
        jump,
        float(np.exp(step * np.log(calmer) / max(press.ceiling - press.floor, 0.01)) - 1),
    )


# What advice reads beside the readings of the ink.
ADVICE_READINGS: dict[str, Reading] = {
    "clipped_share": Reading("force that is stuck", SHARE, "Share of your reports at the floor or the ceiling."),
    "range_used": readings_of(PressUse)["range_used"],
    "strokes_all_taper": Reading("strokes all taper", SHARE, "Strokes shorter than their two tapers together."),
    "width_step": Reading("step of width", SHARE, "Change of width from one level of force to the next."),
}
_DECLARED = readings_of(Readings) | ADVICE_READINGS
RULES: tuple[Callable[[Look], Advice | None], ...] = (
    clipped,
    unused_range,
    heavy,
    shaky,
    lost_corners,
    abrupt_tips,
    long_tapers,
    few_reports,
    coarse_levels,
)


def advise(traces: Sequence[Trace], recipe: Recipe, inks: Sequence[Ink], readings: Readings) -> list[Advice]:
    """All that the rules have to say about this pen on these traces, but what no reading would show."""
    look = Look(traces, recipe, inks, readings)
    found = [advice for rule in RULES if (advice := rule(look)) is not None]
    return [a for a in found if a.recipe is None or _shows(a)]


def _shows(advice: Advice) -> bool:
    """Whether the reading says anything else afterwards than before."""
    known = _DECLARED[advice.reading]
    return in_words(known, advice.before) != in_words(known, advice.after)
