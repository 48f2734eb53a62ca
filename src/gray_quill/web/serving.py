"""Connections from the room: on one port, TLS for the screens, and a plain word for who comes without it."""

import asyncio
import contextlib
import socket
import ssl
from collections.abc import Callable
from types import FrameType

import uvicorn

from gray_quill.web.front import Front

TLS_HELLO = b"\x16"  # the first byte of a TLS handshake record (RFC 8446, section 5.1)
HELLO_S = 10.0
MOST_WAITING = 200  # connections that have not said anything yet


class DeskServer(uvicorn.Server):
    """Ends the streams of open pages when it is told to stop: they would be waited for."""

    def __init__(self, config: uvicorn.Config, front: Front) -> None:
        super().__init__(config)
        self.front = front

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        self.front.stopping = True
        super().handle_exit(sig, frame)


class RoomServer(DeskServer):
    """Looks at the first byte of each connection: one that begins with a TLS handshake is carried over TLS, any other
    plainly, and the app says what it says to those.
    """

    def __init__(self, config: uvicorn.Config, front: Front, listening: socket.socket, context: ssl.SSLContext) -> None:
        super().__init__(config, front)
        self.listening, self.context = listening, context
        self.waiting: set[asyncio.Task[None]] = set()
        self.accepting: asyncio.Task[None] | None = None

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets=[])
        self.listening.setblocking(False)
        self.accepting = asyncio.create_task(self._accept())

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        for task in (self.accepting, *self.waiting):
            if task:
                task.cancel()
        await super().shutdown(sockets=[])

    async def _accept(self) -> None:
        loop = asyncio.get_running_loop()
        while True:
            try:
                connection, _ = await loop.sock_accept(self.listening)
            except OSError:  # out of files: those that are open will close
                await asyncio.sleep(0.05)
                continue
            if len(self.waiting) >= MOST_WAITING:
                connection.close()
                continue
            connection.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
            task = asyncio.create_task(self._begin(connection))
            self.waiting.add(task)
            task.add_done_callback(self.waiting.discard)

    async def _begin(self, connection: socket.socket) -> None:
        loop = asyncio.get_running_loop()
        try:
            async with asyncio.timeout(HELLO_S):
                first = await _first_byte(loop, connection)
            if not first:
                connection.close()
                return
            context = self.context if first == TLS_HELLO else None
            await loop.connect_accepted_socket(
                self._protocol(), connection, ssl=context, ssl_handshake_timeout=HELLO_S if context else None
            )
        except (OSError, TimeoutError, asyncio.CancelledError):
            with contextlib.suppress(OSError):
                connection.close()

    def _protocol(self) -> Callable[[], asyncio.Protocol]:
        made = self.config.http_protocol_class
        state = {"server_state": self.server_state, "app_state": self.lifespan.state}
        return lambda: made(config=self.config, **state)  # type: ignore[arg-type, call-arg]


def _is_ready(ready: asyncio.Future[None]) -> None:
    if not ready.done():
        ready.set_result(None)


async def _first_byte(loop: asyncio.AbstractEventLoop, connection: socket.socket) -> bytes:
    """Looked at, not taken."""
    connection.setblocking(False)
    ready = loop.create_future()
    loop.add_reader(connection, _is_ready, ready)
    try:
        await ready
    finally:
        loop.remove_reader(connection)
    return connection.recv(1, socket.MSG_PEEK)
