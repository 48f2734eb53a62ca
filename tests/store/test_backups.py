"""Backups that protect, damage that is told, and one owner of a folder."""

import contextlib
import datetime
import gzip
import json
import os
import pathlib
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from gray_quill.core.errors import Conflict, NotFound, Unavailable
from gray_quill.demo.build import build_demo, stock
from gray_quill.store import backups
from gray_quill.store.backups import (
    FOLDER,
    LAST_KEPT,
    STAMP,
    back_up,
    list_backups,
    newest_good,
    one_at_a_time,
    restore,
)
from gray_quill.store.database import FILE, connect
from gray_quill.store.going_back import what_would_change
from gray_quill.store.health import Health, examine
from gray_quill.store.owner import LOCK, owned
from gray_quill.store.schema import newest
from gray_quill.store.start import prepare
from gray_quill.store.strokes import Stroke, add_strokes
from tests.store.test_store import StoreCase
from tests.zoo import wave

GOLDEN = pathlib.Path(__file__).parent / "golden"
DAY = datetime.timedelta(days=1)
NOW = datetime.datetime(2026, 11, 26, 12, tzinfo=datetime.UTC)


class BackupCase(StoreCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("first")
        self.db.close()

    def write(self, name: str) -> None:
        db = connect(self.folder)
        add_strokes(db, "s", [Stroke(name, "fen", 1, wave(0.2))])
        db.close()

    def strokes(self) -> int:
        return examine(self.folder / FILE).strokes

    def place(self, days_ago: float, good: bool = True) -> pathlib.Path:
        """A backup of some days ago."""
        path = self.folder / FOLDER / f"{NOW - days_ago * DAY:{STAMP}}.db"
        path.parent.mkdir(exist_ok=True)
        if good:
            made = back_up(self.folder)
            assert made is not None
            shutil.move(made.path, path)
        else:
            path.write_bytes(b"")
        return path

    def damage(self) -> None:
        path = self.folder / FILE
        data = bytearray(path.read_bytes())
        data[100:4096] = b"\xa5" * 3996
        path.write_bytes(data)


class Backups(BackupCase):
    def test_a_day_has_one_at_start_and_starts_delete_none(self) -> None:
        for _ in range(LAST_KEPT + 2):
            prepare(self.folder)
        self.assertEqual(len(list_backups(self.folder)), 1)
        copy = examine(list_backups(self.folder)[0].path)
        self.assertEqual((copy.state, copy.counts), ("good", examine(self.folder / FILE).counts))

    def test_many_at_once_are_made_one_after_the_other(self) -> None:
        back_up(self.folder)
        with ThreadPoolExecutor(6) as many:
            made = list(many.map(lambda _: back_up(self.folder), range(6)))
            looked = list(
                many.map(lambda _: what_would_change(self.folder, list_backups(self.folder)[0].name), range(6))
            )
        self.assertEqual(len({b.name for b in made if b}), 6)
        self.assertEqual([len(each.changes) for each in looked], [0] * 6)
        states = {examine(b.path).state for b in list_backups(self.folder)}
        self.assertEqual((states, len(list_backups(self.folder))), ({"good"}, LAST_KEPT + 1))
        self.assertEqual(list((self.folder / FOLDER).glob(".[mr]*")), [])

    def test_only_what_dead_processes_left_is_cleared(self) -> None:
        (self.folder / FOLDER).mkdir(exist_ok=True)
        dead = subprocess.Popen(["true"])
        dead.wait()
        left, alive = (self.folder / FOLDER / f".making-{pid}-x" for pid in (dead.pid, os.getpid()))
        for path in (left, alive):
            path.touch()
        back_up(self.folder)
        self.assertEqual((left.exists(), alive.exists()), (False, True))

    def test_another_that_is_at_it_for_long_is_told_as_busy(self) -> None:
        with (
            one_at_a_time(self.folder),
            mock.patch.object(backups, "PATIENCE_S", 0.05),
            self.assertRaisesRegex(Unavailable, "Another backup") as told,
        ):
            back_up(self.folder)
        self.assertEqual(told.exception.code, "store_busy")

    def test_a_moved_folder_is_said_as_such(self) -> None:
        aside = self.folder.with_name(self.folder.name + "-moved")
        self.folder.rename(aside)
        try:
            with self.assertRaisesRegex(Unavailable, "gone or empty") as told:
                back_up(self.folder)
            self.assertEqual(told.exception.code, "folder_gone")
        finally:
            aside.rename(self.folder)

    def test_only_the_owner_reads_the_database_and_its_backups(self) -> None:
        (self.folder / FILE).chmod(0o644)  # as an earlier version left it
        prepare(self.folder)
        made = back_up(self.folder)
        assert made is not None
        with contextlib.closing(connect(self.folder)) as db:
            db.execute("SELECT 1 FROM sheets").fetchall()
            for path in (made.path, *self.folder.glob(FILE + "*")):
                self.assertEqual(path.stat().st_mode & 0o077, 0, path.name)

    def test_the_last_five_good_ones_and_one_a_week_stay(self) -> None:
        good = [self.place(d) for d in (0, 1, 2, 3, 4, 12, 13, 14, 21, 40)]
        backups.rotate(self.folder)
        # of the 12th to 14th day before, which lie in one week and the next, the newest of each week stays
        weeks = {(NOW - d * DAY).isocalendar()[:2] for d in (12, 13, 14, 21, 40)}
        kept = [b.path for b in list_backups(self.folder)]
        self.assertEqual(kept[:5], good[:5])
        self.assertEqual(len(kept), 5 + len(weeks))
        self.assertIn(good[5], kept)
        self.assertIn(good[-1], kept)

    def test_what_is_not_good_never_pushes_a_good_one_out(self) -> None:
        only = self.place(9)
        spoilt = [self.place(d, good=False) for d in range(7)]
        backups.rotate(self.folder)
        self.assertTrue(only.exists() and all(s.exists() for s in spoilt))
        found = newest_good(self.folder)
        self.assertEqual(found and found[0].path, only)

    def test_one_that_cannot_be_made_or_differs_takes_no_place(self) -> None:
        with mock.patch.object(backups, "_to_disk", side_effect=OSError(28, "No space left on device")):
            self.assertRaises(Unavailable, back_up, self.folder)
        with mock.patch.object(
            backups, "examine_open", side_effect=[Health("good", 6, {"strokes": n}) for n in (9, 8)]
        ):
            self.assertRaises(Unavailable, back_up, self.folder)
        self.assertEqual([p.name for p in (self.folder / FOLDER).iterdir()], [".lock"])
        with mock.patch.object(backups, "_copy", side_effect=sqlite3.OperationalError("database or disk is full")):
            prepare(self.folder)  # a start does not die of it
        self.assertEqual(self.strokes(), 1)

    def test_the_schema_is_not_changed_without_one(self) -> None:
        (self.folder / FILE).write_bytes(gzip.decompress((GOLDEN / "0.6.0.db.gz").read_bytes()))
        before = examine(self.folder / FILE).schema
        self.assertLess(before, newest())
        with mock.patch.object(backups, "_copy", side_effect=sqlite3.OperationalError("database or disk is full")):
            self.assertRaises(Unavailable, prepare, self.folder)
        self.assertEqual(examine(self.folder / FILE).schema, before)
        prepare(self.folder)
        self.assertEqual(examine(self.folder / FILE).schema, newest())
        self.assertEqual(examine(list_backups(self.folder)[0].path).schema, before)

    def test_restore_keeps_the_present_file_and_gives_the_ink_back(self) -> None:
        back_up(self.folder)
        self.write("second")
        self.damage()
        backup, aside = restore(self.folder)
        self.assertEqual(backup.path, list_backups(self.folder)[0].path)
        self.assertEqual(self.strokes(), 1)
        self.assertTrue(aside and aside.exists() and examine(aside).state == "damaged")
        prepare(self.folder)
        self.assertRaises(NotFound, restore, self.folder, "20200101-000000-000000.db")
        bad = self.place(3, good=False)
        self.assertRaises(Conflict, restore, self.folder, bad.name)


class Refused(BackupCase):
    def refused(self, *words: str) -> None:
        before = (self.folder / FILE).read_bytes() if (self.folder / FILE).exists() else None
        kept = len(list_backups(self.folder))
        for start in (prepare, stock, build_demo):
            with self.assertRaises(Conflict) as found:
                start(self.folder)
            for word in words:
                self.assertIn(word, found.exception.message)
        self.assertEqual((self.folder / FILE).read_bytes() if (self.folder / FILE).exists() else None, before)
        self.assertEqual(len(list_backups(self.folder)), kept)

    def test_a_damaged_database(self) -> None:
        back_up(self.folder)
        self.damage()
        self.refused("damaged", "gray-quill restore")
        (self.folder / FILE).write_text("not a database at all, by far not" * 40)
        self.refused("damaged", "gray-quill restore")

    def test_one_that_is_gone_or_empty_where_ink_was(self) -> None:
        back_up(self.folder)
        (self.folder / FILE).write_bytes(b"")
        self.refused("1 strokes", "gray-quill restore")
        (self.folder / FILE).unlink()
        self.refused("1 strokes", "gray-quill restore")
        shutil.rmtree(self.folder / FOLDER)
        prepare(self.folder)  # where no ink was known, one begins anew

    def test_one_of_a_later_version(self) -> None:
        db = connect(self.folder)
        db.execute(f"PRAGMA user_version = {newest() + 3}")
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        db.close()
        self.refused(f"schema {newest() + 3}", f"up to {newest()}")


class Owner(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder = pathlib.Path(temporary.name) / "new"

    def test_a_second_one_is_told_who_the_first_is_and_a_killed_one_is_taken_over(self) -> None:
        holds = (
            "import pathlib, sys, time; from gray_quill.store.owner import owned\n"
            "with owned(pathlib.Path(sys.argv[1])): print('mine', flush=True); time.sleep(600)"
        )
        first = subprocess.Popen([sys.executable, "-c", holds, self.folder], stdout=subprocess.PIPE, text=True)
        assert first.stdout
        self.addCleanup(first.stdout.close)
        self.addCleanup(first.wait)
        self.addCleanup(first.kill)
        self.assertEqual(first.stdout.readline().strip(), "mine")
        with self.assertRaises(Conflict) as found, owned(self.folder):
            self.fail("two own it")
        self.assertIn(str(first.pid), found.exception.message)
        self.assertEqual(json.loads((self.folder / LOCK).read_text())["pid"], first.pid, "the words stay")
        first.kill()
        first.wait()
        with owned(self.folder):
            self.assertNotEqual(json.loads((self.folder / LOCK).read_text())["pid"], first.pid)
        with owned(self.folder):
            pass
