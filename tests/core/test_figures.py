"""What was stated, modelled, measured and filmed, side by side."""

import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.latency.figures import Filmed, Live, figures
from gray_quill.core.latency.trial import model_lag
from gray_quill.core.pen.shipped import SHIPPED_PENS

TABLET, CLAMSHELL = SHIPPED_DEVICES["tablet-11"], SHIPPED_DEVICES["clamshell-11"]
FEN, REED = SHIPPED_PENS["fen-fountain"], SHIPPED_PENS["reed-ballpoint"]


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
