"""Back to a backup: first what would change, then all of it in one step, with what is there kept as a backup."""

import contextlib
import dataclasses
import datetime
import hashlib
import os
import pathlib
import sqlite3
import threading
from collections.abc import Iterator

from gray_quill.core.errors import Conflict
from gray_quill.store.backups import FOLDER, STAMP, Backup, back_up_now, clear_left_behind, get_backup, one_at_a_time
from gray_quill.store.database import connect, no_writer_else, private
from gray_quill.store.health import examine
from gray_quill.store.schema import migrate

# What makes a thing what it is: rows by the thing they belong to
PARTS = {
    "pen": "SELECT pen_id AS id, revision, recipe, note FROM pen_revisions WHERE revision > 0 ORDER BY revision",
    "hand": "SELECT id, record FROM hands",
    "device": "SELECT id, record FROM devices",
    "sheet": "SELECT sheaf AS id, id AS page, paper, hand_id, device_id, pen_id, layers, prints, covers, place, "
    "binned_at IS NULL FROM sheets ORDER BY id",
    "ink": "SELECT s.sheaf AS id, k.id AS stroke, k.trace, k.pen_id, k.revision, k.showing, k.layer, k.locked, "
    "k.grouped, k.binned_at IS NULL FROM strokes k JOIN sheets s ON s.id = k.sheet_id ORDER BY k.id",
    "run": "SELECT id, inputs, results, verdict FROM trials",
    "rules": "SELECT hand_id || '~' || device_id AS id, rules, posture FROM palm_settings",
    "fit": "SELECT hand_id || '~' || device_id AS id, press FROM press_fits",
    "paper": "SELECT json_extract(one.value, '$.name') AS id, one.value FROM settings s, json_each(s.value) one "
    "WHERE s.key = 'papers'",
    "palette": "SELECT 'own' AS id, value FROM settings WHERE key = 'palette'",
}
PARTS_OF = {"sheet": ("sheet", "ink"), "piece": ("sheet", "ink"), "palm rules": ("rules",), "press fit": ("fit",)}
PARTS_OF |= dict.fromkeys(("lag run", "palm run", "line-up", "blind pairs"), ("run",))


@dataclasses.dataclass(frozen=True)
class Otherwise:
    """A thing that would be otherwise. way: "comes back", "goes" or "is as it was then"; binned: it would lie in the
    bin.
    """

    kind: str
    id: str
    name: str
    way: str
    binned: bool = False


@dataclasses.dataclass(frozen=True)
class Changes:
    """backup: which; made_at: when; changes: every thing that would be otherwise."""

    backup: str
    made_at: datetime.datetime
    changes: list[Otherwise]


def what_would_change(folder: pathlib.Path, name: str) -> Changes:
    """What going back to a backup would do. Raises Conflict for one that cannot be trusted."""
    backup = get_backup(folder, name)
    with _made_ready(folder, backup) as then, contextlib.closing(connect(folder)) as now:
        was, here = _things(then), _things(now)
    ways = {key: "comes back" for key in was if key not in here} | {key: "goes" for key in here if key not in was}
    ways |= {key: "is as it was then" for key, told in was.items() if key in here and told != here[key]}
    names = {key: told[0] for key, told in (was | here).items()}
    changes = [Otherwise(*key, names[key], way, key in was and was[key][2]) for key, way in sorted(ways.items())]
    return Changes(backup.name, backup.made_at, changes)


def _things(db: sqlite3.Connection) -> dict[tuple[str, str], tuple[str, str, bool, str]]:
    """Name, note, whether it is in the bin, and a fingerprint of every thing."""
    prints: dict[tuple[str, str], str] = {}
    for part, sql in PARTS.items():
        digests: dict[str, hashlib._Hash] = {}
        for row in db.execute(sql):
            digests.setdefault(row[0], hashlib.sha256()).update(repr(tuple(row)).encode())
        prints |= {(part, thing_id): digest.hexdigest() for thing_id, digest in digests.items()}
    rows = db.execute("SELECT kind, id, name, note, binned_at IS NOT NULL FROM things").fetchall()
    return {
        (kind, i): (name, note, bool(binned), " ".join(prints.get((p, i), "") for p in PARTS_OF.get(kind, (kind,))))
        for kind, i, name, note, binned in rows
    }


@contextlib.contextmanager
def _made_ready(folder: pathlib.Path, backup: Backup) -> Iterator[sqlite3.Connection]:
    """A copy of a backup as this version reads it, for as long as it is looked at."""
    health = examine(backup.path)
    if health.state != "good":
        raise Conflict(f"The backup {backup.name} is {health.words()}. Choose another.")
    when = datetime.datetime.now(datetime.UTC)
    copy = folder / FOLDER / f".ready-{os.getpid()}-{threading.get_ident()}-{when:{STAMP}}"
    clear_left_behind(copy.parent, "ready")
    try:
        with contextlib.closing(sqlite3.connect(private(copy), isolation_level=None)) as db:
            db.row_factory = sqlite3.Row
            with contextlib.closing(sqlite3.connect(backup.path.absolute().as_uri() + "?mode=ro", uri=True)) as source:
                source.backup(db)
            db.execute("PRAGMA journal_mode = MEMORY")
            migrate(db)
            yield db
    finally:
        copy.unlink(missing_ok=True)


def go_back(folder: pathlib.Path, name: str) -> tuple[Backup, Backup]:
    """Make everything as it was in a backup. Returns that one, and the one the present state is kept as.

    Whoever writes waits meanwhile. Killed at any moment, all is as before or as then. Raises Conflict for a backup that
    cannot be trusted, Unavailable where the present cannot be kept; nothing changes then.
    """
    backup = get_backup(folder, name)
    with one_at_a_time(folder), _made_ready(folder, backup) as then, no_writer_else():
        kept = back_up_now(folder, spare=backup.name)
        with contextlib.closing(connect(folder)) as now:
            _count_on(then, now)
            then.backup(now)
    return backup, kept


def _count_on(then: sqlite3.Connection, now: sqlite3.Connection) -> None:
    """Screens know a page by how often it changed: counts that came again would show what they had shown."""
    (most,) = now.execute("SELECT max(coalesce(max(version), 0), coalesce(max(ink), 0)) FROM sheets").fetchone()
    then.execute("UPDATE sheets SET version = version + ?, ink = ink + ?", (most, most))
