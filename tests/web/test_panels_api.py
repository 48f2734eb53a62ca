"""Panels over the API: proofs, own panels, a pen that fits, and pages in time whose films are what the core plays."""

import base64
import io

import numpy as np
from PIL import Image

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.formats.film_in import read_film_zip
from tests.web.api_case import ApiCase

ON_TABLET = {"sheet_id": "trap-log", "device_id": "tablet-11"}
FILM = {"sheet_id": "count-by-trap", "x_mm": 40, "y_mm": 30, "width_mm": 30, "frames_hz": 10}


def frames_of(film: dict, strip: str) -> np.ndarray:
    """A film's frames put together again from its reels."""
    reels = [Image.open(io.BytesIO(base64.b64decode(reel.split(",")[1]))) for reel in film["reels"]]
    data = np.concatenate([np.asarray(reel).reshape(-1) for reel in reels])
    shape = film["height_px"], film["width_px"], film["channels"]
    out, now, patches = [], np.zeros(shape, np.uint8), list(film[strip])
    for frame in range(film["frames"]):
        while patches and patches[0]["frame"] == frame:
            p = patches.pop(0)
            part = data[p["offset"] : p["offset"] + p["width"] * p["height"] * shape[2]]
            there = slice(p["top"], p["top"] + p["height"]), slice(p["left"], p["left"] + p["width"])
            now[there] = part.reshape(p["height"], p["width"], shape[2])
        out.append(now.copy())
    return np.array(out)


class Proofs(ApiCase):
    def test_proofs_have_the_panels_pixels_and_greys(self) -> None:
        on_pad = {"sheet_id": "trap-log", "device_id": "paper-pad-8"}
        proof = self.ask("POST", "/api/panels/proof", {**on_pad, "toning": {"dither": "stucki"}}).json
        picture = Image.open(io.BytesIO(base64.b64decode(proof["image"].split(",")[1])))
        self.assertEqual(picture.size, (1748, 2480))
        self.assertEqual((proof["width_px"], proof["height_px"]), picture.size)
        self.assertLessEqual(len(np.unique(np.asarray(picture))), 8)
        two = self.ask("POST", "/api/panels/proof", {**on_pad, "toning": {"greys": 2}}).json
        self.assertLessEqual(two["readings"]["greys_used"], 2)
        self.assertLess(proof["pen"]["needed_mm"], two["readings"]["thinnest_mm"] + 1)
        self.assertIn(["Dusk wash 5", "Fern wash 5"], proof["alike"])

    def test_panels_of_ones_own_are_made_and_changed_and_shipped_ones_stay(self) -> None:
        tablet = next(d for d in self.ask("GET", "/api/desk").json["devices"] if d["id"] == "tablet-11")["device"]
        paper = {**tablet["panel"], "technology": "e-paper", "greys": 4, "colour": False}
        made = self.ask("POST", "/api/panels/own", {"name": "Fold", "like": "tablet-11", "panel": paper}).json
        self.assertEqual((made["device"]["kind"], made["device"]["name"]), ("e-paper", "Fold"))
        self.assertEqual((made["device"]["panel"], made["device"]["touch"]), (paper, tablet["touch"]))
        back = {**paper, "technology": "OLED"}
        changed_ = self.ask("PUT", f"/api/panels/own/{made['id']}", {"panel": back}).json
        self.assertEqual((changed_["device"]["kind"], changed_["device"]["panel"]), ("tablet", back))
        shipped = self.client.put("/api/panels/own/tablet-11", json={"panel": paper})
        self.assertEqual((shipped.status_code, "came with" in shipped.json["error"]["message"]), (409, True))
        bad = self.client.post("/api/panels/own", json={"name": "Fold", "like": "ghost", "panel": paper})
        self.assertEqual(bad.status_code, 404)
        wrong = self.client.post(
            "/api/panels/own", json={"name": "F", "like": "tablet-11", "panel": {**paper, "ppi": 9}}
        )
        self.assertEqual((wrong.status_code, wrong.json["error"]["field"]), (400, "panel.ppi"))
        as_tried = self.ask("POST", "/api/panels/proof", {**ON_TABLET, "panel": {**tablet["panel"], "ppi": 127}}).json
        self.assertEqual((as_tried["width_px"], as_tried["height_px"]), (740, 1050))

    def test_two_panels_are_laid_over_each_other(self) -> None:
        pad = {**ON_TABLET, "device_id": "paper-pad-8"}
        same = self.ask("POST", "/api/panels/difference", {"one": pad, "other": pad}).json
        self.assertEqual((same["mean_l"], same["most_l"]), (0, 0))
        other = self.ask("POST", "/api/panels/difference", {"one": ON_TABLET, "other": pad}).json
        self.assertGreater(other["most_l"], 5)
        picture = Image.open(io.BytesIO(base64.b64decode(other["image"].split(",")[1])))
        self.assertEqual((picture.mode, picture.size), ("RGBA", (296, 420)))
        two = self.client.post("/api/panels/difference", json={"one": pad, "other": {**pad, "sheet_id": "first-count"}})
        self.assertEqual((two.status_code, two.json["error"]["field"]), (400, "other.sheet_id"))

    def test_a_pen_is_fitted_to_panels_and_the_proof_shows_it_before_it_is_kept(self) -> None:
        """A grey hairline that vanishes on two panels: the change that is told keeps it there; nothing is kept yet."""
        pen = self.ask("GET", "/api/desk").json["pens"][0]
        faint = {**pen["recipe"], "body": {**pen["recipe"]["body"], "width_mm": 0.15, "colour": "#a0a0a0"}}
        asked = {"sheet_id": "trap-log", "device_id": "paper-pad-8", "light": "office"}
        source = {"sheet_id": "trap-log"}
        devices = ["paper-pad-8", "clamshell-11"]
        found = self.ask(
            "POST", "/api/panels/fit", {"recipe": faint, "source": source, "device_ids": devices, "light": "office"}
        ).json
        self.assertGreater(min(found["before"]), 0.5)
        self.assertLessEqual(max(found["after"]), 0.02)
        fitted = {**faint, "body": {**faint["body"], "width_mm": found["width_mm"], "colour": found["colour"]}}
        shares = [
            self.ask("POST", "/api/panels/proof", {**asked, "recipe": r}).json["readings"]["hairline_share"]
            for r in (faint, fitted, None)
        ]
        self.assertGreater(shares[0], shares[1] + 0.1)
        again = self.ask("GET", "/api/desk").json["pens"][0]
        self.assertEqual((again["recipe"], again["revision"]), (pen["recipe"], pen["revision"]))
        sun = {"recipe": faint, "source": source, "device_ids": ["tablet-11"], "light": "sun"}
        self.assertIsNone(self.ask("POST", "/api/panels/fit", sun).json["width_mm"])

    def test_what_helps_is_told_and_read_when_it_is_tried(self) -> None:
        """The prediction is the reading of the proof with the change; ink that comes late is told too."""
        pen = self.ask("GET", "/api/desk").json["pens"][0]
        grey = {**pen["recipe"], "body": {**pen["recipe"]["body"], "width_mm": 0.15, "colour": "#a0a0a0"}}
        asked = {"sheet_id": "trap-log", "device_id": "paper-slate-10", "light": "office", "recipe": grey}
        before = self.ask("POST", "/api/panels/proof", asked).json
        self.assertGreater(sum(map(len, before["broken"])), 100)
        told = self.ask("POST", "/api/panels/advice", asked).json["advice"]
        shares = [a for a in told if a["reading"] == ["panel", "hairline_share"]]
        self.assertTrue(any(a["recipe"] for a in shares) and any(a["toning"] for a in shares))
        for a in shares:
            tried = {**asked, "recipe": a["recipe"] or grey, "toning": a["toning"] or {}}
            then = self.ask("POST", "/api/panels/proof", tried).json["readings"]["hairline_share"]
            self.assertEqual((a["before"], a["after"]), (before["readings"]["hairline_share"], then), a["doing"])
        toothed = {**grey, "tooth": {**grey["tooth"], "grain": "laid"}}
        late = self.ask("POST", "/api/panels/advice", {**asked, "recipe": toothed}).json["advice"]
        self.assertIn(["lag", "p50_ms"], [a["reading"] for a in late])

    def test_the_sheet_is_sent_out_at_several_dpi_beside_the_panel(self) -> None:
        sent = self.ask("POST", "/api/panels/exports", {"sheet_id": "trap-log", "device_id": "paper-slate-10"}).json
        self.assertEqual([look["dpi"] for look in sent["looks"]], [0, 150, 300, 600])
        self.assertEqual(sent["softest_dpi"], 150)
        wrong = {"sheet_id": "trap-log", "device_id": "paper-slate-10", "toning": {"raised": 9}}
        self.assertEqual(self.client.post("/api/panels/exports", json=wrong).status_code, 400)
        fit = {"recipe": {}, "source": {"sheet_id": "trap-log"}, "device_ids": ["tablet-11"], "tonings": [{}, {}]}
        refused = self.client.post("/api/panels/fit", json=fit)
        self.assertEqual((refused.status_code, refused.json["error"]["field"]), (400, "tonings"))


class InTime(ApiCase):
    def test_a_film_for_the_screen_is_the_film_that_is_saved(self) -> None:
        for device in ("paper-slate-10", "tablet-11"):
            body = {**FILM, "device_id": device, "then": "scrolled"}
            film = self.ask("POST", "/api/panels/film", body).json
            seen, believed = frames_of(film, "seen"), frames_of(film, "believed")
            saved = read_film_zip(self.client.post("/api/panels/film-frames", json=body).data)
            self.assertEqual(len(saved), len(seen))
            if film["channels"] == 1:
                off = np.flatnonzero((saved != seen[..., 0]).any(axis=(1, 2)))  # the pen, while it is down
                self.assertTrue(0 < len(off) < len(seen) and off[-1] / 10 < film["done_s"])
                pen = np.abs(saved[off[0]].astype(int) - seen[off[0], ..., 0]) > 40
                self.assertLess(float(pen.mean()), 0.2)
            else:
                self.assertGreater(int(np.ptp(seen[-1].astype(int), axis=2).max()), 20, "colours stay colours")
            self.assertEqual(
                (film["toned"], film["channels"]), ("none", 1 if device.startswith("paper") else 3), device
            )
            off = np.abs(seen.astype(int) - believed).max(axis=(1, 2, 3))
            self.assertGreater(off.max(), 100, "what is believed comes first")
            self.assertLess(off[-1], 60 if device.startswith("paper") else 2)
            self.assertGreater(film["done_s"], 3)

    def test_how_a_panel_updates_can_be_tried_and_kept(self) -> None:
        updates = {"clears_after": 1, "grey_ghost": 0.2}
        on_slate = {**FILM, "device_id": "paper-slate-10", "then": "last stroke erased"}
        as_is = self.ask("POST", "/api/panels/film", on_slate).json
        tried = self.ask("POST", "/api/panels/film", {**on_slate, "updates": updates}).json
        self.assertEqual(as_is["readings"]["clears"], 0)
        self.assertGreater(tried["readings"]["clears"], 0)
        self.assertGreater(tried["ghosts"]["apart_l"][0], as_is["ghosts"]["apart_l"][0])
        panel = self.ask(
            "POST",
            "/api/panels/own",
            {"name": "Blinker", "like": "paper-slate-10", "panel": {"technology": "e-paper"}, "updates": updates},
        ).json
        self.assertEqual(panel["device"]["updates"]["clears_after"], 1)
        kept = self.ask("PUT", f"/api/panels/own/{panel['id']}", {"panel": {"technology": "e-paper", "ppi": 200}}).json
        self.assertEqual(kept["device"]["updates"]["clears_after"], 1, "what is not given stays")

    def test_what_cannot_be_played_is_refused_in_words(self) -> None:
        dense = {"panel": {"ppi": 1000}, "width_mm": 120, "then": "scrolled", "frames_hz": 60}
        like = {"hand_id": "left-steep", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        self.client.post("/api/sheets", json={"id": "bare", "name": "Bare", "paper": "blank A6", **like})
        for more, status, words in (
            ({"then": "burnt"}, 400, "burnt"),
            (dense, 413, "smaller part|Ask for less"),  # whichever bound a busy machine meets first
            ({"sheet_id": "bare"}, 400, "no ink"),
            ({"width_mm": 2}, 422, "width_mm"),
            ({"x_mm": "east"}, 422, "x_mm"),
            ({"frames_hz": 1e9}, 422, "frames_hz"),
            ({"updates": {"grey_ghost": 7}}, 400, "updates.grey_ghost"),
            ({"device_id": "ghost"}, 404, "ghost"),
        ):
            body = {**FILM, "device_id": "tablet-11", **more}
            reply = self.client.post("/api/panels/film", json=body)
            self.assertEqual(reply.status_code, status, more)
            self.assertRegex(str(reply.json["error"]), words)
        far = {**FILM, "device_id": "paper-pad-8", "x_mm": 9999, "y_mm": -9999}
        film = self.ask("POST", "/api/panels/film", far).json
        self.assertGreater(film["frames"], 1, "a place beside the page is the page's nearest part")
        self.assertEqual(film["ghosts"]["seen_after"], 1)
        self.assertGreater(SHIPPED_DEVICES["paper-pad-8"].updates.grey_ghost, 0)
