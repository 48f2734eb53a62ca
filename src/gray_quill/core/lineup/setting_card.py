"""A pen on a device, written down for the wall or for typing into another driver: every setting that has an effect."""

import dataclasses
from collections.abc import Mapping
from operator import attrgetter
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lineup.case import Case, simulated_ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.palm.rules import Rules
from gray_quill.core.paper import first_paper
from gray_quill.core.pen.pressure_curve import press_share
from gray_quill.core.pen.recipe import GROUPS, Recipe
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.notes import effort_word
from gray_quill.core.readings.reading import in_words, said

CURVE_STEPS = 11  # of force, 0 to 1, the curve is told at


@dataclasses.dataclass(frozen=True)
class Settings:
    """A group of settings: what each is called, and how it stands."""

    title: str
    rows: list[tuple[str, str]]


@dataclasses.dataclass(frozen=True)
class Card:
    """curve: force as the device reports it (0..1), its level there, and the share of the pen's range it makes (0..1);
    thin_mm, thick_mm: the line at the lightest and the firmest; groups: every setting that has an effect.
    """

    pen: str
    kind: str
    device: str
    curve: list[tuple[float, int, float]]
    thin_mm: float
    thick_mm: float
    groups: list[Settings]


def setting_card(recipe: Recipe, device: Device, hand: Hand, rules: Rules | None, seed: int = 1) -> Card:
    """rules: of the palm, None to leave them out. hand: whose writing tells what the steadying does."""
    force = np.linspace(0, 1, CURVE_STEPS)
    share = press_share(recipe.press, force)
    top = device.digitiser.levels - 1
    curve = [(float(f), round(float(f) * top), float(s)) for f, s in zip(force, share, strict=True)]
    root = float(np.sqrt(recipe.press.widening))
    width = recipe.body.width_mm
    groups = [Settings(name, in_effect(getattr(recipe, name.lower()))) for name in (g.capitalize() for g in GROUPS)]
    groups = [g for g in groups if g.rows]
    felt = _steadying(recipe, device, hand, seed)
    if felt:
        groups.append(Settings("What the steadying does", felt))
    if rules is not None:
        groups.append(Settings("Palm rules", in_effect(rules) or [("rules", "none is on")]))
    return Card(recipe.name, recipe.kind, device.name, curve, width / root, width * root, groups)


def _steadying(recipe: Recipe, device: Device, hand: Hand, seed: int) -> list[tuple[str, str]]:
    if recipe.steady.method == "none":
        return []
    read = Case(recipe, simulated_ground(hand, device, first_paper(), blocks=1, seed=seed), 0).readings
    calm = 1 - read.shake_left
    return [
        ("drag", f"{in_words(CRITERIA['drag'].reading, read.drag_ms)}, {effort_word(read.drag_ms)}"),
        ("of a shake it takes out", in_words(CRITERIA["calm"].reading, calm)),
    ]


def in_effect(record: Any) -> list[tuple[str, str]]:
    """Label and value of each setting of a record that does something as the others stand."""
    known = {c.name: c for c in describe_record(type(record))}
    return [
        (one.label, _shown(one, attrgetter(name)(record)))
        for name, one in known.items()
        if not _waits(one, known, record)
    ]


def _waits(one: Control, known: Mapping[str, Control], record: Any) -> bool:
    """Whether it does nothing because another has to be set first."""
    if not one.needs:
        return False
    name, _, of = one.needs.partition("=")
    value = attrgetter(name)(record)
    if of:
        return str(value) not in of.split(",")
    return value in (False, 0) or (known[name].kind == "choice" and value == known[name].options[0])


def _shown(one: Control, value: Any) -> str:
    if value is None:
        return "not told"
    if one.kind in ("number", "integer"):
        return f"{f'{value:g}' if one.kind == 'integer' or value == 0 else said(value)} {one.unit}".rstrip()
    if one.kind == "flag":
        return "yes" if value else "no"
    if one.kind == "points":
        return ", ".join(f"{said(x)} to {said(y)}" for x, y in value)
    if one.kind == "heights":
        return "one of its own" if value else "none"
    return str(value)
