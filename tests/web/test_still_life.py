"""A still life of two tones, drawn over in three layers: proofed on panels, sent out, and panel look and file compared
square by square with arrays of the test's own.
"""

import base64
import io

import numpy as np
from PIL import Image
from shapely import LineString, Point, Polygon, affinity, box

from gray_quill.core.colour.difference import lab
from tests.web.api_case import ApiCase

WIDE, HIGH = 148.0, 210.0  # A5
JAR = affinity.scale(Point(50, 90).buffer(1, 64), 22, 34)
FRUIT = affinity.scale(Point(100, 108).buffer(1, 64), 17, 17)
TABLE = box(10, 124, 138, 150)
LIT = Polygon([(0, 0), (56, 0), (44, 210), (0, 210)])  # light comes from the left
DARK = [
    JAR.difference(LIT),
    FRUIT.difference(affinity.translate(FRUIT, -9, -5)),
    TABLE.difference(JAR).difference(FRUIT),
]
LAYERS = [
    {"id": "first", "name": "rough", "opacity": 0.4},
    {"id": "lines", "name": "lines"},
    {"id": "shading", "name": "shading", "blend": "multiply"},
]
SQUARE_MM = 2.0


def hatching(shape, pitch_mm: float) -> list[np.ndarray]:  # type: ignore[no-untyped-def]
    """Slanting lines inside a shape."""
    found = []
    for at in np.arange(-HIGH, WIDE + HIGH, pitch_mm):
        cut = shape.intersection(LineString([(at, 0), (at + HIGH, HIGH)]))
        parts = getattr(cut, "geoms", [cut])
        found += [np.array(part.coords) for part in parts if part.length > 1]
    return found


def squares(picture: np.ndarray) -> np.ndarray:
    """L* of the mean light of squares of a page, each channel alike."""
    light = np.where(picture <= 10.31475, picture / 255 / 12.92, ((picture / 255 + 0.055) / 1.055) ** 2.4)
    grey = light @ (0.2126, 0.7152, 0.0722)
    rows, columns = (
        np.linspace(0, n, round(mm / SQUARE_MM) + 1).astype(int) for n, mm in zip(grey.shape, (HIGH, WIDE), strict=True)
    )
    sums = np.add.reduceat(np.add.reduceat(grey, rows[:-1], axis=0), columns[:-1], axis=1)
    mean = sums / np.outer(np.diff(rows), np.diff(columns))
    return 116 * np.cbrt(mean) - 16


class StillLife(ApiCase):
    def draw(self) -> None:
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": "still", "name": "Still life", "paper": "blank A5 white", **of})
        self.ask("PUT", "/api/sheets/still/layers", {"layers": LAYERS, "on": "first"})
        rough = [np.array(shape.buffer(1.5).exterior.coords)[::4] for shape in (JAR, FRUIT)]
        lines = [np.array(shape.exterior.coords)[::2] for shape in (JAR, FRUIT, TABLE)]
        shading = [way for shape in DARK for way in hatching(shape, 0.9)]
        for layer, pen, ways in (
            ("first", "moth-pencil-2b", rough),
            ("lines", "fen-fountain", lines),
            ("shading", "reed-ballpoint", shading),
        ):
            strokes = [
                {
                    "id": f"{layer}-{k}",
                    "pen_id": pen,
                    "revision": 1,
                    "layer": layer,
                    "t_ms": [round(float(v), 2) for v in 12.0 * np.arange(len(way))],
                    "x_mm": way[:, 0].tolist(),
                    "y_mm": way[:, 1].tolist(),
                    "force": [0.6] * len(way),
                }
                for k, way in enumerate(ways)
            ]
            for at in range(0, len(strokes), 200):
                reply = self.ask("POST", "/api/sheets/still/strokes", {"strokes": strokes[at : at + 200]})
                self.assertEqual(reply.status_code, 200, reply.json)
        held = self.ask("GET", "/api/sheets/still/layers").json["held"]
        self.assertEqual(set(held), {"first", "lines", "shading"})

    def test_panel_look_and_file_agree_and_keep_its_two_tones(self) -> None:
        self.draw()
        data = self.client.get("/api/sheets/still/file?form=png&dpi=300").data
        sent = squares(np.asarray(Image.open(io.BytesIO(data)).convert("RGB"), float))
        centres = [
            (SQUARE_MM * (i + 0.5), SQUARE_MM * (j + 0.5)) for j in range(sent.shape[0]) for i in range(sent.shape[1])
        ]
        inside = np.array([any(d.buffer(-1.5).contains(Point(c)) for d in DARK) for c in centres]).reshape(sent.shape)
        drawn = JAR.union(FRUIT).union(TABLE).buffer(4)
        outside = np.array([not drawn.contains(Point(c)) for c in centres]).reshape(sent.shape)
        self.assertGreater(inside.sum(), 300)
        for device, toning in (("paper-slate-10", {}), ("paper-pad-8", {"dither": "floyd-steinberg"})):
            asked = {"sheet_id": "still", "device_id": device, "toning": toning}
            proof = self.ask("POST", "/api/panels/proof", asked).json
            self.assertIn("rough", proof["layers"])
            image = Image.open(io.BytesIO(base64.b64decode(proof["image"].split(",")[1]))).convert("RGB")
            shown = squares(np.asarray(image, float))
            for look in (shown, sent):
                self.assertGreater(float(look[outside].mean() - look[inside].mean()), 25, "two tones")
                self.assertLess(float(look[inside].std()), 3)
            own = float(np.abs(shown - sent)[~outside].mean())
            self.assertLess(own, 1.0, device)
            told = self.ask("POST", "/api/panels/exports", asked).json["looks"]
            at_300 = next(look for look in told if look["dpi"] == 300)
            self.assertLess(at_300["apart_l"], 2.5, "of smaller squares, which differ more")
            self.assertGreater(at_300["apart_l"], own * 0.5)
        self.assertAlmostEqual(float(lab(np.full(3, 255.0))[0]), float(sent[outside].max()), delta=0.01)
