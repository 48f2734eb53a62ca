"""Arrows of import point one way: web -> store, formats, core; store and formats -> core; core -> numpy, scipy, numba,
shapely.
"""

import ast
import importlib
import pathlib
import sys
import unittest

import gray_quill
from gray_quill.formats.sandbox import READERS

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
TRIALS = ("latency", "palm", "highlighter", "shading", "screen")  # stand on the whole chain, never on each other
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


# what opens files from outside, and the only modules of the product that may call it
OPENERS = {
    "defusedxml": {"formats/xml_in.py"},
    "xml.etree": {"formats/xml_in.py", "formats/svg_drawn.py", "formats/svg_in.py", "formats/inkml.py"}
    | {"formats/openraster_in.py"},
    "svgelements": {"formats/svg_in.py"},
    "resvg_py": {"formats/svg_drawn.py"},
    "pypdfium2": {"formats/pdf_in.py", "formats/pdf_out.py"},
    "pypdf": {"formats/pdf_in.py", "formats/pdf_out.py", "formats/pdf_cut.py", "formats/pdf_notes.py"},
    "csv": {"formats/lineup_report.py", "formats/strokes_csv.py", "formats/contacts_csv.py", "formats/pen_forms.py"},
}
CALLS = {
    "json.loads": {"formats/plain_json.py", "formats/sandbox.py", "formats/pictures.py", "formats/picture_child.py"},
    "json.load": set[str](),
    "pickle.loads": {"formats/sandbox_child.py"},  # of the server's own words
    "Image.open": {"formats/picture_in.py", "formats/png.py", "formats/svg_drawn.py"},
    "ElementTree.fromstring": set[str](),
    "ElementTree.parse": set[str](),
    "ElementTree.XML": set[str](),
}
# of these only records and writers go to web and store; what reads is called by the sandbox (and the command line)
READ_IN_THE_SANDBOX = {f"gray_quill.formats.{reader.module}" for reader in READERS.values()} | {
    f"gray_quill.formats.{name}" for name in ("xml_in", "zip_in", "svg_drawn", "pdf_out", "pdf_cut")
}
OWN_WORDS = {"read_contacts", "read_truth"}  # of what was told, which the database keeps
OWN_JSON = {"web/certificates.py"}


class OneDoor(unittest.TestCase):
    """Whatever comes from outside is opened by the sandbox."""

    def test_only_readers_of_the_sandbox_open_what_comes_from_outside(self) -> None:
        for path in ROOT.rglob("*.py"):
            place = path.relative_to(ROOT).as_posix()
            tree = ast.parse(path.read_text())
            for name in imported(path):
                for library, may in OPENERS.items():
                    if name == library or name.startswith(library + "."):
                        self.assertIn(place, may, f"{place} opens files with {library}")
            for node in ast.walk(tree):
                call = ast.unparse(node.func) if isinstance(node, ast.Call) else ""
                if place.split("/")[0] in ("store", "cli_lineup.py") or place in OWN_JSON:
                    continue  # rows of our own database, files of our own folder
                for name, may in CALLS.items():
                    self.assertFalse(call == name and place not in may, f"{place} calls {name}")
                if call == "zipfile.ZipFile" and place != "formats/zip_in.py":
                    self.assertGreater(len(node.args), 1, f"{place} opens a zip")  # type: ignore[attr-defined]
                    self.assertEqual(ast.literal_eval(node.args[1]), "w", f"{place} opens a zip")  # type: ignore[attr-defined]

    def test_the_server_calls_no_reader_itself(self) -> None:
        for part in ("web", "store"):
            for path in (ROOT / part).rglob("*.py"):
                for node in ast.walk(ast.parse(path.read_text())):
                    if isinstance(node, ast.ImportFrom) and node.module in READ_IN_THE_SANDBOX:
                        called = {a.name for a in node.names if a.name.startswith(("read", "look", "open"))}
                        self.assertEqual(called - OWN_WORDS, set(), path)

    def test_every_reader_is_there(self) -> None:
        for reader in READERS.values():
            module = importlib.import_module(f"gray_quill.formats.{reader.module}")
            self.assertTrue(callable(getattr(module, reader.function)))
