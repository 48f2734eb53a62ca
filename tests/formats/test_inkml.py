"""InkML: round trip, what other writers do, and hostile files."""

import unittest

import numpy as np

from gray_quill.core.errors import FormatError, GrayQuillError, TooLarge
from gray_quill.formats.inkml import read_inkml
from gray_quill.formats.inkml_write import write_inkml
from tests.zoo import zoo

HEAD = '<ink xmlns="http://www.w3.org/2003/InkML">'


def ink(body: str, definitions: str = "") -> bytes:
    return f"<?xml version='1.0'?>{HEAD}{definitions}{body}</ink>".encode()


class RoundTrip(unittest.TestCase):
    def test_written_ink_is_read_back(self) -> None:
        traces = [t for name, t in zoo().items() if name != "ten minutes"]
        back = read_inkml(write_inkml(traces, {"color": '#20"242b', "width": "0.5"}))
        self.assertEqual(len(back), len(traces))
        for one, two in zip(traces, back, strict=True):
            self.assertLess(np.abs(one.xy_mm - two.xy_mm).max(), 0.0001)
            self.assertLess(np.abs(one.force - two.force).max(), 1 / 4096)
            self.assertLess(np.abs(one.t_s - two.t_s).max(), 1e-5)
            self.assertLess(np.abs(one.altitude - two.altitude).max(), 1e-4)


class OtherWriters(unittest.TestCase):
    def test_channels_in_any_order_and_unit(self) -> None:
        fmt = (
            '<definitions><context xml:id="c"><traceFormat><channel name="T" units="ms"/><channel name="F" '
            'min="100" max="300"/>'
            '<channel name="Y" units="cm"/><channel name="X" units="in"/><channel name="OTx" units="deg"/><channel '
            'name="OTy" units="deg"/>'
            "</traceFormat></context></definitions>"
        )
        trace = read_inkml(ink('<trace contextRef="#c">0 100 1 2 45 0, 500 300 1.5 2 0 45</trace>', fmt))[0]
        np.testing.assert_allclose(trace.x_mm, 50.8)
        np.testing.assert_allclose(trace.y_mm, [10, 15])
        np.testing.assert_allclose(trace.force, [0, 1])
        np.testing.assert_allclose(trace.t_s, [0, 0.5])
        np.testing.assert_allclose(trace.altitude, np.pi / 4)
        np.testing.assert_allclose(trace.azimuth, [0, np.pi / 2])

    def test_resolution_of_the_source_current_contexts_and_groups(self) -> None:
        source = (
            '<definitions><inkSource xml:id="s"><traceFormat><channel name="X" type="integer"/><channel name="Y" '
            'type="integer"/></traceFormat>'
            '<channelProperties><channelProperty channel="X" name="resolution" value="1000" units="1/cm"/>'
            '<channelProperty channel="Y" name="resolution" value="1000" units="1/cm"/></channelProperties></inkSource>'
            '<context xml:id="a" inkSourceRef="#s"/></definitions>'
        )
        body = (
            '<traceGroup contextRef="#a"><trace>1000 2000,1100 2000</trace></traceGroup><traceFormat><channel '
            'name="X" units="mm"/><channel name="Y" units="mm"/></traceFormat><trace>3 4</trace>'
        )
        group, after = read_inkml(ink(body, source))
        np.testing.assert_allclose(group.x_mm, [10, 11])
        self.assertEqual((after.x_mm[0], after.y_mm[0]), (3, 4))
        self.assertEqual(group.absent, {"force", "tilt"})

    def test_a_hello_without_a_format_has_its_points(self) -> None:
        text = (
            "10 0, 9 14, 8 28, 7 42, 6 56, 6 70, 8 84, 8 98, 8 112, 9 126, 10 140, 13 154, 14 168, 17 182, 18 "
            "188, 23 174, 30 160"
        )
        trace = read_inkml(ink(f"<trace>{text}</trace>"))[0]
        self.assertEqual(len(trace), 17)
        self.assertAlmostEqual(trace.y_mm[-1], 160 * 25.4 / 96)

    def test_ten_odd_but_legal_forms_decode_to_the_same_line(self) -> None:
        """One line of three points, 10 20, 12 21, 15 23 mm, as ten writers might put it (the Recommendation's sections
        3.1 to 3.3 and 4.1 to 4.4, as read; written for this)."""
        mm = '<channel name="X" units="mm"/><channel name="Y" units="mm"/>'
        form = f"<traceFormat>{mm}</traceFormat>"
        shared = f'<definitions><traceFormat xml:id="f">{mm}</traceFormat>'
        whole = f'<definitions><context xml:id="c"><traceFormat>{mm}</traceFormat></context></definitions>'
        plain = "<trace>10 20, 12 21, 15 23</trace>"
        integers = '<channel name="{}" type="integer" units="mm"/>'
        forms = {
            "line breaks and tabs between values": (form, "<trace>\n\t10\t20 ,\n 12  21,15 23\n</trace>"),
            "first differences": (form, "<trace>10 20, '2'1, '3'2</trace>"),
            "first and second differences": (form, "<trace>!10!20, '2'1, \"1\"1</trace>"),
            "a prefix that stays": (form, "<trace>10 20, '2 '1, 3 2</trace>"),
            "no space before signs and prefixes": (form, "<trace>10 20,'+2'+1,'+3'+2</trace>"),
            "numbers in base sixteen": (
                f"<traceFormat>{integers.format('X')}{integers.format('Y')}</traceFormat>",
                "<trace>#A #14, #C #15, #F #17</trace>",
            ),
            "a format by its name": (
                shared + '<context xml:id="c" traceFormatRef="#f"/></definitions>',
                plain.replace("<trace>", '<trace contextRef="#c">'),
            ),
            "a context for a group in a group": (
                whole,
                f'<traceGroup contextRef="#c"><traceGroup>{plain}</traceGroup></traceGroup>',
            ),
            "a channel that may be left out": (
                f"<traceFormat>{mm}<intermittentChannels>"
                '<channel name="B1" type="boolean" default="F"/></intermittentChannels></traceFormat>',
                "<trace>10 20 T, 12 21, 15 23 F</trace>",
            ),
            "annotations, an empty trace and a view among the ink": (
                form,
                '<annotation type="author">none</annotation><trace xml:id="e"></trace>'
                f'{plain}<traceView traceDataRef="#e"/>',
            ),
        }
        self.assertEqual(len(forms), 10)
        for words, (definitions, body) in forms.items():
            with self.subTest(words):
                (trace,) = read_inkml(ink(body, definitions))
                np.testing.assert_allclose(trace.xy_mm, [(10, 20), (12, 21), (15, 23)], atol=1e-9)


class Hostile(unittest.TestCase):
    def test_each_bad_file_has_its_error(self) -> None:
        deep = "<traceGroup>" * 60 + "</traceGroup>" * 60
        bomb = (
            b"<!DOCTYPE ink [<!ENTITY a 'aaaa'><!ENTITY b '&a;&a;&a;'>]>" + HEAD.encode() + b"<trace>&b;</trace></ink>"
        )
        for data, kind, words in (
            (b"", FormatError, "not well-formed"),
            (b"\xff\xfe\x00garbage", FormatError, "not well-formed"),
            (b"<svg/>", FormatError, "must be <ink>"),
            (ink(""), FormatError, "no <trace>"),
            (ink("<trace>1 2, 3</trace>"), FormatError, "Trace 1, point 2"),
            (ink("<trace>1 2 3</trace>"), FormatError, "point 1"),
            (ink("<trace>1 x2</trace>"), FormatError, "point 1"),
            (ink("<trace>1 2, ? 3</trace>"), FormatError, "leaves out a value"),
            (ink("<trace>1 nan</trace>"), FormatError, "point 1"),
            (ink(deep), TooLarge, "24 deep"),
            (bomb, FormatError, "DTD"),
            (ink("<trace>" + ",".join(["1 2"] * 100_000) + "</trace>"), TooLarge, "60000 is the most"),
            (
                ink(
                    "<trace>1 2,1 3</trace>",
                    '<traceFormat><channel name="X" units="furlong"/><channel name="Y"/></traceFormat>',
                ),
                FormatError,
                "furlong",
            ),
            (
                ink("<trace>1 5,1 3</trace>", '<traceFormat><channel name="X"/><channel name="T"/></traceFormat>'),
                FormatError,
                "no X and Y",
            ),
            (
                ink(
                    "<trace>1 2 5,1 2 3</trace>",
                    '<traceFormat><channel name="X"/><channel name="Y"/><channel name="T"/></traceFormat>',
                ),
                GrayQuillError,
                "backwards",
            ),
            (ink("<trace>1e300 2</trace>"), GrayQuillError, "millimetres on the page"),
            (b"x" * 40_000_001, TooLarge, "20 MB"),
        ):
            with self.subTest(words), self.assertRaisesRegex(kind, words):
                read_inkml(data)
