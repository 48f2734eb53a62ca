"""Papers: every ruling in true millimetres and on its sheet, and what a paper means for the writing on it."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import RecordError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.straight import rules_of
from gray_quill.core.paper import SIZES_MM, STATIONERY, Paper, paper_from_spec
from gray_quill.core.readings.on_paper import AIR, read_on_paper
from gray_quill.core.rulings import FRAME, FRAME_RULES, column_edges, ruling_marks
from gray_quill.core.trace import moved

TABLET = SHIPPED_DEVICES["tablet-11"]
TEXT = "hedge and fog by the pond, jumping dogs"


class Rulings(unittest.TestCase):
    def test_all_of_them_lie_on_every_sheet_below_the_band(self) -> None:
        for name in STATIONERY:
            for size in SIZES_MM:
                for lies in ("portrait", "landscape"):
                    paper = dataclasses.replace(paper_from_spec(f"{name} {size} {lies}"), band_mm=25.0)
                    marks = ruling_marks(paper)
                    xy = np.vstack((marks.lines[:, :2], marks.lines[:, 2:], marks.dots))
                    if paper.margin_mm:
                        xy = xy[~np.isin(xy[:, 0], (paper.margin_mm, paper.width_mm - paper.margin_mm))]
                    if paper.ruling == "blank":
                        self.assertEqual(len(xy), 0)
                        continue
                    self.assertTrue(
                        (xy >= -1e-9).all() and (xy <= (paper.width_mm + 1e-9, paper.height_mm + 1e-9)).all()
                    )
                    head = paper.spacing_mm if paper.ruling == "columns" else 0
                    self.assertGreaterEqual(xy[:, 1].min(), 25 - head - 1e-9, f"{name} {size}")

    def test_isometric_rules_make_triangles_of_even_sides(self) -> None:
        paper = paper_from_spec("isometric 6mm A4")
        lines = ruling_marks(paper).lines
        angles = np.round(np.degrees(np.arctan2(lines[:, 3] - lines[:, 1], lines[:, 2] - lines[:, 0])), 6)
        self.assertEqual(sorted(set(angles)), [-30, 30, 90])
        upright = np.sort(lines[angles == 90][:, 0])
        np.testing.assert_allclose(np.diff(upright), 6 * np.cos(np.radians(30)))
        slanting = lines[angles == 30]
        at_edge = np.sort(slanting[:, 1] - slanting[:, 0] * np.tan(np.radians(30)))
        np.testing.assert_allclose(np.diff(at_edge), 6)
        falling = lines[angles == -30]
        other = falling[:, 1] + falling[:, 0] * np.tan(np.radians(30))
        meet = (other[:, None] - at_edge[None]) / 2 / np.tan(np.radians(30))  # x at which two of them meet
        steps = meet / (6 * np.cos(np.radians(30)))
        np.testing.assert_allclose(steps, np.round(steps), atol=1e-9, err_msg="they meet on the upright rules")

    def test_columns_frames_and_margins_are_where_they_are_said_to_be(self) -> None:
        log = paper_from_spec("log table A5")
        edges = column_edges(log)
        self.assertEqual((len(edges), edges[1]), (6, 22))
        np.testing.assert_allclose(np.diff(edges)[1:], (148 - 22) / 4)
        np.testing.assert_allclose(np.diff(column_edges(paper_from_spec("columns A5"))), 148 / 3)
        board = ruling_marks(paper_from_spec("storyboard A4")).lines
        sides = board[board[:, 0] == board[:, 2]]
        tops = board[board[:, 1] == board[:, 3]]
        self.assertAlmostEqual(float(sides[0, 3] - sides[0, 1]) / float(tops[0, 2] - tops[0, 0]), FRAME)
        self.assertEqual(len(tops) / len(sides), (2 + FRAME_RULES) / 2)
        for side, at in (("left", [20]), ("right", [128]), ("both", [20, 128])):
            paper = dataclasses.replace(paper_from_spec("ruled A5"), margin_mm=20.0, margin_side=side)
            lines = ruling_marks(paper).lines
            self.assertEqual(sorted(lines[lines[:, 0] == lines[:, 2]][:, 0]), at)
            self.assertEqual(len(rules_of(paper).x_mm), 0, "ink does not snap to a margin line")

    def test_rulings_that_do_not_fit_are_refused(self) -> None:
        for paper, field in (
            (Paper(40, 40, "ruled", 30), "paper.spacing_mm"),
            (Paper(40, 40, "frames", 5, columns=12), "paper.columns"),
            (Paper(100, 100, "columns", 5, columns=3, first_mm=90), "paper.first_mm"),
        ):
            with self.assertRaises(RecordError) as refused:
                ruling_marks(paper)
            self.assertEqual(refused.exception.field, field)


class Letters(unittest.TestCase):
    def test_the_spacing_that_suits_keeps_lines_apart_and_a_narrower_one_does_not(self) -> None:
        """Two lines of the same hand, so far apart, laid over each other on a grid."""
        for name, hand in SHIPPED_HANDS.items():
            traces = write_text(TEXT, hand, TABLET, 3, width_mm=400)
            found = read_on_paper(traces, 15, paper_from_spec("ruled 7mm A4"))
            assert found.suits_mm is not None
            assert found.reach_mm is not None
            self.assertAlmostEqual(found.x_height_mm or 0, hand.x_height_mm, delta=0.1 * hand.x_height_mm, msg=name)
            y = np.concatenate([t.y_mm for t in traces])
            self.assertGreater(found.suits_mm, found.reach_mm)
            self.assertLess(found.suits_mm - found.reach_mm * AIR, 0.5)
            for pitch, share in ((found.suits_mm, 0.02), (0.5 * found.reach_mm, 1.0)):
                below = np.concatenate([moved(t, 0, pitch).y_mm for t in traces])
                over = float((below < np.percentile(y, 99)).mean())
                self.assertTrue(over <= share and (share < 1 or over > 0.05), (name, pitch, over))

    def test_what_cannot_be_told_is_left_out_and_strong_rules_drown_the_ink(self) -> None:
        few = read_on_paper([], 15, paper_from_spec("ruled A5"))
        self.assertEqual((few.x_height_mm, few.suits_mm, few.fill), (None, None, None))
        self.assertIsNone(read_on_paper([], 15, paper_from_spec("blank A5")).over_rules)
        pale = read_on_paper([], 3.0, paper_from_spec("ruled A5"))
        dark = read_on_paper([], 3.0, dataclasses.replace(paper_from_spec("ruled A5"), rule_colour="#777777"))
        assert pale.over_rules is not None
        assert dark.over_rules is not None
        self.assertGreater(pale.over_rules, 2)
        self.assertLess(dark.over_rules, 1)


if __name__ == "__main__":
    unittest.main()
