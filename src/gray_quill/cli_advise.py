"""`gray-quill advise`: what to change about a pen on some writing, and where following that ends."""

import argparse
import dataclasses
import json
from collections.abc import Callable, Sequence

from gray_quill.cli_items import bytes_of, choice_argument, device_of, pen_of, seed
from gray_quill.core.advice.diagnosis import KNOWN
from gray_quill.core.advice.proposals import Advice, Change, Step, advise, follow
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.sampling import reported_by
from gray_quill.core.errors import InputError
from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.reading import in_words
from gray_quill.formats.inkml import read_inkml

Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]


def add_advise_command(command: Command) -> None:
    """advise."""
    sub = command(
        "advise",
        _advise,
        "What to change about a pen on the strokes of an InkML file: what, why, what it will do, and its price.",
    )
    sub.add_argument("input", metavar="TRACE.inkml")
    choice_argument(sub, "--pen", SHIPPED_PENS)
    choice_argument(sub, "--device", SHIPPED_DEVICES, required=False)
    sub.add_argument("--seed", type=seed, default=1, help="of the device's noise")
    sub.add_argument("--follow", action="store_true", help="take the first proposal, and the next, until there is none")
    sub.add_argument("--json", action="store_true", help="for machines")


def _advise(args: argparse.Namespace) -> None:
    recipe, traces = pen_of(args.pen), read_inkml(bytes_of(args.input))
    if args.device:  # as that device would have reported the same strokes
        traces = reported_by(traces, device_of(args.device).digitiser, args.seed)
    if not traces:
        raise InputError("There is no ink to go by. Write something first.")
    proposals = advise(traces, recipe)
    steps, end = follow(traces, recipe) if args.follow else ([], recipe)
    if args.json:
        told: dict[str, object] = {"proposals": [_plain(a) for a in proposals]}
        if args.follow:
            told |= {"steps": [dataclasses.asdict(s) for s in steps], "pen": write_recipe(end)}
        print(json.dumps(told))
        return
    for line in _said(proposals):
        print(line)
    for line in _steps_said(steps) if args.follow else []:
        print(line)


def _plain(advice: Advice) -> dict[str, object]:
    """One proposal for machines: its pen as a recipe file has it."""
    told = {f.name: getattr(advice, f.name) for f in dataclasses.fields(advice)}
    told |= {"recipe": None if advice.recipe is None else write_recipe(advice.recipe)}
    told |= {"price": [dataclasses.asdict(c) for c in advice.price]}
    choices = [
        {"doing": c.doing, "recipe": write_recipe(c.recipe), "changes": [dataclasses.asdict(x) for x in c.changes]}
        for c in advice.choices
    ]
    return told | {"choices": choices}


def _said(proposals: Sequence[Advice]) -> list[str]:
    if not proposals:
        return ["Nothing to change: no reading lies beyond its bound."]
    lines = []
    for a in proposals:
        change = f": {_way(Change(a.reading, a.before, a.after))}" if a.recipe else ""
        lines += [f"{a.title}. {a.evidence}", f"    {a.doing}{change}"]
        lines += [f"    price: {KNOWN[c.reading].label} {_way(c)}" for c in a.price]
        lines += [
            f"    or: {c.doing}: " + ", ".join(f"{KNOWN[x.reading].label} {_way(x)}" for x in c.changes)
            for c in a.choices
        ]
    return lines


def _steps_said(steps: Sequence[Step]) -> list[str]:
    lines = [
        f"{k}. {s.doing}: {KNOWN[s.reading].label} {in_words(KNOWN[s.reading], s.before)}, predicted "
        f"{in_words(KNOWN[s.reading], s.predicted)}, obtained {in_words(KNOWN[s.reading], s.obtained)}"
        for k, s in enumerate(steps, 1)
    ]
    return [*lines, f"Followed to its end in {len(steps)} steps."]


def _way(change: Change) -> str:
    known = KNOWN[change.reading]
    return f"{in_words(known, change.before)} → {in_words(known, change.after)}"
