"""The check of a screen by hand: offsets and waves that were put in are found, and none where none are."""

import math
import unittest

import numpy as np
from scipy import optimize

from gray_quill.core.digitiser.device import Digitiser
from gray_quill.core.digitiser.sampling import sample_motion
from gray_quill.core.errors import InputError
from gray_quill.core.hand.motion import Motion
from gray_quill.core.screen.aim import Tap, corrected, lean_of, read_aim
from gray_quill.core.screen.straightness import read_straightness
from gray_quill.core.trace import Trace

CROSSES = [(x, y) for x in (30, 120, 210) for y in (30, 90, 150)]
ILL = Digitiser(noise_mm=0.015)


def taps(
    rng: np.random.Generator, shift: tuple[float, float] = (0, 0), scale: float = 0, lean: float = 0, leans: bool = True
) -> list[Tap]:
    """A hand that aims to 0.15 mm each way on nine crosses at three leans."""
    out = []
    for azimuth in (0.3, 2.4, 4.5):
        for x, y in CROSSES:
            altitude, turned = math.radians(rng.uniform(45, 70)), azimuth + rng.normal(0, 0.2)
            way = lean_of(altitude, turned)
            seen = (x + shift[0] + scale * (x - 120) + lean * way[0], y + shift[1] + lean * way[1])
            at = [float(v + rng.normal(0, 0.15)) for v in seen]
            out.append(Tap(x, y, at[0], at[1], altitude if leans else None, turned if leans else None))
    return out


def lines(rng: np.random.Generator, wave_mm: float, period_mm: float, tremor_mm: float, count: int = 6) -> list[Trace]:
    """Slanting lines along a ruler at 20 to 40 mm/s, by a hand that shakes at 7 to 10 Hz and bows by 0.3 mm."""
    out = []
    digitiser = Digitiser(noise_mm=0.015, wave_mm=wave_mm, wave_period_mm=period_mm)
    for k in range(count):
        speed, slant = rng.uniform(20, 40), math.radians(rng.uniform(38, 52)) * (1 if k % 2 else -1)
        t = np.arange(0, 120 / speed, 1 / 1000)
        wander = np.cumsum(rng.uniform(7, 10) + np.cumsum(rng.normal(0, 0.02, len(t)))) / 1000
        across = tremor_mm * math.sqrt(2) * np.sin(2 * np.pi * wander + rng.uniform(0, 6))
        across += 0.3 * np.sin(np.pi * t / t[-1])
        x = rng.uniform(20, 60) + speed * t * math.cos(slant) - across * math.sin(slant)
        y = rng.uniform(140, 160) - 120 * (k % 2) + speed * t * math.sin(slant) + across * math.cos(slant)
        level = np.full(len(t), 0.5)
        sampled = sample_motion(Motion(0.0, t, x, y, level, level + 0.5, 0 * level), digitiser, rng)
        assert sampled
        out.append(sampled[0])
    return out


class Aims(unittest.TestCase):
    def test_what_was_put_in_is_found_and_taken_out(self) -> None:
        rng = np.random.default_rng(41)
        for shift, scale, lean in (((0.5, -0.3), 0, 0), ((0, 0), 0.004, 0), ((0, 0), 0, 0.4), ((0.4, 0.4), 0.003, 0.3)):
            told = taps(rng, shift, scale, lean)
            found = read_aim(told)
            c = found.correction
            assert c
            got = (c.shift_x_mm, c.shift_y_mm, 120 * c.x_by_x, c.lean_mm)
            np.testing.assert_allclose(got, (*shift, 120 * scale, lean), atol=0.15)
            self.assertLess(found.left_mm, 0.25)
            self.assertAlmostEqual(found.scatter_mm, 0.15, delta=0.05)
            place = np.array([(t.x_mm, t.y_mm) for t in told])
            leans = np.array([lean_of(t.altitude or 0, t.azimuth or 0) for t in told])
            x, y = corrected(c, place[:, 0], place[:, 1], leans)
            off = np.hypot(x - [t.cross_x_mm for t in told], y - [t.cross_y_mm for t in told])
            self.assertAlmostEqual(float(off.mean()), found.left_mm, delta=0.002)

    def test_the_fit_is_that_of_a_general_optimiser(self) -> None:
        told = taps(np.random.default_rng(42), (0.6, 0.5), 0.01, 0.6)
        c = read_aim(told).correction
        assert c

        def off(p: np.ndarray) -> np.ndarray:
            out = []
            for t in told:
                way = lean_of(t.altitude or 0, t.azimuth or 0)
                out.append(t.cross_x_mm + p[0] + p[2] * (t.cross_x_mm - 120) + p[3] * way[0] - t.x_mm)
                out.append(t.cross_y_mm + p[1] + p[3] * way[1] - t.y_mm)
            return np.array(out)

        best = optimize.least_squares(off, np.zeros(4)).x
        np.testing.assert_allclose((c.shift_x_mm, c.shift_y_mm, c.x_by_x, c.lean_mm), best, atol=2e-3)

    def test_it_does_not_speak_where_it_cannot_tell(self) -> None:
        rng = np.random.default_rng(43)
        spoke = sum(read_aim(taps(rng)).correction is not None for _ in range(100))
        self.assertLessEqual(spoke, 3, "of a hundred screens without fault")
        self.assertIn("No offset is sure", read_aim(taps(rng)).words[0])
        self.assertIn("no lean", read_aim(taps(rng, lean=0.4, leans=False)).words[-1])
        with self.assertRaisesRegex(InputError, "8 are told"):
            read_aim(taps(rng)[:8])
        with self.assertRaisesRegex(InputError, "Tap 3 lies 4. mm from its cross"):
            read_aim([*taps(rng)[:2], Tap(30, 150, 70, 150), *taps(rng)[3:]])


class Straight(unittest.TestCase):
    def test_a_wave_is_found_and_told_apart_from_the_hand(self) -> None:
        """Waves from well below what is seen to well above, with hands calm and shaky."""
        rng = np.random.default_rng(44)
        for wave, period, tremor in ((0.25, 6, 0.1), (0.06, 8, 0.1), (0.2, 3.3, 0.15), (0.3, 12, 0.05), (0.1, 4, 0.02)):
            found = read_straightness(lines(rng, wave, period, tremor))
            self.assertAlmostEqual((found.wave_mm or 0) / wave, 1, delta=0.12)
            self.assertAlmostEqual((found.period_mm or 0) / period, 1, delta=0.03)
            self.assertAlmostEqual(found.tremor_mm / tremor, 1, delta=0.25)

    def test_a_shaky_hand_alone_makes_no_wave(self) -> None:
        rng = np.random.default_rng(45)
        spoke = 0
        for tremor in (0.02, 0.1, 0.3):
            for _ in range(20):
                found = read_straightness(lines(rng, 0, 6, tremor))
                spoke += found.wave_mm is not None
                self.assertAlmostEqual(found.tremor_mm / tremor, 1, delta=0.3)
        self.assertLessEqual(spoke, 3, "of sixty good digitisers")

    def test_lines_that_say_nothing_are_refused(self) -> None:
        good = lines(np.random.default_rng(46), 0.2, 6, 0.05)
        t = np.arange(600) / 240
        level = np.full(600, 0.5)
        flat = Trace(t, 20 + 40 * t, 0 * t + 50, level, level, level)
        bent = Trace(t, 20 + 30 * t + 8 * np.sin(t), 20 + 30 * t - 8 * np.sin(t), level, level, level)
        short = Trace(t[:20], t[:20], t[:20], level[:20], level[:20], level[:20])
        for told, why in (
            (good[:3], "3 are there"), ([*good[:3], flat], "Line 4 runs along the screen"),
            ([*good[:4], bent], "Line 5 is not straight"), ([*good[:4], short], "Line 5 is too short"),
        ):  # fmt: skip
            with self.assertRaisesRegex(InputError, why):
                read_straightness(told)
