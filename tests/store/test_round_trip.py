"""Everything goes out and comes in: the demo and five thousand made-up things, out, in and out again byte for byte."""

import contextlib
import json
import pathlib
import random
import tempfile
import unittest
from typing import Any

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lineup.pairs import Pairs, PenJudged
from gray_quill.core.palm.rules import Rules
from gray_quill.core.paper import Paper
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed, record_json
from gray_quill.formats.archive_zip import read_archive, write_archive
from gray_quill.store.archive import archived
from gray_quill.store.archive_import import BringingIn
from gray_quill.store.cabinet.finding import Wanted, find
from gray_quill.store.cabinet.kinds import KINDS
from gray_quill.store.cabinet.needs import needed
from gray_quill.store.coming_rows import CameIn
from gray_quill.store.database import connect
from gray_quill.store.fits import keep_fit
from gray_quill.store.items import add_thing
from gray_quill.store.judged import begin_judging
from gray_quill.store.pages import copy_page
from gray_quill.store.palm_settings import keep_setting
from gray_quill.store.pens import add_pen, add_revision
from gray_quill.store.settings import set_settings
from gray_quill.store.sheets import Sheet, add_sheet
from gray_quill.store.start import prepare
from gray_quill.store.strokes import Stroke, add_strokes
from gray_quill.store.trials import Trial, keep_trial
from gray_quill.web.desk import setting_fits
from tests.browser.driver import demo_folder
from tests.store.test_going_back import state
from tests.zoo import wave

THOUSANDS = {"pens": 1800, "sheets": 1200, "hands": 900, "devices": 700, "runs": 400}
WORDS = "sedge reed owl moth dusk dawn fen trap heron lamp".split()


def no_pictures(_: str, __: bytes) -> list[Any]:
    raise AssertionError("there are none")


def grown(folder: pathlib.Path, counts: dict[str, int], seed: int) -> None:
    """A desk with so many made-up things, each with some history, ink, notes and runs."""
    rng = random.Random(seed)
    names = [" ".join(rng.sample(WORDS, 3)) for _ in range(50)]
    recipes = list(SHIPPED_PENS.values())
    prepare(folder)
    db = connect(folder)
    db.execute("BEGIN")
    for k in range(counts["hands"]):
        add_thing(db, f"hand-{k}", Hand(f"{rng.choice(names)} {k}", rng.choice(("left", "right"))))
    for k in range(counts["devices"]):
        add_thing(
            db, f"device-{k}", changed(Device(f"{rng.choice(names)} {k}"), "panel.ppi", float(rng.randint(90, 300)))
        )
    for k in range(counts["pens"]):
        recipe = changed(rng.choice(recipes), "name", f"{rng.choice(names)} {k}")
        add_pen(db, f"pen-{k}", recipe, rng.choice(names))
        if k % 3 == 0:
            add_revision(db, f"pen-{k}", changed(recipe, "body.width_mm", round(rng.uniform(0.2, 4), 2)), "tuned")
    for k in range(counts["sheets"]):
        pen, hand, device = (f"{kind}-{rng.randrange(counts[kind + 's'])}" for kind in ("pen", "hand", "device"))
        paper = Paper(width_mm=float(rng.randint(80, 300)))
        add_sheet(db, Sheet(f"sheet-{k}", f"{rng.choice(names)} {k}", "free", paper, hand, device, pen, "", False))
        add_strokes(db, f"sheet-{k}", [Stroke(f"s{k}-{n}", pen, 1, wave(0.1 + rng.random())) for n in range(2)])
        if k % 10 == 0:
            copy_page(db, f"sheet-{k}", f"sheet-{k}-two")
    for k in range(counts["runs"]):
        hand, device = f"hand-{k % counts['hands']}", f"device-{k % counts['devices']}"
        keep_trial(
            db, Trial("lineup", hand, device, {"name": f"{rng.choice(names)} {k}"}, {"points": [k]}, "the first")
        )
        keep_fit(db, hand, device, Press())
        keep_setting(db, hand, device, Rules(size_mm=float(10 + k % 9)), None)
    set_settings(db, {"papers": [{"name": "Tide table", "paper": record_json(Paper())}]})
    db.execute("INSERT INTO notes (kind, id, note) VALUES ('pen', 'pen-0', 'for zebras')")
    db.execute("COMMIT")
    db.close()


class RoundTrip(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder = pathlib.Path(temporary.name)

    def out(self, folder: pathlib.Path) -> bytes:
        with contextlib.closing(connect(folder)) as db:
            return write_archive(archived(db))

    def into(self, folder: pathlib.Path, data: bytes, checked: Any = no_pictures) -> CameIn:
        prepare(folder)
        opened = read_archive(data)
        self.assertEqual(opened.broken, [])
        with contextlib.closing(connect(folder)) as db:
            return BringingIn(db, opened.files, checked, setting_fits).run()

    def rows(self, folder: pathlib.Path) -> dict[str, Any]:
        told = state(folder)
        self.assertEqual(told.pop("looks"), [])
        told["things"] = [row[1:] for row in told["things"]]  # their place in the list is this list's own
        return {table: sorted(rows, key=repr) for table, rows in told.items() if table != "browsers"}

    def there_and_back(self, before: pathlib.Path, checked: Any = no_pictures) -> None:
        first = self.out(before)
        came = self.into(self.folder / "there", first, checked)
        self.assertEqual((came.left_out, came.twins, came.there), ([], [], 0))
        there, here = self.rows(self.folder / "there"), self.rows(before)
        for table, rows in here.items():
            self.assertEqual(there[table], rows, table)
        self.assertEqual(self.out(self.folder / "there"), first, "out, in, out: the same bytes")
        again = self.into(self.folder / "there", first, checked)
        self.assertEqual(again.words().split(",")[0], "Nothing new came in")
        self.assertEqual(self.rows(self.folder / "there"), there, "twice is once")

    def test_five_thousand_things_come_back_as_they_were(self) -> None:
        before = self.folder / "here"
        grown(before, THOUSANDS, 1)
        with contextlib.closing(connect(before)) as db:
            self.assertGreaterEqual(find(db, Wanted()).count, 5000)
        self.there_and_back(before)

    def test_the_demo_comes_back_as_it_was(self) -> None:
        def checked(kind: str, data: bytes) -> list[Any]:
            self.assertEqual((kind, data[:4]), ("pdf", b"%PDF"))
            with contextlib.closing(connect(demo_folder())) as db:
                return list(json.loads(db.execute("SELECT sizes_mm FROM originals").fetchone()[0]))

        self.there_and_back(demo_folder(), checked)

    def test_whatever_part_goes_out_alone_comes_in_whole_in_any_order(self) -> None:
        """Random desks, things taken out one by one and brought in shuffled: what is there in the end is the same."""
        for seed in range(4):
            with self.subTest(seed=seed):
                before, after = self.folder / f"a{seed}", self.folder / f"b{seed}"
                grown(before, dict.fromkeys(THOUSANDS, 9), 100 + seed)
                with contextlib.closing(connect(before)) as db:
                    begin = Pairs("me", [PenJudged("pen-1", 1), PenJudged("pen-2", 1)], "sheet-3", 1, [])
                    begin_judging(db, ("hand-1", "device-2"), begin)
                    things = [t for kind in KINDS for t in find(db, Wanted(kind=kind), most=60).things]
                    files = [write_archive(archived(db, needed(db, t.kind, t.id))) for t in things]
                random.Random(seed).shuffle(files)
                for data in files:
                    self.assertEqual(self.into(after, data).left_out, [])
                with contextlib.closing(connect(after)) as db:
                    there = {(t.kind, t.id, t.name) for t in find(db, Wanted(), most=500).things}
                self.assertEqual(there, {(t.kind, t.id, t.name) for t in things})
                self.assertEqual(self.rows(after)["strokes"], self.rows(before)["strokes"])
