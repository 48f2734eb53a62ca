"""A small campaign of odd input; `make trial-fuzz` runs a large one, and is stricter with memory."""

import unittest

from tests.trials.fuzz import trial

# After one pass what threads hold of freed memory still comes and goes by some 130 MB; asked 3,600 times it adds to
# no more. What a hundred requests leak shows above that.
MOST_GROWTH_MB = 300


class SomeFuzz(unittest.TestCase):
    def test_nothing_fails_hangs_swells_or_changes_what_it_should_not(self) -> None:
        told = trial(120, 5, MOST_GROWTH_MB)
        self.assertEqual(told["faults"], [])
        self.assertLess(told["memory_mb"], MOST_GROWTH_MB)
        right = sum(told["statuses"].get(status, 0) for status in (200, 201, 202))
        self.assertGreater(right, 10, "some of it is right")
        self.assertGreater(told["operations"], 30)
