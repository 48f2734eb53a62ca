"""The door: what reads a file ends with who asked, within its limits, and brings nothing but records back."""

import io
import os
import pathlib
import pickle
import signal
import threading
import time
import unittest

import numpy as np

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.film_zip import write_film
from gray_quill.formats.pen_json import write_pen
from gray_quill.formats.sandbox import READERS, Sandbox, _Records
from tests.bombs import BOMBS
from tests.zoo import zoo

SLOW = BOMBS["styles that fill with patterns"].make()  # it takes as long as it may


class Doors(unittest.TestCase):
    def setUp(self) -> None:
        self.box = Sandbox()
        self.addCleanup(self.box.close)
        self.pen = write_pen(SHIPPED_PENS["fen-fountain"])
        self.box.read("pen", self.pen)

    def children(self) -> list[str]:
        """Of the forking process, that still live."""
        assert self.box._forker is not None
        told = pathlib.Path(f"/proc/{self.box._forker.pid}/task/{self.box._forker.pid}/children")
        return told.read_text().split()

    def assert_alone(self) -> None:
        until = time.monotonic() + 20
        while self.children() and time.monotonic() < until:
            time.sleep(0.01)
        self.assertEqual(self.children(), [])

    def test_what_it_reads_is_what_the_reader_makes(self) -> None:
        self.assertEqual(self.box.read("pen", self.pen), SHIPPED_PENS["fen-fountain"])
        with self.assertRaisesRegex(TooLarge, "few kilobytes"):
            self.box.read("pen", b" " * 200_000)
        with self.assertRaisesRegex(FormatError, "not JSON"):
            self.box.read("pen", b"{")

    def test_it_ends_with_who_asked(self) -> None:
        asked = threading.Event()

        def leaves() -> bool:
            gone = asked.is_set()
            asked.set()
            return not gone

        with self.assertRaises(FormatError):
            self.box.read("svg picture", SLOW, waited_for=leaves)
        self.assert_alone()
        with self.assertRaises(FormatError):
            self.box.read("svg picture", SLOW, within_s=0.05)
        self.assert_alone()

    def test_what_progress_raises_ends_it(self) -> None:
        class Cancelled(Exception):
            pass

        def cancel(_: float) -> None:
            raise Cancelled

        frames = [np.full((60, 80), 200, np.uint8)] * 12
        with self.assertRaises(Cancelled):
            self.box.read("film", write_film(frames), progress=cancel, fps=240, mm_per_px=0.1)
        self.assert_alone()

    def test_limits_are_of_the_child_and_kept(self) -> None:
        with self.assertRaisesRegex(FormatError, "reader down"):
            self.box.read("svg picture", SLOW)
        self.assert_alone()
        self.assertEqual(self.box.read("pen", self.pen), SHIPPED_PENS["fen-fountain"])
        self.assertTrue(all(0 < r.cpu_s and 0 < r.memory_mb < 1000 for r in READERS.values()))

    def test_a_forking_process_that_falls_is_started_again_and_ends_with_its_owner(self) -> None:
        assert self.box._forker is not None
        first = self.box._forker
        os.kill(first.pid, signal.SIGKILL)
        first.wait()
        self.assertEqual(self.box.read("pen", self.pen), SHIPPED_PENS["fen-fountain"])
        second = self.box._forker
        assert second is not None
        self.assertNotEqual(second.pid, first.pid)
        self.box.close()
        self.assertFalse(pathlib.Path(f"/proc/{second.pid}").exists())

    def test_only_records_come_back(self) -> None:
        traces = list(zoo().values())
        back = _Records(io.BytesIO(pickle.dumps(traces, protocol=5))).load()
        self.assertEqual([len(t) for t in back], [len(t) for t in traces])

        for odd in (os.system, Sandbox, pathlib.Path("/"), print):
            with self.assertRaises(pickle.UnpicklingError):
                _Records(io.BytesIO(pickle.dumps(odd))).load()
