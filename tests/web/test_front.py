"""The server among strangers: many idle streams, half-open and slow requests, foreign sites, too many pictures."""

import asyncio
import contextlib
import json
import socket
import threading
import time
import unittest
import urllib.error
import urllib.request
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

import uvicorn

from gray_quill.core.errors import Crowded
from gray_quill.web import server
from gray_quill.web.admission import Turns
from gray_quill.web.app import error_body
from gray_quill.web.front import MOST_AT_ONCE, MOST_BODY_BYTES, MOST_STREAMS, WATCH, Front, Watch
from tests.browser.driver import Server, served
from tests.web.api_case import ApiCase


class Strangers(unittest.TestCase):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = cls.enterClassContext(served())

    def raw(self, head: str) -> socket.socket:
        """A connection on which this much was sent, and no more."""
        connection = socket.create_connection(("127.0.0.1", self.server.port), timeout=30)
        self.addCleanup(connection.close)
        connection.sendall(head.encode())
        return connection

    def desk_answers(self) -> None:
        reply = urllib.request.urlopen(self.server.url + "/api/desk", timeout=20)
        self.assertIn("sheets", json.loads(reply.read()))

    def head(self, method: str, path: str, *lines: str) -> str:
        return "\r\n".join((f"{method} {path} HTTP/1.1", f"Host: 127.0.0.1:{self.server.port}", *lines, "", ""))

    def answer(self, connection: socket.socket) -> tuple[int, bytes]:
        data = b""
        with contextlib.suppress(ConnectionError):
            while part := connection.recv(65536):
                data += part
        return int(data.split()[1]) if data else 0, data

    def test_half_open_and_slow_requests_keep_nobody_waiting(self) -> None:
        for _ in range(120):
            self.raw("GET /api/desk HTTP/1.1\r\nHost: 127.0.0.1")
        for _ in range(60):
            self.raw(self.head("POST", "/api/sheets/trap-log/strokes", "Content-Length: 1000") + "{")
        self.desk_answers()

    def test_streams_cost_no_thread(self) -> None:
        job = self.film()
        streams = [
            self.raw(self.head("GET", f"/api/jobs/{job}/events", "Connection: close")) for _ in range(MOST_STREAMS - 8)
        ]
        self.desk_answers()
        for status, data in map(self.answer, streams):
            self.assertEqual(status, 200)
            self.assertIn(b'"state": "done"', data, "each is told the end")

    def film(self) -> str:
        desk = json.load(urllib.request.urlopen(self.server.url + "/api/desk"))
        body = {"recipe": desk["pens"][0]["recipe"], "device_id": "tablet-11", "fps": 1000}
        request = urllib.request.Request(
            self.server.url + "/api/lag/films/simulated",
            json.dumps(body).encode(),
            {"Content-Type": "application/json"},
        )
        return str(json.load(urllib.request.urlopen(request))["id"])

    def test_a_body_without_end_is_refused_before_it_is_held(self) -> None:
        huge = self.raw(self.head("POST", "/api/sheets/trap-log/file", "Transfer-Encoding: chunked"))
        part = b"100000\r\n" + b"x" * 0x100000 + b"\r\n"
        with contextlib.suppress(ConnectionError):  # the server hangs up on who does not listen
            for _ in range(MOST_BODY_BYTES // 0x100000 + 20):
                huge.sendall(part)
        told = self.raw(self.head("POST", "/api/sheets/trap-log/file", f"Content-Length: {MOST_BODY_BYTES + 1}"))
        status, data = self.answer(told)
        self.assertEqual(status, 413)
        self.assertIn(b"Send less at a time", data)
        self.desk_answers()

    def test_broken_requests_are_answered_or_dropped(self) -> None:
        for odd in ("\x00\x01\x02\r\n\r\n", "GET\r\n\r\n", "GET / FTP/1.1\r\n\r\n", "G" * 40_000 + "\r\n\r\n"):
            told = b""
            with contextlib.suppress(ConnectionError):
                told = self.raw(odd).recv(4096)
            status = int(told.split()[1]) if told else 0
            self.assertIn(status, (0, 400, 413, 431, 505), odd[:20])
        for path in (
            "/" + "a" * 6000,
            "/api/" + "b" * 6000,
            "/%00",
            "/..%2f..%2fetc/passwd",
            "/api/sheets/%ff/page.png",
        ):
            status, data = self.answer(self.raw(self.head("GET", path, "Connection: close")))
            self.assertTrue(status in (400, 404) or (status == 200 and b"root:" not in data), (path[:20], status))
        self.desk_answers()


class HalfRequests(unittest.TestCase):
    """A request that is begun comes whole soon, or its connection is closed: the first one and every later one."""

    HEAD_S = 0.4

    def setUp(self) -> None:
        self.enterContext(mock.patch.object(server, "HEAD_S", self.HEAD_S))
        listening = socket.create_server(("127.0.0.1", 0))
        self.port = listening.getsockname()[1]

        def answers(_: Any, start_response: Any) -> list[bytes]:
            start_response("200 OK", [("Content-Length", "2")])
            return [b"ok"]

        config = uvicorn.Config(
            Front(answers, error_body),
            http=server.Guarded,
            ws="none",
            lifespan="off",
            loop="asyncio",
            log_level="error",
        )
        self.uvicorn = uvicorn.Server(config)
        running = threading.Thread(target=self.uvicorn.run, args=([listening],))
        running.start()
        self.addCleanup(listening.close)
        self.addCleanup(running.join)
        self.addCleanup(setattr, self.uvicorn, "should_exit", True)

    def connection(self) -> socket.socket:
        made = socket.create_connection(("127.0.0.1", self.port), timeout=30)
        self.addCleanup(made.close)
        return made

    def asked(self, connection: socket.socket) -> None:
        connection.sendall(b"GET / HTTP/1.1\r\nHost: here\r\n\r\n")
        got = b""
        while not got.endswith(b"ok"):
            got += connection.recv(4096)

    def test_half_a_later_request_is_closed_and_an_idle_connection_is_not(self) -> None:
        idle, half, first = self.connection(), self.connection(), self.connection()
        first.sendall(b"GET / HT")
        for connection in (idle, half):
            self.asked(connection)
        half.sendall(b"GET / HTTP/1.1\r\nHost: he")
        for connection in (first, half):
            with contextlib.suppress(ConnectionResetError):
                self.assertEqual(connection.recv(10), b"", "closed")
        self.asked(idle)
        slowly = self.connection()
        self.asked(slowly)
        for part in (b"GET / HT", b"TP/1.1\r\nHost: here\r\n\r\n"):
            slowly.sendall(part)
        self.assertIn(b"200", slowly.recv(4096))


class ForeignSites(ApiCase):
    def test_it_is_logged_now_and_then(self) -> None:
        with self.assertLogs("gray_quill", "WARNING") as logged:
            self.app.extensions.pop("logged", None)
            for _ in range(20):
                self.client.get("/api/desk", headers={"Host": "elsewhere.example"})
        self.assertEqual(len(logged.output), 1)

    def test_ranges_are_not_offered(self) -> None:
        with self.client.get("/", headers={"Range": "bytes=0-0"}) as page, self.client.get("/") as whole:
            self.assertEqual((page.status_code, page.data), (200, whole.data))
            self.assertEqual(page.headers["Accept-Ranges"], "none")

    def test_a_foreign_page_can_ask_nothing_not_even_for_a_picture(self) -> None:
        picture = "/api/sheets/trap-log/page.png?scale=3"
        for site, status in (("cross-site", 403), ("same-site", 403), ("same-origin", 200), ("none", 200)):
            for path in (picture, "/api/desk"):
                reply = self.client.get(path, headers={"Sec-Fetch-Site": site})
                self.assertEqual(reply.status_code, status, (site, path))
        with self.client.get("/", headers={"Sec-Fetch-Site": "cross-site"}) as page:
            self.assertEqual(page.status_code, 200, "a link")

    def test_json_is_not_kept_and_swatches_go_by_their_content(self) -> None:
        self.assertEqual(self.client.get("/api/desk").headers["Cache-Control"], "no-store")
        self.assertEqual(self.client.get("/api/sheets/ghost").headers["Cache-Control"], "no-store")
        swatch = "/api/pens/fen-fountain/revisions/1/swatch.png"
        first = self.client.get(swatch)
        again = self.client.get(swatch, headers={"If-None-Match": first.headers["ETag"]})
        self.assertEqual((first.status_code, again.status_code, again.data), (200, 304, b""))
        other = self.client.get(swatch + "?ground=%23000000", headers={"If-None-Match": first.headers["ETag"]})
        self.assertEqual(other.status_code, 200)


class TakingTurns(ApiCase):
    def test_more_pictures_than_can_wait_are_asked_to_come_again(self) -> None:
        turns = Turns(at_once=1, waiting=1, patience_s=30)
        go, inside = threading.Event(), threading.Event()

        def hold() -> None:
            with turns.turn():
                inside.set()
                go.wait(30)

        with ThreadPoolExecutor(2) as pool:
            held = pool.submit(hold)
            inside.wait(30)
            waits = pool.submit(hold)
            while turns._places.acquire(blocking=False):  # until the second one has taken its place
                turns._places.release()
                time.sleep(0.01)
            self.app.extensions["turns"], kept = turns, self.app.extensions["turns"]
            self.addCleanup(self.app.extensions.__setitem__, "turns", kept)
            reply = self.client.get("/api/sheets/trap-log/page.png")
            self.assertEqual((reply.status_code, reply.headers["Retry-After"]), (429, "2"))
            self.assertEqual(self.client.get("/api/desk").status_code, 200, "what costs little is answered")
            with self.assertRaises(Crowded), Turns("busy", 1, 1, 0.01).turn(), contextlib.ExitStack():
                raise Crowded("passed on")
            go.set()
            held.result(30)
            waits.result(30)
        self.assertEqual(self.client.get("/api/sheets/trap-log/page.png?scale=1").status_code, 200)


class Words(Watch):
    every_s = 0.01

    def __init__(self, *words: str | None) -> None:
        self.words = iter(words)

    def look(self) -> str | None:
        return next(self.words)


class FrontAlone(unittest.TestCase):
    """The front over an app of a few lines, asked through ASGI."""

    def app(self, environ: dict[str, Any], start_response: Any) -> Iterator[bytes]:
        if environ["PATH_INFO"] == "/words":
            environ[WATCH] = Words("one ", None, "two")
        told = (environ["REQUEST_METHOD"], environ["PATH_INFO"], environ["HTTP_X_LONG"], environ["wsgi.input"].read())
        start_response("200 OK", [("Content-Type", "text/plain"), ("X-Told", "yes")])
        return iter([repr(told).encode()])

    async def ask(self, front: Front, path: str, *parts: bytes, **more: Any) -> tuple[int, bytes]:
        scope = {
            "type": "http",
            "method": "POST",
            "path": path,
            "query_string": b"",
            "http_version": "1.1",
            "headers": [(b"x-long", b"a"), (b"x-long", b"b"), *more.get("headers", [])],
            "client": ("10.0.0.9", 1),
        }
        messages = [{"type": "http.request", "body": p, "more_body": k < len(parts) - 1} for k, p in enumerate(parts)]
        got: list[Any] = []

        async def receive() -> Any:
            if messages:
                return messages.pop(0)
            await asyncio.sleep(30)

        async def send(message: Any) -> None:
            got.append(message)

        await front(scope, receive, send)
        return got[0]["status"], b"".join(m.get("body", b"") for m in got[1:])

    def test_a_request_reaches_the_app_whole(self) -> None:
        front = Front(self.app, error_body, 1)
        self.assertEqual(
            asyncio.run(self.ask(front, "/über", b"ab", b"cd")),
            (200, repr(("POST", "/über".encode().decode("latin-1"), "a,b", b"abcd")).encode()),
        )
        self.assertEqual(front.held_bytes, 0)

    def test_a_stream_is_carried_to_its_end(self) -> None:
        self.assertEqual(asyncio.run(self.ask(Front(self.app, error_body, 1), "/words", b"")), (200, b"one two"))

    def test_one_client_cannot_take_every_place(self) -> None:
        front = Front(self.app, error_body, 1)
        front.at_once["10.0.0.9"] = MOST_AT_ONCE
        status, body = asyncio.run(self.ask(front, "/", b""))
        self.assertEqual((status, json.loads(body)["error"]["code"]), (429, "crowded"))
        front.at_once.clear()
        front.streams["10.0.0.9"] = MOST_STREAMS
        self.assertEqual(asyncio.run(self.ask(front, "/words", b""))[0], 429)
        self.assertEqual(asyncio.run(self.ask(front, "/", b""))[0], 200)
        for length in (b"999999999999", b"x", b"9" * 400):
            status, _ = asyncio.run(self.ask(front, "/", b"", headers=[(b"content-length", length)]))
            self.assertEqual(status, 413)
        self.assertEqual((front.held_bytes, dict(front.at_once)), (0, {}))
