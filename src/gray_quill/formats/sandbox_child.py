"""The process that the sandbox forks from, and what each fork does: read one file within limits, answer, and end.

It never reads a file itself, and has one thread, so that a fork finds everything as it should be. What a kind
needs is loaded when the first file of it comes; later ones find it there.
"""

import contextlib
import importlib
import inspect
import json
import os
import pickle
import resource
import signal
import socket
import struct
import sys
from collections.abc import Callable
from typing import Any, NoReturn

from gray_quill.core.errors import GrayQuillError
from gray_quill.formats.sandbox import ANSWER, HEAD, READERS, REFUSAL, SHARE, Reader

PAGE_BYTES = os.sysconf("SC_PAGE_SIZE")
TOO_MUCH = ("TooLarge", "This file needs too much memory. Save or print it to a new, simpler one.", None)
NICE = 5  # who writes goes before what is read


def main() -> NoReturn:
    line = socket.socket(fileno=int(sys.argv[1]))
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for them
    while True:
        kind, handles, _, _ = socket.recv_fds(line, 100, 1)
        if not kind:
            os.killpg(0, signal.SIGKILL)  # nobody asks any more: the children end too
        reader = READERS[kind.decode()]
        for name in (f"gray_quill.formats.{reader.module}", *reader.known):
            importlib.import_module(name)
        asked = socket.socket(fileno=handles[0])
        child = os.fork()
        if child == 0:
            line.close()
            _work(asked, reader)
        with contextlib.suppress(OSError), contextlib.closing(asked):
            handle = os.pidfd_open(child)
            try:
                socket.send_fds(asked, [b"p"], [handle])
            finally:
                os.close(handle)


def _work(line: socket.socket, reader: Reader) -> NoReturn:
    """Read what is sent, and end."""
    try:
        _limit(reader)
        _, options = pickle.loads(_part(line))  # from the server itself; the file comes apart from it
        data = _part(line)
        function = getattr(importlib.import_module(f"gray_quill.formats.{reader.module}"), reader.function)
        if "progress" in inspect.signature(function).parameters:
            options["progress"] = _share(line)
        try:
            _say(line, ANSWER, pickle.dumps(function(data, **options), protocol=5))
        except GrayQuillError as error:
            _refuse(line, type(error).__name__, error.message, error.field)
        except (MemoryError, RecursionError):
            _refuse(line, *TOO_MUCH)
        except Exception as error:  # a library met what it does not know
            words = f"This file cannot be read ({type(error).__name__}). Save or print it anew."
            _refuse(line, "FormatError", words, None)
    finally:
        os._exit(0)


def _limit(reader: Reader) -> None:
    os.nice(NICE)
    with open("/proc/self/statm") as told:
        here = int(told.read().split()[0]) * PAGE_BYTES
    most = here + reader.memory_mb * 1_000_000
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (int(reader.cpu_s) + 2,) * 2)
    signal.setitimer(signal.ITIMER_PROF, reader.cpu_s)  # its signal ends the process


def _part(line: socket.socket) -> bytes:
    (length,) = struct.unpack(">Q", _exactly(line, 8))
    return _exactly(line, length)


def _exactly(line: socket.socket, length: int) -> bytes:
    got = bytearray(length)
    rest = memoryview(got)
    while rest:
        n = line.recv_into(rest)
        if not n:
            raise EOFError
        rest = rest[n:]
    return bytes(got)


def _say(line: socket.socket, what: bytes, payload: bytes) -> None:
    line.sendall(HEAD.pack(what, len(payload)))
    line.sendall(payload)


def _refuse(line: socket.socket, name: str, message: str, field: str | None) -> None:
    _say(line, REFUSAL, json.dumps((name, message, field)).encode())


def _share(line: socket.socket) -> Callable[[float], Any]:
    return lambda share: _say(line, SHARE, struct.pack(">d", share))


if __name__ == "__main__":
    main()
