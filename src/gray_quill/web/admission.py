"""Pictures, other costly answers, and files from outside take turns: a few at once, a few waiting, the rest are asked
to come again.
"""

import contextlib
import os
import threading
from collections.abc import Iterator

from gray_quill.core.errors import Crowded

AT_ONCE = max(2, os.cpu_count() or 2)
MOST_WAITING = 8  # fewer than the front has threads, so that light questions always find one
PATIENCE_S = 20.0


class Turns:
    """busy: what is said where too many wait already."""

    def __init__(
        self,
        busy: str = "Too many pictures are asked for at once. Wait a moment and ask again.",
        at_once: int = AT_ONCE,
        waiting: int = MOST_WAITING,
        patience_s: float = PATIENCE_S,
    ) -> None:
        self._busy = busy
        self._turns = threading.Semaphore(at_once)
        self._places = threading.Semaphore(at_once + waiting)
        self._patience_s = patience_s

    @contextlib.contextmanager
    def turn(self) -> Iterator[None]:
        """Wait for one's turn. Raises Crowded when too many wait already, or it does not come in time."""
        if not self._places.acquire(blocking=False):
            raise Crowded(self._busy)
        try:
            if not self._turns.acquire(timeout=self._patience_s):
                raise Crowded(self._busy)
            try:
                yield
            finally:
                self._turns.release()
        finally:
            self._places.release()
