"""How much room what is kept takes."""

import dataclasses
import pathlib
import sqlite3

from gray_quill.store.backups import list_backups
from gray_quill.store.database import FILE

HELD = {
    "ink": "SELECT sum(length(trace)) FROM strokes",
    "ink in the bin": "SELECT sum(length(k.trace)) FROM strokes k JOIN sheets s ON s.id = k.sheet_id "
    "WHERE k.binned_at IS NOT NULL OR s.binned_at IS NOT NULL",
    "pictures and documents": "SELECT sum(length(data)) FROM originals",
    "pens, hands, devices": "SELECT (SELECT coalesce(sum(length(recipe)), 0) FROM pen_revisions) + "
    "(SELECT coalesce(sum(length(record)), 0) FROM hands) + (SELECT coalesce(sum(length(record)), 0) FROM devices)",
    "runs and line-ups": "SELECT sum(length(inputs) + length(results)) FROM trials",
    "touches told": "SELECT sum(length(contacts)) FROM palm_told",
}


@dataclasses.dataclass(frozen=True)
class Space:
    """folder: where everything lies; database, backups: bytes of files; held: bytes by what is kept in the database."""

    folder: str
    database: int
    backups: int
    held: dict[str, int]


def space_of(db: sqlite3.Connection, folder: pathlib.Path) -> Space:
    held = {what: int(db.execute(sql).fetchone()[0] or 0) for what, sql in HELD.items()}
    files = [folder / (FILE + end) for end in ("", "-wal")]
    kept = [backup.path for backup in list_backups(folder)]
    return Space(str(folder.absolute()), _bytes(files), _bytes(kept), held)


def _bytes(files: list[pathlib.Path]) -> int:
    return sum(file.stat().st_size for file in files if file.exists())
