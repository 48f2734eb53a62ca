"""The schemas in docs/formats are what the core declares, and real files are what they say."""

import json
from typing import Any

from jsonschema import Draft202012Validator

from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.archive_zip import MANIFEST, read_archive
from gray_quill.formats.pen_forms import FORMS
from gray_quill.formats.pen_json import write_pen
from gray_quill.formats.shared_pen import TOLD
from tests.web.api_case import ApiCase
from tests.web.test_cabinet_api import PAPER
from tools.make_schemas import FOLDER, schemas, written

SCHEMA_OF = {
    "hands/": "archive-hand",
    "devices/": "archive-device",
    "pens/": "archive-pen",
    "sheets/": "archive-page",
    "trials.json": "archive-runs",
    "palm-settings.json": "archive-palm-settings",
    "press-fits.json": "archive-press-fits",
    "notes.json": "archive-notes",
    MANIFEST: "archive-manifest",
    TOLD: "shared-pen",
}


class Schemas(ApiCase):
    def fits(self, schema: str, value: Any, what: str) -> None:
        fault = next(iter(Draft202012Validator(schemas()[schema]).iter_errors(value)), None)
        self.assertIsNone(fault, f"{what} by {schema}: {fault and fault.message[:200]}")

    def test_the_files_are_the_declarations(self) -> None:
        there = {path.name.removesuffix(".schema.json"): path.read_text() for path in FOLDER.glob("*.schema.json")}
        self.assertEqual(there, {n: written(s) for n, s in schemas().items()}, "run tools/make_schemas.py")
        for schema in schemas().values():
            Draft202012Validator.check_schema(schema)

    def test_an_archive_and_a_shared_pen_are_what_the_schemas_say(self) -> None:
        self.ask("PATCH", "/api/desk", {"papers": [PAPER]})
        self.ask("PUT", "/api/cabinet/thing/note?kind=pen&id=heron-brush", {"note": "for zebras"})
        two = [{"pen_id": "fen-fountain"}, {"pen_id": "reed-ballpoint"}]
        self.ask("POST", "/api/pairs", {"pens": two, "sheet_id": "first-count"})
        job = self.finished(self.ask("POST", "/api/archive/out"))
        whole = bytes(self.client.get(f"/api/exports/{job}/file").data)
        shared = bytes(self.client.get("/api/pens/heron-brush/shared?sheet_id=trap-log").data)
        seen = set()
        for data in (whole, shared):
            files = read_archive(data).files
            for name, content in files.items():
                schema = next((s for start, s in SCHEMA_OF.items() if name.startswith(start)), None)
                if schema:
                    seen.add(schema)
                    self.fits(schema, content, name)
        self.assertLessEqual(set(SCHEMA_OF.values()) - seen, {"archive-manifest"})

    def test_a_schema_can_refuse(self) -> None:
        pen = json.loads(write_pen(SHIPPED_PENS["fen-fountain"]))
        self.fits("pen", pen, "a pen")
        pen["glitter"] = {}
        self.assertFalse(Draft202012Validator(schemas()["pen"]).is_valid(pen))
        cubic = json.loads(FORMS["press-cubic"].write(SHIPPED_PENS["heron-brush"]))
        self.fits("press-cubic", cubic, "a cubic")
        cubic["cubic_bezier"] = [1, 2]
        self.assertFalse(Draft202012Validator(schemas()["press-cubic"]).is_valid(cubic))
