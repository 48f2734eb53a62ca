"""The database: connections, transactions, and what the file system's refusals mean in words."""

import contextlib
import datetime
import pathlib
import sqlite3
import threading
from collections.abc import Iterator

from gray_quill.core.errors import Unavailable

FILE = "gray-quill.db"
ONLY_OWNER = 0o600
WAIT_S = 10  # for another writer
# SQLite's extended result codes, by their names, and what they mean for the writer
DISK_FULL = ("SQLITE_FULL", "SQLITE_IOERR_WRITE", "SQLITE_IOERR_FSYNC", "SQLITE_IOERR_SHMSIZE", "SQLITE_IOERR_TRUNCATE")
# One writer at a time is all SQLite has; threads that wait here go on at once, where SQLite would look again only after
# ever longer rests.
_writing = threading.RLock()


def connect(folder: pathlib.Path) -> sqlite3.Connection:
    """A connection to a database that is there, in autocommit mode; writes go through `transaction`.

    Raises sqlite3.OperationalError when there is none; `prepare` makes it.
    """
    place = (folder / FILE).absolute().as_uri() + "?mode=rw"
    db = sqlite3.connect(place, isolation_level=None, timeout=WAIT_S, check_same_thread=False, uri=True)
    try:
        db.row_factory = sqlite3.Row
        db.execute("PRAGMA foreign_keys = ON")
        db.execute("PRAGMA synchronous = FULL")
        found = db.execute("PRAGMA journal_mode").fetchone()[0], db.execute("PRAGMA synchronous").fetchone()[0]
        if found != ("wal", 2):
            raise sqlite3.OperationalError(f"the database is not safe to write to: {found}")
    except BaseException:
        db.close()
        raise
    return db


@contextlib.contextmanager
def transaction(db: sqlite3.Connection) -> Iterator[None]:
    """All writes inside happen, or none. One inside another is a part of it."""
    inner = db.in_transaction
    with contextlib.nullcontext() if inner else _writing:
        db.execute("SAVEPOINT part" if inner else "BEGIN IMMEDIATE")
        try:
            yield
            db.execute("RELEASE part" if inner else "COMMIT")
        except BaseException:
            if db.in_transaction:  # a full disk may have ended it already
                db.execute("ROLLBACK TO part" if inner else "ROLLBACK")
            raise


@contextlib.contextmanager
def no_writer_else() -> Iterator[None]:
    """Whoever else of this process would write waits until this is over."""
    with _writing:
        yield


def private(path: pathlib.Path) -> pathlib.Path:
    """A file that only its owner reads and writes, made where there is none; what SQLite puts beside it is alike."""
    path.touch(mode=ONLY_OWNER, exist_ok=True)
    with contextlib.suppress(OSError):  # somebody else's, or on a disk without such
        path.chmod(ONLY_OWNER)
    return path


def folder_gone(folder: pathlib.Path) -> Unavailable:
    return Unavailable(f"The folder {folder} is gone or empty. Put it back; what waits is sent then.", "folder_gone")


def trouble(error: sqlite3.Error, folder: pathlib.Path) -> Unavailable | None:
    """What a refusal of the file system means for the writer and what to do; None where it is our own fault."""
    name = getattr(error, "sqlite_errorname", "")
    if not (folder / FILE).exists():
        return folder_gone(folder)
    if name in DISK_FULL:
        return Unavailable("The disk takes no more. Free some space; what waits is sent then.", "disk_full")
    if name.startswith(("SQLITE_READONLY", "SQLITE_CANTOPEN", "SQLITE_PERM")):
        return Unavailable(f"{folder} can only be read. Allow writing there; what waits is sent then.", "read_only")
    if name.startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
        return Unavailable("Something else is writing to the database for long. Try again.", "store_busy")
    if name.startswith(("SQLITE_CORRUPT", "SQLITE_NOTADB")):
        return Unavailable(
            f"The database in {folder} is damaged. Stop Gray Quill, then run gray-quill check and gray-quill restore.",
            "damaged",
        )
    if name.startswith("SQLITE_IOERR"):
        return Unavailable(f"The disk of {folder} does not answer. See to it; what waits is sent then.", "disk_failed")
    return None


def now() -> str:
    """The time as it is stored."""
    return datetime.datetime.now(datetime.UTC).isoformat(timespec="milliseconds")
