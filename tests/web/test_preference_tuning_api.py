"""Tuning by choosing over the API: a session is its answers and a seed, and nothing of it is kept on the server."""

from typing import Any

from gray_quill.core.lineup.preference_tuning import ENOUGH, REPEATS_EVERY
from tests.web.api_case import ApiCase

LINE = {"sheet_id": "first-count", "part": "line", "stroke_ids": None}


class ChoosingApi(ApiCase):
    def pen(self, pen_id: str) -> Any:
        return self.ask("GET", f"/api/pens/{pen_id}/revisions").get_json()["pens"][0]["recipe"]

    def pair(self, recipe: Any, answers: list[Any], **more: object) -> Any:
        body = {"recipe": recipe, "source": LINE, "answers": answers, **more}
        return self.ask("POST", "/api/choosing/pair", body)

    def preferred(self, recipe: Any, answers: list[Any], **more: object) -> Any:
        body = {"recipe": recipe, "source": LINE, "answers": answers, **more}
        return self.ask("POST", "/api/choosing/preferred", body)

    def session(self, recipe: Any, likes: int, count: int, **more: object) -> list[Any]:
        """Answers of somebody who goes by one direction only, and sees no difference where there is none of it."""
        answers: list[Any] = []
        for _ in range(count):
            told = self.pair(recipe, answers, **more).get_json()
            ahead = told["one"]["place"][likes] - told["other"]["place"][likes]
            answers.append(
                {
                    "one": told["one"]["place"],
                    "other": told["other"]["place"],
                    "answer": (ahead > 0) - (ahead < 0),
                    "repeats": told["repeats"],
                }
            )
        return answers

    def test_who_goes_by_one_direction_is_told_so_and_gets_a_pen_with_more_of_it(self) -> None:
        recipe = self.pen("fen-fountain")
        answers = self.session(recipe, 3, ENOUGH)
        told = self.preferred(recipe, answers).get_json()
        self.assertIn("broader", [one["words"] for one in told["goes_by"]])
        self.assertGreater(told["recipe"]["body"]["width_mm"], recipe["body"]["width_mm"])
        self.assertEqual(told["recipe"]["kind"], recipe["kind"], "inside what the kind of pen is")
        self.assertEqual(
            (told["consistent"], told["asked_twice"]), (1.0, sum(a["repeats"] is not None for a in answers))
        )
        self.assertNotEqual(told["image"], told["before"])
        self.assertGreater(told["sure"], 0.8)
        self.assertIn("broader", told["words"])

    def test_it_can_be_left_and_gone_on_with_and_taken_back(self) -> None:
        recipe = self.pen("reed-ballpoint")
        answers = self.session(recipe, 0, REPEATS_EVERY, seed=9)
        again = [self.pair(recipe, answers, seed=9).get_json() for _ in range(2)]
        self.assertEqual(again[0], again[1])
        self.assertEqual((again[0]["asked"], again[0]["enough"]), (REPEATS_EVERY, ENOUGH))
        before = self.pair(recipe, answers[:-1], seed=9).get_json()
        self.assertEqual([before["one"]["place"], before["other"]["place"]], [answers[-1]["one"], answers[-1]["other"]])
        self.assertIsNotNone(answers[-1]["repeats"], "one in so many is asked again")
        first = [self.pair(recipe, [], seed=seed).get_json() for seed in (9, 10)]
        away = [next(p for k in ("one", "other") if any(p := told[k]["place"])) for told in first]
        self.assertNotEqual(away[0], away[1], "another seed asks otherwise, beside the same start")

    def test_washes_are_chosen_by_what_washes_have(self) -> None:
        recipe = self.pen("dusk-wash")
        answers = self.session(recipe, 0, 6, directions=8)
        self.assertTrue(all(len(a["one"]) == 4 for a in answers), "a wash has four directions")
        told = self.preferred(recipe, answers, directions=8).get_json()
        self.assertGreaterEqual(told["recipe"]["body"]["opacity"], recipe["body"]["opacity"], "deeper")
        self.assertTrue(told["recipe"]["kind"] == "highlighter")

    def test_six_and_eight_directions_are_asked_along_all_of_them(self) -> None:
        recipe = self.pen("fen-fountain")
        for count in (6, 8):
            told = self.pair(recipe, [], directions=count).get_json()
            self.assertEqual({len(told[k]["place"]) for k in ("one", "other")}, {count})

    def test_what_is_no_session_is_refused_with_words(self) -> None:
        recipe = self.pen("fen-fountain")
        fair = {"one": [0.0] * 4, "other": [0.5] * 4, "answer": 1, "repeats": None}
        for answers, status in (
            ([{**fair, "one": [0.0] * 6}], 400),
            ([{**fair, "repeats": 0}], 400),
            ([{**fair, "answer": 2}], 422),
            ([{**fair, "one": [2.0] * 4}], 422),
            ([{**fair, "one": [0.0] * 3}], 422),
            ([fair] * 81, 422),
            ([fair] * 80, 400),
        ):
            reply = self.pair(recipe, answers)
            self.assertEqual(reply.status_code, status, answers[:1])
            self.assertTrue(reply.get_json()["error"]["message"])
        self.assertEqual(self.preferred(recipe, [fair] * 2).status_code, 400, "two choices say nothing")
        self.assertEqual(self.preferred(recipe, [fair] * 3).status_code, 200)
        nobody = {"recipe": recipe, "source": {**LINE, "sheet_id": "none"}, "answers": []}
        self.assertEqual(self.ask("POST", "/api/choosing/pair", nobody).status_code, 404)
