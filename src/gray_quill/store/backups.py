"""Backups: written aside, checked, and only then given their place. The last good one is never deleted."""

import contextlib
import dataclasses
import datetime
import os
import pathlib
import sqlite3
from collections.abc import Iterator

from gray_quill.core.errors import Conflict, NotFound, Unavailable
from gray_quill.store.database import FILE, folder_gone, private
from gray_quill.store.health import Health, examine, examine_open
from gray_quill.store.owner import locked

FOLDER = "backups"
LAST_KEPT, WEEKS_KEPT = 5, 26  # the last good ones, and one of each week before them
STAMP = "%Y%m%d-%H%M%S-%f"
LOCK, PATIENCE_S = ".lock", 60.0


@dataclasses.dataclass(frozen=True)
class Backup:
    path: pathlib.Path
    made_at: datetime.datetime

    @property
    def name(self) -> str:
        return self.path.name


def list_backups(folder: pathlib.Path) -> list[Backup]:
    """All files in the place of backups, newest first, good or not."""
    found = []
    for path in (folder / FOLDER).glob("*.db"):
        with contextlib.suppress(ValueError):
            made_at = datetime.datetime.strptime(path.stem, STAMP).replace(tzinfo=datetime.UTC)
            found.append(Backup(path, made_at))
    return sorted(found, key=lambda b: b.made_at, reverse=True)


def get_backup(folder: pathlib.Path, name: str) -> Backup:
    """Raises NotFound."""
    found = next((b for b in list_backups(folder) if name in (b.name, b.path.stem)), None)
    if found is None:
        raise NotFound(
            f"There is no backup {name!r}. Choose one from the list; gray-quill restore without a name prints it.",
            "backup",
        )
    return found


def newest_good(folder: pathlib.Path) -> tuple[Backup, Health] | None:
    """The newest backup that can be trusted."""
    for backup in list_backups(folder):
        health = examine(backup.path)
        if health.state == "good":
            return backup, health
    return None


@contextlib.contextmanager
def one_at_a_time(folder: pathlib.Path) -> Iterator[None]:
    """Backups are made, and gone back to, one after the other, whoever asks. Raises Unavailable where it takes long, or
    where there is no folder to make them in.
    """
    with contextlib.ExitStack() as held:
        try:
            (folder / FOLDER).mkdir(exist_ok=True)
            held.enter_context(locked(folder / FOLDER / LOCK, PATIENCE_S))
        except TimeoutError:
            raise Unavailable("Another backup is being made just now. Try again in a minute.", "store_busy") from None
        except OSError as error:
            raise _not_made(folder, error) from None
        yield


def _not_made(folder: pathlib.Path, error: Exception) -> Unavailable:
    if not (folder / FILE).exists():
        return folder_gone(folder)
    if getattr(error, "sqlite_errorname", "").startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
        return Unavailable("No backup could be made: something else is writing for long. Try again.", "store_busy")
    words = f"A backup in {folder / FOLDER} could not be made ({error}). Free some space there."
    return Unavailable(words, "no_backup")


def clear_left_behind(place: pathlib.Path, kind: str) -> None:
    """Let go of files `.kind-PID-...` that processes which are gone never finished."""
    for left in place.glob(f".{kind}-*"):
        with contextlib.suppress(ValueError, IndexError):
            if not _lives(int(left.name.split("-")[1])):
                left.unlink(missing_ok=True)


def _lives(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        pass
    return True


def back_up(folder: pathlib.Path, today_is_enough: bool = False) -> Backup | None:
    """Copy the database aside, check the copy, give it its place, and let the oldest go. With `today_is_enough` nothing
    is done where a good one of today is there.

    Raises Unavailable when the copy cannot be made or is not what the database is; nothing else has changed then.
    """
    with one_at_a_time(folder):
        if today_is_enough:
            last = newest_good(folder)
            if last and last[0].made_at.date() == datetime.datetime.now(datetime.UTC).date():
                return None
        return back_up_now(folder)


def back_up_now(folder: pathlib.Path, spare: str = "") -> Backup:
    """The same for who has its turn; the one to `spare` does not go."""
    when = datetime.datetime.now(datetime.UTC)
    place = folder / FOLDER
    aside = place / f".making-{os.getpid()}-{when:{STAMP}}"
    try:
        clear_left_behind(place, "making")
        _copy(folder / FILE, aside)
        target = place / f"{when:{STAMP}}.db"
        os.replace(aside, target)
        _to_disk(place)
    except (OSError, sqlite3.Error) as error:
        with contextlib.suppress(OSError):
            aside.unlink(missing_ok=True)
        raise _not_made(folder, error) from None
    rotate(folder, spare)
    return Backup(target, when)


def _copy(source: pathlib.Path, aside: pathlib.Path) -> None:
    """A checked copy; what the source holds and what the copy holds are counted at the same moment."""
    with (
        contextlib.closing(sqlite3.connect(source.absolute().as_uri() + "?mode=rw", uri=True, timeout=10)) as db,
        contextlib.closing(sqlite3.connect(private(aside))) as copy,
    ):
        db.execute("BEGIN")  # the copy is of this moment, whoever writes meanwhile
        there = examine_open(db, whole=False)
        db.backup(copy)
        copy.execute("PRAGMA journal_mode = DELETE")
        made = examine_open(copy)
        if made != there:
            raise sqlite3.DatabaseError(f"the copy differs: {made.words()} for {there.words()}")
    _to_disk(aside)


def _to_disk(path: pathlib.Path) -> None:
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def rotate(folder: pathlib.Path, spare: str = "") -> None:
    """Let go of what need not be kept: the last LAST_KEPT good ones stay, and the newest good one of each week before.

    What is not good goes only when there are enough good ones, so that nothing that might still help is deleted.
    """
    good: list[Backup] = []
    bad: list[Backup] = []
    for backup in list_backups(folder):
        (good if examine(backup.path, whole=False).state == "good" else bad).append(backup)
    weeks: set[tuple[int, int]] = set()
    kept = good[:LAST_KEPT]
    for backup in good[LAST_KEPT:]:
        week = backup.made_at.isocalendar()[:2]
        if week not in weeks and len(weeks) < WEEKS_KEPT:
            weeks.add(week)
            kept.append(backup)
    for backup in [b for b in good if b not in kept] + (bad if len(good) >= LAST_KEPT else []):
        if backup.name != spare:
            backup.path.unlink(missing_ok=True)


def restore(folder: pathlib.Path, name: str | None = None) -> tuple[Backup, pathlib.Path | None]:
    """Put a backup in the database's place, the newest good one by default. Returns it and where the present file now
    lies, which is kept.
    """
    if name is None:
        found = newest_good(folder)
        if found is None:
            raise NotFound(f"There is no good backup in {folder / FOLDER}. To begin anew move {folder / FILE} away.")
        backup = found[0]
    else:
        backup = get_backup(folder, name)
        health = examine(backup.path)
        if health.state != "good":
            raise Conflict(f"The backup {backup.name} is {health.words()}. Choose another.")
    when = datetime.datetime.now(datetime.UTC)
    aside = folder / f"{FILE}.before-restore-{when:{STAMP}}"
    fresh = folder / f".restoring-{when:{STAMP}}"
    _copy(backup.path, fresh)
    present, kept = folder / FILE, None
    with contextlib.suppress(sqlite3.Error), contextlib.closing(sqlite3.connect(present)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")  # where it still can be read, all of it lies in one file
    for end in ("-shm", "-wal", ""):  # the main file last: it stands for the whole
        if (folder / (FILE + end)).exists():
            os.replace(folder / (FILE + end), aside.with_name(aside.name + end))
            kept = aside
    os.replace(fresh, present)
    _to_disk(folder)
    return backup, kept
