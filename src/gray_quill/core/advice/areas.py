"""The parts of a pen that advice may change: which readings each moves, and what could be tried, gentlest first.

A new part is one Area in AREAS. Trials are cheap guesses; what is proposed has been read in full.
"""

import dataclasses
from collections.abc import Callable, Iterator

import numpy as np

from gray_quill.core.advice.diagnosis import COARSE_STEP, Look, Values, all_taper, force_values
from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.pen.ends import Ends
from gray_quill.core.pen.fit import fit_press
from gray_quill.core.pen.pressure_curve import Press, press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import METHODS, NONE, Steady, is_raw
from gray_quill.core.quantities import changed
from gray_quill.core.readings.ink_readings import corner_loss_mm, path_pairs, taper_readings
from gray_quill.core.readings.letters import letters_of, open_share
from gray_quill.core.readings.pace import median_speed_mm_s, report_hz
from gray_quill.core.readings.probes import SHAKE_MM, line_drag_ms, shake_left

BLENDS = (0.3, 0.6, 1.0)
AMOUNTS = (0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0)
BETAS = (0.15, 0.4)
TAPER_FACTORS = (0.25, 0.35, 0.5, 0.7, 1.0, 1.4, 2.0, 2.8, 4.0, 8.0)
TIPS = (0.3, 0.5, 0.7)
THINNER = (0.85, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2, 0.12)


@dataclasses.dataclass(frozen=True)
class Trial:
    """One thing that could be done: in words, and the pen after it."""

    doing: str
    recipe: Recipe


@dataclasses.dataclass(frozen=True)
class Area:
    """readings: what it moves. trials: what could be tried, gentlest first. guess: those readings after a trial.
    prefer: what to prefer among trials that leave as little trouble, smaller first.
    """

    name: str
    readings: tuple[str, ...]
    trials: Callable[[Look], Iterator[Trial]]
    guess: Callable[[Look, Recipe], Values]
    prefer: Callable[[Look, Values], float] = lambda look, values: 0.0


def _press_trials(look: Look) -> Iterator[Trial]:
    press = look.recipe.press
    if look.force is None or press.widening == 1 or np.ptp(look.force) < 0.05:
        return
    low, high = (round(float(v), 3) for v in np.percentile(look.force, (2, 98)))
    low = min(low, 0.9)
    wider = dataclasses.replace(press, floor=low, ceiling=float(np.clip(high, low + 0.05, 1)))
    yield _pressed(look, wider, f"Set the floor to {wider.floor:g} and the ceiling to {wider.ceiling:g}")
    for blend in BLENDS:
        yield _pressed(look, fit_press(look.force, press, blend), "Fit the press curve to this writing")
    step = force_values(look, press)["width_step"]
    if step and step > COARSE_STEP:
        calmer = max(1.0, float(np.floor(press.range ** (np.log1p(COARSE_STEP) / np.log1p(step)) * 10) / 10))
        yield _pressed(look, dataclasses.replace(press, range=calmer), f"Lower thin to thick to {calmer:g}")


def _pressed(look: Look, press: Press, doing: str) -> Trial:
    """With another press record, at the same middle width: a fit is not asked to make a pen bolder."""
    if look.force is None:
        return Trial(doing, look.recipe)
    shift = float(np.median(press_term(press, look.force)) - np.median(press_term(look.recipe.press, look.force)))
    width = float(np.clip(round(look.recipe.body.width_mm * np.exp(-shift), 3), 0.05, 60))
    return Trial(doing, changed(dataclasses.replace(look.recipe, press=press), "body.width_mm", width))


def _steady_trials(look: Look) -> Iterator[Trial]:
    now = look.recipe.steady
    own = [m for m in METHODS if m == now.method]
    for method in [*own, *(m for m in METHODS if m not in own)]:
        betas = (now.beta, *BETAS) if method == "one-euro" else (now.beta,)
        for beta in betas:
            for amount in AMOUNTS:
                steady = dataclasses.replace(now, method=method, amount=amount, beta=beta)
                answer = f", speed answer {beta:g}" if beta != now.beta else ""
                yield _steadied(look, steady, f"Steady with {method} {amount:g}{answer}")
    yield _steadied(look, dataclasses.replace(now, method=NONE), "Leave the path as your hand makes it")


def _steadied(look: Look, steady: Steady, doing: str) -> Trial:
    return Trial(doing, dataclasses.replace(look.recipe, steady=steady))


def _steady_guess(look: Look, recipe: Recipe) -> Values:
    hz, speed = report_hz(look.traces), median_speed_mm_s(look.traces)
    wobble = look.readings.wobble_in_mm
    left = shake_left(recipe.steady, hz, wobble or SHAKE_MM)
    _, _, caught_up = path_pairs(look.traces, [recipe] * len(look.traces))
    return {
        "drag_ms": line_drag_ms(recipe.steady, hz, speed),
        "wobble_out_mm": None if wobble is None else wobble * left,
        "corner_loss_mm": 0.0 if is_raw(recipe.steady) else corner_loss_mm(look.traces, caught_up),
        "shake_left": left,
    }


def _calm_or_light(look: Look, values: Values) -> float:
    """A line that shakes is calmed at the least drag; steadying that costs too much keeps what calm it can."""
    by = "drag_ms" if look.readings.wobble_in_mm and look.values["shake_left"] == 1 else "shake_left"
    return float(values[by] or 0.0)


def _end_trials(look: Look) -> Iterator[Trial]:
    ends = look.recipe.ends.for_width(look.recipe.body.width_mm)
    for tip in (0.0, *TIPS):
        for factor in TAPER_FACTORS:
            tried = dataclasses.replace(
                ends,
                start_mm=round(min(40, ends.start_mm * factor), 2),
                end_mm=round(min(40, ends.end_mm * factor), 2),
                start_tip=max(ends.start_tip, tip),
                end_tip=max(ends.end_tip, tip),
                ease=max(ends.ease, 0.8),
            )
            if tried != ends:
                yield Trial(_ends_said(tried, tip), dataclasses.replace(look.recipe, ends=tried))


def _ends_said(ends: Ends, tip: float) -> str:
    blunter = f", tips of {tip:g}" if tip else ""
    return f"Taper over {ends.start_mm:g} and {ends.end_mm:g} mm{blunter}, gently"


def _end_guess(look: Look, recipe: Recipe) -> Values:
    inks = settle_all(look.traces, recipe)
    slope = taper_readings(inks, [recipe] * len(inks))["max_taper_slope"]
    return {"max_taper_slope": slope, "strokes_all_taper": all_taper(look, recipe)}


def _size_trials(look: Look) -> Iterator[Trial]:
    was_true = judge_kind(look.recipe).met
    for factor in THINNER:
        width = round(look.recipe.body.width_mm * factor, 2)
        if width >= 0.05:
            thinner = changed(look.recipe, "body.width_mm", width)
            if judge_kind(thinner).met or not was_true:  # a pen does not stop being what it is called
                yield Trial(f"Make the pen {width:g} mm wide", thinner)


def _size_guess(look: Look, recipe: Recipe) -> Values:
    inks = settle_all(look.traces, recipe)
    return {"open_share": open_share(letters_of(look.traces), inks)}


# In the order in which they rest on each other: tips are read on the width that size and force leave.
AREAS: tuple[Area, ...] = (
    Area("size", ("open_share",), _size_trials, _size_guess),
    Area(
        "press",
        ("floor_share", "ceiling_share", "range_used", "width_step"),
        _press_trials,
        lambda look, recipe: force_values(look, recipe.press),
    ),
    Area("steady", ("drag_ms", "wobble_out_mm", "corner_loss_mm"), _steady_trials, _steady_guess, _calm_or_light),
    Area("ends", ("max_taper_slope", "strokes_all_taper"), _end_trials, _end_guess),
)
