"""The store: nothing is lost, repeats change nothing, old databases come along."""

import pathlib
import sqlite3
import tempfile
import unittest

import numpy as np

from gray_quill.core.errors import Conflict, NotFound
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.demo.build import build_demo
from gray_quill.store.database import BACKUPS_KEPT, FILE, connect, migrate, migrations, prepare, transaction
from gray_quill.store.pens import add_pen, add_revision, bin_pen, get_pen, list_pens, pen_history, set_roll
from gray_quill.store.sheets import Sheet, Stroke, add_sheet, add_strokes, bin_strokes, list_strokes
from gray_quill.store.trace_blob import pack_trace, unpack_trace
from tests.zoo import wave, zoo


class StoreCase(unittest.TestCase):
    def setUp(self) -> None:
        self.temporary = tempfile.TemporaryDirectory()
        self.addCleanup(self.temporary.cleanup)
        self.folder = pathlib.Path(self.temporary.name)
        prepare(self.folder)
        self.db = connect(self.folder)
        self.addCleanup(self.db.close)
        add_pen(self.db, "fen", SHIPPED_PENS["fen-fountain"])
        with transaction(self.db):
            self.db.execute("INSERT INTO hands VALUES ('h', '{}', '', NULL)")
            self.db.execute("INSERT INTO devices VALUES ('d', '{}', '', NULL)")
        add_sheet(self.db, Sheet("s", "Sheet", "free", paper_from_spec("dotted A5"), "h", "d", "fen", "", False))


class Strokes(StoreCase):
    def test_blobs_give_the_trace_back(self) -> None:
        for name, trace in zoo().items():
            back = unpack_trace(pack_trace(trace))
            self.assertEqual((len(back), back.absent), (len(trace), trace.absent), name)
            np.testing.assert_array_equal(back.t_s, trace.t_s)
            np.testing.assert_allclose(back.x_mm, trace.x_mm, atol=1e-4)
            np.testing.assert_allclose(back.force, trace.force, atol=1e-6)

    def test_a_repeated_save_changes_nothing_and_the_bin_gives_back(self) -> None:
        strokes = [Stroke(f"a{i}", "fen", 1, wave(0.2)) for i in range(3)]
        self.assertEqual(add_strokes(self.db, "s", strokes), 3)
        self.assertEqual(add_strokes(self.db, "s", strokes[1:]), 0)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a1", "a2"])
        bin_strokes(self.db, "s", ["a1"], True)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a2"])
        bin_strokes(self.db, "s", ["a1"], False)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a1", "a2"])

    def test_a_refused_write_leaves_nothing_behind(self) -> None:
        with self.assertRaises(NotFound):
            add_strokes(self.db, "s", [Stroke("b0", "fen", 1, wave(0.2)), Stroke("b1", "fen", 9, wave(0.2))])
        with self.assertRaises(NotFound):
            add_strokes(self.db, "nowhere", [Stroke("b0", "fen", 1, wave(0.2))])
        with self.assertRaises(NotFound):
            bin_strokes(self.db, "s", ["ghost"], True)
        self.assertEqual(list_strokes(self.db, "s"), [])
        with self.assertRaises(sqlite3.IntegrityError), transaction(self.db):
            self.db.execute("DELETE FROM pens WHERE id = 'fen'")


class Pens(StoreCase):
    def test_revisions_stay_as_they_were(self) -> None:
        add_revision(self.db, "fen", SHIPPED_PENS["heron-brush"], "wilder")
        self.assertEqual(
            [(p.revision, p.recipe.name) for p in pen_history(self.db, "fen")],
            [(2, "Heron brush 1.6"), (1, "Fen fountain 0.5")],
        )
        self.assertEqual(get_pen(self.db, "fen", 1).newest, 2)
        for call in (lambda: get_pen(self.db, "fen", 3), lambda: get_pen(self.db, "ghost")):
            with self.assertRaises(NotFound):
                call()
        with self.assertRaises(Conflict):
            add_pen(self.db, "fen", SHIPPED_PENS["heron-brush"])

    def test_the_roll_keeps_its_order_and_the_bin_takes_a_pen_off_it(self) -> None:
        for name in ("heron", "reed"):
            add_pen(self.db, name, SHIPPED_PENS["reed-ballpoint"])
        set_roll(self.db, ["reed", "fen"])
        self.assertEqual([p.id for p in list_pens(self.db)], ["reed", "fen", "heron"])
        bin_pen(self.db, "reed", True)
        self.assertEqual([p.id for p in list_pens(self.db)], ["fen", "heron"])
        bin_pen(self.db, "reed", False)
        self.assertIn("reed", [p.id for p in list_pens(self.db)])
        with self.assertRaises(Conflict):
            set_roll(self.db, ["fen", "fen"])


class Database(StoreCase):
    def test_every_earlier_version_comes_up_to_date(self) -> None:
        numbers = [n for n, _ in migrations()]
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
        for version in [0, *numbers]:
            with tempfile.TemporaryDirectory() as folder:
                db = connect(pathlib.Path(folder))
                migrate(db, upto=version)
                db.close()
                prepare(pathlib.Path(folder))
                db = connect(pathlib.Path(folder))
                self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], numbers[-1])
                db.close()

    def test_starting_makes_backups_and_keeps_the_last_few(self) -> None:
        for _ in range(BACKUPS_KEPT + 2):
            prepare(self.folder)
        backups = sorted((self.folder / "backups").glob("*.db"))
        self.assertEqual(len(backups), BACKUPS_KEPT)
        with sqlite3.connect(backups[-1]) as copy:
            self.assertEqual(copy.execute("SELECT count(*) FROM sheets").fetchone()[0], 1)
        copy.close()

    def test_demo_data_is_filled_in_once_and_put_back_on_request(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = pathlib.Path(name)
            self.assertEqual((build_demo(folder), build_demo(folder)), (True, False))
            db = connect(folder)
            counts = [
                db.execute(f"SELECT count(*) FROM {t}").fetchone()[0] for t in ("hands", "devices", "pens", "sheets")
            ]
            self.assertEqual(counts, [2, 5, 19, 4])
            self.assertGreater(db.execute("SELECT count(*) FROM strokes").fetchone()[0], 500)
            db.execute("DELETE FROM strokes")
            db.close()
            self.assertTrue(build_demo(folder, reset=True))
            db = connect(folder)
            self.assertGreater(db.execute("SELECT count(*) FROM strokes").fetchone()[0], 500)
            db.close()
            self.assertTrue((folder / FILE).exists())
