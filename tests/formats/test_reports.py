"""A report written twice: as a page and as PDF it says the same, whatever is in it, and loads nothing."""

import io
import re
import unittest

import numpy as np
import pypdf
import pypdfium2
from hypothesis import given, settings
from hypothesis import strategies as st

from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.faces import without_face
from gray_quill.formats.report_blocks import Block, Heading, Listed, Rows, Standing, Words
from gray_quill.formats.report_html import report_html
from gray_quill.formats.report_pdf import report_pdf

PEN = SHIPPED_PENS["fen-fountain"]
SAID: list[Block] = [
    Heading("Pens & <inks>", 1),
    Words("The “fen” it is; 5 < 6."),
    Heading("What counts"),
    Listed(["written on bare glass.", "with a felt tip."]),
    Rows(("criterion", "reading"), [("little drag", "8.9 ms"), ("thick over thin", "×3.1")]),
    Heading("1. Fen fountain", 3),
    Standing(PEN, 62.0, 55.0, 70.0, [("little drag", 40.0), ("thick over thin", 22.0)]),
]


def words_of(data: bytes) -> str:
    return " ".join(" ".join(p.extract_text().split()) for p in pypdf.PdfReader(io.BytesIO(data)).pages)


class Reports(unittest.TestCase):
    def test_both_say_all_of_it_in_order(self) -> None:
        page, paper = report_html("Pens", SAID).decode(), words_of(report_pdf("Pens", SAID))
        plain = re.sub(r"<style>.*?</style>|<[^>]+>", " ", page)
        for entity, letter in (("&lt;", "<"), ("&gt;", ">"), ("&amp;", "&")):
            plain = plain.replace(entity, letter)
        at = [0, 0]
        for words in ("Pens & <inks>", "The “fen” it is; 5 < 6.", "bare glass", "8.9 ms", "×3.1", "1. Fen fountain"):
            for k, told in enumerate((" ".join(plain.split()), paper)):
                found = told.find(words, at[k])
                self.assertGreaterEqual(found, 0, (k, words))
                at[k] = found
        self.assertEqual(re.findall(r"https?:|<script|<link|@import", re.sub(r"base64,[^\"]*", "", page)), [])

    def test_a_total_is_as_long_on_paper_as_it_is_large(self) -> None:
        """1 mm a point: the interval under the line runs from 55 to 70 mm, the line to 62."""
        for total, low, high in ((62.0, 55.0, 70.0), (20.0, 15.0, 30.0), (97.0, 90.0, 100.0)):
            data = report_pdf("Pens", [Standing(PEN, total, low, high, [("all", total)])])
            scale = 8.0
            picture = pypdfium2.PdfDocument(data)[0].render(scale=scale * 25.4 / 72).to_numpy()[..., :3].astype(int)
            dark = picture.sum(axis=2) < 300
            left = 18 + 6 / 72 * 25.4  # the margin, and what a frame keeps clear
            spans = [np.flatnonzero(row) / scale - left for row in dark]
            ends = [(s[0], s[-1]) for s in spans if len(s)]
            found = any(abs(a - low) < 0.4 and abs(b - high) < 0.4 for a, b in ends)
            self.assertTrue(found, (total, ends[-3:]))

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.text(max_size=300), min_size=1, max_size=6))
    def test_any_words_make_a_file_that_opens(self, words: list[str]) -> None:
        words = [w.encode("utf-8", "ignore").decode() for w in words]
        blocks: list[Block] = [Heading(words[0], 1), *(Words(w) for w in words), Listed(words)]
        blocks.append(Rows(("a", "b"), [(w, w) for w in words]))
        self.assertGreaterEqual(len(pypdf.PdfReader(io.BytesIO(report_pdf("x", blocks))).pages), 1)
        self.assertTrue(report_html("x", blocks).endswith(b"</html>"))

    def test_names_in_other_scripts_show_and_letters_no_face_has_are_said_by_their_numbers(self) -> None:
        names = "Мотылёк ώρα Đêm trăng, Łódź"
        said = words_of(report_pdf("x", [Heading(names, 1), Words(names), Rows(("a",), [(names,)])]))
        self.assertEqual(said.count("Мотылёк ώρα Đêm trăng, Łódź"), 3)
        self.assertNotIn("by their numbers", said)
        self.assertFalse(without_face(names))
        for page in pypdf.PdfReader(io.BytesIO(report_pdf("x", [Words(names)]))).pages:
            for font in page["/Resources"]["/Font"].values():  # type: ignore[index]
                self.assertIn("/FontFile2", font.get_object()["/FontDescriptor"].get_object(), "embedded")
        said = words_of(report_pdf("x", [Words("moth \U00012000")]))
        self.assertIn("moth U+12000", said)
        self.assertIn("by their numbers", said)
