"""Answers that are remembered. What an answer was made from is noted as it is made: the questions its request asked the
database. While each of them is still answered the same, the answer is given again.
"""

import contextlib
import dataclasses
import hashlib
import marshal
import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence

from flask import Response, request

from gray_quill.web.context import db, memory

MOST_BYTES = 100_000_000  # of answers and the questions they stand on
MOST_ASKED_BYTES = 50_000  # thousands of strokes read for the first time are not read a second time for this
BESIDE_BYTES = 4000  # what an answer takes besides: a small one is not for nothing
HEADERS_LOOKED_AT = ("Accept", "If-None-Match")  # by operations whose answers are remembered
READING = ("SELECT", "WITH")
Key = tuple[str, ...]


@dataclasses.dataclass(frozen=True)
class Answer:
    """asked: questions to the database, with their values; told: a digest of what it said; inks: the ink memory's count
    of changes before.
    """

    body: bytes
    headers: tuple[tuple[str, str], ...]
    status: int
    asked: tuple[str, ...]
    told: bytes
    inks: int

    def size_bytes(self, key: Key) -> int:
        return BESIDE_BYTES + len(self.body) + sum(map(len, self.asked)) + sum(map(len, key))


class Answers:
    """The answers last given, by what was asked for."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._lock = threading.Lock()
        self._kept: OrderedDict[Key, Answer] = OrderedDict()
        self._bytes, self._most_bytes = 0, most_bytes

    def given(self, make: Callable[[], Response]) -> Response:
        """The answer to this request: the one remembered, where it still holds, else what `make` answers."""
        key, inks = _key(), memory().changes
        known = self.known(key)
        if known and known.inks == inks and told(db(), known.asked) == known.told:
            return Response(known.body, known.status, list(known.headers))
        before = _version(db())
        with noted(db()) as asked:
            reply = make()
        short = sum(map(len, asked)) <= MOST_ASKED_BYTES
        if short and all(question.lstrip().upper().startswith(READING) for question in asked):
            said = told(db(), asked)
            if _version(db()) == before:
                headers = tuple(reply.headers.items())
                self.keep(key, Answer(reply.get_data(), headers, reply.status_code, tuple(asked), said, inks))
        return reply

    def known(self, key: Key) -> Answer | None:
        """The answer last kept, whether it still holds or not."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
            return self._kept.get(key)

    def keep(self, key: Key, answer: Answer) -> None:
        """Remember an answer; those not asked for longest are forgotten for it."""
        with self._lock:
            gone = self._kept.pop(key, None)
            self._kept[key] = answer
            self._bytes += answer.size_bytes(key) - (gone.size_bytes(key) if gone else 0)
            while self._bytes > self._most_bytes:
                oldest, answer = self._kept.popitem(last=False)
                self._bytes -= answer.size_bytes(oldest)


def _key() -> Key:
    looked_at = (request.headers.get(name, "") for name in HEADERS_LOOKED_AT)
    return request.method, request.full_path, hashlib.sha256(request.get_data()).hexdigest(), *looked_at


def _version(db: sqlite3.Connection) -> int:
    """Another one when somebody has written since."""
    return int(db.execute("PRAGMA data_version").fetchone()[0])


@contextlib.contextmanager
def noted(db: sqlite3.Connection) -> Iterator[list[str]]:
    """What a connection is asked inside, each question once, with its values written into it."""
    asked: dict[str, None] = {}
    found: list[str] = []
    db.set_trace_callback(lambda question: asked.setdefault(question))
    try:
        yield found
    finally:
        db.set_trace_callback(None)
        found += asked


def told(db: sqlite3.Connection, asked: Sequence[str]) -> bytes:
    """A digest of what a database says to these questions now."""
    digest, cursor = hashlib.blake2b(), db.cursor()
    cursor.row_factory = None
    for question in asked:
        digest.update(
            marshal.dumps(cursor.execute(question).fetchall(), 2)
        )  # from 3 on it tells who else holds a value
    return digest.digest()
