"""Reading a film: where nib and ink front are in each frame, and the delay that lies between.

The nib is where the edges of the pen's cone meet; the ink front is the far end of the dark run along the stroke's row.
The delay is the time since the nib was where the front is now.
"""

import dataclasses
from collections.abc import Callable, Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.latency.film_frames import (
    as_dark_on_light,
    check_order,
    steadied,
    straightened,
    strokes_of,
    without_still_marks,
)
from gray_quill.core.quantities import Quantity, check

LEAST_FRAMES, MOST_FRAMES = 12, 3000
LEAST_DROP = 40.0  # grey levels by which pen and ink must be darker than the sheet
LEAST_TRAVEL_MM, MOST_TRAVEL_MM = 8.0, 400.0
CONE_MM = (0.8, 2.8)  # rows above the ink, in mm, on which the pen's cone is read
LEAST_FRONT_MM = 3.0
NO_FRONT = (
    "No ink front follows the pen in this film. Film closer, with more contrast, or mark nib and ink end by hand."
)
FPS = Quantity("number", "Frames a second", "How many frames a second the camera takes", "frames/s", 10, 10_000, 1)
MM_PER_PX = Quantity("number", "Scale", "Measure something of known length in a frame", "mm a pixel", 0.005, 1, 0.001)
PART_PIXELS = 8_000_000  # worked on as floats at a time
BLOCKS = 8  # of the panel's pictures, for the spread of the estimate
LEAST_CYCLES = 4  # pictures of the panel from which only whole ones are used
SLIPPING = 0.1  # of the panel's pictures stand for another number of frames: the clocks are not locked
EVEN_95 = 0.475  # of its width, on both sides of the middle, hold 95 % of what is spread evenly
MOVED_MM = 0.06  # the ink's end moved on
# Student's t, two-sided 95 %, for 1 and more degrees of freedom; beyond the table 1.96 + 2.5 / n, within 0.5 % of it
T_95 = {1: 12.706, 2: 4.303, 3: 3.182, 4: 2.776, 5: 2.571, 6: 2.447, 7: 2.365, 8: 2.306, 9: 2.262}


@dataclasses.dataclass(frozen=True, eq=False)
class Reading:
    """delay_ms with the half width of its 95 % interval; gap_mm: mean distance from ink front to nib; frames_used;
    frames_at: which those are; nib_mm and front_mm along the row in each; speed_mm_s of the nib; strokes: that were
    read.
    """

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    frames_used: int
    speed_mm_s: float
    frames_at: NDArray[np.int64]
    nib_mm: Floats
    front_mm: Floats
    strokes: int = 1


@dataclasses.dataclass(frozen=True)
class FilmReading:
    """A reading as it is told. truth_ms: the delay where the film is simulated. nib_px, front_px: where they were found
    in frame number `frame`, to be shown on it.
    """

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    speed_mm_s: float
    frames_used: int
    truth_ms: float | None
    frame: int
    nib_px: float
    front_px: float


def told(found: Reading, mm_per_px: float, truth_ms: float | None = None) -> FilmReading:
    """What a reading comes to, with the last frame that was used."""
    return FilmReading(
        found.delay_ms,
        found.ci95_ms,
        found.gap_mm,
        found.speed_mm_s,
        found.frames_used,
        truth_ms,
        int(found.frames_at[-1]),
        float(found.nib_mm[-1] / mm_per_px),
        float(found.front_mm[-1] / mm_per_px),
    )


def read_film(
    frames: Sequence[NDArray[np.uint8]] | NDArray[np.uint8],
    fps: float,
    mm_per_px: float,
    progress: Callable[[float], None] = lambda _: None,
) -> Reading:
    """The delay in a film of grey frames (h, w) of one size. Raises InputError with the reason where it cannot be read.

    `progress` is told the share that is done; what it raises ends the reading.
    """
    check_camera(fps, mm_per_px)
    if not LEAST_FRAMES <= len(frames) <= MOST_FRAMES:
        raise InputError(f"This film has {len(frames)} frames; {LEAST_FRAMES} to {MOST_FRAMES} are needed.", "frames")
    stack = np.asarray(frames)
    if stack.ndim != 3:
        raise InputError("The frames of a film must all have the same size.", "frames")
    stack = as_dark_on_light(stack)
    sheet = float(np.percentile(stack[::8, ::3, ::5], 90))
    bare = without_still_marks(stack, sheet)
    where = _pen_columns(bare, sheet)
    strokes = strokes_of(where, LEAST_TRAVEL_MM / mm_per_px, LEAST_FRAMES)
    if len(strokes) == 1:
        return _stroke(bare, where, sheet, fps, mm_per_px, progress)
    found = []
    for k, part in enumerate(strokes):
        progress(k / len(strokes))
        bare = without_still_marks(stack[part], sheet)  # the ink of strokes before stands still
        found.append((part.start, _stroke(bare, _pen_columns(bare, sheet), sheet, fps, mm_per_px)))
    return _together(found, 1000 / fps)


def _together(found: Sequence[tuple[int, Reading]], frame_ms: float) -> Reading:
    """Several strokes of one film, each with its first frame: their mean, and what lies between them as its spread, so
    that the interval speaks of the device and not of one stroke.
    """
    each = [r for _, r in found]
    delays = [r.delay_ms for r in each]
    between = (
        _half_ms(delays) if len(each) > 2 else float(np.hypot(np.ptp(delays) / 2, np.mean([r.ci95_ms for r in each])))
    )
    return Reading(
        float(np.mean(delays)),
        float(np.hypot(between, EVEN_95 * frame_ms / len(each) ** 0.5)),
        float(np.mean([r.gap_mm for r in each])),
        sum(r.frames_used for r in each),
        float(np.mean([r.speed_mm_s for r in each])),
        np.concatenate([r.frames_at + first for first, r in found]),
        np.concatenate([r.nib_mm for r in each]),
        np.concatenate([r.front_mm for r in each]),
        len(each),
    )


def _stroke(
    stack: NDArray[np.uint8],
    where: Floats,
    sheet: float,
    fps: float,
    mm_per_px: float,
    progress: Callable[[float], None] = lambda _: None,
) -> Reading:
    """The delay in the frames of one stroke. where: the pen's middle in each, px."""
    check_order(where)
    travel_mm = abs(float(where[-1] - where[0])) * mm_per_px
    if not LEAST_TRAVEL_MM <= travel_mm <= MOST_TRAVEL_MM:
        raise InputError(
            f"A pen that moves {travel_mm:.1f} mm across this film cannot be read; film one straight stroke of "
            f"{LEAST_TRAVEL_MM:g} to "
            f"{MOST_TRAVEL_MM:g} mm from side to side, and check the scale.",
            "mm_per_px",
        )
    leftward = where[-1] < where[0]
    if leftward:  # read in a mirror
        stack, where = stack[:, :, ::-1], stack.shape[2] - where
    stack, known_from = steadied(stack, sheet, LEAST_DROP, where, mm_per_px)
    stack = straightened(stack, sheet, LEAST_DROP, float(where[-1]), mm_per_px)
    row = _ink_row(stack, sheet)
    progress(0.3)
    nib = _nib(stack, row, sheet, mm_per_px)
    progress(0.6)
    front = _front(stack, row, nib, sheet)
    progress(0.9)
    start = float(np.nanmin(front)) if np.isfinite(front).any() else np.inf
    following = np.isfinite(front) & (front > start + LEAST_FRONT_MM / mm_per_px)
    if known_from:  # where the nib was before is not known well enough
        following &= front > nib[known_from]
    if following.sum() < LEAST_FRAMES:
        raise InputError(NO_FRONT, "frames")
    found = _fit(np.arange(len(stack)) / fps, nib * mm_per_px, front * mm_per_px, following)
    if not leftward:
        return found
    width_mm = stack.shape[2] * mm_per_px
    return dataclasses.replace(found, nib_mm=width_mm - found.nib_mm, front_mm=width_mm - found.front_mm)


def t_95(freedom: int) -> float:
    """Student's t for a two-sided interval of 95 %."""
    return T_95.get(freedom, 1.96 + 2.5 / max(1, freedom))


def check_camera(fps: float, mm_per_px: float) -> None:
    """Raises RecordError for frames a second or a scale that no film of a pen has."""
    check(FPS, fps, "fps")
    check(MM_PER_PX, mm_per_px, "mm_per_px")


def _pen_columns(stack: NDArray[np.uint8], sheet: float) -> Floats:
    """Middle of what is dark in the upper part of each frame, where no ink is laid."""
    upper = stack[:, : stack.shape[1] * 2 // 5]
    dark = np.concatenate(
        [np.maximum(sheet - LEAST_DROP - part.astype(np.float32), 0).sum(axis=1) for part in _parts(upper)]
    )
    weight = dark.sum(axis=1)
    seen = weight > 0.2 * np.median(weight) if np.median(weight) > 0 else np.zeros(len(weight), bool)
    if seen.sum() < LEAST_FRAMES:
        raise InputError(
            "No pen is seen in most of these frames. Film a dark pen on a light sheet, from above.", "frames"
        )
    columns = dark @ np.arange(stack.shape[2]) / np.maximum(weight, 1e-9)
    return np.interp(np.arange(len(columns)), np.flatnonzero(seen), columns[seen])


def _ink_row(stack: NDArray[np.uint8], sheet: float) -> int:
    """The row of the stroke: the darkest of the left part of the last frames, which the pen has left."""
    left = stack[-3:, :, stack.shape[2] // 8 : stack.shape[2] * 2 // 5].astype(np.float32).mean(axis=(0, 2))
    row = int(np.argmin(left))
    if sheet - left[row] < LEAST_DROP:
        raise InputError(NO_FRONT, "frames")
    return row


def _nib(stack: NDArray[np.uint8], row: int, sheet: float, mm_per_px: float) -> Floats:
    """Column of the nib in each frame, to a share of a pixel: where the edges of the pen's cone meet, from the rows
    just above the ink.
    """
    rows = np.arange(row - round(CONE_MM[1] / mm_per_px), row - round(CONE_MM[0] / mm_per_px))
    if rows[0] < 0 or len(rows) < 4:
        raise InputError(
            "The pen above the stroke is not in the picture, or the scale is wrong. Film 4 mm above the stroke too.",
            "mm_per_px",
        )
    band = stack[:, rows[0] : rows[-1] + 1]
    level = (sheet + float(np.percentile(band.min(axis=2), 20))) / 2
    edges = [_edges(part.astype(np.float32), level) for part in _parts(band)]
    seen, left, right = (np.concatenate(column) for column in zip(*edges, strict=True))
    if seen.sum() < LEAST_FRAMES:
        raise InputError("The pen's tip is hidden in most of these frames, or the scale is wrong.", "frames")
    left, right = left[seen], right[seen]
    y = rows - row
    slope_left, slope_right = (
        float(np.median([np.polyfit(y, e, 1)[0] for e in edge[:: max(1, len(edge) // 60)]])) for edge in (left, right)
    )
    at_left, at_right = (left - slope_left * y).mean(axis=1), (right - slope_right * y).mean(axis=1)
    meet = (
        -float(np.median(at_right - at_left)) / (slope_right - slope_left)
        if abs(slope_right - slope_left) > 1e-3
        else 0.0
    )
    nib = at_left + slope_left * float(np.clip(meet, -1 / mm_per_px, 1 / mm_per_px))
    return np.interp(np.arange(len(stack)), np.flatnonzero(seen), nib)


def _parts(stack: NDArray[np.uint8]) -> Iterator[NDArray[np.uint8]]:
    """The frames in parts small enough to be worked on as floats."""
    step = max(1, PART_PIXELS // max(1, stack[0].size))
    for k in range(0, len(stack), step):
        yield stack[k : k + step]


def _edges(band: NDArray[np.float32], level: float) -> tuple[NDArray[np.bool_], Floats, Floats]:
    """In which frames the pen is seen on every row, and the columns of its left and right edge there."""
    dark = band < level
    seen = np.asarray(np.asarray(dark.any(axis=2)).all(axis=1), bool)
    first, last = dark.argmax(axis=2), dark.shape[2] - 1 - dark[:, :, ::-1].argmax(axis=2)
    return seen, _crossing(band, first - 1, first, level), _crossing(band, last + 1, last, level)


def _crossing(band: NDArray[np.float32], outer: NDArray[np.int64], inner: NDArray[np.int64], level: float) -> Floats:
    """Column, in whole pixels plus a share, at which the grey passes `level` between two neighbouring columns."""
    last = band.shape[2] - 1
    a, b = (np.take_along_axis(band, np.clip(k, 0, last)[..., None], axis=2)[..., 0] for k in (outer, inner))
    share = np.clip((a - level) / np.maximum(a - b, 1e-6), 0, 1)
    return np.asarray(outer + share * (inner - outer) + 0.5, np.float64)


def _front(stack: NDArray[np.uint8], row: int, nib: Floats, sheet: float) -> Floats:
    """Column, to a share of a pixel, where the ink ends in each frame; NaN where there is none."""
    line = stack[:, max(0, row - 1) : row + 2].astype(np.float32).mean(axis=1)
    left = slice(stack.shape[2] // 8, stack.shape[2] * 2 // 5)
    level = (sheet + float(np.median(line[-3:, left]))) / 2
    out = np.full(len(stack), np.nan)
    for k in range(len(stack)):
        dark = np.flatnonzero(line[k, : max(2, int(nib[k]) + 1)] < level)
        if not len(dark):
            continue
        gaps = np.flatnonzero(np.diff(dark) > 2)
        end = int(
            dark[gaps[0]] if len(gaps) else dark[-1]
        )  # the run that starts where the stroke does; the nib's own dark is another
        if end - dark[0] < 2 or end + 1 >= line.shape[1]:
            continue
        a, b = float(line[k, end]), float(line[k, end + 1])
        out[k] = end + 0.5 + (np.clip((level - a) / (b - a), 0, 1) if b > a else 0.0)
    return out


def _cycles(front_mm: Floats) -> NDArray[np.int64]:
    """Where the ink moved on: from each of these frames to the next the panel showed one picture. Delay grows from one
    to the next, so that only whole ones give its mean.
    """
    return np.flatnonzero(np.diff(front_mm) > MOVED_MM) + 1


def _phase_ms(frames: NDArray[np.int64], frame_ms: float) -> float:
    """Half width of what is not known because the camera sees the panel at certain moments only, from how many frames
    its pictures stand: all of it where their clocks run locked, less where they slip past each other.
    """
    slips = len(frames) > LEAST_CYCLES and (frames != np.median(frames)).mean() > SLIPPING
    return EVEN_95 * frame_ms / (len(frames) ** 0.5 if slips else 1.0)


def _half_ms(means: Sequence[float]) -> float:
    """Half width of the 95 % interval of the mean of some blocks' means."""
    return t_95(len(means) - 1) * float(np.std(means, ddof=1)) / len(means) ** 0.5 if len(means) > 1 else 0.0


def _fit(t: Floats, nib: Floats, front: Floats, following: NDArray[np.bool_]) -> Reading:
    """The mean time since the nib was where the ink front is now, with its spread over blocks of frames."""
    place, order = np.unique(np.maximum.accumulate(nib), return_index=True)
    speed, at_zero = np.polyfit(t, nib, 1)
    passed = np.interp(front[following], place, t[order])
    early = front[following] < place[0]
    passed[early] = (front[following][early] - at_zero) / speed
    used = np.flatnonzero(following)
    late = (t[used] - passed) * 1000
    cycles = _cycles(front[used])
    phase_ms = _phase_ms(np.diff(cycles), 1000 * float(t[1] - t[0]))
    if len(cycles) > LEAST_CYCLES:
        late, used = late[cycles[0] : cycles[-1]], used[cycles[0] : cycles[-1]]
        cycles = cycles[1:-1] - cycles[0]
    groups = np.array_split(np.arange(len(cycles) + 1), min(BLOCKS, len(cycles) + 1))
    blocks = np.split(late, cycles[[g[-1] for g in groups[:-1]]]) if len(groups) > 1 else [late]
    half = _half_ms([float(b.mean()) for b in blocks if len(b)])
    ci = float(np.hypot(half, phase_ms))
    return Reading(
        float(late.mean()), ci, float((nib - front)[used].mean()), len(used), float(speed), used, nib[used], front[used]
    )
