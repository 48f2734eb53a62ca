"""`gray-quill lineup`: pens measured on the writing of simulated hands and ranked by what counts; `gray-quill card`: a
pen on a device as a setting card.
"""

import argparse
import contextlib
import dataclasses
import json
from collections.abc import Callable, Iterator

from gray_quill import __version__
from gray_quill.cli_items import bytes_of, device_of, hand_of, pen_of, save, seed
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.lineup.case import Candidate, simulated_ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import Runs, measure
from gray_quill.core.lineup.presets import PRESETS
from gray_quill.core.lineup.ranking import Place, Ranking, Table, rank
from gray_quill.core.lineup.setting_card import setting_card
from gray_quill.core.palm.rules import START
from gray_quill.core.paper import first_paper
from gray_quill.formats.card_pdf import write_card
from gray_quill.formats.lineup_report import lineup_report, write_table
from gray_quill.formats.report_blocks import Block
from gray_quill.formats.report_html import report_html
from gray_quill.formats.report_pdf import report_pdf

Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]


def add_lineup_command(command: Command) -> None:
    """lineup, card."""
    sub = command("lineup", _lineup, "Rank pens by what counts, on the writing of simulated hands on devices.")
    sub.add_argument("pens", nargs="+", metavar="PEN", help="a shipped pen's id, or a pen file")
    sub.add_argument("--hand", action="append", default=[], help=f"among {', '.join(SHIPPED_HANDS)}; may be repeated")
    sub.add_argument("--device", action="append", default=[], help="a shipped device's id; may be repeated")
    sub.add_argument("--counts", choices=list(PRESETS), default="fast notes", help="what counts, for whom")
    sub.add_argument("--weights", metavar="W.json", help="what counts instead: weights by criterion")
    sub.add_argument("--seed", type=seed, default=1, help="of the writing")
    sub.add_argument("--json", action="store_true", help="for machines")
    sub.add_argument("--csv", action="store_true", help="every reading, as a table")
    sub.add_argument("--html", action="store_true", help="the report, as one HTML file")
    sub.add_argument("-o", "--output", metavar="FILE", help="where it goes instead; .pdf and .html are the report")
    sub.add_argument("--scheduler", metavar="ADDRESS", help="measure on a dask.distributed cluster at this address")
    card = command("card", _card, "A pen on a device as a setting card, for the wall or another driver, as PDF.")
    card.add_argument("pen", metavar="PEN", help="a shipped pen's id, or a pen file")
    card.add_argument("--device", default=next(iter(SHIPPED_DEVICES)), help="a shipped device's id, or a file")
    card.add_argument("--hand", default=next(iter(SHIPPED_HANDS)), help=f"among {', '.join(SHIPPED_HANDS)}, or a file")
    card.add_argument("-o", "--output", metavar="FILE.pdf", required=True)


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
    with _on(args.scheduler) as runs:
        measured = measure(candidates, grounds, runs=runs)
    table = Table(measured)
    told = write_table(table) if args.csv else ""
    if not told:
        ranking = rank(table, weights)
        if args.json:
            found = {"measured": dataclasses.asdict(measured), "ranking": dataclasses.asdict(ranking)}
            told = f"{json.dumps(found)}\n"
        elif args.html or (args.output or "").endswith((".html", ".pdf")):
            blocks = _report(args, candidates, ranking, weights)
            pdf = (args.output or "").endswith(".pdf")
            data = report_pdf("Line-up", blocks) if pdf else report_html("Line-up", blocks)
            if args.output:
                return save(args.output, data)
            told = data.decode()
        else:
            told = "".join(f"{line}\n" for line in _said(ranking))
    if args.output:
        return save(args.output, told.encode())
    print(told, end="")


@contextlib.contextmanager
def _on(scheduler: str | None) -> Iterator[Runs]:
    """How candidates are run through: here, or by the workers of a cluster."""
    if scheduler is None:
        yield map
        return
    from gray_quill.cluster import on_cluster

    with on_cluster(scheduler) as runs:
        yield runs


def _report(
    args: argparse.Namespace, candidates: list[Candidate], ranking: Ranking, weights: dict[str, float]
) -> list[Block]:
    names, pens = {c.key: c.key for c in candidates}, {c.key: c.recipe for c in candidates}
    conditions = [
        f"written by a simulated hand, seed {args.seed}",
        f"hands: {', '.join(args.hand) or next(iter(SHIPPED_HANDS))}",
        f"devices: {', '.join(args.device) or next(iter(SHIPPED_DEVICES))}",
        f"measured by version {__version__} of this program",
    ]
    return lineup_report("Line-up", names, pens, [("", ranking)], weights, [], [], conditions, "")


def _card(args: argparse.Namespace) -> None:
    recipe, device, hand = pen_of(args.pen), device_of(args.device), hand_of(args.hand)
    save(args.output, write_card(setting_card(recipe, device, hand, START), recipe))


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
