"""Tilt in degrees <-> altitude and azimuth in radians, as W3C Pointer Events Level 3 converts them.

Altitude runs from 0 (pen flat) to pi/2 (upright); azimuth from 0 (towards +x) clockwise on a y-down page to 2 pi.
tiltX and tiltY are whole degrees in -90..90. The edge cases are those browsers show: a zero tilt gives an exact
quarter turn, a right-angled tilt gives altitude 0, and both non-zero with one right-angled gives azimuth 0.
"""

import numba
import numpy as np
from numpy.typing import ArrayLike, NDArray

from gray_quill.core.arrays import Floats

UPRIGHT = np.pi / 2


def tilt_to_spherical(tilt_x: ArrayLike, tilt_y: ArrayLike) -> tuple[Floats, Floats]:
    """Altitude and azimuth (radians) of tilts in degrees; any broadcastable shapes."""
    tx, ty = np.broadcast_arrays(np.asarray(tilt_x, float), np.asarray(tilt_y, float))
    flat = (np.abs(tx) == 90) | (np.abs(ty) == 90)
    tan_x, tan_y = np.tan(np.radians(np.where(flat, 0.0, tx))), np.tan(np.radians(np.where(flat, 0.0, ty)))
    lean = np.hypot(tan_x, tan_y)
    altitude = np.where(flat, 0.0, np.arctan2(1.0, lean))
    azimuth = np.mod(np.arctan2(tan_y, tan_x), 2 * np.pi)
    azimuth = np.where(ty == 0, np.where(tx < 0, np.pi, 0.0), azimuth)
    azimuth = np.where((tx == 0) & (ty != 0), np.where(ty > 0, np.pi / 2, 3 * np.pi / 2), azimuth)
    azimuth = np.where(flat & (tx != 0) & (ty != 0), 0.0, azimuth)
    return altitude, azimuth


def spherical_to_tilt(altitude: ArrayLike, azimuth: ArrayLike) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Whole-degree tiltX and tiltY (rounded to nearest, as browsers do) of angles in radians."""
    alt, azi = np.broadcast_arrays(np.asarray(altitude, float), np.asarray(azimuth, float))
    azi = np.mod(azi, 2 * np.pi)
    cos_z, sin_z = np.cos(azi), np.sin(azi)
    quarter = np.isclose(np.mod(azi, np.pi / 2), 0, atol=1e-12) | np.isclose(
        np.mod(azi, np.pi / 2), np.pi / 2, atol=1e-12
    )
    axis_x = quarter & (np.abs(sin_z) < 0.5)
    axis_y = quarter & (np.abs(cos_z) < 0.5)
    cos_z, sin_z = np.where(axis_y, 0.0, cos_z), np.where(axis_x, 0.0, sin_z)
    flat = alt <= 0
    tan_alt = np.tan(np.where(flat, 1.0, alt))
    tx = np.where(flat, 90 * np.sign(cos_z), np.degrees(np.arctan2(cos_z, tan_alt)))
    ty = np.where(flat, 90 * np.sign(sin_z), np.degrees(np.arctan2(sin_z, tan_alt)))
    return np.floor(tx + 0.5).astype(np.int64), np.floor(ty + 0.5).astype(np.int64)


@numba.njit(cache=True)
def unwrapped(angles, offsets):  # type: ignore[no-untyped-def]
    """Angles of paths parted by offsets, (k + 1,), without jumps of a whole turn: as numpy's unwrap."""
    out = angles.copy()
    for p in range(len(offsets) - 1):
        turns = 0.0
        for i in range(offsets[p] + 1, offsets[p + 1]):
            step = angles[i] - angles[i - 1]
            if abs(step) > np.pi:
                turns -= np.floor((step + np.pi) / (2 * np.pi))
            out[i] = angles[i] + turns * 2 * np.pi
    return out
