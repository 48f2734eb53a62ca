"""Command lines for the fuzz: every command with its flags, right and odd values, right and spoilt files."""

import json
import pathlib
from typing import Any

from hypothesis import strategies as st

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import DRILLS
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import record_json
from tests.trials.strategies import ODD_NUMBERS, ODD_WORDS, mostly, spoilt

FLAGS = {
    "write": ["TEXT", "--hand", "--device", "--seed", "-o"],
    "read": ["INPUT", "--pen"],
    "ink": ["INPUT", "--pen", "--dpi", "--paper", "-o"],
    "proof": ["INPUT", "--device", "--pen", "--paper", "--dither", "--light", "-o"],
    "ghost": ["INPUT", "--device", "--pen", "--fps", "-o"],
    "lag": ["--device", "--pen", "--speed", "--lookahead"],
    "film": ["--device", "--pen", "--fps", "--seed", "-o"],
    "film-read": ["INPUT", "--fps", "--mm-per-px"],
    "palm-sim": ["--hand", "--device", "--drill", "--seed", "-o"],
    "palm": ["INPUT", "--hand", "--rules"],
    "check": ["--data"],
    "restore": ["BACKUP", "--data"],
    "serve": ["--data"],
    "demo": ["--data"],
    "smell": [],
}
KINDS = {
    "a.inkml": "application/inkml+xml",
    "a.png": "image/png",
    "f.zip": "application/zip",
    "pen.json": "application/json",
    "s.csv": "text/csv",
    "s.json": "truth",
}
ENDINGS = ("svg", "png", "pdf", "inkml", "json", "zip", "docx")


def command_lines(place: pathlib.Path, files: dict[str, bytes]) -> st.SearchStrategy[list[str]]:
    """Arguments for `gray-quill`; the files they may name are written into `place` as they are drawn. None of them goes
    on serving.
    """
    (place / "folder").mkdir(parents=True, exist_ok=True)
    (place / "hand.json").write_text(json.dumps(record_json(SHIPPED_HANDS["left-steep"])))
    values = _values(place)

    @st.composite
    def line(draw: st.DrawFn) -> list[str]:
        for name, kind in KINDS.items():
            (place / name).write_bytes(draw(mostly(st.just(files[kind]), spoilt(files[kind]), 10)))
        name = draw(st.sampled_from(list(FLAGS)))
        argv = [name]
        for flag in FLAGS[name]:
            few_frames = ["60", "-1", "9" * 30, "nan", "x"] if (name, flag) == ("film", "--fps") else None
            value = str(draw(st.sampled_from(few_frames or values.get(flag, values["NUMBER"]))))
            if draw(st.integers(0, 15)):
                argv += [value] if flag.isupper() else [flag, value]
        if name in ("serve", "demo"):
            argv += ["--port", draw(st.sampled_from(["-1", "65536", "9" * 50, "x"]))]
        return argv

    return line()


def _values(place: pathlib.Path) -> dict[str, list[Any]]:
    """What a flag may be given."""
    records = [str(place / "pen.json"), str(place / "hand.json"), "ghost"]
    inputs = [str(place / n) for n in (*KINDS, "hand.json", "folder", "ghost.inkml")] + ["/dev/null", *ODD_WORDS]
    outputs = [str(place / f"out.{ending}") for ending in ENDINGS] + [str(place / "folder")]
    words = ["moth", "ruled 7mm A5", "stucki", *list(DRILLS)[:2], *ODD_WORDS]
    return {
        "--pen": [next(iter(SHIPPED_PENS)), *records],
        "--device": [next(iter(SHIPPED_DEVICES)), *records],
        "--hand": [next(iter(SHIPPED_HANDS)), *records],
        "INPUT": inputs,
        "-o": [*outputs, "/proc/out.png", "/nowhere/out.png", "\x00", "a" * 300, ""],
        "--data": [*inputs, str(place / "nothing")],
        "--rules": inputs,
        **dict.fromkeys(("TEXT", "--paper", "--dither", "--light", "--drill", "BACKUP"), words),
        "NUMBER": [*map(str, ODD_NUMBERS), "9" * 500, "nan", "inf", "-1", "7", *ODD_WORDS[:4]],
    }
