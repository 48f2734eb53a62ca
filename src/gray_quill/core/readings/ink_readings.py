"""The readings of a pen on a trace: one record, the same on the screen, in the API and on the command line."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import TraceError
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.width import pen_samples
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.drag import corner_losses_mm, drag_ms, faithfulness_mm, trail_mm
from gray_quill.core.readings.percentiles import weighted_percentiles
from gray_quill.core.readings.wobble import Timed, calmed_db, shake
from gray_quill.core.trace import Trace, path_length_mm

Floats = NDArray[np.float64]
WEBER = 0.08  # smallest relative difference of line widths that is seen side by side; from memory, about 1/12
GAP_INTERVALS = 2.5  # a pause between reports longer than this many median intervals is a gap
REST_MM = 0.05  # unless the pen lay still meanwhile


@dataclasses.dataclass(frozen=True)
class Readings:
    """Widths are arc-length-weighted percentiles over the settled ink; force percentiles are over samples.

    range_ratio: width_p95 / width_p05. start_tip, end_tip: width at the very end over the stroke's median, median over
    strokes. wobble: RMS mm off the low-passed path before and after steadying; wobble_db: calming in the 8-12 Hz band.
    drag_ms, trail_mm: delay and mean distance of the steadied tip behind the nib. frechet_mm: faithfulness.
    corner_loss_mm: farthest the ink stays from a sharp corner of the trace. gaps: missing reports.
    taper_start_mm, taper_end_mm: path until the width first reaches 95 % of the stroke's median, median over strokes.
    max_taper_slope: largest change of width per mm of path within the tapers of strokes longer than both.
    press_steps: widths between width_p05 and width_p95 that can be told apart,
    at a Weber fraction of WEBER. effort: mm the tip trails at the hand's own median speed.
    """

    samples: int
    length_mm: float
    duration_s: float
    report_hz: float
    width_p05_mm: float
    width_p50_mm: float
    width_p95_mm: float
    range_ratio: float
    force_p05: float
    force_p50: float
    force_p95: float
    floor_share: float
    ceiling_share: float
    start_tip: float
    end_tip: float
    wobble_in_mm: float
    wobble_out_mm: float
    wobble_db: float
    drag_ms: float
    trail_mm: float
    frechet_mm: float
    corner_loss_mm: float
    gaps: int
    taper_start_mm: float
    taper_end_mm: float
    max_taper_slope: float
    press_steps: int
    effort: float


def read_ink(traces: Sequence[Trace], recipe: Recipe, inks: Sequence[Ink] | None = None) -> Readings:
    """Readings of this pen on these strokes. `inks` may be given when they are settled already."""
    if not traces:
        raise TraceError("There is no ink to read. Write something first.")
    inks = inks or [settle(t, recipe) for t in traces]
    widths, weights = ink_widths(inks)
    p05, p50, p95 = weighted_percentiles(widths, weights, (5, 50, 95))
    force = np.concatenate([t.force for t in traces])
    raw, steadied, caught_up = path_pairs(traces, recipe)
    intervals = [np.diff(t.t_s) for t in traces if len(t) > 1]
    median = float(np.median(np.concatenate(intervals))) if intervals else 0.0
    start, end = tips(inks)
    drag = 0.0 if recipe.steady.method == "none" or recipe.steady.amount == 0 else drag_ms(raw, steadied)
    same = recipe.steady.method == "none" or recipe.steady.amount == 0
    before = shake(raw)
    after = before if same else shake(steadied)
    return Readings(
        samples=len(force),
        length_mm=sum(path_length_mm(t.x_mm, t.y_mm) for t in traces),
        duration_s=float(sum(t.t_s[-1] for t in traces)),
        report_hz=1 / median if median else 0.0,
        width_p05_mm=float(p05),
        width_p50_mm=float(p50),
        width_p95_mm=float(p95),
        range_ratio=float(p95 / p05),
        force_p05=float(np.percentile(force, 5)),
        force_p50=float(np.percentile(force, 50)),
        force_p95=float(np.percentile(force, 95)),
        floor_share=float((force <= recipe.press.floor).mean()),
        ceiling_share=float((force >= recipe.press.ceiling).mean()),
        start_tip=start,
        end_tip=end,
        wobble_in_mm=before.wobble_mm,
        wobble_out_mm=after.wobble_mm,
        wobble_db=calmed_db(before, after),
        drag_ms=drag,
        trail_mm=trail_mm(raw, steadied),
        frechet_mm=0.0 if same else faithfulness_mm(raw, steadied),
        corner_loss_mm=0.0
        if same
        else max(
            (float(loss.max()) for r, s in zip(raw, caught_up, strict=True) if len(loss := corner_losses_mm(r, s)[1])),
            default=0.0,
        ),
        gaps=sum(_gaps(t, GAP_INTERVALS * median) for t in traces),
        **_tapers(inks, recipe),
        press_steps=1 + int(np.log(p95 / p05) / np.log(1 + WEBER)),
        effort=drag / 1000 * _median_speed(traces),
    )


def _tapers(inks: Sequence[Ink], recipe: Recipe) -> dict[str, float]:
    """Lengths of both tapers and the steepest change of width within them."""
    zones = [
        recipe.ends.start_mm if recipe.ends.start_tip < 1 else 0.0,
        recipe.ends.end_mm if recipe.ends.end_tip < 1 else 0.0,
    ]
    lengths, slope = [], 0.0
    for ink in inks:
        along = np.concatenate(([0.0], np.cumsum(np.hypot(np.diff(ink.x_mm), np.diff(ink.y_mm)))))
        if along[-1] <= max(sum(zones), 0.5):
            continue  # a stroke that is all taper has no body to taper from
        full = np.flatnonzero(ink.short_mm >= 0.95 * np.median(ink.short_mm))
        lengths.append((along[full[0]], along[-1] - along[full[-1]]))
        step = np.diff(along)
        near = ((along[1:] <= zones[0]) | (along[-1] - along[:-1] <= zones[1])) & (step > 0.05)
        if near.any():
            slope = max(slope, float((np.abs(np.diff(ink.short_mm))[near] / step[near]).max()))
    start, end = np.median(np.array(lengths), axis=0) if lengths else (0.0, 0.0)
    return {"taper_start_mm": float(start), "taper_end_mm": float(end), "max_taper_slope": slope}


def _gaps(trace: Trace, longest_s: float) -> int:
    return int(
        ((np.diff(trace.t_s) > longest_s) & (np.hypot(np.diff(trace.x_mm), np.diff(trace.y_mm)) > REST_MM)).sum()
    )


def _median_speed(traces: Sequence[Trace]) -> float:
    speeds = [np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)) / np.diff(t.t_s) for t in traces if len(t) > 1]
    return float(np.median(np.concatenate(speeds))) if speeds else 0.0


def ink_widths(inks: Sequence[Ink]) -> tuple[Floats, Floats]:
    """Mark widths at the middle of every piece of path, and the pieces' lengths; a dot counts a hundredth of a mm."""
    widths, weights = [], []
    for ink in inks:
        width = ink.mark_width_mm()
        if len(width) == 1:
            widths.append(width)
            weights.append(np.array([0.01]))
            continue
        length = np.hypot(np.diff(ink.x_mm), np.diff(ink.y_mm))
        length[ink.pieces[1:-1] - 1] = 0  # the jump from one piece of a pattern to the next is not inked
        widths.append((width[1:] + width[:-1]) / 2)
        weights.append(length)
    return np.concatenate(widths), np.concatenate(weights)


def tips(inks: Sequence[Ink]) -> tuple[float, float]:
    """Width at the start and at the end over the stroke's median width, medians over strokes of more than one point."""
    ratios = []
    for ink in inks:
        if len(ink.x_mm) > 1:
            width = ink.mark_width_mm()
            ratios.append((width[0] / np.median(width), width[-1] / np.median(width)))
    if not ratios:
        return 1.0, 1.0
    start, end = np.median(np.array(ratios), axis=0)
    return float(start), float(end)


def path_pairs(traces: Sequence[Trace], recipe: Recipe) -> tuple[list[Timed], list[Timed], list[Timed]]:
    """Raw paths, steadied paths at the same samples, and steadied paths with the lift's catch-up."""
    raw, steadied, caught_up = [], [], []
    for trace in traces:
        samples = pen_samples(trace, recipe)
        n = len(trace)
        raw.append((trace.t_s, trace.x_mm, trace.y_mm))
        steadied.append((trace.t_s, samples.x_mm[:n], samples.y_mm[:n]))
        caught_up.append((samples.t_s, samples.x_mm, samples.y_mm))
    return raw, steadied, caught_up
