"""The page coming about again: nothing at first, all of it at last, and in between only what was written by then."""

import io
import zipfile
from typing import Any

import numpy as np
from PIL import Image, ImageSequence

from gray_quill.core.panel.replay import STEADY_MM_S
from gray_quill.formats.png import read_png
from tests.web.api_case import ApiCase

SHEET = "/api/sheets/trap-log"
BOX = "left=0&top=0&right=148&bottom=210&scale=2"


class ReplayApi(ApiCase):
    def moment(self, at_s: float, by: str = "time", sheet: str = SHEET) -> np.ndarray:
        reply = self.client.get(f"{sheet}/replay.png?by={by}&at_s={at_s}&{BOX}")
        self.assertEqual(reply.status_code, 200, reply.get_json(silent=True))
        return read_png(reply.data).astype(int)

    def told(self, by: str = "time") -> dict[str, Any]:
        return dict(self.ask("GET", f"{SHEET}/replay?by={by}").get_json())

    def test_ink_comes_about_stroke_by_stroke_until_the_page_is_whole(self) -> None:
        page = read_png(self.client.get(f"{SHEET}/page.png?scale=2").data).astype(int)
        for by in ("time", "stroke", "steady"):
            with self.subTest(by):
                told = self.told(by)
                self.assertEqual(len(told["strokes"]), len(self.strokes("trap-log")))
                np.testing.assert_array_equal(self.moment(told["lasts_s"] + 1, by), page)
                empty = self.moment(0, by)
                inked = [
                    int((self.moment(share * told["lasts_s"], by) != empty).any(axis=2).sum())
                    for share in (0.2, 0.5, 1)
                ]
                self.assertTrue(0 < inked[0] < inked[1] < inked[2], inked)
                starts = [s["from_s"] for s in told["strokes"]]
                self.assertEqual(starts, sorted(starts))

    def test_only_the_box_of_what_is_written_changes(self) -> None:
        told = self.told()["strokes"]
        one = next(s for s in told[3:] if s["until_s"] - s["from_s"] > 0.3)
        before, after = self.moment(one["from_s"] - 1e-3), self.moment(one["until_s"])
        rows, columns = np.nonzero((before != after).any(axis=2))
        left, top, right, bottom = (2 * v for v in one["box_mm"])
        self.assertTrue(rows.size)
        self.assertTrue(columns.min() >= left - 1 and columns.max() <= right + 1)
        self.assertTrue(rows.min() >= top - 1 and rows.max() <= bottom + 1)

    def test_the_steady_way_goes_at_one_speed_and_the_even_one_gives_strokes_alike(self) -> None:
        lasts = [s["until_s"] - s["from_s"] for s in self.told("stroke")["strokes"]]
        self.assertTrue(all(abs(v - 0.4) < 2e-4 or v == 0 for v in lasts))
        for stroke in self.told("steady")["strokes"]:
            left, top, right, bottom = stroke["box_mm"]
            span = max(right - left, bottom - top)
            self.assertGreater(
                (stroke["until_s"] - stroke["from_s"]) * STEADY_MM_S, 0.9 * span - 7
            )  # the box has the pen's width

    def test_a_film_of_it_ends_with_the_page_and_is_the_same_in_every_form(self) -> None:
        asked = {"speed": 32, "frames_hz": 10, "width_px": 296, "by": "time"}
        each = [self.pictures(self.film({**asked, "form": form}), form) for form in ("zip", "webp", "png")]
        begun, ended = each[0][0], each[0][-1]
        np.testing.assert_array_equal(ended, read_png(self.client.get(f"{SHEET}/page.png?scale=2").data))
        self.assertGreater((begun != ended).any(axis=2).sum(), 5000)
        self.assertGreater(len(each[0]), 5)
        for other in each[1:]:
            np.testing.assert_array_equal(other, each[0])

    def pictures(self, film: bytes, form: str) -> list[Any]:
        """Those that differ from the one before; an animation holds no others."""
        if form == "zip":
            frames = zipfile.ZipFile(io.BytesIO(film))
            every: list[Any] = [Image.open(io.BytesIO(frames.read(name))) for name in frames.namelist()]
        else:
            every = ImageSequence.all_frames(Image.open(io.BytesIO(film)))
        shown = [np.asarray(picture.convert("RGB")) for picture in every]
        return [b for a, b in zip([None, *shown], shown, strict=False) if a is None or (a != b).any()]

    def film(self, asked: dict[str, object]) -> bytes:
        job = self.finished(self.ask("POST", f"{SHEET}/replay/film", asked))
        return bytes(self.client.get(f"/api/exports/{job}/file").data)

    def test_too_long_a_film_and_an_empty_page_are_refused(self) -> None:
        refused = self.ask("POST", f"{SHEET}/replay/film", {"speed": 0.25, "frames_hz": 30, "width_px": 2000})
        self.assertEqual(refused.status_code, 413)
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": "empty", "name": "Empty", **of})
        self.assertEqual(self.ask("GET", "/api/sheets/empty/replay").get_json()["error"]["code"], "no_ink")
