"""Ready sets of colours keep what their names promise, by the arithmetic of an independent library (coloraide): WCAG
2.1 contrast, colour vision deficiencies after Machado, Oliveira and Fernandes 2009, CIEDE2000.
"""

import itertools
import unittest

from coloraide import Color

from gray_quill.core.colour.palettes import PALETTES

TOLD = 6.0  # CIEDE2000 between two pens' lines told apart; from memory, a just noticeable difference is about 1 to 2


class Palettes(unittest.TestCase):
    def colours(self, words: str) -> list[str]:
        return [colour for title, named in PALETTES.items() if words in title for _, colour in named]

    def test_sets_for_a_paper_can_be_read_on_it(self) -> None:
        for words, papers in (("light paper", ("#fffdf8", "#fbf6e6")), ("on black", ("#101214",))):
            for colour, paper in itertools.product(self.colours(words), papers):
                self.assertGreaterEqual(Color(colour).contrast(paper, method="wcag21"), 4.5, (colour, paper))

    def test_the_set_for_everybody_is_told_apart_by_everybody(self) -> None:
        pairs = list(itertools.combinations(self.colours("everybody"), 2))
        self.assertEqual(len(pairs), 28)
        for deficiency in (None, "protan", "deutan", "tritan"):
            for pair in pairs:
                one, other = (Color(c) if deficiency is None else Color(c).filter(deficiency) for c in pair)
                self.assertGreater(one.delta_e(other, method="2000"), TOLD, (deficiency, pair))

    def test_greys_are_grey_and_stay_apart_on_eight_levels(self) -> None:
        levels = []
        for colour in self.colours("grey panels"):
            red, green, blue = Color(colour).coords()
            self.assertTrue(red == green == blue, colour)
            levels.append(round(red * 7))
        self.assertEqual(len(set(levels)), len(levels))
