"""Ending the tests leaves no process of theirs behind."""

import os
import pathlib
import signal
import subprocess
import sys
import time
import unittest

from tests.guardian import descendants

ROOT = pathlib.Path(__file__).parents[2]
# a server that was let go of, in a session of its own, and one that has children
WORK = """
import subprocess, sys, time
from tests.guardian import leave_nothing_behind
leave_nothing_behind()
apart = subprocess.Popen(["sh", "-c", "sleep 600 & sleep 600"], start_new_session=True)
orphan = subprocess.run(["sh", "-c", "sleep 600 >/dev/null 2>&1 & echo $!"], capture_output=True, text=True).stdout
print("begun", apart.pid, orphan, flush=True)
time.sleep({seconds})
sys.exit(3)
"""


class Guardian(unittest.TestCase):
    def begin(self, seconds: float, shell: bool = False) -> tuple[subprocess.Popen[str], list[int]]:
        """Begun tests, and all that has come of them."""
        command = [sys.executable, "-c", WORK.format(seconds=seconds)]
        if shell:
            command = ["sh", "-c", '"$@"; true', "sh", *command]
        begun = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, cwd=ROOT)
        self.addCleanup(begun.kill)
        assert begun.stdout is not None
        self.addCleanup(begun.stdout.close)
        self.assertIn("begun", begun.stdout.readline())
        found = descendants(begun.pid)
        self.assertGreater(len(found), 3)
        return begun, found

    def assert_gone(self, pids: list[int]) -> None:
        until = time.monotonic() + 30
        left = pids
        while left and time.monotonic() < until:
            left = [pid for pid in left if pathlib.Path(f"/proc/{pid}/exe").exists()]
            time.sleep(0.02)
        self.assertEqual(left, [])

    def test_they_end_by_themselves(self) -> None:
        begun, found = self.begin(0.2)
        self.assertEqual(begun.wait(30), 3, "with the status of the work")
        self.assert_gone(found)

    def test_they_are_ended(self) -> None:
        for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            begun, found = self.begin(600)
            os.kill(begun.pid, number)
            self.assertEqual(begun.wait(30), 128 + number)
            self.assert_gone(found)

    def test_who_started_them_is_killed(self) -> None:
        shell, found = self.begin(600, shell=True)
        shell.kill()
        self.assert_gone(found)
