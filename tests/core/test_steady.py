"""Steadying and the readings of what it costs."""

import dataclasses
import itertools
import unittest

import numpy as np

from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.width import pen_samples
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.steady import METHODS, Steady, amount_of, parameter_of, steady_path
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.drag import corners, discrete_frechet_mm
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.readings.lines import longest_line
from gray_quill.core.trace import make_trace, moved
from tests.zoo import wave, zoo


def pen(method: str, amount: float):  # type: ignore[no-untyped-def]
    return read_recipe({"steady": {"method": method, "amount": amount}})


class Steadying(unittest.TestCase):
    def test_amount_and_parameter_convert_both_ways(self) -> None:
        for method in METHODS:
            for amount in (0.5, 2, 5.5, 10):
                self.assertAlmostEqual(amount_of(method, parameter_of(method, amount)), amount, places=9)

    def test_nothing_leaves_the_path_untouched(self) -> None:
        for method in ("none", *METHODS):
            trace = wave()
            x, y = steady_path(Steady(method, 0), trace.t_s, trace.x_mm, trace.y_mm)
            self.assertTrue(np.array_equal(x, trace.x_mm) and np.array_equal(y, trace.y_mm))

    def test_every_method_runs_on_the_zoo_and_no_stroke_loses_its_end(self) -> None:
        for method in METHODS:
            for name, trace in zoo().items():
                samples = pen_samples(trace, pen(method, 6))
                self.assertTrue(np.isfinite(samples.x_mm).all(), name)
                self.assertLess(
                    np.hypot(samples.x_mm[-1] - trace.x_mm[-1], samples.y_mm[-1] - trace.y_mm[-1]), 1e-6, name
                )

    def test_the_path_does_not_depend_on_the_report_rate(self) -> None:
        for method in METHODS:
            paths = []
            for hz in (120, 240):
                trace = wave(hz=hz)
                paths.append((trace.t_s, *steady_path(Steady(method, 3), trace.t_s, trace.x_mm, trace.y_mm)))
            (ta, xa, ya), (tb, xb, yb) = paths
            apart = np.hypot(xa - np.interp(ta, tb, xb), ya - np.interp(ta, tb, yb))
            self.assertLess(np.sqrt((apart**2).mean()), 0.05, method)

    def test_more_is_calmer_and_slower(self) -> None:
        for method in METHODS:
            reads = [read_ink([wave(4)], pen(method, a)) for a in (1, 3, 6)]
            for less, more in itertools.pairwise(reads):
                self.assertLess(more.shake_left, less.shake_left, method)
                self.assertGreater(more.trail_mm, less.trail_mm, method)


class InkGoesWithTheHand(unittest.TestCase):
    """Force and lean are held back with the position, and the lift is caught up along the hand's own way."""

    def test_the_thickest_ink_lies_where_the_hand_pressed(self) -> None:
        t = np.arange(0, 1.5, 1 / 240)
        x = 20 + 40 * t
        pressed = make_trace(t, x, 0 * t + 30, 0.2 + 0.6 * np.exp(-(((x - 50) / 6) ** 2)))
        for method in METHODS:
            recipe = read_recipe({"press": {"range": 4}, "steady": {"method": method, "amount": 4}})
            ink = settle(pressed, recipe)
            self.assertAlmostEqual(float(ink.x_mm[ink.long_mm.argmax()]), 50, delta=0.35, msg=method)
            light = settle(pressed, pen(method, 0))
            self.assertAlmostEqual(float(np.ptp(ink.x_mm)), float(np.ptp(light.x_mm)), delta=1e-6, msg=method)

    def test_the_tail_follows_the_hands_own_way_and_ends_as_it_lifted(self) -> None:
        """A bow whose chord would leave it by a millimetre and more; the hand grows light towards the lift."""
        turn = np.linspace(0, np.pi, 120)
        t = np.arange(120) / 240
        bow = make_trace(t, 40 - 8 * np.cos(turn), 30 + 8 * np.sin(turn), np.linspace(0.8, 0.1, 120))
        for method in METHODS:
            recipe = read_recipe({"press": {"range": 4}, "steady": {"method": method, "amount": 7}})
            samples = pen_samples(bow, recipe)
            tail = slice(len(bow), None)
            self.assertGreater(len(samples.x_mm[tail]), 3, method)
            tip = (samples.x_mm[len(bow) - 1], samples.y_mm[len(bow) - 1])
            off = abs(np.hypot(tip[0] - 40, tip[1] - 30) - 8)
            way = np.abs(np.hypot(samples.x_mm[tail] - 40, samples.y_mm[tail] - 30) - 8)
            self.assertLess(way.max(), off + 0.01, f"{method}: from where the tip was, nearer to the way and nearer")
            self.assertTrue((np.diff(samples.press[len(bow) - 1 :]) < 1e-6).all(), f"{method}: lighter and lighter")
            lifted = pen_samples(bow, read_recipe({"press": {"range": 4}}))
            self.assertAlmostEqual(float(samples.press[-1]), float(lifted.press[-1]), places=9, msg=method)

    def test_a_stroke_that_lands_moving_starts_as_wide_as_it_goes_on(self) -> None:
        t = np.arange(60) / 240
        even = make_trace(t, 20 + 70 * t, 0 * t + 30, 0 * t + 0.5)
        widths = settle(even, read_recipe({"pace": {"exponent": 0.4}})).long_mm
        np.testing.assert_allclose(widths, widths[-1], rtol=1e-6)
        dot = settle(make_trace([0], [20], [30], [0.5]), read_recipe({"pace": {"exponent": 0.4}})).long_mm
        self.assertGreater(dot[0], 1.3 * widths[-1], "a dot is slow")


class Readings(unittest.TestCase):
    def test_drag_of_follow_is_its_time_constant_on_slow_motion(self) -> None:
        t = np.arange(0, 3, 1 / 240)
        slow = make_trace(t, 20 + 12 * t, 30 + 3 * np.sin(2 * np.pi * 0.5 * t))
        for amount in (3.0, 5.0, 8.0):
            tau = parameter_of("follow", amount)
            self.assertAlmostEqual(read_ink([slow], pen("follow", amount)).drag_ms / tau, 1, delta=0.05)

    def test_drag_tells_the_same_of_short_strokes_and_grows_with_the_amount(self) -> None:
        """Strokes that are over before a slow method has caught up; no jump from one amount to the next."""
        t = np.arange(0, 0.12, 1 / 240)
        short = [make_trace(t, 20 + 8 * k + 30 * t, 0 * t + 30) for k in range(5)]
        tau = parameter_of("follow", 5.0)
        self.assertAlmostEqual(read_ink(short, pen("follow", 5.0)).drag_ms / tau, 1, delta=0.02)
        for method in METHODS:
            drags = [read_ink(short, pen(method, a)).drag_ms for a in np.arange(0.5, 10.01, 0.5)]
            self.assertTrue((np.diff(drags) > 0).all() and (np.diff(drags) < 25).all(), method)

    def test_a_corner_that_is_cut_is_measured(self) -> None:
        leg = np.linspace(0, 15, 150)
        x, y = np.concatenate((20 + leg, np.full(150, 35.0))), np.concatenate((np.full(150, 30.0), 30 + leg))
        trace = make_trace(np.arange(300) / 240, x, y)
        self.assertEqual(len(corners(trace.x_mm, trace.y_mm)), 1)
        tight, loose = (read_ink([trace], pen("follow", a)).corner_loss_mm for a in (1.5, 6))
        self.assertTrue(0 < tight < loose)
        self.assertEqual(read_ink([trace], pen("none", 0)).corner_loss_mm, 0)

    def test_gaps_shares_and_percentiles(self) -> None:
        trace = wave(force=0.5)
        keep = np.ones(len(trace), bool)
        keep[100:106] = False
        holed = make_trace(trace.t_s[keep], trace.x_mm[keep], trace.y_mm[keep], np.linspace(0, 1, keep.sum()))
        readings = read_ink([holed], read_recipe({"press": {"floor": 0.1, "ceiling": 0.8, "range": 4}}))
        self.assertEqual(readings.gaps, 1)
        self.assertAlmostEqual(readings.floor_share or 0, 0.1, delta=0.01)
        self.assertAlmostEqual(readings.ceiling_share or 0, 0.2, delta=0.01)
        self.assertAlmostEqual(readings.report_hz, 240, delta=1)
        np.testing.assert_allclose(
            weighted_percentiles(np.array([1.0, 9.0]), np.array([3.0, 1.0]), (12.5, 37.5, 87.5)), [1.0, 1.0, 9.0]
        )
        a = np.arange(5.0)
        self.assertEqual(discrete_frechet_mm(a, a * 0, a, a * 0 + 0.5), 0.5)

    def test_the_line_with_most_writing_is_found(self) -> None:
        words = [moved(wave(0.5), dx, dy) for dx, dy in ((0, 0), (20, 0.5), (40, 0), (60, 0.4), (0, 60), (10, 120))]
        self.assertEqual(longest_line(words), [0, 1, 2, 3])
        self.assertEqual(longest_line(words, most_samples=250), [0, 1])
        self.assertEqual(longest_line([]), [])


class Repeat(unittest.TestCase):
    def test_readings_repeat_exactly(self) -> None:
        self.assertEqual(
            dataclasses.astuple(read_ink([wave()], pen("window", 4))),
            dataclasses.astuple(read_ink([wave()], pen("window", 4))),
        )
