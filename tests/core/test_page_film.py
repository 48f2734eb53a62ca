"""A page in time, filmed: the reader of films finds in it the delay that Lag works out for the same device."""

import unittest

import numpy as np

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import View
from gray_quill.core.latency.film_reader import read_film
from gray_quill.core.latency.page_film import page_film
from gray_quill.core.latency.trial import model_lag, takes_fast_path, until_told_ms
from gray_quill.core.panel.in_time import InTime
from gray_quill.core.panel.writing import Writing
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import make_trace

PAPER = paper_from_spec("blank A6 white")
PEN = SHIPPED_PENS["reed-ballpoint"]
HZ, SCALE = 240.0, 8.0
VIEW = View(2, 8, SCALE, 528, 128)
HALF_WAY = float(
    np.log(2) / np.log(9)
)  # of a response from a tenth to nine tenths, to the half at which a front is read


class Filmed(unittest.TestCase):
    def filmed(self, name: str, speed_mm_s: float, with_nib: bool) -> np.ndarray:
        device = SHIPPED_DEVICES[name]
        t = np.linspace(0, 52 / speed_mm_s, 200)
        inks = settle_all([make_trace(t, 8 + speed_mm_s * t, np.full(200, 20.0), np.full(200, 0.5))], PEN)
        late_s = until_told_ms(device, PEN) / 1000
        fast = takes_fast_path(PEN)
        page = InTime(Writing(inks, [0.0]), PAPER, VIEW, device.panel, device.updates, late_s, fast)
        frames = [f if f.ndim == 2 else to_grey8(f) for f in page_film(page, HZ, with_nib)]
        return np.array(frames[: int(t[-1] * HZ)])

    def test_what_is_read_is_what_lag_works_out(self) -> None:
        """Model and reader, of two different makes. A panel that makes its own light is read at half of its response,
        which the model counts whole.
        """
        for name, speed in (("tablet-11", 100), ("clamshell-11", 100), ("paper-slate-10", 100), ("paper-pad-8", 12)):
            device = SHIPPED_DEVICES[name]
            found = read_film(self.filmed(name, speed, True), HZ, 1 / SCALE)
            own_light = device.panel.technology != "e-paper"
            early = device.panel.response_ms * (1 - HALF_WAY) if own_light else 0.0
            told = model_lag(device, PEN).mean_ms - early
            self.assertAlmostEqual(found.delay_ms, told, delta=max(2.0, 1.5 * found.ci95_ms), msg=name)

    def test_without_a_pen_there_is_nothing_to_read(self) -> None:
        with self.assertRaises(InputError):
            read_film(self.filmed("tablet-11", 100, False), HZ, 1 / SCALE)


if __name__ == "__main__":
    unittest.main()
