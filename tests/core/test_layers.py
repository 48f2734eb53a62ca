"""Layers: what they do to the picture, against Pillow's blends and against drawing flat."""

import dataclasses
import unittest

import numpy as np
import pypdfium2
from PIL import Image, ImageChops

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import text_intents
from gray_quill.core.ink.layer import Layer, Placed
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.view import View, page_view
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.words import words
from gray_quill.core.trace import Trace, moved
from gray_quill.formats.export import export_sheet
from tests.zoo import wave

VIEW = View(0, 0, 8, 640, 480)
PAPER = Paper(ruling="blank", colour="#e8dcc4")
MARKER = read_recipe({"kind": "marker", "body": {"width_mm": 3, "colour": "#5d7d9a"}})


def strokes(pen: str = "survey-marker", n: int = 4) -> list[Ink]:
    return [settle(moved(wave(), 0, 4.0 * k), SHIPPED_PENS[pen]) for k in range(n)]


def on(inks: list[Ink], place: int, **how: object) -> list[Ink]:
    layer = Layer(f"layer{place}", f"layer {place}", **how)  # type: ignore[arg-type]
    return [ink.on_layer(Placed(layer, place)) for ink in inks]


class Layers(unittest.TestCase):
    def test_plain_layers_are_drawn_as_if_there_were_none(self) -> None:
        below, above = strokes("fen-fountain"), strokes("survey-marker")
        flat = page_pixels(below + above, PAPER, VIEW)
        np.testing.assert_array_equal(page_pixels(on(above, 1) + on(below, 0), PAPER, VIEW), flat)
        self.assertFalse(np.array_equal(page_pixels(above + below, PAPER, VIEW), flat), "order matters here")

    def test_a_layer_taken_elsewhere_and_back_is_what_it_was(self) -> None:
        ink = strokes()[0]
        there = ink.on_layer(Placed(Layer("a", "a"), 1))
        self.assertEqual((there.box_mm, there.shape), (ink.box_mm, ink.shape))
        np.testing.assert_array_equal(ink_pixels([there.on_layer(None)], VIEW), ink_pixels([ink], VIEW))

    def test_opacity_thins_the_layer_as_a_whole(self) -> None:
        """Strokes that cross inside it do not darken where they cross; where plain strokes of half opacity do."""
        crossing = [settle(wave(), MARKER), settle(moved(wave(), 1, 1.5), MARKER)]
        page = ink_pixels(on(crossing, 0, opacity=0.5), VIEW)[..., 3] / 255
        solid = ink_pixels(crossing, VIEW)[..., 3] / 255
        np.testing.assert_allclose(page, solid / 2, atol=0.004)
        half = dataclasses.replace(MARKER, body=dataclasses.replace(MARKER.body, opacity=0.5))
        apart = [settle(wave(), half), settle(moved(wave(), 1, 1.5), half)]
        self.assertGreater(ink_pixels(apart, VIEW)[..., 3].max() / 255, 0.7)

    def test_blends_are_pillows(self) -> None:
        below, above = strokes("survey-marker"), [settle(moved(wave(), 0, 6), MARKER)]
        ground = page_pixels(below, PAPER, VIEW)
        layer = ink_pixels(above, VIEW)
        for blend, mixed in (("multiply", ImageChops.multiply), ("screen", ImageChops.screen)):
            found = page_pixels(below + on(above, 1, blend=blend, opacity=0.8), PAPER, VIEW).astype(float)
            full = np.asarray(mixed(Image.fromarray(ground), Image.fromarray(layer[..., :3].copy())), float)
            alpha = layer[..., 3:] / 255 * 0.8
            np.testing.assert_allclose(found, ground + (full - ground) * alpha, atol=2, err_msg=blend)

    def test_a_clipped_layer_shows_only_on_ink(self) -> None:
        lines, shade = strokes("fen-fountain"), [settle(moved(wave(), 0, y), MARKER) for y in np.arange(-4, 20, 2.0)]
        page = ink_pixels(on(lines, 0) + on(shade, 1, clipped=True), VIEW)
        there = ink_pixels(lines, VIEW)[..., 3]
        self.assertLessEqual(int(page[there == 0, 3].max()), 1)
        full = (there == 255) & (ink_pixels(shade, VIEW)[..., 3] == 255)
        self.assertGreater(int(full.sum()), 300)
        self.assertTrue((page[full, :3] == (0x5D, 0x7D, 0x9A)).all())
        alone = on(shade, 1, clipped=True)
        self.assertEqual(int(ink_pixels(alone, VIEW)[..., 3].max()), 0, "nothing below, nothing shown")

    def test_files_show_layers_as_the_page_does(self) -> None:
        paper = paper_from_spec("blank A6 white")
        shade = [settle(moved(wave(), 0, -22 + k), MARKER) for k in range(4)]
        lines = [settle(moved(wave(), 0, -24), SHIPPED_PENS["fen-fountain"])]
        inks = on(lines, 0) + on(shade, 1, opacity=0.6, blend="multiply")
        raster = page_pixels(inks, paper, page_view(paper, 144)).astype(float)
        page = pypdfium2.PdfDocument(export_sheet(inks, paper, "pdf", 144, True))[0]
        shown = np.asarray(page.render(scale=2).to_pil().convert("RGB"), float)[: raster.shape[0], : raster.shape[1]]
        apart = np.abs(shown - raster[: shown.shape[0], : shown.shape[1]]).max(axis=2) / 255
        self.assertLess(float((apart > 0.15).mean()), 0.005)
        text = export_sheet(inks, paper, "svg", 144, True).decode()
        self.assertEqual((text.count("<image"), text.count("mix-blend-mode:multiply")), (1, 1))


class Words(unittest.TestCase):
    def test_words_of_every_hand_are_told_apart(self) -> None:
        """Nine in ten and more of the words of hands and seeds nothing was tuned on, written one x-height apart."""
        text = "lamp trap wings nine fen moth sedge count dark bars pale and the hollow".split()
        for name, hand in SHIPPED_HANDS.items():
            right = total = 0
            for seed in (71, 72):
                traces, truth = self.written(text, seed, dataclasses.replace(hand, x_height_mm=3.1))
                found = words(traces)
                for k in range(len(text)):
                    mine = {found[i] for i, word in enumerate(truth) if word == k}
                    others = {found[i] for i, word in enumerate(truth) if word != k}
                    right, total = right + (len(mine) == 1 and not mine & others), total + 1
            self.assertGreaterEqual(right / total, 0.9, name)

    def test_what_was_written_much_later_is_another_word(self) -> None:
        first = dataclasses.replace(wave(), begun_s=0.0)
        self.assertEqual(len(set(words([first, dataclasses.replace(moved(wave(), 0, 0.5), begun_s=3.0)]))), 1)
        self.assertEqual(len(set(words([first, dataclasses.replace(moved(wave(), 0, 0.5), begun_s=300.0)]))), 2)

    def written(self, text: list[str], seed: int, hand) -> tuple[list[Trace], list[int]]:  # type: ignore[no-untyped-def]
        rng = np.random.default_rng(seed)
        traces: list[Trace] = []
        truth: list[int] = []
        x, y = 15.0, 25.0
        for k, word in enumerate(text):
            strokes = write_intents(text_intents(word, hand, x, y, 300, rng), hand, SHIPPED_DEVICES["tablet-11"], rng)
            traces, truth = traces + strokes, truth + [k] * len(strokes)
            x = max(float(t.x_mm.max()) for t in strokes) + hand.x_height_mm
            if x > 110:
                x, y = 15.0, y + 3.5 * hand.x_height_mm
        return traces, truth
