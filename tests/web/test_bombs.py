"""Files that cost far more than they weigh are refused in words, and cost the server and its other clients nothing."""

import contextlib
import json
import os
import pathlib
import threading
import time
import unittest
import urllib.error
import urllib.request
from collections.abc import Iterator

from tests.bombs import BOMBS, Bomb
from tests.browser.driver import Server, served

MOST_GROWTH_MB = 50.0
OTHERS_WAIT_S = 1.0  # at most; on a busy machine the median must hold
PRINTS = os.environ.get("PRINT_BOMBS")


class Bombs(unittest.TestCase):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = cls.enterClassContext(served())
        for path in ("/api/desk", "/api/sheets/trap-log/page.png"):
            urllib.request.urlopen(cls.server.url + path).read()

    def test_each_is_refused_and_costs_the_server_nothing(self) -> None:
        for name, bomb in BOMBS.items():
            with self.subTest(name):
                data = bomb.make()
                before = self.peak_mb(clear=True)
                with self.others() as waits:
                    began = time.monotonic()
                    status, words = self.send(bomb, data)
                    took = time.monotonic() - began
                grown = self.peak_mb() - before - 3 * len(data) / 1e6  # what was sent is taken in, held, and handed on
                if PRINTS:
                    print(f"{name:42} {len(data) / 1e3:8.0f} kB {status} {took:5.2f} s {grown:6.0f} MB", end=" ")
                    print(f"others {sorted(waits)[-1] if waits else 0:.2f} s: {words[:90]}")
                self.assertIn(status, (200, 400, 413, 422), words)
                self.assertRegex(words, bomb.words)
                self.assertLess(grown, MOST_GROWTH_MB)
                if waits:
                    self.assertLess(sorted(waits)[len(waits) // 2], OTHERS_WAIT_S)

    def send(self, bomb: Bomb, data: bytes) -> tuple[int, str]:
        asked = urllib.request.Request(self.server.url + bomb.path, data, {"Content-Type": bomb.media})
        try:
            with urllib.request.urlopen(asked, timeout=120) as reply:
                return reply.status, reply.read().decode()
        except urllib.error.HTTPError as refused:
            return refused.code, str(json.loads(refused.read())["error"]["message"])

    @contextlib.contextmanager
    def others(self) -> Iterator[list[float]]:
        """How long another client's page takes meanwhile, again and again."""
        waits: list[float] = []
        over = threading.Event()

        def ask() -> None:
            while not over.is_set():
                began = time.monotonic()
                urllib.request.urlopen(self.server.url + "/api/sheets/trap-log/page.png?scale=1", timeout=120).read()
                waits.append(time.monotonic() - began)
                over.wait(0.05)

        asking = threading.Thread(target=ask)
        asking.start()
        try:
            yield waits
        finally:
            over.set()
            asking.join()

    def peak_mb(self, clear: bool = False) -> float:
        """Of the server's memory since it was cleared, or now."""
        assert self.server.process is not None
        proc = pathlib.Path(f"/proc/{self.server.process.pid}")
        if clear:
            (proc / "clear_refs").write_text("5")
        line = next(row for row in (proc / "status").read_text().splitlines() if row.startswith("VmHWM"))
        return int(line.split()[1]) / 1000
