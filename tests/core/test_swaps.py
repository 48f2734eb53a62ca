"""Blame found by swapping one factor at a time."""

import dataclasses
import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.latency.swaps import swap_factors
from gray_quill.core.latency.trial import model_lag
from gray_quill.core.pen.shipped import SHIPPED_PENS

TABLET, CLAMSHELL = SHIPPED_DEVICES["tablet-11"], SHIPPED_DEVICES["clamshell-11"]
FEN, REED = SHIPPED_PENS["fen-fountain"], SHIPPED_PENS["reed-ballpoint"]


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
