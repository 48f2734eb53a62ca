"""Commands of the Palm trial: make contact streams, judge them, and prove the recommended rules on seeds they were not
tuned on.
"""

import argparse
import dataclasses
import json
import pathlib
import sys
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
from gray_quill.core.palm.contacts import Event, Stream, Truth, make_stream
from gray_quill.core.palm.drills import DRILLS, join, simulate
from gray_quill.core.palm.engine import fold
from gray_quill.core.palm.hard.drills import HARD_DRILLS, digest, simulate_hard
from gray_quill.core.palm.outcome import SEEN_SHIFT_MM, Outcome, Session, measure
from gray_quill.core.palm.proof import SETS, Figures, practice_sessions, prove, tuning_sessions
from gray_quill.core.palm.recommend import recommend
from gray_quill.core.palm.rules import OFF, START, Rules
from gray_quill.core.palm.zone import zone_of
from gray_quill.core.quantities import record_json
from gray_quill.core.readings.reading import in_words, readings_of
from gray_quill.formats.contacts_csv import read_contacts, write_contacts
from gray_quill.formats.palm_json import read_truth, truth_json

FIRST_SEED = 301
MOST_CAUSES = 24
TOLD = ("id", "decision", "rule", "at_ms")  # of each contact
ROOM_MM = 20.0  # beyond the outermost contact, where the screen's size is not known
Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]


def add_palm_commands(command: Command) -> None:
    """palm-sim, palm, palm-proof and palm-fit."""
    sim = command(
        "palm-sim",
        _sim,
        "Let a simulated hand do a drill on a simulated device; the truth goes into a JSON file beside the contacts.",
    )
    choice_argument(sim, "--hand", SHIPPED_HANDS)
    choice_argument(sim, "--device", SHIPPED_DEVICES)
    sim.add_argument("--drill", required=True, help=f"all, or one of {', '.join(DRILLS)}")
    sim.add_argument("--hard", action="store_true", help=f"of the hard set: {', '.join(HARD_DRILLS)}")
    sim.add_argument("--seed", type=seed, default=1)
    sim.add_argument("-o", "--output", required=True, metavar="S.csv")

    palm = command(
        "palm",
        _palm,
        "Judge a contact stream with some rules; with the truth beside it, tell palms and fingers right and wrong.",
    )
    palm.add_argument("input", metavar="S.csv")
    palm.add_argument("--rules", metavar="R.json", help="the start rules when left out; off for none")
    choice_argument(palm, "--hand", SHIPPED_HANDS)
    palm.add_argument("--json", action="store_true", help="for machines")

    proof = command(
        "palm-proof",
        _proof,
        "Recommended, start and no rules for every hand on every device, on sessions that none was tuned on.",
    )
    proof.add_argument("--seeds", type=whole(1, 50), default=3, help="sessions of each drill")
    proof.add_argument("--first-seed", type=seed, default=FIRST_SEED, help="of those sessions")
    proof.add_argument("--set", choices=("both", *SETS), default="both", help="which sessions")
    proof.add_argument("--floors", action="store_true", help="drill by drill, and where they fail by cause")

    fit = command("palm-fit", _fit, "Find rules that fit a hand on a device: on its drills, or on own streams.")
    choice_argument(fit, "--hand", SHIPPED_HANDS)
    choice_argument(fit, "--device", SHIPPED_DEVICES)
    fit.add_argument("--own", nargs="*", default=[], metavar="S.csv", help="streams with their truth beside them")
    fit.add_argument("-o", "--output", required=True, metavar="R.json")


def _sim(args: argparse.Namespace) -> None:
    hand, device = hand_of(args.hand), device_of(args.device)
    drills = HARD_DRILLS if args.hard else DRILLS
    do = simulate_hard if args.hard else simulate
    names = list(drills) if args.drill == "all" else [args.drill]
    parts = [do(hand, device, name, args.seed) for name in names]
    stream, truth = parts[0] if len(parts) == 1 else join(parts)
    truth_at = beside(args.output, ".json")
    save(args.output, write_contacts(stream.events))
    save(truth_at, json.dumps(truth_json(stream, truth)).encode())


def _palm(args: argparse.Namespace) -> None:
    stream, truth = _stream(args.input)
    rules = _rules(args.rules)
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


def _stream(name: str) -> tuple[Stream, Truth | None]:
    """A stream, and its truth where that lies beside it."""
    events = read_contacts(bytes_of(name))
    told = pathlib.Path(name).with_suffix(".json")
    screen, truth = read_truth(bytes_of(str(told))) if told.is_file() else (_reach(events), None)
    stream = make_stream(events, *screen)
    unknown = truth and (truth.palms | {i for g in truth.gestures for i in g.ids}) - set(stream.contacts)
    if unknown:
        raise InputError(
            f"{told} speaks of contact {min(unknown)}, which {name} does not hold. Do they belong together?"
        )
    return stream, truth


def _rules(given: str | None) -> Rules:
    if given == "off":
        return OFF
    if given:
        return record_reader(Rules)(bytes_of(given))
    print(
        "Judged with the rules every hand starts with; --rules R.json takes others, --rules off none.", file=sys.stderr
    )
    return START


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
        print(f"{who}: {_on(rules)}", flush=True)

    sets = SETS if args.set == "both" else (args.set,)
    seeds = range(args.first_seed, args.first_seed + args.seeds)
    proof = prove(SHIPPED_HANDS, SHIPPED_DEVICES, seeds, told, sets)
    print(f"\nstart rules: {_on(START)}\nseeds {seeds.start} to {seeds.stop - 1}; hard set {digest()}")
    for of, by_rules in proof.figures.items():
        for name, found in by_rules.items():
            print(f"\n{of}, {name}{'' if name.startswith(('off', 'start')) else ' rules'}: {found.sessions} sessions")
            for line in proof_lines(found, args.floors):
                print("  " + line)


def _on(rules: Rules) -> str:
    """What of some rules is on."""
    return ", ".join(f"{k} {v:g}" for k, v in dataclasses.asdict(rules).items() if v != getattr(OFF, k)) or "nothing"


def proof_lines(found: Figures, floors: bool) -> list[str]:
    """What some rules came to, drill by drill where floors are asked for, and where they fail, by cause."""
    all_of, lines = found.total, []
    for drill, o in [*(found.drills.items() if floors else ()), ("all", all_of)]:
        palms = o.palms_kept + (o.confusion or {}).get("palm_refused", 0)
        refused = f"{o.refused_gestures} of {o.gestures} gestures refused" if o.gestures else "no gestures"
        lines.append(
            f"{drill:22} {o.palms_kept:4} of {palms:5} palms let through ({_percent(o.palms_kept, palms)}), {refused}"
        )
    lines.append(f"of all gestures {_percent(all_of.refused_gestures, all_of.gestures)} refused")
    lines.append(
        f"page left off by over {SEEN_SHIFT_MM:g} mm in {found.shifted} of {found.sessions} sessions "
        f"({_percent(found.shifted, found.sessions)})"
    )
    lines += _lines(all_of)[:1]
    if floors:
        lines += [
            f"{n:4} x {what}: {drill}, {fault}" for (drill, fault, what), n in found.causes.most_common(MOST_CAUSES)
        ]
    return lines


def _percent(part: int, whole: int) -> str:
    return f"{100 * part / whole:.2f} %" if whole else "none"


def _fit(args: argparse.Namespace) -> None:
    hand, device = hand_of(args.hand), device_of(args.device)
    own = [_session(name) for name in args.own]
    sessions = practice_sessions(hand, device) if own else tuning_sessions(hand, device)
    found = recommend(sessions, zone_of(hand), own=own)
    save(args.output, json.dumps(record_json(found.rules), indent=1).encode())
    print(f"{args.output}: {_on(found.rules)}")
    for reason in found.reasons:
        print(f"{reason.rule} {reason.value:g}: {reason.words}")
    for words in found.on_own.would_help if found.on_own else []:
        print(words)


def _session(name: str) -> Session:
    """A recorded stream with its truth beside it; exits with 2 where that is missing."""
    stream, truth = _stream(name)
    if truth is None:
        told = pathlib.Path(name).with_suffix(".json")
        raise InputError(f"{told} is missing: rules can only be fitted to streams whose truth lies beside them.")
    return stream, truth
