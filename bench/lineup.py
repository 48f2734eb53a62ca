"""A line-up of twenty pens in two hands on two devices, and the next pair of tuning by choosing."""

import os
import time
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from multiprocessing import get_context

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.lineup.axes import allowed, directions_for
from gray_quill.core.lineup.case import Candidate, simulated_ground
from gray_quill.core.lineup.measure import measure
from gray_quill.core.lineup.preference import Judged
from gray_quill.core.lineup.preference_tuning import next_pair, pool
from gray_quill.core.palm.rules import START
from gray_quill.core.paper import first_paper
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed

PENS, ASKED, BLOCKS = 20, 15, 3  # blocks of some 700 reports


def lined_up() -> tuple[float, int]:
    """Seconds on all cores, and points of a candidate's writing."""
    pens = list(SHIPPED_PENS.values())
    pens += [changed(pens[1], "body.width_mm", 0.5 + 0.1 * k) for k in range(1, PENS - len(pens) + 1)]
    hands, devices = list(SHIPPED_HANDS.values())[:2], list(SHIPPED_DEVICES.values())[:2]
    grounds = [simulated_ground(h, d, first_paper(), START, blocks=BLOCKS) for h in hands for d in devices]
    candidates = [Candidate(f"{n} {g}", p.name, p, g) for n, p in enumerate(pens) for g in range(len(grounds))]
    points = sum(len(t.t_s) for block in grounds[0].blocks for t in block)
    start = time.perf_counter()
    with ProcessPoolExecutor(os.cpu_count(), get_context("spawn")) as runs:
        measure(candidates, grounds, runs=runs.map)
    return time.perf_counter() - start, points


def next_choice_ms() -> float:
    """The longest wait for the next two pens within ASKED answers, in four and in eight directions."""
    took = []
    for count in (4, 8):
        recipe = SHIPPED_PENS["fen-fountain"]
        directions = directions_for(recipe, count)

        keeps = partial(allowed, recipe, directions)
        judged: list[Judged] = []
        for n in range(ASKED + 1):
            start = time.perf_counter()
            pair = next_pair(judged, pool(count, 1), 1, keeps)
            took.append(1000 * (time.perf_counter() - start))
            judged.append(Judged(pair.one, pair.other, 1 if n % 3 else -1))
    return max(took[1:])
