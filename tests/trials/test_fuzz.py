"""A small campaign of odd input; `make trial-fuzz` runs a large one."""

import unittest

from tests.trials.fuzz import MOST_GROWTH_MB, trial


class SomeFuzz(unittest.TestCase):
    def test_nothing_fails_hangs_swells_or_changes_what_it_should_not(self) -> None:
        told = trial(120, 5)
        self.assertEqual(told["faults"], [])
        self.assertLess(told["memory_mb"], MOST_GROWTH_MB)
        self.assertGreater(told["statuses"].get(200, 0), 10, "some of it is right")
        self.assertGreater(told["operations"], 30)
