"""The API of the Lag trial: long films as tasks with progress and cancel, marks, kept runs and swaps."""

import io
import json
import time
from typing import Any

import numpy as np
from PIL import Image

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.latency.film import film
from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.formats.film_zip import write_film
from tests.web.api_case import ApiCase
from tests.web.test_trials_api import pen

HAND = {"hand_id": "right-firm"}
CAMERA = "?fps=240&mm_per_px=0.125"


class LagApi(ApiCase):
    def bring_in(self, data: bytes, camera: str = CAMERA) -> Any:
        return self.client.post("/api/lag/films" + camera, data=data, content_type="application/zip")

    def ended(self, job: dict) -> dict:
        """A task followed by its server-sent events to its end."""
        text = self.client.get(f"/api/jobs/{job['id']}/events").text
        told = [json.loads(line[6:]) for line in text.splitlines() if line.startswith("data: ")]
        self.assertEqual([t["share"] for t in told], sorted(t["share"] for t in told))
        self.assertNotEqual(told[-1]["state"], "running")
        return told[-1]

    def test_a_film_is_read_as_a_task_and_can_be_stepped_through(self) -> None:
        frames, truth = film(SHIPPED_DEVICES["clamshell-11"], SHIPPED_PENS["fen-fountain"], 240, 5)
        job = self.ended(self.bring_in(write_film(frames)).json)
        self.assertEqual((job["state"], job["share"]), ("done", 1.0))
        read = self.ask("GET", f"/api/lag/films/{job['id']}").json
        self.assertLessEqual(abs(read["delay_ms"] - truth.delay_ms), max(1000 / 240, 0.05 * truth.delay_ms))
        held = self.ask("GET", f"/api/lag/films/{job['id']}/frames").json
        self.assertEqual((held["frames"], held["width_px"], held["fps"]), (len(frames), 512, 240))
        picture = np.asarray(Image.open(io.BytesIO(self.client.get(f"/api/lag/films/{job['id']}/frames/7").data)))
        np.testing.assert_array_equal(picture, frames[7])
        self.assertEqual(self.client.get(f"/api/lag/films/{job['id']}/frames/9999").status_code, 400)
        marks = [{"frame": k, "nib_px": [100 + 4 * k, 72], "front_px": [60 + 4 * k, 72]} for k in (3, 30, 60)]
        by_hand = self.ask("POST", "/api/lag/films/marks", {"fps": 240, "mm_per_px": 0.125, "marks": marks}).json
        self.assertAlmostEqual(by_hand["delay_ms"], 10 * 1000 / 240, places=6)

    def test_a_film_that_cannot_be_read_still_has_frames_and_bad_files_are_refused_at_once(self) -> None:
        plain = [np.full((40, 60), 210, np.uint8)] * 20
        job = self.ended(self.bring_in(write_film(plain)).json)
        self.assertEqual(job["state"], "refused")
        self.assertIn("No pen is seen", job["message"])
        self.assertEqual(self.ask("GET", f"/api/lag/films/{job['id']}/frames").json["frames"], 20)
        self.assertEqual(self.client.get(f"/api/lag/films/{job['id']}").status_code, 404)
        for data, camera, status, words in (
            (b"PK no zip", CAMERA, 400, "not a zip"),
            (write_film([]), CAMERA, 400, "no PNG frames"),
            (write_film(plain), "?fps=1&mm_per_px=0.1", 422, "fps"),
        ):
            reply = self.bring_in(data, camera)
            self.assertEqual(reply.status_code, status)
            self.assertIn(words, reply.json["error"]["message"])
        for path in ("/api/jobs/film-999", "/api/lag/films/film-999/frames", "/api/jobs/film-999/events"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_a_task_is_cancelled_and_only_two_run_at_once(self) -> None:
        body = {"recipe": pen("fen-fountain"), "device_id": "paper-pad-8", "fps": 960, "seed": 1}
        one, two = (self.ask("POST", "/api/lag/films/simulated", body).json for _ in range(2))
        self.assertEqual(self.client.post("/api/lag/films/simulated", json=body).status_code, 429)
        for job in (one, two):
            self.ask("DELETE", f"/api/jobs/{job['id']}")
            self.assertEqual(self.ended(job)["state"], "cancelled")
        until = time.monotonic() + 5
        while (
            again := self.client.post("/api/lag/films/simulated", json={**body, "device_id": "tablet-11", "fps": 120})
        ).status_code == 429 and time.monotonic() < until:
            time.sleep(0.05)
        self.assertEqual(self.ended(again.get_json())["state"], "done")

    def test_runs_are_kept_with_what_made_them_and_laid_side_by_side(self) -> None:
        live = {
            "events": 90,
            "handler_p50_ms": 8,
            "handler_p95_ms": 12,
            "frame_p50_ms": 22,
            "frame_p95_ms": 27,
            "dropped": 0,
            "long_tasks": 0,
            "control_ms": 30,
        }
        new = {
            "pen_id": "fen-fountain",
            "revision": 1,
            "hand_id": "right-firm",
            "device_id": "tablet-11",
            "live": live,
            "filmed": {"delay_ms": 33, "ci95_ms": 2},
        }
        kept = self.ask("POST", "/api/lag/runs", new).json
        self.assertEqual([f["name"] for f in kept["figures"]], ["modelled", "stated", "live", "filmed"])
        other = self.ask(
            "POST",
            "/api/lag/runs",
            {**new, "pen_id": "reed-ballpoint", "live": None, "filmed": None, "speed_mm_s": 120},
        ).json
        self.assertEqual([r["id"] for r in self.ask("GET", "/api/lag/runs").json["runs"]], [other["id"], kept["id"]])
        body = {"one": {"run_id": kept["id"]}, "other": {"recipe": pen("reed-ballpoint"), "device_id": "clamshell-11"}}
        swaps = {s["factor"]: s["p95_ms"] for s in self.ask("POST", "/api/lag/swaps", body).json["swaps"]}
        self.assertEqual(swaps["as it is"], kept["now"]["p95_ms"])
        self.assertTrue(swaps["steadying"] < swaps["as it is"] < swaps["panel"] < swaps["all of it"])
        for binned, left in ((True, [other["id"]]), (False, [other["id"], kept["id"]])):
            self.assertEqual(self.ask("PUT", f"/api/lag/runs/{kept['id']}/bin", {"binned": binned}).json, kept)
            self.assertEqual([r["id"] for r in self.ask("GET", "/api/lag/runs").json["runs"]], left)
        for path, bad, status in (
            ("/api/lag/runs", {**new, "pen_id": "ghost"}, 404),
            ("/api/lag/runs", {**new, "hand_id": "ghost"}, 404),
            ("/api/lag/swaps", {"one": {}, "other": {}}, 400),
            ("/api/lag/swaps", {"one": {"run_id": "ghost"}, "other": {}}, 404),
            ("/api/lag/films/marks", {"fps": 240, "mm_per_px": 0.1, "marks": marks_of(2)}, 400),
        ):
            self.assertEqual(self.client.post(path, json=bad).status_code, status, path)

    def test_speeds_figures_and_a_device_seen_in_the_browser(self) -> None:
        body = {
            "recipe": pen("fen-fountain"),
            "device_id": "tablet-11",
            "beside": [],
            "speed_mm_s": 90,
            "filmed": {"delay_ms": 80, "ci95_ms": 2},
        }
        reply = self.ask("POST", "/api/lag", body).json
        self.assertEqual([s["speed_mm_s"] for s in reply["speeds"]], [90, 20, 60, 120, 250])
        self.assertIn("more than the model", reply["figures"][-1]["words"])
        t = [10.0 * k for k in range(60)]
        seen = {
            "strokes": [{"t_ms": t, "x_mm": [0.1 * k for k in range(60)], "y_mm": t}],
            "hover": False,
            "contact_size": False,
            "frame_hz": 120,
        }
        found = self.ask("POST", "/api/lag/inspect", {"seen": seen}).json
        self.assertAlmostEqual(found["per_frame"], 100 / 120)
        self.assertEqual(sum("hover" in w or "contact size" in w for w in found["words"]), 2)
        made = self.ask(
            "POST", "/api/devices", {"name": "Mine", "like": "tablet-11", "ink": {"seen": seen}, "stated_ms": 12}
        ).json["device"]
        self.assertEqual((made["digitiser"]["hover"], made["touch"]["size"], made["stated_ms"]), (False, False, 12))


def marks_of(count: int) -> list[dict]:
    return [{"frame": k, "nib_px": [100 + 9 * k, 5], "front_px": [90, 5]} for k in range(count)]


class LookAheadApi(ApiCase):
    def asked(self, sheet_id: str, ahead_ms: float = 12) -> dict[str, Any]:
        pen = write_recipe(changed(SHIPPED_PENS["fen-fountain"], "steady.ahead_ms", ahead_ms))
        source = {"sheet_id": sheet_id, "part": "line"}
        body = {"recipe": pen, "device_id": "tablet-11", "beside": [], "source": source}
        answer = self.ask("POST", "/api/lag", body)
        self.assertEqual(answer.status_code, 200, answer.json)
        return dict(answer.json)

    def test_it_is_judged_by_ones_own_line_and_without_one_by_a_turn(self) -> None:
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": "bare", "name": "Bare", **of})
        bare, own = (self.asked(sheet)["ahead"]["on"] for sheet in ("bare", "trap-log"))
        self.assertEqual([a["on"] for a in bare], [a["on"] for a in own[:2]])
        self.assertEqual(own[2]["on"], "your own line")
        self.assertAlmostEqual(own[2]["bare_ms"] - own[2]["left_ms"], 12, delta=3)

    def test_frames_that_do_not_fit_each_other_are_refused(self) -> None:
        stroke = {"t_ms": [0, 10, 20], "x_mm": [1, 2, 3], "y_mm": [1, 1, 1]}
        columns = ("t_ms", "tip_x_mm", "tip_y_mm", "front_x_mm", "front_y_mm")
        good = {"stroke": stroke, **{name: [5.0] * 30 for name in columns}}
        recipe = write_recipe(SHIPPED_PENS["fen-fountain"])
        for spoilt, why in (
            ({**good, "tip_x_mm": [1.0]}, "same length"), ({**good, **{c: [5.0] * 3 for c in columns}}, "too few"),
            ({**good, "guess_t_ms": [1.0]}, "same length"),
        ):  # fmt: skip
            answer = self.ask("POST", "/api/lag/shown", {"recipe": recipe, "shown": [spoilt]})
            self.assertEqual(answer.status_code, 400)
            self.assertIn(why, answer.json["error"]["message"])
        told = self.ask("POST", "/api/lag/shown", {"recipe": recipe, "shown": [good]}).json
        self.assertIsNone(told["guessed"], "a browser that guesses nothing is not judged")


class FeltApi(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        recipe = write_recipe(SHIPPED_PENS["reed-ballpoint"])
        self.session: dict[str, Any] = {"device_id": "tablet-11", "recipe": recipe, "turns": []}

    def written(self, count: int) -> None:
        """So many turns of a writer who notices 60 ms."""
        for _ in range(count):
            hidden = self.ask("POST", "/api/lag/feel", {**self.session, "seed": 5}).json["next"]
            added = hidden["added_ms"]
            said = "slight" if added >= 60 else "none"
            turn = {"kind": hidden["kind"], "added_ms": added, "answer": said, "frame_ms": 20 + added, "speed_mm_s": 70}
            self.session["turns"].append(turn)

    def test_a_threshold_is_found_kept_for_its_hand_and_binned(self) -> None:
        self.written(8)
        early = self.client.post("/api/lag/felt", json={**self.session, **HAND})
        self.assertEqual(early.status_code, 400)
        self.assertIn("7 more turns before anything can be said", early.json["error"]["message"])
        self.written(17)
        told = self.ask("POST", "/api/lag/feel", {**self.session, "seed": 5}).json["felt"]
        self.assertTrue(told["low_ms"] < told["base_ms"] + 60 < told["high_ms"])
        asked = {"device_id": "tablet-11", "recipe": self.session["recipe"], "beside": []}
        before = self.ask("POST", "/api/lag", {**asked, **HAND}).json
        self.assertIsNone(before["felt"])
        kept = self.ask("POST", "/api/lag/felt", {**self.session, **HAND}).json["kept"]
        self.assertEqual(kept["felt"], told)
        now = self.ask("POST", "/api/lag", {**asked, **HAND}).json
        self.assertEqual(now["felt"], kept)
        self.assertEqual([t["from_ms"] for t in now["thresholds"] if t["word"] == "felt"], [told["noticed_ms"]])
        self.assertEqual((now["figures"][-1]["name"], now["figures"][-1]["ms"]), ("felt", told["noticed_ms"]))
        other = self.ask("POST", "/api/lag", {**asked, "hand_id": "left-steep"}).json
        self.assertEqual((other["felt"], other["thresholds"]), (None, before["thresholds"]))
        gone = self.ask("PUT", f"/api/lag/felt/{kept['id']}/bin", {**HAND, "binned": True}).json
        self.assertIsNone(gone["kept"])
        back = self.ask("PUT", f"/api/lag/felt/{kept['id']}/bin", {**HAND, "binned": False}).json
        self.assertEqual(back["kept"], kept)

    def test_turns_that_cannot_be_are_refused(self) -> None:
        turn = {"kind": "catch", "added_ms": 0, "answer": "none", "frame_ms": 20, "speed_mm_s": 60}
        for wrong in ({"answer": "maybe"}, {"added_ms": -3}, {"kind": "guess"}, {"frame_ms": 1e9}):
            answer = self.client.post("/api/lag/feel", json={**self.session, "seed": 1, "turns": [{**turn, **wrong}]})
            self.assertEqual(answer.status_code, 400, wrong)
        many = {**self.session, "seed": 1, "turns": [turn] * 101}
        self.assertEqual(self.client.post("/api/lag/feel", json=many).status_code, 422)
        gone = self.client.put("/api/lag/felt/ghost/bin", json={**HAND, "binned": True})
        self.assertEqual(gone.status_code, 404)
