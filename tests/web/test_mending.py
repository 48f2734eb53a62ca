"""Mending over the API: what is rubbed, moved or copied, what takes it back, and what is refused."""

import io
import itertools
import json
import unittest
from typing import Any

import numpy as np
from PIL import Image

from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.store.database import connect
from tests.web.api_case import ApiCase


class Mending(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"mend-{next(self.number)}"
        self.ask(
            "POST",
            "/api/sheets",
            {
                "id": self.sheet,
                "name": "Mend",
                "paper": "blank A6",
                "hand_id": "right-firm",
                "device_id": "tablet-11",
                "pen_id": "reed-ballpoint",
            },
        )
        self.upper, self.lower, self.wash = (f"{self.sheet}-{n}" for n in ("upper", "lower", "wash"))
        lines = {self.upper: ("reed-ballpoint", 30), self.lower: ("reed-ballpoint", 60), self.wash: ("dusk-wash", 30)}
        strokes = [
            {"id": name, "pen_id": pen, "revision": 1, "t_ms": [0, 300, 600], "x_mm": [20, 40, 60], "y_mm": [y, y, y]}
            for name, (pen, y) in lines.items()
        ]
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": strokes})

    def ids(self, sheet: str = "") -> list[str]:
        return list(self.ask("GET", f"/api/sheets/{sheet or self.sheet}").json["stroke_ids"])

    def pixels(self) -> np.ndarray:
        answer = self.ask("GET", f"/api/sheets/{self.sheet}/page.png?scale=4")
        return np.asarray(Image.open(io.BytesIO(answer.data)).convert("L")).astype(int)

    def rub(self, way: list[list[float]], **how: Any) -> dict[str, Any]:
        answer = self.ask("POST", f"/api/sheets/{self.sheet}/rub", {"way": way, "radius_mm": 1.5, **how})
        self.assertEqual(answer.status_code, 200, answer.data)
        return dict(answer.json)

    def swap(self, done: dict[str, Any], undo: bool = True) -> None:
        away, back = done["away"], done["back"]
        body = {"away": back, "back": away} if undo else {"away": away, "back": back}
        self.assertEqual(self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/swap", body).status_code, 200)

    def test_some_ink_comes_out_as_a_picture_of_its_own_size(self) -> None:
        path = f"/api/sheets/{self.sheet}/strokes/file"
        picture = Image.open(io.BytesIO(self.ask("POST", path, {"ids": [self.upper], "form": "png", "dpi": 254}).data))
        self.assertEqual(picture.mode, "RGBA")
        self.assertAlmostEqual(picture.width / 10, 40 + 0.4 + 1, delta=0.5)
        self.assertLess(picture.height, 25)
        alpha = np.asarray(picture)[..., 3]
        self.assertTrue(alpha[len(alpha) // 2, 20:-20].min() == 255 and alpha[0].max() == 0)
        text = self.ask("POST", path, {"ids": [self.upper], "form": "svg"}).get_data(as_text=True)
        self.assertEqual((text.count("<path"), text.count("<rect")), (1, 0))
        self.assertEqual(self.ask("POST", path, {"ids": ["nobody"]}).status_code, 404)

    def test_an_inside_is_filled_goes_along_and_is_taken_back(self) -> None:
        before = self.pixels()
        body = {"ids": [self.upper], "fill": {"colour": "#aa3322", "opacity": 1}}
        filled = self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/fill", body).json
        self.assertEqual(filled["strokes"][0]["fill"], body["fill"])
        place = {"ids": filled["back"], "placement": [1, 0, 0, 1, 0, 20, 0, 0]}
        moved = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/place", place).json
        self.assertEqual(moved["strokes"][0]["fill"], body["fill"], "it goes along")
        self.swap(moved)
        self.swap(filled)
        np.testing.assert_array_equal(self.pixels(), before)
        for bad, status in (({"colour": "red"}, 422), ({"opacity": 7}, 422)):
            answer = self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/fill", {"ids": [self.upper], "fill": bad})
            self.assertIn(answer.status_code, (400, status), bad)

    def test_a_scribble_takes_what_lies_under_it_and_itself(self) -> None:
        n = 12
        x = [22.0 if k % 2 else 58.0 for k in range(n)]
        y = [27 + 6 * k / n for k in range(n)]
        times = [120 * k for k in range(n)]
        even = np.linspace(0, n - 1, 20 * n)
        stroke = {"id": f"{self.sheet}-scribble", "pen_id": "reed-ballpoint", "revision": 1}
        for name, values in (("t_ms", times), ("x_mm", x), ("y_mm", y)):
            stroke[name] = np.interp(even, range(n), values).tolist()
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stroke]})
        path = f"/api/sheets/{self.sheet}/strokes/{stroke['id']}/scribble"
        done = self.ask("POST", path).json
        self.assertEqual(set(done["away"]), {self.upper, self.wash, stroke["id"]})
        self.assertEqual(self.ids(), [self.lower])
        self.swap(done)
        self.assertEqual(len(self.ids()), 4)
        self.assertEqual(
            self.ask("POST", path.replace(str(stroke["id"]), self.lower)).json["away"], [], "a line is none"
        )

    def test_a_rub_cuts_what_it_may_and_undo_and_redo_give_each_picture_back(self) -> None:
        before = self.pixels()
        cut = self.rub([[40, 20], [40, 40]], of=["ink"])
        self.assertEqual((cut["away"], len(cut["back"])), ([self.upper], 2))
        after = self.pixels()
        self.assertEqual(len(self.ids()), 4)
        self.assertGreater(after[30 * 4, 40 * 4], before[30 * 4, 40 * 4])
        self.assertLess(after[30 * 4, 45 * 4], 120)
        self.swap(cut)
        np.testing.assert_array_equal(self.pixels(), before)
        self.swap(cut, undo=False)
        np.testing.assert_array_equal(self.pixels(), after)
        again = self.rub([[30, 28], [30, 32]], of=["ink"])  # a piece cut again
        self.assertEqual((len(again["away"]), len(again["back"])), (1, 2))
        self.swap(again)
        np.testing.assert_array_equal(self.pixels(), after)

    def test_whole_strokes_go_at_a_touch_and_washes_by_themselves(self) -> None:
        gone = self.rub([[25, 30]], takes="strokes", of=["washes"])
        self.assertEqual((gone["away"], gone["back"]), ([self.wash], []))
        self.assertEqual(self.rub([[25, 30]], takes="strokes", of=["washes"])["away"], [])
        self.assertEqual(self.rub([[90, 90]])["away"], [])
        ring: list[list[float]] = [[10, 55], [70, 55], [70, 65], [10, 65]]
        undone = self.rub(ring, takes="ringed")
        self.assertEqual(undone["away"], [self.lower], "the ring holds one, and touches none")
        self.swap(undone)
        self.assertEqual(set(self.rub([[25, 20], [25, 70]], takes="strokes")["away"]), {self.upper, self.lower})

    def test_ink_is_moved_scaled_and_copied_and_its_traces_stay(self) -> None:
        before = self.pixels()
        body = {"ids": [self.upper], "placement": [1, 0, 0, 1, 10, 50, 0, 0]}
        moved = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/place", body).json
        self.assertEqual(moved["strokes"][0]["path"][0], [30, 80])
        shown = self.pixels()
        self.assertLess(shown[80 * 4, 50 * 4], 120)
        back = self.ask(
            "POST",
            f"/api/sheets/{self.sheet}/strokes/place",
            {"ids": moved["back"], "placement": [1, 0, 0, 1, -10, -50, 0, 0]},
        ).json
        np.testing.assert_array_equal(self.pixels(), before)
        body = {"ids": back["back"], "placement": [0.5, 0, 0, 0.5, 0, 0, 0, 0], "copy_ink": True, "wider": False}
        self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/strokes/place", body).json["away"], [])
        self.assertEqual(len(self.ids()), 4)
        inkml = self.ask("GET", f"/api/sheets/{self.sheet}/file?form=inkml").data.decode()
        self.assertEqual(inkml.count("<trace "), 4)

    def test_ink_goes_to_another_sheet_and_back(self) -> None:
        before = self.pixels()
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        self.ask("POST", "/api/sheets", {"id": "other", "name": "Other", "paper": "blank A6", **like})
        place = "/api/sheets/{}/strokes/place"
        body = {"ids": [self.lower], "placement": [1, 0, 0, 1, 0, 0, 0, 0]}
        there = self.ask("POST", place.format(self.sheet), {**body, "to_sheet": "other"}).json
        self.assertEqual((len(self.ids()), self.ids("other")), (2, there["back"]))
        self.ask("POST", place.format("other"), {**body, "ids": there["back"], "to_sheet": self.sheet})
        np.testing.assert_array_equal(self.pixels(), before)

    def test_a_rough_circle_is_made_clean_and_undone_and_a_letter_is_not(self) -> None:
        t = np.linspace(0, 2 * np.pi, 60)
        rough = {"x_mm": (50 + 12 * np.cos(t) + 0.2 * np.sin(7 * t)).tolist(), "y_mm": (90 + 12 * np.sin(t)).tolist()}
        of = {"pen_id": "reed-ballpoint", "revision": 1, "t_ms": (t * 300).tolist()}
        round_id = f"{self.sheet}-round"
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [{"id": round_id, **of, **rough}]})
        way = list(zip(rough["x_mm"], rough["y_mm"], strict=True))
        self.assertEqual(self.ask("POST", "/api/figure", {"way": way}).json["figure"]["kind"], "circle")
        before = self.pixels()
        done = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/{round_id}/figure", {}).json
        self.assertEqual((done["away"], len(done["back"])), ([round_id], 1))
        self.assertGreater(int(np.abs(self.pixels() - before).max()), 60)
        cut = self.rub([[62, 80], [62, 100]])  # what was made clean is cut like any ink
        self.assertEqual((cut["away"], len(cut["back"])), (done["back"], 1))
        self.swap(cut)
        self.swap(done)
        np.testing.assert_array_equal(self.pixels(), before)
        self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/strokes/nobody/figure", {}).status_code, 404)
        self.assertIsNone(self.ask("POST", "/api/figure", {"way": [[0, 0], [3, 1], [1, 2]]}).json["figure"])

    def test_a_figure_is_sized_as_it_is_drawn_and_one_of_its_corners_taken_elsewhere(self) -> None:
        path = f"/api/sheets/{self.sheet}/strokes/{{}}/figure"
        way = {"x_mm": np.linspace(20, 60, 50).tolist(), "y_mm": [100.0] * 50}
        of = {"pen_id": "reed-ballpoint", "revision": 1, "t_ms": (np.arange(50) * 10.0).tolist()}
        line = f"{self.sheet}-shaft"
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [{"id": line, **of, **way}]})
        before = self.pixels()
        longer = [0, 1.5, -1.5, 0, 20 + 150, 100 - 30, 0, 0]  # about its start: half as long again, a quarter turn
        done = self.ask("POST", path.format(line), {"placement": longer}).json
        told = self.ask("GET", path.format(done["back"][0])).json
        self.assertEqual(told["kind"], "line")
        np.testing.assert_allclose(told["corners_mm"], [[20, 100], [20, 160]], atol=0.01)
        self.assertEqual(self.ask("GET", path.format(self.upper)).json, {"kind": None, "corners_mm": []})
        move = {"ids": done["back"], "placement": [1, 0, 0, 1, 30, -20, 0, 0]}
        moved = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/place", move).json
        pulled = self.ask("PUT", path.format(moved["back"][0]), {"which": 1, "to_mm": [80, 90]}).json
        told = self.ask("GET", path.format(pulled["back"][0])).json
        np.testing.assert_allclose(told["corners_mm"], [[50, 80], [80, 90]], atol=0.01)
        for body, status in (({"which": 5, "to_mm": [1, 1]}, 400), ({"which": 0, "to_mm": [80, 90]}, 400)):
            self.assertEqual(self.ask("PUT", path.format(pulled["back"][0]), body).status_code, status, body)
        self.assertEqual(self.ask("PUT", path.format(self.upper), {"which": 0, "to_mm": [1, 1]}).status_code, 400)
        for step in (pulled, moved, done):
            self.swap(step)
        np.testing.assert_array_equal(self.pixels(), before)
        stretched = {"placement": [2, 0, 0, 1, 0, 0, 0, 0]}
        self.assertEqual(self.ask("POST", path.format(line), stretched).status_code, 400)

    def test_a_corner_is_pulled_and_pushed_back(self) -> None:
        """The corners of a frame but one stay where they are; what comes after it is composed with it exactly."""
        before, place = self.pixels(), f"/api/sheets/{self.sheet}/strokes/place"
        pull = [1.0, 0.05, 0.03, 1.1, -2.0, 1.0, 0.001, 0.002]
        rows = np.linalg.inv([[pull[0], pull[2], pull[4]], [pull[1], pull[3], pull[5]], [pull[6], pull[7], 1]])
        rows /= rows[2, 2]
        push = [*rows[:2, 0], *rows[:2, 1], *rows[:2, 2], *rows[2, :2]]
        pulled = self.ask("POST", place, {"ids": [self.upper], "placement": pull}).json
        self.assertGreater(int(np.abs(self.pixels() - before).max()), 60)
        back = self.ask("POST", place, {"ids": pulled["back"], "placement": push}).json
        self.assertLessEqual(int(np.abs(self.pixels() - before).max()), 1)
        cut = self.rub([[40, 20], [40, 40]], of=["ink"])
        self.assertEqual((cut["away"], len(cut["back"])), (back["back"], 2))
        behind = {"ids": [self.lower], "placement": [1, 0, 0, 1, 0, 0, -0.05, 0]}
        self.assertEqual(self.ask("POST", place, behind).status_code, 400, "part of it would lie behind the page")
        rubbed_one = {"ids": cut["back"][:1], "placement": pull}
        self.assertEqual(self.ask("POST", place, rubbed_one).status_code, 400)

    def test_figures_and_fills_are_rubbed_by_their_own_switches_and_all_is_cleared(self) -> None:
        t = np.linspace(0, 2 * np.pi, 60)
        ring = {"x_mm": (50 + 12 * np.cos(t)).tolist(), "y_mm": (90 + 12 * np.sin(t)).tolist()}
        of = {"pen_id": "reed-ballpoint", "revision": 1, "t_ms": (t * 300).tolist()}
        round_id = f"{self.sheet}-ring"
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [{"id": round_id, **of, **ring}]})
        (figure,) = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/{round_id}/figure", {}).json["back"]
        body = {"ids": [figure], "fill": {"colour": "#aa3322", "opacity": 1}}
        (filled,) = self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/fill", body).json["back"]
        inside, across = [[48.0, 90], [52.0, 90]], [[62.0, 80], [62.0, 100]]
        self.assertEqual(self.rub(across, of=["ink", "washes"])["away"], [], "it is neither")
        self.assertEqual(self.rub(inside, of=["ink", "washes", "figures"])["away"], [], "only its inside is there")
        emptied = self.rub(inside, of=["fills"])
        self.assertEqual((emptied["away"], len(emptied["back"])), ([filled], 1))
        self.assertEqual(self.rub(inside)["away"], [], "nothing is left inside")
        self.swap(emptied)
        cut = self.rub(across, of=["figures"])
        self.assertEqual((cut["away"], len(cut["back"])), ([filled], 1))
        there = self.ids()
        lock = {"locked": {self.lower: True}}
        self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/arrange", lock)
        cleared = self.ask("POST", f"/api/sheets/{self.sheet}/clear", {}).json
        self.assertEqual(self.ids(), [self.lower], "what is locked stays")
        self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/clear", {}).json["away"], [])
        self.swap(cleared)
        self.assertEqual(self.ids(), there)

    def test_ink_of_the_same_pen_colour_or_kind_is_chosen(self) -> None:
        path = f"/api/sheets/{self.sheet}/strokes/like"
        marker = {"pen_id": "survey-marker", "revision": 1, "t_ms": [0, 300], "x_mm": [20, 60], "y_mm": [90, 90]}
        marked = {"id": f"{self.sheet}-marked", **marker}
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [marked]})
        pens = {self.upper: "reed-ballpoint", self.lower: "reed-ballpoint", self.wash: "dusk-wash"}
        pens[str(marked["id"])] = "survey-marker"
        for by, of in (
            ("pen", lambda pen: pen),
            ("colour", lambda pen: SHIPPED_PENS[pen].body.colour),
            ("kind", lambda pen: SHIPPED_PENS[pen].kind),
        ):
            for one in (self.upper, self.wash):
                met = self.ask("POST", path, {"ids": [one], "by": by}).json["strokes"]
                self.assertEqual({s["id"] for s in met}, {i for i in pens if of(pens[i]) == of(pens[one])}, by)

    def test_steps_are_kept_with_the_sheet_and_never_overtaken(self) -> None:
        path = f"/api/sheets/{self.sheet}/steps"
        self.assertEqual(self.ask("GET", path).json, {"past": [], "future": [], "count": 0})
        cut = self.rub([[40, 20], [40, 40]], of=["ink"])
        layers = {"layers": {"layers": [{"id": "first", "name": "ink"}], "on": "first", "moved": {}}}
        past = [{"ids": [self.lower], "binned": True}, layers, {"away": cut["back"], "back": cut["away"]}]
        for count, status in ((1, 200), (1, 409), (3, 200), (2, 409)):
            answer = self.ask("PUT", path, {"past": past, "future": [], "count": count})
            self.assertEqual(answer.status_code, status, count)
        kept = self.ask("GET", path).json
        self.assertEqual((kept["count"], kept["past"][0], kept["past"][2]), (3, past[0], past[2]))
        for bad in ({"past": [{"ids": [self.lower]}]}, {"past": past * 80}, {"past": [{"wipe": True}]}):
            answer = self.ask("PUT", path, {"future": [], "count": 9, **bad})
            self.assertEqual(answer.status_code, 422)
        db = connect(self.folder)
        self.addCleanup(db.close)
        unread = [past[0], {"of": "a later version"}, past[2]]
        db.execute("UPDATE steps SET steps = ? WHERE sheet_id = ?", (json.dumps({"past": unread}), self.sheet))
        db.commit()
        self.assertEqual(self.ask("GET", path).json["past"], [past[2]], "none is taken over one that is not understood")

    def test_readings_of_a_cut_stroke_speak_of_its_pieces(self) -> None:
        cut = self.rub([[40, 20], [40, 40]], of=["ink"])
        answer = self.ask("POST", f"/api/sheets/{self.sheet}/readings", {"ids": cut["back"]})
        self.assertEqual(answer.json["strokes"], 2)
        self.assertIn("light and firm", {n["key"] for n in answer.json["notes"]})

    def test_what_cannot_be_done_is_refused_and_nothing_is_lost(self) -> None:
        before = self.ids()
        place, rub = f"/api/sheets/{self.sheet}/strokes/place", f"/api/sheets/{self.sheet}/rub"
        here = [1, 0, 0, 1, 0, 0, 0, 0]
        for path, body, status in (
            (place, {"ids": [self.upper], "placement": [0, 0, 0, 0, 0, 0, 0, 0]}, 400),
            (place, {"ids": [self.upper], "placement": [1, 0, 0, 1, 900, 0, 0, 0]}, 400),
            (place, {"ids": [self.upper], "placement": [1, 1, 1, 1, 0, 0, 0, 0]}, 400),
            (place, {"ids": ["nobody"], "placement": here}, 409),
            (place, {"ids": [self.upper], "placement": here, "to_sheet": "nowhere"}, 404),
            (place, {"ids": [], "placement": here}, 422),
            (rub, {"way": [], "radius_mm": 1}, 422),
            (rub, {"way": [[1, 1]], "radius_mm": 0}, 422),
            (rub, {"way": [[0, 0], [9000, 0], [0, 0]], "radius_mm": 1}, 400),
            ("/api/sheets/nowhere/rub", {"way": [[1, 1]], "radius_mm": 1}, 404),
        ):
            with self.subTest(path=path, body=str(body)[:60]):
                answer = self.ask("POST", path, body)
                self.assertEqual(answer.status_code, status, answer.data)
                self.assertTrue(answer.json["error"]["message"])
        self.assertEqual(
            self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/swap", {"away": [], "back": []}).status_code, 400
        )
        self.assertEqual(
            self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/swap", {"away": ["nobody"], "back": []}).status_code, 404
        )
        self.rub([[40, 20], [40, 40]], takes="strokes", of=["ink"])  # another window moves what was rubbed meanwhile
        self.assertEqual(self.ask("POST", place, {"ids": [self.upper], "placement": here}).status_code, 409)
        self.assertEqual(self.ids(), [i for i in before if i != self.upper])


if __name__ == "__main__":
    unittest.main()
