"""Four ways to a number, side by side: stated, modelled, live and filmed, each with what it covers and why it differs
from the model.
"""

import dataclasses
from typing import Any

from gray_quill.core.latency.noticeable_delay import Felt
from gray_quill.core.latency.trial import Lag
from gray_quill.core.quantities import REQUIRED, integer, number

AGREES = 0.15  # of the modelled mean; common practice, no source
FRAME_STAGES = ("drawing", "frame", "fast pen path")


LONGEST_MS = 100_000


def _ms(label: str, help: str, **more: Any) -> Any:
    return number(more.pop("default", REQUIRED), 0, LONGEST_MS, 0.1, "ms", label, help, **more)


@dataclasses.dataclass(frozen=True)
class Live:
    """What a browser timed of its own stages."""

    events: int = integer(REQUIRED, 1, 1_000_000, "events", "Events", "Pen events that were timed")
    handler_p50_ms: float = _ms("To the page, median", "From an event to its handler")
    handler_p95_ms: float = _ms("To the page, 95 %", "From an event to its handler")
    frame_p50_ms: float = _ms("To the frame, median", "From an event to the frame that shows it")
    frame_p95_ms: float = _ms("To the frame, 95 %", "From an event to the frame that shows it")
    dropped: int = integer(REQUIRED, 0, 1_000_000, "frames", "Dropped frames", "Frames that were not shown in time")
    long_tasks: int = integer(REQUIRED, 0, 1_000_000, "tasks", "Long tasks", "Tasks of the page over 50 ms")
    control_ms: float | None = _ms("Controls", "From pressing a control to its picture", default=None, optional=True)
    raw_p50_ms: float | None = _ms("Raw updates", "To a raw update's handler, median", default=None, optional=True)


@dataclasses.dataclass(frozen=True)
class Filmed:
    """What a film came to, with the half width of its 95 % interval."""

    delay_ms: float = _ms("Filmed delay", "From nib to light")
    ci95_ms: float = _ms("Uncertainty", "Half the 95 % interval")
    speed_mm_s: float | None = number(
        None, 0.1, 10_000, 0.1, "mm/s", "Speed in the film", "How fast the filmed nib moved", optional=True
    )


@dataclasses.dataclass(frozen=True)
class Figure:
    """One number with its half 95 % interval (None where it has none), what it covers, and how it lies to the model."""

    name: str
    ms: float
    plus_minus_ms: float | None
    covers: str
    words: str


def figures(
    lag: Lag,
    stated_ms: float = 0.0,
    live: Live | None = None,
    filmed: Filmed | None = None,
    at_film: Lag | None = None,
    felt: Felt | None = None,
) -> list[Figure]:
    """All figures there are for one pen on one device, the modelled one first. at_film: the model at the speed of the
    film, where that is known: a film is compared with nothing else.
    """
    out = [
        Figure(
            "modelled",
            lag.mean_ms,
            None,
            "nib to light",
            f"mean of the stages, ± {lag.sd_ms:.1f} ms from picture to picture",
        )
    ]
    if stated_ms > 0:
        out.append(Figure("stated", stated_ms, None, "what the data sheet means by it", _stated(lag, stated_ms)))
    if live is not None:
        out.append(Figure("live", live.frame_p50_ms, None, "event to frame, in this browser", _live(lag, live)))
    if filmed is not None:
        out.append(Figure("filmed", filmed.delay_ms, filmed.ci95_ms, "nib to light", _filmed(at_film or lag, filmed)))
    if felt is not None:
        half = (felt.high_ms - felt.low_ms) / 2
        out.append(Figure("felt", felt.noticed_ms, half, "from there on this hand notices", _felt(lag, felt)))
    return out


def base_of(lag: Lag, frame_ms: float | None, filmed: Filmed | None) -> tuple[float, str]:
    """The delay that was there before anything was added, ms, and how it is known. frame_ms: what a browser timed of
    its own stages.
    """
    if filmed is not None:
        return filmed.delay_ms, "filmed"
    if frame_ms is not None:
        return lag.p50_ms - lag.browser_ms + frame_ms, "modelled, the browser's part timed"
    return lag.p50_ms, "modelled"


def _felt(lag: Lag, felt: Felt) -> str:
    if felt.low_ms <= lag.p50_ms <= felt.high_ms:
        words = "this pen and device lie within its interval"
    else:
        under = lag.p50_ms < felt.noticed_ms
        words = f"this pen and device are {abs(lag.p50_ms - felt.noticed_ms):.0f} ms {'under' if under else 'over'} it"
    behind = felt.noticed_ms * felt.speed_mm_s / 1000
    words += f"; written at {felt.speed_mm_s:.0f} mm/s, the ink {behind:.1f} mm behind"
    if felt.disturbed_ms is not None:
        words += f"; disturbed from {felt.disturbed_ms:.0f} ms"
    return f"{words}; {felt.base_ms:.0f} ms of it {felt.base_from}"


def _stated(lag: Lag, stated_ms: float) -> str:
    if abs(stated_ms - lag.mean_ms) <= AGREES * lag.mean_ms:
        return "agrees with the model"
    if stated_ms > lag.mean_ms:
        return f"the model is {stated_ms - lag.mean_ms:.1f} ms quicker"
    left, out = lag.mean_ms, []
    for stage in sorted(lag.stages, key=lambda s: -s.mean_ms):
        if left <= stated_ms * (1 + AGREES):
            break
        left -= stage.mean_ms
        out.append(stage.name)
    return f"reached only when {_listed(out)} {'is' if len(out) == 1 else 'are'} left out"


def _live(lag: Lag, live: Live) -> str:
    means = {s.name: s.mean_ms for s in lag.stages}
    before = live.handler_p50_ms - means.get("hand-over", 0.0)
    after = live.frame_p50_ms - live.handler_p50_ms - sum(means.get(n, 0.0) for n in FRAME_STAGES)
    diff = live.frame_p50_ms - lag.browser_ms
    words = f"the model says {lag.browser_ms:.1f} ms for these stages"
    if abs(diff) > max(1.0, AGREES * lag.browser_ms):
        words += (
            f": {abs(diff):.1f} ms {'more' if diff > 0 else 'less'} here, {_signed(before)} before the page "
            "hears of the pen, "
        )
        words += f"{_signed(after)} until its frame"
    if live.raw_p50_ms is not None and live.handler_p50_ms - live.raw_p50_ms > 1:
        words += f"; its raw updates come {live.handler_p50_ms - live.raw_p50_ms:.1f} ms sooner"
    held = [
        f"{n} {what}{'s' if n > 1 else ''}"
        for n, what in ((live.dropped, "dropped frame"), (live.long_tasks, "long task"))
        if n
    ]
    return words + (f"; {_listed(held)} held it up" if held else "")


def _filmed(lag: Lag, filmed: Filmed) -> str:
    diff = filmed.delay_ms - lag.mean_ms
    at = "" if filmed.speed_mm_s is None else f" at its {filmed.speed_mm_s:.0f} mm/s ({lag.mean_ms:.1f} ms)"
    if abs(diff) <= max(filmed.ci95_ms, AGREES * lag.mean_ms):
        return f"agrees with the model{at}"
    return (
        f"{abs(diff):.1f} ms {'more' if diff > 0 else 'less'} than the model{at}, "
        f"{'which leaves something out' if diff > 0 else 'which counts too much'}"
    )


def _signed(ms: float) -> str:
    return f"{ms:+.1f} ms".replace("-", "−")


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
