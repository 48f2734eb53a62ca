"""The readings of a pen on a trace: one record, the same on the screen, in the API and on the command line."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import TraceError
from gray_quill.core.ink.settle import Ink, settle_each
from gray_quill.core.ink.width import pen_samples
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.drag import corner_losses_mm, faithfulness_mm, trail_mm
from gray_quill.core.readings.letters import letters_of, open_share
from gray_quill.core.readings.pace import median_speed_mm_s, report_hz
from gray_quill.core.readings.press_use import CEILING_SHARE, FLOOR_SHARE
from gray_quill.core.readings.probes import SHAKE_MM, line_drag_ms, shake_left
from gray_quill.core.readings.reading import SHARE, declared, reading
from gray_quill.core.readings.tremor import Timed, read_tremor, tremor_of
from gray_quill.core.trace import Trace, along_path_mm, path_length_mm

WEBER = 0.08  # smallest relative difference of line widths that is seen side by side; from memory, about 1/12
GAP_INTERVALS = 2.5  # a pause between reports longer than this many median intervals is a gap
TAPER_STEPS = 20  # even steps along a taper between which its slope is read
SMALLEST_VARIANCE = 1e-6  # of ln width: a tenth of a per cent of width
REST_MM = 0.05  # unless the pen lay still meanwhile

# From where on readings deserve attention. Common practice, no source, but for the reason beside each.
EFFORT = ((0.0, "light"), (9.0, "easy"), (20.0, "noticeable"), (40.0, "heavy"))  # drag from so many ms on is called
HEAVY_MS = EFFORT[-1][0]  # one bound for the word, the note and the advice, so that none of them cries first
SHAKY_MM = 0.06  # about half the width of the finest line that is written with
LOST_CORNER_MM = 0.3  # a sixth of the x-height of small writing (1.8 mm): from there a corner reads as a bend
OPEN_LETTERS = 0.7  # with three counters of ten filled a word has to be guessed
NO_LETTERS = ("highlighter", "spray")  # kinds that lay bands, not letters
ABRUPT_MM_A_MM = 0.8  # a taper that steep ends within less than its own width and looks cut


@dataclasses.dataclass(frozen=True)
class Readings:
    """A pen on some strokes; what each reading means stands beside it.

    Widths are arc-length-weighted percentiles over the settled ink, force percentiles are over samples, tips and tapers
    medians over strokes; tapers of strokes no longer than both are left out. What is said of
    force is None where no stroke carries any.
    """

    samples: int = reading("reports", "", "How many reports of your pen were read.", digits=0, of_the_hand=True)
    length_mm: float = reading("length of line", "mm", "How far your nib went.", of_the_hand=True)
    duration_s: float = reading("time writing", "s", "How long your nib was down.", of_the_hand=True)
    report_hz: float = reading(
        "reports a second", "a second", "From the median time between reports.", of_the_hand=True
    )
    width_p05_mm: float = reading(
        "thin marks", "mm", "The thinnest your pen drew, without the outermost 5 % by length."
    )
    width_p50_mm: float = reading("middle width", "mm", "The width half of the ink's length is thinner than.")
    width_p95_mm: float = reading(
        "thick marks", "mm", "The thickest your pen drew, without the outermost 5 % by length."
    )
    range_ratio: float = reading(
        "thick over thin",
        "×",
        "How many times wider the thickest marks are than the thinnest, without the outermost 5 % on either side.",
    )
    force_p05: float | None = reading("light force", SHARE, "A twentieth of your force is lighter.", of_the_hand=True)
    force_p50: float | None = reading("middle force", SHARE, "Half of your force is lighter.", of_the_hand=True)
    force_p95: float | None = reading("firm force", SHARE, "A twentieth of your force is firmer.", of_the_hand=True)
    floor_share: float | None = declared(FLOOR_SHARE)
    ceiling_share: float | None = declared(CEILING_SHARE)
    start_tip: float = reading(
        "start tip",
        "of the middle width",
        "Width at the very start of strokes over their middle width; 1 is blunt, 0 a needle.",
    )
    end_tip: float = reading(
        "end tip",
        "of the middle width",
        "Width at the very end of strokes over their middle width; 1 is blunt, 0 a needle.",
    )
    wobble_in_mm: float | None = reading(
        "wobble of the hand",
        "mm",
        "How far your hand shakes to either side of slow lines it meant to be smooth, 4 to 13 times a second (RMS), "
        "without the noise of the device. Letters turn as quickly as a hand shakes, so they cannot tell it: draw the "
        "slow line of the test sheet.",
        better="less",
        of_the_hand=True,
    )
    wobble_low_mm: float = reading(
        "wobble at least", "mm", "Lower end of what the wobble may be (95 %).", of_the_hand=True
    )
    wobble_high_mm: float = reading(
        "wobble at most", "mm", "Upper end of what the wobble may be (95 %).", of_the_hand=True
    )
    wobble_hz: float | None = reading(
        "wobble's rate", "times a second", "How often your hand shakes, where it does.", digits=1, of_the_hand=True
    )
    device_noise_mm: float = reading(
        "noise of reports", "mm", "How far reports stray by themselves on a slow line (RMS).", of_the_hand=True
    )
    wobble_out_mm: float | None = reading(
        "wobble left", "mm", "What steadying leaves of the wobble.", better="less", attention=SHAKY_MM
    )
    shake_left: float = reading(
        "shake left",
        SHARE,
        "How much of a shake 5 to 12 times a second this pen's steadying leaves on a slow line; 100 % is all of it.",
        better="less",
    )
    drag_ms: float = reading(
        "drag",
        "ms",
        "How long the steadied tip needs to get where your nib is, on an even line at the speed half of your writing "
        "is slower than.",
        digits=1,
        better="less",
        attention=HEAVY_MS,
    )
    trail_mm: float = reading("trail", "mm", "How far the ink trails your nib on the way.", better="less")
    frechet_mm: float = reading(
        "unfaithful by", "mm", "The farthest the steadied path strays from yours.", better="less"
    )
    corner_loss_mm: float = reading(
        "corners lost",
        "mm",
        "How far the ink stays away from the sharp corners of your trace; nine of ten lose no more.",
        better="less",
        attention=LOST_CORNER_MM,
    )
    open_share: float | None = reading(
        "open letters",
        SHARE,
        "Share of the counters of your letters, the white they enclose, in which this ink leaves white that shows.",
        better="more",
        attention=OPEN_LETTERS,
    )
    nib_widths: float | None = reading(
        "nib widths a letter",
        "",
        "Height of a small x over the middle width; broad nibs are cut for 4 to 5 (common practice, no source).",
    )
    inside_share: float | None = reading(
        "inside letters",
        SHARE,
        "Share of the width's variation that lies within strokes; the rest lies between them.",
    )
    gaps: int = reading("gaps", "", "Pauses between reports while your pen moved.", digits=0, of_the_hand=True)
    taper_start_mm: float = reading("start taper", "mm", "Path until a stroke reaches its width.")
    taper_end_mm: float = reading("end taper", "mm", "Path from a stroke's width to its end.")
    max_taper_slope: float = reading(
        "steepest taper",
        "mm a mm",
        "The steepest change of width on the tapers of a middling stroke.",
        better="less",
        attention=ABRUPT_MM_A_MM,
    )
    press_steps: int = reading(
        "widths told apart",
        "",
        "How many different widths your writing brings out that an eye can tell apart side by side, at a difference "
        "of 8 % (from memory).",
        digits=0,
        better="more",
    )
    effort: float = reading(
        "trails at your speed", "mm", "How far the tip trails on average at the speed you write.", better="less"
    )


def read_ink(traces: Sequence[Trace], pens: Recipe | Sequence[Recipe], inks: Sequence[Ink] | None = None) -> Readings:
    """Readings of these strokes in this pen, or each in a pen of its own. `inks` may be given when they are settled
    already.
    """
    if not traces:
        raise TraceError("There is no ink to read. Write something first.")
    recipes = [pens] * len(traces) if isinstance(pens, Recipe) else list(pens)
    inks = inks or settle_each(list(zip(traces, recipes, strict=True)))
    widths, weights = ink_widths(inks)
    p05, p50, p95 = weighted_percentiles(widths, weights, (5, 50, 95))
    told = [(t, r) for t, r in zip(traces, recipes, strict=True) if "force" not in t.absent]
    force = np.concatenate([t.force for t, _ in told]) if told else None
    raw, steadied, caught_up = path_pairs(traces, recipes)
    hz, speed = report_hz(traces), median_speed_mm_s(traces)
    start, end = tips(inks)
    letters = letters_of(tuple(traces))
    same = all(r.steady.method == "none" or r.steady.amount == 0 for r in recipes)
    settings = list(dict.fromkeys(r.steady for r in recipes))
    drag = max(line_drag_ms(s, hz, speed) for s in settings)
    tremor = tremor_of(tuple(traces))
    left = max(shake_left(s, hz, tremor.rms_mm or SHAKE_MM) for s in settings)
    return Readings(
        samples=sum(len(t) for t in traces),
        length_mm=sum(path_length_mm(t.x_mm, t.y_mm) for t in traces),
        duration_s=float(sum(t.t_s[-1] for t in traces)),
        report_hz=hz,
        width_p05_mm=float(p05),
        width_p50_mm=float(p50),
        width_p95_mm=float(p95),
        range_ratio=float(p95 / p05),
        force_p05=None if force is None else float(np.percentile(force, 5)),
        force_p50=None if force is None else float(np.percentile(force, 50)),
        force_p95=None if force is None else float(np.percentile(force, 95)),
        floor_share=_share([t.force <= r.press.floor for t, r in told]),
        ceiling_share=_share([t.force >= r.press.ceiling for t, r in told]),
        start_tip=start,
        end_tip=end,
        wobble_in_mm=tremor.rms_mm,
        wobble_low_mm=tremor.low_mm,
        wobble_high_mm=tremor.high_mm,
        wobble_hz=tremor.hz,
        device_noise_mm=tremor.noise_mm,
        wobble_out_mm=None
        if tremor.rms_mm is None
        else tremor.rms_mm
        if same
        else _left_mm(tremor.rms_mm, left, steadied),
        shake_left=left,
        drag_ms=drag,
        trail_mm=trail_mm(raw, steadied),
        frechet_mm=0.0 if same else faithfulness_mm(raw, steadied),
        corner_loss_mm=0.0 if same else corner_loss_mm(traces, caught_up),
        open_share=open_share(letters, inks) if all(r.kind not in NO_LETTERS for r in recipes) else None,
        nib_widths=letters.x_height_mm / float(p50) if letters.x_height_mm else None,
        inside_share=_inside_share(inks),
        gaps=sum(_gaps(t, GAP_INTERVALS / hz) for t in traces if hz),
        **taper_readings(inks, recipes),
        press_steps=1 + int(np.log(p95 / p05) / np.log(1 + WEBER)),
        effort=drag / 1000 * speed,
    )


def _share(marked: Sequence[NDArray[np.bool_]]) -> float | None:
    return float(np.concatenate(marked).mean()) if marked else None


def taper_readings(inks: Sequence[Ink], recipes: Sequence[Recipe]) -> dict[str, float]:
    """Lengths of both tapers and the steepest change of width within them, medians over strokes."""
    lengths, slopes = [], []
    for ink, recipe in zip(inks, recipes, strict=True):
        ends = recipe.ends.for_width(recipe.body.width_mm)
        zones = [ends.start_mm if ends.start_tip < 1 else 0.0, ends.end_mm if ends.end_tip < 1 else 0.0]
        along = along_path_mm(ink.x_mm, ink.y_mm)
        if along[-1] <= max(sum(zones), 0.5):
            continue  # a stroke that is all taper has no body to taper from
        full = np.flatnonzero(ink.short_mm >= 0.95 * np.median(ink.short_mm))
        lengths.append((along[full[0]], along[-1] - along[full[-1]]))
        slope = 0.0
        for zone, lo in ((zones[0], 0.0), (zones[1], along[-1] - zones[1])):
            if zone > 0:  # by even steps along the path, however densely or sparsely the hand was reported there
                width = np.interp(np.linspace(lo, lo + zone, TAPER_STEPS + 1), along, ink.short_mm)
                slope = max(slope, float(np.abs(np.diff(width)).max()) * TAPER_STEPS / zone)
        slopes.append(slope)
    start, end = np.median(np.array(lengths), axis=0) if lengths else (0.0, 0.0)
    return {
        "taper_start_mm": float(start),
        "taper_end_mm": float(end),
        "max_taper_slope": float(np.median(slopes or [0])),
    }


def _gaps(trace: Trace, longest_s: float) -> int:
    return int(
        ((np.diff(trace.t_s) > longest_s) & (np.hypot(np.diff(trace.x_mm), np.diff(trace.y_mm)) > REST_MM)).sum()
    )


def corner_loss_mm(traces: Sequence[Trace], caught_up: Sequence[Timed]) -> float:
    """What nine of ten sharp corners lose at most. (The farthest of all would grow with the length of the writing.)"""
    losses = np.concatenate([corner_losses_mm(t, s)[1] for t, s in zip(traces, caught_up, strict=True)])
    return float(np.percentile(losses, 90)) if len(losses) else 0.0


def _inside_share(inks: Sequence[Ink]) -> float | None:
    """Variance of ln width within strokes over all of it, by length; None where the width does not vary."""
    parts = [(np.log(w), n) for w, n in (ink_widths([ink]) for ink in inks) if n.sum() > 0]
    if not parts:
        return None
    weights = np.array([n.sum() for _, n in parts])
    means = np.array([np.average(w, weights=n) for w, n in parts])
    within = np.average(
        [np.average((w - m) ** 2, weights=n) for (w, n), m in zip(parts, means, strict=True)], weights=weights
    )
    between = np.average((means - np.average(means, weights=weights)) ** 2, weights=weights)
    return float(within / (within + between)) if within + between > SMALLEST_VARIANCE else None


def _left_mm(rms_mm: float, left: float, steadied: Sequence[Timed]) -> float:
    """Wobble in the ink: read there too, or what the probe says where it has sunk under the noise."""
    after = read_tremor(steadied).rms_mm
    return rms_mm * left if after is None else min(after, rms_mm)


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


def path_pairs(traces: Sequence[Trace], recipes: Sequence[Recipe]) -> tuple[list[Timed], list[Timed], list[Timed]]:
    """Raw paths, steadied paths at the same samples, and steadied paths with the lift's catch-up; a pen a stroke."""
    raw, steadied, caught_up = [], [], []
    for trace, recipe in zip(traces, recipes, strict=True):
        samples = pen_samples(trace, recipe)
        n = len(trace)
        raw.append((trace.t_s, trace.x_mm, trace.y_mm))
        steadied.append((trace.t_s, samples.x_mm[:n], samples.y_mm[:n]))
        caught_up.append((samples.t_s, samples.x_mm, samples.y_mm))
    return raw, steadied, caught_up
