"""Every operation that takes a body or a parameter, with such as it cannot use: refused in words, nothing changed."""

import hashlib
import json
from collections.abc import Iterator
from typing import Any

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.store.database import connect
from gray_quill.web.openapi import resolved
from tests.web.api_case import ApiCase, document

# what stands for each part of a path: something that is there
THERE = {
    "sheet_id": "trap-log",
    "pen_id": "fen-fountain",
    "revision": "1",
    "hand_id": "right-firm",
    "device_id": "tablet-11",
    "run_id": "1",
    "job_id": "1",
    "number": "0",
    "frame": "0",
}
BODIES: tuple[tuple[str, bytes], ...] = (
    ("no JSON", b"{"),
    ("a list", b"[]"),
    ("a number", b"3"),
    ("nothing", b""),
    ("null", b"null"),
    ("bytes", b"\xff\xfe\x00"),
    ("deep", b"[" * 500 + b"]" * 500),
    ("a field nobody knows", json.dumps({"smell": "cedar"}).encode()),
)
WRONG: tuple[Any, ...] = ("odd", -1e12, [], [[None]], {"smell": 1}, 1e400)


def kinds(schema: dict[str, Any]) -> set[str]:
    """The types a schema allows."""
    kind = schema.get("type", [])
    return {kind} if isinstance(kind, str) else set(kind)


class Bodies(ApiCase):
    def everything(self) -> str:
        """A fingerprint of all that is kept."""
        db = connect(self.folder)
        try:
            return hashlib.sha256("\n".join(db.iterdump()).encode()).hexdigest()
        finally:
            db.close()

    def operations(self) -> Iterator[tuple[str, str, dict[str, Any]]]:
        for template, methods in document()["paths"].items():
            path = template
            for name, value in THERE.items():
                path = path.replace("{" + name + "}", value)
            for method, operation in methods.items():
                yield method.upper(), path, operation

    def schema(self, operation: dict[str, Any]) -> dict[str, Any] | None:
        """Of the JSON body an operation takes, where it takes one."""
        content = operation.get("requestBody", {}).get("content", {}).get("application/json")
        if content is None:
            return None
        return dict(resolved(document(), content["schema"]))

    def refused(self, method: str, path: str, data: bytes, words: str) -> None:
        reply = self.client.open(path, method=method, data=data, content_type="application/json")
        with self.subTest(operation=f"{method} {path}", body=words):
            self.assertTrue(400 <= reply.status_code < 500, f"{reply.status_code} {reply.data[:200]!r}")
            error = reply.json["error"]
            self.assertTrue(error["message"].strip() and error["code"], error)
            self.assertNotIn("Traceback", error["message"])

    def test_a_body_that_cannot_be_used_is_refused(self) -> None:
        before, tried = self.everything(), 0
        for method, path, operation in self.operations():
            schema = self.schema(operation)
            if schema is None:
                continue
            for words, data in BODIES:
                self.refused(method, path, data, words)
                tried += 1
        self.assertGreater(tried, 150)
        self.assertEqual(self.everything(), before)

    def test_a_field_of_the_wrong_sort_is_refused_by_its_name(self) -> None:
        before, tried = self.everything(), 0
        for method, path, operation in self.operations():
            schema = self.schema(operation)
            for name in (schema or {}).get("properties", {}):
                for wrong in WRONG:
                    self.refused(method, path, json.dumps({name: wrong, "smell": 1}).encode(), f"{name}={wrong!r}")
                    tried += 1
        self.assertGreater(tried, 500)
        self.assertEqual(self.everything(), before)

    def test_what_is_not_there_is_said_by_name(self) -> None:
        before = self.everything()
        for template, methods in document()["paths"].items():
            if "{" not in template:
                continue
            path = template
            for name in THERE:
                path = path.replace("{" + name + "}", "999999" if name in ("revision", "number", "frame") else "ghost")
            for method in methods:
                with self.subTest(operation=f"{method} {path}"):
                    reply = self.client.open(path, method=method.upper(), json={})
                    self.assertTrue(400 <= reply.status_code < 500, f"{reply.status_code} {reply.data[:200]!r}")
                    self.assertTrue(reply.json["error"]["message"])
        self.assertEqual(self.everything(), before)

    def test_a_fit_for_nobody_is_refused(self) -> None:
        """Whose pair is not there, though the body is right."""
        press = write_recipe(SHIPPED_PENS["fen-fountain"])["press"]
        for hand, device in (("ghost", "tablet-11"), ("right-firm", "ghost")):
            reply = self.ask("PUT", "/api/pen/fits", {"hand_id": hand, "device_id": device, "press": press})
            self.assertEqual(reply.status_code, 404, reply.data)
            self.assertIn("'ghost'", reply.json["error"]["message"])

    def test_a_question_with_odd_parameters_is_refused(self) -> None:
        tried = 0
        for method, path, operation in self.operations():
            for p in (resolved(document(), p) for p in operation.get("parameters", [])):
                if p["in"] != "query" or not {"number", "integer", "boolean"} & kinds(p["schema"]):
                    continue
                for odd in ("odd", "nan", "1e400", "--1"):
                    reply = self.client.open(f"{path}?{p['name']}={odd}", method=method, data=b"x")
                    with self.subTest(operation=f"{method} {path}", parameter=p["name"], value=odd):
                        self.assertTrue(400 <= reply.status_code < 500, f"{reply.status_code} {reply.data[:200]!r}")
                    tried += 1
        self.assertGreater(tried, 30)
