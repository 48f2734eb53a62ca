"""Arrows of import point one way: web -> store, formats, core; store and formats -> core; core -> numpy, scipy, numba,
shapely.
"""

import ast
import pathlib
import sys
import unittest

import gray_quill

ROOT = pathlib.Path(gray_quill.__file__).parent
OURS = {
    "core": {"core"},
    "formats": {"core", "formats"},
    "store": {"core", "store"},
    "demo": {"core", "formats", "store", "demo"},
    "web": {"core", "formats", "store", "web"},
}
# the rooms of the core, each of which may ask those before it
CHAIN = ("hand", "digitiser", "pen", "ink", "panel", "readings", "advice")
TRIALS = ("lag", "palm", "wash", "shading", "screen")  # stand on the whole chain, never on each other
COMPARES = "lineup"  # asks the trials too
TOP = "catalogue"  # lists what all of them declare
GROUND = {
    "errors": set(),
    "units": set(),
    "generated": set(),
    "arrays": set(),
    "angles": {"arrays"},
    "curves": {"arrays"},
    "percentiles": {"arrays"},
    "quantities": {"errors"},
    "colour": {"arrays", "errors"},
    "trace": {"arrays", "angles", "errors"},
    "paper": {"colour", "errors", "quantities"},
    "rulings": {"arrays", "errors", "paper"},
}
CORE_MAY = {"numpy", "scipy", "numba", "shapely"}
CORE_MAY_NOT = {"os", "pathlib", "io", "sqlite3", "time", "datetime", "subprocess", "socket", "urllib", "json"}


def imported(path: pathlib.Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


class Imports(unittest.TestCase):
    def test_each_part_imports_only_what_lies_below_it(self) -> None:
        for part, may in OURS.items():
            for path in (ROOT / part).rglob("*.py"):
                for name in imported(path):
                    if name.startswith("gray_quill."):
                        self.assertIn(name.split(".")[1], may, f"{path} imports {name}")

    def test_in_the_core_arrows_point_back_along_the_chain(self) -> None:
        may = {**GROUND, **{room: {*GROUND, *CHAIN[:k]} for k, room in enumerate(CHAIN)}}
        may |= {trial: {*GROUND, *CHAIN} for trial in TRIALS} | {
            COMPARES: {*GROUND, *CHAIN, *TRIALS},
            TOP: {*GROUND, *CHAIN, *TRIALS, COMPARES},
        }
        rooms = {
            path.stem for path in (ROOT / "core").iterdir() if path.suffix == ".py" or (path / "__init__.py").exists()
        }
        self.assertEqual(rooms - {"__init__"}, set(may), "every room has its place")
        for path in (ROOT / "core").rglob("*.py"):
            room = path.relative_to(ROOT / "core").with_suffix("").parts[0]
            for name in imported(path):
                if name.startswith("gray_quill.core.") and name.split(".")[2] != room:
                    self.assertIn(name.split(".")[2], may[room], f"{path} imports {name}")

    def test_the_core_has_no_files_no_clock_and_few_libraries(self) -> None:
        for path in (ROOT / "core").rglob("*.py"):
            for name in {n.split(".")[0] for n in imported(path)} - {"gray_quill"}:
                self.assertNotIn(name, CORE_MAY_NOT, path)
                self.assertTrue(name in CORE_MAY or name in sys.stdlib_module_names, f"{path} imports {name}")
