"""The simulated slow-motion camera: frames of a nib and the ink behind it, with known truth.

The nib crosses a pale sheet from left to right at even speed. The pen is a dark slanted shaft that ends in the nib; its
ink is a thin line on the row the nib runs along, and ends where the nib was one delay ago. Exposure blurs both along
the motion, the sensor adds noise.
"""

import dataclasses
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates
from scipy.special import ndtri

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.ink.areas import area_cover
from gray_quill.core.ink.view import View
from gray_quill.core.latency.film_camera import STILL, Camera, bow_px, filmed_by
from gray_quill.core.latency.film_reader import MOST_FRAMES
from gray_quill.core.latency.stage import mean_ms
from gray_quill.core.latency.trial import stages_of
from gray_quill.core.latency.updates import panel_updates, shown_at_moments, update_period_s
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import Quantity, check

Frames = NDArray[np.uint8]
WIDTH_MM, HEIGHT_MM, PX_PER_MM = 64.0, 12.0, 8.0
ROW_MM = 9.0  # where the nib runs
START_MM, END_MM = 6.0, 58.0
INK_MM = 0.6
SHAFT = (
    (0.0, 0.0),
    (2.2, -3.2),
    (9.0, -16.0),
    (4.0, -16.0),
    (0.2, -3.6),
)  # outline of nib and shaft from the tip, mm, up is negative
PAPER, INK, PEN = 214.0, 40.0, 84.0
OPEN_SHARE = 0.5  # of a frame's time the shutter is open
BLUR_STEPS = 4
NOISE = 4.0
# What a slow-motion camera takes: under it the pen moves too far between frames, over it the film grows too long.
CAMERA_FPS = Quantity("number", "Frames a second", "Of the simulated camera", "frames/s", 60, 2000, 1)
SPEED_MM_S = 100.0
LEAST_UPDATES = 8  # pictures a panel must show in a film
LEAST_FRONT_MM = 3.0  # ink this long counts as following
PHASES = 8


@dataclasses.dataclass(frozen=True)
class Truth:
    """What the film shows: the mean delay of its ink while it follows, the gap at the film's speed, and its scale."""

    delay_ms: float
    gap_mm: float
    mm_per_px: float
    fps: float


def film(
    device: Device,
    recipe: Recipe,
    fps: float,
    seed: int,
    progress: Callable[[float], None] = lambda _: None,
    camera: Camera = STILL,
) -> tuple[list[Frames], Truth]:
    """Grey frames (h, w) of the nib and its ink on a device, and the truth. Raises InputError for cameras out of range.

    Slow panels are filmed at a slower hand, so that there are some pictures to see.
    """
    check(CAMERA_FPS, fps, "fps")
    period = update_period_s(device.panel, recipe)
    run_s = max((END_MM - START_MM) / SPEED_MM_S, mean_ms(stages_of(device, recipe)) / 1000 + LEAST_UPDATES * period)
    speed_mm_s = (END_MM - START_MM) / run_s
    rng = np.random.default_rng(seed)
    shown_at, shown_to = panel_updates(device, recipe, run_s, speed_mm_s, rng)
    times = np.arange(rng.random() / fps, run_s, 1 / fps)  # the camera does not wait for the nib
    if len(times) > MOST_FRAMES:
        raise InputError(
            f"On so slow a panel the film would have {len(times)} frames; {MOST_FRAMES} is the most. Take fewer frames "
            "a second.",
            "fps",
        )
    noise = (NOISE * ndtri((np.arange(1 << 16) + 0.5) / (1 << 16))).astype(np.float32)  # each level as likely
    pens, ink = _pen_phases(), _ink_band(camera.bow_mm)
    frames = []
    for t in times:
        progress(float(t / run_s))
        moments = t + (np.arange(BLUR_STEPS) + 0.5) / BLUR_STEPS * OPEN_SHARE / fps
        reach = shown_at_moments(shown_at, shown_to, moments)
        picture = _picture(pens, ink, START_MM + speed_mm_s * moments, START_MM + speed_mm_s * reach, camera.bow_mm)
        picture += noise[np.frombuffer(rng.bytes(2 * picture.size), np.uint16).reshape(picture.shape)]
        frames.append(np.clip(picture, 0, 255, out=picture).astype(np.uint8))
    middle = times + OPEN_SHARE / fps / 2
    reach = shown_at_moments(shown_at, shown_to, middle)
    following = speed_mm_s * reach > LEAST_FRONT_MM
    delay = float((middle - reach)[following].mean())
    frames = filmed_by(frames, camera, fps, PX_PER_MM, seed)
    return frames, Truth(delay * 1000, delay * speed_mm_s, 1 / PX_PER_MM, fps)


def _pen_phases() -> list[NDArray[np.float32]]:
    """Coverage of the pen with its tip at the middle of the first column of a picture, shifted by parts of a pixel."""
    width, height = round(10 * PX_PER_MM), round(HEIGHT_MM * PX_PER_MM)
    return [
        area_cover([np.array(SHAFT) + (0.5 + k / PHASES / PX_PER_MM, ROW_MM)], View(0, 0, PX_PER_MM, width, height))
        for k in range(PHASES)
    ]


def _lowered(pen: NDArray[np.float32], by_px: float) -> NDArray[np.float32]:
    """The pen's coverage lower down in the picture, to a share of a pixel."""
    places = np.mgrid[0 : pen.shape[0], 0 : pen.shape[1]].astype(float)
    places[0] -= by_px
    return np.asarray(map_coordinates(pen, places, order=1, mode="nearest"), np.float32)


@dataclasses.dataclass(frozen=True, eq=False)
class _Ink:
    """What all of the stroke's ink adds to the paper's grey, (rows, width), on the rows that hold any of it."""

    rows: slice
    grey: NDArray[np.float32]


def _ink_band(bow_mm: float) -> _Ink:
    width, height = round(WIDTH_MM * PX_PER_MM), round(HEIGHT_MM * PX_PER_MM)
    rows = np.arange(height)[:, None]
    lower = bow_px(bow_mm, (np.arange(width) + 0.5) / PX_PER_MM, START_MM, END_MM, PX_PER_MM)
    top, bottom = (np.clip((ROW_MM + s * INK_MM / 2) * PX_PER_MM + lower - rows, 0, 1) for s in (-1, 1))
    share = np.asarray(bottom - top, np.float32)
    held = np.flatnonzero(share.any(axis=1))
    inked = slice(int(held[0]), int(held[-1]) + 1)
    return _Ink(inked, (INK - PAPER) * share[inked])


def _picture(
    pens: list[NDArray[np.float32]], ink: _Ink, nib_mm: Floats, front_mm: Floats, bow_mm: float
) -> NDArray[np.float32]:
    """The mean of what is seen at some moments, with the nib and the ink's end there: paper, on it ink, on both the
    pen. Only where the pen is must each moment be drawn.
    """
    width, height = round(WIDTH_MM * PX_PER_MM), round(HEIGHT_MM * PX_PER_MM)
    part = np.float32(1 / len(nib_mm))
    ends = np.clip(front_mm[:, None] * PX_PER_MM - np.arange(width), 0, 1)
    start = np.clip(START_MM * PX_PER_MM - np.arange(width), 0, 1)
    across = np.maximum(ends - start, 0).astype(np.float32)
    picture = np.full((height, width), PAPER, np.float32)
    picture[ink.rows] += ink.grey * across.mean(axis=0)
    for nib, inked in zip(nib_mm, across, strict=True):
        step = round((nib - 0.5) * PX_PER_MM * PHASES)
        left, pen = step // PHASES, pens[step % PHASES]
        if bow_mm:
            pen = _lowered(pen, float(bow_px(bow_mm, nib, START_MM, END_MM, PX_PER_MM)))
        place = slice(left, min(left + pen.shape[1], width))
        pen = pen[:, : place.stop - left] * part
        picture[:, place] += np.float32(PEN - PAPER) * pen
        picture[ink.rows, place] -= ink.grey[:, place] * inked[place] * pen[ink.rows]
    return picture
