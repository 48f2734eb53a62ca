"""Traces as compact blobs.

Layout, little-endian: 4 bytes "GQT1"; uint8 flags (1: no force, 2: no tilt); uint32 n; n float64 t_s; then n float32
each of x_mm, y_mm, force and, unless flag 2, altitude and azimuth.
"""

import struct

import numpy as np

from gray_quill.core.angles import UPRIGHT
from gray_quill.core.trace import Trace

MAGIC = b"GQT1"
HEAD = struct.Struct("<4sBI")
NO_FORCE, NO_TILT = 1, 2


def pack_trace(trace: Trace) -> bytes:
    """The trace as bytes."""
    flags = NO_FORCE * ("force" in trace.absent) + NO_TILT * ("tilt" in trace.absent)
    columns = [trace.x_mm, trace.y_mm, trace.force] + ([] if flags & NO_TILT else [trace.altitude, trace.azimuth])
    body = [trace.t_s.astype("<f8").tobytes(), *(c.astype("<f4").tobytes() for c in columns)]
    return HEAD.pack(MAGIC, flags, len(trace)) + b"".join(body)


def unpack_trace(blob: bytes) -> Trace:
    """The trace of a blob made by pack_trace."""
    magic, flags, n = HEAD.unpack_from(blob)
    if magic != MAGIC:
        raise ValueError("not a trace blob")
    # copies lie aligned in memory, as kernels are compiled for
    t = np.frombuffer(blob, "<f8", n, HEAD.size).astype(float)
    x, y, force, *tilt = np.frombuffer(blob, "<f4", -1, HEAD.size + 8 * n).reshape(-1, n).astype(float)
    altitude, azimuth = tilt or (np.full(n, UPRIGHT), np.zeros(n))
    # what was packed had been looked at; only the rounding to 32 bits can pass a bound
    columns = (t, x, y, np.minimum(force, 1.0), np.minimum(altitude, UPRIGHT), np.mod(azimuth, 2 * np.pi))
    for column in columns:
        column.flags.writeable = False
    absent = frozenset(name for flag, name in ((NO_FORCE, "force"), (NO_TILT, "tilt")) if flags & flag)
    return Trace(*columns, absent=absent)
