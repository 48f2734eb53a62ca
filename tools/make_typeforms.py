"""Writes src/gray_quill/core/generated/typeforms.py from the Literata face that the interface ships (SIL Open Font
License 1.1).

Run as `.venv/bin/python tools/make_typeforms.py` after `make setup`; needs fonttools and brotli.
"""

import pathlib
from typing import Any

import numpy as np
from fontTools.pens.basePen import decomposeQuadraticSegment
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = pathlib.Path(__file__).parents[1]
FONT = ROOT / "web/node_modules/@fontsource-variable/literata/files/literata-latin-wght-normal.woff2"
OUT = ROOT / "src/gray_quill/core/generated/typeforms.py"
EM = 500  # units; a fifth of a pixel at text size on the densest panel
STEPS = 4  # straight pieces to a curve
HEAD = '''"""Printed letter forms of Literata (SIL Open Font License 1.1). Made by tools/make_typeforms.py; do not edit.

A glyph is "advance|x y x y ...|x y ...": rings to be filled by the nonzero rule, y down, baseline
at 0, {em} units to the em.
"""

EM = {em}
X_HEIGHT = {x_height}
'''


def rings(font: TTFont, name: str) -> list[str]:
    pen = DecomposingRecordingPen(font.getGlyphSet())
    font.getGlyphSet()[name].draw(pen)
    scale = EM / font["head"].unitsPerEm
    out: list[list[tuple[float, float]]] = []
    for step, points in pen.value:
        if step == "moveTo":
            out.append([points[0]])
        elif step == "lineTo":
            out[-1].append(points[0])
        elif step == "qCurveTo":
            for control, end in decomposeQuadraticSegment(points):
                start = out[-1][-1]
                out[-1] += [tuple(_bezier(start, control, end, t)) for t in np.linspace(0, 1, STEPS + 1)[1:]]
    return [" ".join(f"{round(x * scale)} {round(-y * scale)}" for x, y in ring) for ring in out]


def _bezier(a: Any, b: Any, c: Any, t: float) -> np.ndarray:
    return (1 - t) ** 2 * np.array(a) + 2 * t * (1 - t) * np.array(b) + t * t * np.array(c)


def main() -> None:
    font = instantiateVariableFont(TTFont(FONT), {"wght": 400})
    names, scale = font.getBestCmap(), EM / font["head"].unitsPerEm
    lines = [HEAD.format(em=EM, x_height=round(font["OS/2"].sxHeight * scale)), "GLYPHS = {"]
    for code in range(32, 127):
        name = names[code]
        lines.append(
            f"    {chr(code)!r}: {'|'.join([str(round(font['hmtx'][name][0] * scale)), *rings(font, name)])!r},"
        )
    OUT.write_text("\n".join([*lines, "}", ""]))


if __name__ == "__main__":
    main()
