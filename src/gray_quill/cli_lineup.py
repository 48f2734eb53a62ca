"""`gray-quill lineup`: pens measured on the writing of simulated hands and ranked by what counts."""

import argparse
import dataclasses
import json
from collections.abc import Callable

from gray_quill.cli_items import bytes_of, device_of, hand_of, pen_of, seed
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.lineup.case import Candidate, simulated_ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import measure
from gray_quill.core.lineup.presets import PRESETS
from gray_quill.core.lineup.ranking import Place, Ranking, Table, rank
from gray_quill.core.palm.rules import START
from gray_quill.core.paper import first_paper
from gray_quill.formats.lineup_report import write_table

Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]


def add_lineup_command(command: Command) -> None:
    """lineup."""
    sub = command("lineup", _lineup, "Rank pens by what counts, on the writing of simulated hands on devices.")
    sub.add_argument("pens", nargs="+", metavar="PEN", help="a shipped pen's id, or a pen file")
    sub.add_argument("--hand", action="append", default=[], help=f"among {', '.join(SHIPPED_HANDS)}; may be repeated")
    sub.add_argument("--device", action="append", default=[], help="a shipped device's id; may be repeated")
    sub.add_argument("--counts", choices=list(PRESETS), default="fast notes", help="what counts, for whom")
    sub.add_argument("--weights", metavar="W.json", help="what counts instead: weights by criterion")
    sub.add_argument("--seed", type=seed, default=1, help="of the writing")
    sub.add_argument("--json", action="store_true", help="for machines")
    sub.add_argument("--csv", action="store_true", help="every reading, as a table")


def _lineup(args: argparse.Namespace) -> None:
    hands = args.hand or [next(iter(SHIPPED_HANDS))]
    devices = args.device or [next(iter(SHIPPED_DEVICES))]
    pairs = [(hand, device) for hand in hands for device in devices]
    grounds = [
        simulated_ground(hand_of(hand), device_of(device), first_paper(), START, seed=args.seed)
        for hand, device in pairs
    ]
    candidates = [
        Candidate(" ".join((pen, *pair)) if len(pairs) > 1 else pen, pen, pen_of(pen), k)
        for pen in args.pens
        for k, pair in enumerate(pairs)
    ]
    weights = _weights(args.weights) if args.weights else PRESETS[args.counts]
    measured = measure(candidates, grounds)
    table = Table(measured)
    if args.csv:
        print(write_table(table), end="")
        return
    ranking = rank(table, weights)
    if args.json:
        print(json.dumps({"measured": dataclasses.asdict(measured), "ranking": dataclasses.asdict(ranking)}))
        return
    for line in _said(ranking):
        print(line)


def _weights(path: str) -> dict[str, float]:
    try:
        given = json.loads(bytes_of(path))
    except ValueError:
        raise InputError(f"{path} is no JSON. Write weights by criterion, like {{'drag': 2, 'range': 1}}.") from None
    numbers = isinstance(given, dict) and all(
        isinstance(v, int | float) and not isinstance(v, bool) and v >= 0 for v in given.values()
    )
    if not numbers:
        raise InputError(f"{path} holds no weights. Write numbers from 0 up by criterion: {', '.join(CRITERIA)}.")
    return {str(key): float(value) for key, value in given.items()}


def _said(ranking: Ranking) -> list[str]:
    lines = []
    for n, place in enumerate(ranking.places):
        above = ranking.places[n - 1].candidate if n else ""
        lines.append(_place_said(place, above))
    lines += [f"{key} is set aside: it cannot be told of {', '.join(of)}" for key, of in ranking.aside.items()]
    return lines


def _place_said(place: Place, above: str) -> str:
    if place.out:
        return f"out {place.candidate}: {place.out}"
    tie = f", not told apart from {above}" if place.tied else ""
    why = f"; strong in {place.strength}" if place.strength else ""
    why += f"; behind most by {place.cost}" if place.cost else ""
    return f"{place.place:3d} {place.candidate}: {place.total:.1f} ({place.low:.1f} to {place.high:.1f}){tie}{why}"
