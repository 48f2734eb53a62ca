"""The API: what it takes, what it refuses and in which words, and that its description is true."""

import json
import pathlib

import numpy as np
from openapi_spec_validator import validate

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.inkml import read_inkml
from gray_quill.formats.inkml_write import write_inkml
from tests.web.api_case import STROKE, ApiCase, against
from tests.zoo import wave

ON_TABLET = {"sheet_id": "trap-log", "device_id": "tablet-11"}


class Contract(ApiCase):
    def test_the_openapi_document_is_valid_and_the_one_kept_with_the_front_end(self) -> None:
        sent = json.loads(self.client.get("/api/openapi.json").data)
        validate(sent)
        kept = pathlib.Path(__file__).parents[2] / "web/src/api/openapi.json"
        self.assertEqual(json.loads(kept.read_text()), sent, "run make types")

    def test_shipped_pens_fit_the_published_schema(self) -> None:
        checks = against("#/components/schemas/Recipe")
        for recipe in SHIPPED_PENS.values():
            checks.validate(write_recipe(recipe))
        self.assertTrue(list(checks.iter_errors({"body": {"widht_mm": 3}})), "the check can fail")


class Tuning(ApiCase):
    def test_preview_and_readings_follow_the_recipe(self) -> None:
        source = {"sheet_id": "trap-log"}
        pictures, ratios = set(), []
        for ratio in (1, 4, 9):
            recipe = {"body": {"width_mm": 0.5}, "press": {"range": ratio}}
            pictures.add(self.ask("POST", "/api/pen/preview", {"recipe": recipe, "source": source}).json["image"])
            ratios.append(
                self.ask("POST", "/api/pen/readings", {"recipe": recipe, "source": source}).json["readings"][
                    "range_ratio"
                ]
            )
        self.assertEqual(len(pictures), 3)
        self.assertAlmostEqual(ratios[0], 1, delta=0.01)
        self.assertTrue(ratios[0] < ratios[1] < ratios[2])

    def test_a_revision_is_added_and_files_go_out_and_come_in(self) -> None:
        recipe = write_recipe(SHIPPED_PENS["heron-brush"]) | {"name": "Heron, tamed"}
        made = self.ask("POST", "/api/pens/heron-brush/revisions", {"recipe": recipe, "note": "tamer"}).json
        self.assertEqual((made["revision"], made["newest"]), (2, 2))
        history = self.ask("GET", "/api/pens/heron-brush/revisions").json["pens"]
        self.assertEqual([p["revision"] for p in history], [2, 1])
        file = self.client.get("/api/pens/heron-brush/revisions/2/file").data
        back = self.client.post("/api/pens/files", data=file, content_type="application/json").json
        self.assertEqual(back["recipe"]["name"], "Heron, tamed")
        self.assertTrue(back["id"].startswith("heron-tamed-"))

    def test_the_bench_answers_on_the_writers_own_ink(self) -> None:
        pen = {"recipe": write_recipe(SHIPPED_PENS["fen-fountain"]), "source": {"sheet_id": "trap-log"}}
        trade = self.ask("POST", "/api/pen/trade", {"steady": pen["recipe"]["steady"], "source": pen["source"]}).json
        self.assertEqual({p["method"] for p in trade["points"]}, set(trade["methods"]))
        amount = self.ask("GET", f"/api/pen/steady?method=one-euro&parameter={trade['now']['parameter']}").json[
            "amount"
        ]
        self.assertAlmostEqual(amount, 3, places=6)
        for path, body, key in (
            ("/api/pen/heat", {**pen, "quantity": "speed"}, "image"),
            ("/api/pen/effects", {**pen, "group": "ends"}, "effects"),
            ("/api/pen/advice", {**pen, "recipe": write_recipe(SHIPPED_PENS["heath-brush"])}, "advice"),
            ("/api/pen/judge", {"recipe": pen["recipe"]}, "nearest"),
            ("/api/pen/ladder", {"recipe": pen["recipe"], "over": "opacity"}, "values"),
            ("/api/pen/differences", {"one": pen["recipe"], "other": {}, "source": pen["source"]}, "differences"),
        ):
            reply = self.ask("POST", path, body)
            self.assertTrue(reply.status_code == 200 and reply.json[key], path)
        fit = self.ask(
            "POST",
            "/api/pen/fit",
            {"press": {"range": 4}, "source": {"sheet_id": "trap-log", "part": "sheet"}, "blend": 1},
        ).json
        self.assertEqual(self.ask("GET", "/api/pen/fits/right-firm/tablet-11").json["press"], None)
        self.ask("PUT", "/api/pen/fits", {"hand_id": "right-firm", "device_id": "tablet-11", "press": fit["press"]})
        self.assertEqual(self.ask("GET", "/api/pen/fits/right-firm/tablet-11").json["press"], fit["press"])

    def test_contrast_and_ruling_come_from_the_core(self) -> None:
        reply = self.ask(
            "POST", "/api/desk/colours", {"paper_colour": "#ffffff", "colours": ["#000000", "#767676"]}
        ).json
        np.testing.assert_allclose(reply["contrasts"], [21, 4.542225], atol=1e-6)
        dark = self.ask("POST", "/api/desk/colours", {"paper_colour": "#101214", "colours": []}).json["rule_colour"]
        self.assertGreater(int(dark[1:3], 16), 0x10, "a dark sheet has a lighter ruling")

    def test_force_histogram_counts_every_report(self) -> None:
        force = self.ask("POST", "/api/pen/force", {"sheet_id": "trap-log", "part": "sheet"}).json
        self.assertEqual(sum(force["counts"]), force["samples"])
        self.assertEqual(force["samples"], sum(len(s.trace) for s in self.strokes("trap-log")))


class TakingOut(ApiCase):
    def test_every_form_comes_out_and_inkml_comes_back_in(self) -> None:
        forms = {"svg": b"<svg", "png": b"\x89PNG", "pdf": b"%PDF", "ora": b"PK", "inkml": b"<?xml"}
        for form, magic in forms.items():
            reply = self.client.get(f"/api/sheets/count-by-trap/file?form={form}&dpi=80")
            self.assertTrue(reply.data.startswith(magic), form)
            self.assertIn("Count by trap." + form, reply.headers["Content-Disposition"])
        sheet = self.client.post(
            "/api/sheets/count-by-trap/file", data=reply.data, content_type="application/inkml+xml"
        ).json
        self.assertEqual(sheet["strokes"], len(read_inkml(reply.data)))
        for one, two in zip(self.strokes("count-by-trap"), self.strokes(sheet["id"]), strict=True):
            self.assertLess(np.abs(one.trace.xy_mm - two.trace.xy_mm).max(), 0.005)


class Papers(ApiCase):
    def test_a_ruling_that_does_not_fit_is_refused_and_letters_say_what_suits_them(self) -> None:
        page = self.client.get("/api/sheets/trap-log/page.png?scale=2").data
        for paper, field in (
            ({"width_mm": 40, "height_mm": 40, "ruling": "ruled", "spacing_mm": 30}, "paper.spacing_mm"),
            ({"width_mm": 60, "height_mm": 60, "ruling": "frames", "columns": 12}, "paper.columns"),
            ({"ruling": "waves"}, "paper.ruling"),
        ):
            reply = self.client.patch("/api/sheets/trap-log", json={"paper": paper})
            self.assertEqual((reply.status_code, reply.json["error"]["field"]), (400, field))
        self.assertEqual(self.client.get("/api/sheets/trap-log/page.png?scale=2").data, page)
        told = [self.ask("POST", "/api/sheets/trap-log/on-paper", {"paper": f"ruled {mm}mm A5"}).json for mm in (4, 12)]
        self.assertEqual(told[0]["suits_mm"], told[1]["suits_mm"])
        self.assertTrue(told[0]["fill"] > 1 > told[1]["fill"])
        for name in ("isometric A5", "day hours A5", "storyboard A5 dusk"):
            self.assertEqual(self.ask("PATCH", "/api/sheets/count-by-trap", {"paper": name}).status_code, 200)
            for form in ("svg", "pdf", "png"):
                self.assertEqual(self.client.get(f"/api/sheets/count-by-trap/file?form={form}&dpi=80").status_code, 200)


class Refusals(ApiCase):
    def test_bad_requests_are_answered_with_what_to_do_and_change_nothing(self) -> None:
        before = [len(self.strokes(s)) for s in ("trap-log", "count-by-trap")]
        cases = [
            ("POST", "/api/sheets/trap-log/strokes", {"strokes": []}, 422, "at least 1"),
            ("POST", "/api/sheets/trap-log/strokes", {"ink": []}, 422, "strokes"),
            ("POST", "/api/sheets/ghost/strokes", {"strokes": [STROKE]}, 404, "no sheet 'ghost'"),
            (
                "POST",
                "/api/sheets",
                {
                    "id": "trap-log",
                    "name": "x",
                    "hand_id": "left-steep",
                    "device_id": "tablet-11",
                    "pen_id": "fen-fountain",
                },
                409,
                "already",
            ),
            (
                "POST",
                "/api/sheets",
                {"id": "n", "name": "x", "hand_id": "nobody", "device_id": "tablet-11", "pen_id": "fen-fountain"},
                404,
                "no hand",
            ),
            ("PATCH", "/api/sheets/trap-log", {"paper": "dotted A99"}, 400, "A99"),
            ("PATCH", "/api/sheets/trap-log", {"paper": {"spacing_mm": 0.1}}, 400, "1.5 to 30 mm"),
            ("POST", "/api/pens/fen-fountain/revisions", {"recipe": {"body": {"width": 1}}}, 400, "width_mm"),
            (
                "POST",
                "/api/pens/fen-fountain/revisions",
                {"recipe": {"format": "gray-quill/pen@9"}},
                400,
                "later version",
            ),
            (
                "POST",
                "/api/pen/preview",
                {"recipe": {}, "source": {"sheet_id": "trap-log"}, "width_px": 99999},
                422,
                "4000",
            ),
            (
                "POST",
                "/api/pen/preview",
                {"recipe": {}, "source": {"sheet_id": "trap-log", "stroke_ids": ["ghost"]}},
                400,
                "no ink",
            ),
            (
                "POST",
                "/api/pen/effects",
                {"recipe": {}, "source": {"sheet_id": "trap-log"}, "group": "nib"},
                400,
                "body, press",
            ),
            (
                "POST",
                "/api/pen/heat",
                {"recipe": {}, "source": {"sheet_id": "trap-log"}, "quantity": "mood"},
                422,
                "force",
            ),
            ("POST", "/api/pen/solve", {"steady": {}, "source": {"sheet_id": "trap-log"}}, 400, "most drag"),
            (
                "POST",
                "/api/pen/spot",
                {"recipe": {}, "source": {"sheet_id": "trap-log"}, "x_mm": 900, "y_mm": 9},
                404,
                "no ink there",
            ),
            (
                "POST",
                "/api/pen/fit",
                {"press": {}, "source": {"sheet_id": "trap-log", "stroke_ids": ["trap-log-40"]}, "blend": 2},
                422,
                "blend",
            ),
            ("GET", "/api/pen/steady?method=magic&amount=3", None, 400, "one-euro"),
            ("GET", "/api/pen/steady?method=leash", None, 400, "either amount or parameter"),
            ("PATCH", "/api/desk", {"palette": [{"name": "x", "colour": "red"}]}, 422, "palette"),
            ("POST", "/api/hands", {"id": "a", "hand": {"speed_mm_s": "fast"}}, 400, "hand.speed_mm_s"),
            ("PUT", "/api/desk/roll", {"pen_ids": ["fen-fountain", "fen-fountain"]}, 409, "different"),
            ("GET", "/api/sheets/trap-log/page.png?scale=60&right=9999", None, 400, "million pixels"),
            ("GET", "/api/sheets/trap-log/page.png?scale=abc", None, 422, "scale"),
            ("GET", "/api/sheets/trap-log/file?form=docx", None, 422, "form"),
            ("POST", "/api/panels/proof", {**ON_TABLET, "toning": {"greys": 1}}, 400, "2 to 256 greys"),
            ("POST", "/api/panels/proof", {**ON_TABLET, "toning": {"dither": "diffuse"}}, 400, "toning.dither"),
            ("POST", "/api/panels/proof", {**ON_TABLET, "toning": {"bolder_px": 40}}, 400, "toning.bolder_px"),
            ("POST", "/api/panels/proof", {**ON_TABLET, "light": "candle"}, 400, "candle"),
            ("POST", "/api/panels/proof", {**ON_TABLET, "panel": {"ppi": 1000}}, 413, "million pixels"),
        ]
        for method, path, body, status, words in cases:
            with self.subTest(path=path, words=words):
                reply = self.ask(method, path, body)
                self.assertEqual(reply.status_code, status, reply.data[:200])
                self.assertIn(words, reply.json["error"]["message"])
        self.assertEqual([len(self.strokes(s)) for s in ("trap-log", "count-by-trap")], before)

    def test_unreadable_bodies_uploads_and_strangers_are_refused(self) -> None:
        nan = json.dumps({"strokes": [STROKE | {"id": "n", "x_mm": [1, float("nan"), 2]}]})
        bomb = b"<!DOCTYPE ink [<!ENTITY a 'a'>]><ink xmlns='http://www.w3.org/2003/InkML'><trace>&a;</trace></ink>"
        for path, data, media, status in (
            ("/api/sheets/trap-log/strokes", "{", "application/json", 400),
            ("/api/sheets/trap-log/strokes", nan, "application/json", 400),
            ("/api/sheets/trap-log/strokes", "x", "text/plain", 400),
            ("/api/sheets/trap-log/file", bomb, "application/inkml+xml", 400),
            ("/api/sheets/trap-log/file", b"\x00" * 100, "application/inkml+xml", 400),
            ("/api/pens/files", b"[]", "application/json", 400),
            ("/api/sheets/trap-log/file", b" " * 43_000_000, "application/inkml+xml", 413),
        ):
            reply = self.client.post(path, data=data, content_type=media)
            self.assertEqual(reply.status_code, status, path)
            self.assertTrue(reply.json["error"]["message"])
        self.assertEqual(self.client.get("/api/desk", headers={"Host": "evil.example"}).status_code, 403)
        self.assertEqual(
            self.client.patch("/api/desk", json={}, headers={"Origin": "http://evil.example"}).status_code, 403
        )
        self.assertEqual(self.client.get("/api/nothing").status_code, 404)
        self.assertEqual(self.client.delete("/api/desk").status_code, 405)
        self.assertIn("default-src 'none'", self.client.get("/api/desk").headers["Content-Security-Policy"])

    def test_inkml_of_one_wave_survives_the_trip_through_the_api(self) -> None:
        data = write_inkml([wave()])
        sheet = self.client.post("/api/sheets/trap-log/file", data=data, content_type="application/inkml+xml").json
        out = read_inkml(self.client.get(f"/api/sheets/{sheet['id']}/file?form=inkml").data)
        self.assertLess(np.abs(out[0].xy_mm - wave().xy_mm).max(), 0.005)
