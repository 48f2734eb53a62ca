"""What tests of the API share: a demo database, and replies checked against the OpenAPI document."""

import functools
import json
import pathlib
import shutil
import tempfile
import unittest
from typing import Any

from flask import Flask
from jsonschema import Draft202012Validator
from referencing import Registry, Resource
from referencing.jsonschema import DRAFT202012

from gray_quill.store.database import connect
from gray_quill.store.strokes import Stroke, list_strokes
from gray_quill.web.app import create_app
from gray_quill.web.openapi import openapi_document, resolved
from tests.browser.driver import demo_folder

STROKE = {
    "id": "one",
    "pen_id": "fen-fountain",
    "revision": 1,
    "t_ms": [0, 10, 20],
    "x_mm": [10, 11, 12],
    "y_mm": [20, 20, 21],
    "force": [0.2, 0.5, 0.4],
}


@functools.cache
def document() -> Any:
    """The OpenAPI document, as it is sent."""
    return json.loads(json.dumps(openapi_document()))


@functools.cache
def against(reference: str) -> Draft202012Validator:
    """What checks things against a schema of the document, named by its place there."""
    resource = Resource.from_contents(document(), default_specification=DRAFT202012)
    return Draft202012Validator({"$ref": "urn:api" + reference}, registry=Registry().with_resource("urn:api", resource))


def checker(method: str, template: str, status: str) -> Draft202012Validator:
    """What checks the JSON replies of an operation."""
    responses = document()["paths"][template][method.lower()]["responses"]
    schema = resolved(document(), responses[status])["content"]["application/json"]["schema"]
    return against(schema["$ref"])


class ApiCase(unittest.TestCase):
    folder: pathlib.Path
    app: Flask

    @classmethod
    def setUpClass(cls) -> None:
        temporary = tempfile.TemporaryDirectory()
        cls.addClassCleanup(temporary.cleanup)
        cls.folder = pathlib.Path(temporary.name)
        shutil.copytree(demo_folder(), cls.folder, dirs_exist_ok=True)
        cls.app = create_app(cls.folder)

    def setUp(self) -> None:
        self.client = self.app.test_client()

    def strokes(self, sheet: str) -> list[Stroke]:
        db = connect(self.folder)
        try:
            return list_strokes(db, sheet)
        finally:
            db.close()

    def ask(self, method: str, path: str, body: object = None, **more: Any):  # type: ignore[no-untyped-def]
        """The reply, checked against the OpenAPI document."""
        reply = self.client.open(path, method=method, json=body, **more)
        if reply.mimetype == "application/json" and "/file" not in path:
            self.check(method, path.split("?")[0], reply)
        return reply

    def finished(self, started: Any) -> str:
        """The id of a task that was started, once it is done."""
        return self.ended_job(started.get_json()["id"])

    def ended_job(self, job_id: str) -> str:
        """The same of a task by its id."""
        self.client.get(f"/api/jobs/{job_id}/events").get_data()  # its states, until it ends
        job = self.ask("GET", f"/api/jobs/{job_id}").get_json()
        self.assertEqual(job["state"], "done", job)
        return str(job["id"])

    def check(self, method: str, path: str, reply) -> None:  # type: ignore[no-untyped-def]
        asked = path.split("/")
        fitting = [
            p
            for p, methods in document()["paths"].items()
            if len(p.split("/")) == len(asked)
            and method.lower() in methods
            and all(a == b or a.startswith("{") for a, b in zip(p.split("/"), asked, strict=True))
        ]
        template = min(fitting, key=lambda p: p.count("{"))
        status = str(reply.status_code) if reply.status_code < 400 else "4XX"
        checker(method, template, status).validate(reply.json)
