"""Writes the JSON schemas of docs/formats/ from the declarations in the core. Run as `.venv/bin/python
tools/make_schemas.py`.
"""

import json
import pathlib
from typing import Any

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.rules import Rules
from gray_quill.core.paper import Paper
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import GROUPS, recipe_schema
from gray_quill.core.quantities import record_schema
from gray_quill.core.readings.ink_readings import Readings
from gray_quill.core.readings.reading import readings_of
from gray_quill.formats.archive_zip import FORMAT as ARCHIVE
from gray_quill.formats.archive_zip import VERSION
from gray_quill.formats.pen_forms import CUBIC
from gray_quill.formats.shared_pen import FORMAT as SHARED

FOLDER = pathlib.Path(__file__).parents[1] / "docs" / "formats"
DIALECT = "https://json-schema.org/draft/2020-12/schema"
Schema = dict[str, Any]
TEXT: Schema = {"type": "string"}
WHEN: Schema = {"type": ["string", "null"], "description": "ISO 8601, UTC"}
NUMBERS: Schema = {"type": "array", "items": {"type": "number"}}
TOLD: Schema = {"type": ["array", "null"], "items": {"type": "number"}, "description": "null where it was not reported"}
TRACE: Schema = {
    "type": "object",
    "required": ["t_s", "x_mm", "y_mm", "force", "altitude", "azimuth"],
    "properties": {
        **dict.fromkeys(("t_s", "x_mm", "y_mm"), NUMBERS),
        **dict.fromkeys(("force", "altitude", "azimuth"), TOLD),
        "begun_s": {"type": "number", "description": "seconds since 1970"},
    },
    "additionalProperties": False,
}


def kept(record: type) -> Schema:
    """A record as rows keep it: with the version that wrote it, and without what it did not know of."""
    schema = record_schema(record)
    return {**schema, "properties": {"version": {"type": "integer"}, **schema["properties"]}}


def row(what: str, properties: Schema, required: list[str]) -> Schema:
    return {"description": what, "type": "object", "required": required, "properties": properties}


def kept_recipe() -> Schema:
    schema = {k: v for k, v in recipe_schema().items() if not k.startswith("$")}
    return {**schema, "properties": {"version": {"type": "integer"}, **schema["properties"]}}


def schemas() -> dict[str, Schema]:
    """By the name of the file."""
    dated = {"created_at": WHEN, "binned_at": WHEN}
    revision = {"pen_id": TEXT, "revision": {"type": "integer"}, "recipe": kept_recipe(), "note": TEXT} | dated
    readings = {name: {"type": ["number", "null"], "description": r.help} for name, r in readings_of(Readings).items()}
    seen = {"type": "object", "properties": readings}
    stroke = {
        "id": TEXT,
        "pen_id": TEXT,
        "revision": {"type": "integer", "description": "of its pen; under 0 a draft that was not kept"},
        "trace": {"anyOf": [TRACE, {"const": {}}, {"type": "string", "contentEncoding": "base64"}]},
        "trace_of": {
            "type": ["string", "null"],
            "description": "the stroke whose trace it shows, with none of its own",
        },
        "showing": {"type": ["object", "null"], "description": "how it lies on the page"},
    }
    page = {
        "id": TEXT,
        "sheaf": {**TEXT, "description": "what the pages of a sheet have in common"},
        "name": TEXT,
        "note": TEXT,
        "paper": kept(Paper),
        "hand_id": TEXT,
        "device_id": TEXT,
        "pen_id": TEXT,
        "place": {"type": "integer"},
    } | dated
    found = {
        "pen": recipe_schema(),
        "hand": record_schema(Hand),
        "device": record_schema(Device),
        "archive-manifest": row(
            "manifest.json of an archive",
            {
                "format": {"const": ARCHIVE},
                "version": {"type": "integer", "minimum": 1, "maximum": VERSION},
                "app": TEXT,
                "files": {
                    "type": "object",
                    "additionalProperties": row(
                        "a file", {"sha256": TEXT, "bytes": {"type": "integer"}}, ["sha256", "bytes"]
                    ),
                },
            },
            ["format", "version", "app", "files"],
        ),
        "archive-pen": row(
            "pens/ID.json",
            {
                "pen": row("the pen", {"id": TEXT, "roll_place": {"type": ["integer", "null"]}, **dated}, ["id"]),
                "revisions": {"type": "array", "items": row("a revision", revision, ["revision", "recipe"])},
            },
            ["pen", "revisions"],
        ),
        "archive-hand": row("hands/ID.json", {"id": TEXT, "record": kept(Hand), **dated}, ["id", "record"]),
        "archive-device": row("devices/ID.json", {"id": TEXT, "record": kept(Device), **dated}, ["id", "record"]),
        "archive-page": row(
            "sheets/ID.json",
            {
                "page": row("paper, names and whose it is", page, ["id", "sheaf", "paper", "hand_id", "device_id"]),
                "strokes": {"type": "array", "items": row("a stroke", stroke, ["id", "pen_id", "revision", "trace"])},
                "steps": {"type": ["object", "null"], "description": "of undo"},
            },
            ["page", "strokes"],
        ),
        "archive-runs": {
            "description": "trials.json: runs of Lag and Palm, line-ups, judged pairs",
            "type": "array",
            "items": row(
                "a run",
                {
                    "id": TEXT,
                    "kind": {"enum": ["lag", "palm", "lineup", "pairs"]},
                    "hand_id": TEXT,
                    "device_id": TEXT,
                    "inputs": {"type": "object"},
                    "results": {"type": "object"},
                    "verdict": TEXT,
                    **dated,
                },
                ["id", "kind", "inputs", "results"],
            ),
        },
        "archive-palm-settings": {
            "description": "palm-settings.json: rules of a hand on a device",
            "type": "array",
            "items": row("rules", {"hand_id": TEXT, "device_id": TEXT, "rules": kept(Rules)}, ["rules"]),
        },
        "archive-press-fits": {
            "description": "press-fits.json: press curves of a hand on a device",
            "type": "array",
            "items": row("a fit", {"hand_id": TEXT, "device_id": TEXT, "press": kept(Press)}, ["press"]),
        },
        "archive-notes": {
            "description": "notes.json: what is written on things",
            "type": "array",
            "items": row("a note", {"kind": TEXT, "id": TEXT, "note": TEXT}, ["kind", "id", "note"]),
        },
        "shared-pen": row(
            "share/told.json: what the owner of a shared pen saw of it",
            {
                "format": {"const": SHARED},
                "app": TEXT,
                "pen": TEXT,
                "revision": {"type": "integer"},
                "hand": record_schema(Hand),
                "device": record_schema(Device),
                "line": {"type": "array", "items": TRACE},
                "readings": seen,
                "standard": {"type": "object", "additionalProperties": seen},
            },
            ["format", "pen", "revision", "hand", "device", "line", "readings", "standard"],
        ),
        "press-cubic": row(
            "a press curve as cubic-bezier(x1, y1, x2, y2) of CSS Easing Functions Level 1, between floor and ceiling",
            {
                "format": {"const": CUBIC},
                "floor": {"type": "number"},
                "ceiling": {"type": "number"},
                "cubic_bezier": {**NUMBERS, "minItems": 4, "maxItems": 4},
                "largest_error": {"type": "number", "description": "share of the pen's range"},
            },
            ["format", "floor", "ceiling", "cubic_bezier"],
        ),
    }
    assert set(GROUPS) <= set(found["pen"]["properties"])
    return {name: {"$schema": DIALECT, "title": name, **schema} for name, schema in found.items()}


def written(schema: Schema) -> str:
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name, schema in schemas().items():
        (FOLDER / f"{name}.schema.json").write_text(written(schema))
