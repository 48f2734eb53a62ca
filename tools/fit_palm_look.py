"""Fits the trees that say how much a contact looks like a hand, and writes them as plain numbers into the core.

They are trained on `core/palm/practice.py` only, with seeds of its own (FIRST_SEED on); a part of the sessions is left
out and tells how well they do. Run with the project's own Python and its development packages; takes some minutes.
"""

import argparse
import itertools
import multiprocessing
import pathlib
import sys
from typing import Any

import numpy as np
from numpy.typing import NDArray
from sklearn.ensemble import HistGradientBoostingClassifier
from sklearn.metrics import roc_auc_score

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Stream
from gray_quill.core.palm.engine import fold
from gray_quill.core.palm.features import NAMES, looks
from gray_quill.core.palm.practice import practise
from gray_quill.core.palm.rules import Rules, hand_like
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone, zone_of

FIRST_SEED = 500_000
OUT = pathlib.Path(__file__).parents[1] / "src" / "gray_quill" / "core" / "generated" / "palm_look.py"
# which way a number tells: +1 the larger the likelier a hand
KNOWN = {"size_mm": 1, "nib_with": 1, "zone": -1, "edge_mm": -1, "near_size_mm": 1, "near_nib_with": 1, "again_ms": -1}
NEVER = 1e9  # a bound that parts what is told from what is missing
LEAN = -0.55  # of the odds towards fingers: a refused gesture is worse than a palm that is taken back a little later
NEXT, APART_MS = 1.15, 6.0  # a contact is looked at again when it is this much older
KINDS = {"BOUNDS": "float", "MEANS": "float"}
Rows = list[tuple[int, list[float]]]


def looked_at(stream: Stream, zone: Zone) -> Rows:
    """What each contact looks like as it ages, lifts and meets the nib."""
    rows: Rows = []
    last: dict[tuple[int, bool], float] = {}

    def note(s: State, t: Touch, now_ms: float, zone: Zone) -> float:
        age = now_ms - t.born_ms
        key = (t.id, t.nib_with)
        if t.lifted or key not in last or age >= last[key] * NEXT + APART_MS:
            last[key] = age
            rows.append((t.id, looks(s, t, now_ms, zone)))
        return -np.inf

    hand_like.look_at = note
    fold(stream.events, Rules(likely=1), zone, stream.width_mm, stream.height_mm)
    return rows


def session_rows(seed: int) -> tuple[list[list[float]], list[bool], list[float]]:
    """Looks, whether each is a hand's, and what each weighs: every contact as much as any other."""
    hand = [*SHIPPED_HANDS.values()][seed % len(SHIPPED_HANDS)]
    device = [*SHIPPED_DEVICES.values()][seed // 4 % len(SHIPPED_DEVICES)]
    stream, truth = practise(hand, device, seed)
    rows = looked_at(stream, zone_of(hand))
    counts = {i: sum(1 for j, _ in rows if j == i) for i in {i for i, _ in rows}}
    return [r for _, r in rows], [i in truth.palms for i, _ in rows], [counts[i] ** -0.5 for i, _ in rows]


def gathered(sessions: int) -> tuple[NDArray[Any], NDArray[Any], NDArray[Any], NDArray[Any]]:
    """Looks, labels, weights, and the session of each row."""
    seeds = range(FIRST_SEED, FIRST_SEED + sessions)
    with multiprocessing.Pool() as pool:
        parts = pool.map(session_rows, seeds, chunksize=8)
    x = np.array(list(itertools.chain(*(p[0] for p in parts))))
    y = np.array(list(itertools.chain(*(p[1] for p in parts))), bool)
    w = np.array(list(itertools.chain(*(p[2] for p in parts))))
    of = np.repeat(np.arange(sessions), [len(p[1]) for p in parts])
    w[y] *= w[~y].sum() / w[y].sum()  # as many hands as fingers
    return x, y, w / w.mean(), of


def fitted(x: NDArray[Any], y: NDArray[Any], w: NDArray[Any], trees: int, depth: int) -> HistGradientBoostingClassifier:
    model = HistGradientBoostingClassifier(
        max_iter=trees,
        max_depth=depth,
        learning_rate=0.12,
        min_samples_leaf=60,
        l2_regularization=3.0,
        monotonic_cst=[KNOWN.get(n, 0) for n in NAMES],
        early_stopping=False,
        random_state=1,
    )
    return model.fit(x, y, sample_weight=w)


def plain_trees(model: HistGradientBoostingClassifier) -> dict[str, list[Any]]:
    """The trees' nodes one after the other, see core/palm/trees.py."""
    out: dict[str, list[Any]] = {name: [] for name in ("ROOTS", "NUMBERS", "BOUNDS", "ABOVE", "MISSING", "MEANS")}
    for (predictor,) in model._predictors:
        nodes, first = predictor.nodes, len(out["NUMBERS"])
        means: dict[int, float] = {}
        for k in range(len(nodes) - 1, -1, -1):
            n = nodes[k]
            a, b = int(n["left"]), int(n["right"])
            counts = nodes[a]["count"], nodes[b]["count"]
            means[k] = float(n["value"]) if n["is_leaf"] else float(np.average([means[a], means[b]], weights=counts))
        out["ROOTS"].append(first)
        for k, n in enumerate(nodes):
            leaf = bool(n["is_leaf"])
            assert leaf or n["left"] == k + 1, "the lower branch follows its node"
            out["NUMBERS"].append(-1 if leaf else int(n["feature_idx"]))
            out["BOUNDS"].append(0 if leaf else float(f"{min(n['num_threshold'], NEVER):.5g}"))
            out["ABOVE"].append(0 if leaf else first + int(n["right"]))
            out["MISSING"].append(int(not leaf and n["missing_go_to_left"]))
            out["MEANS"].append(round(means[k], 4))
    return out


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--sessions", type=int, default=6500)
    parser.add_argument("--trees", type=int, default=140)
    parser.add_argument("--depth", type=int, default=5)
    parser.add_argument("--rows", type=pathlib.Path, help="keep what was looked at here, or take it from here")
    args = parser.parse_args()
    if args.rows and args.rows.exists():
        kept = np.load(args.rows)
        x, y, w, of = (kept[k] for k in "xywo")
    else:
        x, y, w, of = gathered(args.sessions)
        if args.rows:
            np.savez(args.rows, x=x, y=y, w=w, o=of)
    left_out = of % 5 == 0
    tried = fitted(x[~left_out], y[~left_out], w[~left_out], args.trees, args.depth)
    area = roc_auc_score(y[left_out], tried.decision_function(x[left_out]), sample_weight=w[left_out])
    print(f"{len(y)} looks of {of.max() + 1} sessions; area under the trade-off of those left out {area:.4f}")
    model = fitted(x, y, w, args.trees, args.depth)
    base = round(float(model._baseline_prediction.ravel()[0]) + LEAN, 4)
    lines = [f"{name}: tuple[{KINDS.get(name, 'int')}, ...] = {tuple(v)!r}" for name, v in plain_trees(model).items()]
    OUT.write_text(
        '"""Made by `tools/fit_palm_look.py`."""\n\n# fmt: off\n' + f"BASE = {base}\n" + "\n".join(lines) + "\n"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
