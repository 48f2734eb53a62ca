"""A tablet in the room: by the printed link, over TLS that is really trusted, with the pen's raw reports; and plainly.

The browser knows the server by a name that is mapped to this machine: 127.0.0.1 itself counts as secure without TLS and
would prove nothing. The authority is trusted through a certificate store of its own, thrown away afterwards.
"""

import pathlib
import re
import shutil
import sqlite3
import subprocess
import tempfile
import unittest
from typing import Any

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

from gray_quill.store.database import connect
from tests.browser.desk import Desk, DeskCase, until_true
from tests.browser.driver import FLAGS, count_timers, demo_folder, free_port, zygote

NAME = "quill.test"
SENT = """return performance.getEntriesByType('resource').filter(e => !e.name.includes('/api/'))
  .concat(performance.getEntriesByType('navigation')).reduce((sum, e) => sum + e.encodedBodySize, 0)"""
RAW = "return ['onpointerrawupdate' in window, window.isSecureContext]"


class Room(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.home = pathlib.Path(temporary.name)
        self.folder = self.home / "data"
        shutil.copytree(demo_folder(), self.folder)
        self.port = free_port()

    def serve(self, *how: str) -> Any:
        """A server for the room; its process. What it prints is waited for."""
        named = ("--host", "127.0.0.1", "--name", NAME, "--port", str(self.port), "--data", str(self.folder))
        child = zygote().start("serve", *named, *how)
        self.addCleanup(child.kill)
        until_true(lambda: "Come in:" in child.words(), "the link", 60)
        return child

    def link(self, child: Any) -> str:
        return re.search(r"Come in: (\S+)", child.words())[1]

    def browser(self, trusts: bool) -> Any:
        """A Chromium of its own, that knows the name, and trusts the authority where it is told to."""
        store = self.home / ".pki" / "nssdb"
        if trusts:
            store.mkdir(parents=True)
            at = f"sql:{store}"
            subprocess.run(["certutil", "-d", at, "-N", "--empty-password"], check=True)
            authority = str(self.folder / "tls" / "authority.pem")
            subprocess.run(["certutil", "-d", at, "-A", "-n", "desk", "-t", "C,,", "-i", authority], check=True)
        options = webdriver.ChromeOptions()
        options.binary_location = shutil.which("chromium") or ""
        for flag in (*FLAGS, f"user-data-dir={self.home / 'profile'}", f"host-resolver-rules=MAP {NAME} 127.0.0.1"):
            options.add_argument("--" + flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        service = Service(shutil.which("chromedriver"), env={"HOME": str(self.home), "PATH": "/usr/bin:/bin"})
        driver: Any = webdriver.Chrome(service=service, options=options)
        count_timers(driver)
        driver.set_script_timeout(60)
        driver.downloads = self.home
        self.addCleanup(driver.quit)
        return driver

    def test_a_tablet_comes_by_the_link_writes_and_loses_nothing(self) -> None:
        child = self.serve()
        driver, link = self.browser(trusts=True), self.link(child)
        base = f"https://{NAME}:{self.port}"
        driver.get(f"{base}/sheet")
        self.assertIn("It lets this screen in by a link", driver.page_source)
        driver.get(link)
        desk = Desk.__new__(Desk)
        desk.driver, desk.url = driver, base
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the sheet", 60)
        self.assertEqual(driver.current_url, f"{base}/sheet")
        self.assertEqual(desk.js(RAW), [True, True])
        self.assertLess(desk.js(SENT), 350_000, "bytes of the first page as they went over the air")
        kept = desk.js(
            "return fetch('/desk.webmanifest').then(r => r.json()).then(m => Promise.all(m.icons.map(i => fetch(i.src)"
            ".then(r => r.blob()).then(createImageBitmap).then(b => `${b.width}x${b.height}` === i.sizes))))"
        )
        self.assertEqual(kept, [True, True], "icons of the sizes the manifest says")
        desk.js(
            "window.awake = 0; const lock = new EventTarget(); lock.release = async () => undefined;"
            "navigator.wakeLock.request = async () => { window.awake++; return lock }"
        )
        desk.js("window.raw = 0; addEventListener('pointerrawupdate', () => window.raw++, true)")
        sheet = desk.js("return fetch('/api/desk').then(r => r.json()).then(d => d.sheet_id)")
        db = connect(self.folder)
        self.addCleanup(db.close)

        def strokes() -> int:
            return int(db.execute("SELECT count(*) FROM strokes WHERE sheet_id = ?", (sheet,)).fetchone()[0])

        desk.rests()
        was = strokes()
        left, top = desk.corner("[data-layer=live]")

        def line(y: float) -> None:
            desk.write([(left + 60 + 5 * k, top + y, 0.5) for k in range(40)])

        line(60)
        until_true(lambda: strokes() == was + 1, "the stroke kept")
        self.assertGreater(desk.js("return window.raw"), 10, "raw updates are seen")
        self.assertEqual(desk.js("return window.awake"), 1, "the screen is kept awake")
        desk.js("return navigator.serviceWorker.ready.then(() => true)")
        driver.refresh()
        desk.wait(
            "navigator.serviceWorker.controller && document.querySelector('[data-layer=page]')?.width > 300", "it"
        )
        desk.rests()
        ink = desk.inked("page")
        child.kill()
        driver.refresh()
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the desk without its server")
        until_true(lambda: desk.inked("page") == ink, "the page as it was")
        desk.says("the server is not reached: writing goes on here", "header")
        line(75)
        desk.says("the server is not reached: writing goes on here, 1 stroke waits", "header")
        driver.refresh()
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the desk again")
        until_true(lambda: desk.inked("page") > ink + 50, "the stroke that waits")
        self.assertNotIn("another window", desk.text(), "own ink is no news")
        again = self.serve()
        until_true(lambda: strokes() == was + 2, "what waited has arrived")
        desk.press("Screens", "nav")
        desk.says("this one", "[role=dialog]")
        next_link = self.link(again)
        self.assertNotIn(next_link, desk.text("[role=dialog]"))
        desk.press("Show the link", "[role=dialog]")
        desk.says(next_link, "[role=dialog]")
        self.assertEqual([e for e in desk.trouble() if "Failed to load resource" not in e["message"]], [])
        keys = [re.search(r"the key any: (\S+)", one.words())[1] for one in (child, again)]
        self.assertEqual(keys[0], keys[1], "the key outlives a start")
        self.assertEqual([one.words().count(keys[0]) for one in (child, again)], [1, 1], "no log has it")
        driver.quit()
        history = sqlite3.connect(self.home / "profile" / "Default" / "History")
        seen = "".join(url for (url,) in history.execute("SELECT url FROM urls"))
        self.assertIn(NAME, seen)
        self.assertNotIn(keys[0], seen)

    def test_without_trust_it_is_refused_and_plainly_it_reports_less(self) -> None:
        child = self.serve("--no-tls")
        driver = self.browser(trusts=False)
        driver.get(self.link(child))
        desk = Desk.__new__(Desk)
        desk.driver, desk.url = driver, f"http://{NAME}:{self.port}"
        desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the sheet", 60)
        self.assertEqual(desk.js(RAW), [False, False], "a plain name is no secure page and has no raw updates")
        child.kill()
        child = self.serve()
        driver.get(f"http://{NAME}:{self.port}/in")
        self.assertIn("The certificate", driver.page_source)
        driver.get(f"http://{NAME}:{self.port}/sheet")
        self.assertIn(f"https://{NAME}:{self.port}/", driver.page_source)
        driver.get(self.link(child))
        self.assertIn("ERR_CERT_AUTHORITY_INVALID", driver.page_source)
        self.assertNotIn("A screen came in", child.words())


class TwoScreens(DeskCase):
    def test_what_another_screen_does_appears_here_and_nothing_in_the_making_is_lost(self) -> None:
        desk = self.desk
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        desk.ask("sheets", {"id": "shared", "name": "Shared", "paper": "blank A5", **like})
        desk.ask("desk", {"sheet_id": "shared"}, "PATCH")
        desk.open()
        self.assertEqual(desk.inked("page"), 0)
        left, top = desk.corner("[data-layer=live]")
        way = [(left + 60 + 5 * k, top + 60, 0.5) for k in range(30)]
        desk.hold(way)
        told = "document.documentElement.dataset.told"
        desk.js(f"{told} = 0; new EventSource('/api/news').onmessage = () => {told}++")
        desk.wait(f"{told} > 0", "what is there")
        desk.ask("sheets/shared/write", {"text": "moth", "seed": 1})
        desk.wait(f"{told} > 1", "that it was written on")
        desk.frames(10)
        self.assertGreater(desk.inked("live"), 50, "the stroke in the making")
        self.assertEqual(desk.inked("page"), 0, "nothing moves under the nib")
        desk.lift(*way[-1][:2])
        desk.says("was written on", "body")
        until_true(lambda: desk.inked("page") > 600, "the other screen's ink")
        desk.all_kept()
        until_true(lambda: len(desk.ask("sheets/shared")["stroke_ids"]) > 1, "both kept")
        pen = next(p for p in desk.ask("desk")["pens"] if p["id"] == "fen-fountain")
        recipe = pen["recipe"] | {"body": pen["recipe"]["body"] | {"width_mm": 1.3}}
        desk.ask("pens/fen-fountain/revisions", {"recipe": recipe, "saw": pen["revision"]})
        desk.says("revision 2", "header")
        desk.says("1.30 mm", ".roll")
        self.assertEqual(desk.trouble(), [])
