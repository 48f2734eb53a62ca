"""Serving on this machine with uvicorn: asyncio underneath, so that idle and slow connections cost no thread, and TLS
by Python's own ssl when it is asked for. What is asked is carried to Flask by `Front`.
"""

import asyncio
import contextlib
import ctypes
import importlib
import pathlib
import socket
import sys
import threading
from collections import Counter
from collections.abc import Callable
from typing import Any, ClassVar

import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

from gray_quill.core.errors import InputError
from gray_quill.store.database import connect
from gray_quill.web.app import create_app, error_body
from gray_quill.web.front import Front

KERNELS = pathlib.Path(__file__).parents[1] / "core"
READY_AFTER_S = 2.0  # what readings need is loaded once the first page had its turn
HOST = "127.0.0.1"
MOST_CONNECTIONS = 400  # of one client
HEAD_S = 15.0  # a connection whose first request has not begun by then is closed
IDLE_S = 75  # one that asks for nothing more is closed after this
FILES_WANTED = 4096
SWITCH_S = 0.0005  # threads that compute let others have a turn so often: keeping a stroke takes some twenty turns
M_ARENA_MAX = -8  # malloc.h


class Guarded(H11Protocol):
    """A connection that must ask something soon, among a bounded number of one client's."""

    open_by_client: ClassVar[Counter[str]] = Counter()

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._from = str((transport.get_extra_info("peername") or ("?",))[0])
        self.open_by_client[self._from] += 1
        if self.open_by_client[self._from] > MOST_CONNECTIONS:
            transport.abort()
            return
        self._late = self.loop.call_later(HEAD_S, self._give_up)

    def _give_up(self) -> None:
        if self.cycle is None:  # type: ignore[has-type]
            self.transport.abort()

    def connection_lost(self, exc: Exception | None) -> None:
        self.open_by_client[self._from] -= 1
        if hasattr(self, "_late"):
            self._late.cancel()
        super().connection_lost(exc)


def serve(folder: pathlib.Path, port: int, compile_kernels: Callable[[], None]) -> None:
    """Serve until stopped; prints the address once it answers. `compile_kernels` is called where they never were."""
    if not 0 <= port <= 65535:
        raise InputError(f"There is no port {port}. Choose one from 1 to 65535, or 0 for any that is free.")
    _allow_many_connections()
    _share_memory()
    sys.setswitchinterval(SWITCH_S)
    app = create_app(folder)
    with contextlib.closing(_listening(port)) as listening, contextlib.closing(connect(folder)) as held:
        held.execute("SELECT 1 FROM sqlite_master").fetchone()  # held open: the log is not folded in at each request
        config = uvicorn.Config(
            Front(app, error_body),
            http=Guarded,
            ws="none",
            lifespan="off",
            loop="asyncio",
            log_level="error",
            access_log=False,
            server_header=False,
            timeout_keep_alive=IDLE_S,
            timeout_graceful_shutdown=3,
            h11_max_incomplete_event_size=32_768,
        )
        get_ready = threading.Timer(READY_AFTER_S, _get_ready, (compile_kernels,))
        get_ready.daemon = True
        get_ready.start()
        print(f"Gray Quill is at http://{HOST}:{listening.getsockname()[1]}/", flush=True)
        with contextlib.suppress(KeyboardInterrupt):
            uvicorn.Server(config).run(sockets=[listening])


def _get_ready(compile_kernels: Callable[[], None]) -> None:
    """Load what readings need, and compile the kernels where nobody has yet, so that no page has to wait for it."""
    importlib.import_module("scipy.signal")
    if not any(KERNELS.rglob("*.nbi")):
        compile_kernels()


def _listening(port: int) -> socket.socket:
    # by its protocol asyncio knows it for TCP, and sends small answers without waiting for the client's word on the
    # first half (Nagle's algorithm and delayed acknowledgement together cost 40 ms a request)
    listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    try:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listening.bind((HOST, port))
        listening.listen(256)
    except OSError as error:
        listening.close()
        raise InputError(
            f"Port {port} is taken or not allowed ({error.strerror}). Choose another with PORT= or --port."
        ) from None
    return listening


def _share_memory() -> None:
    """Let all threads take memory from two places: what one lets go another can use (glibc only)."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).mallopt(M_ARENA_MAX, 2)


def _allow_many_connections() -> None:
    """As many open files as the system lets us have, within reason."""
    with contextlib.suppress(ImportError, ValueError, OSError):
        import resource

        soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
        wanted: Any = FILES_WANTED if hard == resource.RLIM_INFINITY else min(FILES_WANTED, hard)
        if soft < wanted:
            resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, hard))
