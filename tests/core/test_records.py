"""Recipes, papers, hands and traces: what is taken, what is refused, and in which words."""

import dataclasses
import itertools
import math
import unittest
from typing import Any

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.paper import describe_paper, paper_from_spec
from gray_quill.core.pen.recipe import GROUPS, read_recipe, recipe_fields, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import quantities, read_record, record_json
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.trace import make_trace
from tools.make_fields_doc import DOCS, fields_doc, palm_doc, readings_doc, words_doc


class Recipes(unittest.TestCase):
    def test_every_shipped_record_comes_back_from_its_json(self) -> None:
        for recipe in SHIPPED_PENS.values():
            self.assertEqual(read_recipe(write_recipe(recipe)), recipe)
        for kind, shipped in ((Hand, SHIPPED_HANDS), (Device, SHIPPED_DEVICES)):
            for thing in shipped.values():
                self.assertEqual(read_record(kind, record_json(thing)), thing)

    def test_refusals_name_the_field_and_say_what_is_right(self) -> None:
        for data, field, words in (
            ({"body": {"widht_mm": 1}}, "body.widht_mm", "width_mm"),
            ({"colour": "#123456"}, "colour", "body, ends"),
            ({"body": {"width_mm": 0}}, "body.width_mm", "0.05 to 20 mm"),
            ({"body": {"width_mm": math.nan}}, "body.width_mm", "must be a number"),
            ({"body": {"width_mm": True}}, "body.width_mm", "must be a number"),
            ({"body": {"colour": "red"}}, "body.colour", "#20242b"),
            ({"body": {"line": {"pattern": "wavy"}}}, "body.line.pattern", "solid, dash, dot, dash-dot"),
            ({"body": 3}, "body", "object"),
            ({"press": {"points": [[0, 0], [0.5, 0.6], [0.4, 0.7], [1, 1]]}}, "press.points", "rise"),
            ({"press": {"points": [[0, 0], [0.5, 0.6], [0.7, 0.5], [1, 1]]}}, "press.points", "rise"),
            ({"press": {"points": "abc"}}, "press.points", "pairs"),
            ({"press": {"floor": 0.5, "ceiling": 0.5}}, "press.ceiling", "above press.floor"),
            ({"steady": {"method": "magic"}}, "steady.method", "one-euro"),
            ({"name": ""}, "name", "1 to 60"),
            ({"format": "gray-quill/pen@2"}, "format", "later version"),
            ({"format": "other"}, "format", "gray-quill/pen@1"),
            ([], None, "JSON object"),
        ):
            with self.subTest(data=data), self.assertRaises(GrayQuillError) as caught:
                read_recipe(data)
            self.assertEqual(caught.exception.field, field)
            self.assertIn(words, caught.exception.message)

    def test_every_numeric_field_has_a_range_help_and_a_default_inside(self) -> None:
        for group, record in GROUPS.items():
            for name, q in quantities(record).items():
                self.assertTrue(q.help and q.label, f"{group}.{name}")
                if q.kind == "number":
                    default: Any = next(f.default for f in dataclasses.fields(record) if f.name == name)
                    self.assertTrue(q.low <= default <= q.high, f"{group}.{name}")
        self.assertIn("hollow.wall_mm", {c.name for c in recipe_fields()["body"]})

    def test_the_table_in_the_docs_is_the_declaration(self) -> None:
        docs = {"pen-fields": fields_doc, "palm-rules": palm_doc, "readings": readings_doc, "words": words_doc}
        for name, made in docs.items():
            self.assertEqual((DOCS / f"{name}.md").read_text(), made(), "run tools/make_fields_doc.py")


class Papers(unittest.TestCase):
    def test_words_in_any_order_give_the_sheet(self) -> None:
        for spec, size, ruling, spacing in (
            ("dotted A5", (148, 210), "dotted", 5),
            ("A4 landscape ruled 7mm", (297, 210), "ruled", 7),
            ("letter wide ruled", (215.9, 279.4), "ruled", 8.731),
            ("ruled 9 mm a6 dusk", (105, 148), "ruled", 9),
            ("squared 120x80 #f4f1e8", (120, 80), "squared", 5),
            ("staves 11x14", (279.4, 355.6), "staves", 2),
        ):
            paper = paper_from_spec(spec)
            self.assertEqual(
                ((paper.width_mm, paper.height_mm), paper.ruling, paper.spacing_mm), (size, ruling, spacing), spec
            )
        self.assertEqual(describe_paper(paper_from_spec("ruled 7mm A5 landscape")), "ruled 7 mm A5 landscape")
        with self.assertRaisesRegex(GrayQuillError, "'A9' is not known.*A5"):
            paper_from_spec("dotted A9")

    def test_rules_are_a_spacing_apart_and_on_the_sheet(self) -> None:
        for name in ("ruled 7mm A5", "squared A5", "staves A4", "dotted A5"):
            paper = paper_from_spec(name)
            marks = ruling_marks(paper)
            ys = sorted(
                set(marks.lines[marks.lines[:, 1] == marks.lines[:, 3]][:, 1].tolist() or marks.dots[:, 1].tolist())
            )
            gaps = [round(b - a, 6) for a, b in itertools.pairwise(ys)]
            self.assertEqual(min(gaps), paper.spacing_mm, name)
            self.assertTrue(0 < ys[0] and ys[-1] < paper.height_mm)


class Traces(unittest.TestCase):
    def test_unusable_samples_are_refused_by_name(self) -> None:
        for columns, words in (
            (([], [], []), "at least one sample"),
            (([0, 1], [1], [1, 2]), "x_mm has 1 samples where t_s has 2"),
            (([0, 2, 1], [1, 2, 3], [0, 0, 0]), "backwards at sample 3"),
            (([0, 1], [1, math.nan], [0, 0]), "x_mm is not a finite number at sample 2"),
            (([-1, 1], [1, 2], [0, 0]), "must not be negative"),
            (([0, 1], ["a", 2], [0, 0]), "list of numbers"),
            (([0, 1], [1, 1e6], [0, 0]), "millimetres on the page"),
            (([0, 1e9], [1, 1], [0, 0]), "in seconds"),
        ):
            with self.subTest(words), self.assertRaisesRegex(GrayQuillError, words):
                make_trace(*columns)

    def test_equal_times_merge_and_missing_channels_are_remembered(self) -> None:
        trace = make_trace([5, 5, 6], [1, 2, 3], [0, 0, 0])
        self.assertEqual(trace.x_mm.tolist(), [2, 3])
        self.assertEqual((trace.t_s.tolist(), trace.absent), ([0, 1], frozenset({"force", "tilt"})))
        with self.assertRaises(ValueError):
            trace.x_mm[0] = 9
