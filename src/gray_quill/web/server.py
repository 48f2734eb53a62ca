"""Serving this machine or the room with uvicorn: asyncio underneath, so that idle and slow connections cost no thread,
and for the room TLS by Python's own ssl. What is asked is carried to Flask by `Front`.
"""

import asyncio
import contextlib
import ctypes
import dataclasses
import gc
import importlib
import io
import pathlib
import socket
import ssl
import sys
import threading
from collections import Counter
from collections.abc import Callable
from typing import Any, ClassVar

import segno
import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

from gray_quill.core.errors import InputError
from gray_quill.store.database import connect
from gray_quill.web.access import Door
from gray_quill.web.addresses import Place
from gray_quill.web.app import create_app, error_body
from gray_quill.web.certificates import certificates
from gray_quill.web.front import Front
from gray_quill.web.serving import DeskServer, RoomServer

KERNELS = pathlib.Path(__file__).parents[1] / "core"
READY_AFTER_S = 2.0  # what readings need is loaded once the first page had its turn
MOST_CONNECTIONS = 400  # of one client
HEAD_S = 15.0  # a connection on which a request has not come so far by then is closed
RENEW_S = 6 * 3600.0  # how often it is looked whether the leaf must be made anew
IDLE_S = 75  # one that asks for nothing more is closed after this
FILES_WANTED = 4096
SWITCH_S = 0.0005  # threads that compute let others have a turn so often: keeping a stroke takes some twenty turns
M_ARENA_MAX = -8  # malloc.h


class Guarded(H11Protocol):
    """A connection that must ask soon, and whole once it begins to, among a bounded number of one client's."""

    open_by_client: ClassVar[Counter[str]] = Counter()
    _late: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._from = str((transport.get_extra_info("peername") or ("?",))[0])
        self.open_by_client[self._from] += 1
        if self.open_by_client[self._from] > MOST_CONNECTIONS:
            transport.abort()
            return
        self._wait_for_head()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self._asked():
            self._stop_waiting()
        elif self._late is None:  # some of a request came, its first one or a later one
            self._wait_for_head()

    def connection_lost(self, exc: Exception | None) -> None:
        self.open_by_client[self._from] -= 1
        self._stop_waiting()
        super().connection_lost(exc)

    def _asked(self) -> bool:
        """Whether a request is being worked on."""
        return self.cycle is not None and not self.cycle.response_complete  # type: ignore[has-type]

    def _wait_for_head(self) -> None:
        self._late = self.loop.call_later(HEAD_S, self._give_up)

    def _stop_waiting(self) -> None:
        if self._late is not None:
            self._late.cancel()
            self._late = None

    def _give_up(self) -> None:
        self._late = None
        if not self._asked():
            self.transport.abort()


def serve(folder: pathlib.Path, place: Place, compile_kernels: Callable[[], None]) -> None:
    """Serve until stopped; prints the address once it answers, and for the room the link that lets screens in.
    `compile_kernels` is called where they never were.
    """
    if not 0 <= place.port <= 65535:
        raise InputError(f"There is no port {place.port}. Choose one from 1 to 65535, or 0 for any that is free.")
    _allow_many_connections()
    _share_memory()
    sys.setswitchinterval(SWITCH_S)
    with contextlib.closing(_listening(place)) as listening, contextlib.closing(connect(folder)) as held:
        place = dataclasses.replace(place, port=listening.getsockname()[1])
        trusted = certificates(folder, place.names) if place.tls else None
        app = create_app(folder, place=place, trusted=trusted)
        held.execute("SELECT 1 FROM sqlite_master").fetchone()  # held open: the log is not folded in at each request
        front = Front(app, error_body)
        config = uvicorn.Config(
            front,
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
        door = app.extensions["door"]
        door.used = lambda: print(f"A screen came in. For the next: {door.link}", flush=True)
        print(_where(door), flush=True)
        with contextlib.suppress(KeyboardInterrupt):
            if trusted:
                context = ssl.create_default_context(ssl.Purpose.CLIENT_AUTH)
                _in_time(context, folder, place)
                RoomServer(config, front, listening, context).run()
            else:
                DeskServer(config, front).run(sockets=[listening])


def _where(door: Door) -> str:
    """What is printed once it answers."""
    place = door.place
    if not place.room:
        return f"Gray Quill is at {place.address}/"
    code = io.StringIO()
    segno.make(door.link, error="l").terminal(code, compact=True, border=2)
    first = (
        f"Once for each screen, to trust this desk: {door.way_in}\n"
        if place.tls
        else ("Without TLS the key goes plainly, and pens report one place a frame.\n")
    )
    trust = f"Its certificate, SHA-256: {door.fingerprint}\n" if place.tls else ""
    come_in = f"Come in: {door.link}\n{code.getvalue()}The link lets one screen in; the key any: {door.secrets.key}"
    return f"Gray Quill is at {place.address}/\n{first}{trust}{come_in}"


def _in_time(context: ssl.SSLContext, folder: pathlib.Path, place: Place) -> None:
    """Load the leaf now, and again every RENEW_S: it is made anew before it ends."""
    context.load_cert_chain(certificates(folder, place.names).leaf)
    again = threading.Timer(RENEW_S, _in_time, (context, folder, place))
    again.daemon = True
    again.start()


def _get_ready(compile_kernels: Callable[[], None]) -> None:
    """Load what readings need, and compile the kernels where nobody has yet, so that no page has to wait for it. What
    is loaded by then stays, and is not looked through for litter now and then, a tenth of a second each time.
    """
    importlib.import_module("scipy.signal")
    if not any(KERNELS.rglob("*.nbi")):
        compile_kernels()
    gc.collect()
    gc.freeze()


def _listening(place: Place) -> socket.socket:
    # by its protocol asyncio knows it for TCP, and sends small answers without waiting for the client's word on the
    # first half (Nagle's algorithm and delayed acknowledgement together cost 40 ms a request)
    listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    try:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listening.bind((place.host, place.port))
        listening.listen(256)
    except OSError as error:
        listening.close()
        raise InputError(
            f"Port {place.port} is taken or not allowed at {place.host} ({error.strerror}). Choose another with "
            "PORT= or --port, and an address of this machine."
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
