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
def locked(path: pathlib.Path, patience_s: float) -> Iterator[IO[str]]:
    """Hold a lock file while inside, among threads and processes alike. Raises TimeoutError, with who that is, where
    another holds it for longer than that; OSError where it cannot be made.
    """
    with open(path, "a+", encoding="utf-8") as file:
        until = time.monotonic() + patience_s
        while not _taken(file):
            if time.monotonic() > until:
                raise TimeoutError(_owner(file))
            time.sleep(0.02)
        yield file


@contextlib.contextmanager
def owned(folder: pathlib.Path) -> Iterator[None]:
    """Own the folder while inside; it is made if need be. Raises Conflict when another process owns it."""
    with contextlib.ExitStack() as held:
        try:
            folder.mkdir(parents=True, exist_ok=True)
            file = held.enter_context(locked(folder / LOCK, PATIENCE_S))
        except TimeoutError as other:
            raise Conflict(f"{other} uses {folder}. Stop it first, or choose another folder with --data.") from None
        except OSError as error:
            raise Unavailable(f"{folder} cannot be written ({error.strerror}). Choose another with --data.") from None
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
