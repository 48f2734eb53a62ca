"""SVG, tables and OpenRaster from outside: what becomes ink or pictures, what is passed over, what is refused."""

import io
import time
import unittest
import zipfile

import numpy as np
from PIL import Image

from gray_quill.core.errors import GrayQuillError
from gray_quill.formats.openraster_in import read_openraster
from gray_quill.formats.strokes_csv import look_at_csv, read_strokes_csv
from gray_quill.formats.svg_in import read_svg
from tests.bombs import nested_uses

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 200 100"'


def svg(inside: str, more: str = "") -> bytes:
    return f"{HEAD} {more}>{inside}</svg>".encode()


def ora(layers: str, pictures: dict[str, bytes], mime: str = "image/openraster") -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        file.writestr("mimetype", mime)
        file.writestr("stack.xml", f'<image w="200" h="100" xres="254"><stack>{layers}</stack></image>')
        for name, data in pictures.items():
            file.writestr(name, data)
    return out.getvalue()


def png(size: tuple[int, int] = (20, 10)) -> bytes:
    out = io.BytesIO()
    Image.new("RGBA", size, (200, 0, 0, 255)).save(out, "PNG")
    return out.getvalue()


class Svg(unittest.TestCase):
    def test_shapes_become_strokes_in_true_millimetres(self) -> None:
        inside = (
            '<g transform="translate(20 0)"><path d="M0 0L40 0L40 30"/></g>'
            '<circle cx="100" cy="50" r="20"/><path d="M10 80 C 30 40 60 40 80 80 M120 90 h 30"/>'
        )
        traces = read_svg(svg(inside)).traces
        self.assertEqual(len(traces), 4, "a path that is lifted on its way is two strokes")
        corner, ring, wave, dash = traces
        np.testing.assert_allclose(corner.xy_mm, [(10, 0), (30, 0), (30, 15)], atol=1e-3)
        away = np.hypot(ring.x_mm - 50, ring.y_mm - 25)
        np.testing.assert_allclose(away, 10, atol=0.01)
        self.assertAlmostEqual(float(wave.y_mm.min()), 25, delta=0.1)  # of a cubic, 3/4 of the way to its handles
        self.assertAlmostEqual(float(np.ptp(dash.x_mm)), 15, places=3)
        for trace in traces:
            speed = np.hypot(np.diff(trace.x_mm), np.diff(trace.y_mm)) / np.diff(trace.t_s)
            np.testing.assert_allclose(speed, 60, rtol=1e-6)
            self.assertIn("force", trace.absent)

    def test_what_is_not_understood_is_named(self) -> None:
        came = read_svg(svg('<path d="M0 0h9"/><text x="1" y="2">moth</text><text>fen</text><foreignObject/>'))
        self.assertEqual(sorted(came.passed_over), ["1 <foreignObject>", "2 <text>"])

    def test_hostile_ones_are_refused_soon(self) -> None:
        nested = "<g>" * 60 + "</g>" * 60
        cases = [
            (b'<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>', "entities"),
            (svg('<image href="http://elsewhere.example/x.png"/>'), "links"),
            (svg('<use xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="other.svg#a"/>'), "links"),
            (svg('<path style="fill:url(file:///etc/passwd)" d="M0 0h1"/>'), "links"),
            (svg(nested), "40 deep"),
            (svg(nested_uses()), "repeats"),
            (svg("<text>only words</text>"), "no line"),
            (b"<ink/>", "not SVG"),
            (b"moths", "not well-formed"),
            (svg('<path d="' + "M0 0L1 1" * 400_000 + '"/>'), "parts"),
        ]
        for data, words in cases:
            begun = time.process_time()
            with self.assertRaisesRegex(GrayQuillError, words):
                read_svg(data)
            self.assertLess(time.process_time() - begun, 2.0, words)


class Tables(unittest.TestCase):
    HERE = "stroke,t_ms,x_mm,y_mm,force,note\na,0,10,20,0.2,x\na,10,11,20,0.4,x\nb,0,30,40,0.5,y\nb,20,31,42,0.5,y\n"

    def test_columns_are_guessed_by_their_names_and_shown_before_they_are_taken(self) -> None:
        look = look_at_csv(self.HERE.encode())
        self.assertEqual(
            [look.roles[r] for r in ("stroke", "t", "x", "y", "force")], ["stroke", "t_ms", "x_mm", "y_mm", "force"]
        )
        self.assertEqual((look.length_unit, look.time_unit, look.rows, look.strokes), ("mm", "ms", 4, 2))
        self.assertEqual(look.passed_over, ["column 'note'"])
        other = look_at_csv(b"time_s;posX;posY;pressure\n0;1;2;512\n0.01;2;2;1024\n")
        self.assertEqual((other.roles["x"], other.roles["force"], other.time_unit), ("posX", "pressure", "s"))
        bare = look_at_csv(b"1,2\n3,4\n")
        self.assertEqual((bare.columns, bare.roles["x"]), (["column 1", "column 2"], "column 1"))

    def test_strokes_come_in_the_units_that_are_said(self) -> None:
        roles = dict(look_at_csv(self.HERE.encode()).roles)
        one, two = read_strokes_csv(self.HERE.encode(), roles, "mm", "ms")
        self.assertEqual((one.x_mm.tolist(), one.t_s.tolist(), one.force.tolist()), ([10, 11], [0, 0.01], [0.2, 0.4]))
        self.assertEqual(two.y_mm.tolist(), [40, 42])
        inch = read_strokes_csv(self.HERE.encode(), roles, "in", "s")[0]
        self.assertEqual((inch.x_mm.tolist(), inch.t_s.tolist()), ([254, 279.4], [0, 10]))
        pauses = b"t_ms,x,y\n0,1,1\n10,2,2\n900,5,5\n910,6,6\n"
        self.assertEqual(len(read_strokes_csv(pauses, look_at_csv(pauses).roles, "mm", "ms")), 2)
        raw = read_strokes_csv(b"x,y,p\n1,1,512\n2,2,1024\n", {"x": "x", "y": "y", "force": "p"}, "mm", "ms")[0]
        self.assertEqual(raw.force.tolist(), [0.5, 1.0])

    def test_what_cannot_be_taken_says_which_row_and_why(self) -> None:
        good = {"x": "x", "y": "y"}
        for data, roles, words in (
            (b"x,y\n1,2\n1,moth\n", good, "Row 3, column 'y': 'moth'"),
            (b"x,y\n1,2\n1,nan\n", good, "finite"),
            (b"x,y\n1,2,3\n", good, "Row 2 .* has 3 columns"),
            (b"x,x\n1,2\n", good, "one name"),
            (b"x,y\n1,2\n", {"x": "x", "y": "z"}, "no column 'z'"),
            (b"x,y\n1,2\n", {"x": "x"}, "which columns"),
            (b"x\n1\n", good, "columns"),
            (b"\xff\xfe\x00", good, "UTF-8"),
            (b"", good, "table|columns"),
            (b"x,y\n" + b"1,2\n" * 1_000_000, good, "over 400000 rows"),
        ):
            begun = time.process_time()
            with self.assertRaisesRegex(GrayQuillError, words):
                read_strokes_csv(data, roles, "mm", "ms")
            self.assertLess(time.process_time() - begun, 2.0)


class OpenRaster(unittest.TestCase):
    def test_layers_come_lowest_first_with_their_places_and_opacity(self) -> None:
        layers = (
            '<layer name="top" src="data/b.png" x="30" y="40" opacity="0.5" composite-op="svg:multiply"/>'
            '<layer name="gone" src="data/b.png" visibility="hidden"/><layer name="low" src="data/a.png" x="5"/>'
        )
        came = read_openraster(ora(layers, {"data/a.png": png(), "data/b.png": png((8, 8))}))
        told = [(layer.name, layer.left_px, layer.top_px, layer.opacity) for layer in came.layers]
        self.assertEqual(told, [("low", 5, 0, 1.0), ("top", 30, 40, 0.5)])
        self.assertEqual((came.width_px, came.dpi), (200, 254))
        self.assertEqual(len(came.passed_over), 2, came.passed_over)

    def test_others_are_refused(self) -> None:
        layer = '<layer src="data/a.png"/>'
        for data, words in (
            (b"no zip", "damaged"),
            (ora(layer, {}), "cannot be read"),
            (ora(layer, {"data/a.png": png()}, "application/zip"), "no OpenRaster"),
            (ora("", {}), "no layer"),
            (ora('<layer src="../../etc/passwd"/>', {}), "cannot be read"),
            (ora(layer * 20, {"data/a.png": png()}), "20 layers"),
        ):
            self.assertRaisesRegex(GrayQuillError, words, read_openraster, data)
