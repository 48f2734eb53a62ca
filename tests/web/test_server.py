"""Starting: the address is printed, a taken port is said plainly, and a demo is filled in once."""

import json
import pathlib
import signal
import subprocess
import sys
import tempfile
import unittest
import urllib.request

from tests.browser.driver import Server, free_port


class Starting(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder = pathlib.Path(temporary.name)

    def desk(self, server: Server) -> dict:
        return json.loads(urllib.request.urlopen(server.url + "/api/desk", timeout=5).read())

    def test_an_empty_start_has_no_sheets_and_a_demo_start_fills_them_once(self) -> None:
        server = Server(self.folder, "serve")
        self.addCleanup(server.kill)
        server.start()
        empty = self.desk(server)
        self.assertEqual(empty["sheets"], [])
        self.assertTrue(empty["hands"] and empty["devices"] and empty["pens"], "there is something to write with")
        server.kill()
        server.command = "demo"
        server.start()
        first = self.desk(server)
        self.assertEqual(len(first["sheets"]), 6)
        self.assertEqual(first["sheet_id"], "trap-log")
        server.kill()
        server.start()
        self.assertEqual(self.desk(server), first)

    def test_it_stops_when_told_also_while_pages_are_open(self) -> None:
        port = free_port()
        serve = [sys.executable, "-m", "gray_quill.cli", "serve", "--port", str(port), "--data", str(self.folder / "x")]
        process = subprocess.Popen(serve, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        self.addCleanup(process.kill)
        process.stdout.readline()
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/news", timeout=30) as stream:
            self.assertTrue(stream.readline().startswith(b"data: "))
            process.send_signal(signal.SIGINT)
            self.assertEqual(stream.read(), b"\n", "the stream is ended, not cut")
        said, _ = process.communicate(timeout=30)
        self.assertNotIn("Traceback", said)

    def test_a_taken_port_is_said_with_what_to_do(self) -> None:
        port = free_port()
        serve = [sys.executable, "-m", "gray_quill.cli", "serve", "--port", str(port), "--data"]
        first = subprocess.Popen([*serve, str(self.folder / "one")], stdout=subprocess.PIPE, text=True)
        self.addCleanup(first.stdout.close)
        self.addCleanup(first.wait)
        self.addCleanup(first.kill)
        self.assertIn(f"http://127.0.0.1:{port}/", first.stdout.readline())
        second = subprocess.run([*serve, str(self.folder / "two")], capture_output=True, text=True, timeout=60)
        self.assertEqual(second.returncode, 2)
        self.assertIn(f"Port {port} is taken", second.stderr)
        self.assertIn("--port", second.stderr)
