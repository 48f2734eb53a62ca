"""Which line of a page a reading speaks of: the last one written, and the one that reaches farthest."""

import unittest

from gray_quill.core.readings.lines import last_line, longest_line
from gray_quill.core.trace import Trace, make_trace


def stroke(x_mm: float, y_mm: float) -> Trace:
    return make_trace([0, 0.01, 0.02], [x_mm, x_mm + 2, x_mm + 4], [y_mm, y_mm + 3, y_mm], [0.5, 0.5, 0.5])


class Lines(unittest.TestCase):
    def test_the_last_line_goes_back_until_a_stroke_lies_elsewhere(self) -> None:
        for name, strokes, found in (
            ("nothing", [], []),
            ("one stroke", [(10, 10)], [0]),
            ("two lines", [(10, 10), (20, 10), (10, 30), (20, 31), (30, 29)], [2, 3, 4]),
            ("back to the first line", [(10, 10), (10, 30), (20, 10)], [2]),
            ("a dot above an i", [(10, 30), (12, 27), (20, 30)], [0, 1, 2]),
        ):
            self.assertEqual(last_line([stroke(x, y) for x, y in strokes]), found, name)

    def test_moving_the_page_changes_neither(self) -> None:
        places = [(10, 10), (20, 11), (30, 10), (10, 40), (20, 40)]
        for dx, dy in ((0.0, 0.0), (55.0, 0.0), (3.0, 80.0)):
            moved = [stroke(x + dx, y + dy) for x, y in places]
            self.assertEqual((last_line(moved), longest_line(moved)), ([3, 4], [0, 1, 2]))
