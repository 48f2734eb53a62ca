"""The wheel, installed where there is neither Node nor a network: it carries its screens and keeps its data where the
user's data belongs.
"""

import os
import pathlib
import re
import subprocess
import sys
import tempfile
import unittest
import urllib.request
import zipfile

ROOT = pathlib.Path(__file__).parents[2]


class Wheel(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.place = pathlib.Path(temporary.name)
        found = list((ROOT / "build").glob("gray_quill-*.whl"))
        self.assertEqual(len(found), 1, "make wheel")
        self.wheel = found[0]

    def test_it_carries_screens_licences_and_migrations(self) -> None:
        names = zipfile.ZipFile(self.wheel).namelist()
        for wanted in (r"gray_quill/screens/index\.html", r"screens/assets/literata-LICENSE\.txt", r"THIRD-PARTY\.md"):
            self.assertTrue(any(re.search(wanted, n) for n in names), wanted)
        kept = [n for n in names if n.startswith("gray_quill/store/migrations/")]
        self.assertEqual(len(kept), len(list((ROOT / "src/gray_quill/store/migrations").glob("*.sql"))))
        self.assertFalse([n for n in names if n.endswith((".nbi", ".pyc")) or "/tests/" in n])

    def test_installed_in_an_empty_environment_the_demo_runs_from_anywhere(self) -> None:
        home, python = self.place / "home", self.place / "env" / "bin" / "python"
        home.mkdir()
        clean = {"PATH": str(self.place / "env" / "bin"), "HOME": str(home), "PYTHONUNBUFFERED": "1"}
        subprocess.run([sys.executable, "-m", "venv", "--without-pip", self.place / "env"], check=True)
        pip = [sys.executable, "-m", "pip", "--python", str(python), "install", "-q", "--no-compile", "--no-index"]
        outside = {"PIP_CONFIG_FILE": os.devnull, "PATH": clean["PATH"], "HOME": str(home)}
        subprocess.run([*pip, "--find-links", ROOT / ".wheels", self.wheel], check=True, env=outside, timeout=300)
        with subprocess.Popen(
            [self.place / "env" / "bin" / "gray-quill", "demo", "--port", "0"],
            env=clean,
            cwd=home,
            stdout=subprocess.PIPE,
            text=True,
        ) as demo:
            try:
                assert demo.stdout is not None
                address = re.search(r"http://127\.0\.0\.1:\d+/", demo.stdout.readline())
                assert address is not None
                page = urllib.request.urlopen(address[0], timeout=60).read().decode()
                script = re.search(r'src="/(assets/[^"]+\.js)"', page)
                assert script is not None
                self.assertGreater(len(urllib.request.urlopen(address[0] + script[1], timeout=60).read()), 10_000)
                self.assertIn(b"trap-log", urllib.request.urlopen(address[0] + "api/desk", timeout=60).read())
            finally:
                demo.kill()
        self.assertTrue((home / ".local/share/gray-quill/gray-quill.db").is_file(), "data where the user's data is")
