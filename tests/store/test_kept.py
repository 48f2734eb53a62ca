"""The reader of kept JSON, for every record that is kept: whatever a row holds, a right record comes of it."""

import copy
import json
import unittest
from collections.abc import Iterator
from typing import Any

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.palm.rules import START, STRICTEST, Rules
from gray_quill.core.palm.zone import Zone
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import read_record, record_json
from gray_quill.store.kept import read_kept, written

KEPT: tuple[tuple[type, Any], ...] = (
    *((Recipe, SHIPPED_PENS[name]) for name in ("fen-fountain", "stitch-reed", "moth-pencil-2b", "dusk-wash")),
    *((Hand, hand) for hand in SHIPPED_HANDS.values()),
    *((Device, device) for device in SHIPPED_DEVICES.values()),
    (Paper, paper_from_spec("dotted 5mm A5 cream")),
    (Rules, START),
    (Rules, STRICTEST),
    (Zone, Zone(10.0, 20.0, 30.0, 40.0)),
)
ODD: tuple[Any, ...] = (None, True, -1, 10**6, 1e300, "", "odd", [], [[]], {}, {"x": 1})
Way = tuple[str, ...]


def ways(data: Any, way: Way = ()) -> Iterator[Way]:
    """To every field, in groups too."""
    for key, value in data.items():
        yield (*way, key)
        if isinstance(value, dict):
            yield from ways(value, (*way, key))


def at(data: Any, way: Way) -> Any:
    for key in way:
        data = data[key]
    return data


class Kept(unittest.TestCase):
    def assert_right(self, record: type, value: Any, words: str) -> None:
        """What was read passes the strict check of what requests send, and is the same once written and read again."""
        read_record(record, record_json(value))
        self.assertEqual(read_kept(record, written(value)), value, words)

    def test_a_field_that_is_missing_leaves_the_others_as_they_were(self) -> None:
        for record, value in KEPT:
            data = record_json(value)
            for way in ways(data):
                short = copy.deepcopy(data)
                del at(short, way[:-1])[way[-1]]
                read: Any = read_kept(record, json.dumps(short))
                self.assert_right(record, read, f"{record.__name__} without {way}")
                back = record_json(read)
                for other in ways(data):
                    if other[: len(way)] != way and way[: len(other)] != other:
                        self.assertEqual(at(back, other), at(data, other), f"{record.__name__} without {way}: {other}")

    def test_a_field_that_no_longer_fits_takes_one_that_does(self) -> None:
        for record, value in KEPT:
            data = record_json(value)
            for way in ways(data):
                for odd in ODD:
                    bent = copy.deepcopy(data)
                    at(bent, way[:-1])[way[-1]] = odd
                    self.assert_right(
                        record, read_kept(record, json.dumps(bent)), f"{record.__name__}: {way} = {odd!r}"
                    )

    def test_fields_of_later_versions_are_passed_over(self) -> None:
        for record, value in KEPT:
            later = record_json(value)
            for group in [later, *(v for v in later.values() if isinstance(v, dict))]:
                group["smell"] = {"of": ["cedar", 3]}
            self.assertEqual(read_kept(record, json.dumps({"version": 99, **later})), value)
