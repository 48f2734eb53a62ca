"""A run of the pen in time: when the panel's ink grows, and how far along the nib's way it then reaches."""

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device, Panel
from gray_quill.core.latency.stage import draw_totals
from gray_quill.core.latency.trial import stages_of, takes_fast_path
from gray_quill.core.pen.recipe import Recipe


def update_period_s(panel: Panel, recipe: Recipe) -> float:
    """How long the panel shows one picture of this pen's ink."""
    return 1 / (panel.fast_pen_hz if panel.fast_pen and takes_fast_path(recipe) else panel.refresh_hz)


def panel_updates(
    device: Device, recipe: Recipe, run_s: float, speed_mm_s: float, rng: np.random.Generator
) -> tuple[Floats, Floats]:
    """Times at which the panel's ink grows, and the moment of the nib's way it then reaches, both (n,) in s.

    Every report goes its own way through the stages; a panel's next picture takes the newest that is ready, and stands
    until the one after.
    """
    period = update_period_s(device.panel, recipe)
    stages = stages_of(device, recipe, speed_mm_s)
    way = tuple(s for s in stages if s.name in ("transport", "hand-over", "steadying", "drawing"))
    after_s = sum(s.mean_ms for s in stages if s.name in ("compositor", "panel")) / 1000
    reports = np.arange(rng.random() / device.digitiser.report_hz, run_s + period, 1 / device.digitiser.report_hz)
    ready = reports + draw_totals(way, int(rng.integers(2**31)), len(reports), again=False) / 1000
    ticks = np.arange(rng.random() * period, run_s + period, period)
    arrives = rng.random(len(reports)) >= device.digitiser.dropped
    reports, ready = reports[arrives], ready[arrives]
    order = np.argsort(ready)
    newest = np.concatenate(([0.0], np.maximum.accumulate(reports[order])))
    reach = newest[np.searchsorted(ready[order], ticks, side="right")]
    return ticks + after_s, np.maximum.accumulate(reach)


def shown_at_moments(shown_at: Floats, shown_to: Floats, moments: Floats) -> Floats:
    """How far the ink reaches at some moments, as the moment of the nib's way."""
    k = np.searchsorted(shown_at, moments, side="right") - 1
    return np.where(k >= 0, shown_to[np.maximum(k, 0)], 0.0)
