"""The licence list is the one of what is installed, and the locks pin every file."""

import pathlib
import re
import subprocess
import sys
import unittest

ROOT = pathlib.Path(__file__).parents[2]


class ThirdParty(unittest.TestCase):
    def test_the_list_is_of_what_is_installed(self) -> None:
        made = subprocess.run(
            [sys.executable, ROOT / "tools" / "third_party.py"], capture_output=True, text=True, check=True
        ).stdout
        self.assertEqual((ROOT / "THIRD-PARTY.md").read_text(), made, "make third-party")
        rows = re.findall(r"^\| (\S+) \| (\S+) \| (.+) \|$", made, re.MULTILINE)
        self.assertGreater(len(rows), 40)
        self.assertFalse([r for r in rows if re.search(r"\bA?GPL", r[2]) and "LGPL" not in r[2]])

    def test_every_pinned_package_has_hashes(self) -> None:
        for name in ("requirements.lock", "requirements-dev.lock", "requirements-build.lock"):
            lines = (ROOT / name).read_text()
            entries = re.split(r"^(?=[A-Za-z])", lines, flags=re.MULTILINE)[1:]
            self.assertTrue(entries)
            for entry in entries:
                self.assertRegex(entry, r"(?s)^[A-Za-z0-9._-]+==\S+.*--hash=sha256:[0-9a-f]{64}", name)
