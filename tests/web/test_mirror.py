"""Showing others: who looks on sees one sheet and nothing else, and whatever was told in order."""

import io
import json
from typing import Any

import numpy as np
from PIL import Image

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.web.mirror import MirrorWatch
from gray_quill.web.mirror_state import MOST_BYTES, MOST_WAITING, stage_of
from tests.web.test_room import PLAIN, RoomCase

RECIPE = write_recipe(SHIPPED_PENS["fen-fountain"])


def ink(number: int = 1, pen: str = "pen-1", reports: int = 3) -> dict[str, Any]:
    samples = [[0.01 * k, 20 + k, 30, 0.5, 1, 0] for k in range(reports)]
    return {"number": number, "pen": pen, "samples": samples, "made_ms": 5}


class Mirrors(RoomCase):
    def setUp(self) -> None:
        super().setUp()
        self.app = self.opened()
        self.writer, self.other = self.app.test_client(), self.app.test_client()
        self.writer.get(f"/in/{self.app.extensions['door'].ticket}", base_url=PLAIN)
        self.stage = stage_of(self.app)

    def ask(self, path: str, body: Any = None, method: str = "", who: Any = None) -> Any:
        method = method or ("GET" if body is None else "POST")
        return (who or self.writer).open(path, method=method, json=body, base_url=PLAIN)

    def shown(self, whole: bool = False) -> str:
        told = self.ask("/api/stage", {"sheet_id": "trap-log", "whole": whole}).get_json()
        return str(told["link"]).removeprefix("http://quill.test:5178")

    def test_the_link_shows_one_sheet_and_lets_nobody_in(self) -> None:
        link = self.shown()
        self.assertEqual(self.ask("/api/mirror/page", who=self.other).status_code, 401)
        came = self.ask(link, who=self.other)
        self.assertEqual((came.status_code, came.headers["Location"]), (303, "/mirror"))
        self.assertTrue(all(w in came.headers["Set-Cookie"] for w in ("HttpOnly", "SameSite=Lax")))
        page = self.ask("/api/mirror/page", who=self.other).get_json()
        self.assertEqual((page["sheet_id"], page["view"]), ("trap-log", None))
        self.assertEqual(self.ask("/mirror", who=self.other).status_code, 200)
        asked = ((self.other, "mirror", "*/*"), (self.writer, "sheets/trap-log", "image/png"))
        large, plain = (
            who.get(f"/api/{what}/page.png?scale=8", base_url=PLAIN, headers={"Accept": takes})
            for who, what, takes in asked
        )
        self.assertEqual((large.mimetype, plain.mimetype), ("image/webp", "image/png"))
        self.assertLess(len(large.data), 0.6 * len(plain.data))
        pixels = [np.asarray(Image.open(io.BytesIO(p.data)).convert("RGB")) for p in (large, plain)]
        np.testing.assert_array_equal(pixels[0], pixels[1])
        picture = self.ask("/api/mirror/page.png?scale=2", who=self.other)
        self.assertEqual(picture.data, self.ask("/api/sheets/trap-log/page.png?scale=2").data)
        for method, path in (
            ("GET", "/"), ("GET", "/api/desk"), ("GET", "/api/sheets/trap-log"), ("GET", "/api/stage"),
            ("POST", "/api/stage/lines"), ("POST", "/api/sheets/trap-log/strokes"), ("DELETE", "/api/stage"),
            ("POST", "/api/mirror/page"), ("GET", "/api/news"),
        ):  # fmt: skip
            refused = self.ask(path, {} if method == "POST" else None, method, self.other)
            self.assertEqual(refused.status_code, 401, f"{method} {path}")
        self.assertEqual(self.ask("/see/" + "a" * 24, who=self.other).status_code, 401)

    def test_withdrawn_it_is_worth_nothing_and_a_new_link_is_another(self) -> None:
        link = self.shown()
        self.ask(link, who=self.other)
        watch = self.watch()
        self.assertEqual(self.ask("/api/stage", method="DELETE").get_json()["open"], False)
        self.assertIn('"over"', watch.look() or "")
        with self.assertRaises(StopIteration):
            watch.look()
        self.assertEqual(self.ask("/api/mirror/page", who=self.other).status_code, 401)
        self.assertEqual(self.ask("/mirror", who=self.other).status_code, 401)
        self.assertNotEqual(self.shown(), link)
        self.assertEqual(self.ask("/api/mirror/page", who=self.other).status_code, 401, "the old cookie")

    def watch(self) -> MirrorWatch:
        watch = MirrorWatch(self.stage, self.stage.token, self.app.extensions["boxes"], self.folder)
        self.addCleanup(watch.close)
        watch.look()
        return watch

    def heard(self, watch: MirrorWatch) -> list[dict[str, Any]]:
        return [json.loads(part[6:]) for part in (watch.look() or "").split("\n\n") if part]

    def test_what_the_nib_does_is_told_in_order_and_what_changes_with_its_box(self) -> None:
        self.shown()
        watch = self.watch()
        nudged: list[int] = []
        watch.wakes(lambda: nudged.append(1))
        view = [0, 0, 74, 105]
        self.ask("/api/stage/lines", {"pens": {"pen-1": RECIPE}, "ink": [ink()], "view": view})
        self.ask("/api/stage/lines", {"ink": [ink(reports=2)], "lifted": [1]})
        point = {"at": [[5, 6]], "down": True, "dot": False, "colour": "#b3402e", "size_mm": 3, "fades_s": 1}
        self.ask("/api/stage/lines", {"point": point})
        told = self.heard(watch)
        self.assertEqual([len(t["ink"][0]["samples"]) for t in told[:2]], [3, 2])
        self.assertEqual((told[0]["view"], told[1]["lifted"], told[2]["point"]["at"]), (view, [1], [[5, 6]]))
        self.assertEqual((len(nudged), self.heard(watch)), (3, []))
        self.assertEqual(self.ask("/api/mirror/page").status_code, 401, "who writes is no mirror")
        self.ask("/see/" + self.stage.token, who=self.other)
        self.assertEqual(self.ask("/api/mirror/page", who=self.other).get_json()["view"], view)
        plan = self.ask("/api/mirror/pens/pen-1", who=self.other).get_json()
        self.assertEqual(plan["name"], SHIPPED_PENS["fen-fountain"].name)
        stroke = {"id": "s-1", "pen_id": "fen-fountain", "revision": 1, "t_ms": [0, 9, 20], "x_mm": [30, 31, 33],
                  "y_mm": [40, 40, 41]}  # fmt: skip
        kept = self.ask("/api/sheets/trap-log/strokes", {"strokes": [stroke]}).get_json()
        (changed,) = self.heard(watch)
        self.assertEqual((changed["changed"], changed["box"]), (kept["sheet"]["ink"], kept["box_mm"]))

    def test_a_mirror_that_is_too_far_behind_begins_anew(self) -> None:
        self.shown()
        watch = self.watch()
        for k in range(MOST_WAITING + 5):
            self.stage.tell(f'{{"kept": [{k}]}}')
        self.assertEqual(self.heard(watch), [{"page": True}])
        self.stage.tell('{"kept": [1]}')
        self.assertEqual(self.heard(watch), [{"kept": [1]}])
        for _ in range(5):
            self.stage.tell(json.dumps({"kept": [1] * 400_000}))
        self.assertLess(self.stage.held_bytes, MOST_BYTES + 1_300_000)
        self.assertEqual(self.heard(watch), [{"page": True}], "what is told takes no more memory than that")

    def test_what_cannot_be_shown_is_refused_and_nobody_is_told(self) -> None:
        self.assertEqual(self.ask("/api/stage/lines", {"ink": []}).status_code, 404, "nothing is shown")
        self.assertEqual(self.ask("/api/stage", {"sheet_id": "none"}).status_code, 404)
        self.shown()
        watch = self.watch()
        bad_pen = {**RECIPE, "body": {"width_mm": -1}}
        for body in (
            {"ink": [ink(pen="pen-9")]}, {"pens": {"pen-1": bad_pen}}, {"ink": [{**ink(), "samples": [[1, 2]]}]},
            {"point": {"at": [[1, 2]], "down": True, "dot": True, "colour": "red", "size_mm": 3, "fades_s": 1}},
            {"ink": [ink(reports=3000)]}, {"view": [1, 2, 3]}, {"other": 1},
        ):  # fmt: skip
            self.assertIn(self.ask("/api/stage/lines", body).status_code, (400, 422), body)
        self.assertEqual(self.heard(watch), [])
