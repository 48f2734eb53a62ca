"""The schema: numbered migrations, forward only."""

import pathlib
import sqlite3

MIGRATIONS = pathlib.Path(__file__).parent / "migrations"


def migrations() -> list[tuple[int, str]]:
    """Number and SQL of every migration, in order."""
    return [(int(path.name.split("_")[0]), path.read_text()) for path in sorted(MIGRATIONS.glob("*.sql"))]


def newest() -> int:
    """The number of the last migration: what this version of Gray Quill reads."""
    return migrations()[-1][0]


def version_of(db: sqlite3.Connection) -> int:
    """The last migration a database has had."""
    return int(db.execute("PRAGMA user_version").fetchone()[0])


def migrate(db: sqlite3.Connection, upto: int | None = None) -> None:
    """Run the migrations this database has not had; each in one transaction with its number."""
    done = version_of(db)
    for number, sql in migrations():
        if number > done and (upto is None or number <= upto):
            try:
                db.executescript(f"BEGIN IMMEDIATE;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")
            except BaseException:
                if db.in_transaction:
                    db.execute("ROLLBACK")
                raise


def empty(db: sqlite3.Connection) -> None:
    """Delete every row of every table, inside the caller's transaction."""
    db.execute("PRAGMA defer_foreign_keys = ON")
    # the words of things are no rows of their own: they go with their things
    for (table,) in db.execute(
        "SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table'"
    ).fetchall():
        if not table.startswith("sqlite_"):
            db.execute(f"DELETE FROM {table}")
