"""Commands of the panels: a page as a panel shows it, standing and in time."""

import argparse
import dataclasses
import json
from collections.abc import Callable

from gray_quill.cli_items import DEFAULT_PAPER, bytes_of, choice_argument, device_of, inked, real, save
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.ink.view import box_view
from gray_quill.core.latency.page_film import page_film
from gray_quill.core.latency.trial import takes_fast_path, until_told_ms
from gray_quill.core.panel.cut import SCROLLED, THEN, done_then
from gray_quill.core.panel.dither import DITHERS
from gray_quill.core.panel.in_time import InTime
from gray_quill.core.panel.light import ROOMS, as_seen, room_of
from gray_quill.core.panel.proof import Toning, proof_of, proof_sheet
from gray_quill.core.panel.writing import Writing, starts_of
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.quantities import Quantity, check, read_record
from gray_quill.core.readings.in_time import InTimeReadings, read_in_time
from gray_quill.core.readings.on_panel import thinnest_mm
from gray_quill.core.readings.panel_readings import panel_readings
from gray_quill.core.readings.reading import in_words, readings_of
from gray_quill.core.units import px_per_mm
from gray_quill.formats.film_zip import check_length, write_film
from gray_quill.formats.png import read_png, write_png

Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]
FRAMES_HZ = Quantity("number", "Frames a second", "Of the film of a panel", "frames/s", 1, 120, 1)
EDGE_MM = 2.0  # of paper about the ink


def add_panel_commands(command: Command) -> None:
    """proof and ghost."""
    proof = command("proof", _proof, "Show an InkML file or a PNG picture as a device's panel shows it.")
    proof.add_argument("input", metavar="IN.inkml|IN.png")
    _common(proof)
    proof.add_argument("--dither", default="none", help=f"one of {', '.join(DITHERS)}")
    proof.add_argument("--greys", type=int, default=0, metavar="N", help="in use; all of the panel's when left out")
    proof.add_argument("--bolder", type=int, default=0, metavar="PX", help="pixels by which all is made wider")
    proof.add_argument("--raised", type=real, default=1.0, metavar="X", help="how much farther from paper tones are")
    proof.add_argument("--light", default="no glare", help=f"of the room, one of {', '.join(ROOMS)}")
    proof.add_argument("--json", action="store_true", help="readings for machines")
    proof.add_argument("-o", "--output", metavar="OUT.png", help="the picture; needed without --json")

    ghost = command("ghost", _ghost, "Play an InkML file's writing on a panel in time, as a zip of frames.")
    ghost.add_argument("input", metavar="IN.inkml")
    _common(ghost)
    ghost.add_argument("--then", default=THEN[0], help=f"what is done after writing, one of {', '.join(THEN)}")
    ghost.add_argument("--fps", type=real, default=30.0, metavar="N", help="frames a second")
    ghost.add_argument("--nib", action="store_true", help="with the pen over the panel, as film-read wants it")
    ghost.add_argument("--json", action="store_true", help="readings for machines")
    ghost.add_argument("-o", "--output", required=True, metavar="FRAMES.zip")


def _common(parser: argparse.ArgumentParser) -> None:
    choice_argument(parser, "--device", SHIPPED_DEVICES)
    parser.add_argument("--pen", default="fen-fountain", help="a shipped pen or a pen's JSON file")
    parser.add_argument("--paper", metavar="SPEC", default=DEFAULT_PAPER)


def _proof(args: argparse.Namespace) -> None:
    panel = device_of(args.device).panel
    given = {"dither": args.dither, "greys": args.greys, "bolder_px": args.bolder, "raised": args.raised}
    toning, room = read_record(Toning, given, "--"), room_of(args.light)
    if not args.output and not args.json:
        raise InputError("Say where the picture goes: -o OUT.png. Or ask for readings alone: --json.", "-o")
    data = bytes_of(args.input)
    if data.startswith(b"\x89PNG") or args.input.lower().endswith(".png"):
        if args.json:
            raise InputError("Readings are of ink: give an InkML file, or leave --json out.", "--json")
        proof = proof_of(read_png(data), "#ffffff", panel, toning, room)
    else:
        paper = paper_from_spec(args.paper)
        _, recipe, inks = inked(args.input, args.pen, paper)
        proof = proof_sheet(inks, paper, panel, toning, room)
        if args.json:
            thinnest = thinnest_mm(recipe, paper.colour, panel, toning, room)
            found = dataclasses.asdict(panel_readings(inks, paper, panel, proof))
            print(json.dumps({**found, "thinnest_line_mm": thinnest}, indent=2))
    if args.output:
        save(args.output, write_png(as_seen(proof.pixels, panel, room), panel.ppi))


def _ghost(args: argparse.Namespace) -> None:
    check(FRAMES_HZ, args.fps, "--fps")
    device, paper = device_of(args.device), paper_from_spec(args.paper)
    traces, recipe, inks = inked(args.input, args.pen, paper)
    starts = starts_of(traces)
    boxes = [ink.box_mm for ink in inks]
    left, top = (min(b[k] for b in boxes) - EDGE_MM for k in (0, 1))
    right, bottom = (max(b[k] for b in boxes) + EDGE_MM for k in (2, 3))
    view = box_view((left, top, right, bottom), px_per_mm(device.panel.ppi))
    late_s = until_told_ms(device, recipe) / 1000

    def page() -> InTime:
        writing = done_then(Writing(inks, starts), args.then, SCROLLED * view.height_px / view.px_per_mm)
        return InTime(writing, paper, view, device.panel, device.updates, late_s, takes_fast_path(recipe))

    check_length((view.height_px, view.width_px), int(page().lasts_s() * args.fps) + 1)
    frames = list(page_film(page(), args.fps, args.nib))
    found = read_in_time(page())
    save(args.output, write_film(frames))
    if args.json:
        print(json.dumps({**dataclasses.asdict(found), "frames": len(frames), "fps": args.fps}, indent=2))
        return
    words = [f"{known.label} {in_words(known, getattr(found, k))}" for k, known in readings_of(InTimeReadings).items()]
    print(f"{len(frames)} frames; {', '.join(words)}.")
