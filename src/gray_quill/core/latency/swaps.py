"""Blame by swapping: from one setting to another, one factor at a time."""

import dataclasses

import numpy as np

from gray_quill.core.digitiser.device import Device
from gray_quill.core.latency.stage import draw_totals
from gray_quill.core.latency.trial import DRAWS, SEED, SPEED_MM_S, stages_of
from gray_quill.core.pen.recipe import Recipe


@dataclasses.dataclass(frozen=True)
class Swap:
    """The percentiles that are left when only `factor` is taken from the other setting."""

    factor: str
    p50_ms: float
    p95_ms: float


def swap_factors(
    device: Device, recipe: Recipe, other_device: Device, other_recipe: Recipe, speed_mm_s: float = SPEED_MM_S
) -> list[Swap]:
    """This setting, it with one factor of the other at a time, and the other setting whole."""

    def of(factor: str, on: Device, pen: Recipe) -> Swap:
        p50, p95 = np.percentile(draw_totals(stages_of(on, pen, speed_mm_s), SEED, DRAWS), (50, 95))
        return Swap(factor, float(p50), float(p95))

    return [
        of("as it is", device, recipe),
        of("pen, but for its steadying", device, dataclasses.replace(other_recipe, steady=recipe.steady)),
        of("steadying", device, dataclasses.replace(recipe, steady=other_recipe.steady)),
        of("digitiser", dataclasses.replace(device, digitiser=other_device.digitiser), recipe),
        of("system", dataclasses.replace(device, system=other_device.system), recipe),
        of("panel", dataclasses.replace(device, panel=other_device.panel), recipe),
        of("all of it", other_device, other_recipe),
    ]
