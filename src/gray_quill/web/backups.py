"""Backups as things: made, checked, looked into, and gone back to."""

import datetime
import threading

from flask import Blueprint, current_app

from gray_quill.store.backups import Backup, back_up, get_backup, list_backups
from gray_quill.store.going_back import Changes, go_back, what_would_change
from gray_quill.store.health import examine
from gray_quill.web.api import Model, operation
from gray_quill.web.context import folder, memory

backups = Blueprint("backups", __name__)


class BackupItem(Model):
    """holds: what it holds in words, "" before it is looked at; good: whether it can be trusted, None before that."""

    name: str
    made_at: datetime.datetime
    bytes: int
    good: bool | None
    holds: str


class BackupList(Model):
    backups: list[BackupItem]


class WentBack(Model):
    """to: the backup; kept: the backup that holds what was there before."""

    to: str
    kept: str


class Looked:
    """What backups were found to hold, by name: a backup never changes."""

    def __init__(self) -> None:
        self.found: dict[str, tuple[bool, str]] = {}
        self.going = threading.Lock()


def _looked() -> Looked:
    return current_app.extensions["backups_looked"]  # type: ignore[no-any-return]


def _item(backup: Backup) -> BackupItem:
    good, holds = _looked().found.get(backup.name, (None, ""))
    size = backup.path.stat().st_size if backup.path.exists() else 0
    return BackupItem(name=backup.name, made_at=backup.made_at, bytes=size, good=good, holds=holds)


@operation(backups, "GET", "/backups", BackupList)
def read_backups() -> BackupList:
    """All backups, newest first."""
    return BackupList(backups=[_item(b) for b in list_backups(folder())])


@operation(backups, "POST", "/backups", BackupList, status=201, costly=True)
def make_backup() -> BackupList:
    """Make one now; it is checked as it is made."""
    made = back_up(folder())
    if made is not None:
        _check(made)
    return read_backups()


@operation(backups, "POST", "/backups/<name>/check", BackupItem, costly=True)
def check_backup(name: str) -> BackupItem:
    """Look through a backup: every table and index."""
    backup = get_backup(folder(), name)
    _check(backup)
    return _item(backup)


def _check(backup: Backup) -> None:
    health = examine(backup.path)
    _looked().found[backup.name] = health.state == "good", health.words()


@operation(backups, "GET", "/backups/<name>/changes", Changes, costly=True)
def read_changes(name: str) -> Changes:
    """What going back to a backup would change."""
    return what_would_change(folder(), name)


@operation(backups, "POST", "/backups/<name>/back", WentBack, costly=True)
def back_to_then(name: str) -> WentBack:
    """Make everything as it was then; what is there now is kept as a backup of its own."""
    with _looked().going:
        backup, kept = go_back(folder(), name)
        memory().forget_all()
        current_app.extensions["boxes"].forget_all()
    return WentBack(to=backup.name, kept=kept.name)
