"""Drafts, ink drawn again, and readings that say which ink they speak of."""

import contextlib
from typing import Any

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.store.database import connect
from gray_quill.store.pens import get_pen
from tests.web.api_case import STROKE, ApiCase

FEN = SHIPPED_PENS["fen-fountain"]


def wider(width_mm: float) -> dict[str, Any]:
    return write_recipe(changed(FEN, "body.width_mm", width_mm))


class InkAgain(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"sheet-{self._testMethodName[-30:].strip('_').replace('_', '-')}"
        body = {"id": self.sheet, "name": "One", "hand_id": "right-firm", "device_id": "tablet-11"}
        self.assertEqual(self.ask("POST", "/api/sheets", body | {"pen_id": "fen-fountain"}).status_code, 201)
        self.pen = f"pen-{self.sheet[6:]}"
        self.ask("POST", "/api/pens", {"id": self.pen, "recipe": write_recipe(FEN), "note": "", "on_roll": False})

    def write(self, stroke_id: str, draft: Any = None, revision: int = 1) -> Any:
        stroke = STROKE | {"id": f"{self.sheet}-{stroke_id}", "pen_id": self.pen, "revision": revision, "draft": draft}
        return self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stroke]}).json

    def drawn_by(self) -> list[int]:
        return [s.revision for s in self.strokes(self.sheet)]

    def keep(self, width_mm: float) -> None:
        body = {"recipe": wider(width_mm), "note": ""}
        self.assertEqual(self.ask("POST", f"/api/pens/{self.pen}/revisions", body).status_code, 201)

    def again(self, **ink: Any) -> Any:
        ink = {"pen_id": self.pen, "ids": None, **ink}
        return self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/pens", {"inks": [ink]})

    def test_a_draft_is_made_once_and_becomes_the_revision_that_is_kept(self) -> None:
        for stroke_id, draft in (("a", None), ("b", wider(0.9)), ("c", wider(0.9)), ("d", wider(1.1))):
            self.assertEqual(self.write(stroke_id, draft)["answers"][0]["state"], "kept")
        self.assertEqual(self.write("b", wider(0.9))["answers"][0]["state"], "there")
        self.assertEqual(self.drawn_by(), [1, -1, -1, -2])
        history = self.client.get(f"/api/pens/{self.pen}/revisions").json["pens"]
        self.assertEqual([p["revision"] for p in history], [1], "drafts are no part of it")
        self.keep(0.9)
        self.assertEqual(self.drawn_by(), [1, 2, 2, -2])
        self.assertEqual(self.write("e", wider(0.9))["answers"][0]["state"], "kept")
        self.assertEqual(self.drawn_by()[-1], 2, "a draft that is kept already is that revision")
        self.assertEqual(self.write("f", {"body": {"width_mm": 99}})["answers"][0]["state"], "refused")

    def test_ink_again_changes_the_picture_and_comes_back_the_same(self) -> None:
        self.write("a")
        self.write("b", wider(0.9))
        self.keep(1.6)
        page = f"/api/sheets/{self.sheet}/page.png?scale=4"
        before, traces = self.client.get(page).data, [s.trace.x_mm.tolist() for s in self.strokes(self.sheet)]
        told = self.again(revision=2).json
        self.assertEqual((told["strokes"], self.drawn_by()), (2, [2, 2]))
        self.assertNotEqual(self.client.get(page).data, before)
        self.assertEqual([s.trace.x_mm.tolist() for s in self.strokes(self.sheet)], traces)
        self.assertEqual(self.again(revision=2).json["strokes"], 0, "twice is once")
        back = self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/pens", {"inks": told["was"]}).json
        self.assertEqual((back["strokes"], self.drawn_by()), (2, [1, -1]))
        self.assertEqual(self.client.get(page).data, before)

    def test_chosen_ink_is_inked_as_the_pen_writes_now_or_in_a_colour_and_comes_back_the_same(self) -> None:
        for stroke_id, draft in (("a", None), ("b", wider(0.9)), ("c", None)):
            self.write(stroke_id, draft)
        ids = [f"{self.sheet}-a", f"{self.sheet}-b"]
        told = self.again(revision=1, draft=wider(1.3), ids=ids).json
        self.assertEqual((told["strokes"], self.drawn_by()), (2, [-2, -2, 1]))
        path = f"/api/sheets/{self.sheet}/strokes/"
        self.ask("PUT", path + "pens", {"inks": told["was"]})
        self.assertEqual(self.drawn_by(), [1, -1, 1])
        told = self.ask("PUT", path + "colour", {"ids": ids, "colour": "#8a3a2d"}).json
        with contextlib.closing(connect(self.folder)) as db:
            recipes = [get_pen(db, s.pen_id, s.revision).recipe for s in self.strokes(self.sheet)]
        self.assertEqual([r.body.colour for r in recipes], ["#8a3a2d", "#8a3a2d", FEN.body.colour])
        self.assertEqual([r.body.width_mm for r in recipes], [FEN.body.width_mm, 0.9, FEN.body.width_mm])
        self.assertEqual(self.ask("PUT", path + "colour", {"ids": ids, "colour": "#8a3a2d"}).json["strokes"], 0)
        self.ask("PUT", path + "pens", {"inks": told["was"]})
        self.assertEqual(self.drawn_by(), [1, -1, 1])
        for wrong in ({"ids": ids, "colour": "red"}, {"ids": [], "colour": "#000000"}):
            self.assertEqual(self.ask("PUT", path + "colour", wrong).status_code, 422)
        self.assertEqual(self.ask("PUT", path + "colour", {"ids": ["no"], "colour": "#000000"}).status_code, 404)

    def test_ink_again_refuses_what_is_not_there_and_changes_nothing(self) -> None:
        self.write("a")
        ink = self.client.get("/api/desk").json
        for wrong in ({"revision": 9}, {"revision": 1, "pen_id": "no-pen"}, {"revision": 1, "ids": ["no-stroke"]}):
            self.assertEqual(self.again(**wrong).status_code, 404, wrong)
        self.assertEqual(self.drawn_by(), [1])
        self.assertEqual(self.client.get("/api/desk").json["sheets"], ink["sheets"])

    def test_every_change_of_ink_is_counted_once(self) -> None:
        seen = [self.write("a")["sheet"]["ink"], self.write("a")["sheet"]["ink"], self.write("b")["sheet"]["ink"]]
        self.assertEqual([n - seen[0] for n in seen], [0, 0, 1])
        body = {"ids": [f"{self.sheet}-a"], "binned": True}
        told = self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/bin", body).json
        self.assertEqual((told["sheet"]["ink"] - seen[0], told["sheet"]["strokes"]), (2, 1))

    def test_readings_say_which_ink_they_speak_of(self) -> None:
        self.write("a")
        self.write("b", wider(0.9))
        ball = STROKE | {"id": f"{self.sheet}-ball", "pen_id": "reed-ballpoint", "y_mm": [90, 90, 91], "force": None}
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [ball]})
        self.ask("PATCH", f"/api/sheets/{self.sheet}", {"pen_id": self.pen})

        def read(of: str) -> Any:
            return self.ask("GET", f"/api/sheets/{self.sheet}/readings?of={of}").json

        shares = {
            of: sorted((o["pen_id"], o["revision"], o["strokes"]) for o in read(of)["of"]) for of in ("pen", "all")
        }
        ours = [(self.pen, -1, 1), (self.pen, 1, 1)]
        self.assertEqual(shares["pen"], ours)
        self.assertEqual(shares["all"], sorted([*ours, ("reed-ballpoint", 1, 1)]))
        line = read("line")
        self.assertEqual([o["pen_id"] for o in line["of"]], ["reed-ballpoint"])
        self.assertIsNone(line["readings"]["force_p50"], "a line without force tells none")
        self.assertIn("tells no force", line["plain"][0])
        self.assertEqual(
            line["absent"], ["altitude", "azimuth", "force"] if len(line["absent"]) == 3 else line["absent"]
        )
        self.assertIn("force", line["absent"])
        self.assertIsNotNone(read("all")["readings"]["force_p50"])
        self.assertNotEqual(read("pen")["traces"], read("all")["traces"])
        was = read("pen")
        self.keep(1.6)
        self.again(revision=2)
        self.assertEqual(read("pen")["traces"], was["traces"], "the same strokes in other ink can be compared")
        self.assertGreater(read("pen")["readings"]["width_p50_mm"], was["readings"]["width_p50_mm"])

    def test_ink_is_chosen_by_a_way_and_read_by_itself(self) -> None:
        """What a way touches, crosses or rings of three level strokes is chosen, and nothing beside it."""
        lines = {"high": 40.0, "middle": 60.0, "low": 80.0}
        for name, y in lines.items():
            stroke = STROKE | {
                "id": f"{self.sheet}-{name}",
                "pen_id": self.pen,
                "x_mm": [20.0, 30, 40],
                "y_mm": [y] * 3,
            }
            self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stroke]})

        def met(*way: tuple[float, float]) -> list[str]:
            answer = self.ask("POST", f"/api/sheets/{self.sheet}/strokes/met", {"way": list(way)}).json
            return [s["id"].rsplit("-", 1)[1] for s in answer["strokes"]]

        ring = [(15.0, 35.0), (45.0, 35.0), (45.0, 65.0), (15.0, 65.0), (15.0, 36.0)]
        for way, expected in (
            ([(30, 41)], ["high"]),  # a tap beside the ink
            ([(30, 43)], []),
            ([(35, 30), (35, 70)], ["high", "middle"]),  # one long step across
            (ring, ["high", "middle"]),
            ([(15.0, 35.0), (45.0, 35.0), (45.0, 65.0), (15.0, 65.0)], []),  # a ring left open rings nothing
            ([(400, 400)], []),
        ):
            self.assertEqual(met(*way), expected, way)
        chosen = [f"{self.sheet}-low"]
        read = self.ask("POST", f"/api/sheets/{self.sheet}/readings", {"ids": chosen}).json
        self.assertEqual((read["strokes"], read["of"][0]["pen_id"]), (1, self.pen))
        self.assertEqual(self.again(pen_id="heron-brush", revision=1, ids=chosen).json["strokes"], 1)
        read = self.ask("POST", f"/api/sheets/{self.sheet}/readings", {"ids": chosen}).json
        self.assertEqual(read["of"][0]["pen_id"], "heron-brush")
        for path, body, status in (
            ("strokes/met", {"way": []}, 422),
            ("strokes/met", {"way": [[1, 2, 3]]}, 422),
            ("strokes/met", {"way": [[1e9, 2]]}, 422),
            ("strokes/met", {"way": [[0, 0], [9000, 9000]] * 2000}, 400),
            ("readings", {"ids": ["nowhere"]}, 404),
            ("readings", {"ids": []}, 422),
        ):
            self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/{path}", body).status_code, status, body)
        self.ask("PUT", f"/api/sheets/{self.sheet}/strokes/bin", {"ids": chosen, "binned": True})
        self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/readings", {"ids": chosen}).json["strokes"], 0)


class FirstMinute(ApiCase):
    def test_each_answer_is_a_part_of_the_sheet(self) -> None:
        uses = {u["name"] for u in self.ask("GET", "/api/desk/first").json["uses"]}
        body = {"side": "left", "hooked": True, "device_id": None, "screen": "paper", "use": "marking up"}
        self.assertIn("marking up", uses)
        made = self.ask("POST", "/api/desk/first", body)
        self.assertEqual(made.status_code, 201)
        desk = made.json
        sheet = next(s for s in desk["sheets"] if s["id"] == desk["sheet_id"])
        self.assertEqual(
            (sheet["hand_id"], sheet["device_id"], sheet["pen_id"]), ("left-hooked", "this-screen", "dusk-wash")
        )
        self.assertEqual(sheet["paper_words"], "blank A4")
        roll = sorted((p for p in desk["pens"] if p["roll_place"] is not None), key=lambda p: p["roll_place"])
        self.assertEqual(roll[0]["id"], "dusk-wash")
        hand = next(h["hand"] for h in desk["hands"] if h["id"] == "left-hooked")
        self.assertEqual((hand["side"], hand["rest"]), ("left", "above"))
        self.assertLess(hand["azimuth_deg"], 0)
        device = next(d["device"] for d in desk["devices"] if d["id"] == "this-screen")
        self.assertEqual((device["name"], device["kind"]), ("this screen", "e-paper"))
        again = self.ask("POST", "/api/desk/first", body | {"hooked": False, "device_id": "tablet-11"}).json
        self.assertEqual(len([h for h in again["hands"] if h["id"] == "left-hooked"]), 1)
        self.assertEqual(self.ask("POST", "/api/desk/first", body | {"use": "carving"}).status_code, 400)
        self.assertEqual(self.ask("POST", "/api/desk/first", body | {"device_id": "none"}).status_code // 100, 4)


class Desk(ApiCase):
    def test_sheets_are_noted_binned_listed_and_put_back(self) -> None:
        self.ask("PATCH", "/api/sheets/trap-log", {"note": "rain from two"})
        for binned in (True, False):
            self.ask("PUT", "/api/sheets/trap-log/bin", {"binned": binned})
            there = [s["note"] for s in self.ask("GET", "/api/bin/sheets").json["sheets"] if s["id"] == "trap-log"]
            self.assertEqual(there, ["rain from two"] if binned else [])

    def test_contrast_goes_by_opacity_and_what_shows_is_offered(self) -> None:
        def asked(paper: str, **body: Any) -> Any:
            pen = write_recipe(changed(FEN, "body.opacity", body["opacity"])) if body else None
            return self.ask(
                "POST", "/api/desk/colours", {"paper_colour": paper, "colours": ["#20242b"], "pen": pen}
            ).json

        full, faint = asked("#ffffff")["contrasts"][0], asked("#ffffff", opacity=0.5)["contrasts"][0]
        self.assertGreater(full, 15)
        self.assertLess(faint, 4)
        self.assertEqual(asked("#101214")["shows"][0]["pen_id"], "lamp-white")
        self.assertGreater(len(asked("#ffffff")["shows"]), 1)

    def test_a_dial_and_a_hand_that_is_not_kept_are_drawn(self) -> None:
        body = {"recipe": write_recipe(FEN), "dial": "width", "to": 0.9}
        turned = self.ask("POST", "/api/pen/dials", body).json
        self.assertGreater(turned["recipe"]["body"]["width_mm"], 5)
        self.assertAlmostEqual(turned["dials"][0]["at"], 0.9, delta=0.02)
        hands = self.client.get("/api/desk").json["hands"]
        body = {"hand": hands[0]["hand"], "device_id": "tablet-11", "recipe": write_recipe(FEN)}
        steady, shaky = (
            self.ask("POST", "/api/hands/line", body | {"hand": hands[0]["hand"] | {"tremor_mm": mm}}).json["image"]
            for mm in (0.0, 0.3)
        )
        self.assertNotEqual(steady, shaky)
        self.assertEqual(len(self.client.get("/api/desk").json["hands"]), len(hands), "none was kept")
