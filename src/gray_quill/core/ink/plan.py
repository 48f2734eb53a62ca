"""The pen plan: a pen compiled into tables, so that the browser only looks values up and draws.

`compile_plan` is the one place that turns a recipe into what live ink needs; web/src/ink/ reads it and has no rules of
its own.
"""

import base64
import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.dry_media import CRUMB_FINER, CRUMB_LOAD, LEVELLED, SMEAR_LOOKS, SMEAR_SAMPLES
from gray_quill.core.ink.grain import (
    CRUMB_FADE,
    CRUMB_TONE,
    DROPS,
    SIDE,
    THIN,
    VALLEYS,
    WAVELENGTH,
    fade,
    surface_bytes,
)
from gray_quill.core.ink.spray import PUFF_S
from gray_quill.core.ink.straight import HOLD_LEAST_MM, HOLD_MM, HOLD_S, ON_RULE_MM, RULING_DEG, rules_of
from gray_quill.core.ink.two_tone import in_plain, is_plain_able, plain_plan
from gray_quill.core.ink.width import footprint
from gray_quill.core.paper import Paper
from gray_quill.core.pen.body import PATTERNS
from gray_quill.core.pen.ends import taper
from gray_quill.core.pen.highlighter import POOL_LOSS, POOL_WIDTHS, WET_LOSS, blend_on, wet_rim_mm
from gray_quill.core.pen.lean import lean_share
from gray_quill.core.pen.pace import DOT_SPEED_MM_S, SPEED_TAU_MS, pace_term
from gray_quill.core.pen.pressure_curve import opacity_factor, press_share, press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import METHODS, is_raw
from gray_quill.core.pen.steady.look_ahead import STALE_MS, TAU_MS
from gray_quill.core.pen.tooth import PACE_SHARE, SKIRT, TILE, grade_load, hairs_of, load_over_lean

FORCE_STEPS = 1024
TAPER_STEPS = 256
ALTITUDE_STEPS = 181
FASTEST_MM_S = 4000.0
FALLOFF_STEPS = 256


@dataclasses.dataclass(frozen=True)
class SmearPlan:
    """The share of a mark that is dragged along the motion, how far, in samples of the surface, and in how many
    looks.
    """

    share: float
    samples: float
    looks: int


@dataclasses.dataclass(frozen=True)
class CrumbPlan:
    """Bits beside the mark: the surface whose drops say where they lie, `finer` there; how much of it full load covers;
    how far they fall, of the half width; how dark they are, and over which share of heights they fade.
    """

    surface: str
    finer: float
    load: float
    skirt: float
    tone: float
    fade: float


@dataclasses.dataclass(frozen=True)
class PoolPlan:
    """Opacity lost away from where the pen lands, and how far from there."""

    loss: float
    reach_mm: float


@dataclasses.dataclass(frozen=True)
class GrainPlan:
    """What live ink needs of the surface: its name, heights 0..255 row by row in base64, samples a mm, and how load
    becomes a mark (grain.py). heights: empty where they are those of a surface that ships, and are had elsewhere.
    bristles, hairs: how far a brush splits, and into how many (rub.py). levelled: how much of the surface is level
    where strokes below have filled it.
    """

    surface: str
    size: int
    heights: str
    per_mm: float
    depth: float
    soft: float
    valleys: float
    thin: float
    crisp: bool
    load_over_altitude: list[float]
    pace_share: float
    bristles: float
    hairs: int
    levelled: float
    smear: SmearPlan | None
    crumbs: CrumbPlan | None


@dataclasses.dataclass(frozen=True)
class HoldPlan:
    """Rest at the end of a stroke that asks for it to be drawn straight."""

    after_s: float
    within_mm: float
    least_mm: float


@dataclasses.dataclass(frozen=True)
class StraightPlan:
    """How strongly strokes are drawn straight, along which rules, and what rest at the end asks for it."""

    strength: float
    hold: HoldPlan | None
    x_mm: list[float]
    y_mm: list[float]
    within: float
    reach_mm: float


@dataclasses.dataclass(frozen=True)
class HollowPlan:
    wall_mm: float
    fill: str
    fill_opacity: float


@dataclasses.dataclass(frozen=True)
class WetPlan:
    """A wet mark loses `loss` of its tone inside a rim of wall_mm."""

    wall_mm: float
    loss: float


@dataclasses.dataclass(frozen=True)
class SteadyPlan:
    """The filter: its method ("none" for raw paths) and own parameter."""

    method: str
    parameter: float = 0.0
    beta: float = 0.0
    d_cutoff_hz: float = 0.0


@dataclasses.dataclass(frozen=True)
class AheadPlan:
    """How far ahead of the tip ink is drawn, the time constant that calms the tip's velocity, and after how long
    without a report the pen has stopped.
    """

    ahead_ms: float
    tau_ms: float
    stale_ms: float


@dataclasses.dataclass(frozen=True)
class PenPlan:
    """Tables of ln width over force, ln speed and start distance; opacity over force; aspect over altitude; the filter.

    press, press_share (what the press chart draws), opacity_over_force: FORCE_STEPS entries over force 0..1. pace: its
    first and last value over ln(v + dot_speed_mm_s), which it is linear in, from speed 0 to fastest_mm_s. landing_mm_s:
    the speed a stroke is taken to have until its second sample. start:
    TAPER_STEPS entries over 0..start_mm. aspect: ALTITUDE_STEPS over 0..pi/2. spray: dose a second over the squared
    distance from the middle (0) to the edge (1). puff_s: seconds of flow a spray lays as it lands. even: the share of
    its tone that it does not lay twice. hard_edges: a pixel is inked or it is not.
    """

    name: str
    colour: str
    opacity: float
    ln_width: float
    press: list[float]
    press_share: list[float]
    opacity_over_force: list[float]
    grain: GrainPlan | None
    pace: tuple[float, float]
    dot_speed_mm_s: float
    fastest_mm_s: float
    landing_mm_s: float
    speed_tau_ms: float
    start_mm: float
    start: list[float]
    shape: str
    aspect: list[float]
    angle: float | None
    pattern_mm: list[float]
    width_mm: float
    hollow: HollowPlan | None
    wet: WetPlan | None
    pool: PoolPlan | None
    even: float
    spray: list[float] | None
    puff_s: float
    straight: StraightPlan | None
    place: str
    blend: str
    steady: SteadyPlan
    ahead: AheadPlan | None
    hard_edges: bool = False


def compile_plan(recipe: Recipe, paper_colour: str, paper: Paper | None = None, plain: bool = False) -> PenPlan:
    """The tables of a pen. paper: the sheet whose ruling strokes may be drawn along. plain: in plain ink, where the pen
    can be drawn so.
    """
    if plain and is_plain_able(recipe):
        return plain_plan(compile_plan(in_plain(recipe), paper_colour, paper), paper_colour)
    force = np.linspace(0, 1, FORCE_STEPS)
    altitude = np.linspace(0, np.pi / 2, ALTITUDE_STEPS)
    aspect, angle = footprint(recipe, altitude, np.zeros(ALTITUDE_STEPS))
    tip, body, steady = recipe.wash.tip, recipe.body, recipe.steady
    ends = recipe.ends.for_width(body.width_mm)
    start_mm = ends.start_mm if ends.start_tip < 1 else 0.0
    along = np.linspace(0, start_mm, TAPER_STEPS)
    toothed = recipe.tooth.toothed
    opacity = opacity_factor(recipe.press, force)
    slow, fast = _table(pace_term(recipe.pace, np.array([0.0, FASTEST_MM_S])))
    return PenPlan(
        name=recipe.name,
        colour=body.colour,
        opacity=body.opacity,
        ln_width=float(np.log(body.width_mm)),
        press=_table(press_term(recipe.press, force)),
        press_share=_table(press_share(recipe.press, force)),
        opacity_over_force=_table(grade_load(recipe.tooth.grade, opacity) if toothed else opacity),
        grain=_grain(recipe, altitude) if toothed else None,
        pace=(slow, fast),
        dot_speed_mm_s=DOT_SPEED_MM_S,
        fastest_mm_s=FASTEST_MM_S,
        landing_mm_s=recipe.pace.reference_mm_s,
        speed_tau_ms=SPEED_TAU_MS,
        start_mm=start_mm,
        start=_table(np.log(taper(along, float(start_mm), float(ends.start_tip), float(ends.ease)))),
        shape=tip.shape,
        aspect=_table(aspect),
        angle=float(angle[0]) if tip.shape in ("ellipse", "chisel") else None,
        pattern_mm=[length * body.width_mm * body.line.scale for length in PATTERNS[body.line.pattern]],
        width_mm=body.width_mm,
        hollow=HollowPlan(body.hollow.wall_mm, body.hollow.fill, body.hollow.fill_opacity) if body.hollow.on else None,
        wet=WetPlan(wet_rim_mm(body.width_mm), WET_LOSS * recipe.wash.wet_edge)
        if recipe.wash.wet_edge > 0 and not body.hollow.on
        else None,
        pool=PoolPlan(POOL_LOSS * recipe.wash.pool, POOL_WIDTHS * body.width_mm)
        if recipe.wash.pool > 0 and tip.shape != "spray"
        else None,
        even=1 - recipe.wash.streaks,
        spray=_table(recipe.wash.flow * (1 - np.linspace(0, 1, FALLOFF_STEPS)) ** 2) if tip.shape == "spray" else None,
        puff_s=PUFF_S,
        straight=_straight(recipe, paper),
        place=recipe.wash.place,
        blend=blend_on(recipe.wash, paper_colour),
        steady=SteadyPlan("none")
        if is_raw(steady)
        else SteadyPlan(
            steady.method, METHODS[steady.method].parameter(steady.amount), steady.beta, steady.d_cutoff_hz
        ),
        ahead=AheadPlan(steady.ahead_ms, TAU_MS, STALE_MS) if steady.ahead_ms and looks_ahead(recipe) else None,
    )


def looks_ahead(recipe: Recipe) -> bool:
    """Whether ink of this pen can be drawn ahead: not a spray's, which takes time to lie, nor where the grain is seen
    through the whole stroke at once.
    """
    whole = recipe.body.hollow.on or recipe.wash.wet_edge > 0
    return recipe.wash.tip.shape != "spray" and not (recipe.tooth.toothed and whole)


def _grain(recipe: Recipe, altitude: Floats) -> GrainPlan:
    tooth = recipe.tooth
    return GrainPlan(
        surface=tooth.grain,
        size=TILE if tooth.grain == "own" else SIDE,
        heights=tooth.own if tooth.grain == "own" else base64.b64encode(surface_bytes(tooth.grain)).decode(),
        per_mm=WAVELENGTH / tooth.scale_mm,
        depth=tooth.depth,
        soft=fade(tooth),
        valleys=VALLEYS,
        thin=THIN,
        crisp=tooth.crisp,
        load_over_altitude=_table(load_over_lean(lean_share(recipe.lean, altitude))),
        pace_share=PACE_SHARE,
        bristles=tooth.bristles,
        hairs=hairs_of(recipe.body.width_mm),
        levelled=LEVELLED,
        smear=SmearPlan(tooth.smear, SMEAR_SAMPLES, SMEAR_LOOKS) if tooth.smear > 0 else None,
        crumbs=CrumbPlan(DROPS, CRUMB_FINER, CRUMB_LOAD * tooth.crumbs, SKIRT, CRUMB_TONE, CRUMB_FADE)
        if tooth.crumbs > 0
        else None,
    )


def _straight(recipe: Recipe, paper: Paper | None) -> StraightPlan | None:
    """None where strokes are never drawn straight."""
    wash = recipe.wash
    if wash.straighten == 0 and not wash.hold_straight:
        return None
    rules = rules_of(paper if wash.straight_to == "the ruling" else None)
    return StraightPlan(
        strength=wash.straighten,
        hold=HoldPlan(HOLD_S, HOLD_MM, HOLD_LEAST_MM) if wash.hold_straight else None,
        x_mm=_table(rules.x_mm),
        y_mm=_table(rules.y_mm),
        within=float(np.radians(RULING_DEG)),
        reach_mm=ON_RULE_MM,
    )


def _table(values: Floats) -> list[float]:
    return [round(float(v), 7) for v in values]
