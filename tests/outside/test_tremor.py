"""Tremor planted by a generator of its own, which shares nothing with the hand of the core.

Bands and sizes are common knowledge of the trade, from memory: 5 to 12 Hz, 0.02 to 0.3 mm.
"""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.readings.tremor import Tremor, read_tremor

FINE_HZ = 2000


def shaken(rng: np.random.Generator, kind: str, rms_mm: float, hz: float, seconds: float) -> np.ndarray:
    """A shake along one axis: a tone, one that swells and drifts, or a narrow band of noise; of this RMS."""
    t = np.arange(int(seconds * FINE_HZ)) / FINE_HZ
    if kind == "band":
        at = np.fft.rfftfreq(len(t), 1 / FINE_HZ)
        wave = np.fft.irfft(np.fft.rfft(rng.standard_normal(len(t))) * np.exp(-(((at - hz) / 0.8) ** 2) / 2), len(t))
    else:
        swell, drift = (0.5, 0.6) if kind == "swelling" else (0.0, 0.0)
        phase = 2 * np.pi * np.cumsum(hz + drift * np.sin(2 * np.pi * 0.3 * t)) / FINE_HZ
        wave = (1 + swell * np.sin(2 * np.pi * 0.4 * t + rng.uniform(0, 6))) * np.sin(phase + rng.uniform(0, 6))
    return rms_mm * wave / np.sqrt((wave**2).mean())


def slow_line(
    rng: np.random.Generator, kind: str, rms_mm: float, hz: float, noise_mm: float, report_hz: float
) -> tuple:
    """(RMS across the line, stroke): a line with a bow and a drift, drawn at 12 mm/s in some direction."""
    seconds, speed = rng.uniform(3, 6), 12.0
    t = np.arange(0, seconds - 0.01, 1 / report_hz)
    fine = np.arange(int(seconds * FINE_HZ)) / FINE_HZ
    one, other = (np.interp(t, fine, shaken(rng, kind, rms_mm, hz, seconds)) for _ in range(2))
    bow = rng.uniform(0, 2) * np.sin(speed * t / 15) + rng.uniform(0, 0.4) * np.sin(2 * np.pi * 0.7 * t)
    turn = rng.uniform(0, 2 * np.pi)
    along, across = speed * t + one, bow + other
    x, y = np.cos(turn) * along - np.sin(turn) * across, np.sin(turn) * along + np.cos(turn) * across
    stroke = (t, x + noise_mm * rng.standard_normal(len(t)), y + noise_mm * rng.standard_normal(len(t)))
    return float(np.sqrt((other**2).mean())), stroke


class Planted(unittest.TestCase):
    def test_it_is_recovered_within_15_per_cent_and_its_interval_holds_it(self) -> None:
        held, lines = 0, 0
        for seed in range(90):
            rng = np.random.default_rng(seed)
            kind = ("tone", "swelling", "band")[seed % 3]
            rms_mm, hz = float(np.exp(rng.uniform(np.log(0.02), np.log(0.3)))), rng.uniform(5, 12)
            noise_mm, report_hz = float(rng.choice([0, 0.003, 0.006])), float(rng.choice([60, 120, 240, 480]))
            true, stroke = slow_line(rng, kind, rms_mm, hz, noise_mm, report_hz)
            found = read_tremor([stroke])
            self.assertAlmostEqual((found.rms_mm or 0) / true, 1, delta=0.15, msg=f"{seed} {kind} {hz:.1f} Hz")
            self.assertAlmostEqual(found.hz or 0, hz, delta=1.0, msg=seed)
            held += found.low_mm <= true <= found.high_mm
            lines += 1
        self.assertGreaterEqual(held / lines, 0.95)

    def test_none_is_told_where_there_is_none_or_noise_hides_it(self) -> None:
        for seed in range(30):
            rng = np.random.default_rng(1000 + seed)
            for noise_mm in (0.0, 0.002):
                found = read_tremor([slow_line(rng, "tone", 1e-9, 8, noise_mm, 120)[1]])
                self.assertEqual((found.rms_mm, found.hz), (0.0, None))
            hidden = read_tremor([slow_line(rng, "tone", 0.02, 8, 0.06, 120)[1]])
            self.assertIsNone(hidden.rms_mm)
            self.assertGreater(hidden.high_mm, 0.02)

    def test_letters_and_zigzags_tell_nothing(self) -> None:
        t = np.arange(0, 5, 1 / 240)
        for turns in (3.0, 4.5):  # a second; to and fro in straight lines
            zigzag = (t, 20 + 10 * t, 30 + 2 * np.abs((turns * t) % 2 - 1))
            self.assertIsNone(read_tremor([zigzag]).rms_mm, turns)
        for hand in SHIPPED_HANDS.values():
            for tremor_mm in (0.0, 0.3):
                shaky = dataclasses.replace(hand, tremor_mm=tremor_mm)
                words = write_text("Hawk-moth on the white sheet, minimum", shaky, SHIPPED_DEVICES["tablet-11"], 3)
                self.assertEqual(read_tremor([(w.t_s, w.x_mm, w.y_mm) for w in words]), Tremor(None, 0, 0, None, 0, 0))

    def test_too_few_reports_tell_nothing(self) -> None:
        """Four samples in an hour, read at once; and a line at 15 reports a second, which cannot show 8 Hz."""
        hour = (np.array([0.0, 1200, 2400, 3600]), np.array([20.0, 30, 40, 50]), np.array([30.0, 31, 30, 31]))
        t = np.arange(0, 6, 1 / 15)
        sparse = (t, 20 + 10 * t, 30 + 0.2 * np.sin(2 * np.pi * 9 * t))
        for stroke in (hour, sparse):
            self.assertIsNone(read_tremor([stroke]).rms_mm)
