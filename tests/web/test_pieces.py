"""Pieces over the API: the starting set in the axes' units, own ones kept, found, put down and binned."""

import math

import numpy as np

from gray_quill.core.hand.pieces import PIECES, UNIT_MM
from tests.web.api_case import STROKE, ApiCase


class PiecesApi(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        self.sheet = f"pieces-{self._testMethodName[-12:]}".replace("_", "-")
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": "Pieces", "paper": "blank A5", **of})

    def test_every_starter_is_drawn_with_the_pen_where_it_is_asked_for(self) -> None:
        told = {p["name"]: p for p in self.ask("GET", "/api/pieces").json["starters"]}
        self.assertEqual(list(told), list(PIECES))
        for name, piece in PIECES.items():
            done = self.ask("POST", f"/api/sheets/{self.sheet}/pieces", {"name": name, "x_mm": 74, "y_mm": 100})
            self.assertEqual([a["state"] for a in done.json["answers"]], ["kept"] * len(piece.ways), name)
            left, top, right, bottom = done.json["box_mm"]
            self.assertTrue(left < 74 < right and top < 100 + 6 and bottom > 100 - 6, name)
        stroke = self.strokes(self.sheet)[0]
        self.assertEqual((stroke.pen_id, stroke.revision), ("reed-ballpoint", 1))

    def test_curves_fit_the_units_of_the_axes(self) -> None:
        for name, value in (
            ("parabola", lambda x: x * x / 2),
            ("sine", lambda x: np.sin(math.pi * x / 1.25)),
            ("exponential", lambda x: 2**x / 4),
            ("bell", lambda x: 2 * np.exp(-x * x / 2)),
        ):
            (way,) = PIECES[name].ways
            np.testing.assert_allclose(-way[:, 1] / UNIT_MM, value(way[:, 0] / UNIT_MM), atol=1e-9, err_msg=name)
        ticks = [w for w in PIECES["axes"].ways if len(w) == 2 and abs(w[0, 0]) == 1]
        self.assertEqual(sorted(round(-w[0, 1] / UNIT_MM) for w in ticks), [-2, -1, 1, 2])

    def test_ink_is_kept_as_a_piece_and_comes_back_as_it_was(self) -> None:
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [STROKE | {"id": f"{self.sheet}-a"}]})
        kept = self.ask("POST", "/api/pieces", {"name": "Tick", "sheet_id": self.sheet, "ids": [f"{self.sheet}-a"]})
        self.assertEqual(kept.status_code, 201)
        piece = kept.json["id"]
        own = [p["id"] for p in self.ask("GET", "/api/pieces").json["own"]]
        self.assertIn(piece, own)
        self.assertNotIn(piece, [s["id"] for s in self.ask("GET", "/api/desk").json["sheets"]])
        ids = self.ask("GET", f"/api/sheets/{piece}").json["stroke_ids"]
        body = {"ids": ids, "placement": [1, 0, 0, 1, 40, 60, 0, 0], "copy_ink": True, "to_sheet": self.sheet}
        put = self.ask("POST", f"/api/sheets/{piece}/strokes/place", body)
        self.assertEqual(put.status_code, 200)
        paths = {
            s["id"]: s["path"] for s in self.ask("POST", f"/api/sheets/{self.sheet}/strokes/like", {}).json["strokes"]
        }
        one, other = np.array(paths[f"{self.sheet}-a"]), np.array(paths[put.json["back"][0]])
        apart = other - one
        self.assertLess(float(np.ptp(apart, axis=0).max()), 0.02, "the same ink, elsewhere")
        self.ask("PUT", f"/api/sheets/{piece}/bin", {"binned": True})
        self.assertNotIn(piece, [p["id"] for p in self.ask("GET", "/api/pieces").json["own"]])
        for path, bad in (
            (f"/api/sheets/{self.sheet}/pieces", {"name": "dragon", "x_mm": 1, "y_mm": 1}),
            ("/api/pieces", {"name": "None", "sheet_id": self.sheet, "ids": ["nobody"]}),
        ):
            self.assertEqual(self.ask("POST", path, bad).status_code, 404)
