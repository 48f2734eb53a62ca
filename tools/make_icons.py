"""Draw the icons under which a device keeps Gray Quill: our own flourish, in our own ink, under a wash.

.venv/bin/python tools/make_icons.py
"""

import dataclasses
import pathlib

import numpy as np
from PIL import Image

from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.swatch import HEIGHT_MM, WIDTH_MM, flourish
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.core.trace import moved

OUT = pathlib.Path(__file__).parents[1] / "web" / "public"
SIDE_MM = 38.0  # a maskable icon shows its middle four fifths for certain
SIZES_PX = (192, 512)


def main() -> None:
    nib = changed(SHIPPED_PENS["sedge-nib"], "body.width_mm", 5.0)
    wash = changed(SHIPPED_PENS["dusk-wash"], "body.width_mm", 9.0)
    line = moved(flourish(), (SIDE_MM - WIDTH_MM) / 2, (SIDE_MM - HEIGHT_MM) / 2)
    straight = dataclasses.replace(line, y_mm=np.full(len(line), SIDE_MM / 2 + 1.5))
    paper = Paper(SIDE_MM, SIDE_MM, "blank", colour="#f6f2e9")
    OUT.mkdir(exist_ok=True)
    for size in SIZES_PX:
        view = View(0, 0, size / SIDE_MM, size, size)
        pixels = page_pixels([settle(straight, wash), settle(line, nib)], paper, view)
        Image.fromarray(np.asarray(pixels)[..., :3].astype(np.uint8)).save(OUT / f"icon-{size}.png", optimize=True)


if __name__ == "__main__":
    main()
