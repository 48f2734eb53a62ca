"""What made the width at a spot of the ink."""

import unittest

from gray_quill.core.errors import GrayQuillError
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.spot import find_spot
from tests.zoo import wave


class Spots(unittest.TestCase):
    def test_factors_multiply_to_the_width_of_the_ink_there(self) -> None:
        traces = [wave()]
        for name in ("fen-fountain", "heron-brush", "sedge-nib"):
            inks = [settle(traces[0], SHIPPED_PENS[name])]
            spot = find_spot(traces, inks, float(inks[0].x_mm[300]), float(inks[0].y_mm[300]))
            self.assertAlmostEqual(
                spot.width_mm, spot.body_mm * spot.press_factor * spot.pace_factor * spot.taper_factor, places=9
            )
            self.assertAlmostEqual(spot.width_mm, float(inks[0].long_mm[300]), delta=0.02 * spot.width_mm)
        with self.assertRaisesRegex(GrayQuillError, "no ink there"):
            find_spot(traces, inks, 500, 500)
