"""The modelled lag of a pen on a device: its stages, percentiles, gap, first ink, and what each single change would
buy.
"""

import dataclasses
from collections.abc import Mapping, Sequence

import numpy as np

from gray_quill.core.digitiser.device import Device, seen_after_ms
from gray_quill.core.ink.two_tone import in_plain, is_plain_able
from gray_quill.core.latency.stage import Stage, draw_totals, mean_ms, sd_ms
from gray_quill.core.latency.verdict import FELT_MS, THRESHOLDS, Threshold, called
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import is_raw
from gray_quill.core.quantities import NOTICED_SHARE, Quantity, changed
from gray_quill.core.readings.probes import line_drag_ms
from gray_quill.core.readings.reading import reading

NIB_SPEED = Quantity("number", "Nib speed", "How fast the nib goes", "mm/s", 1, 1000, 1, 5, NOTICED_SHARE)
DRAWS, FEW_DRAWS, SEED = 200_000, 20_000, 1
SPEED_MM_S = 60.0
LANDING_REPORTS = 2  # common practice, no source: a contact is believed after this many reports
# Times a plain pen's drawing, on top of it: looking grain up, drawing the stroke anew each frame, adding up doses.
# Common practice, no source.
GRAIN_WORK, WHOLE_WORK, SPRAY_WORK = 1.5, 1.0, 2.0
ON_THE_WAY = ("sampling", "transport", "hand-over", "steadying", "drawing", "compositor")  # until the panel is told
SEEN_BY_A_BROWSER = ("hand-over", "drawing", "frame", "fast pen path")
FAST_RESPONSE_MS = 9.0  # of a two-tone fast path


@dataclasses.dataclass(frozen=True)
class Share:
    """One stage's mean, deviation and share of the mean total."""

    name: str
    mean_ms: float
    sd_ms: float
    share: float


@dataclasses.dataclass(frozen=True)
class Buy:
    """A single change and the 95th percentile it would leave. path, value: the field of the pen's recipe that makes it;
    empty where only another device would.
    """

    change: str
    p95_ms: float
    path: str = ""
    value: float | str | None = None


@dataclasses.dataclass(frozen=True)
class Lag:
    """mean, sd in closed form; percentiles from DRAWS seeded draws. word: what the median is called. catch_up_ms: None
    on panels without a slow path. buys: best first.
    """

    word: str
    stages: list[Share]
    buys: list[Buy]
    speed_mm_s: float = reading("nib speed", "mm/s", "How fast the nib goes.")
    mean_ms: float = reading("mean", "ms", "Sum of the stages' means.", digits=1, better="less")
    sd_ms: float = reading("spread", "ms", "Standard deviation from picture to picture.", digits=1, better="less")
    p50_ms: float = reading("median", "ms", "Half of all ink is quicker.", digits=1, better="less", attention=FELT_MS)
    p95_ms: float = reading("95 %", "ms", "A twentieth of all ink is slower.", digits=1, better="less")
    first_ink_ms: float = reading(
        "first ink",
        "ms",
        "From the nib's landing to the first ink. A contact is believed after two reports; steadying does not hold it "
        "back.",
        digits=1,
        better="less",
    )
    gap_mm_p50: float = reading(
        "gap",
        "mm",
        "How far the ink is behind the nib at this speed: delay times speed, less what look-ahead draws in advance.",
        better="less",
    )
    gap_mm_p95: float = reading("gap, 95 %", "mm", "A twentieth of all ink is farther behind.", better="less")
    behind_p50_ms: float = reading(
        "seen behind",
        "ms",
        "Half of all ink is at most so late as it is seen: the delay, less what look-ahead draws in advance on even "
        "strokes.",
        digits=1,
        better="less",
    )
    behind_p95_ms: float = reading(
        "seen behind, 95 %", "ms", "A twentieth of all ink is seen later than this.", digits=1, better="less"
    )
    browser_ms: float = reading("in the browser", "ms", "Mean of the stages a browser can time itself.", digits=1)
    pen_ms: float = reading(
        "the pen's part",
        "ms",
        "What this pen adds to the mean: a plain pen that steadies nothing would be so much sooner on this device.",
        digits=1,
        better="less",
    )
    catch_up_ms: float | None = reading(
        "catch-up", "ms", "How long after the pen pauses everything but pen strokes follows.", digits=0, better="less"
    )


def stages_of(device: Device, recipe: Recipe, speed_mm_s: float = SPEED_MM_S) -> tuple[Stage, ...]:
    """The stages between nib and ink, in order. A fast pen path puts plain ink down by itself, past frames and
    compositor; other ink waits for a whole picture.
    """
    d, system, panel = device.digitiser, device.system, device.panel
    work = drawing_work(recipe)
    stages = [
        Stage("sampling", wait_ms=1000 / d.report_hz),
        Stage("transport", fixed_ms=d.transport_ms),
        Stage("hand-over", jitter_ms=system.handover_ms, jitter_sd_ms=system.handover_sd_ms),
        Stage("steadying", fixed_ms=line_drag_ms(recipe.steady, d.report_hz, speed_mm_s)),
        Stage("drawing", jitter_ms=work * system.draw_ms, jitter_sd_ms=work * system.draw_sd_ms),
    ]
    fast = panel.fast_pen and takes_fast_path(recipe)
    if fast:
        stages.append(Stage("fast pen path", wait_ms=1000 / panel.fast_pen_hz))
    else:
        stages.append(Stage("frame", wait_ms=1000 / panel.refresh_hz))
        if system.queued_frames:
            stages.append(Stage("compositor", fixed_ms=system.queued_frames * 1000 / panel.refresh_hz))
    return (*stages, Stage("panel", fixed_ms=seen_after_ms(device, fast)))


def until_told_ms(device: Device, recipe: Recipe) -> float:
    """From the nib to what the panel is told, on the mean."""
    return mean_ms([stage for stage in stages_of(device, recipe) if stage.name in ON_THE_WAY])


def takes_fast_path(recipe: Recipe) -> bool:
    """Whether a path of two tones can put this pen's ink down as it is: no tooth, no walls, no wash that lets words
    through.
    """
    return is_plain_able(recipe) and drawing_work(recipe) == 1


def drawing_work(recipe: Recipe) -> float:
    """How many times a plain pen's drawing time this pen takes."""
    whole = recipe.body.hollow.on or recipe.wash.wet_edge > 0
    return 1 + GRAIN_WORK * recipe.tooth.toothed + WHOLE_WORK * whole + SPRAY_WORK * (recipe.wash.tip.shape == "spray")


def model_lag(
    device: Device,
    recipe: Recipe,
    speed_mm_s: float = SPEED_MM_S,
    most_ahead_ms: float = 0.0,
    thresholds: Sequence[Threshold] = THRESHOLDS,
) -> Lag:
    """The lag of one pen on one device at a nib speed. most_ahead_ms: how far the pen may look ahead there, 0 where
    that is not worth it or not known.
    """
    stages = stages_of(device, recipe, speed_mm_s)
    total, mean = draw_totals(stages, SEED, DRAWS), mean_ms(stages)
    p50, p95 = (float(v) for v in np.percentile(total, (50, 95)))
    behind_ms = np.maximum(total - recipe.steady.ahead_ms, 0)
    behind_p50, behind_p95 = (float(v) for v in np.percentile(behind_ms, (50, 95)))
    first_ink = first_ink_ms(device, stages)
    shares = [Share(s.name, s.mean_ms, float(np.sqrt(s.variance_ms2)), s.mean_ms / mean) for s in stages]
    return Lag(
        word=called(p50, first_ink, thresholds),
        stages=shares,
        buys=what_buys_most(device, recipe, speed_mm_s, most_ahead_ms),
        speed_mm_s=speed_mm_s,
        mean_ms=mean,
        sd_ms=sd_ms(stages),
        p50_ms=p50,
        p95_ms=p95,
        first_ink_ms=first_ink,
        gap_mm_p50=behind_p50 * speed_mm_s / 1000,
        gap_mm_p95=behind_p95 * speed_mm_s / 1000,
        behind_p50_ms=behind_p50,
        behind_p95_ms=behind_p95,
        pen_ms=mean - mean_ms(stages_of(device, Recipe(), speed_mm_s)),
        browser_ms=sum(s.mean_ms for s in stages if s.name in SEEN_BY_A_BROWSER),
        catch_up_ms=device.panel.catch_up_ms or None,
    )


def first_ink_ms(device: Device, stages: Sequence[Stage]) -> float:
    """Mean time from the nib's landing to the first ink: a contact is believed late, and not held back by steadying."""
    landing = (LANDING_REPORTS - 1) * 1000 / device.digitiser.report_hz
    return landing + mean_ms([s for s in stages if s.name != "steadying"])


def quick_lag(device: Device, recipe: Recipe, speed_mm_s: float = SPEED_MM_S) -> tuple[float, float]:
    """50th and 95th percentile in ms from fewer draws, good to about 1 % of the spread."""
    p50, p95 = np.percentile(draw_totals(stages_of(device, recipe, speed_mm_s), SEED, FEW_DRAWS), (50, 95))
    return float(p50), float(p95)


@dataclasses.dataclass(frozen=True)
class Compared:
    """One pen on one device, and what its median is called."""

    device_id: str
    pen: str
    p50_ms: float
    p95_ms: float
    word: str


def compare(
    devices: Mapping[str, Device],
    pens: Sequence[Recipe],
    speed_mm_s: float,
    thresholds: Sequence[Threshold] = THRESHOLDS,
) -> list[Compared]:
    """Every pen on every device."""
    out = []
    for device_id, device in devices.items():
        for pen in pens:
            p50, p95 = quick_lag(device, pen, speed_mm_s)
            word = called(p50, first_ink_ms(device, stages_of(device, pen, speed_mm_s)), thresholds)
            out.append(Compared(device_id, pen.name, p50, p95, word))
    return out


def what_buys_most(device: Device, recipe: Recipe, speed_mm_s: float, most_ahead_ms: float = 0.0) -> list[Buy]:
    """Every single change that can be made to this pen or device, by the 95th percentile of what is seen behind the nib
    once it is made.
    """
    steady, panel = recipe.steady, device.panel
    buys = []

    def left_ms(on: Device, pen: Recipe) -> float:
        total = draw_totals(stages_of(on, pen, speed_mm_s), SEED, DRAWS)
        return max(0.0, float(np.percentile(total, 95)) - pen.steady.ahead_ms)

    def tried(words: str, on: Device = device, path: str = "", value: float | str | None = None) -> None:
        pen = changed(recipe, path, value) if path else recipe
        buys.append(Buy(words, left_ms(on, pen), path, value))

    if most_ahead_ms > steady.ahead_ms:
        tried(f"look-ahead of {most_ahead_ms:g} ms", path="steady.ahead_ms", value=most_ahead_ms)
    tried("twice the report rate", changed(device, "digitiser.report_hz", 2 * device.digitiser.report_hz))
    if not is_raw(steady):
        tried("half the steadying", path="steady.amount", value=steady.amount / 2)
        tried("no steadying", path="steady.amount", value=0.0)
    plain = in_plain(recipe)
    if drawing_work(plain) < drawing_work(recipe):
        buys.append(Buy("plain ink while writing", left_ms(device, plain)))
    if recipe.tooth.toothed:
        tried("no grain", path="tooth.grain", value="none")
    if panel.fast_pen and takes_fast_path(recipe):
        tried("twice the fast path's rate", changed(device, "panel.fast_pen_hz", 2 * panel.fast_pen_hz))
    else:
        tried("twice the refresh", changed(device, "panel.refresh_hz", 2 * panel.refresh_hz))
        if device.kind == "e-paper" and not panel.fast_pen and takes_fast_path(recipe):
            fast = changed(device, "panel.fast_pen", True)
            tried("a fast pen path", changed(fast, "updates.fast_ms", 2 * FAST_RESPONSE_MS))
        if device.system.queued_frames:
            tried("one queued frame fewer", changed(device, "system.queued_frames", device.system.queued_frames - 1))
    return sorted(buys, key=lambda b: b.p95_ms)
