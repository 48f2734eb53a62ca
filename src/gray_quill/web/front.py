"""The front of the server, ASGI: takes whole requests in, however slowly they come, and only then lets a thread work.

Why not a thread a connection: a page open on a tablet holds a stream for as long as it is open, and a slow or hostile
client holds its request for as long as it likes. Here such a connection costs a few kilobytes and no thread. Requests
are worked on by Flask in a bounded number of threads; streams (`Watch`) live on the event loop.
"""

import asyncio
import contextlib
import io
import sys
import threading
from collections import Counter
from collections.abc import Awaitable, Callable, Iterator, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
Headers = list[tuple[bytes, bytes]]

THREADS = 16
WATCH = "gray_quill.watch"  # where in the environ a handler leaves a stream for the front to carry on
GONE = "gray_quill.gone"  # an event in the environ, set when who asked does not listen any more
MOST_BODY_BYTES = 42_000_000
MOST_HELD_BYTES = 170_000_000  # of all bodies on their way
MOST_AT_ONCE = 48  # requests of one client, streams not counted
MOST_STREAMS = 48  # of one client
BODY_S, SEND_S = 60.0, 60.0  # a slow client may take so long to send its body, or to take a piece of the answer


class Watch:
    """A stream of words: `look` gives the next ones, or None when there is nothing new; raises StopIteration at the
    end.
    """

    every_s = 0.15

    def wakes(self, nudge: Callable[[], None]) -> None:
        """What to call, from any thread, as soon as there is something new; most streams are looked at now and then."""

    def look(self) -> str | None:
        raise NotImplementedError

    def close(self) -> None:
        """Nobody listens any more."""


class Refused(Exception):
    def __init__(self, status: int, code: str, message: str) -> None:
        super().__init__(message)
        self.status, self.code, self.message = status, code, message


class Front:
    """Carries a WSGI app. `refusal` makes the bytes of an error's body from its code and message."""

    def __init__(self, app: Any, refusal: Callable[[str, str], bytes], threads: int = THREADS) -> None:
        self.app, self.refusal = app, refusal
        self.pool = ThreadPoolExecutor(threads, "request")
        self.held_bytes = 0
        self.stopping = False
        self.at_once: Counter[str] = Counter()
        self.streams: Counter[str] = Counter()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            return
        client = (scope.get("client") or ("?", 0))[0]
        try:
            status, headers, body, watch = await self._worked(client, scope, receive)
            if watch is not None and self.streams[client] >= MOST_STREAMS:
                watch.close()
                raise Refused(429, "crowded", "Too many streams are open. Close some pages of Gray Quill.")
        except Refused as refused:
            body = self.refusal(refused.code, refused.message)
            headers = [
                (b"content-type", b"application/json"),
                (b"content-length", str(len(body)).encode()),
                (b"cache-control", b"no-store"),
                (b"retry-after", b"2"),
                (b"connection", b"close"),  # what the client still sends is not waited for
            ]
            status, watch = refused.status, None
        if watch is None:
            await self._send(send, {"type": "http.response.start", "status": status, "headers": headers})
            await self._send(send, {"type": "http.response.body", "body": b"" if scope["method"] == "HEAD" else body})
            return
        with counted(self.streams, client):
            await self._carry(watch, status, headers, receive, send)

    async def _worked(self, client: str, scope: Scope, receive: Receive) -> tuple[int, Headers, bytes, Watch | None]:
        body = await self._body(scope, receive)
        try:
            if self.at_once[client] >= MOST_AT_ONCE:
                raise Refused(429, "crowded", "Too much is asked for at once. Wait a moment and ask again.")
            with counted(self.at_once, client), heard_out(receive) as gone:
                loop = asyncio.get_running_loop()
                return await loop.run_in_executor(self.pool, self._ask, {**_environ(scope, body), GONE: gone})
        finally:
            self.held_bytes -= len(body)

    async def _body(self, scope: Scope, receive: Receive) -> bytes:
        """The whole body, within the budget of bytes and time."""
        told = dict(scope["headers"]).get(b"content-length", b"0")
        length = int(told) if told.isdigit() and len(told) < 16 else MOST_BODY_BYTES + 1
        too_large = Refused(413, "too_large", f"That is over {MOST_BODY_BYTES // 1_000_000} MB. Send less at a time.")
        if length > MOST_BODY_BYTES:
            raise too_large
        parts = bytearray()
        try:
            async with asyncio.timeout(BODY_S):
                while True:
                    message = await receive()
                    if message["type"] == "http.disconnect":
                        raise Refused(400, "gone", "The request was not sent whole.")
                    part = message.get("body", b"")
                    parts += part
                    self.held_bytes += len(part)
                    if len(parts) > MOST_BODY_BYTES:
                        raise too_large
                    if self.held_bytes > MOST_HELD_BYTES:
                        raise Refused(503, "crowded", "Too many large files are on their way. Send this again later.")
                    if not message.get("more_body"):
                        break
        except TimeoutError:
            self.held_bytes -= len(parts)
            raise Refused(408, "too_slow", f"The request did not come whole within {BODY_S:g} s.") from None
        except Refused:
            self.held_bytes -= len(parts)
            raise
        return bytes(parts)

    def _ask(self, environ: dict[str, Any]) -> tuple[int, Headers, bytes, Watch | None]:
        """Flask's answer; runs in a thread."""
        answer: list[Any] = []

        def start_response(status: str, headers: list[tuple[str, str]], _: Any = None) -> Callable[[bytes], None]:
            answer[:] = [int(status.split()[0]), [(k.lower().encode(), v.encode("latin-1")) for k, v in headers]]
            return lambda _: None

        parts = self.app(environ, start_response)
        try:
            body = b"".join(parts)
        finally:
            if hasattr(parts, "close"):
                parts.close()
        status, headers = answer
        watch = environ[WATCH]
        if watch is not None:
            headers = [h for h in headers if h[0] != b"content-length"]
        return status, headers, body, watch

    async def _carry(self, watch: Watch, status: int, headers: Headers, receive: Receive, send: Send) -> None:
        """A stream, until it ends or nobody listens."""
        gone = asyncio.ensure_future(_disconnected(receive))
        loop, news = asyncio.get_running_loop(), asyncio.Event()

        def nudge() -> None:
            with contextlib.suppress(RuntimeError):  # the server has stopped meanwhile
                loop.call_soon_threadsafe(news.set)

        watch.wakes(nudge)
        try:
            await self._send(send, {"type": "http.response.start", "status": status, "headers": headers})
            while not (gone.done() or self.stopping):
                news.clear()
                try:
                    words = watch.look()
                except StopIteration:
                    break
                if words is not None:
                    await self._send(send, {"type": "http.response.body", "body": words.encode(), "more_body": True})
                woken = asyncio.ensure_future(news.wait())
                await asyncio.wait([gone, woken], timeout=watch.every_s, return_when=asyncio.FIRST_COMPLETED)
                woken.cancel()
            await self._send(send, {"type": "http.response.body", "body": b""})
        finally:
            gone.cancel()
            watch.close()

    async def _send(self, send: Send, message: MutableMapping[str, Any]) -> None:
        async with asyncio.timeout(SEND_S):
            await send(message)


class counted:
    """Counts one more while inside."""

    def __init__(self, counter: Counter[str], key: str) -> None:
        self.counter, self.key = counter, key

    def __enter__(self) -> None:
        self.counter[self.key] += 1

    def __exit__(self, *_: object) -> None:
        self.counter[self.key] -= 1
        if not self.counter[self.key]:
            del self.counter[self.key]


@contextlib.contextmanager
def heard_out(receive: Receive) -> Iterator[threading.Event]:
    """An event that is set when the client goes meanwhile."""
    gone = threading.Event()

    async def listen() -> None:
        await _disconnected(receive)
        gone.set()

    listening = asyncio.ensure_future(listen())
    try:
        yield gone
    finally:
        listening.cancel()


async def _disconnected(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass


def _environ(scope: Scope, body: bytes) -> dict[str, Any]:
    """The request as PEP 3333 has it."""
    server = scope.get("server") or ("127.0.0.1", 80)
    environ: dict[str, Any] = {
        "REQUEST_METHOD": scope["method"],
        "SCRIPT_NAME": "",
        "PATH_INFO": scope["path"].encode("utf-8", "surrogateescape").decode("latin-1"),
        "QUERY_STRING": scope["query_string"].decode("latin-1"),
        "SERVER_PROTOCOL": f"HTTP/{scope['http_version']}",
        "SERVER_NAME": str(server[0]),
        "SERVER_PORT": str(server[1]),
        "REMOTE_ADDR": str((scope.get("client") or ("", 0))[0]),
        "CONTENT_LENGTH": str(len(body)),
        "wsgi.version": (1, 0),
        "wsgi.url_scheme": scope.get("scheme", "http"),
        "wsgi.input": io.BytesIO(body),
        "wsgi.input_terminated": True,
        "wsgi.errors": sys.stderr,
        "wsgi.multithread": True,
        "wsgi.multiprocess": False,
        "wsgi.run_once": False,
        WATCH: None,
    }
    for raw_name, raw_value in scope["headers"]:
        name, value = raw_name.decode("latin-1").upper().replace("-", "_"), raw_value.decode("latin-1")
        key = name if name == "CONTENT_TYPE" else f"HTTP_{name}"
        if name not in ("CONTENT_LENGTH", "TRANSFER_ENCODING"):
            environ[key] = f"{environ[key]},{value}" if key in environ else value
    return environ


def words_of(watch: Watch, wait: Callable[[float], None]) -> Iterator[str]:
    """A stream for a server without this front."""
    try:
        while True:
            try:
                words = watch.look()
            except StopIteration:
                return
            if words is not None:
                yield words
            wait(watch.every_s)
    finally:
        watch.close()
