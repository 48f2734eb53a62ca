"""What a way across the page meets, rings or goes over, against shapely's distances and intersections."""

import unittest

import numpy as np
import shapely

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.hit_test import LOOKED_AT, strokes_met, strokes_ringed
from gray_quill.core.ink.near_path import near_path
from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.settle import Ink, settle, settle_all
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import make_trace

CASES = 25
OFF_MM = 0.03  # how far a way in steps may lie from the way itself, and an outline from its ink
OFF_SHARE = 1.5 / LOOKED_AT  # a share told by so many places


def written(hand: str, pen: str) -> list[Ink]:
    traces = write_text("hollow sedge, moth wings", SHIPPED_HANDS[hand], SHIPPED_DEVICES["tablet-11"], 4)
    return settle_all(traces, SHIPPED_PENS[pen])


def edge(ink: Ink) -> shapely.MultiLineString:
    """As far from a way as the ink is, for no way begins and ends within it."""
    return shapely.MultiLineString([shapely.LinearRing(ring) for ring in outline(ink)])


def line(ink: Ink) -> shapely.LineString:
    return shapely.LineString(np.column_stack((ink.x_mm, ink.y_mm)))


def star(rng: np.random.Generator, centre: Floats, reach_mm: float) -> Floats:
    """A ring that does not cross itself."""
    count = int(rng.integers(5, 30))
    angles = 2 * np.pi * (np.arange(count) + rng.uniform(0, 0.9, count)) / count
    reach = rng.uniform(0.15, 1, count) * reach_mm
    return centre + np.column_stack((reach * np.cos(angles), reach * np.sin(angles)))


class InkMet(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = np.random.default_rng(20)
        self.inks = {(h, p): written(h, p) for h in SHIPPED_HANDS for p in ("fen-fountain", "heron-brush")}

    def corners(self, inks: list[Ink]) -> Floats:
        boxes = np.array([ink.box_mm for ink in inks])
        return np.stack((boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)))

    def test_a_way_touches_what_lies_within_its_reach(self) -> None:
        """Open ways only: one that closes on itself takes what it rings too."""
        touched = 0
        for of, inks in self.inks.items():
            edges = [edge(ink) for ink in inks]
            low, high = self.corners(inks)
            for case in range(CASES):
                way = self.rng.uniform(low - 4, high + 4, (2, 2))
                reach_mm = (0.0, 0.3, 1.5, 4.0)[case % 4]
                met = set(strokes_met(inks, way, reach_mm))
                gaps = shapely.distance(shapely.LineString(way), edges)
                sure = np.abs(gaps - reach_mm) > OFF_MM
                wanted = set(np.flatnonzero((gaps <= reach_mm) & sure).tolist())
                self.assertEqual({k for k in met if sure[k]}, wanted, (of, case, reach_mm))
                touched += len(wanted)
        self.assertGreater(touched, 500, "hardly any was touched, so that this tells little")

    def test_a_ring_takes_what_lies_in_it_by_half_its_length(self) -> None:
        """Or only what lies in it wholly. What is too near the bound for the places looked at is left aside."""
        taken = wholly = 0
        for of, inks in self.inks.items():
            low, high = self.corners(inks)
            long = [k for k, ink in enumerate(inks) if len(ink.x_mm) > 1]
            lines = np.array([line(inks[k]) for k in long])
            for case in range(CASES):
                ring = star(self.rng, self.rng.uniform(low, high), self.rng.uniform(4, 25))
                share = shapely.length(shapely.intersection(lines, shapely.Polygon(ring))) / shapely.length(lines)
                half = {long[k] for k in np.flatnonzero(share >= 0.5 + OFF_SHARE)}
                less = {long[k] for k in np.flatnonzero(share <= 0.5 - OFF_SHARE)}
                found = set(strokes_ringed(inks, ring))
                self.assertEqual((half - found, less & found), (set(), set()), (of, case))
                # a ring may dent the way between two points that both lie in it
                whole = {long[k] for k in np.flatnonzero(share > 1 - 1e-9)}
                cut = {long[k] for k in np.flatnonzero(share < 1 - OFF_SHARE)}
                found = set(strokes_ringed(inks, ring, wholly=True))
                self.assertEqual((whole - found, cut & found), (set(), set()), (of, case))
                taken, wholly = taken + len(half), wholly + len(whole)
        self.assertGreater(min(taken, wholly), 100, "hardly any was taken, so that this tells little")

    def test_where_the_hand_lingers_counts_no_more_than_elsewhere(self) -> None:
        """Three quarters of the reports lie in the first quarter of a line of 40 mm."""
        x = np.concatenate((np.linspace(0, 10, 300), np.linspace(10, 40, 101)[1:]))
        trace = make_trace(np.arange(400) / 240, x, np.full(400, 20.0), np.full(400, 0.5))
        ink = settle(trace, SHIPPED_PENS["reed-ballpoint"])
        for right_mm, taken in ((12.0, []), (18.0, []), (22.0, [0]), (38.0, [0])):
            ring = np.array([(-5, 10), (right_mm, 10), (right_mm, 30), (-5, 30)], float)
            self.assertEqual(strokes_ringed([ink], ring), taken, right_mm)

    def test_places_near_a_way(self) -> None:
        """Also a way of a single point, and one that stands still for a while."""
        rng = self.rng
        for points in (1, 2, 3, 17):
            way = rng.uniform(0, 60, (points, 2))
            way = np.repeat(way, rng.integers(1, 4, points), axis=0)
            x, y = rng.uniform(-10, 70, (2, 4000))
            reach_mm = rng.uniform(0.1, 12, 4000)
            at = shapely.Point(way[0]) if (way == way[0]).all() else shapely.LineString(way)
            gaps = shapely.distance(shapely.points(x, y), at)
            for reach in (reach_mm, 3.0):
                near = near_path(x, y, reach, way)
                np.testing.assert_array_equal(
                    near[np.abs(gaps - reach) > 1e-9], (gaps <= reach)[np.abs(gaps - reach) > 1e-9]
                )
                self.assertTrue(near.any() and not near.all(), points)
