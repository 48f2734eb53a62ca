"""One Gray Quill at a time writes to a folder.

The lock file tells who: pid and start time. The operating system lets go of the lock when its owner ends, however that
came about, so what a killed owner left behind is taken over.
"""

import contextlib
import json
import os
import pathlib
import sys
import time
from collections.abc import Iterator
from typing import IO

from gray_quill.core.errors import Conflict, Unavailable
from gray_quill.store.database import now

LOCK = "gray-quill.lock"
PATIENCE_S = 1.0  # one that was just killed may still be ending

if sys.platform == "win32":
    import msvcrt

    def _take(file: IO[str]) -> None:
        file.seek(1 << 20)  # far behind the words, which others may read
        msvcrt.locking(file.fileno(), msvcrt.LK_NBLCK, 1)

else:
    import fcntl

    def _take(file: IO[str]) -> None:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)


def _taken(file: IO[str]) -> bool:
    try:
        _take(file)
    except OSError:
        return False
    return True


@contextlib.contextmanager
def owned(folder: pathlib.Path) -> Iterator[None]:
    """Own the folder while inside; it is made if need be. Raises Conflict when another process owns it."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
        file = open(folder / LOCK, "a+", encoding="utf-8")  # noqa: SIM115  (held open as long as the folder is owned)
    except OSError as error:
        raise Unavailable(f"{folder} cannot be written ({error.strerror}). Choose another with --data.") from None
    with file:
        until = time.monotonic() + PATIENCE_S
        while not _taken(file):
            if time.monotonic() > until:
                raise Conflict(f"{_owner(file)} uses {folder}. Stop it first, or choose another folder with --data.")
            time.sleep(0.02)
        file.truncate(0)
        file.write(json.dumps({"pid": os.getpid(), "started_at": now()}))
        file.flush()
        try:
            yield
        finally:
            with contextlib.suppress(OSError):
                file.truncate(0)


def _owner(file: IO[str]) -> str:
    file.seek(0)
    try:
        told = json.loads(file.read(1000))
        return f"A Gray Quill that started at {told['started_at']} (process {told['pid']})"
    except (ValueError, KeyError, TypeError, OSError):
        return "Another Gray Quill"
