"""Strokes through the API: each is answered for itself, shown, binned and given back."""

import io
import uuid
from typing import Any
from unittest import mock

import numpy as np
from PIL import Image

from gray_quill.core.errors import TooLarge
from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from tests.web.api_case import STROKE, ApiCase


class Writing(ApiCase):
    def test_strokes_are_kept_once_shown_binned_and_given_back(self) -> None:
        self.ask(
            "POST",
            "/api/sheets",
            {
                "id": "w",
                "name": "W",
                "paper": "blank A6",
                "hand_id": "left-steep",
                "device_id": "tablet-11",
                "pen_id": "fen-fountain",
            },
        )
        for state in ("kept", "there"):
            reply = self.ask("POST", "/api/sheets/w/strokes", {"strokes": [STROKE]}).json
            self.assertEqual([(a["id"], a["state"]) for a in reply["answers"]], [("one", state)])
        kept = self.strokes("w")[0].trace
        np.testing.assert_allclose(kept.t_s, [0, 0.01, 0.02])
        np.testing.assert_allclose(kept.force, [0.2, 0.5, 0.4], atol=1e-6)

        def darkest() -> int:
            page = self.ask("GET", "/api/sheets/w/page.png?scale=8&left=9&top=19&right=13&bottom=22")
            return int(np.asarray(Image.open(io.BytesIO(page.data)).convert("L")).min())

        self.assertLess(darkest(), 90)
        self.ask("PUT", "/api/sheets/w/strokes/bin", {"ids": ["one"], "binned": True})
        self.assertGreater(darkest(), 200)
        self.ask("PUT", "/api/sheets/w/strokes/bin", {"ids": ["one"], "binned": False})
        self.assertLess(darkest(), 90)

    def test_the_hand_writes_below_what_is_there_until_the_sheet_is_full(self) -> None:
        self.ask(
            "POST",
            "/api/sheets",
            {
                "id": "h",
                "name": "H",
                "paper": "blank A7",
                "hand_id": "left-steep",
                "device_id": "tablet-11",
                "pen_id": "fen-fountain",
            },
        )
        last = 0.0
        for seed in range(30):
            reply = self.ask("POST", "/api/sheets/h/write", {"text": "moth", "seed": seed})
            if reply.status_code == 400:
                self.assertIn("full", reply.json["error"]["message"])
                break
            self.assertGreater(reply.json["box_mm"][3], last)
            last = reply.json["box_mm"][3]
        else:
            self.fail("the sheet never filled up")

    def test_a_page_part_is_the_same_pixels_as_the_whole(self) -> None:
        whole = np.asarray(Image.open(io.BytesIO(self.ask("GET", "/api/sheets/trap-log/page.png?scale=5").data)))
        part = np.asarray(
            Image.open(
                io.BytesIO(
                    self.ask("GET", "/api/sheets/trap-log/page.png?scale=5&left=20&top=40&right=60&bottom=80").data
                )
            )
        )
        np.testing.assert_array_equal(part, whole[200:400, 100:300])

    def test_what_the_hand_wrote_comes_back_after_undo_and_again(self) -> None:
        """Written, put into the bin, another sheet, back, written again: new ink each time, under new ids."""
        seen: set[str] = set()
        for _ in range(3):
            reply = self.ask("POST", "/api/sheets/count-by-trap/write", {"text": "fen", "seed": 1}).json
            ids = [a["id"] for a in reply["answers"]]
            self.assertTrue(ids and all(a["state"] == "kept" for a in reply["answers"]))
            self.assertFalse(seen & set(ids))
            seen |= set(ids)
            there = {s.id for s in self.strokes("count-by-trap")}
            self.assertLessEqual(set(ids), there)
            self.ask("PUT", "/api/sheets/count-by-trap/strokes/bin", {"ids": ids, "binned": True})
        self.assertFalse(seen & {s.id for s in self.strokes("count-by-trap")})


class OneByOne(ApiCase):
    """A bad stroke among good ones."""

    def send(self, strokes: list[Any], sheet: str = "moth-sheet") -> Any:
        return self.ask("POST", f"/api/sheets/{sheet}/strokes", {"strokes": strokes})

    def test_each_bad_stroke_is_refused_with_its_reason_and_takes_no_other_along(self) -> None:
        far = [k * 10.0 % 20_000 - 10_000 for k in range(0, 3_000_000, 997)]
        cases: list[tuple[dict[str, Any] | object, str, str]] = [
            (STROKE | {"id": "b1", "x_mm": [1, 2]}, "bad_trace", "x_mm has 2 samples"),
            (STROKE | {"id": "b2", "t_ms": [0, 20, 10]}, "bad_trace", "backwards"),
            (STROKE | {"id": "b3", "t_ms": [-5, 0, 10]}, "bad_trace", "negative"),
            (STROKE | {"id": "b4", "x_mm": [0, 1e5, 0]}, "bad_trace", "beyond 10000 mm"),
            (STROKE | {"id": "b5", "x_mm": [1, None, 2]}, "bad_body", "x_mm.1"),
            (STROKE | {"id": "../etc"}, "bad_body", "id"),
            (STROKE | {"id": "b6", "revision": 77}, "no_pen", "no revision 77"),
            (STROKE | {"id": "b7", "pen_id": "ghost"}, "no_pen", "'ghost'"),
            (STROKE | {"id": "trap-log-0"}, "elsewhere", "another sheet"),
            (
                STROKE | {"id": "b8", "t_ms": list(range(len(far))), "x_mm": far, "y_mm": far, "force": None},
                "too_large",
                "m long",
            ),
            (3, "bad_body", "stroke"),
            (STROKE | {"id": "b9", "smell": 1}, "bad_body", "smell"),
        ]
        sheet = self.sheet()
        good = [STROKE | {"id": f"good-{k}"} for k in range(len(cases) + 1)]
        batch = [s for k, (bad, _, _) in enumerate(cases) for s in (good[k], bad)] + [good[-1]]
        reply = self.send(batch, sheet)
        self.assertEqual(reply.status_code, 200)
        answers = reply.json["answers"]
        self.assertEqual([a["state"] for a in answers[::2]], ["kept"] * len(good))
        for (_, code, words), answer in zip(cases, answers[1::2], strict=True):
            with self.subTest(words=words):
                self.assertEqual((answer["state"], answer["code"]), ("refused", code))
                self.assertIn(words, answer["reason"])
        self.assertEqual([s.id for s in self.strokes(sheet)], [s["id"] for s in good])
        again = self.send(batch, sheet).json["answers"]
        self.assertEqual([a["state"] for a in again[::2]], ["there"] * len(good))
        all_bad = self.send([cases[0][0]], sheet).json
        self.assertEqual((all_bad["box_mm"], [a["state"] for a in all_bad["answers"]]), (None, ["refused"]))

    def test_dashes_that_would_be_too_many_are_refused_before_they_are_kept(self) -> None:
        """Thousands of samples from side to side with a dotted pen: refused at once, and nothing was kept."""
        recipe = {"body": {"width_mm": 0.05, "line": {"pattern": "dot", "scale": 0.3}}}
        self.ask("POST", "/api/pens", {"id": "hair-dots", "recipe": recipe})
        n, sheet = 3000, self.sheet()
        zigzag = STROKE | {
            "pen_id": "hair-dots",
            "t_ms": list(range(n)),
            "x_mm": [(-1) ** k * 30 for k in range(n)],
            "y_mm": [k / n for k in range(n)],
            "force": None,
        }
        answer = self.send([zigzag], sheet).json["answers"][0]
        self.assertEqual(answer["code"], "too_large")
        self.assertIn("marks of a dot line", answer["reason"])
        self.assertEqual(self.strokes(sheet), [])

    def test_what_is_kept_is_never_told_to_be_refused(self) -> None:
        """Whatever goes wrong after the strokes are on the disk."""
        sheet = self.sheet()
        for trouble in (TooLarge("too long"), ZeroDivisionError()):
            with (
                mock.patch("gray_quill.web.strokes.box_of", side_effect=trouble),
                self.assertLogs("gray_quill", "ERROR"),
            ):
                reply = self.send([STROKE | {"id": f"k-{uuid.uuid4().hex[:8]}"}], sheet)
            self.assertEqual((reply.status_code, reply.json["box_mm"]), (200, None))
            self.assertEqual([a["state"] for a in reply.json["answers"]], ["kept"])
        self.assertEqual(len(self.strokes(sheet)), 2)

    def test_a_sheet_in_the_bin_takes_none(self) -> None:
        sheet = self.sheet()
        self.ask("PUT", f"/api/sheets/{sheet}/bin", {"binned": True})
        reply = self.send([STROKE], sheet)
        self.assertEqual((reply.status_code, reply.json["error"]["code"]), (409, "binned"))

    def test_a_refused_import_leaves_no_sheet(self) -> None:
        before = self.ask("GET", "/api/desk").json["sheets"]
        far = "".join(f"<trace>{', '.join(f'{9_000 * (-1) ** k} {k}' for k in range(400))}</trace>")
        for data in (
            b"<ink xmlns='http://www.w3.org/2003/InkML'></ink>",
            f"<ink xmlns='http://www.w3.org/2003/InkML'><trace>1 1, 2 2</trace>{far}</ink>".encode(),
        ):
            reply = self.client.post("/api/sheets/trap-log/file", data=data, content_type="application/inkml+xml")
            self.assertIn(reply.status_code, (400, 413), reply.data)
        self.assertEqual(self.ask("GET", "/api/desk").json["sheets"], before)

    def sheet(self) -> str:
        made = {"id": f"s-{uuid.uuid4().hex[:8]}", "name": "S", "paper": "blank A6", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", made | {"hand_id": "left-steep", "device_id": "tablet-11"})
        return str(made["id"])


class Unchanged(ApiCase):
    def test_a_change_from_an_older_sight_is_told_what_is_there(self) -> None:
        sheet = next(s for s in self.ask("GET", "/api/desk").json["sheets"] if s["id"] == "trap-log")
        one = self.ask("PATCH", "/api/sheets/trap-log", {"name": "one", "saw": sheet["version"]})
        self.assertEqual(one.json["version"], sheet["version"] + 1)
        two = self.ask("PATCH", "/api/sheets/trap-log", {"name": "two", "saw": sheet["version"]})
        self.assertEqual((two.status_code, two.json["error"]["code"]), (409, "stale"))
        self.assertIn("'one'", two.json["error"]["message"])
        self.assertEqual(self.ask("GET", "/api/sheets/trap-log").json["sheet"]["name"], "one")
        recipe = write_recipe(SHIPPED_PENS["heron-brush"])
        revisions = "/api/pens/heron-brush/revisions"
        self.assertEqual(self.ask("POST", revisions, {"recipe": recipe, "saw": 1}).json["revision"], 2)
        late = self.ask("POST", revisions, {"recipe": recipe, "saw": 1})
        self.assertEqual((late.status_code, late.json["error"]["code"]), (409, "stale"))
        self.assertIn("Revision 2", late.json["error"]["message"])
        self.assertEqual(len(self.ask("GET", revisions).json["pens"]), 2)

    def test_a_binned_pen_cannot_be_put_on_the_roll(self) -> None:
        self.ask("PUT", "/api/pens/sedge-nib/bin", {"binned": True})
        reply = self.ask("PUT", "/api/desk/roll", {"pen_ids": ["sedge-nib"]})
        self.assertEqual((reply.status_code, reply.json["error"]["code"]), (409, "binned"))
