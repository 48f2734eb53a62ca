"""Whether a database file can be trusted, and how much it holds."""

import contextlib
import dataclasses
import pathlib
import sqlite3

from gray_quill.store.schema import newest, version_of

COUNTED = ("sheets", "strokes", "pens", "pen_revisions")


@dataclasses.dataclass(frozen=True)
class Health:
    """state: missing, empty (no tables), damaged, newer (of a later Gray Quill) or good. counts: rows by table.
    fault: the first thing found wrong, in SQLite's words."""

    state: str
    schema: int = 0
    counts: dict[str, int] = dataclasses.field(default_factory=dict)
    fault: str = ""

    @property
    def strokes(self) -> int:
        return self.counts.get("strokes", 0)

    def words(self) -> str:
        """In one line."""
        if self.state == "good":
            return ", ".join(f"{n} {table.replace('_', ' ')}" for table, n in self.counts.items())
        told = {
            "missing": "not there",
            "empty": "empty",
            "newer": f"written by a later Gray Quill (schema {self.schema}; this one reads up to {newest()})",
        }
        return told.get(self.state, f"damaged: {self.fault}")


def examine(path: pathlib.Path, whole: bool = True) -> Health:
    """Look through a file without changing it; `whole` also checks every index against its table."""
    if not path.exists():
        return Health("missing")
    if path.stat().st_size == 0 and not path.with_name(path.name + "-wal").exists():
        return Health("empty")
    try:
        with contextlib.closing(sqlite3.connect(path.absolute().as_uri() + "?mode=rw", uri=True, timeout=10)) as db:
            return examine_open(db, whole)
    except sqlite3.DatabaseError as error:
        name = getattr(error, "sqlite_errorname", "")
        if name.startswith(("SQLITE_NOTADB", "SQLITE_CORRUPT", "SQLITE_ERROR")):
            return Health("damaged", fault=str(error))
        raise


def examine_open(db: sqlite3.Connection, whole: bool = True) -> Health:
    """The same of an open database, as its transaction sees it."""
    schema = version_of(db)
    fault = db.execute(f"PRAGMA {'integrity_check' if whole else 'quick_check'}(1)").fetchone()[0]
    if fault != "ok":
        return Health("damaged", schema, fault=str(fault).splitlines()[0])
    tables = {row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    if not tables:
        return Health("empty", schema)
    if schema > newest():
        return Health("newer", schema)
    lost = [table for table in COUNTED if table not in tables]
    if lost:
        return Health("damaged", schema, fault=f"there is no table {lost[0]}")
    return Health("good", schema, {t: db.execute(f"SELECT count(*) FROM {t}").fetchone()[0] for t in COUNTED})
