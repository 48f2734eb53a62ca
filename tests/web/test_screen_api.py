"""The screen in front of the user over the API: what an eye sees, settings that match, and the record made of it."""

import io

import numpy as np
from PIL import Image

from tests.web.api_case import STROKE, ApiCase


class ThisScreen(ApiCase):
    def test_looks_lead_on_and_the_same_seed_shows_the_same(self) -> None:
        ask = {"kind": "lines", "looks": [], "seed": 5}
        first, again = (self.ask("POST", "/api/screen/looks", ask).json for _ in range(2))
        self.assertEqual(first, again)
        looks: list[dict[str, object]] = []
        for _ in range(20):
            now = self.ask("POST", "/api/screen/looks", {**ask, "looks": looks}).json
            looks.append({"level": now["found"]["level"], "right": now["found"]["level"] >= 3})
        found = self.ask("POST", "/api/screen/looks", {**ask, "looks": looks}).json["found"]
        self.assertTrue(1.5 < found["value"] < 4.5 and found["low"] < found["value"] < found["high"], found)
        picks = {
            self.ask("POST", "/api/screen/looks", {**ask, "looks": looks[:n], "seed": 6}).json["pick"]
            for n in range(12)
        }
        self.assertGreater(len(picks), 2, "the right one is not always the same")

    def test_small_writing_is_a_picture_of_that_size(self) -> None:
        ask = {"word": "moor", "x_height_mm": 2, "px_per_mm": 10}
        sizes = []
        for height in (2, 1):
            made = self.client.post("/api/screen/word", json={**ask, "x_height_mm": height})
            picture = np.asarray(Image.open(io.BytesIO(made.data)))
            self.assertLess(int(picture.min()), 60)
            sizes.append(picture.shape[1])
        self.assertAlmostEqual(sizes[0] / sizes[1], 2, delta=0.3)

    def test_what_was_seen_writes_the_record(self) -> None:
        seen = {"value": 12.0, "low": 9.0, "high": 19.0}
        screen = {"kind": "e-paper", "width_px": 1400, "height_px": 1800, "ppi": 220, "refresh_hz": 4}
        body = {
            "name": "Slate",
            "like": "paper-slate-10",
            "ink": {"seen": {"strokes": [STROKE_COLUMNS] * 3}},
            "screen": {
                **screen,
                "greys": 256,
                "colour": False,
                "by_eye": {
                    "greys": seen,
                    "ghost": {"value": 0.09, "low": 0.08, "high": 0.1},
                    "response": {"value": 42.0, "low": 30.0, "high": 50.0},
                },
            },
        }
        made = self.ask("POST", "/api/devices", body).json["device"]
        self.assertEqual((made["panel"]["greys"], made["updates"]["fast_ms"]), (16, 84.0))
        self.assertAlmostEqual(made["updates"]["grey_ghost"], 0.09 / made["updates"]["lighter"])
        self.assertEqual(made["by_eye"]["greys"], seen)
        self.assertIsNone(made["by_eye"]["lines"]["value"])

    def test_bad_answers_are_refused_in_words(self) -> None:
        for path, body, status, words in (
            ("looks", {"kind": "smells", "looks": []}, 400, "smells"),
            ("looks", {"kind": "print", "looks": [{"level": 0, "right": True}]}, 400, "level"),
            ("looks", {"kind": "print", "looks": [{"level": 1, "right": True}] * 500}, 422, "looks"),
            ("matches", {"settings": [-1]}, 422, "settings"),
            ("word", {"word": "", "x_height_mm": 1, "px_per_mm": 9}, 422, "word"),
            ("word", {"word": "moor", "x_height_mm": 99, "px_per_mm": 9}, 422, "x_height_mm"),
        ):
            reply = self.client.post(f"/api/screen/{path}", json=body)
            self.assertEqual(reply.status_code, status, (path, body))
            self.assertIn(words, str(reply.json["error"]))


STROKE_COLUMNS = {
    **{key: STROKE[key] for key in ("t_ms", "x_mm", "y_mm", "force")},
    "t_ms": [5.0 * k for k in range(60)],
    "x_mm": [10 + 0.3 * k for k in range(60)],
    "y_mm": [20 + 0.05 * k for k in range(60)],
    "force": [0.3 + 0.002 * k for k in range(60)],
}
