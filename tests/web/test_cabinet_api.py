"""The cabinet over the API: things found, taken out and brought in one by one; backups gone back to; pens shared."""

import io
import json
import pathlib
import tempfile
import zipfile
from typing import Any
from urllib.parse import urlencode

import numpy as np

from gray_quill.demo.build import stock
from gray_quill.formats.archive_zip import read_archive, write_archive
from gray_quill.formats.png import read_png
from gray_quill.formats.shared_pen import TOLD
from gray_quill.store.database import connect
from gray_quill.web.app import create_app
from tests.web.api_case import STROKE, ApiCase

PAPER = {"name": "Tide table", "paper": {"width_mm": 120}}


class Desks(ApiCase):
    """The demo's desk, and another with nothing but what ships."""

    def elsewhere(self) -> tuple[pathlib.Path, Any]:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        folder = pathlib.Path(temporary.name)
        stock(folder)
        return folder, create_app(folder).test_client()

    def thing(self, kind: str, thing_id: str, deed: str = "", method: str = "GET", body: object = None) -> Any:
        return self.ask(method, f"/api/cabinet/thing{deed}?{urlencode({'kind': kind, 'id': thing_id})}", body)

    def out(self, kind: str, thing_id: str) -> bytes:
        reply = self.client.get(f"/api/cabinet/thing/file?{urlencode({'kind': kind, 'id': thing_id})}")
        self.assertEqual(reply.status_code, 200, bytes(reply.data)[:300])
        return bytes(reply.data)

    @staticmethod
    def came(client: Any, data: bytes, look: str = "") -> Any:
        return client.post(f"/api/archive{look}", data=data, content_type="application/zip").get_json()


class Things(Desks):
    def test_every_thing_goes_out_alone_and_comes_in_whole_elsewhere(self) -> None:
        self.ask("POST", "/api/sheets/trap-log/pages", {"id": "trap-log-copy", "copy_ink": True})
        self.thing("sheet", "trap-log", "/copy", "POST")
        two = [{"pen_id": "fen-fountain"}, {"pen_id": "reed-ballpoint"}]
        self.ask("POST", "/api/pairs", {"pens": two, "sheet_id": "first-count", "judge": "me"})
        self.ask("PATCH", "/api/desk", {"papers": [PAPER], "palette": [{"name": "Madder", "colour": "#aa2211"}]})
        found = self.ask("GET", "/api/cabinet?most=60").get_json()["things"]
        kinds = {t["kind"] for t in found}
        self.assertLessEqual({"pen", "hand", "device", "sheet", "document", "paper", "palette", "blind pairs"}, kinds)
        for thing in found:
            with self.subTest(kind=thing["kind"], name=thing["name"]):
                data = self.out(thing["kind"], thing["id"])
                self.assertEqual(data, self.out(thing["kind"], thing["id"]), "the same bytes each time")
                _, client = self.elsewhere()
                would = self.came(client, data, "?only_look=true")
                told = self.came(client, data)
                self.assertEqual((told["left_out"], told["came"]["twins"]), ([], []))
                self.assertEqual(would["came"], told["came"], "what was said before is what came")
                there = client.get(f"/api/cabinet?{urlencode({'kind': thing['kind'], 'most': 60})}").get_json()[
                    "things"
                ]
                self.assertIn((thing["id"], thing["name"]), {(t["id"], t["name"]) for t in there})
                again = self.came(client, data)
                self.assertIn("Nothing new", again["words"], "twice is once")
                if thing["kind"] == "sheet":
                    page = f"/api/sheets/{thing['id']}/page.png?scale=2"
                    pictures = [read_png(c.get(page).data) for c in (self.client, client)]
                    np.testing.assert_array_equal(pictures[0], pictures[1])

    def test_looking_through_an_archive_changes_nothing(self) -> None:
        _, client = self.elsewhere()
        before = client.get("/api/cabinet?most=60").get_json()
        self.assertIn("1 sheet", self.came(client, self.out("sheet", "trap-log"), "?only_look=true")["words"])
        self.assertEqual(client.get("/api/cabinet?most=60").get_json(), before)

    def test_what_differs_is_laid_beside_papers_and_runs_too(self) -> None:
        two = [{"pen_id": "fen-fountain"}, {"pen_id": "reed-ballpoint"}]
        judging = self.ask("POST", "/api/pairs", {"pens": two, "sheet_id": "first-count"}).get_json()["id"]
        self.ask("PATCH", "/api/desk", {"papers": [PAPER]})
        _, client = self.elsewhere()
        for kind, thing in (("blind pairs", judging), ("paper", "Tide table"), ("sheet", "first-count")):
            self.came(client, self.out(kind, thing))
        client.post(f"/api/pairs/{judging}/answers", json={"asked": 0, "answer": 1})
        client.patch("/api/desk", json={"papers": [{**PAPER, "paper": {"width_mm": 90}}]})
        wider = {**self.ask("GET", "/api/desk").get_json()["pens"][0]["recipe"]}
        wider["body"] = {**wider["body"], "width_mm": 2.2}
        pens = {p["id"]: p for p in client.get("/api/desk").get_json()["pens"]}
        first = pens["fen-fountain"]["recipe"]
        client.post("/api/pens/fen-fountain/revisions", json={"recipe": {**first, "kind": "brush"}, "note": "mine"})
        self.ask("POST", "/api/pens/fen-fountain/revisions", {"recipe": wider, "note": "theirs"})
        told = self.came(client, self.out("blind pairs", judging))
        self.assertEqual(len(told["came"]["twins"]), 2, "the pen, and the pairs that were gone on with")
        judged = client.get("/api/pairs").get_json()["judgings"]
        self.assertEqual(sorted(j["asked"] for j in judged), [0, 1])
        self.assertIn("Tide table", self.came(client, self.out("paper", "Tide table"))["words"])
        papers = client.get("/api/desk").get_json()["papers"]
        self.assertEqual(
            [(p["name"], p["paper"]["width_mm"]) for p in papers], [("Tide table", 90), ("Tide table 2", 120)]
        )

    def test_pens_walk_through_their_history_and_back_with_equal_pixels(self) -> None:
        recipe = next(p for p in self.ask("GET", "/api/desk").get_json()["pens"] if p["id"] == "heron-brush")["recipe"]
        swatch = "/api/pens/heron-brush/revisions/{}/swatch.png"
        for k in range(3):
            body = {**recipe["body"], "width_mm": 1.0 + k}
            self.ask("POST", "/api/pens/heron-brush/revisions", {"recipe": {**recipe, "body": body}})
        history = self.thing("pen", "heron-brush").get_json()["history"]
        self.assertEqual([h["pen"]["revision"] for h in history], [1, 2, 3, 4])
        self.assertEqual([c["words"] for h in history for c in h["changes"]], ["0.7 to 1 mm", "1 to 2 mm", "2 to 3 mm"])
        forth = [self.client.get(swatch.format(n)).data for n in (1, 2, 3, 4)]
        back = [self.client.get(swatch.format(n)).data for n in (4, 3, 2, 1)]
        self.assertEqual(forth, back[::-1])
        self.assertEqual(len(set(forth)), 4)
        again = {"recipe": history[0]["pen"]["recipe"], "note": "as in revision 1", "saw": 4}
        self.ask("POST", "/api/pens/heron-brush/revisions", again)
        self.assertEqual(self.client.get(swatch.format(5)).data, forth[0], "what it was is what it is again")

    def test_pictures_are_drawn_once_while_things_stay_as_they_are(self) -> None:
        for thing in self.ask("GET", "/api/cabinet?most=60").get_json()["things"]:
            query = urlencode({"kind": thing["kind"], "id": thing["id"]})
            first = self.client.get(f"/api/cabinet/picture.png?{query}")
            self.assertEqual(first.status_code, 200, thing)
            self.assertGreater(len(np.unique(read_png(first.data))), 1, thing)
            tag = {"If-None-Match": first.headers["ETag"]}
            self.assertEqual(self.client.get(f"/api/cabinet/picture.png?{query}", headers=tag).status_code, 304)
        query = urlencode({"kind": "sheet", "id": "test-sheet"})
        tag = {"If-None-Match": self.client.get(f"/api/cabinet/picture.png?{query}").headers["ETag"]}
        self.ask("POST", "/api/sheets/test-sheet/strokes", {"strokes": [STROKE | {"id": "new-one"}]})
        self.assertEqual(self.client.get(f"/api/cabinet/picture.png?{query}", headers=tag).status_code, 200)

    def test_bad_wishes_are_refused_with_what_to_do(self) -> None:
        cases = [
            ("GET", "/api/cabinet?words=" + "x" * 10_000, None, 422, ""),
            ("GET", "/api/cabinet?words=%22%22", None, 400, "signs alone"),
            ("GET", "/api/cabinet?kind=spoon", None, 400, "Choose one of"),
            ("GET", "/api/cabinet?since=yesterday", None, 422, ""),
            ("GET", "/api/cabinet/thing?kind=pen&id=none", None, 404, "Look for it again"),
            ("GET", "/api/cabinet/picture.png?kind=palm+rules&id=a~b", None, 404, ""),
            ("POST", "/api/cabinet/thing/copy?kind=document&id=none", None, 404, ""),
            ("PUT", "/api/cabinet/thing/name?kind=pen&id=fen-fountain", {"name": "x" * 10_000}, 422, ""),
            ("PUT", "/api/cabinet/thing/name?kind=pen&id=fen-fountain", {"name": "x" * 70}, 400, "60 letters"),
            ("PUT", "/api/cabinet/thing/bin?kind=hand&id=left-steep", {"binned": True}, 409, "another hand"),
            ("PUT", "/api/devices/none", {"device": {"name": "x"}}, 404, ""),
            ("PUT", "/api/hands/left-steep", {"hand": {"name": "x", "side": "middle"}}, 400, "side"),
            ("GET", "/api/backups/none/changes", None, 404, "Choose one"),
            ("POST", "/api/backups/none/back", None, 404, "Choose one"),
        ]
        for method, path, body, status, words in cases:
            reply = self.ask(method, path, body)
            with self.subTest(path[:60]):
                self.assertEqual(reply.status_code, status, reply.text[:200])
                self.assertIn(words, reply.get_json()["error"]["message"])


class Backups(Desks):
    def test_the_bin_is_emptied_after_a_backup_that_brings_all_back(self) -> None:
        self.thing("sheet", "dusk-to-dawn", "/bin", "PUT", {"binned": True})
        told = self.ask("DELETE", "/api/cabinet/bin").get_json()
        self.assertEqual([t["id"] for t in told["emptied"]["go"]], ["dusk-to-dawn"])
        self.assertEqual(self.thing("sheet", "dusk-to-dawn").status_code, 404)
        changes = self.ask("GET", f"/api/backups/{told['backup']}/changes").get_json()["changes"]
        self.assertEqual([(c["way"], c["id"]) for c in changes], [("comes back", "dusk-to-dawn")])
        picture = "/api/sheets/dusk-to-dawn/page.png?scale=1"
        self.assertEqual(self.client.get(picture).status_code, 404)
        went = self.ask("POST", f"/api/backups/{told['backup']}/back").get_json()
        self.assertEqual(self.client.get(picture).status_code, 200)
        names = [b["name"] for b in self.ask("GET", "/api/backups").get_json()["backups"]]
        self.assertIn(went["kept"], names)
        checked = self.ask("POST", f"/api/backups/{went['kept']}/check").get_json()
        self.assertEqual((checked["good"], "sheets" in checked["holds"]), (True, True))

    def test_ink_of_before_is_not_shown_for_ink_of_then(self) -> None:
        made = self.ask("POST", "/api/backups").get_json()["backups"][0]["name"]
        page = "/api/sheets/test-sheet/page.png?scale=2"
        then = read_png(self.client.get(page).data)
        recipe = next(p for p in self.ask("GET", "/api/desk").get_json()["pens"] if p["id"] == "fen-fountain")["recipe"]

        def written(width_mm: float) -> Any:
            fat = {**recipe, "body": {**recipe["body"], "width_mm": width_mm}}
            kept = self.ask("POST", "/api/pens/fen-fountain/revisions", {"recipe": fat}).get_json()
            stroke = STROKE | {"id": "fat", "revision": kept["revision"]}
            self.ask("POST", "/api/sheets/test-sheet/strokes", {"strokes": [stroke]})
            return read_png(self.client.get(page).data)

        one = written(4.0)
        self.ask("POST", f"/api/backups/{made}/back")
        np.testing.assert_array_equal(read_png(self.client.get(page).data), then)
        other = written(8.0)
        self.assertGreater((one != other).sum(), 100, "the same stroke and revision, and another pen now")


class Shared(Desks):
    def shared(self, pen: str = "heron-brush", sheet: str = "trap-log") -> bytes:
        return bytes(self.client.get(f"/api/pens/{pen}/shared?sheet_id={sheet}").data)

    @staticmethod
    def looked(client: Any, data: bytes, sheet: str, fit: str = "") -> Any:
        return client.post(f"/api/pens/shared/look?sheet_id={sheet}{fit}", data=data, content_type="application/zip")

    def test_a_shared_pen_is_seen_on_my_hand_beside_theirs_and_kept_with_its_history(self) -> None:
        recipe = next(p for p in self.ask("GET", "/api/desk").get_json()["pens"] if p["id"] == "heron-brush")["recipe"]
        self.ask("POST", "/api/pens/heron-brush/revisions", {"recipe": {**recipe, "name": "Heron, tuned"}})
        data = self.shared()
        self.assertEqual(data, self.shared())
        names = set(zipfile.ZipFile(io.BytesIO(data)).namelist())
        self.assertLessEqual(
            {"pens/heron-brush.json", TOLD, "share/swatch.png", "share/line.png", "share/card-tablet-11.pdf"}, names
        )
        folder, client = self.elsewhere()
        db = connect(folder)
        db.execute(
            "INSERT INTO sheets (id, name, kind, paper, hand_id, device_id, pen_id, created_at, sheaf) VALUES "
            "('mine', 'Mine', 'free', '{}', 'right-firm', 'paper-slate-10', 'fen-fountain', '', 'mine')"
        )
        db.close()
        look = self.looked(client, data, "mine").get_json()
        self.assertEqual((look["name"], look["revisions"], look["fitted"]), ("Heron, tuned", 2, False))
        self.assertEqual([s["same"] for s in look["standard"]], [True] * 3, "this machine reads what that one read")
        self.assertNotEqual(look["theirs"]["image"], look["mine"]["image"])
        told = {d["reading"]: (d["one"], d["other"]) for d in look["differs"]}
        self.assertAlmostEqual(told["width_p95_mm"][0], look["theirs"]["readings"]["width_p95_mm"], places=6)
        self.assertAlmostEqual(told["width_p95_mm"][1], look["mine"]["readings"]["width_p95_mm"], places=6)
        fitted = self.looked(client, data, "mine", "&fit=true").get_json()
        self.assertNotEqual(fitted["mine"]["image"], look["mine"]["image"])
        post = {"data": data, "content_type": "application/zip"}
        kept = client.post("/api/pens/shared?sheet_id=mine&fit=true", **post).get_json()
        self.assertNotEqual(kept["id"], "heron-brush", "a pen of its own, beside mine of that name")
        self.assertEqual((kept["newest"], kept["note"]), (3, "fitted to my force"))
        mine = client.get("/api/pens/heron-brush/revisions").get_json()["pens"]
        self.assertEqual([p["revision"] for p in mine], [1])
        again = client.post("/api/pens/shared?sheet_id=mine", **post).get_json()
        self.assertEqual((again["id"], again["newest"]), (kept["id"], 3), "twice is once")

    def test_a_reading_that_was_tampered_with_is_said_to_differ(self) -> None:
        files = read_archive(self.shared()).files
        files[TOLD]["standard"]["slow and firm"]["width_p50_mm"] += 0.01
        look = self.looked(self.client, write_archive(files), "trap-log").get_json()
        self.assertEqual(
            [(s["name"], s["apart"]) for s in look["standard"] if not s["same"]], [("slow and firm", ["width_p50_mm"])]
        )

    def test_what_my_device_cannot_do_of_it_is_said(self) -> None:
        look = self.looked(self.client, self.shared("mallow-wash"), "dusk-to-dawn").get_json()
        self.assertIn("no colour", " ".join(look["cannot"]), "an e-paper slate")
        self.assertEqual(look["could_not"], [], "a tablet in colour")

    def test_spoilt_ones_are_refused_and_nothing_is_kept(self) -> None:
        before = self.ask("GET", "/api/cabinet?kind=pen").get_json()["count"]
        opened = read_archive(self.shared()).files

        def spoilt(change: Any) -> bytes:
            files = json.loads(json.dumps({n: f for n, f in opened.items() if n.endswith(".json")}))
            change(files)
            return write_archive(files)

        def unknown_group(files: Any) -> None:
            files["pens/heron-brush.json"]["revisions"][0]["recipe"]["glitter"] = {"on": True}

        cases: list[tuple[bytes, str]] = [
            (b"no zip", ""),
            (spoilt(unknown_group), "glitter"),
            (spoilt(lambda f: f.pop(TOLD)), "no shared pen"),
            (spoilt(lambda f: f[TOLD].update(format="gray-quill/shared-pen@9")), "later version"),
            (spoilt(lambda f: f[TOLD].update(revision=77)), "not whole"),
            (spoilt(lambda f: f[TOLD].update(line=[])), "no strokes"),
            (spoilt(lambda f: f[TOLD]["line"][0].update(x_mm=["a"])), ""),
            (spoilt(lambda f: f[TOLD]["hand"].update(side="middle")), "side"),
            (spoilt(lambda f: f[TOLD].update(readings=7)), "not whole"),
            (self.out("pen", "heron-brush"), "no shared pen"),
        ]
        for data, words in cases:
            for path in ("/look", ""):
                reply = self.client.post(
                    f"/api/pens/shared{path}?sheet_id=trap-log",
                    data=data,
                    content_type="application/zip",
                )
                with self.subTest(words, path=path):
                    self.assertEqual(reply.status_code, 400, reply.text[:300])
                    self.assertIn(words, reply.get_json()["error"]["message"])
        self.assertEqual(self.ask("GET", "/api/cabinet?kind=pen").get_json()["count"], before)

    def test_forms_for_others_go_out_and_come_back_as_a_draft(self) -> None:
        before = len(self.ask("GET", "/api/pens/heron-brush/revisions").get_json()["pens"])
        for form in self.ask("GET", "/api/pens/forms").get_json()["forms"]:
            path = f"/api/pens/heron-brush/revisions/1/forms/{form['name']}"
            data = self.client.get(path).data
            back = self.client.post(path, data=data, content_type="application/octet-stream").get_json()
            self.assertEqual(back["recipe"]["kind"], "brush", form)
            self.assertTrue(back["words"] and form["not_held"])
        kept = self.ask("GET", "/api/pens/heron-brush/revisions").get_json()["pens"]
        self.assertEqual(len(kept), before, "nothing is kept of it")
        self.assertEqual(self.client.get("/api/pens/heron-brush/revisions/1/forms/spoon").status_code, 400)
