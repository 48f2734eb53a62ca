"""What a camera in the hand does to a film: rolled, keystoned, shaken; bowed strokes; dark sheets."""

import dataclasses

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.ndimage import gaussian_filter1d, map_coordinates

from gray_quill.core.arrays import Floats

Frames = NDArray[np.uint8]
SHAKE_S = 0.12  # how long a hand holds a place before it drifts on; common practice, no source


@dataclasses.dataclass(frozen=True)
class Camera:
    """roll_deg about the picture's middle; keystone: by how much larger the right side is shown than the left;
    shake_mm: RMS of the hand's drift, each way; bow_mm: by how much the stroke's middle lies off the line between its
    ends; negative: a dark sheet written on in light ink.
    """

    roll_deg: float = 0.0
    keystone: float = 0.0
    shake_mm: float = 0.0
    bow_mm: float = 0.0
    negative: bool = False


STILL = Camera()


def bow_px(bow_mm: float, place_mm: ArrayLike, start_mm: float, end_mm: float, px_per_mm: float) -> Floats:
    """How far below its straight way a bowed stroke runs at a place, in pixels; a parabola through its ends."""
    share = np.clip((np.asarray(place_mm, float) - start_mm) / (end_mm - start_mm), -0.2, 1.2)
    return np.asarray(4 * bow_mm * share * (1 - share) * px_per_mm)


def filmed_by(frames: list[Frames], camera: Camera, fps: float, px_per_mm: float, seed: int) -> list[Frames]:
    """The frames as the camera saw them; places outside the picture show what lies at its rim."""
    if camera == dataclasses.replace(STILL, bow_mm=camera.bow_mm):
        return frames
    height, width = frames[0].shape
    rng = np.random.default_rng([seed, 77])
    drift = rng.standard_normal((2, len(frames)))
    if camera.shake_mm:
        drift = gaussian_filter1d(drift, max(1.0, SHAKE_S * fps), axis=1, mode="nearest")
        drift *= camera.shake_mm * px_per_mm / max(1e-9, float(drift.std()))
    else:
        drift[:] = 0
    angle = np.radians(camera.roll_deg)
    y, x = np.mgrid[0:height, 0:width].astype(float)
    out = []
    for k, frame in enumerate(frames):
        u, v = x - width / 2 - drift[0, k], y - height / 2 - drift[1, k]
        u, v = u * np.cos(angle) + v * np.sin(angle), v * np.cos(angle) - u * np.sin(angle)
        depth = 1 + camera.keystone * u / width
        seen = frame
        if camera.roll_deg or camera.keystone or camera.shake_mm:
            places = [v / depth + height / 2, u / depth + width / 2]
            seen = map_coordinates(frame.astype(np.float32), places, order=1, mode="nearest")
        out.append((255 - seen if camera.negative else seen).round().astype(np.uint8))
    return out
