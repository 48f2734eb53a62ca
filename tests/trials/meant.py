"""What a stroke is taken for: figures of each kind, letters held still at their end, scribbles and words, in counts.

    make trial-meant N=100 SEED=1

Figures and scribbles are drawn by the simulated hands, with their own tremor and timing, on a tablet: N of each kind
and hand, exactly meant or meant a little off. Words: 20 N of random letters, common ones more often (the order of
frequency is common knowledge, no source).
"""

import argparse
import dataclasses
import itertools
from collections import Counter

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.figures import fit_figure
from gray_quill.core.ink.scribble import is_scribble
from gray_quill.core.trace import Trace
from tests.core.test_clean_figures import drawn as figure_way
from tests.core.test_clean_figures import trembling
from tests.core.test_scribble import drawn as by_hand
from tests.core.test_scribble import zigzag

KINDS = ("line", "arrow", "arc", "curve", "circle", "ellipse", "triangle", "rectangle", "polygon")
TABLET = SHIPPED_DEVICES["tablet-11"]
ALPHABET = "etaoinshrdlcumwfgypbvkjxqz"
HOLD_S, HOLD_MM = 0.5, 0.8  # as in the browser: web/src/stations/sheet/use-figure.ts
WOBBLES = (0.0, 0.01, 0.02)  # how far a figure as meant is off itself, of its size, before the hand trembles
HEADING = 3.0  # times the hand's own size


def kind_of(trace: Trace) -> str:
    figure = fit_figure(trace.x_mm, trace.y_mm)
    return figure.kind if figure else "none"


def rests(trace: Trace) -> bool:
    """Whether the pen ever stays so long in so small a circle that a figure would be looked for."""
    first = np.searchsorted(trace.t_s, trace.t_s - HOLD_S, side="right") - 1
    far = [np.hypot(*(trace.xy_mm[a : k + 1] - trace.xy_mm[k]).T).max() for k, a in enumerate(first) if a >= 0]
    return bool(far) and min(far) <= HOLD_MM


def words(n: int, rng: np.random.Generator) -> list[str]:
    share = 1 / np.arange(1, len(ALPHABET) + 1) ** 0.8
    return ["".join(rng.choice(list(ALPHABET), rng.integers(2, 10), p=share / share.sum())) for _ in range(n)]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("n", type=int, nargs="?", default=100)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    rng = np.random.default_rng(args.seed)
    print(f"figures drawn by hand, {args.n} of each, and what they were taken for")
    for wobble, name, kind in itertools.product(WOBBLES, SHIPPED_HANDS, KINDS):
        ways = (trembling(figure_way(kind, rng), wobble, rng) for _ in range(args.n))
        found = Counter(kind_of(by_hand(way, name, rng)) for way in ways)
        others = ", ".join(f"{k} {n}" for k, n in found.most_common() if k != kind)
        print(f"  meant off by {wobble:.1%}  {name:12} {kind:10} {found[kind]:4}   {others}")
    print("letters as large as a heading's, held still at their end")
    for letter in "olc01s":
        found = Counter()
        for hand in SHIPPED_HANDS.values():
            large = dataclasses.replace(hand, x_height_mm=hand.x_height_mm * HEADING)
            text = letter * min(args.n, 40)
            found.update(kind_of(t) for t in write_text(text, large, TABLET, args.seed) if len(t) > 4)
        print(f"  {letter}   " + ", ".join(f"{k} {n}" for k, n in found.most_common()))
    taken = held = strokes = 0
    for k, word in enumerate(words(20 * args.n, rng)):
        hand = SHIPPED_HANDS[list(SHIPPED_HANDS)[k % len(SHIPPED_HANDS)]]
        for trace in write_text(word, hand, TABLET, args.seed + k):
            strokes += 1
            taken += is_scribble(trace.x_mm, trace.y_mm)
            held += rests(trace)
    print(f"{20 * args.n} words, {strokes} strokes: {taken} taken for scribbles, {held} ever held still")
    for name in SHIPPED_HANDS:
        found_so = sum(is_scribble(t.x_mm, t.y_mm) for t in (by_hand(zigzag(rng), name, rng) for _ in range(args.n)))
        print(f"scribbles of {name}: {found_so} of {args.n} recognised")


if __name__ == "__main__":
    main()
