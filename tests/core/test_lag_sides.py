"""The Lag trial's other sides: what is missed, blame by swapping, four figures, and films marked by hand."""

import dataclasses
import unittest
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.errors import InputError
from gray_quill.core.lag.figures import Filmed, Live, figures
from gray_quill.core.lag.film import film
from gray_quill.core.lag.film_marks import Mark, read_marks
from gray_quill.core.lag.film_reader import read_film
from gray_quill.core.lag.missed import missed
from gray_quill.core.lag.swaps import swap_factors
from gray_quill.core.lag.trial import model_lag
from gray_quill.core.pen.shipped import SHIPPED_PENS

TABLET, CLAMSHELL = SHIPPED_DEVICES["tablet-11"], SHIPPED_DEVICES["clamshell-11"]
FEN, REED = SHIPPED_PENS["fen-fountain"], SHIPPED_PENS["reed-ballpoint"]


def with_digitiser(device: Device, **fields: Any) -> Device:
    return dataclasses.replace(device, digitiser=dataclasses.replace(device.digitiser, **fields))


class Missed(unittest.TestCase):
    def test_quicker_writing_and_slower_reports_lose_more(self) -> None:
        details = [missed(TABLET, FEN, v).detail_mm for v in (20.0, 60.0, 120.0, 250.0)]
        self.assertEqual(details, sorted(details))
        rates = [
            missed(with_digitiser(TABLET, report_hz=hz, clock_jitter=0.0), FEN, 60.0)
            for hz in (480.0, 240.0, 120.0, 60.0)
        ]
        self.assertEqual([m.detail_mm for m in rates], sorted(m.detail_mm for m in rates))
        self.assertEqual([m.bridged for m in rates], [0] * 4, "nothing lost where nothing is dropped")
        # a curve between two reports: its sagitta grows with the square of the interval, as long as it is far from a
        # half turn
        slow = [
            missed(with_digitiser(TABLET, report_hz=hz, clock_jitter=0.0), FEN, 20.0).detail_mm for hz in (240.0, 120.0)
        ]
        self.assertAlmostEqual(slow[1] / slow[0], 4, delta=0.6)

    def test_lost_reports_bridge_gaps_and_stall_the_ink(self) -> None:
        last = missed(with_digitiser(TABLET, dropped=0.0), FEN, 60.0)
        for share in (0.05, 0.15, 0.3):
            now = missed(with_digitiser(TABLET, dropped=share), FEN, 60.0)
            self.assertGreater(now.bridged, last.bridged)
            self.assertGreaterEqual(now.stall_share, last.stall_share)
            last = now
        self.assertGreater(last.bridged_mm, 2 * 60 / 240)
        self.assertGreater(last.detail_mm, missed(TABLET, FEN, 60.0).detail_mm)

    def test_a_stiff_glass_loses_starts_and_dots(self) -> None:
        soft, stiff = (missed(with_digitiser(TABLET, activation=a), FEN, 60.0) for a in (0.0, 0.3))
        self.assertGreater(stiff.start_mm, soft.start_mm)
        self.assertEqual(soft.strokes_lost, 0)
        slow = missed(SHIPPED_DEVICES["paper-pad-8"], FEN, 60.0)
        self.assertGreaterEqual(slow.stall_ms, 250, "four pictures a second")


class Swaps(unittest.TestCase):
    def test_one_factor_at_a_time_adds_up_on_the_mean(self) -> None:
        swaps = {s.factor: s for s in swap_factors(TABLET, FEN, CLAMSHELL, REED)}
        self.assertEqual(swaps["as it is"].p95_ms, model_lag(TABLET, FEN).p95_ms)
        self.assertEqual(swaps["all of it"].p95_ms, model_lag(CLAMSHELL, REED).p95_ms)
        self.assertLess(swaps["steadying"].p95_ms, swaps["as it is"].p95_ms)
        means = {
            name: model_lag(*pair).mean_ms
            for name, pair in {
                "start": (TABLET, FEN),
                "end": (CLAMSHELL, REED),
                "steadying": (TABLET, REED),
                **{
                    part: (dataclasses.replace(TABLET, **{part: getattr(CLAMSHELL, part)}), FEN)
                    for part in ("digitiser", "system", "panel")
                },
            }.items()
        }
        steps = sum(means[k] - means["start"] for k in ("steadying", "digitiser", "system", "panel"))
        # queued frames and refresh are two factors of one product, so a part is left over
        left = (CLAMSHELL.system.queued_frames - TABLET.system.queued_frames) * (
            1000 / CLAMSHELL.panel.refresh_hz - 1000 / TABLET.panel.refresh_hz
        )
        self.assertAlmostEqual(means["end"] - means["start"], steps + left, delta=1.0)


class Figures(unittest.TestCase):
    def test_each_way_to_a_number_is_laid_beside_the_model(self) -> None:
        lag = model_lag(TABLET, FEN)
        live = Live(200, 9.0, 12.0, 25.0, 30.0, 2, 1, 33.0, 2.0)
        by_name = {f.name: f for f in figures(lag, 9, live, Filmed(lag.mean_ms + 1, 2))}
        self.assertEqual(list(by_name), ["modelled", "stated", "live", "filmed"])
        means = {s.name: s.mean_ms for s in lag.stages}
        left_out = [n for n in means if n in by_name["stated"].words]
        self.assertLessEqual(lag.mean_ms - sum(means[n] for n in left_out), 9 * 1.15)
        self.assertIn(
            f"{25 - lag.browser_ms:.1f} ms more here, {9 - means['hand-over']:+.1f} ms before", by_name["live"].words
        )
        self.assertIn("raw updates come 7.0 ms sooner", by_name["live"].words)
        self.assertIn("2 dropped frames and 1 long task", by_name["live"].words)
        self.assertEqual((by_name["filmed"].words, by_name["filmed"].plus_minus_ms), ("agrees with the model", 2))
        words = [figures(lag, stated)[1].words for stated in (lag.mean_ms, lag.mean_ms + 10)]
        self.assertEqual(words, ["agrees with the model", "the model is 10.0 ms quicker"])
        self.assertIn("20.0 ms more", figures(lag, filmed=Filmed(lag.mean_ms + 20, 2))[1].words)
        self.assertEqual(len(figures(lag)), 1)


class Marks(unittest.TestCase):
    def test_marks_find_the_delay_the_film_shows(self) -> None:
        """Marked where the reader found nib and ink, by a hand that is off by a pixel or so."""
        frames, truth = film(CLAMSHELL, FEN, 240, 4)
        read = read_film(frames, 240, truth.mm_per_px)
        rng = np.random.default_rng(3)
        marks = [
            Mark(
                int(read.frames_at[k]),
                (read.nib_mm[k] / truth.mm_per_px + dx, 72 + dy),
                (read.front_mm[k] / truth.mm_per_px + dx2, 73),
            )
            for k, (dx, dy, dx2) in zip(range(4, len(read.frames_at), 6), rng.normal(0, 1, (200, 3)), strict=False)
        ]
        got = read_marks(marks, 240, truth.mm_per_px)
        self.assertLessEqual(abs(got.delay_ms - truth.delay_ms), got.ci95_ms)
        self.assertAlmostEqual(got.gap_mm / truth.gap_mm, 1, delta=0.1)
        slanted = [dataclasses.replace(m, nib_px=m.nib_px[::-1], front_px=m.front_px[::-1]) for m in marks]
        self.assertAlmostEqual(read_marks(slanted, 240, truth.mm_per_px).delay_ms, got.delay_ms, delta=1e-6)

    def test_marks_that_tell_nothing_are_refused(self) -> None:
        good = [Mark(k, (100 + 10 * k, 50), (80 + 10 * k, 50)) for k in range(4)]
        for marks, why in (
            (good[:2], "3 frames or more; 2 are marked"),
            ([good[0]] * 5, "1 is marked"),
            ([dataclasses.replace(m, nib_px=(100, 50)) for m in good], "0.0 mm between"),
            ([dataclasses.replace(m, front_px=(900, 50)) for m in good], "ahead of the nib"),
        ):
            with self.assertRaisesRegex(InputError, why):
                read_marks(marks, 240, 0.1)
        self.assertAlmostEqual(
            read_marks(good, 100, 0.1).delay_ms, 20, places=6, msg="20 px behind at 10 px a frame: two frames"
        )
