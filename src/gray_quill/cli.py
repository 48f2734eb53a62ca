"""The command line: the same core as the screens. Errors are one line on stderr and exit status 2."""

import argparse
import dataclasses
import json
import os
import pathlib
import sqlite3
import sys
from collections.abc import Callable, Sequence

from gray_quill import __version__
from gray_quill.cli_advise import add_advise_command
from gray_quill.cli_items import (
    DEFAULT_PAPER,
    Parser,
    beside,
    bytes_of,
    choice_argument,
    device_of,
    hand_of,
    inked,
    pen_of,
    real,
    save,
    seed,
    shown_line,
    whole,
)
from gray_quill.cli_keep import add_keeping_commands, data_argument
from gray_quill.cli_lineup import add_lineup_command
from gray_quill.cli_palm import add_palm_commands
from gray_quill.cli_panels import add_panel_commands
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import GrayQuillError, InputError, NotFound
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.latency.ahead import looked_ahead
from gray_quill.core.latency.film import film
from gray_quill.core.latency.film_reader import read_film
from gray_quill.core.latency.trial import NIB_SPEED, SPEED_MM_S, model_lag, quick_lag
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import Steady
from gray_quill.core.quantities import changed, check, quantities
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.readings.reading import in_words, readings_of
from gray_quill.formats.export import DPI, export_sheet
from gray_quill.formats.film_in import read_film_zip
from gray_quill.formats.film_zip import write_film
from gray_quill.formats.inkml_write import write_inkml

MOST_LETTERS = 4000  # a simulated hand writes at a time


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; returns the exit status."""
    args = _parser().parse_args(argv)
    try:
        args.run(args)
        sys.stdout.flush()
    except GrayQuillError as error:
        return _refused(error.message)
    except BrokenPipeError:  # who read the output has enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 1
    except OSError as error:
        return _refused(f"{error.strerror or error}. Free some space or choose another place.")
    except sqlite3.Error as error:
        return _refused(f"The database does not answer ({error}). gray-quill check tells more.")
    except KeyboardInterrupt:
        return 130
    except MemoryError:
        return _refused("This needs more memory than there is. Ask for less at a time.")
    return 0


def _refused(message: str) -> int:
    print(f"gray-quill: {shown_line(message)}", file=sys.stderr)
    return 2


def _parser() -> argparse.ArgumentParser:
    parser = Parser("gray-quill", description="Write once, then tune digital ink with evidence.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Callable[[argparse.Namespace], None], text: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=text, description=text)
        sub.set_defaults(run=run)
        return sub

    write = command("write", _write, "Let a simulated hand write text on a simulated device.")
    write.add_argument("text")
    choice_argument(write, "--hand", SHIPPED_HANDS)
    choice_argument(write, "--device", SHIPPED_DEVICES)
    write.add_argument("--seed", type=seed, default=1)
    write.add_argument("-o", "--output", required=True, metavar="OUT.inkml")

    read = command("read", _read, "Readings of a pen on the strokes of an InkML file.")
    read.add_argument("input", metavar="IN.inkml")
    choice_argument(read, "--pen", SHIPPED_PENS)
    read.add_argument("--json", action="store_true", help="for machines")

    ink = command("ink", _ink, "Ink an InkML file with a pen, as SVG, PNG, PDF or ORA by the ending of the output.")
    ink.add_argument("input", metavar="IN.inkml")
    choice_argument(ink, "--pen", SHIPPED_PENS)
    ink.add_argument("--dpi", type=real, default=200)
    ink.add_argument(
        "--paper",
        metavar="SPEC",
        help=f'like "ruled 7mm A4 landscape" (a clear sheet of "{DEFAULT_PAPER}" size when left out)',
    )
    ink.add_argument("-o", "--output", required=True, metavar="OUT.svg|png|pdf")

    add_panel_commands(command)

    lag = command(
        "lag", _lag, "How far a pen's ink trails on a device, which stage is to blame, and what a change would buy."
    )
    choice_argument(lag, "--device", SHIPPED_DEVICES)
    choice_argument(lag, "--pen", SHIPPED_PENS)
    lag.add_argument("--speed", type=real, default=SPEED_MM_S, metavar="MM_S", help="of the nib, mm/s")
    lag.add_argument("--lookahead", type=real, metavar="MS", help="how far ahead ink is drawn, ms; else the pen's own")
    lag.add_argument("--json", action="store_true", help="for machines")

    filmed = command(
        "film",
        _film,
        "Film a simulated pen on a simulated device in slow motion; the truth goes into a JSON file beside it.",
    )
    choice_argument(filmed, "--device", SHIPPED_DEVICES)
    choice_argument(filmed, "--pen", SHIPPED_PENS)
    filmed.add_argument("--fps", type=real, default=240, help="frames a second")
    filmed.add_argument("--seed", type=seed, default=1)
    filmed.add_argument("-o", "--output", required=True, metavar="FRAMES.zip")

    film_read = command("film-read", _film_read, "Read the delay of the ink off a zip of PNG frames.")
    film_read.add_argument("input", metavar="FRAMES.zip")
    film_read.add_argument("--fps", type=real, required=True, help="frames a second")
    film_read.add_argument("--mm-per-px", type=real, required=True, help="scale of the frames")
    film_read.add_argument("--json", action="store_true", help="for machines")

    add_advise_command(command)
    add_palm_commands(command)
    add_lineup_command(command)

    serve = command("serve", _serve, "Start the screens.")
    demo = command("demo", _demo, "Fill in the demo data when there is none, then start the screens.")
    demo.add_argument("--reset", action="store_true", help="put the demo data back as it was, after a backup")
    for sub in (serve, demo):
        sub.add_argument("--port", type=whole(0, 65535), default=5178, help="0 for any that is free")
        sub.add_argument(
            "--host",
            default="127.0.0.1",
            help="0.0.0.0 lets other screens on the network in, by TLS and with a key (default: this machine alone)",
        )
        sub.add_argument("--name", action="append", default=[], help="a further name this machine is reached by")
        sub.add_argument("--no-tls", dest="tls", action="store_false", help="others come by plain http")
        data_argument(sub)
    add_keeping_commands(command)
    command("bench", _bench, "Print the speed table, ours against peers.")
    command("warm", _warm, "Compile the kernels, so that the first page is not slow.")
    return parser


def _write(args: argparse.Namespace) -> None:
    if len(args.text) > MOST_LETTERS:
        raise InputError(f"That text has {len(args.text)} letters; {MOST_LETTERS} is the most. Write it in parts.")
    traces = write_text(args.text, hand_of(args.hand), device_of(args.device), args.seed)
    save(args.output, write_inkml(traces))


def _read(args: argparse.Namespace) -> None:
    traces, recipe, inks = inked(args.input, args.pen)
    readings = read_ink(traces, recipe, inks)
    if args.json:
        print(json.dumps(dataclasses.asdict(readings)))
        return
    for name, known in readings_of(Readings).items():
        print(f"{known.label:>20}  {in_words(known, getattr(readings, name))}")


def _ink(args: argparse.Namespace) -> None:
    check(DPI, args.dpi, "--dpi")
    paper, with_paper = paper_from_spec(args.paper or "blank " + DEFAULT_PAPER.split()[1]), bool(args.paper)
    _, _, inks = inked(args.input, args.pen, paper)
    save(
        args.output,
        export_sheet(inks, paper, pathlib.Path(args.output).suffix.lower().lstrip("."), args.dpi, with_paper),
    )


def _lag(args: argparse.Namespace) -> None:
    check(NIB_SPEED, args.speed, "--speed")
    device, recipe = device_of(args.device), pen_of(args.pen)
    if args.lookahead is not None:
        check(quantities(Steady)["ahead_ms"], args.lookahead, "--lookahead")
        recipe = changed(recipe, "steady.ahead_ms", args.lookahead)
    late_ms, _ = quick_lag(device, recipe, args.speed)
    ahead = looked_ahead(recipe.steady, device.digitiser.report_hz, args.speed, late_ms)
    found = model_lag(device, recipe, args.speed, ahead.most_ms)
    if args.json:
        print(json.dumps({**dataclasses.asdict(found), "ahead": dataclasses.asdict(ahead)}))
        return
    print(
        f"{found.p50_ms:.1f} ms, 95 % under {found.p95_ms:.1f} ms: {found.word}; the ink trails "
        f"{found.gap_mm_p50:.2f} mm at {args.speed:g} mm/s"
    )
    for stage in found.stages:
        print(f"{stage.name:>16}  {stage.mean_ms:6.1f} ms  {stage.share:6.1%}")
    for buy in found.buys:
        print(f"{buy.change:>28}  95 % seen under {buy.p95_ms:.1f} ms")
    for way in ahead.on if recipe.steady.ahead_ms else []:
        print(f"{way.on:>28}  look-ahead overshoots {way.overshoot_mm:.2f} mm")
    for words in ahead.words:
        print(words)


def _film(args: argparse.Namespace) -> None:
    beside(args.output, ".json")
    frames, truth = film(device_of(args.device), pen_of(args.pen), args.fps, args.seed)
    save(args.output, write_film(frames))
    save(beside(args.output, ".json"), json.dumps(dataclasses.asdict(truth)).encode())


def _film_read(args: argparse.Namespace) -> None:
    found = read_film(read_film_zip(bytes_of(args.input)), args.fps, args.mm_per_px)
    answer = {
        "delay_ms": found.delay_ms,
        "ci95_ms": found.ci95_ms,
        "gap_mm": found.gap_mm,
        "frames_used": found.frames_used,
    }
    print(
        json.dumps(answer)
        if args.json
        else f"{found.delay_ms:.1f} ± {found.ci95_ms:.1f} ms, gap {found.gap_mm:.2f} mm, from {found.frames_used} "
        "frames"
    )


def _serve(args: argparse.Namespace) -> None:
    from gray_quill.demo.build import stock
    from gray_quill.demo.warm import warm_kernels
    from gray_quill.store.owner import owned
    from gray_quill.web.addresses import place_of
    from gray_quill.web.server import serve

    with owned(args.data):
        stock(args.data)
        serve(args.data, place_of(args.host, args.port, tuple(args.name), args.tls), warm_kernels)


def _demo(args: argparse.Namespace) -> None:
    from gray_quill.demo.build import build_demo
    from gray_quill.demo.warm import warm_kernels
    from gray_quill.store.owner import owned
    from gray_quill.web.addresses import place_of
    from gray_quill.web.server import serve

    with owned(args.data):
        build_demo(args.data, reset=args.reset)
        serve(args.data, place_of(args.host, args.port, tuple(args.name), args.tls), warm_kernels)


def _bench(_: argparse.Namespace) -> None:
    bench = pathlib.Path(__file__).parents[2] / "bench" / "run.py"
    if not bench.is_file():
        raise NotFound("The bench lies in the project's folder bench/; run this from a checkout.")
    import runpy

    runpy.run_path(str(bench), run_name="__main__")


def _warm(_: argparse.Namespace) -> None:
    from gray_quill.demo.warm import warm_kernels

    warm_kernels()


if __name__ == "__main__":
    sys.exit(main())
