"""Contact streams as CSV and their truth: back as they were, and refused when they are not what they claim to be."""

import json
import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import simulate
from gray_quill.formats.contacts_csv import MOST_BYTES, read_contacts, write_contacts
from gray_quill.formats.palm_json import read_truth, truth_json


class ContactFiles(unittest.TestCase):
    def test_streams_come_back_to_a_thousandth(self) -> None:
        for device in ("tablet-11", "clamshell-11"):
            stream, truth = simulate(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES[device], "two-finger zoom", 2)
            data = write_contacts(stream.events)
            back = read_contacts(data)
            self.assertEqual(len(back), len(stream.events))
            for a, b in zip(back, stream.events, strict=True):
                self.assertEqual((a.pointer, a.id, a.phase), (b.pointer, b.id, b.phase))
                for name, near in (("t_ms", 6e-4), ("x_mm", 6e-5), ("y_mm", 6e-5), ("width_mm", 6e-4), ("force", 6e-6)):
                    self.assertAlmostEqual(getattr(a, name), getattr(b, name), delta=near)
            self.assertEqual(write_contacts(back), data, "once rounded it repeats to the byte")
            size, read = read_truth(json.dumps(truth_json(stream, truth)).encode())
            self.assertEqual((size, read), ((stream.width_mm, stream.height_mm), truth))

    def test_columns_in_any_order_and_without_what_was_not_given(self) -> None:
        text = "phase, id, pointer, t_ms, y_mm, x_mm\ndown, 4, touch, 0, 2, 1\nup, 4, touch, 9, 2, 1.5\n"
        found = read_contacts("\ufeff".encode() + text.encode())
        self.assertEqual(
            [(e.phase, e.id, e.x_mm, e.y_mm, e.size_mm) for e in found], [("down", 4, 1, 2, 0), ("up", 4, 1.5, 2, 0)]
        )

    def test_what_is_no_such_file_is_refused(self) -> None:
        head = b"t_ms,pointer,id,phase,x_mm,y_mm\n"
        for data, why in (
            (b"\xff\xfe\x00", "UTF-8"),
            (b"a,b\n", "columns t_ms, pointer"),
            (head + b"0,touch,1,hover,5,5\n", "Line 2: touch hover"),
            (head + b"0,touch,one,down,5,5\n", "Line 2 holds"),
            (head + b"0,touch,1,down,5\n", "Line 2 holds"),
            (head + b'0,touch,1,down,5,"5' + b"x" * 200_000 + b"\n", "not CSV"),
        ):
            with self.assertRaisesRegex(FormatError, why):
                read_contacts(data)
        with self.assertRaisesRegex(TooLarge, "over 20 MB"):
            read_contacts(b"0" * (MOST_BYTES + 1))
        for data in (
            b"[]",
            b"{",
            b'{"screen_mm": [1, 2], "contacts": [], "gestures": []}',
            b'{"screen_mm": [9, 9], "contacts": {}, "gestures": [{"kind": "wave", "ids": []}]}',
        ):
            with self.assertRaises(FormatError):
                read_truth(data)
