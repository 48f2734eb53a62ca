"""Trouble of the disk and of the drawing: said in words, nothing lost, nothing missing in silence."""

import io
import json
import pathlib
import resource
import sqlite3
import tempfile
import unittest
from unittest import mock
from xml.etree import ElementTree

import numpy as np
from PIL import Image

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.ink import settle as settling
from gray_quill.core.ink.bare import bare_ink, is_bare, settle_or_bare
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.paper import first_paper
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.plain_json import MOST_DEPTH, read_json
from gray_quill.formats.svg import write_svg
from gray_quill.store.database import FILE, connect, trouble
from gray_quill.web import ink_source
from tests.web.api_case import STROKE, ApiCase
from tests.zoo import wave

FEN = SHIPPED_PENS["fen-fountain"]


class BareInk(ApiCase):
    def page(self, sheet: str) -> np.ndarray:
        reply = self.client.get(f"/api/sheets/{sheet}/page.png?scale=6")
        self.assertEqual(reply.status_code, 200, reply.data[:200])
        return np.asarray(Image.open(io.BytesIO(reply.data)).convert("RGB")).astype(int)

    def sheet(self, name: str) -> str:
        made = {"id": name, "name": name, "paper": "blank A6", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", made | {"hand_id": "left-steep", "device_id": "tablet-11"})
        good = STROKE | {"id": f"{name}-good", "x_mm": [10, 11, 12], "y_mm": [20, 20, 20]}
        bad = STROKE | {"id": f"{name}-bad", "x_mm": [50, 60, 70], "y_mm": [60, 60, 60]}
        self.ask("POST", f"/api/sheets/{name}/strokes", {"strokes": [good, bad]})
        self.app.extensions["ink_memory"]._kept.clear()
        return name

    def shown(self, page: np.ndarray) -> None:
        """The good stroke in its ink, the other as a thin path in the colour of harm."""
        self.assertLess(page[110:130, 60:72].sum(axis=2).min(), 250, "the good stroke")
        red = (page[..., 0] > 130) & (page[..., 1] < 110) & (page[..., 2] < 100)
        self.assertGreater(red[355:366, 300:420].sum(), 60, "the bare path")

    def test_a_stroke_its_pen_cannot_make_is_shown_as_its_path_and_said(self) -> None:
        sheet = self.sheet("unmade")
        real = settling.settle_each

        def fails(strokes, paper=None):  # type: ignore[no-untyped-def]
            if any(trace.x_mm[0] == 50 for trace, _ in strokes):
                raise ZeroDivisionError("division by zero")
            return real(strokes, paper)

        with mock.patch("gray_quill.core.ink.bare.settle_each", fails), self.assertLogs("gray_quill", "ERROR") as log:
            self.shown(self.page(sheet))
            told = self.ask("GET", f"/api/sheets/{sheet}/readings").json
        self.assertEqual((told["bare"], told["strokes"]), (1, 2))
        self.assertIn("unmade-bad", log.output[0])

    def test_a_stroke_that_fails_as_it_is_drawn_takes_no_other_along(self) -> None:
        sheet = self.sheet("undrawn")
        real = page_pixels

        def fails(inks, paper, view):  # type: ignore[no-untyped-def]
            if any(ink.x_mm[0] > 49 and not is_bare(ink) for ink in inks):
                raise ValueError("a kernel gave way")
            return real(inks, paper, view)

        with mock.patch.object(ink_source, "page_pixels", fails), self.assertLogs("gray_quill", "ERROR"):
            self.shown(self.page(sheet))
        self.assertEqual(self.ask("GET", f"/api/sheets/{sheet}/readings").json["bare"], 1)

    def test_numbers_that_are_none_count_as_not_drawable(self) -> None:
        trace = wave(0.3)
        self.assertFalse(is_bare(settle_or_bare([(trace, FEN)])[0]))
        spoilt = settling.settle(trace, FEN)
        spoilt.x_mm[3] = np.nan
        sound = settling.settle(trace, FEN)
        with mock.patch("gray_quill.core.ink.bare.settle_each", return_value=[sound, spoilt]):
            beside, found = settle_or_bare([(trace, FEN), (trace, FEN)])
        self.assertIs(beside, sound)
        self.assertTrue(is_bare(found))
        np.testing.assert_array_equal(found.x_mm, bare_ink(trace).x_mm)


class Disk(ApiCase):
    def test_what_the_disk_refuses_is_said_and_reading_goes_on(self) -> None:
        held = connect(self.folder)  # as the server does, so that reading needs no new file
        self.addCleanup(held.close)
        held.execute("SELECT 1 FROM sheets").fetchone()
        kept = resource.getrlimit(resource.RLIMIT_FSIZE)
        send = {"strokes": [STROKE | {"id": "full"}]}
        resource.setrlimit(resource.RLIMIT_FSIZE, (1, kept[1]))
        try:
            with self.assertLogs("gray_quill", "ERROR") as log:
                replies = [self.ask("POST", "/api/sheets/trap-log/strokes", send) for _ in range(3)]
            read = self.client.get("/api/sheets/trap-log/page.png?scale=2")
        finally:
            resource.setrlimit(resource.RLIMIT_FSIZE, kept)
        self.assertEqual({(r.status_code, r.json["error"]["code"]) for r in replies}, {(503, "disk_full")})
        self.assertEqual((len(log.output), read.status_code), (1, 200), "said once in the log, not each time")
        self.assertIn("Free some space", replies[0].json["error"]["message"])
        after = self.ask("POST", "/api/sheets/trap-log/strokes", send).json
        self.assertEqual([a["state"] for a in after["answers"]], ["kept"])

    def test_a_folder_that_is_gone_is_said_and_nothing_is_begun_anew(self) -> None:
        aside = self.folder.with_name(self.folder.name + "-aside")
        self.folder.rename(aside)
        try:
            with self.assertLogs("gray_quill", "ERROR"):
                reply = self.ask("GET", "/api/desk")
            self.assertEqual((reply.status_code, reply.json["error"]["code"]), (503, "folder_gone"))
            self.assertFalse(self.folder.exists())
        finally:
            aside.rename(self.folder)
        self.assertEqual(self.ask("GET", "/api/desk").status_code, 200)

    def test_each_refusal_of_the_file_system_has_its_words(self) -> None:
        cases = {
            "SQLITE_FULL": "disk_full",
            "SQLITE_IOERR_WRITE": "disk_full",
            "SQLITE_READONLY_DIRECTORY": "read_only",
            "SQLITE_CANTOPEN": "read_only",
            "SQLITE_BUSY_SNAPSHOT": "store_busy",
            "SQLITE_CORRUPT": "damaged",
            "SQLITE_NOTADB": "damaged",
            "SQLITE_IOERR_READ": "disk_failed",
        }
        for name, code in cases.items():
            error = sqlite3.OperationalError("x")
            error.sqlite_errorname = name
            told = trouble(error, self.folder)
            self.assertEqual(told and told.code, code, name)
        error.sqlite_errorname = "SQLITE_CONSTRAINT_FOREIGNKEY"
        self.assertIsNone(trouble(error, self.folder), "that would be our own fault")

    def test_a_connection_is_safe_to_write_to_or_refused(self) -> None:
        db = connect(self.folder)
        self.assertEqual(db.execute("PRAGMA journal_mode").fetchone()[0], "wal")
        self.assertEqual(db.execute("PRAGMA synchronous").fetchone()[0], 2)
        db.close()
        plain = pathlib.Path(self.enterContext(tempfile.TemporaryDirectory()))
        sqlite3.connect(plain / FILE).close()
        with self.assertRaisesRegex(sqlite3.OperationalError, "not safe"):
            connect(plain)

    def test_reading_never_writes(self) -> None:
        watch = connect(self.folder)
        self.addCleanup(watch.close)
        version = watch.execute("PRAGMA data_version").fetchone()[0]
        for path in ("desk", "sheets/trap-log", "sheets/trap-log/readings", "lag/runs", "palm", "bin/pens"):
            self.client.get(f"/api/{path}")
        self.assertEqual(watch.execute("PRAGMA data_version").fetchone()[0], version)


class PlainJson(unittest.TestCase):
    def test_depth_digits_and_size_are_bounded(self) -> None:
        deep = b"[" * MOST_DEPTH + b"]" * MOST_DEPTH
        self.assertIsInstance(read_json(deep), list)
        for data, kind, words in (
            (b"[" + deep + b"]", FormatError, "deep"),
            (b"[" * 100_000, FormatError, "deep"),
            (b'{"a":' * 50 + b"1" + b"}" * 50, FormatError, "deep"),
            (b"9" * 19, FormatError, "18 digits"),
            (b"-" + b"9" * 5000, FormatError, "18 digits"),
            (b"[1e400]", FormatError, "too large"),
            (b"[NaN]", FormatError, "NaN"),
            (b"[-Infinity]", FormatError, "Infinity"),
            (b"\xff\xfe", FormatError, "cannot|can be read"),
            (b" " * 24_000_001, TooLarge, "24 MB"),
        ):
            with self.subTest(data[:20]), self.assertRaisesRegex(kind, words):
                read_json(data)
        whole = {"a": [1, -2.5, 1e300, 10**17, None, True, "é"]}
        self.assertEqual(read_json(json.dumps(whole).encode()), whole)


class Names(ApiCase):
    def test_what_cannot_be_shown_is_refused_in_names_and_left_out_of_pictures(self) -> None:
        for odd in ("a\x00b", "a\x1bb", "a\nb", "a\u202eb", "\ud800"):
            for method, path, body in (
                ("PATCH", "/api/sheets/trap-log", {"name": odd}),
                ("POST", "/api/pens/fen-fountain/revisions", {"recipe": {}, "note": odd}),
                ("POST", "/api/pens", {"id": "odd", "recipe": {"name": odd}}),
                ("PATCH", "/api/desk", {"palette": [{"name": odd, "colour": "#000000"}]}),
            ):
                with self.subTest(name=odd, path=path):
                    self.assertIn(self.ask(method, path, body).status_code, (400, 422))
        svg = write_svg([], first_paper(), title="a\x00<b>\x1b")
        self.assertEqual(ElementTree.fromstring(svg).findtext("{http://www.w3.org/2000/svg}title"), "a <b> ")
