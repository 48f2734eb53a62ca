"""Opening the database: pragmas, migrations, backups, transactions."""

import contextlib
import datetime
import pathlib
import re
import sqlite3
from collections.abc import Iterator

MIGRATIONS = pathlib.Path(__file__).parent / "migrations"
FILE = "gray-quill.db"
BACKUPS_KEPT = 5


def connect(folder: pathlib.Path) -> sqlite3.Connection:
    """A connection in autocommit mode; writes go through `transaction`."""
    db = sqlite3.connect(folder / FILE, isolation_level=None, timeout=10, check_same_thread=False)
    db.row_factory = sqlite3.Row
    db.execute("PRAGMA journal_mode = WAL")
    db.execute("PRAGMA foreign_keys = ON")
    db.execute("PRAGMA synchronous = FULL")
    return db


def prepare(folder: pathlib.Path) -> None:
    """Make the database or bring it up to date, with a backup of what was there."""
    folder.mkdir(parents=True, exist_ok=True)
    there = (folder / FILE).exists()
    db = connect(folder)
    try:
        if there:
            back_up(db, folder)
        migrate(db)
    finally:
        db.close()


def migrations() -> list[tuple[int, str]]:
    """Number and SQL of every migration, in order."""
    return [(int(re.match(r"\d+", path.name)[0]), path.read_text()) for path in sorted(MIGRATIONS.glob("*.sql"))]  # type: ignore[index]


def migrate(db: sqlite3.Connection, upto: int | None = None) -> None:
    """Run the migrations this database has not had; each in one transaction with its number."""
    done = db.execute("PRAGMA user_version").fetchone()[0]
    for number, sql in migrations():
        if number > done and (upto is None or number <= upto):
            db.executescript(f"BEGIN IMMEDIATE;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")


def back_up(db: sqlite3.Connection, folder: pathlib.Path) -> pathlib.Path:
    """Copy the database into backups/, keeping the last BACKUPS_KEPT."""
    place = folder / "backups"
    place.mkdir(exist_ok=True)
    target = place / f"{datetime.datetime.now(datetime.UTC):%Y%m%d-%H%M%S-%f}.db"
    copy = sqlite3.connect(target)
    with contextlib.closing(copy):
        db.backup(copy)
    for old in sorted(place.glob("*.db"))[:-BACKUPS_KEPT]:
        old.unlink()
    return target


@contextlib.contextmanager
def transaction(db: sqlite3.Connection) -> Iterator[None]:
    """All writes inside happen, or none."""
    db.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        db.execute("ROLLBACK")
        raise
    db.execute("COMMIT")


def now() -> str:
    """The time as it is stored."""
    return datetime.datetime.now(datetime.UTC).isoformat(timespec="milliseconds")
