"""A line coloured by a quantity."""

import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.heat import BINS, QUANTITIES, heat_view
from gray_quill.core.ink.page import ink_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import box_view
from gray_quill.core.pen.shipped import SHIPPED_PENS
from tests.zoo import zoo

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def line(hand: str = "right-firm") -> list:
    return write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS[hand], TABLET, 7)


class Heat(unittest.TestCase):
    def test_it_covers_the_ink_and_rises_with_its_quantity(self) -> None:
        trace = zoo()["wedge"]
        inks = [settle(trace, FEN)]
        view = box_view((18, 26, 62, 34), 8)
        plain = ink_pixels(inks, view)
        for quantity in QUANTITIES:
            heat = heat_view([trace], inks, quantity, view)
            self.assertEqual(len(heat.colours), BINS)
            self.assertGreater(
                ((heat.pixels[..., 3] > 128) & (plain[..., 3] > 128)).sum() / (plain[..., 3] > 128).sum(), 0.97
            )
        force = heat_view([trace], inks, "force", view).pixels[32].astype(int)
        seen = force[force[:, 3] > 200][:, :3].sum(axis=1)
        self.assertLess(seen[-1], seen[len(seen) // 2] + 1)
        self.assertLess(seen[len(seen) // 2], seen[0])
