"""The one door for files from outside: each is opened in a process of its own, with limits on its memory and time, that
ends with whoever asked. What comes back is records of ours, never code.

The processes are forked, in milliseconds, by one that waits for that alone (`sandbox_child.py`).
"""

import contextlib
import io
import json
import os
import pickle
import signal
import socket
import struct
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from gray_quill.core import errors
from gray_quill.core.errors import FormatError, GrayQuillError, InputError, TooLarge, Unavailable

FELL = "This file brought its reader down, or kept it too long. Save or print it to a new, simpler one."
LOOKS_S = 0.2  # how often it is looked whether anybody still waits
ANSWER, REFUSAL, SHARE = b"A", b"R", b"S"
HEAD = struct.Struct(">cQ")
NUMPY = {("numpy", "ndarray"), ("numpy", "dtype")}  # what arrays are made with, by either name of its rooms
NUMPY |= {(f"numpy.{core}.multiarray", name) for core in ("core", "_core") for name in ("_reconstruct", "scalar")}
NUMPY |= {(f"numpy.{core}.numeric", "_frombuffer") for core in ("core", "_core")}


@dataclass(frozen=True)
class Reader:
    """What reads a kind of file: `function` of `module`, called with its bytes; cpu_s: the processor time it may take;
    memory_mb: how much it may take beside what is loaded; known: what to have imported before there is a file.
    """

    module: str
    function: str
    cpu_s: float = 6.0
    memory_mb: int = 500
    known: tuple[str, ...] = ()


READERS = {
    "archive": Reader("archive_zip", "read_archive", cpu_s=15, memory_mb=700),
    "contacts": Reader("contacts_csv", "read_contacts"),
    "film": Reader("film_in", "read_film_file", cpu_s=240, memory_mb=900),
    "film frame": Reader("film_in", "read_film_frame"),
    "film size": Reader("film_in", "film_length"),
    "grain": Reader("png", "read_png", memory_mb=700),
    "inkml": Reader("inkml", "read_noted", cpu_s=15),
    "openraster": Reader("openraster_in", "read_openraster", memory_mb=900),
    "pairs": Reader("pairs_json", "read_pairs", cpu_s=2),
    "pen": Reader("pen_json", "read_pen", cpu_s=2),
    "pen form": Reader("pen_forms", "read_named_form", cpu_s=4),
    "pdf": Reader("pdf_in", "look_at_pdf", cpu_s=8, memory_mb=700, known=("pypdf", "pypdfium2")),
    "pdf links": Reader("pdf_in", "read_pdf_links", cpu_s=8, memory_mb=700, known=("pypdf",)),
    "picture": Reader("picture_in", "look_at_picture", memory_mb=900),
    "shared pen": Reader("shared_pen", "open_shared", cpu_s=4),
    "svg": Reader("svg_in", "read_svg", cpu_s=8, known=("svgelements",)),
    "svg picture": Reader("svg_drawn", "look_at_svg", cpu_s=1.2, known=("resvg_py",)),
    "table": Reader("strokes_csv", "read_table"),
    "table look": Reader("strokes_csv", "look_at_csv"),
}


class Sandbox:
    """Starts its forking process when something is first read, and again where it fell. Safe to use from threads."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._forker: subprocess.Popen[bytes] | None = None
        self._line: socket.socket | None = None

    def read(
        self,
        kind: str,
        data: bytes,
        *,
        within_s: float = 30.0,
        waited_for: Callable[[], bool] = lambda: True,
        progress: Callable[[float], None] | None = None,
        **options: Any,
    ) -> Any:
        """What the reader of this kind makes of a file. Raises what it raises: FormatError or TooLarge with what to do.

        waited_for: whether anybody still waits for it; progress is told the share that is done, by readers that know
        it, and what it raises ends the reading.
        """
        line = self._started(kind)
        child: int | None = None
        try:
            line.settimeout(LOOKS_S)
            until = time.monotonic() + within_s
            messages = _Messages(line, until, waited_for)
            child = messages.child()
            messages.send(pickle.dumps((kind, options)), data)
            while True:
                what, payload = messages.next()
                if what == SHARE:
                    if progress:
                        progress(struct.unpack(">d", payload)[0])
                elif what == REFUSAL:
                    raise _refusal(payload)
                else:
                    return _Records(io.BytesIO(payload)).load()
        except (OSError, EOFError, struct.error, pickle.UnpicklingError):
            raise FormatError(FELL) from None
        finally:
            line.close()
            if child is not None:
                with contextlib.suppress(ProcessLookupError):
                    signal.pidfd_send_signal(child, signal.SIGKILL)
                os.close(child)

    def close(self) -> None:
        with self._lock:
            self._end()

    def __del__(self) -> None:
        self._end()

    def _started(self, kind: str) -> socket.socket:
        """This end of a new child's line."""
        ours, theirs = socket.socketpair()
        with self._lock, contextlib.closing(theirs):
            for _ in range(2):
                with contextlib.suppress(OSError):
                    socket.send_fds(self._to_forker(), [kind.encode()], [theirs.fileno()])
                    return ours
                self._end()
        ours.close()
        raise Unavailable("Files cannot be read now: no process could be started. Try again in a moment.")

    def _to_forker(self) -> socket.socket:
        if self._line is None:
            self._line, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
            with theirs:
                self._forker = subprocess.Popen(
                    [sys.executable, "-m", "gray_quill.formats.sandbox_child", str(theirs.fileno())],
                    pass_fds=[theirs.fileno()],
                    stdin=subprocess.DEVNULL,
                    stdout=subprocess.DEVNULL,
                    stderr=subprocess.DEVNULL,
                    cwd="/",
                    start_new_session=True,
                    env={**os.environ, "OPENBLAS_NUM_THREADS": "1"},  # it forks, and so has one thread
                )
        return self._line

    def _end(self) -> None:
        """It ends, with its children, when its line does."""
        if self._line is not None:
            self._line.close()
        if self._forker is not None:
            self._forker.wait()
        self._line = self._forker = None


class _Messages:
    """What is said on a child's line, until nobody waits any more."""

    def __init__(self, line: socket.socket, until: float, waited_for: Callable[[], bool]) -> None:
        self.line, self.until, self.waited_for = line, until, waited_for

    def child(self) -> int:
        """What the child can be ended by, whatever it does."""
        while True:
            with contextlib.suppress(TimeoutError):
                _, (handle, *_), _, _ = socket.recv_fds(self.line, 1, 1)
                return handle
            self._look()

    def send(self, *parts: bytes) -> None:
        for piece in (sent for part in parts for sent in (struct.pack(">Q", len(part)), part)):
            rest = memoryview(piece)
            while rest:
                with contextlib.suppress(TimeoutError):
                    rest = rest[self.line.send(rest) :]
                self._look()

    def next(self) -> tuple[bytes, bytearray]:
        what, length = HEAD.unpack(self._exactly(HEAD.size))
        return what, self._exactly(length)

    def _exactly(self, length: int) -> bytearray:
        got = bytearray(length)
        rest = memoryview(got)
        while rest:
            with contextlib.suppress(TimeoutError):
                n = self.line.recv_into(rest)
                if not n:
                    raise EOFError
                rest = rest[n:]
            self._look()
        return got

    def _look(self) -> None:
        if time.monotonic() > self.until or not self.waited_for():
            raise EOFError


class _Records(pickle.Unpickler):
    """Records of this package, arrays and plain values; nothing else is made, whatever is said."""

    def find_class(self, module: str, name: str) -> Any:
        if (module, name) in NUMPY:
            return super().find_class(module, name)
        if module.startswith("gray_quill.") and "." not in name:
            found = super().find_class(module, name)
            if isinstance(found, type) and hasattr(found, "__dataclass_fields__"):
                return found
        raise pickle.UnpicklingError(f"{module}.{name}")


def _refusal(payload: bytearray) -> GrayQuillError:
    name, message, field = json.loads(payload)
    kind = getattr(errors, str(name), FormatError)
    return (kind if issubclass(kind, (InputError, TooLarge)) else FormatError)(message, field)
