"""A page on a panel in time: responses in closed form, ghosts that a clearing takes, ink at once and the rest later."""

import dataclasses
import unittest

import numpy as np
from scipy.ndimage import maximum_filter

from gray_quill.core.colour.difference import lab
from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Panel, Updates
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import RecordError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import box_view
from gray_quill.core.panel.cut import PLAYED_S, SCROLLED, THEN, cut_of, cut_view, done_then
from gray_quill.core.panel.dither import DITHERS
from gray_quill.core.panel.followed import apart, follow
from gray_quill.core.panel.glass import Glass
from gray_quill.core.panel.in_time import CLEAR, FAST, FULL, GREY, InTime
from gray_quill.core.panel.proof import Toning
from gray_quill.core.panel.writing import GAP_S, MOST_GAP_S, Writing, scrolling, starts_of
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import quantities
from gray_quill.core.readings.in_time import InTimeReader, ghosts_of, read_in_time
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
        self.assertGreater(left.ghost_l or 0, 2.3)
        self.assertEqual(left.clears, 0)
        soon = dataclasses.replace(SLATE.updates, clears_after=2)
        cleared = read_in_time(page(updates=soon, erased=gone), 20)
        self.assertGreaterEqual(cleared.clears, 1)
        self.assertLess(cleared.ghost_l or 0, 0.5)
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


class MoreIsDone(unittest.TestCase):
    def test_scrolling_goes_by_in_two_tones_and_smears_while_the_page_moves(self) -> None:
        made = done("scrolled")
        begins, ends = made.writing.scrolled[0][0], made.writing.ends_s()
        during = None
        for moment, picture in made.play(30):
            if begins + 0.4 < moment < ends:
                during = picture.copy() if during is None else during
        assert during is not None
        final = made.target(made.whole(), 1e9)
        self.assertGreater(apart(during, final).max(), 100, "the page has not stopped yet")
        near = maximum_filter(during < 60, 3)
        behind = (during > 150) & (during < 245) & ~near
        self.assertGreater(int(behind.sum()), 50, "ink that went by stays behind for a while")
        self.assertIn(FAST, {u.mode for u in made.log if begins <= u.at_s <= ends})
        found = read_in_time(done("scrolled"), 30)
        assert found.scrolled_ms is not None
        self.assertGreater(found.scrolled_ms, SLATE.panel.catch_up_ms)
        quick = read_in_time(done("scrolled", TABLET), 60)
        assert quick.scrolled_ms is not None
        self.assertLess(quick.scrolled_ms, 100)

    def test_ink_that_is_scrolled_away_before_it_is_true_is_not_called_true(self) -> None:
        """What lies at its old place by then is other ink, or paper."""
        view = box_view((5.0, 14.0, 45.0, 42.0), 120 / 25.4)
        for by_mm, told in ((40.0, False), (0.0, True)):
            writing = Writing(APART, [0.0, 0.8, 1.6], scrolled=scrolling(2.2, by_mm) if by_mm else ())
            found = read_in_time(InTime(writing, PAPER, view, SLATE.panel, SLATE.updates, 0.02), 30)
            self.assertEqual(found.true_p50_ms is not None, told)

    def test_a_page_is_turned_in_one_full_update(self) -> None:
        made = done("page turned")
        found = read_in_time(made, 60)
        self.assertEqual(found.full, 1)
        self.assertAlmostEqual(found.turned_ms or 0, SLATE.updates.full_ms, delta=60)
        self.assertTrue((made.target(made.whole(), 1e9) == 255).all(), "the next page is bare")
        # black ink that a full update takes away leaves its share, as much more as growing lighter does
        share = SLATE.updates.full_ghost * SLATE.updates.lighter
        darkest = float(made.target(made.whole(), made.writing.written_s()).min())
        left = 255 - share * (255 - darkest)
        off = abs(float(lab(np.full(3, round(left)))[0]) - 100)
        self.assertAlmostEqual(found.ghost_l or 0, off, delta=0.25)

    def test_few_greys_come_first_where_an_update_has_no_more(self) -> None:
        pad = SHIPPED_DEVICES["paper-pad-8"]
        sharp = dataclasses.replace(pad.updates, grey_ghost=0.0, full_ghost=0.0, clears_after=0)
        made = page(pad, sharp, inks=APART)
        tones, before = set(), made.target(made.whole(), -1)
        for moment, picture in made.play(20):
            if any(u.mode == FULL and u.at_s <= moment for u in made.log):
                before = picture
            elif not made._moving:
                tones |= set(np.unique(picture).tolist())
        self.assertLessEqual(len(tones), pad.updates.quick_greys)
        np.testing.assert_array_equal(before, made.target(made.whole(), 1e9))
        self.assertGreater(len(np.unique(before)), pad.updates.quick_greys)

    def test_what_comes_in_parts_is_toned_as_the_whole(self) -> None:
        for toning in (Toning("ordered", 4), Toning("blue-noise", 3, bolder_px=2), Toning("floyd-steinberg", 4)):
            made = InTime(done("nothing more").writing, PAPER, VIEW, SLATE.panel, SLATE.updates, toning=toning)
            whole = made.target(made.whole(), 1e9)
            for box in ((0, 0, 30, 30), (37, 21, 160, 90), (150, 40, VIEW.width_px, VIEW.height_px)):
                there = (slice(box[1], box[3]), slice(box[0], box[2]))
                np.testing.assert_array_equal(made.target(box, 1e9), whole[there], err_msg=f"{toning} {box}")
        filtered = SHIPPED_DEVICES["paper-colour-10"]
        red = dataclasses.replace(PEN, body=dataclasses.replace(PEN.body, colour="#c02020"))
        inks = settle_all([make_trace([0, 0.4], [10, 40], [20, 36], [0.5] * 2)], red)
        made = InTime(Writing(inks, [0.0]), PAPER, VIEW, filtered.panel, filtered.updates)
        whole = made.target(made.whole(), 1e9)
        self.assertGreater(int(np.ptp(whole.astype(int), axis=2).max()), 20, "it shows colour")
        for box in ((0, 0, 31, 31), (37, 21, 160, 91)):
            there = (slice(box[1], box[3]), slice(box[0], box[2]))
            np.testing.assert_array_equal(made.target(box, 1e9), whole[there])

    def test_each_place_says_how_long_it_took(self) -> None:
        for device, low, high in ((TABLET, 0.0, 0.15), (SLATE, SLATE.panel.catch_up_ms / 1000, 4.0)):
            made = page(device, inks=APART)
            reader = InTimeReader(made)
            for moment in follow(made, 60):
                reader.see(moment)
            waits = reader.waits_s()
            inked = made.target(made.whole(), 1e9)
            inked = inked.min(axis=2) if inked.ndim == 3 else inked
            soft = (inked > 140) & (inked < 230)  # of two tones nothing of it is true
            self.assertTrue(low <= float(np.median(waits[soft])) <= high, (device.name, np.median(waits[soft])))
            self.assertEqual(float(waits[inked == 255].max()), 0)


class AnyPanel(unittest.TestCase):
    def test_whatever_is_declared_can_be_played_and_a_clearing_ends_every_ghost(self) -> None:
        rng = np.random.default_rng(20)
        pens = list(SHIPPED_PENS.values())
        for case in range(14):
            panel = dataclasses.replace(anything(Panel, rng), ppi=float(rng.choice([50, 120, 127.3])))
            toning = Toning(str(rng.choice(DITHERS)), int(rng.choice([0, 2, 3, 16])), int(rng.integers(0, 5)))
            inks = settle_all([make_trace([0, 0.3], [10, 30], [20, 25], [0.5] * 2)], pens[rng.integers(len(pens))])
            writing = done_then(Writing(inks, [0.0]), THEN[case % len(THEN)], 6.0)
            paper = paper_from_spec(("dotted A6 cream", "ruled A6 black")[case % 2])
            view = box_view((5.0, 14.0, 35.0, 30.0), panel.ppi / 25.4)
            made = InTime(writing, paper, view, panel, anything(Updates, rng), 0.02, bool(case % 3), toning)
            reader = InTimeReader(made)
            for moment in follow(made, 10):
                reader.see(moment)
            told = [v for v in dataclasses.asdict(reader.readings()).values() if v is not None]
            self.assertTrue(all(np.isfinite(v) and v >= 0 for v in [*told, float(reader.waits_s().min())]), case)
            if made.of_paper:
                end = made.lasts_s() + 9
                made.clear(end, end)
                final = made.at(end + made.sort.clear_ms / 1000 + 0.01).astype(int)
                self.assertLessEqual(np.abs(final - made.target(made.whole(), end)).max(), 1, case)


def anything(record, rng: np.random.Generator):  # type: ignore[no-untyped-def]
    """A record whose fields are anywhere in their ranges, often at an end."""
    given: dict[str, object] = {}
    for name, q in quantities(record).items():
        if q.kind in ("number", "integer"):
            value = rng.choice([q.low, q.high, rng.uniform(q.low, q.high)])
            given[name] = int(value) if q.kind == "integer" else float(value)
        else:
            given[name] = bool(rng.integers(2)) if q.kind == "flag" else str(rng.choice(q.options))
    return record(**given)


class Parts(unittest.TestCase):
    def test_strokes_begin_as_their_traces_say(self) -> None:
        cases = (((0.0, 0.5), 0.1), ((0.0, 30.0), MOST_GAP_S), ((5.0, 1.0), GAP_S), ((None, 2.0), GAP_S))
        for (first, second), pause in cases:
            two = [make_trace([0, 0.4], [0, 9], [0, 0], [0.5] * 2, begun_s=at) for at in (first, second)]
            self.assertAlmostEqual(starts_of(two)[1], 0.4 + pause, msg=str((first, second)))

    def test_only_the_last_seconds_are_played_and_the_rest_lies_there(self) -> None:
        """Strokes outside the part are left out; those below it are there to be scrolled to."""
        rows = [make_trace([0, 1], [10, 40], [10 + 0.5 * k] * 2, [0.5] * 2, begun_s=1.2 * k) for k in range(30)]
        far = make_trace([0, 1], [10, 40], [120, 120], [0.5] * 2, begun_s=99)
        below = make_trace([0, 1], [10, 40], [48, 48], [0.5] * 2, begun_s=98)
        drawn = list(zip([*rows, below, far], settle_all([*rows, below, far], PEN), strict=True))
        view = cut_view(PAPER, 25, 20, 60, 4)
        writing = cut_of(drawn, view, "scrolled")
        self.assertEqual(len(writing.inks), 31)
        self.assertAlmostEqual(min(at for at in writing.starts_s if at >= 0), 0)
        self.assertTrue(PLAYED_S - 1.3 <= writing.written_s() <= PLAYED_S)
        self.assertGreater(len([at for at in writing.starts_s if at < 0]), 15)
        self.assertAlmostEqual(writing.shift_mm(1e9), SCROLLED * view.height_px / view.px_per_mm)
        with self.assertRaises(RecordError):
            cut_of(drawn, view, "burnt")

    def test_ghosts_add_up_to_no_more_than_their_series(self) -> None:
        """Ink and paper by turns: the share that stays is that of one update and of the one before."""
        updates = dataclasses.replace(SLATE.updates, grey_ghost=0.1, lighter=1.5)
        found = ghosts_of(55.0, 255.0, updates, 6)
        ink, paper, tones = 255.0, 255.0, []
        for _ in range(6):
            ink = 55 + 0.1 * (paper - 55)
            paper = 255 - 0.15 * (255 - ink)
            tones.append(paper)
        lights = [100 - float(lab(np.full(3, tone))[0]) for tone in tones]
        np.testing.assert_allclose(found.apart_l, lights, atol=1e-9)
        self.assertEqual(found.seen_after, 1)
        faint = ghosts_of(230.0, 255.0, dataclasses.replace(updates, grey_ghost=0.02))
        self.assertIsNone(faint.seen_after)
        self.assertEqual(max(ghosts_of(0.0, 255.0, dataclasses.replace(updates, grey_ghost=0)).apart_l), 0)


def done(then: str, device=SLATE) -> InTime:  # type: ignore[no-untyped-def]
    """Three lines, and then more."""
    view = box_view((5.0, 14.0, 45.0, 42.0), 120 / 25.4)
    writing = done_then(Writing(APART, [0.0, 0.8, 1.6]), then, 10.0)
    return InTime(writing, PAPER, view, device.panel, device.updates, 0.02)


VIEW = box_view((5.0, 14.0, 45.0, 42.0), 120 / 25.4)

if __name__ == "__main__":
    unittest.main()
