"""Others on the network: who is let in, who is not, and certificates that hold for this machine's names alone."""

import contextlib
import datetime
import gzip
import json
import pathlib
import re
import shutil
import socket
import sqlite3
import ssl
import stat
import tempfile
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

import brotli
from itsdangerous import URLSafeSerializer

from gray_quill.core.errors import InputError, Unavailable
from gray_quill.web.addresses import Place, place_of
from gray_quill.web.app import create_app
from gray_quill.web.certificates import certificates
from gray_quill.web.change_events import Boxes, NewsWatch
from tests.browser.desk import until_true
from tests.browser.driver import demo_folder, free_port, zygote

NAMES = ("quill.test", "192.168.7.2")
PLAIN = "http://quill.test:5178"


class RoomCase(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder = pathlib.Path(temporary.name)
        shutil.copytree(demo_folder(), self.folder, dirs_exist_ok=True)

    def opened(self, tls: bool = False) -> Any:
        place = Place("0.0.0.0", 5178, NAMES, room=True, tls=tls)
        return create_app(self.folder, place=place, trusted=certificates(self.folder, NAMES) if tls else None)


class Doors(RoomCase):
    def setUp(self) -> None:
        super().setUp()
        self.app = self.opened()
        self.key = self.app.extensions["door"].secrets.key
        self.client = self.app.test_client()

    def get(self, path: str, **how: Any) -> Any:
        return self.client.get(path, base_url=how.pop("base_url", PLAIN), **how)

    def come_in(self) -> Any:
        return self.get(f"/in/{self.app.extensions['door'].ticket}")

    def test_the_link_lets_a_browser_in_and_leaves_the_address(self) -> None:
        for path in ("/", "/api/desk", "/api/openapi.json", "/assets/any.js", "/sheet"):
            self.assertEqual(self.get(path).status_code, 401, path)
        self.assertEqual(self.get("/api/desk").get_json()["error"]["code"], "outside")
        self.assertEqual(self.get("/in").status_code, 200)
        ticket = self.app.extensions["door"].ticket
        self.assertFalse(any(secret in self.get("/in").get_data(as_text=True) for secret in (self.key, ticket)))
        for looks in ({"method": "HEAD"}, {"headers": {"Sec-Purpose": "prefetch;prerender"}}):
            self.assertEqual(self.client.open(f"/in/{ticket}", base_url=PLAIN, **looks).status_code, 401)
        came = self.come_in()
        self.assertEqual((came.status_code, came.headers["Location"]), (303, "/"))
        cookie = came.headers["Set-Cookie"]
        self.assertTrue(all(word in cookie for word in ("HttpOnly", "SameSite=Lax", "Path=/")), cookie)
        self.assertNotIn(self.key, cookie)
        self.assertEqual(came.headers["Referrer-Policy"], "no-referrer")
        self.assertEqual(self.get("/api/desk").status_code, 200)
        told = self.get("/api/room").get_json()
        self.assertEqual(told["key"], self.key, "who is in may show others the way")
        self.assertNotIn(ticket, told["link"])
        other = self.app.test_client()
        again = other.get(f"/in/{ticket}", base_url=PLAIN)
        self.assertEqual((again.status_code, "used already" in again.get_data(as_text=True)), (401, True))
        self.assertEqual(self.get(f"/in/{ticket}").status_code, 303, "who is in goes on")
        self.assertEqual(other.get(told["link"].split("5178")[1], base_url=PLAIN).status_code, 303)

    def test_a_key_is_typed_too(self) -> None:
        origin = {"Origin": PLAIN}
        typed = self.client.post("/in", data={"key": f" {self.key.upper()} "}, base_url=PLAIN, headers=origin)
        self.assertEqual(typed.status_code, 303)
        self.assertEqual(self.get("/api/desk").status_code, 200)

    def test_wrong_keys_are_told_wait_longer_and_are_not_logged(self) -> None:
        with self.assertLogs("gray_quill", "WARNING") as logs, mock.patch("time.monotonic") as clock:
            clock.return_value = 100.0
            codes = [self.get("/in/wrong-" + str(k)).status_code for k in range(4)]
            self.assertEqual(codes, [401, 401, 401, 429])
            self.assertEqual(self.come_in().status_code, 429, "the right one waits too")
            clock.return_value = 101.1
            self.assertEqual(self.get("/in/wrong").status_code, 401)
            reply = self.come_in()
            self.assertEqual((reply.status_code, reply.headers["Retry-After"]), (429, "2"))
            other = self.get(
                f"/in/{self.app.extensions['door'].ticket}", environ_overrides={"REMOTE_ADDR": "192.168.7.9"}
            )
            self.assertEqual(other.status_code, 303, "another screen does not wait")
        said = "\n".join(logs.output)
        self.assertIn("127.0.0.1", said)
        self.assertNotIn("wrong-", said)
        self.assertNotIn(self.key, said)

    def test_forged_signed_out_and_renewed(self) -> None:
        name = self.app.extensions["door"]._cookie()
        known = self.app.extensions["door"]._signer().dumps("browser-nobody")
        forged = URLSafeSerializer("another secret", salt="browser").dumps("browser-1")
        for value in (forged, known, "", "x" * 3000, "a.b.c"):
            self.client.set_cookie(name, str(value), domain="quill.test")
            self.assertEqual(self.get("/api/desk").status_code, 401, value[:20])
        self.client.delete_cookie(name, domain="quill.test")
        self.come_in()
        old = self.app.extensions["door"].ticket
        (screen,) = self.get("/api/room").get_json()["screens"]
        self.assertTrue(screen["here"])
        renewed = self.client.post("/api/room/key", base_url=PLAIN).get_json()
        self.assertNotIn(old, renewed["link"])
        self.assertNotEqual(renewed["key"], self.key)
        typed = self.client.post("/in", data={"key": self.key}, base_url=PLAIN)
        self.assertEqual(typed.status_code, 401, "the old key")
        self.assertEqual(self.get("/api/desk").status_code, 200, "who is in stays in")
        fresh = self.app.test_client()
        self.assertEqual(fresh.get(f"/in/{old}", base_url=PLAIN).status_code, 401)
        self.assertEqual(fresh.get(re.sub(r"^\w+://[^/]+", "", renewed["link"]), base_url=PLAIN).status_code, 303)
        gone = self.client.delete(f"/api/room/screens/{screen['browser']['id']}", base_url=PLAIN)
        self.assertEqual([s["here"] for s in gone.get_json()["screens"]], [False])
        self.assertEqual(self.get("/api/desk").status_code, 401, "signed out")
        started = self.opened()
        self.assertEqual(started.extensions["door"].secrets.key, renewed["key"], "after a start it is the same key")
        self.assertEqual(started.test_client().get(f"/in/{old}", base_url=PLAIN).status_code, 401)

    def test_a_link_followed_by_many_at_the_same_moment_lets_one_in(self) -> None:
        ticket = self.app.extensions["door"].ticket
        with ThreadPoolExecutor(12) as pool, self.assertLogs("gray_quill", "WARNING"):
            codes = list(
                pool.map(
                    lambda k: (
                        self.app.test_client()
                        .get(f"/in/{ticket}", base_url=PLAIN, environ_overrides={"REMOTE_ADDR": f"192.168.7.{k}"})
                        .status_code
                    ),
                    range(12),
                )
            )
        self.assertEqual(sorted(codes), [303] + [401] * 11)

    def test_a_disk_that_takes_no_note_keeps_nobody_out(self) -> None:
        self.come_in()
        with mock.patch("gray_quill.store.room.transaction", side_effect=sqlite3.OperationalError("disk is full")):
            moved = self.get("/api/desk", environ_overrides={"REMOTE_ADDR": "192.168.7.9"})
        self.assertEqual(moved.status_code, 200)

    def test_only_its_own_names_are_answered(self) -> None:
        self.come_in()
        for host, status in (("quill.test", 200), ("192.168.7.2", 401), ("QUILL.test", 200), ("evil.test", 403)):
            reply = self.client.get("/api/desk", base_url=PLAIN, headers={"Host": f"{host}:5178"})
            self.assertEqual(reply.status_code, status, host)
        for headers in ({"Origin": "http://evil.test"}, {"Origin": "null"}, {"Sec-Fetch-Site": "cross-site"}):
            self.assertEqual(self.get("/api/desk", headers=headers).status_code, 403, headers)
            self.assertEqual(self.client.post("/api/room/key", base_url=PLAIN, headers=headers).status_code, 403)


class NewsOfTheDesk(RoomCase):
    def test_only_what_changed_is_told_and_to_nobody_who_was_signed_out(self) -> None:
        app = self.opened()
        client = app.test_client()
        client.get(f"/in/{app.extensions['door'].ticket}", base_url=PLAIN)
        (screen,) = client.get("/api/room", base_url=PLAIN).get_json()["screens"]
        watch = NewsWatch(self.folder, screen["browser"]["id"], Boxes())
        self.addCleanup(watch.close)
        first = json.loads((watch.look() or "")[6:])
        self.assertIn("trap-log", first["sheets"])
        self.assertEqual(first["pens"]["fen-fountain"], [1])
        self.assertIsNone(watch.look())
        client.post("/api/sheets/trap-log/write", json={"text": "moth"}, base_url=PLAIN)
        told = json.loads((watch.look() or "")[6:])
        self.assertEqual((list(told["sheets"]), told["pens"]), (["trap-log"], {}))
        self.assertGreater(told["sheets"]["trap-log"][1], first["sheets"]["trap-log"][1])
        client.put("/api/sheets/trap-log/bin", json={"binned": True}, base_url=PLAIN)
        gone = json.loads((watch.look() or "")[6:])
        self.assertEqual((gone["sheets"], gone["pens"]), ({"trap-log": None}, {}))
        client.delete(f"/api/room/screens/{screen['browser']['id']}", base_url=PLAIN)
        with self.assertRaises(StopIteration):
            watch.look()


class Small(RoomCase):
    def test_what_goes_over_the_air_is_compressed_and_the_same(self) -> None:
        app = self.opened()
        client = app.test_client()
        client.get(f"/in/{app.extensions['door'].ticket}", base_url=PLAIN)
        page = client.get("/", base_url=PLAIN)
        script = re.search(r'src="(/assets/[^"]+\.js)"', page.get_data(as_text=True))
        assert script
        for path in (script[1], "/api/desk"):
            plain = client.get(path, base_url=PLAIN, headers={"Accept-Encoding": "identity"})
            self.assertNotIn("Content-Encoding", plain.headers)
            for form, unpacked in (("br", brotli.decompress), ("gzip", gzip.decompress)):
                sent = client.get(path, base_url=PLAIN, headers={"Accept-Encoding": form})
                self.assertEqual((sent.headers["Content-Encoding"], unpacked(sent.data)), (form, plain.data), path)
                self.assertLess(len(sent.data), 0.45 * len(plain.data), path)
                self.assertIn("Accept-Encoding", sent.headers["Vary"])
        kept = client.get(script[1], base_url=PLAIN).headers["Cache-Control"]
        self.assertIn("immutable", kept)
        self.assertEqual(client.get("/assets/../../etc/passwd", base_url=PLAIN).status_code, 404)


class Secure(RoomCase):
    def test_who_comes_plainly_is_sent_to_https(self) -> None:
        client = self.opened(tls=True).test_client()
        key = client.application.extensions["door"].ticket
        for path in ("/", "/api/desk", f"/in/{key}"):
            reply = client.get(path, base_url=PLAIN)
            self.assertEqual(reply.status_code, 403, path)
            self.assertIn("https://quill.test:5178/", reply.get_data(as_text=True))
            self.assertNotIn("Set-Cookie", reply.headers)
        way_in = client.get("/in", base_url=PLAIN)
        self.assertEqual(way_in.status_code, 200)
        self.assertIn("authority.crt", way_in.get_data(as_text=True))
        self.assertEqual(client.get("/authority.crt", base_url=PLAIN).data[:27], b"-----BEGIN CERTIFICATE-----")
        came = client.get(f"/in/{key}", base_url=PLAIN.replace("http", "https"))
        self.assertIn("Secure", came.headers["Set-Cookie"])

    def test_the_certificate_holds_for_its_names_and_no_other(self) -> None:
        """Against Python's ssl (OpenSSL), by handshakes in memory."""
        made = certificates(self.folder, NAMES)
        for name, holds in (("quill.test", True), ("192.168.7.2", True), ("other.test", False), ("192.168.7.3", False)):
            self.assertEqual(_shakes(made.leaf, self.folder / "tls" / "authority.pem", name), holds, name)
        for file in (made.leaf, self.folder / "tls" / "authority.key", self.folder / "room.json"):
            if file.exists():
                self.assertEqual(stat.S_IMODE(file.stat().st_mode), 0o600, file)

    def test_a_leaf_is_kept_renewed_in_time_and_follows_the_names(self) -> None:
        now = datetime.datetime.now(datetime.UTC)
        first = certificates(self.folder, NAMES, now)
        leaf = first.leaf.read_bytes()
        self.assertEqual(certificates(self.folder, NAMES, now + datetime.timedelta(days=59)).leaf.read_bytes(), leaf)
        later = certificates(self.folder, NAMES, now + datetime.timedelta(days=61))
        self.assertNotEqual(later.leaf.read_bytes(), leaf)
        self.assertGreater(later.until, first.until)
        moved = certificates(self.folder, ("192.168.9.9",), now)
        self.assertEqual(moved.fingerprint, first.fingerprint, "what screens trust stays")
        self.assertTrue(_shakes(moved.leaf, self.folder / "tls" / "authority.pem", "192.168.9.9"))

    def test_a_folder_that_takes_nothing_is_said(self) -> None:
        (self.folder / "tls").write_text("in the way")
        with self.assertRaises(Unavailable) as caught:
            certificates(self.folder, NAMES)
        self.assertIn("--no-tls", caught.exception.message)


class Served(RoomCase):
    def test_the_port_stands_what_comes_to_it(self) -> None:
        """Silent connections, junk that begins like TLS, plain http, and a client that trusts the authority."""
        port = free_port()
        named = ("--host", "127.0.0.1", "--name", "quill.test", "--port", str(port), "--data", str(self.folder))
        child = zygote().start("serve", *named)
        self.addCleanup(child.kill)
        until_true(lambda: "the key any" in child.words(), "the link", 60)

        def plainly(sent: bytes) -> bytes:
            with socket.create_connection(("127.0.0.1", port), 20) as one, contextlib.suppress(ConnectionError):
                one.sendall(sent)
                return b"".join(iter(lambda: one.recv(4096), b""))
            return b""

        silent = [socket.create_connection(("127.0.0.1", port), 20) for _ in range(230)]
        for one in silent:
            self.addCleanup(one.close)
        self.assertNotIn(b"HTTP", plainly(b"\x16" + b"junk" * 50))
        ask = b"GET /api/desk HTTP/1.1\r\nHost: quill.test:%d\r\nConnection: close\r\n\r\n" % port
        for one in silent[:60]:
            one.close()
        until_true(lambda: b"403" in plainly(ask).split(b"\r\n")[0], "a word about https")
        trusts = ssl.create_default_context(cafile=str(self.folder / "tls" / "authority.pem"))
        with (
            socket.create_connection(("127.0.0.1", port), 20) as raw,
            trusts.wrap_socket(raw, server_hostname="quill.test") as tls,
        ):
            tls.sendall(ask)
            self.assertIn(b"401", b"".join(iter(lambda: tls.recv(4096), b"")).split(b"\r\n")[0])
        self.assertNotIn("Traceback", child.words())


class Places(unittest.TestCase):
    def test_where_it_listens(self) -> None:
        own = place_of("127.0.0.1", 5178)
        self.assertEqual((own.room, own.tls, own.address), (False, False, "http://127.0.0.1:5178"))
        room = place_of("0.0.0.0", 5178, ("Quill.test",))
        self.assertEqual((room.room, room.tls, room.names[0]), (True, True, "quill.test"))
        self.assertTrue(
            room.is_ours("localhost:5178") and room.is_ours("[::1]") and not room.is_ours("quill.test.evil")
        )
        for bad in ("everywhere", "300.1.1.1", "::"):
            with self.assertRaises(InputError):
                place_of(bad, 5178)


def _shakes(leaf: pathlib.Path, authority: pathlib.Path, name: str) -> bool:
    """Whether a client that trusts the authority takes the leaf for this name."""
    server_side, client_side = (
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER),
        ssl.create_default_context(cafile=str(authority)),
    )
    server_side.load_cert_chain(leaf)
    there, back = ssl.MemoryBIO(), ssl.MemoryBIO()
    client = client_side.wrap_bio(back, there, server_hostname=name)
    server = server_side.wrap_bio(there, back, server_side=True)
    for _ in range(6):
        for one in (client, server):
            try:
                one.do_handshake()
            except ssl.SSLWantReadError:
                continue
            except ssl.SSLCertVerificationError:
                return False
    return client.getpeercert() is not None
