"""Writes src/gray_quill/core/generated/letterforms.py from the Hershey single-stroke fonts (public domain).

Run as `.venv/bin/python tools/make_letterforms.py`. Source of the outlines: A. V. Hershey, "Calligraphy for Computers",
U.S. Naval Weapons Laboratory, 1967, as shipped in the Hershey-Fonts package.
"""

import pathlib
from typing import Any

from HersheyFonts import HersheyFonts

OUT = pathlib.Path(__file__).parents[1] / "src/gray_quill/core/generated/letterforms.py"
FACES = {"script": "scripts", "plain": "futural"}
HEAD = '''"""Single-stroke letter forms of the Hershey fonts (public domain). Made by tools/make_letterforms.py; do not
edit.

A glyph is "left,right|x y x y ...|x y ...": its sides, then one run of points a stroke, y down,
baseline at y = {baseline}.
"""

BASELINE = {baseline}
'''


def glyph_text(glyph: Any) -> str:
    left, right = glyph.left_offset, glyph.left_offset + glyph.char_width
    runs = [" ".join(f"{int(x)} {int(y)}" for x, y in stroke) for stroke in glyph.strokes if stroke]
    return "|".join([f"{int(left)},{int(right)}", *runs])


def main() -> None:
    font = HersheyFonts()
    faces = []
    baseline = 9
    for face, source in FACES.items():
        font.load_default_font(source)
        rows = []
        for code in range(33, 127):
            glyph = next(iter(font.glyphs_for_text(chr(code))))
            baseline = int(glyph.base_line)
            rows.append(f"        {chr(code)!r}: {glyph_text(glyph)!r},")
        faces.append(f"    {face!r}: {{\n" + "\n".join(rows) + "\n    },\n")
    body = "\nFACES: dict[str, dict[str, str]] = {\n" + "".join(faces) + "}\n"
    OUT.write_text(HEAD.format(baseline=baseline) + body)


if __name__ == "__main__":
    main()
