"""Rough figures made clean: known ones with a tremor are found, and nothing else is."""

import itertools
import unittest
from collections import Counter

import numpy as np
from scipy.optimize import least_squares

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.clean_figure import along_figure, anchor_of, corners_of, placed_figure, with_corner
from gray_quill.core.ink.figures import fit_circle, fit_ellipse, fit_figure

SEED = 20  # the bounds of the fits were set on others
TREMOR = 0.02  # of a figure's size
Way = np.ndarray


def trembling(way: Way, share: float, rng: np.random.Generator) -> Way:
    """A way with a slow wobble, `share` of its size."""
    window = np.hanning(21) / np.hanning(21).sum()
    off = [np.convolve(rng.standard_normal(len(way) + 40), window, "same")[20:-20] for _ in (0, 1)]
    wobble = np.column_stack([o / o.std() for o in off])
    return np.asarray(way + share * np.hypot(*np.ptp(way, axis=0)) * wobble)


def any_corners(kind: str, size: float, rng: np.random.Generator) -> Way:
    if kind == "polygon":
        n = int(rng.choice([5, 6]))
        a = np.linspace(0, 2 * np.pi, n, endpoint=False) + rng.uniform(-0.15, 0.15, n)
        return np.asarray(size * np.column_stack((np.cos(a), np.sin(a))))
    if kind == "rectangle":
        w, h = size, size * rng.uniform(0.4, 1)
        return np.array([(0, 0), (w, 0), (w, h), (0, h)])
    while True:
        c = rng.uniform(-size, size, (3, 2))
        sides = [c[(k + 1) % 3] - c[k] for k in range(3)]
        unit = [side / np.hypot(*side) for side in sides]
        turns = [np.arccos(-unit[k - 1] @ unit[k]) for k in range(3)]
        if min(turns) > np.radians(28):
            return c


def arrow(size: float, rng: np.random.Generator) -> Way:
    """A shaft, straight or bent a little; then barb, tip, barb, or straight across from barb to barb."""
    bend, head = rng.choice([0, rng.uniform(-0.25, 0.25)]), size * rng.uniform(0.15, 0.4)
    u = np.linspace(0, 1, 100)
    shaft = size * np.column_stack((u, bend * u * (1 - u)))
    back = np.arctan2(*(shaft[-6] - shaft[-1])[::-1])
    barbs = [
        shaft[-1] + head * rng.uniform(0.8, 1.2) * np.array((np.cos(back + side), np.sin(back + side)))
        for side in rng.uniform(0.35, 0.8, 2) * (1, -1) * rng.choice([1, -1])
    ]
    ways = [shaft[-1], barbs[0], *([shaft[-1]] if rng.random() < 0.6 else []), barbs[1]]
    sides = [np.linspace(a, b, 2 + int(100 * np.hypot(*(b - a)) / size))[1:] for a, b in itertools.pairwise(ways)]
    return np.vstack((shaft, *sides))


def drawn(kind: str, rng: np.random.Generator) -> Way:
    """A figure as a hand goes around it: from anywhere on a round one, mostly from a corner, either way round, not
    quite closed or a little more.
    """
    size, turn = rng.uniform(8, 60), rng.uniform(0, 2 * np.pi)
    if kind == "line":
        way = np.column_stack((np.linspace(0, size, 80), np.zeros(80)))
    elif kind == "arrow":
        way = arrow(size, rng)
    elif kind == "arc":
        t = np.linspace(0, rng.uniform(0.7, 4.5), 120)
        way = size * np.column_stack((np.cos(t), np.sin(t)))
    elif kind == "curve":
        t = np.linspace(0, 1, 160)
        way = size * np.column_stack((2 * t, 0.5 * np.sin(2 * np.pi * rng.uniform(1, 2.2) * t)))
    elif kind in ("circle", "ellipse"):
        b = size if kind == "circle" else size * rng.uniform(0.35, 0.7)
        t = rng.uniform(0, 6) + np.linspace(0, 2 * np.pi * rng.uniform(0.96, 1.05), 160) * rng.choice([-1, 1])
        way = np.column_stack((size * np.cos(t), b * np.sin(t)))
    else:
        ring = any_corners(kind, size, rng)[:: rng.choice([-1, 1])]
        ring = np.vstack((ring, ring[:1]))
        along = np.concatenate(([0], np.cumsum(np.hypot(*np.diff(ring, axis=0).T))))
        start = 0.0 if rng.random() < 0.7 else rng.uniform(0, along[-1])
        at = (start + np.linspace(0, along[-1] * rng.uniform(0.96, 1.03), 160)) % along[-1]
        way = np.column_stack([np.interp(at, along, ring[:, k]) for k in (0, 1)])
    c, s = np.cos(turn), np.sin(turn)
    return np.asarray(way @ np.array([[c, s], [-s, c]]) + 80)


def _off_circle(circle: Way, way: Way) -> Way:
    return np.asarray(np.hypot(*(way - circle[:2]).T) - circle[2])


class Figures(unittest.TestCase):
    def test_trembling_figures_of_each_kind_are_found(self) -> None:
        """A hexagon that trembles by a fiftieth of its size is no longer told from a circle: half of that, of these."""
        rng = np.random.default_rng(SEED)
        for kind in ("line", "arrow", "arc", "curve", "circle", "ellipse", "triangle", "rectangle", "polygon"):
            found: Counter[str] = Counter()
            for _ in range(40):
                way = trembling(
                    drawn(kind, rng), TREMOR / 2 if kind in ("line", "arrow", "arc", "polygon") else TREMOR, rng
                )
                figure = fit_figure(way[:, 0], way[:, 1])
                found[figure.kind if figure else "none"] += 1
            self.assertGreaterEqual(found[kind], 34 if kind == "polygon" else 38, (kind, found))

    def test_their_sizes_are_those_that_were_meant_and_a_reference_agrees(self) -> None:
        """Centre and radius against scipy's least squares of true distances (Levenberg and Marquardt)."""
        rng = np.random.default_rng(SEED + 1)
        for _ in range(20):
            cx, cy, r = rng.uniform(20, 90), rng.uniform(20, 90), rng.uniform(5, 30)
            t = np.linspace(0, 2 * np.pi, 200)
            way = np.column_stack((cx + r * np.cos(t), cy + r * np.sin(t)))
            way += rng.normal(0, TREMOR * r, way.shape)
            got = fit_circle(way)
            best = least_squares(_off_circle, (50, 50, 10), args=(way,)).x
            np.testing.assert_allclose(got, best, atol=0.004 * r)
            np.testing.assert_allclose(got, (cx, cy, r), atol=0.01 * r)
            a, b, turn = r, r * rng.uniform(0.4, 0.8), rng.uniform(0, 3)
            way = np.column_stack((a * np.cos(t), b * np.sin(t))) @ np.array(
                [[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]]
            )
            fitted = fit_ellipse(way + (cx, cy) + rng.normal(0, TREMOR / 2 * r, way.shape))
            assert fitted is not None
            np.testing.assert_allclose(fitted[:2], (cx, cy), atol=0.01 * r)
            np.testing.assert_allclose(sorted(fitted[2:4]), (b, a), rtol=0.02)

    def test_writing_means_few_figures_and_the_counts_are_told(self) -> None:
        """With the same hold at their ends, letters: o and 0 are circles and ellipses, l and 1 lines; hardly any
        other is one. Small ones are never looked at.
        """
        texts = {"o0": True, "l1": True, "amhgekswz": False}
        for text, means in texts.items():
            counts: Counter[str] = Counter()
            for seed in range(2):
                for trace in write_text(text, SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], seed):
                    grown = 6.0  # letters as tall as a heading's
                    figure = fit_figure(trace.x_mm * grown, trace.y_mm * grown)
                    counts[figure.kind if figure else "none"] += 1
                    if figure and figure.kind == "curve":  # its own course, no other figure
                        counts["none"] += 1
                        counts["curve"] -= 1
                        ring = np.array(figure.ring_mm)
                        apart = np.hypot(*(ring[:, None] - trace.xy_mm[None] * grown).transpose(2, 0, 1)).min(axis=1)
                        self.assertLess(float(apart.max()), 0.25 * np.hypot(*np.ptp(trace.xy_mm * grown, axis=0)))
                    if len(trace) > 4:
                        self.assertIsNone(fit_figure(trace.x_mm * 0.2, trace.y_mm * 0.2), text)
            if not means:
                self.assertGreaterEqual(counts["none"], 0.8 * sum(counts.values()), (text, counts))

    def test_samples_go_along_the_figure_as_far_as_they_went_along_the_way(self) -> None:
        rng = np.random.default_rng(SEED + 2)
        for kind in ("line", "circle", "rectangle"):
            way = trembling(drawn(kind, rng), 0.005, rng)
            figure = fit_figure(way[:, 0], way[:, 1])
            assert figure is not None
            x, y = along_figure(figure, way[:, 0], way[:, 1])
            size = np.hypot(*np.ptp(way, axis=0))
            self.assertLess(float(np.hypot(x - way[:, 0], y - way[:, 1]).max()), 0.12 * size, kind)
            again = fit_figure(x, y)
            assert again is not None
            self.assertEqual(again.kind, kind, "a clean figure is what it is")
            self.assertLess(again.off, 0.003)

    def test_a_corner_taken_elsewhere_leaves_the_others_and_a_sized_figure_its_anchor(self) -> None:
        rng = np.random.default_rng(SEED + 3)
        for kind in ("line", "arrow", "triangle", "rectangle", "polygon", "circle"):
            way = trembling(drawn(kind, rng), 0.004, rng)
            figure = fit_figure(way[:, 0], way[:, 1])
            assert figure is not None
            self.assertEqual(figure.kind, kind)
            x, y = anchor_of(figure)
            for sized in (0.5, 2.0):
                larger = placed_figure(figure, (sized, 0, 0, sized, x * (1 - sized), y * (1 - sized), 0, 0))
                np.testing.assert_allclose(anchor_of(larger), (x, y), atol=1e-9)
                spans = [np.hypot(*np.ptp(f.ring_mm, axis=0)) for f in (figure, larger)]
                self.assertAlmostEqual(spans[1] / spans[0], sized)
            corners = corners_of(figure)
            if kind == "circle":
                self.assertEqual(corners, ())
                with self.assertRaises(InputError):
                    with_corner(figure, 0, (0, 0))
                continue
            goal = (corners[0][0] - 7, corners[0][1] + 5)
            moved = with_corner(figure, 0, goal)
            np.testing.assert_allclose(corners_of(moved), (goal, *corners[1:]), atol=1e-9)
            ink = np.column_stack(along_figure(moved, way[:, 0], way[:, 1]))
            far = [float(np.hypot(*(ink - corner).T).min()) for corner in corners_of(moved)]
            self.assertLess(max(far), 1e-6, "samples lie in the corners")
            with self.assertRaises(InputError):
                with_corner(figure, 0, corners[1])
