"""Input inspection: what the digitiser in front of the user really reports, read off strokes, with plain words for what
is missing.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.readings.ink_readings import GAP_INTERVALS
from gray_quill.core.readings.ink_readings import REST_MM as STILL_MM
from gray_quill.core.trace import Trace

LEAST_REPORTS = 30
REST_S, REST_MM = 0.2, 0.3  # a stretch this long inside a circle this large is a rest
FRAME_HZ = 60.0
NORMAL_MAD = 1.4826  # standard deviation of a normal law over its median absolute deviation


@dataclasses.dataclass(frozen=True)
class Inspection:
    """report_hz: from the median interval; clock_jitter: deviation of intervals over their median, gaps left out;
    per_frame: reports a frame of the screen. gaps: how many pauses over GAP_INTERVALS medians while the pen moved,
    gap_mm the longest way one bridges. missing: share of reports that never came. levels: distinct forces seen;
    force_low, force_high: the range used; onset: the smallest first force. rest_noise_mm: deviation at rest each way,
    None where the pen never rested. hover, contact_size: whether the device sees the pen above the glass and how large
    a touch is, None where that was not tried. absent: what is not reported.
    """

    reports: int
    report_hz: float
    clock_jitter: float
    per_frame: float
    gaps: int
    gap_mm: float
    missing: float
    levels: int
    force_low: float
    force_high: float
    onset: float
    rest_noise_mm: float | None
    hover: bool | None
    contact_size: bool | None
    absent: list[str]
    words: list[str]


def inspect_input(
    traces: Sequence[Trace], hover: bool | None = None, contact_size: bool | None = None, frame_hz: float = FRAME_HZ
) -> Inspection:
    """What these strokes say of the device that reported them. Raises InputError where there are too few reports."""
    reports = sum(len(t) for t in traces)
    if reports < LEAST_REPORTS:
        raise InputError(
            f"Write a little more: {reports} reports are too few to judge a device, {LEAST_REPORTS} are needed.",
            "source",
        )
    intervals = np.concatenate([np.diff(t.t_s) for t in traces])
    ways = np.concatenate([np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)) for t in traces])
    median = float(np.median(intervals))
    late = (intervals > GAP_INTERVALS * median) & (ways > STILL_MM)
    usual = intervals < 1.5 * median
    lost = np.round(intervals[~usual & (ways > STILL_MM)] / median) - 1
    absent = sorted(set.intersection(*(set(t.absent) for t in traces)))
    sensed = [t for t in traces if "force" not in t.absent]
    force = np.concatenate([t.force for t in sensed]) if sensed else np.zeros(0)
    noise = _rest_noise(traces)
    found = Inspection(
        reports,
        1 / median,
        float(intervals[usual].std() / median),
        1 / median / frame_hz,
        int(late.sum()),
        float(ways[late].max(initial=0.0)),
        float(lost.sum() / (reports + lost.sum())),
        len(np.unique(np.round(force, 6))),
        float(force.min(initial=1.0)) if sensed else 0.0,
        float(force.max(initial=0.0)),
        float(min((t.force[0] for t in sensed), default=0.0)),
        noise,
        hover,
        contact_size,
        absent,
        [],
    )
    return dataclasses.replace(found, words=_words(found))


def inspect_stand_in(device: Device) -> Inspection:
    """What a device's stand-in reports of a written line and a stroke that rests at its end, seeded; hover and contact
    size as its record says.
    """
    hand, rng = Hand(tremor_mm=0), np.random.default_rng(5)
    line = Intent(np.array([[20.0, 40.0], [60.0, 40.0]]), hold_s=0.6)
    traces = write_intents([*text_intents("sedge, moth and lamp", hand, 20, 20, 150, rng), line], hand, device, rng)
    return inspect_input(traces, device.digitiser.hover, device.touch.size)


def _rest_noise(traces: Sequence[Trace]) -> float | None:
    """Deviation each way of reports over all rests, from the median distance, so that the pen's coming to rest does not
    count.
    """
    strays: list[Floats] = []
    for t in traces:
        start = 0
        for k in range(1, len(t) + 1):
            if k < len(t) and np.hypot(t.x_mm[k] - t.x_mm[start], t.y_mm[k] - t.y_mm[start]) <= REST_MM:
                continue
            if t.t_s[k - 1] - t.t_s[start] >= REST_S and k - start > 8:
                for v in (t.x_mm[start:k], t.y_mm[start:k]):
                    strays.append(np.abs(v - np.median(v)))
            start = k
    return NORMAL_MAD * float(np.median(np.concatenate(strays))) if strays else None


def _words(found: Inspection) -> list[str]:
    """What is missing or weak, in plain words."""
    words = []
    if "tilt" in found.absent:
        words.append("No tilt is reported: pencils cannot shade by leaning here.")
    if "force" in found.absent:
        words.append("No force is reported: every stroke is drawn at one force.")
    elif found.levels < 64 and found.reports > 200:
        words.append(f"Only {found.levels} force levels were seen: width may change in steps.")
    if found.hover is False:
        words.append("No hover is reported: a palm that lands first cannot be told by a pen above it.")
    if found.contact_size is False:
        words.append("No contact size is reported: palms and fingers cannot be told apart by size.")
    if found.per_frame < 1.5:
        words.append(f"About {found.per_frame:.1f} reports a frame: quick curves are joined by straight pieces.")
    if found.gaps:
        words.append(f"{found.gaps} gaps; the longest bridges {found.gap_mm:.1f} mm.")
    return words


def device_like(found: Inspection, base: Device, name: str) -> Device:
    """A device of one's own: `base` with the digitiser that was found. What strokes cannot show stays
    as it is there.
    """
    d = base.digitiser
    sensed = "force" not in found.absent
    levels = 2 ** int(np.ceil(np.log2(max(2, found.levels)))) if sensed else 2
    jitter = found.clock_jitter * 6**0.5  # an interval has two ends, each even over the jitter's width
    digitiser = dataclasses.replace(
        d,
        report_hz=float(np.clip(round(found.report_hz), 20, 2000)),
        clock_jitter=float(np.clip(jitter, 0, 0.5)),
        tilt="tilt" not in found.absent,
        dropped=float(np.clip(found.missing, 0, 0.3)),
        levels=min(levels, 65536),
        activation=float(np.clip(found.onset, 0, 0.3)) if sensed else d.activation,
        noise_mm=d.noise_mm if found.rest_noise_mm is None else min(1.0, found.rest_noise_mm),
    )
    if found.hover is not None:
        digitiser = dataclasses.replace(digitiser, hover=found.hover)
    touch = base.touch if found.contact_size is None else dataclasses.replace(base.touch, size=found.contact_size)
    return dataclasses.replace(base, name=name, digitiser=digitiser, touch=touch)
