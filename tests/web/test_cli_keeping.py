"""The commands that look after the data, and output that is written whole or not at all."""

import contextlib
import os
import pathlib
import subprocess
import sys
from unittest import mock

from gray_quill.cli import main
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.demo.build import stock
from gray_quill.formats.inkml_write import write_inkml
from gray_quill.store.backups import list_backups
from gray_quill.store.database import FILE, connect
from gray_quill.store.health import examine
from gray_quill.store.owner import owned
from gray_quill.store.pens import add_pen
from tests.web.cli_case import CliCase
from tests.zoo import wave

ODD = ("", "\x00", "x" * 5000, "two\nlines", "-1", "9" * 400, "nan", "1e999")


class Keeping(CliCase):
    def setUp(self) -> None:
        super().setUp()
        self.data = self.folder / "data"
        stock(self.data)

    def test_check_back_up_and_restore(self) -> None:
        at = ("--data", str(self.data))
        status, out, _ = self.run_cli("check", *at)
        self.assertEqual(status, 0)
        self.assertIn("19 pens", out)
        self.assertEqual(self.run_cli("back-up", *at)[0], 0)
        (backup,) = list_backups(self.data)
        (self.data / FILE).write_bytes(b"spoilt" * 1000)
        status, out, err = self.run_cli("check", *at)
        self.assertEqual(status, 2)
        self.assertIn("damaged", out)
        self.assertIn("gray-quill restore", err)
        status, out, _ = self.run_cli("restore", *at)
        self.assertEqual((status, examine(self.data / FILE).state), (0, "damaged"), "a preview changes nothing")
        self.assertIn(backup.name, out)
        with owned(self.data):
            status, _, err = self.run_cli("restore", "newest", *at)
            self.assertEqual(status, 2)
            self.assertIn("Stop it first", err)
        status, out, _ = self.run_cli("restore", backup.name, *at)
        self.assertEqual((status, examine(self.data / FILE).state), (0, "good"))
        aside = next(self.data.glob("*.before-restore-*"))
        self.assertEqual(aside.read_bytes()[:6], b"spoilt")

    def test_going_back_says_first_what_it_would_change_and_keeps_the_present(self) -> None:
        at = ("--data", str(self.data))
        self.assertEqual(self.run_cli("back-up", *at)[0], 0)
        (backup,) = list_backups(self.data)
        with contextlib.closing(connect(self.data)) as db:
            add_pen(db, "later", SHIPPED_PENS["heron-brush"])
        status, out, _ = self.run_cli("restore", backup.name, "--look", *at)
        self.assertEqual(status, 0)
        self.assertIn("goes: pen Heron brush 0.7", out)
        self.assertIn("1 things would be otherwise", out)
        self.assertEqual(examine(self.data / FILE).counts["pens"], 20, "looking changes nothing")
        status, out, _ = self.run_cli("restore", backup.name, *at)
        self.assertEqual((status, examine(self.data / FILE).counts["pens"]), (0, 19))
        self.assertIn(str(list_backups(self.data)[0].path), out, "where the present is kept")
        self.assertEqual(examine(list_backups(self.data)[0].path).counts["pens"], 20)
        for odd in (("restore", "none"), ("restore", "none", "--look"), ("restore", "newest", "--data", "\0")):
            status, _, err = self.run_cli(*odd, *(at if "--data" not in odd else ()))
            self.assertEqual(status, 2, odd)
            self.assertEqual(err.count("Traceback"), 0)

    def test_an_archive_can_be_looked_through_first(self) -> None:
        out, other = str(self.folder / "all.zip"), str(self.folder / "other")
        self.assertEqual(self.run_cli("archive", out, "--data", str(self.data))[0], 0)
        status, told, _ = self.run_cli("bring-in", out, "--look", "--data", other)
        self.assertEqual((status, examine(pathlib.Path(other) / FILE).counts["pens"]), (0, 0))
        self.assertIn("19 pens", told)
        self.assertIn("would come in", told)

    def test_a_reset_beside_a_running_server_is_refused(self) -> None:
        with owned(self.data):
            for command in ("demo --reset", "serve"):
                status, _, err = self.run_cli(*command.split(), "--port", "0", "--data", str(self.data))
                self.assertEqual(status, 2)
                self.assertIn(f"process {os.getpid()}", err)

    def test_the_address_printed_is_the_one_served(self) -> None:
        argv = [sys.executable, "-m", "gray_quill.cli", "serve", "--port", "0", "--data", str(self.data)]
        with subprocess.Popen(argv, stdout=subprocess.PIPE, text=True) as server:
            assert server.stdout is not None
            told = server.stdout.readline()
            server.terminate()
        self.assertRegex(told, r"http://127\.0\.0\.1:[1-9]\d+/")


class Output(CliCase):
    def setUp(self) -> None:
        super().setUp()
        pathlib.Path(self.ink).write_bytes(write_inkml([wave(0.3)]))

    def test_a_full_disk_leaves_no_part_of_a_file_and_the_old_one_as_it_was(self) -> None:
        out = self.folder / "out.svg"
        argv = ("ink", self.ink, "--pen", "fen-fountain", "-o", str(out))
        self.assertEqual(self.run_cli(*argv)[0], 0)
        before = out.read_bytes()

        def full(path: pathlib.Path, data: bytes) -> int:
            with path.open("wb") as file:
                file.write(data[: len(data) // 2])
            raise OSError(28, "No space left on device")

        with mock.patch.object(pathlib.Path, "write_bytes", full):
            status, _, err = self.run_cli(*argv)
        self.assertEqual(status, 2)
        self.assertIn("No space left", err)
        self.assertEqual(out.read_bytes(), before)
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["in.inkml", "out.svg"])

    def test_what_is_written_beside_never_overwrites_the_output(self) -> None:
        for command in (
            "film --device tablet-11 --pen fen-fountain",
            "palm-sim --hand right-firm --device tablet-11 --drill all",
        ):
            out = self.folder / "x.json"
            status, _, err = self.run_cli(*command.split(), "-o", str(out))
            self.assertEqual(status, 2)
            self.assertIn("written beside it", err)
            self.assertFalse(out.exists())

    def test_odd_values_everywhere_end_in_one_line(self) -> None:
        pen, device = ("--pen", "fen-fountain"), ("--device", "tablet-11")
        out = str(self.folder / "o.png")
        for odd in ODD:
            for argv in (
                ("write", "moth", "--hand", "right-firm", *device, "--seed", odd, "-o", out),
                ("write", "moth", "--hand", odd, *device, "-o", out),
                ("read", odd, *pen),
                ("ink", self.ink, *pen, "--dpi", odd, "-o", out),
                ("ink", self.ink, *pen, "-o", odd),
                ("lag", *pen, *device, "--speed", odd),
                ("serve", "--port", odd),
                ("restore", odd, "--data", odd),
                ("check", "--data", odd),
                ("film-read", odd, "--fps", "60", "--mm-per-px", "1"),
                ("palm-proof", "--seeds", odd),
                ("check", "--data", odd or "\x00"),
                (odd,),
            ):
                with self.subTest(argv=[a[:20] for a in argv]), contextlib.chdir(self.folder):
                    status, _, err = self.run_cli(*argv)
                    self.assertEqual(status, 2, err[:200])
                    self.assertEqual(len(err.strip().splitlines()), 1, err[:300])
                    self.assertLess(len(err), 500)
                    self.assertNotIn("Traceback", err)

    def test_who_reads_no_further_is_no_trouble(self) -> None:
        self.assertEqual(main(["lag", "--pen", "fen-fountain", "--device", "tablet-11"]), 0)
        argv = f"{sys.executable} -m gray_quill.cli lag --pen fen-fountain --device tablet-11 | true"
        told = subprocess.run(argv, shell=True, capture_output=True, text=True, timeout=60)
        self.assertNotIn("Traceback", told.stderr)
