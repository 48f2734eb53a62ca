"""Commands of the Palm trial: make contact streams, judge them, and prove the recommended rules on seeds they were not
tuned on.
"""

import argparse
import dataclasses
import json
import pathlib
from collections.abc import Callable

from gray_quill.cli_items import (
    beside,
    bytes_of,
    choice_argument,
    device_of,
    hand_of,
    record_reader,
    save,
    seed,
    whole,
)
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Event, make_stream
from gray_quill.core.palm.drills import DRILLS, simulate, simulate_all
from gray_quill.core.palm.engine import fold
from gray_quill.core.palm.outcome import Outcome, measure
from gray_quill.core.palm.proof import prove
from gray_quill.core.palm.rules import OFF, Rules
from gray_quill.core.palm.zone import zone_of
from gray_quill.core.readings.reading import in_words, readings_of
from gray_quill.formats.contacts_csv import read_contacts, write_contacts
from gray_quill.formats.palm_json import read_truth, truth_json

FIRST_SEED = 301
TOLD = ("id", "decision", "rule", "at_ms")  # of each contact
ROOM_MM = 20.0  # beyond the outermost contact, where the screen's size is not known
Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]


def add_palm_commands(command: Command) -> None:
    """palm-sim, palm and palm-proof."""
    sim = command(
        "palm-sim",
        _sim,
        "Let a simulated hand do a drill on a simulated device; the truth goes into a JSON file beside the contacts.",
    )
    choice_argument(sim, "--hand", SHIPPED_HANDS)
    choice_argument(sim, "--device", SHIPPED_DEVICES)
    sim.add_argument("--drill", required=True, help=f"all, or one of {', '.join(DRILLS)}")
    sim.add_argument("--seed", type=seed, default=1)
    sim.add_argument("-o", "--output", required=True, metavar="S.csv")

    palm = command(
        "palm",
        _palm,
        "Judge a contact stream with some rules; with the truth beside it, tell palms and fingers right and wrong.",
    )
    palm.add_argument("input", metavar="S.csv")
    palm.add_argument("--rules", metavar="R.json", help="all rules are off when left out")
    choice_argument(palm, "--hand", SHIPPED_HANDS)
    palm.add_argument("--json", action="store_true", help="for machines")

    proof = command(
        "palm-proof",
        _proof,
        "Recommended rules for every hand on every device, tried on sessions they were not tuned on, against no rules.",
    )
    proof.add_argument("--seeds", type=whole(1, 50), default=3, help="sessions of each drill")


def _sim(args: argparse.Namespace) -> None:
    hand, device = hand_of(args.hand), device_of(args.device)
    stream, truth = (
        simulate_all(hand, device, args.seed) if args.drill == "all" else simulate(hand, device, args.drill, args.seed)
    )
    truth_at = beside(args.output, ".json")
    save(args.output, write_contacts(stream.events))
    save(truth_at, json.dumps(truth_json(stream, truth)).encode())


def _palm(args: argparse.Namespace) -> None:
    events = read_contacts(bytes_of(args.input))
    told = pathlib.Path(args.input).with_suffix(".json")
    screen, truth = read_truth(bytes_of(str(told))) if told.is_file() else (_reach(events), None)
    stream = make_stream(events, *screen)
    unknown = truth and (truth.palms | {i for g in truth.gestures for i in g.ids}) - set(stream.contacts)
    if unknown:
        raise InputError(
            f"{told} speaks of contact {min(unknown)}, which {args.input} does not hold. Do they belong together?"
        )
    rules = record_reader(Rules)(bytes_of(args.rules)) if args.rules else OFF
    state = fold(stream.events, rules, zone_of(hand_of(args.hand)), stream.width_mm, stream.height_mm)
    found = measure(stream, state, rules, truth)
    if args.json:
        contacts = [{name: getattr(t, name) for name in TOLD} for t in state.touches.values()]
        plain = {k: v for k, v in dataclasses.asdict(found).items() if v is not None}
        print(json.dumps({"contacts": contacts, **plain}))
        return
    for line in _lines(found):
        print(line)
    for t in state.touches.values():
        print(f"contact {t.id:>3}  {t.decision}{f' by {t.rule}' if t.rule else ''} at {t.at_ms:.0f} ms")


def _reach(events: list[Event]) -> tuple[float, float]:
    return (max([e.x_mm for e in events] or [0]) + ROOM_MM, max([e.y_mm for e in events] or [0]) + ROOM_MM)


def _lines(o: Outcome) -> list[str]:
    lines = [", ".join(f"{known.label} {in_words(known, getattr(o, k))}" for k, known in readings_of(Outcome).items())]
    if o.confusion is not None:
        c = o.confusion
        lines.append(
            f"palms: {c['palm_refused']} refused, {c['palm_kept']} kept; fingers: {c['finger_kept']} kept, "
            f"{c['finger_refused']} refused"
        )
    return lines


def _proof(args: argparse.Namespace) -> None:
    def told(who: str, rules: Rules) -> None:
        on = {k: v for k, v in dataclasses.asdict(rules).items() if v != getattr(OFF, k)}
        print(f"{who}: {', '.join(f'{k} {v:g}' for k, v in on.items())}", flush=True)

    proof = prove(SHIPPED_HANDS, SHIPPED_DEVICES, range(FIRST_SEED, FIRST_SEED + args.seeds), told)
    print(f"\n{proof.sessions} sessions of one drill each, seeds from {FIRST_SEED} on")
    for words, outcome in (
        ("recommended rules", proof.recommended),
        ("recommended rules, fingers write", proof.recommended_ink),
        ("all rules off", proof.off),
        ("all rules off, fingers write", proof.off_ink),
    ):
        print(f"\n{words}")
        for line in _lines(outcome):
            print("  " + line)
