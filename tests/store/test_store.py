"""The store: nothing is lost, repeats change nothing, old databases come along."""

import contextlib
import dataclasses
import pathlib
import shutil
import sqlite3
import tempfile
import unittest
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np

from gray_quill.core.errors import Binned, Conflict, GrayQuillError, NotFound, Stale
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.demo.build import build_demo
from gray_quill.store.database import FILE, connect, transaction
from gray_quill.store.pens import add_pen, add_revision, bin_pen, get_pen, list_pens, pen_history, set_roll
from gray_quill.store.schema import migrate, migrations
from gray_quill.store.sheets import Sheet, add_sheet, bin_sheet, change_sheet, get_sheet
from gray_quill.store.start import prepare
from gray_quill.store.strokes import Stroke, add_strokes, bin_strokes, list_strokes
from gray_quill.store.trace_blob import pack_trace, unpack_trace
from tests.browser.driver import demo_folder
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
            for known in (trace, dataclasses.replace(trace, absent=frozenset({"tilt"}))):
                timed = dataclasses.replace(known, begun_s=1_780_000_000.125)
                self.assertEqual(unpack_trace(pack_trace(timed)).begun_s, 1_780_000_000.125)
            self.assertIsNone(back.begun_s)

    def test_a_repeated_save_changes_nothing_and_the_bin_gives_back(self) -> None:
        strokes = [Stroke(f"a{i}", "fen", 1, wave(0.2)) for i in range(3)]
        self.assertEqual([a.state for a in add_strokes(self.db, "s", strokes)], ["kept"] * 3)
        self.assertEqual([a.state for a in add_strokes(self.db, "s", strokes[1:])], ["there"] * 2)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a1", "a2"])
        bin_strokes(self.db, "s", ["a1"], True)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a2"])
        bin_strokes(self.db, "s", ["a1"], False)
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a0", "a1", "a2"])

    def test_each_stroke_is_answered_for_itself(self) -> None:
        add_sheet(self.db, Sheet("t", "Other", "free", paper_from_spec("dotted A5"), "h", "d", "fen", "", False))
        add_strokes(self.db, "t", [Stroke("far", "fen", 1, wave(0.2))])
        add_strokes(self.db, "s", [Stroke("own", "fen", 1, wave(0.2))])
        batch = [
            Stroke("b0", "fen", 1, wave(0.2)),
            Stroke("b1", "fen", 9, wave(0.2)),
            Stroke("far", "fen", 1, wave(0.2)),
            Stroke("own", "fen", 1, wave(0.7)),
            Stroke("own", "fen", 1, wave(0.2)),
            Stroke("b2", "fen", 1, wave(0.2)),
        ]
        answers = add_strokes(self.db, "s", batch)
        self.assertEqual(
            [(a.state, a.code) for a in answers],
            [("kept", ""), ("refused", "no_pen"), ("refused", "elsewhere"), ("refused", "other_ink"), ("there", "")]
            + [("kept", "")],
        )
        self.assertTrue(all(a.reason for a in answers if a.state == "refused"))
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["own", "b0", "b2"])

    def test_a_refused_write_leaves_nothing_behind(self) -> None:
        with self.assertRaises(NotFound):
            add_strokes(self.db, "nowhere", [Stroke("b0", "fen", 1, wave(0.2))])
        bin_sheet(self.db, "s", True)
        with self.assertRaises(Binned):
            add_strokes(self.db, "s", [Stroke("b0", "fen", 1, wave(0.2))])
        bin_sheet(self.db, "s", False)
        with self.assertRaises(NotFound):
            bin_strokes(self.db, "s", ["ghost"], True)
        self.assertEqual(list_strokes(self.db, "s"), [])
        with self.assertRaises(sqlite3.IntegrityError), transaction(self.db):
            self.db.execute("DELETE FROM pens WHERE id = 'fen'")

    def test_a_transaction_inside_another_is_a_part_of_it(self) -> None:
        def count() -> int:
            return int(self.db.execute("SELECT count(*) FROM strokes").fetchone()[0])

        with transaction(self.db):
            add_strokes(self.db, "s", [Stroke("a", "fen", 1, wave(0.2))])
            with contextlib.suppress(ZeroDivisionError), transaction(self.db):
                add_strokes(self.db, "s", [Stroke("b", "fen", 1, wave(0.2))])
                raise ZeroDivisionError
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["a"])
        with contextlib.suppress(ZeroDivisionError), transaction(self.db):
            add_strokes(self.db, "s", [Stroke("c", "fen", 1, wave(0.2))])
            raise ZeroDivisionError
        self.assertEqual(count(), 1)


class AtOnce(StoreCase):
    """Two of everything at the same moment."""

    def together(self, work: Callable[[sqlite3.Connection, int], Any], times: int = 24) -> list[Any]:
        def one(k: int) -> Any:
            db = connect(self.folder)
            try:
                return work(db, k)
            except GrayQuillError as error:
                return error
            finally:
                db.close()

        with ThreadPoolExecutor(8) as pool:
            return list(pool.map(one, range(times)))

    def test_revisions_each_get_a_number_of_their_own(self) -> None:
        made = self.together(lambda db, k: add_revision(db, "fen", SHIPPED_PENS["fen-fountain"], f"note {k}"))
        self.assertEqual(sorted(p.revision for p in made), list(range(2, 26)))
        self.assertEqual({p.note for p in pen_history(self.db, "fen")}, {"", *(f"note {k}" for k in range(24))})

    def test_of_changes_from_the_same_sight_one_is_made_and_the_others_are_told(self) -> None:
        answers = self.together(lambda db, k: change_sheet(db, "s", saw=1, name=f"name {k}"))
        told = [a for a in answers if isinstance(a, Stale)]
        self.assertEqual(len(told), 23)
        made = next(a for a in answers if isinstance(a, Sheet))
        self.assertTrue(all(made.name in a.message for a in told), "they are told what is there now")
        revisions = self.together(lambda db, k: add_revision(db, "fen", SHIPPED_PENS["heron-brush"], saw=1), 8)
        self.assertEqual(sum(isinstance(a, Stale) for a in revisions), 7)

    def test_changes_of_different_parts_both_stay(self) -> None:
        add_pen(self.db, "heron", SHIPPED_PENS["heron-brush"])
        self.together(
            lambda db, k: change_sheet(db, "s", name="new" if k % 2 else None, pen_id=None if k % 2 else "heron"), 16
        )
        sheet = get_sheet(self.db, "s")
        self.assertEqual((sheet.name, sheet.pen_id, sheet.version), ("new", "heron", 17))


class Pens(StoreCase):
    def test_revisions_stay_as_they_were(self) -> None:
        add_revision(self.db, "fen", SHIPPED_PENS["heron-brush"], "wilder")
        self.assertEqual(
            [(p.revision, p.recipe.name) for p in pen_history(self.db, "fen")],
            [(2, "Heron brush 0.7"), (1, "Fen fountain 0.5")],
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
        bin_pen(self.db, "heron", True)
        with self.assertRaises(Binned):
            set_roll(self.db, ["heron", "fen"])
        self.assertEqual([p.id for p in list_pens(self.db)], ["fen", "reed"])


class Database(StoreCase):
    def test_every_earlier_version_comes_up_to_date(self) -> None:
        numbers = [n for n, _ in migrations()]
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
        for version in [0, *numbers]:
            with tempfile.TemporaryDirectory() as folder:
                db = sqlite3.connect(pathlib.Path(folder) / FILE, isolation_level=None)
                migrate(db, upto=version)
                db.close()
                prepare(pathlib.Path(folder))
                db = connect(pathlib.Path(folder))
                self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], numbers[-1])
                db.close()

    def test_demo_data_is_filled_in_once_and_put_back_on_request(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = pathlib.Path(name)
            shutil.copytree(demo_folder(), folder, dirs_exist_ok=True)
            self.assertFalse(build_demo(folder), "it is there")
            db = connect(folder)
            counts = [
                db.execute(f"SELECT count(*) FROM {t}").fetchone()[0] for t in ("hands", "devices", "pens", "sheets")
            ]
            self.assertEqual(counts, [4, 6, 19, 6])
            self.assertGreater(db.execute("SELECT count(*) FROM strokes").fetchone()[0], 500)
            all_there = [s.id for s in list_strokes(db, "trap-log")]
            bin_strokes(db, "trap-log", all_there[:50], True)
            change_sheet(db, "trap-log", name="changed")
            db.close()
            self.assertTrue(build_demo(folder, reset=True))
            db = connect(folder)
            self.assertEqual([s.id for s in list_strokes(db, "trap-log")], all_there)
            self.assertNotEqual(get_sheet(db, "trap-log").name, "changed")
            db.close()
            self.assertTrue((folder / FILE).exists())
