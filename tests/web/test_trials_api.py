"""The API of the Wash trial, the shading bench and own grains: answers that fit together, and refusals in words."""

import base64
import io
import zlib

import numpy as np
from PIL import Image

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from tests.web.api_case import ApiCase

WORDS = {"sheet_id": "trap-log", "part": "words", "stroke_ids": None}


def pen(name: str) -> dict:
    return write_recipe(SHIPPED_PENS[name])


WASH = {"wash": pen("dusk-wash"), "ink": pen("fen-fountain"), "source": WORDS, "typed": "three bars"}


def png(side: tuple[int, int], level: float = 40) -> bytes:
    out = io.BytesIO()
    noise = np.random.default_rng(1).normal(128, level, side).clip(0, 255).astype(np.uint8)
    Image.fromarray(noise).save(out, "PNG")
    return out.getvalue()


class Trials(ApiCase):
    def test_grid_and_solve_tell_the_same_story(self) -> None:
        grid = self.ask(
            "POST", "/api/wash/grid", {**WASH, "papers": ["#ffffff", "#2b3036"], "passes": 2, "px_per_mm": 8}
        ).json
        white, dark = grid["rows"]
        self.assertEqual((white["ink"], dark["ink"]), ("Fen fountain 0.5", "Lamp white 0.5"))
        picture = Image.open(io.BytesIO(base64.b64decode(white["cells"][0]["image"].split(",")[1])))
        self.assertEqual(picture.size, (336, 144))
        self.assertGreater(white["cells"][0]["writing"], white["cells"][1]["writing"])
        self.assertGreater(white["large"]["writing"], white["readable"]["writing"])
        solved = self.ask("POST", "/api/wash/solve", {**WASH, "paper": "#ffffff"}).json
        self.assertGreaterEqual(min(solved["measured"]["writing"], solved["measured"]["typed"]), 4.5)
        refused = self.ask("POST", "/api/wash/solve", {**WASH, "paper": "#8a8d8a"}).json
        self.assertIsNone(refused["answer"]["setting"])
        self.assertTrue(0 < refused["answer"]["best_contrast"] < 4.5 * 1.01)

    def test_sets_name_the_panels_that_show_greys(self) -> None:
        body = {
            "washes": [pen("dusk-wash"), pen("fern-wash")],
            "ink": pen("fen-fountain"),
            "paper": "#ffffff",
            "device_ids": ["tablet-11", "paper-slate-10"],
        }
        reply = self.ask("POST", "/api/wash/set", body).json
        self.assertEqual([c["name"] for c in reply["conditions"]][-1], "10-inch e-paper slate, 16 greys")
        self.assertEqual(len(reply["conditions"]), 5)
        self.assertTrue(reply["proposal"]["replacements"] and reply["proposal"]["passes"])
        self.assertTrue(all(c["passes"] for c in reply["proposal"]["conditions"]))

    def test_the_shading_bench_measures_own_shading(self) -> None:
        reply = self.ask(
            "POST",
            "/api/pen/shading",
            {"recipe": pen("moth-pencil-2b"), "sheet_id": "trap-log", "own_sheet_id": "test-sheet"},
        ).json
        self.assertEqual([p["lean"] for p in reply["patches"]].count("own"), 1)
        self.assertEqual((len(reply["grades"]), len(reply["text"]), len(reply["crispness"])), (14, 3, 3))

    def test_an_own_grain_goes_from_picture_to_plan_and_file(self) -> None:
        reply = self.client.post("/api/pens/grains", data=png((300, 400)), content_type="image/png")
        own = reply.json["own"]
        recipe = pen("moth-pencil-2b")
        recipe["tooth"] |= {"grain": "own", "own": own}
        plan = self.ask("POST", "/api/pen/plan", {"recipe": recipe}).json
        self.assertEqual(plan["grain"]["heights"], own)
        kept = self.ask("POST", "/api/pens", {"id": "own-grain", "recipe": recipe, "note": "", "on_roll": False}).json
        self.assertEqual(kept["recipe"]["tooth"]["own"], own)

    def test_plans_follow_the_ruling_they_are_given(self) -> None:
        body = {
            "recipe": pen("dusk-wash"),
            "paper": {"width_mm": 100, "height_mm": 100, "ruling": "squared", "spacing_mm": 10},
        }
        plan = self.ask("POST", "/api/pen/plan", body).json
        self.assertEqual(
            (plan["straight"]["y_mm"], plan["straight"]["strength"]), ([10.0 * k for k in range(1, 10)], 0.7)
        )
        self.assertEqual(self.ask("POST", "/api/pen/plan", {"recipe": pen("dusk-wash")}).json["straight"]["y_mm"], [])

    def test_a_device_is_inspected_and_kept(self) -> None:
        whole = {"sheet_id": "trap-log", "part": "sheet", "stroke_ids": None}
        found = self.ask("POST", "/api/lag/inspect", {"source": whole}).json
        self.assertAlmostEqual(found["report_hz"], 240, delta=3)
        made = self.ask(
            "POST",
            "/api/devices",
            {"name": "My device", "like": "clamshell-11", "ink": {"source": whole}, "stated_ms": 9},
        ).json
        self.assertEqual(
            (made["id"][:10], made["device"]["panel"]["ppi"], made["device"]["digitiser"]["tilt"]),
            ("my-device-", 135, True),
        )
        lag = self.ask("POST", "/api/lag", {"recipe": pen("fen-fountain"), "device_id": made["id"], "beside": []}).json
        self.assertEqual(len(lag["table"]), 7)
        self.assertAlmostEqual(sum(s["share"] for s in lag["now"]["stages"]), 1)

    def test_refusals(self) -> None:
        own = pen("moth-pencil-2b")
        own["tooth"] |= {"grain": "own"}
        cases = [
            ("/api/wash/grid", {**WASH, "papers": []}, 422, "papers"),
            ("/api/wash/grid", {**WASH, "papers": ["white"]}, 422, "papers"),
            ("/api/wash/grid", {**WASH, "typed": "café", "papers": ["#ffffff"]}, 400, "leave out 'é'"),
            (
                "/api/wash/grid",
                {**WASH, "source": {**WORDS, "sheet_id": "ghost"}, "papers": ["#ffffff"]},
                404,
                "no sheet",
            ),
            ("/api/wash/solve", {**WASH, "paper": "#ffffff", "words": ["spoken"]}, 422, "words"),
            (
                "/api/wash/set",
                {"washes": [pen("dusk-wash")], "ink": pen("fen-fountain"), "paper": "#ffffff", "device_ids": []},
                400,
                "2 to 6",
            ),
            (
                "/api/wash/set",
                {
                    "washes": [pen("dusk-wash")] * 2,
                    "ink": pen("fen-fountain"),
                    "paper": "#ffffff",
                    "device_ids": ["ghost"],
                },
                404,
                "ghost",
            ),
            (
                "/api/pen/shading",
                {"recipe": pen("moth-pencil-2b"), "sheet_id": "trap-log", "own_sheet_id": "trap-log"},
                400,
                "holds no shading",
            ),
            ("/api/lag", {"recipe": pen("fen-fountain"), "device_id": "ghost", "beside": []}, 404, "ghost"),
            (
                "/api/lag",
                {"recipe": pen("fen-fountain"), "device_id": "tablet-11", "beside": [], "speed_mm_s": 0},
                422,
                "speed_mm_s",
            ),
            ("/api/lag/inspect", {"source": {**WORDS, "sheet_id": "ghost"}}, 404, "no sheet"),
            ("/api/lag/inspect", {}, 400, "strokes just written"),
            ("/api/pen/plan", {"recipe": own}, 400, "Bring in a picture"),
            ("/api/pen/plan", {"recipe": pen("dusk-wash"), "paper": {"width_mm": 1}}, 400, "width_mm"),
        ]
        for path, body, status, words in cases:
            with self.subTest(path=path, words=words):
                reply = self.client.post(path, json=body)
                self.assertEqual(reply.status_code, status, reply.json)
                self.assertIn(words, reply.json["error"]["message"])

    def test_hostile_pictures_are_refused(self) -> None:
        def chunk(kind: bytes, data: bytes) -> bytes:
            return len(data).to_bytes(4, "big") + kind + data + zlib.crc32(kind + data).to_bytes(4, "big")

        huge = (
            b"\x89PNG\r\n\x1a\n"
            + chunk(b"IHDR", (30_000).to_bytes(4, "big") * 2 + b"\x08\x00\x00\x00\x00")
            + chunk(b"IDAT", zlib.compress(b"\0" * 90))
            + chunk(b"IEND", b"")
        )
        good = png((300, 300))
        for data, status, words in (
            (huge, 413, "million pixels"),
            (good[: len(good) // 2], 400, "damaged"),
            (b"GIF89a" + good, 400, "not a PNG"),
            (png((40, 300)), 400, "at least 64"),
            (png((300, 300), 0), 400, "no grain"),
        ):
            reply = self.client.post("/api/pens/grains", data=data, content_type="image/png")
            self.assertEqual(reply.status_code, status, words)
            self.assertIn(words, reply.json["error"]["message"])
