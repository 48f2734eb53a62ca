"""What quick writing loses on a device."""

import dataclasses
import unittest
from typing import Any

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.latency.missed import missed
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
