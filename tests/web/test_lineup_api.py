"""Line-up over the API: measured as a job, ranked as often as wished, refused with words."""

import csv
import io
import re
from typing import Any

import pypdf

from tests.web.api_case import ApiCase

OF = {"hand_id": "right-firm", "device_id": "tablet-11"}


class LineupApi(ApiCase):
    def candidates(self, *pens: str, **of: str) -> list[dict[str, Any]]:
        return [{"pen_id": pen, **OF, **of} for pen in pens]

    def measured(self, candidates: list[dict[str, Any]], **more: object) -> tuple[str, Any]:
        reply = self.ask("POST", "/api/lineup/runs", {"candidates": candidates, **more})
        self.assertEqual(reply.status_code, 202, reply.get_json())
        job = self.finished(reply)
        return job, self.ask("GET", f"/api/lineup/runs/{job}").get_json()

    def ranked(self, job: str, **body: object) -> Any:
        return self.ask("POST", f"/api/lineup/runs/{job}/ranking", body)

    def test_pens_are_measured_on_one_ground_and_ranked_by_weights(self) -> None:
        job, run = self.measured(self.candidates("fen-fountain", "reed-ballpoint", "dusk-wash"))
        self.assertEqual([c["group"] for c in run["candidates"]], ["fountain", "ballpoint", "highlighter"])
        fountain, reed, wash = run["measured"]["candidates"]
        told = self.ranked(job, weights={"range": 1, "light answer": 1}).get_json()["rankings"][0]
        self.assertEqual(told["ranking"]["places"][0]["candidate"], fountain)
        self.assertEqual(set(told["presets"]["e-ink"]), {fountain, reed, wash})
        told = self.ranked(job, weights={"under wash": 1}, by_kind=True).get_json()["rankings"]
        by_kind = {one["group"]: one for one in told}
        self.assertEqual(by_kind["highlighter"]["ranking"]["places"][0]["place"], 1)
        self.assertIn("can be told of all", by_kind["ballpoint"]["refused"])
        out = self.ranked(job, weights={"range": 1}, musts=[{"criterion": "range", "bound": 2}]).get_json()
        places = {p["candidate"]: p for p in out["rankings"][0]["ranking"]["places"]}
        self.assertEqual((places[reed]["place"], places[fountain]["place"]), (0, 1))
        own = [{"name": "grip", "points": {fountain: 5, reed: 95, wash: 1}}]
        first = self.ranked(job, weights={"grip": 1}, own=own).get_json()["rankings"][0]["ranking"]["places"][0]
        self.assertEqual((first["candidate"], first["total"]), (reed, 95))
        spots = self.ask("GET", f"/api/lineup/runs/{job}/front?across=drag&up=range").get_json()["spots"]
        self.assertTrue({s["candidate"]: s["front"] for s in spots}[fountain])

    def test_the_same_again_is_the_same(self) -> None:
        pens = self.candidates("fen-fountain", "reed-ballpoint")
        self.assertEqual(self.measured(pens)[1], self.measured(pens)[1])
        self.assertNotEqual(self.measured(pens)[1]["points"], self.measured(pens, seed=2)[1]["points"])

    def test_the_report_stands_alone_and_says_what_was_found(self) -> None:
        job, run = self.measured(self.candidates("fen-fountain", "reed-ballpoint"))
        fountain, reed = run["measured"]["candidates"]
        own = [{"name": "grip", "points": {fountain: 20, reed: 80}, "note": "<thin> barrel"}]
        body = {"weights": {"range": 1, "grip": 1}, "own": own, "verdict": "The reed, for its grip & price."}
        page = self.ask("POST", f"/api/lineup/runs/{job}/report", body)
        text = page.get_data(as_text=True)
        ranked = self.ranked(job, weights=body["weights"], own=own).get_json()["rankings"][0]["ranking"]["places"]
        for place in ranked:
            self.assertIn(f"{place['total']:.1f} points ({place['low']:.1f} to {place['high']:.1f})", text)
        self.assertIn("The reed, for its grip &amp; price.", text)
        self.assertIn("&lt;thin&gt; barrel", text)
        self.assertIn(run["version"], text)
        self.assertEqual(re.findall(r"(?:https?:|//|<script|<link|@import)", re.sub(r"base64,[^\"]*", "", text)), [])
        self.assertEqual(text.count("<img"), 2)
        pages = pypdf.PdfReader(
            io.BytesIO(self.ask("POST", f"/api/lineup/runs/{job}/report", body | {"form": "pdf"}).data)
        )
        words = " ".join(" ".join(page.extract_text().split()) for page in pages.pages)
        self.assertIn("The reed, for its grip & price.", words)
        self.assertIn("<thin> barrel", words)
        for place in ranked:
            self.assertIn(f"{place['total']:.1f} points ({place['low']:.1f} to {place['high']:.1f})", words)
        self.assertEqual([round(float(v) / 72 * 25.4) for v in pages.pages[0].mediabox[2:]], [210, 297])
        kinds = body | {"by_kind": True, "families": {"ballpoint": "None better <here>.", "fountain": " "}}
        text = self.ask("POST", f"/api/lineup/runs/{job}/report", kinds).get_data(as_text=True)
        self.assertIn("<h2>ballpoint</h2><p>Verdict: None better &lt;here&gt;.</p>", text)
        self.assertIn("<h2>fountain</h2><h3>", text, "of no verdict none is said")
        rows = list(
            csv.reader(self.ask("POST", f"/api/lineup/runs/{job}/report", body | {"form": "csv"}).text.splitlines())
        )
        told = {(row[0], row[1]): row[3] for row in rows[1:]}
        self.assertEqual(told[fountain, "under wash"], "cannot tell")
        n = run["measured"]["criteria"].index("range")
        self.assertAlmostEqual(float(told[fountain, "range"]), sum(run["measured"]["values"][0][n]) / 8, delta=1e-4)

    def test_what_is_measured_comes_as_it_is_and_stays_when_the_rest_is_cancelled(self) -> None:
        pens = [p["id"] for p in self.ask("GET", "/api/desk").get_json()["pens"]][:12]
        job = self.ask("POST", "/api/lineup/runs", {"candidates": self.candidates(*pens)}).get_json()["id"]
        where = f"/api/lineup/runs/{job}"
        found: Any = {}
        for _ in self.client.get(f"/api/jobs/{job}/events").iter_encoded():  # a state each time it is further
            found = self.client.get(where).get_json()
            if "measured" in found:
                break
        self.assertTrue(2 <= len(found["candidates"]) < 12, len(found["candidates"]))
        self.assertEqual([c["key"] for c in found["candidates"]], found["measured"]["candidates"])
        places = self.ranked(job, weights={"range": 1}).get_json()["rankings"][0]["ranking"]["places"]
        self.assertGreaterEqual(len(places), len(found["candidates"]))
        self.ask("DELETE", f"/api/jobs/{job}")
        self.client.get(f"/api/jobs/{job}/events").get_data()  # until it ends
        self.assertEqual(self.ask("GET", f"/api/jobs/{job}").get_json()["state"], "cancelled")
        kept = self.ask("GET", where).get_json()
        self.assertLess(len(kept["candidates"]), 12)
        self.assertEqual(kept["measured"]["values"][:2], found["measured"]["values"][:2])

    def test_many_on_all_cores_are_what_they_are_one_by_one(self) -> None:
        pens = [p["id"] for p in self.ask("GET", "/api/desk").get_json()["pens"]][:16]
        _, many = self.measured(self.candidates(*pens))
        _, few = self.measured(self.candidates(*pens[:2]))
        self.assertEqual(many["measured"]["values"][:2], few["measured"]["values"])

    def test_unequal_conditions_are_said(self) -> None:
        pens = self.candidates("fen-fountain") + self.candidates("fen-fountain", device_id="paper-slate-10")
        _, run = self.measured(pens)
        self.assertIn("different devices", run["unequal"][0])
        self.assertIn("slate", run["candidates"][1]["name"].lower())

    def test_what_cannot_be_lined_up_is_refused(self) -> None:
        two = self.candidates("fen-fountain", "reed-ballpoint")
        self.ask("POST", "/api/sheets", {"id": "bare", "name": "Bare", **OF, "pen_id": "fen-fountain"})
        for body, status in (
            ({"candidates": two[:1]}, 400),
            ({"candidates": [two[0], two[0]]}, 400),
            ({"candidates": self.candidates("fen-fountain", "nowhere")}, 404),
            ({"candidates": self.candidates("fen-fountain", "reed-ballpoint", hand_id="nobody")}, 404),
            ({"candidates": two, "sheet_id": "bare"}, 400),
            (
                {
                    "candidates": self.candidates("fen-fountain", "reed-ballpoint", device_id="paper-slate-10"),
                    "sheet_id": "bare",
                },
                400,
            ),
            ({"candidates": []}, 422),
        ):
            self.assertEqual(self.ask("POST", "/api/lineup/runs", body).status_code, status, body)
        self.ask("PUT", "/api/pens/reed-ballpoint/bin", {"binned": True})
        self.addCleanup(self.ask, "PUT", "/api/pens/reed-ballpoint/bin", {"binned": False})
        reply = self.ask("POST", "/api/lineup/runs", {"candidates": two})
        self.assertEqual(reply.status_code, 400)
        self.assertIn("in the bin", reply.get_json()["error"]["message"])
        job, _ = self.measured(self.candidates("fen-fountain", "heron-brush"))
        nothing: list[dict[str, float]] = [{}, {"range": 0}, {"beauty": 1}]
        for weights in nothing:
            self.assertEqual(self.ranked(job, weights=weights).status_code, 400, weights)
        self.assertEqual(self.ranked("lineup-99", weights={"range": 1}).status_code, 404)

    def test_a_kept_lineup_opens_as_it_was_and_is_measured_again_with_todays_pens(self) -> None:
        job, run = self.measured(self.candidates("heron-brush", "reed-ballpoint"), glass="bare glass", tip="felt")
        own = [{"name": "grip", "points": dict.fromkeys(run["measured"]["candidates"], 50)}]
        weights = {"range": 1, "grip": 1}
        body = {"name": " Two for notes ", "weights": weights, "verdict": "The fen.", "own": own}
        kept = self.ask("POST", f"/api/lineup/runs/{job}/keep", body).get_json()
        self.assertEqual((kept["name"], kept["candidates"], kept["verdict"]), ("Two for notes", 2, "The fen."))
        wrong = self.ask("POST", f"/api/lineup/runs/{job}/keep", {**body, "weights": {"beauty": 1}})
        self.assertEqual(wrong.status_code, 400, "what could not be ranked again is not kept")
        opened = self.ask("POST", f"/api/lineup/kept/{kept['id']}/open").get_json()
        self.assertEqual(self.ask("GET", f"/api/lineup/runs/{opened['run_id']}").get_json(), run)
        self.assertEqual(
            {k: opened["set"][k] for k in ("weights", "own")},
            {"weights": weights, "own": [{**own[0], "note": ""}]},
        )
        report = self.ask("POST", f"/api/lineup/runs/{opened['run_id']}/report", {"weights": {"range": 1}})
        self.assertIn("written on bare glass", report.get_data(as_text=True))
        # nothing changed: nothing moved; a pen with less range: that moved, and surely, and not what it does not touch
        again = self.ask("POST", f"/api/lineup/kept/{kept['id']}/retest")
        self.assertEqual(again.status_code, 202)
        told = self.moved(again.get_json()["asked"], kept["id"])
        self.assertEqual((told["moved"], told["changed"]), ([], []))
        self.assertGreater(told["same"], 20)
        now = self.ask("GET", "/api/pens/heron-brush/revisions").get_json()["pens"][0]["recipe"]
        recipe = {**now, "press": {**now["press"], "range": 1.5}}
        new = self.ask("POST", "/api/pens/heron-brush/revisions", {"recipe": recipe})
        self.assertEqual(new.status_code, 201, new.get_json())
        told = self.moved(self.ask("POST", f"/api/lineup/kept/{kept['id']}/retest").get_json()["asked"], kept["id"])
        found = {(m["key"].split()[0], m["criterion"]): m for m in told["moved"]}
        self.assertTrue(found["heron-brush", "range"]["sure"] and not found["heron-brush", "range"]["better"])
        self.assertEqual({pen for pen, _ in found}, {"heron-brush"})
        self.assertNotIn(("heron-brush", "lag"), found)
        self.assertTrue(any("was revision" in words for words in told["changed"]), told["changed"])
        # a pen in the bin is left out by name; with one left there is nothing to compare
        self.ask("PUT", "/api/pens/reed-ballpoint/bin", {"binned": True})
        refused = self.ask("POST", f"/api/lineup/kept/{kept['id']}/retest")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("its pen is in the bin", refused.get_json()["error"]["message"])
        self.ask("PUT", "/api/pens/reed-ballpoint/bin", {"binned": False})
        left = self.ask("PUT", f"/api/lineup/kept/{kept['id']}/bin", {"binned": True}).get_json()["lineups"]
        self.assertEqual(left, [])
        self.assertEqual(self.ask("POST", f"/api/lineup/kept/{kept['id']}/open").status_code, 404)
        self.assertEqual(self.ask("POST", "/api/lineup/kept/none/open").status_code, 404)

    def moved(self, asked: Any, kept_id: str) -> Any:
        job = self.ended_job(asked["id"])
        return self.ask("GET", f"/api/lineup/runs/{job}/moved?kept_id={kept_id}").get_json()
