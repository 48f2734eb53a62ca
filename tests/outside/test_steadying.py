"""Filters against the reference package and scipy; distances of lines against shapely."""

import unittest

import numpy as np
import shapely
from OneEuroFilter import OneEuroFilter
from scipy.signal import group_delay, lfilter, welch

from gray_quill.core.arrays import plain
from gray_quill.core.hand.motion import MOTION_HZ, tremor
from gray_quill.core.pen.steady.follow import follow
from gray_quill.core.pen.steady.leash import leash
from gray_quill.core.pen.steady.one_euro import one_euro
from gray_quill.core.pen.steady.window import window
from gray_quill.core.readings.drag import discrete_frechet_mm

# 120 Hz series
X = [10.0, 10.984897, 12.989981, 12.76717, 13.401543, 12.33422, 11.60214, 9.334778, 8.832439, 7.154424]
X += [7.06741, 6.764291, 8.321707, 8.580708, 10.530442, 11.350132, 12.701004, 12.297803, 13.069669, 11.822203]


def reference(t: np.ndarray, x: np.ndarray, cutoff_hz: float, beta: float, d_cutoff_hz: float) -> list[float]:
    """The reference package (Casiez, Roussel, Vogel, CHI 2012) with the difference of raw samples as its derivative:
    what it takes for the last value there is handed to it.
    """
    filtered, last = OneEuroFilter(freq=120, mincutoff=cutoff_hz, beta=beta, dcutoff=d_cutoff_hz), [None]
    filtered._OneEuroFilter__x.lastFilteredValue = lambda: last[0]
    out = []
    for value, when in zip(x, t, strict=True):
        out.append(filtered(value, when))
        last[0] = value
    return out


def run(method, t, x, y, *parameters):  # type: ignore[no-untyped-def]
    """x and y through a method."""
    return method(plain(t), np.column_stack((x, y)), *(float(p) for p in parameters)).T


class Filters(unittest.TestCase):
    def test_one_euro_is_the_reference_in_one_dimension(self) -> None:
        t, x = 1 + np.arange(20) / 120, np.array(X)
        for swap in (False, True):
            axes = (np.zeros(20), x) if swap else (x, np.zeros(20))
            ours = run(one_euro, t, *axes, 1.2, 0.3, 1.0)[int(swap)]
            np.testing.assert_allclose(ours, reference(t, x, 1.2, 0.3, 1.0), atol=1e-9)
        rng = np.random.default_rng(8)
        x = np.cumsum(rng.normal(0, 1, 500))
        t = 1 + np.cumsum(rng.uniform(0.002, 0.012, 500))
        np.testing.assert_allclose(
            run(one_euro, t, x, x * 0, 0.7, 0.02, 2.0)[0], reference(t, x, 0.7, 0.02, 2.0), atol=1e-9
        )

    def test_one_euro_is_as_late_at_every_report_rate(self) -> None:
        """A ramp, once it has settled: the paper's derivative would be 16 ms late at 60 Hz and 7 at 1000."""
        late_ms = []
        for hz in (60, 125, 240, 500, 1000):
            t = 1 + np.arange(0, 3, 1 / hz)
            x = 80 * (t - 1)
            late_ms.append(float((x - run(one_euro, t, x, x * 0, 1.5, 0.05, 5.0)[0])[-1] / 80 * 1000))
        self.assertLess(max(late_ms) / min(late_ms), 1.001)

    def test_one_euro_does_not_depend_on_direction(self) -> None:
        t, x = np.arange(20) / 120, np.array(X)
        c, s = np.cos(0.7), np.sin(0.7)
        turned = run(one_euro, t, x * c, x * s, 1.2, 0.3, 1.0)
        np.testing.assert_allclose(
            turned[0] * c + turned[1] * s, run(one_euro, t, x, x * 0, 1.2, 0.3, 1.0)[0], atol=1e-9
        )

    def test_follow_is_a_first_order_filter_late_by_its_time_constant(self) -> None:
        """lfilter with the first-order-hold coefficients; group delay at DC by scipy (Oppenheim and Schafer, ch. 5;
        from memory).
        """
        for tau_ms, hz in ((20, 120), (60, 240), (120, 60)):
            steps = 1000 / hz / tau_ms
            e, late = np.exp(-steps), (1 - np.exp(-steps)) / steps
            b, a = [1 - late, late - e], [1, -e]
            x = np.array(X)
            truth, _ = lfilter(b, a, x, zi=[(1 - (1 - late)) * x[0]])
            np.testing.assert_allclose(run(follow, np.arange(20) / hz, x, x * 0, tau_ms, 0, 0)[0], truth, atol=1e-9)
            self.assertAlmostEqual(group_delay((b, a), w=[1e-6])[1][0] * 1000 / hz / tau_ms, 1, delta=1e-6)

    def test_window_is_a_mean_and_leash_keeps_its_length(self) -> None:
        t = np.arange(0, 1, 0.005)
        x = 30 * t
        ours = run(window, t, x, x * 0, 100.0, 0, 0)[0]
        np.testing.assert_allclose(
            ours[40:], x[40:] - 30 * 0.05, atol=1e-9
        )  # the mean of a ramp lies half a window back
        lx, ly = run(leash, t, 20 * np.cos(5 * t), 20 * np.sin(5 * t), 2.0, 0, 0)
        gap = np.hypot(20 * np.cos(5 * t) - lx, 20 * np.sin(5 * t) - ly)
        self.assertLessEqual(gap.max(), 2 + 1e-9)
        np.testing.assert_allclose(gap[60:], 2, atol=1e-9)


class Lines(unittest.TestCase):
    def test_frechet_is_shapelys(self) -> None:
        """Eiter and Mannila, TR 1994: vertices of the two lines give 0.3."""
        y = [
            (0, 0.9, 1.4, 1.1, 0.2, -0.8, -1.3, -1.1, -0.3, 0.7, 1.2, 1),
            (0.2, 0.7, 1.1, 1.3, 0.5, -0.6, -1, -1.4, -0.6, 0.4, 1.4, 0.8),
        ]
        a, b = (np.column_stack((np.arange(12.0), np.array(v))) for v in y)
        self.assertAlmostEqual(discrete_frechet_mm(*plain(a.T), *plain(b.T)), 0.3, places=12)
        self.assertAlmostEqual(shapely.frechet_distance(shapely.LineString(a), shapely.LineString(b)), 0.3, places=12)

    def test_frechet_is_the_least_reach_by_which_two_walkers_get_through(self) -> None:
        """By its definition, slowly: the smallest distance at which (n, m) can be reached step by step. Shapely gives a
        larger value on some of these lines (GEOS 3.14: 12.80 instead of 12.64 on the first), so it is no reference
        here.
        """
        rng = np.random.default_rng(1)
        for _ in range(4):
            a, b = rng.normal(0, 5, (30, 2)), rng.normal(0, 5, (41, 2))
            apart = np.hypot(a[:, None, 0] - b[None, :, 0], a[:, None, 1] - b[None, :, 1])
            least = min(d for d in np.unique(apart) if _through(apart <= d))
            self.assertAlmostEqual(discrete_frechet_mm(*plain(a.T), *plain(b.T)), least, places=12)


def _through(free: np.ndarray) -> bool:
    reached = np.zeros(free.shape, bool)
    for i in range(free.shape[0]):
        for j in range(free.shape[1]):
            before = (
                i == j == 0
                or (i and reached[i - 1, j])
                or (j and reached[i, j - 1])
                or (i and j and reached[i - 1, j - 1])
            )
            reached[i, j] = bool(free[i, j] and before)
    return bool(reached[-1, -1])


class Tremor(unittest.TestCase):
    def test_it_lies_in_its_band(self) -> None:
        """scipy's welch: most power within 8 to 12 Hz (band from memory: Elble and Koller 1990)."""
        hz, power = welch(tremor(0.05, int(60 * MOTION_HZ), np.random.default_rng(3))[0], MOTION_HZ, nperseg=4000)
        inside = power[(hz >= 7) & (hz <= 13)].sum() / power.sum()
        self.assertGreater(inside, 0.85)
        self.assertTrue(8 <= hz[power.argmax()] <= 12)
