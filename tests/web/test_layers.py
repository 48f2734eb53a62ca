"""Layers, locks, groups and order over the API: what they hold back, and that each change can be taken back."""

import itertools
from typing import Any

import numpy as np

from gray_quill.formats.png import read_png
from tests.web.api_case import STROKE, ApiCase

LAYERS = [{"id": "first", "name": "rough"}, {"id": "top", "name": "lines"}]


class LayersApi(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"layered-{next(self.number)}"
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": "Layered", "paper": "dotted A5", **of})
        self.path = f"/api/sheets/{self.sheet}"
        self.write("old", 60)

    def page(self) -> np.ndarray:
        return read_png(self.client.get(f"{self.path}/page.png?scale=3").data)

    def put(self, path: str, body: object) -> Any:
        reply = self.ask("PUT", f"{self.path}{path}", body)
        self.assertEqual(reply.status_code, 200, reply.get_json())
        return reply.get_json()

    def write(self, name: str, y: float, **more: object) -> str:
        stroke = STROKE | {"id": f"{self.sheet}-{name}", "x_mm": [20, 60, 100], "y_mm": [y, y + 1, y]} | more
        self.ask("POST", f"{self.path}/strokes", {"strokes": [stroke]})
        return str(stroke["id"])

    def held(self) -> dict[str, int]:
        return dict(self.ask("GET", f"{self.path}/layers").get_json()["held"])

    def test_new_ink_lies_on_the_layer_in_use_and_a_merge_is_taken_back(self) -> None:
        plain = self.page()
        count = self.held()["first"]
        self.put("/layers", {"layers": LAYERS, "on": "top"})
        np.testing.assert_array_equal(self.page(), plain)
        self.write("a", 150)
        self.write("b", 152, layer="first")
        self.write("c", 154, layer="gone")
        self.assertEqual(self.held(), {"first": count + 1, "top": 2})
        shown = self.page()
        merged = self.put("/layers", {"layers": LAYERS[:1], "on": "first"})
        self.assertEqual(self.held(), {"first": count + 3})
        self.put("/layers", {k: merged["was"][k] for k in ("layers", "on", "moved")})
        self.assertEqual(self.held(), {"first": count + 1, "top": 2})
        np.testing.assert_array_equal(self.page(), shown)

    def test_hidden_ink_is_seen_nowhere_and_comes_back(self) -> None:
        self.put("/layers", {"layers": LAYERS, "on": "top"})
        without = self.page()
        ink = self.write("a", 150)
        shown = self.page()
        self.assertFalse(np.array_equal(shown, without))
        hidden = [LAYERS[0], LAYERS[1] | {"shown": False}]
        self.put("/layers", {"layers": hidden, "on": "first"})
        np.testing.assert_array_equal(self.page(), without)
        read = self.client.get(f"{self.path}/readings?of=all").get_json()
        self.assertEqual(read["layers"], "on rough; lines is hidden", "what is hidden is not read, and that is said")
        asked = {"sheet_id": self.path.split("/")[-1], "device_id": "paper-slate-10"}
        self.assertEqual(self.ask("POST", "/api/panels/proof", asked).get_json()["layers"], read["layers"])
        self.assertNotIn("M20.", self.client.get(f"{self.path}/file?form=svg").get_data(as_text=True)[-400:])
        way = {"way": [[60, 148], [60, 156]]}
        self.assertEqual(self.ask("POST", f"{self.path}/strokes/met", way).get_json()["strokes"], [])
        self.assertEqual(self.ask("POST", f"{self.path}/rub", way | {"radius_mm": 2}).get_json()["away"], [])
        self.put("/layers", {"layers": LAYERS, "on": "first"})
        self.assertEqual(
            [s["id"] for s in self.ask("POST", f"{self.path}/strokes/met", way).get_json()["strokes"]], [ink]
        )
        rub = self.ask("POST", f"{self.path}/rub", way | {"radius_mm": 2, "layers": "this"}).get_json()
        self.assertEqual(rub["away"], [], "it lies on another layer than this")

    def test_locked_ink_is_left_alone_unless_a_switch_says_so(self) -> None:
        ink = self.write("a", 150)
        was = self.put("/strokes/arrange", {"locked": {ink: True}})["was"]
        way = {"way": [[60, 148], [60, 156]]}
        self.assertEqual(self.ask("POST", f"{self.path}/strokes/met", way).get_json()["strokes"], [])
        too = self.ask("POST", f"{self.path}/strokes/met", way | {"locked_too": True}).get_json()["strokes"]
        self.assertEqual([s["id"] for s in too], [ink])
        self.assertEqual(self.ask("POST", f"{self.path}/rub", way | {"radius_mm": 2}).get_json()["away"], [])
        move = {"ids": [ink], "placement": [1, 0, 0, 1, 3, 3, 0, 0]}
        refused = self.ask("POST", f"{self.path}/strokes/place", move)
        self.assertEqual((refused.status_code, "Unlock" in refused.get_json()["error"]["message"]), (400, True))
        self.put("/strokes/arrange", was)
        self.assertEqual(self.ask("POST", f"{self.path}/strokes/place", move).status_code, 200)

    def test_one_of_a_group_chooses_all_of_it_and_order_is_what_is_seen(self) -> None:
        one, other = self.write("a", 150), self.write("b", 158, pen_id="survey-marker")
        self.put("/strokes/arrange", {"grouped": {one: "g", other: "g"}})
        way = {"way": [[60, 148], [60, 152]]}
        met = self.ask("POST", f"{self.path}/strokes/met", way).get_json()["strokes"]
        self.assertEqual({s["id"] for s in met}, {one, other})
        self.write("c", 150, pen_id="survey-marker")
        before = self.page()
        was = self.put("/strokes/arrange", {"ids": [one], "to_end": "front"})["was"]
        self.assertFalse(np.array_equal(self.page(), before))
        self.put("/strokes/arrange", was)
        np.testing.assert_array_equal(self.page(), before)

    def test_a_ring_takes_what_lies_wholly_inside(self) -> None:
        one = self.write("a", 150)
        ring = [[15, 146], [105, 146], [105, 155], [15, 155]]
        short = [[15, 146], [80, 146], [80, 155], [15, 155]]
        for way, found in ((ring, [one]), (short, [])):
            met = self.ask("POST", f"{self.path}/strokes/met", {"way": way, "takes": "inside"}).get_json()["strokes"]
            self.assertEqual([s["id"] for s in met], found)

    def test_what_cannot_be_is_refused_and_changes_nothing(self) -> None:
        before = self.client.get(self.path).get_json()["sheet"]["layers"]
        twice = [{"id": "a", "name": "a"}] * 2
        for body in (
            {"layers": [], "on": "first"},
            {"layers": twice, "on": "a"},
            {"layers": LAYERS, "on": "nowhere"},
            {"layers": [LAYERS[0] | {"shown": False}, LAYERS[1]], "on": "first"},
            {"layers": [LAYERS[0] | {"locked": True}], "on": "first"},
            {"layers": [{"id": f"l{k}", "name": "l"} for k in range(13)], "on": "l0"},
            {"layers": LAYERS, "on": "top", "moved": {"top": ["no-such"]}},
            {"layers": [LAYERS[0] | {"opacity": 2}], "on": "first"},
        ):
            reply = self.ask("PUT", f"{self.path}/layers", body)
            self.assertIn(reply.status_code, (400, 404, 422), body)
        self.assertEqual(
            self.ask("PUT", f"{self.path}/strokes/arrange", {"locked": {"no-such": True}}).status_code, 404
        )
        self.assertEqual(self.client.get(self.path).get_json()["sheet"]["layers"], before)
