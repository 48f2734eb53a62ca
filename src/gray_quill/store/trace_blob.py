"""Traces as compact blobs.

Layout, little-endian: 4 bytes "GQT1"; uint8 flags (1: no force, 2: no tilt, 4: when it began is known); uint32 n;
n float64 t_s; then n float32 each of x_mm, y_mm, force and, unless flag 2, altitude and azimuth; with flag 4 float64
begun_s.
"""

import struct

import numpy as np

from gray_quill.core.angles import UPRIGHT
from gray_quill.core.trace import Trace

MAGIC = b"GQT1"
HEAD, CLOCK = struct.Struct("<4sBI"), struct.Struct("<d")
NO_FORCE, NO_TILT, BEGUN = 1, 2, 4


def pack_trace(trace: Trace) -> bytes:
    """The trace as bytes."""
    flags = NO_FORCE * ("force" in trace.absent) + NO_TILT * ("tilt" in trace.absent)
    flags += BEGUN * (trace.begun_s is not None)
    columns = [trace.x_mm, trace.y_mm, trace.force] + ([] if flags & NO_TILT else [trace.altitude, trace.azimuth])
    body = [trace.t_s.astype("<f8").tobytes(), *(c.astype("<f4").tobytes() for c in columns)]
    begun = b"" if trace.begun_s is None else CLOCK.pack(trace.begun_s)
    return HEAD.pack(MAGIC, flags, len(trace)) + b"".join(body) + begun


def unpack_trace(blob: bytes) -> Trace:
    """The trace of a blob made by pack_trace."""
    magic, flags, n = HEAD.unpack_from(blob)
    if magic != MAGIC:
        raise ValueError("not a trace blob")
    # copies lie aligned in memory, as kernels are compiled for
    t = np.frombuffer(blob, "<f8", n, HEAD.size).astype(float)
    count = n * (3 if flags & NO_TILT else 5)
    x, y, force, *tilt = np.frombuffer(blob, "<f4", count, HEAD.size + 8 * n).reshape(-1, n).astype(float)
    altitude, azimuth = tilt or (np.full(n, UPRIGHT), np.zeros(n))
    # what was packed had been looked at; only the rounding to 32 bits can pass a bound
    columns = (t, x, y, np.minimum(force, 1.0), np.minimum(altitude, UPRIGHT), np.mod(azimuth, 2 * np.pi))
    for column in columns:
        column.flags.writeable = False
    absent = frozenset(name for flag, name in ((NO_FORCE, "force"), (NO_TILT, "tilt")) if flags & flag)
    begun = CLOCK.unpack_from(blob, len(blob) - CLOCK.size)[0] if flags & BEGUN else None
    return Trace(*columns, absent=absent, begun_s=begun)
