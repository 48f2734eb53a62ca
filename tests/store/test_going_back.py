"""Back to a backup: first what would change, then all or nothing, with the present kept."""

import contextlib
import gzip
import multiprocessing
import os
import pathlib
import random
import signal
import sqlite3
import threading
import time

from gray_quill.core.errors import Conflict, NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.store.backups import FOLDER, LAST_KEPT, back_up, back_up_now, list_backups, one_at_a_time
from gray_quill.store.cabinet.item_operations import bin_thing, copy_thing, note_thing
from gray_quill.store.database import FILE, connect, transaction
from gray_quill.store.going_back import go_back, what_would_change
from gray_quill.store.health import examine
from gray_quill.store.items import add_thing
from gray_quill.store.pens import add_pen, add_revision, get_pen
from gray_quill.store.schema import newest
from gray_quill.store.sheets import get_sheet
from gray_quill.store.strokes import Stroke, add_strokes, bin_strokes, list_strokes
from tests.store.test_backups import GOLDEN
from tests.store.test_store import StoreCase
from tests.zoo import wave

FEN = SHIPPED_PENS["fen-fountain"]
KILLS = 12  # here; a hundred and more by `make trial-kills`


def state(folder: pathlib.Path) -> dict[str, list[tuple[object, ...]]]:
    """Every row of every table, but for what each desk counts."""
    with contextlib.closing(sqlite3.connect(folder / FILE)) as db:
        db.row_factory = sqlite3.Row
        names = (
            "SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite%'"
        )
        return {
            table: sorted(
                (
                    tuple(row[c] for c in row.keys() if c not in ("version", "ink"))  # noqa: SIM118
                    for row in db.execute(f"SELECT * FROM {table}")
                ),
                key=repr,
            )
            for (table,) in db.execute(names).fetchall()
        }


class BackCase(StoreCase):
    def setUp(self) -> None:
        super().setUp()
        add_strokes(self.db, "s", [Stroke("k", "fen", 1, wave(0.2))])
        made = back_up(self.folder)
        assert made is not None
        self.then, self.state_then = made.name, state(self.folder)

    def change(self) -> None:
        add_strokes(self.db, "s", [Stroke("k2", "fen", 1, wave(0.3))])
        add_revision(self.db, "fen", changed(FEN, "body.width_mm", 0.9), "wider")
        add_pen(self.db, "later", SHIPPED_PENS["heron-brush"])
        add_thing(self.db, "h2", Hand("Ferry hand", "left"))
        copy_thing(self.db, "sheet", "s", "copy")


class GoingBack(BackCase):
    def test_what_would_change_is_told_and_then_is_so(self) -> None:
        self.assertEqual(what_would_change(self.folder, self.then).changes, [])
        self.change()
        told = {(c.kind, c.id): c.way for c in what_would_change(self.folder, self.then).changes}
        self.assertEqual(
            told,
            {
                ("sheet", "s"): "is as it was then",
                ("pen", "fen"): "is as it was then",
                ("pen", "later"): "goes",
                ("hand", "h2"): "goes",
                ("sheet", "copy"): "goes",
            },
        )
        before = state(self.folder)
        went, kept = go_back(self.folder, self.then)
        self.assertEqual((went.name, state(self.folder)), (self.then, self.state_then))
        self.assertEqual([s.id for s in list_strokes(self.db, "s")], ["k"], "for who had it open as well")
        self.assertEqual(get_pen(self.db, "fen").newest, 1)
        forth = {(c.kind, c.id): c.way for c in what_would_change(self.folder, kept.name).changes}
        self.assertEqual(forth[("pen", "later")], "comes back", "and there is a way forth")
        go_back(self.folder, kept.name)
        self.assertEqual(state(self.folder), before)

    def test_a_note_and_the_bin_count_as_changes(self) -> None:
        note_thing(self.db, "pen", "fen", "for zebras")
        self.assertEqual([c.id for c in what_would_change(self.folder, self.then).changes], ["fen"])
        add_thing(self.db, "h2", Hand("Ferry hand", "left"))
        bin_thing(self.db, "hand", "h2", True)
        bin_strokes(self.db, "s", ["k"], True)
        self.assertEqual({c.id for c in what_would_change(self.folder, self.then).changes}, {"fen", "h2", "s"})

    def test_pages_count_on_so_that_no_screen_takes_old_ink_for_new(self) -> None:
        self.change()
        before = get_sheet(self.db, "s")
        go_back(self.folder, self.then)
        after = get_sheet(self.db, "s")
        self.assertGreater(after.version, before.version)
        self.assertGreater(after.ink, before.ink)

    def test_a_backup_of_an_earlier_version_is_read_as_this_one_reads_it(self) -> None:
        old = self.folder / FOLDER / "20250101-000000-000000.db"
        old.write_bytes(gzip.decompress((GOLDEN / "0.4.0.db.gz").read_bytes()))
        told = what_would_change(self.folder, old.name).changes
        self.assertIn(("pen", "own-pen", "comes back"), {(c.kind, c.id, c.way) for c in told})
        self.assertIn(("pen", "fen", "goes"), {(c.kind, c.id, c.way) for c in told})
        go_back(self.folder, old.name)
        self.assertEqual(examine(self.folder / FILE).schema, newest())
        self.assertEqual(get_pen(self.db, "own-pen").recipe.name, "Own pen")
        self.assertLess(examine(old).schema, newest(), "the backup stays as it was made")

    def test_one_that_cannot_be_trusted_changes_nothing(self) -> None:
        bad = self.folder / FOLDER / "20250102-000000-000000.db"
        bad.write_bytes(b"no database at all")
        before = state(self.folder)
        self.assertRaises(Conflict, what_would_change, self.folder, bad.name)
        self.assertRaises(Conflict, go_back, self.folder, bad.name)
        self.assertRaises(NotFound, go_back, self.folder, "20990101-000000-000000.db")
        with contextlib.suppress(sqlite3.Error):
            later = sqlite3.connect(self.folder / FOLDER / self.then)
            later.execute("PRAGMA user_version = 99")
            later.close()
        self.assertRaises(Conflict, go_back, self.folder, self.then)
        self.assertEqual(state(self.folder), before)
        self.assertEqual([p.name for p in (self.folder / FOLDER).glob(".*")], [".lock"])

    def test_the_one_gone_back_to_is_not_let_go_of_by_the_one_made(self) -> None:
        oldest = self.then
        for _ in range(LAST_KEPT + 2):
            with one_at_a_time(self.folder):
                back_up_now(self.folder, spare=oldest)
        go_back(self.folder, oldest)
        self.assertIn(oldest, [b.name for b in list_backups(self.folder)])

    def test_who_writes_meanwhile_waits_and_loses_nothing(self) -> None:
        stop = threading.Event()
        wrote: list[tuple[float, str]] = []
        failed: list[Exception] = []

        def write() -> None:
            with contextlib.closing(connect(self.folder)) as db:
                while not stop.is_set():
                    name = f"w{len(wrote)}"
                    try:
                        add_strokes(db, "s", [Stroke(name, "fen", 1, wave(0.2))])
                        wrote.append((time.monotonic(), name))
                    except Exception as error:
                        failed.append(error)

        writer = threading.Thread(target=write)
        writer.start()
        while len(wrote) < 5:
            stop.wait(0.01)
        _, kept = go_back(self.folder, self.then)
        went = time.monotonic()
        while not wrote or wrote[-1][0] < went:
            stop.wait(0.01)
        stop.set()
        writer.join()
        self.assertEqual(failed, [])
        with contextlib.closing(sqlite3.connect(kept.path)) as then:
            in_backup = {i for (i,) in then.execute("SELECT id FROM strokes")}
        now = {s.id for s in list_strokes(self.db, "s")}
        lost = {name for _, name in wrote} - in_backup - now
        self.assertEqual(lost, set(), "what was kept is here, or in the backup of what was here")


def _go_back(folder: pathlib.Path, name: str) -> None:
    go_back(folder, name)


class Killed(BackCase):
    def test_killed_at_any_moment_all_is_as_before_or_as_then(self) -> None:
        rng = random.Random(5)
        with transaction(self.db):
            rows = [(f"g{k}", "s", k + 5, "fen", 1, b"GQT1" + bytes(20_000), "") for k in range(200)]
            self.db.executemany(
                "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at) "
                "VALUES (?, ?, ?, ?, ?, ?, ?)",
                rows,
            )
        before, seen = state(self.folder), set()
        context = multiprocessing.get_context("fork")
        took = time.monotonic()
        go_back(self.folder, self.then)
        took = time.monotonic() - took
        for _ in range(KILLS):
            newest_kept = list_backups(self.folder)[0].name
            go_back(self.folder, newest_kept) if state(self.folder) == self.state_then else None
            self.assertEqual(state(self.folder), before)
            child = context.Process(target=_go_back, args=(self.folder, self.then))
            child.start()
            time.sleep(rng.uniform(0, 1.3 * took))  # a moment is what is drawn here, not waited for
            if child.pid:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(child.pid, signal.SIGKILL)
            child.join()
            now = state(self.folder)
            self.assertIn(now, (before, self.state_then))
            self.assertEqual(examine(self.folder / FILE).state, "good")
            seen.add(now == before)
        self.assertTrue(seen)
