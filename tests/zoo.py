"""Awkward traces on which every public function of the ink chain and every pen is run."""

import numpy as np

from gray_quill.core.trace import Trace, make_trace


def _line(n: int, seconds: float, length: float = 40.0) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    return np.linspace(0, seconds, n), np.linspace(20, 20 + length, n), np.full(n, 30.0)


def zoo() -> dict[str, Trace]:
    rng = np.random.default_rng(5)
    t, x, y = _line(200, 1.0)
    u = np.linspace(0, 2 * np.pi, 240)
    cusp_y = np.abs(np.linspace(-10, 10, 200)) + 20
    long_t = np.arange(0, 600, 1 / 40)
    jitter = np.cumsum(rng.uniform(0.001, 0.009, 200))
    return {
        "dot": make_trace([0], [30], [30], [0.5]),
        "two equal points": make_trace([0, 0.1], [30, 30], [30, 30], [0.5, 0.5]),
        "one time": make_trace([1, 1, 1], [30, 31, 32], [30, 30, 30], [0.1, 0.5, 0.9]),
        "shorter than its tapers": make_trace([0, 0.01, 0.02], [30, 30.2, 30.5], [30, 30, 30], [0.4, 0.5, 0.4]),
        "straight": make_trace(t, x, y, np.full(200, 0.5)),
        "wedge": make_trace(t, x, y, np.linspace(0, 1, 200)),
        "cusp": make_trace(t, np.full(200, 40.0), cusp_y, np.full(200, 0.5)),
        "self-crossing": make_trace(u / 4, 40 + 10 * np.sin(u), 40 + 8 * np.sin(2 * u), 0.5 + 0.4 * np.sin(u)),
        "very fast": make_trace(t / 100, x, y, np.full(200, 0.5)),
        "very slow": make_trace(t * 100, x / 10, y, np.full(200, 0.5)),
        "ten minutes": make_trace(
            long_t, 50 + 20 * np.cos(long_t / 3), 50 + 20 * np.sin(long_t / 2), 0.5 + 0.3 * np.sin(long_t)
        ),
        "no force, no tilt": make_trace(t, x, y),
        "leaning": make_trace(t, x, y, np.full(200, 0.5), np.linspace(1.5, 0.2, 200), np.linspace(6.0, 7.0, 200)),
        "jittering clock": make_trace(
            jitter, x + rng.normal(0, 0.05, 200), y + rng.normal(0, 0.05, 200), np.full(200, 0.5)
        ),
    }


def wave(seconds: float = 2.0, hz: float = 240.0, height_mm: float = 4.0, force: float | None = None) -> Trace:
    """A smooth line of writing-like waves."""
    t = np.arange(0, seconds, 1 / hz)
    return make_trace(
        t,
        15 + 25 * t,
        40 + height_mm * np.sin(2 * np.pi * 1.2 * t),
        0.5 + 0.35 * np.sin(9 * t) if force is None else np.full(len(t), force),
    )
