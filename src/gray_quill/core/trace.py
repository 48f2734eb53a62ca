"""The trace: what the hand did, sample by sample. Never altered once made."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike

from gray_quill.core.angles import UPRIGHT
from gray_quill.core.arrays import Floats
from gray_quill.core.errors import TraceError

FORCE_WITHOUT_SENSOR = 0.5  # Pointer Events: a pointer without pressure reports 0.5 while down
FARTHEST_MM = 10_000.0
LONGEST_S = 24 * 3600.0


@dataclasses.dataclass(frozen=True, eq=False)
class Trace:
    """One stroke. All arrays have shape (n,), n >= 1, and are read-only.

    t_s: seconds from the first sample, strictly increasing from 0. x_mm, y_mm: page position. force: 0..1.
    altitude, azimuth: radians (see angles.py). absent: channels the device did not give ("force", "tilt"). begun_s:
    when the stroke began, s on a clock it shares with the strokes around it; None where that was not kept.
    """

    t_s: Floats
    x_mm: Floats
    y_mm: Floats
    force: Floats
    altitude: Floats
    azimuth: Floats
    absent: frozenset[str] = frozenset()
    begun_s: float | None = None

    def __len__(self) -> int:
        return len(self.t_s)

    @property
    def xy_mm(self) -> Floats:
        """Positions, shape (n, 2)."""
        return np.column_stack((self.x_mm, self.y_mm))


def make_trace(
    t_s: ArrayLike,
    x_mm: ArrayLike,
    y_mm: ArrayLike,
    force: ArrayLike | None = None,
    altitude: ArrayLike | None = None,
    azimuth: ArrayLike | None = None,
    begun_s: float | None = None,
) -> Trace:
    """Clean raw samples into a Trace, or refuse them with a TraceError that names the sample.

    Samples of equal time are merged (the last one counts). Force and angles are clipped to their range. Missing force
    reads 0.5, missing tilt upright.
    """
    absent = frozenset(n for n, c in (("force", force), ("tilt", altitude)) if c is None)
    count = np.size(np.asarray(t_s))
    given = {
        "t_s": t_s,
        "x_mm": x_mm,
        "y_mm": y_mm,
        "force": np.full(count, FORCE_WITHOUT_SENSOR) if force is None else force,
        "altitude": np.full(count, UPRIGHT) if altitude is None else altitude,
        "azimuth": np.zeros(count) if azimuth is None else azimuth,
    }
    columns = {name: _column(name, values, count) for name, values in given.items()}
    if count == 0:
        raise TraceError("A stroke needs at least one sample.")
    t = columns["t_s"]
    back = np.flatnonzero(np.diff(t) < 0)
    if back.size:
        raise TraceError(
            f"Time runs backwards at sample {back[0] + 2}. Send the samples in the order they were made.", "t_s"
        )
    if t[0] < 0:
        raise TraceError("Times must not be negative. Count seconds from the first sample.", "t_s")
    if t[-1] - t[0] > LONGEST_S:
        raise TraceError("A stroke longer than a day is surely in other units: times are in seconds.", "t_s")
    keep = np.append(np.diff(t) > 0, True)
    kept = {name: c[keep] for name, c in columns.items()}
    kept["t_s"] = kept["t_s"] - kept["t_s"][0]
    kept["force"] = np.clip(kept["force"], 0, 1)
    kept["altitude"] = np.clip(kept["altitude"], 0, UPRIGHT)
    kept["azimuth"] = np.mod(kept["azimuth"], 2 * np.pi)
    for c in kept.values():
        c.flags.writeable = False
    return Trace(**kept, absent=absent, begun_s=begun_s)


def _column(name: str, values: ArrayLike, count: int) -> Floats:
    try:
        column = np.array(values, dtype=float).reshape(-1)
    except (TypeError, ValueError):
        raise TraceError(f"{name} must be a list of numbers.", name) from None
    if len(column) != count:
        raise TraceError(
            f"{name} has {len(column)} samples where t_s has {count}. Give every channel the same number.", name
        )
    bad = np.flatnonzero(~np.isfinite(column))
    if bad.size:
        raise TraceError(f"{name} is not a finite number at sample {bad[0] + 1}.", name)
    if name in ("x_mm", "y_mm") and count and np.abs(column).max() > FARTHEST_MM:
        raise TraceError(f"{name} goes beyond {FARTHEST_MM:g} mm. Positions are millimetres on the page.", name)
    return column


def moved(trace: Trace, dx_mm: float, dy_mm: float) -> Trace:
    """The same stroke elsewhere on the page."""
    return dataclasses.replace(trace, x_mm=trace.x_mm + dx_mm, y_mm=trace.y_mm + dy_mm)


def bounds_mm(traces: Sequence[Trace]) -> tuple[float, float, float, float]:
    """Left, top, right, bottom of the paths; (0, 0, 0, 0) for none."""
    if not traces:
        return 0.0, 0.0, 0.0, 0.0
    return (
        min(float(t.x_mm.min()) for t in traces),
        min(float(t.y_mm.min()) for t in traces),
        max(float(t.x_mm.max()) for t in traces),
        max(float(t.y_mm.max()) for t in traces),
    )


def path_length_mm(x: Floats, y: Floats) -> float:
    """Length of a polyline."""
    return float(np.hypot(np.diff(x), np.diff(y)).sum())


def along_path_mm(x: Floats, y: Floats) -> Floats:
    """Way along a polyline to each of its points."""
    return np.concatenate(([0.0], np.cumsum(np.hypot(np.diff(x), np.diff(y)))))


COLUMNS = ("t_s", "x_mm", "y_mm", "force", "altitude", "azimuth")


def columns_of(trace: Trace) -> dict[str, list[float] | None]:
    """COLUMNS as plain numbers, None for what the device did not report: what `make_trace` takes."""
    absent = {"force"} & trace.absent | ({"altitude", "azimuth"} if "tilt" in trace.absent else set())
    return {name: None if name in absent else getattr(trace, name).tolist() for name in COLUMNS}
