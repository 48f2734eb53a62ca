"""OpenRaster against an independent reader, pyora 0.3.11: names, offsets, opacities, ways of blending, and pixels.

Source: OpenRaster specification, drafts 0.0.1 to 0.0.6 (freedesktop.org): file layout and layer stack.
"""

import dataclasses
import io
import unittest
import zipfile

import numpy as np
from PIL import Image
from pyora import Project

from gray_quill.core.errors import TooLarge
from gray_quill.core.ink.layer import Layer, Placed
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.view import page_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import make_trace
from gray_quill.formats.openraster import write_openraster

PAPER = paper_from_spec("ruled 7mm A6 cream")
DPI = 96.0
ROUGH = Layer("rough", "rough", opacity=0.4)
LINES = Layer("lines", "lines & words")
SHADE = Layer("shade", "shading", opacity=0.8, blend="multiply")


def line(pen: str, y: float, layer: Layer, below: int, slope: float = 0.0) -> Ink:
    trace = make_trace([0, 0.3, 0.6], [15, 50, 85], [y, y + slope, y], [0.4, 0.7, 0.5])
    (ink,) = settle_all([trace], SHIPPED_PENS[pen])
    return dataclasses.replace(ink, on=Placed(layer, below))


INKS = [
    line("reed-ballpoint", 20, ROUGH, 0, 4),
    line("dusk-wash", 60, LINES, 1),
    line("fen-fountain", 60, LINES, 1, 3),
    line("survey-marker", 25, SHADE, 2, -8),
]


class Files(unittest.TestCase):
    def test_an_independent_reader_finds_layers_and_the_same_picture(self) -> None:
        data = write_openraster(INKS, PAPER, DPI, True, 'Sedge "hollow" & <trap>')
        self.assertEqual((data[8:10], data[30:54]), (b"\0\0", b"mimetypeimage/openraster"), "first, and stored")
        read = Project.load(io.BytesIO(data))
        view = page_view(PAPER, DPI)
        self.assertEqual(read.dimensions, (view.width_px, view.height_px))
        layers = {layer.name: layer for layer in read.children_recursive}
        self.assertEqual(
            [layer.name for layer in read.children_recursive],
            ["shading", "lines & words", "lines & words, washes", "rough", "paper"],
            "from top to bottom",
        )
        told = {name: (layer.opacity, layer.composite_op) for name, layer in layers.items()}
        self.assertEqual(told["rough"], (0.4, "svg:src-over"))
        self.assertEqual(told["shading"], (0.8, "svg:multiply"))
        self.assertEqual(told["lines & words, washes"], (1.0, "svg:multiply"))
        left, top = layers["rough"].offsets
        pixels = np.asarray(layers["rough"].get_image_data())
        rows, columns = (np.flatnonzero(pixels[..., 3].any(axis=k)) for k in (1, 0))
        scale = view.px_per_mm
        self.assertAlmostEqual((left + columns[0]) / scale, 15 - 0.25, delta=0.5)
        self.assertAlmostEqual((top + rows[0]) / scale, 20 - 0.25, delta=0.5)
        page = page_pixels(INKS, PAPER, view)
        merged = np.asarray(read.get_image_data().convert("RGB")).astype(int)
        off = np.abs(merged - page)
        self.assertLessEqual(int(off.max()), 4, "rounded to bytes once a layer")
        self.assertLess(float((off > 2).mean()), 0.002)
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            kept = np.asarray(Image.open(io.BytesIO(file.read("mergedimage.png"))).convert("RGB"))
            small = Image.open(io.BytesIO(file.read("Thumbnails/thumbnail.png")))
        np.testing.assert_array_equal(kept, page, "the merged picture is the page itself")
        self.assertEqual(max(small.size), 256)
        self.assertEqual(write_openraster(INKS, PAPER, DPI, True, 'Sedge "hollow" & <trap>'), data, "twice the same")

    def test_a_clip_is_in_its_picture_and_what_is_too_large_is_refused(self) -> None:
        clipped = dataclasses.replace(SHADE, clipped=True, blend="normal", opacity=0.5)
        inks = [*INKS[:3], line("survey-marker", 60, clipped, 2)]
        read = Project.load(io.BytesIO(write_openraster(inks, PAPER, DPI, True, "x")))
        page = page_pixels(inks, PAPER, page_view(PAPER, DPI))
        off = np.abs(np.asarray(read.get_image_data().convert("RGB")).astype(int) - page)
        self.assertLessEqual(int(off.max()), 4)
        with self.assertRaises(TooLarge):
            write_openraster(INKS, paper_from_spec("ruled A3"), 2400, True, "x")


if __name__ == "__main__":
    unittest.main()
