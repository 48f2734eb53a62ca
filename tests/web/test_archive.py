"""An archive of everything: it comes back as it was, twice is once, and hostile ones change nothing."""

import contextlib
import io
import json
import pathlib
import sqlite3
import tempfile
import time
import zipfile
from typing import Any

import numpy as np

from gray_quill.demo.build import build_demo, stock
from gray_quill.formats.archive_zip import MANIFEST, read_archive, write_archive
from gray_quill.formats.png import read_png
from gray_quill.store.archive import archived
from gray_quill.store.database import connect
from gray_quill.web.app import create_app
from tests.web.api_case import STROKE, ApiCase
from tests.web.cli_case import CliCase

ALL = ("hands", "devices", "pens", "pen_revisions", "sheets", "strokes", "originals", "steps", "trials", "press_fits")


def content(folder: pathlib.Path) -> dict[str, list[tuple[Any, ...]]]:
    """Every row of every table that is kept, without what each desk counts, and when it came by what is shipped."""
    stocked = ("hands", "devices", "pens", "pen_revisions")
    with contextlib.closing(connect(folder)) as db:
        db.row_factory = sqlite3.Row
        return {
            table: sorted(
                (
                    tuple(
                        row[c]
                        for c in row.keys()  # noqa: SIM118
                        if c not in ("version", "ink", *(["created_at"] if table in stocked else []))
                    )
                    for row in db.execute(f"SELECT * FROM {table}")
                ),
                key=repr,
            )
            for table in ALL
        }


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


class ArchiveApi(ApiCase):
    def taken_out(self) -> bytes:
        job = self.finished(self.ask("POST", "/api/archive/out"))
        return bytes(self.client.get(f"/api/exports/{job}/file").data)

    def elsewhere(self) -> tuple[pathlib.Path, Any]:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        folder = pathlib.Path(temporary.name)
        stock(folder)
        return folder, create_app(folder).test_client()

    @staticmethod
    def came(client: Any, data: bytes) -> Any:
        return client.post("/api/archive", data=data, content_type="application/zip")

    def test_it_comes_back_whole_on_another_desk_and_twice_is_once(self) -> None:
        self.ask("POST", "/api/sheets/trap-log/pages", {"id": "trap-log-copy", "copy_ink": True})
        self.ask("POST", "/api/sheets/trap-log/page/turn")
        self.ask("POST", "/api/sheets/trap-log/strokes", {"strokes": [STROKE | {"force": None}]})
        two = [{"pen_id": "fen-fountain"}, {"pen_id": "reed-ballpoint"}]
        judging = self.ask("POST", "/api/pairs", {"pens": two, "sheet_id": "first-count"}).get_json()["id"]
        self.ask("POST", f"/api/pairs/{judging}/answers", {"asked": 0, "answer": 1})
        lined = [{**pen, "hand_id": "right-firm", "device_id": "tablet-11"} for pen in two]
        job = self.finished(self.ask("POST", "/api/lineup/runs", {"candidates": lined}))
        self.ask("POST", f"/api/lineup/runs/{job}/keep", {"name": "Two", "weights": {"range": 1}})
        data = self.taken_out()
        folder, client = self.elsewhere()
        told = self.came(client, data)
        self.assertEqual(told.status_code, 200, told.get_json())
        for kept in ("pairs", "lineup/kept"):
            self.assertEqual(client.get(f"/api/{kept}").get_json(), self.ask("GET", f"/api/{kept}").get_json(), kept)
        shown = client.get(f"/api/pairs/{judging}/pair").get_json()
        self.assertEqual(shown, self.ask("GET", f"/api/pairs/{judging}/pair").get_json(), "the same lines")
        self.assertEqual((told.get_json()["left_out"], told.get_json()["came"]["twins"]), ([], []))
        here, there = content(self.folder), content(folder)
        for table in ALL:
            self.assertEqual(there[table], here[table], table)
        for sheet in ("trap-log", "trap-log-copy", "count-by-trap-typed", "dusk-to-dawn"):
            pages = [read_png(c.get(f"/api/sheets/{sheet}/page.png?scale=2").data) for c in (self.client, client)]
            np.testing.assert_array_equal(pages[0], pages[1])
        again = self.came(client, data).get_json()["came"]
        self.assertEqual((again["sheets"], again["pens"], again["twins"], again["left_out"]), (0, 0, [], []))
        self.assertEqual(content(folder), there)
        with contextlib.closing(connect(folder)) as db:
            second = read_archive(write_archive(archived(db))).files
        first = read_archive(data).files
        for files in (first, second):  # each desk counts its own changes
            for name, told_page in files.items():
                if name.startswith("sheets/"):
                    told_page["page"] |= {"version": 0, "ink": 0}
        made_here = ("settings", "hands/", "devices/", "pens/")  # they came with another date
        differ = {n for n in first if first[n] != second.get(n) and not n.startswith(made_here)}
        self.assertEqual(differ, set())

    def test_what_differs_comes_in_beside_what_is_here_and_nothing_is_lost(self) -> None:
        data = self.taken_out()
        folder, client = self.elsewhere()
        self.came(client, data)
        stroke = STROKE | {"id": "mine"}
        client.post("/api/sheets/dusk-to-dawn/strokes", json={"strokes": [stroke]})
        recipe = client.get("/api/desk").get_json()["pens"][0]
        other = {**recipe["recipe"], "body": {**recipe["recipe"]["body"], "width_mm": 2.5}}
        client.post(f"/api/pens/{recipe['id']}/revisions", json={"recipe": other, "note": "mine"})
        self.ask(
            "POST",
            f"/api/pens/{recipe['id']}/revisions",
            {"recipe": recipe["recipe"] | {"name": "Theirs"}, "note": "theirs"},
        )
        before = content(folder)
        told = self.came(client, self.taken_out()).get_json()["came"]
        self.assertEqual(sorted(told["twins"]), ["Dusk to dawn", "Theirs"])
        after = content(folder)
        for table in ALL:
            self.assertLessEqual(set(before[table]), set(after[table]), f"what was in {table} is there as it was")
        sheets = [s for s in client.get("/api/desk").get_json()["sheets"] if s["name"] == "Dusk to dawn"]
        self.assertEqual(len(sheets), 2)
        twin = next(s for s in sheets if s["id"] != "dusk-to-dawn")
        pages = [
            c.get(f"/api/sheets/{i}/page.png?scale=2").data
            for c, i in ((self.client, "dusk-to-dawn"), (client, twin["id"]))
        ]
        np.testing.assert_array_equal(read_png(pages[0]), read_png(pages[1]))

    def test_hostile_and_broken_archives_change_nothing_or_give_what_is_whole(self) -> None:
        data = self.taken_out()
        good = {n: zipfile.ZipFile(io.BytesIO(data)).read(n) for n in zipfile.ZipFile(io.BytesIO(data)).namelist()}
        manifest = json.loads(good[MANIFEST])
        later = zipped({MANIFEST: json.dumps(manifest | {"version": 99, "app": "9.0"}).encode()})
        two = io.BytesIO()
        with zipfile.ZipFile(two, "w") as archive, self.assertWarns(UserWarning):
            for _ in range(2):
                archive.writestr(MANIFEST, good[MANIFEST])
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr(MANIFEST, good[MANIFEST])
            archive.writestr("hands.json", b"0" * 70_000_000)
        many = {MANIFEST: good[MANIFEST]} | {f"sheets/{k}.json": b"" for k in range(20_000)}
        cases = [
            ("no zip", b"trap 1", 400, "not a zip"),
            ("cut off", data[: len(data) // 2], 400, "not a zip"),
            ("another zip", zipped({"frame-1.png": b"x"}), 400, "no manifest"),
            ("later", later, 400, "later version"),
            ("going up", zipped({MANIFEST: good[MANIFEST], "../pens.json": b"{}"}), 400, "../pens"),
            ("two manifests", two.getvalue(), 400, "twice"),
            ("a bomb", bomb.getvalue(), 413, "unpacks"),
            ("very many", zipped(many), 413, "files"),
            ("another manifest", zipped({MANIFEST: b'{"format": "else"}'}), 400, "no archive"),
        ]
        folder, client = self.elsewhere()
        before = content(folder)
        for name, sent, status, words in cases:
            with self.subTest(name):
                begun = time.process_time()
                reply = self.came(client, sent)
                self.assertEqual(reply.status_code, status, reply.get_json())
                self.assertIn(words, reply.get_json()["error"]["message"])
                self.assertLess(time.process_time() - begun, 2.0)
                self.assertEqual(content(folder), before)
        broken = dict(good)
        broken["sheets/trap-log.json"] = broken["sheets/trap-log.json"][:-200]
        odd = json.loads(good["sheets/first-count.json"])
        odd["strokes"][0]["revision"] = 77
        files = {
            n: json.loads(d) if n.endswith(".json") else d
            for n, d in broken.items()
            if n != MANIFEST and n != "sheets/trap-log.json"
        }
        files["sheets/first-count.json"] = odd
        told = self.came(client, zipped(broken)).get_json()["came"]
        self.assertEqual([w.split(":")[0] for w in told["left_out"]], ["sheets/trap-log.json"])
        self.assertGreaterEqual(told["sheets"], 4)
        folder, client = self.elsewhere()
        told = self.came(client, write_archive(files)).get_json()["came"]
        self.assertIn("revision 77, is not here", " ".join(told["left_out"]))

    def test_what_could_not_be_read_again_is_left_out_and_spoils_nothing(self) -> None:
        opened = read_archive(self.taken_out()).files
        opened["settings.json"] = [{"key": "rolls", "value": [1]}, {"key": "surface", "value": '"glass"'}]
        opened["sheets/trap-log.json"]["page"]["layers"] = [1, 2]
        opened["sheets/test-sheet.json"]["steps"] = {"sheet_id": "test-sheet", "steps": {"past": 7}, "count": 1}
        opened["sheets/first-count.json"]["strokes"][3]["showing"] = {"placement": ["x"]}
        opened["sheets/dusk-to-dawn.json"]["strokes"][3]["trace"]["x_mm"][0] = "left"
        opened["pens/fern-wash.json"]["revisions"][0]["revision"] = "one"
        opened["hands/left-steep.json"] = ["no", "row"]
        folder, client = self.elsewhere()
        told = self.came(client, write_archive(opened)).get_json()
        left = " ".join(told["left_out"])
        for name in ("trap-log", "test-sheet", "first-count", "dusk-to-dawn", "fern-wash", "left-steep", "settings"):
            self.assertIn(name, left)
        self.assertEqual(client.get("/api/desk").status_code, 200)
        there = {s["id"] for s in client.get("/api/desk").get_json()["sheets"]}
        self.assertIn("count-by-trap", there)
        self.assertFalse({"trap-log", "test-sheet", "first-count", "dusk-to-dawn"} & there)
        self.assertTrue(content(folder)["strokes"])


class OnTheCommandLine(CliCase):
    def test_an_archive_goes_from_one_folder_to_another_once(self) -> None:
        here, there, file = self.folder / "here", self.folder / "there", str(self.folder / "all.zip")
        build_demo(here)
        self.assertEqual(self.run_cli("archive", file, "--data", str(here))[0], 0)
        for words in ("5 sheets", "Nothing new"):
            status, out, err = self.run_cli("bring-in", file, "--data", str(there))
            self.assertEqual((status, err), (0, ""))
            self.assertIn(words, out)
        self.assertEqual(content(here)["strokes"], content(there)["strokes"])
        pathlib.Path(self.ink).write_text("<ink/>")
        status, _, err = self.run_cli("bring-in", self.ink, "--data", str(there))
        self.assertEqual(status, 2)
        self.assertIn("not a zip", err)
