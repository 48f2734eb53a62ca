"""A page on a panel in time: responses in closed form, ghosts that a clearing takes, ink at once and the rest later."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Updates
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import box_view
from gray_quill.core.panel.in_time import CLEAR, FAST, GREY, Glass, InTime, Writing
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.in_time import read_in_time
from gray_quill.core.trace import make_trace

PAPER = paper_from_spec("blank A6 white")
SLATE, TABLET = SHIPPED_DEVICES["paper-slate-10"], SHIPPED_DEVICES["tablet-11"]
LINE = write_text("moth", SHIPPED_HANDS["right-firm"], SLATE, 3)
PEN = SHIPPED_PENS["reed-ballpoint"]
INKS = settle_all(LINE, PEN)
LASTS = [float(ink.t_s[-1]) + 0.2 for ink in INKS]
STARTS = [sum(LASTS[:k]) for k in range(len(INKS))]


APART = settle_all([make_trace([0, 0.4], [10, 40], [20 + 8 * k] * 2, [0.5] * 2) for k in range(3)], PEN)


def page(device=SLATE, updates: Updates | None = None, erased=(), inks=INKS) -> InTime:  # type: ignore[no-untyped-def]
    boxes = np.array([ink.box_mm for ink in inks])
    ends = (*(boxes[:, :2].min(axis=0) - 2), *(boxes[:, 2:].max(axis=0) + 2))
    view = box_view(tuple(float(v) for v in ends), 120 / 25.4)  # type: ignore[arg-type]
    starts = STARTS if inks is INKS else [0.8 * k for k in range(len(inks))]
    return InTime(Writing(inks, starts, erased), PAPER, view, device.panel, updates or device.updates, 0.02)


class Pixels(unittest.TestCase):
    def test_a_response_is_its_closed_form(self) -> None:
        """Exponential: from ten to ninety percent in the time asked; e-paper: evenly; each from where it is."""
        box = (0, 0, 1, 1)
        for exponential in (True, False):
            glass = Glass(np.full((1, 1), 255, np.uint8), exponential)
            glass.drive(box, np.zeros((1, 1), np.float32), 1.0, 0.02)
            t = 1 + np.linspace(0, 0.08, 400)
            tone = np.array([float(glass.shown(v)[0, 0]) for v in t])
            law = 255 * np.exp(-np.log(9) * (t - 1) / 0.02) if exponential else 255 * np.maximum(0, 1 - (t - 1) / 0.02)
            np.testing.assert_allclose(tone, law, atol=0.02)
            if exponential:
                at = np.interp((-229.5, -25.5), -tone, t)
                self.assertAlmostEqual(float(at[1] - at[0]), 0.02, delta=1e-3)
        glass.drive(box, np.full((1, 1), 200, np.float32), 1.01, 0.02)
        self.assertAlmostEqual(float(glass.shown(1.01)[0, 0]), 127.5, delta=0.1)

    def test_ghosts_keep_their_share_and_erasing_leaves_more(self) -> None:
        box = (0, 0, 1, 1)
        glass = Glass(np.full((1, 1), 255, np.uint8), False)
        glass.drive(box, np.zeros((1, 1), np.float32), 0, 0.1, ghost=0.1, lighter=2)
        self.assertAlmostEqual(float(glass.shown(1)[0, 0]), 25.5, places=3)
        glass.drive(box, np.full((1, 1), 255, np.float32), 1, 0.1, ghost=0.1, lighter=2)
        self.assertAlmostEqual(float(glass.shown(2)[0, 0]), 255 - 0.2 * 229.5, places=3)
        for n in range(2, 8):  # never below nothing, and less with each update
            before = 255 - float(glass.shown(n)[0, 0])
            glass.drive(box, np.full((1, 1), 255, np.float32), n, 0.1, ghost=0.1, lighter=2)
            self.assertTrue(0 <= 255 - float(glass.shown(n + 1)[0, 0]) < before)


class Pages(unittest.TestCase):
    def test_ink_appears_at_once_in_two_tones_and_in_greys_after_the_pause(self) -> None:
        sharp = dataclasses.replace(SLATE.updates, fast_ghost=0.0, grey_ghost=0.0)
        made = page(updates=sharp)
        final = made.target(made.whole(), 1e9)
        tones: dict[float, int] = {}
        for moment, picture in made.play(20):
            tones[moment] = len(np.unique(picture))
            last = picture
        of = [u.mode for u in made.log]
        self.assertGreater(of.count(FAST), 20)
        self.assertEqual(of.count(GREY), 1, "everything else follows in one go")
        grey = next(u for u in made.log if u.mode == GREY)
        pause = grey.at_s - made.writing.ends_s()
        self.assertAlmostEqual(pause, SLATE.panel.catch_up_ms / 1000 + 0.02, delta=0.03)
        np.testing.assert_array_equal(last, final)
        self.assertGreater(len(np.unique(final)), 2)

    def test_without_a_fast_path_all_waits_for_whole_pictures(self) -> None:
        made = page(SHIPPED_DEVICES["paper-pad-8"], inks=APART)
        found = read_in_time(made, 20)
        self.assertEqual(found.fast, 0)
        self.assertGreater(found.grey, 3)
        quick = read_in_time(page(TABLET, inks=APART), 60)
        assert quick.true_p50_ms is not None
        assert found.true_p50_ms is not None
        self.assertLess(quick.true_p50_ms, 80)
        self.assertGreater(found.true_p50_ms, 2 * quick.true_p50_ms)
        self.assertEqual((quick.clears, quick.ghost_l), (0, 0))

    def test_what_is_erased_leaves_a_ghost_that_a_clearing_takes_away(self) -> None:
        end = STARTS[-1] + float(INKS[-1].t_s[-1])
        gone = [(end + 3.0, k) for k in range(len(INKS))]
        never = dataclasses.replace(SLATE.updates, clears_after=0)
        left = read_in_time(page(updates=never, erased=gone), 20)
        self.assertGreater(left.ghost_l, 2.3)
        self.assertEqual(left.clears, 0)
        soon = dataclasses.replace(SLATE.updates, clears_after=2)
        cleared = read_in_time(page(updates=soon, erased=gone), 20)
        self.assertGreaterEqual(cleared.clears, 1)
        self.assertLess(cleared.ghost_l, 0.5)
        none = dataclasses.replace(never, fast_ghost=0, grey_ghost=0)
        self.assertEqual(read_in_time(page(updates=none, erased=gone), 20).ghost_l, 0)

    def test_a_clearing_blinks_black_and_white(self) -> None:
        made = page()
        list(made.play(10))
        end = made.lasts_s()
        made.clear(end, end)
        third = made.sort.clear_ms / 3000
        black, white, picture = (made.at(end + k * third).copy() for k in (0.999, 1.999, 3.001))
        self.assertLess(float(black.max()), 2)
        self.assertGreater(float(white.min()), 253)
        np.testing.assert_allclose(picture, made.target(made.whole(), end), atol=0.5)
        self.assertEqual(made.log[-1].mode, CLEAR)


if __name__ == "__main__":
    unittest.main()
