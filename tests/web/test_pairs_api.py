"""Blind pairs over the API: nothing names a pen, answers are kept in turn, judges are laid side by side."""

import json
from typing import Any

import numpy as np

from tests.web.api_case import ApiCase

PENS = ("fen-fountain", "reed-ballpoint", "heron-brush")


class PairsApi(ApiCase):
    def begin(self, *pens: str, judge: str = "me", **more: object) -> Any:
        body = {"pens": [{"pen_id": p} for p in pens or PENS], "sheet_id": "first-count", "judge": judge, **more}
        return self.ask("POST", "/api/pairs", body)

    def answer(self, judging: str, asked: int, answer: int | None) -> Any:
        return self.ask("POST", f"/api/pairs/{judging}/answers", {"asked": asked, "answer": answer})

    def judged(self, judging: str, likes: tuple[str, ...], count: int) -> Any:
        """A judge who knows the lines by sight and likes the pens in this order; the same is no different."""
        shown = self.ask("GET", f"/api/pairs/{judging}/pair").get_json()
        for _ in range(count):
            one, other = (self.looks[shown[k]] for k in ("one", "other"))
            answer = 0 if one == other else 1 if likes.index(one) < likes.index(other) else -1
            shown = self.answer(judging, shown["asked"], answer).get_json()
        return shown

    def setUp(self) -> None:
        super().setUp()
        for one in self.ask("GET", "/api/pairs").get_json()["judgings"]:
            self.ask("PUT", f"/api/pairs/{one['id']}/bin", {"binned": True})
        source = {"sheet_id": "first-count", "part": "line", "stroke_ids": None}
        self.looks = {}
        for pen in PENS:
            recipe = self.ask("GET", f"/api/pens/{pen}/revisions").get_json()["pens"][0]["recipe"]
            told = self.ask(
                "POST", "/api/choosing/pair", {"recipe": recipe, "source": source, "answers": []}
            ).get_json()
            at = next(told[k] for k in ("one", "other") if not any(told[k]["place"]))  # where the search begins
            self.looks[at["image"]] = pen

    def test_a_judge_is_shown_lines_without_names_and_told_in_the_end(self) -> None:
        begun = self.begin(seed=3)
        self.assertEqual(begun.status_code, 201)
        judging = begun.get_json()["id"]
        text = self.ask("GET", f"/api/pairs/{judging}/pair").get_data(as_text=True)
        self.assertFalse(any(pen in text for pen in PENS), "blind")
        self.assertEqual(self.ask("POST", f"/api/pairs/{judging}/told", {}).status_code, 400, "too soon")
        self.judged(judging, ("reed-ballpoint", "fen-fountain", "heron-brush"), 24)
        told = self.ask("POST", f"/api/pairs/{judging}/told", {}).get_json()
        self.assertEqual([p["pen_id"] for p in told["pens"]], ["reed-ballpoint", "fen-fountain", "heron-brush"])
        self.assertEqual((told["told"]["agrees"], told["told"]["checked"]), (1.0, 1.0))
        self.assertTrue(told["pulled"], "who never lost has no end")
        self.assertFalse(told["at_random"])
        self.assertIsNone(told["agreement"], "one judge agrees with nobody")
        # the answer before can be taken back; a second window's answer to the same pair is told
        now = self.ask("GET", f"/api/pairs/{judging}/pair").get_json()
        before = self.answer(judging, now["asked"], None).get_json()
        self.assertEqual(before["asked"], now["asked"] - 1)
        self.assertEqual(self.answer(judging, now["asked"], 1).status_code, 409)
        self.assertEqual(self.answer(judging, before["asked"], 2).status_code, 422)

    def test_judges_are_brought_together_by_file_and_agree_or_not(self) -> None:
        mine, other = self.begin(seed=1).get_json()["id"], self.begin(judge="moss", seed=2).get_json()["id"]
        liked = ("fen-fountain", "heron-brush", "reed-ballpoint")
        self.judged(mine, liked, 15)
        self.judged(other, liked[::-1], 15)
        told = self.ask("POST", f"/api/pairs/{mine}/told", {}).get_json()
        self.assertEqual((told["others"], told["agreement"]), (["moss"], -1.0))
        file = json.loads(self.ask("GET", f"/api/pairs/{other}/file").data)
        self.assertEqual((file["judge"], len(file["answers"])), ("moss", 15))
        self.ask("PUT", f"/api/pairs/{other}/bin", {"binned": True})
        self.assertEqual(self.ask("POST", f"/api/pairs/{mine}/told", {}).get_json()["others"], [])
        # in other numbers, from elsewhere: the same judge; twice is once
        file["pens"] = file["pens"][::-1]
        file["answers"] = [[2 - a, 2 - b, c] for a, b, c in file["answers"]]
        for _ in range(2):
            self.assertEqual(self.bring(mine, file).status_code, 201)
        again = self.ask("POST", f"/api/pairs/{mine}/told", {}).get_json()
        self.assertEqual((again["others"], again["agreement"]), (["moss"], -1.0))
        every: list[Any] = [
            {**file, "pens": [{**file["pens"][0], "revision": 9}, *file["pens"][1:]]},
            {**file, "sheet": "trap-log"},
            {**file, "answers": [[0, 7, 1]]},
            {**file, "answers": [[0, 1]]},
            {**file, "judge": ""},
            {**file, "format": "gray-quill/pairs@9"},
            {**file, "pens": file["pens"][:1]},
            [],
        ]
        for spoilt in every:
            self.assertEqual(self.bring(mine, spoilt).status_code, 400, spoilt if isinstance(spoilt, list) else "")
        self.assertEqual(len(self.ask("GET", "/api/pairs").get_json()["judgings"]), 2)

    def bring(self, judging: str, file: object) -> Any:
        where = f"/api/pairs/{judging}/others"
        return self.client.post(where, data=json.dumps(file), content_type="application/octet-stream")

    def test_beside_the_measured_ranking_it_is_said_what_one_goes_by(self) -> None:
        judging = self.begin(seed=5).get_json()["id"]
        self.judged(judging, ("heron-brush", "fen-fountain", "reed-ballpoint"), 20)
        of = {"hand_id": "right-firm", "device_id": "tablet-11"}
        job = self.finished(self.ask("POST", "/api/lineup/runs", {"candidates": [{"pen_id": p, **of} for p in PENS]}))
        body = {"run_id": job, "weights": {"range": 1}}
        told = self.ask("POST", f"/api/pairs/{judging}/told", body).get_json()
        self.assertEqual(told["rho"], told["rho"] and float(np.clip(told["rho"], -1, 1)))
        ranges = next(w for w in told["weights"] if w["criterion"] == "range")
        self.assertGreater(ranges["weight"], 0, "what is liked has the range")
        self.assertLess(ranges["low"], ranges["weight"])
        other = self.finished(
            self.ask("POST", "/api/lineup/runs", {"candidates": [{"pen_id": p, **of} for p in PENS[:2]]})
        )
        told = self.ask("POST", f"/api/pairs/{judging}/told", {**body, "run_id": other}).get_json()
        self.assertEqual((told["rho"], told["weights"]), (None, []), "not all of them were measured there")
        told = self.ask("POST", f"/api/pairs/{judging}/told", {**body, "run_id": "lineup-99"}).get_json()
        self.assertEqual((len(told["pens"]), told["rho"]), (3, None), "a line-up that is gone takes nothing along")

    def test_what_cannot_be_judged_is_refused(self) -> None:
        self.assertEqual(self.begin("fen-fountain").status_code, 400)
        self.assertEqual(self.begin("fen-fountain", "fen-fountain").status_code, 400)
        self.assertEqual(self.begin("fen-fountain", "none").status_code, 404)
        self.ask("POST", "/api/sheets", {"id": "bare", "name": "Bare", "paper": "blank white", **OF})
        body = {"pens": [{"pen_id": p} for p in PENS], "sheet_id": "bare"}
        self.assertEqual(self.ask("POST", "/api/pairs", body).get_json()["error"]["code"], "no_ink")
        self.assertEqual(self.begin(judge=" ").status_code, 422)


OF = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
