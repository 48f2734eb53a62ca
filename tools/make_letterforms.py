"""Writes src/gray_quill/core/generated/letterforms.py from the Hershey single-stroke fonts (public domain).

Run as `.venv/bin/python tools/make_letterforms.py`. Source of the outlines: A. V. Hershey, "Calligraphy for Computers",
U.S. Naval Weapons Laboratory, 1967, as shipped in the Hershey-Fonts package.
"""

import math
import pathlib
from typing import Any

from HersheyFonts import HersheyFonts
from shapely import LineString, Point

OUT = pathlib.Path(__file__).parents[1] / "src/gray_quill/core/generated/letterforms.py"
FACES = {"script": "scripts", "plain": "futural"}
SMALLER = 0.75  # figures and signs of the script face, whose own are drawn in doubled outlines, over the plain ones
DOT_UNITS = 3  # a closed run no larger stands for a dot of a printed letter; a hand makes a short tick of it
LOWERED = dict.fromkeys(".,:;", 3.4)  # these float above the baseline in the plain face
TAILED = "adu"  # plain letters whose stem ends in a short tail to the right, without which they close up to an o
DOUBLED_UNITS = 1.6  # a run that keeps so close to one before it only thickens that one
HEAD = '''"""Single-stroke letter forms of the Hershey fonts (public domain). Made by tools/make_letterforms.py; do not
edit.

A glyph is "left,right|x y x y ...|x y ...": its sides, then one run of points a stroke, y down,
baseline at y = {baseline}.
"""

BASELINE = {baseline}
'''


Run = list[tuple[float, float]]


def glyph_text(glyph: Any, tail: Run, scale: float, down: float) -> str:
    """Sides and single-line runs, moved down and scaled about the baseline."""
    left, right, base = glyph.left_offset, glyph.left_offset + glyph.char_width, glyph.base_line
    runs: list[Run] = []
    for stroke in glyph.strokes:
        run = by_hand([(float(x), float(y)) for x, y in stroke])
        if tail and run[-1] == (6, base):
            run = [*run[:-1], *tail]
        if run and not any(doubles(run, other) for other in runs):
            runs.append(run)
    said = [" ".join(f"{x * scale:g} {base + (y + down - base) * scale:g}" for x, y in run) for run in runs]
    return "|".join([f"{left * scale:g},{right * scale:g}", *said])


def by_hand(run: Run) -> Run:
    """A run as a hand makes it: a dot is a tick, and a comma does not begin with the outline of a dot."""
    head = run[:5]
    back = next((k for k in (3, 4) if len(head) > k and math.dist(head[k], head[0]) <= 2), 0)
    wide = max(max(x for x, _ in head) - min(x for x, _ in head), max(y for _, y in head) - min(y for _, y in head))
    if not back or wide > DOT_UNITS:
        return run
    if len(run) > 5 and math.dist(run[-1], run[0]) > 2:
        return run[back:]
    x, y = (sum(c) / len(run) for c in zip(*run, strict=True))
    return [(x, y - 0.6), (x + 0.2, y + 0.6)]


def doubles(run: Run, other: Run) -> bool:
    """Whether every point of `run` lies close to `other`."""
    line = LineString(other)
    return all(line.distance(Point(p)) <= DOUBLED_UNITS for p in LineString(run).segmentize(1.0).coords)


def main() -> None:
    font = HersheyFonts()
    faces = []
    baseline = 9
    for face, source in FACES.items():
        rows = []
        for code in range(33, 127):
            plain = face == "plain" or not chr(code).isalpha()
            font.load_default_font(FACES["plain"] if plain else source)
            glyph = next(iter(font.glyphs_for_text(chr(code))))
            baseline = int(glyph.base_line)
            tail = [(6.2, 7.4), (7.2, 8.9), (9.0, 9.0)] if face == "plain" and chr(code) in TAILED else []
            scale = SMALLER if plain and face != "plain" else 1.0
            rows.append(f"        {chr(code)!r}: {glyph_text(glyph, tail, scale, LOWERED.get(chr(code), 0.0))!r},")
        faces.append(f"    {face!r}: {{\n" + "\n".join(rows) + "\n    },\n")
    body = "\nFACES: dict[str, dict[str, str]] = {\n" + "".join(faces) + "}\n"
    OUT.write_text(HEAD.format(baseline=baseline) + body)


if __name__ == "__main__":
    main()
