"""Colour, compositing, dithering and InkML decoding against standards, libraries and a browser."""

import itertools
import unittest

import colour
import dithering
import numpy as np

from gray_quill.core.colour.srgb import contrast, decode_srgb, encode_srgb, luminance, to_grey8
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.panel.blue_noise import blue_noise
from gray_quill.core.panel.dither import DITHERS, KERNELS, bayer, reduce_greys
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.trace import make_trace
from gray_quill.formats.inkml import decode_trace
from tests.browser.driver import browser


def rgb(colour_: str) -> list[int]:
    return [int(colour_[i : i + 2], 16) for i in (1, 3, 5)]


class Colour(unittest.TestCase):
    def test_contrast_is_wcags(self) -> None:
        """WCAG 2.2, relative luminance and contrast ratio; values of colour-science's Y with the standard's weights."""
        for one, two, ratio in (
            ("#000000", "#ffffff", 21),
            ("#777777", "#ffffff", 4.478089),
            ("#767676", "#ffffff", 4.542225),
            ("#0000ff", "#ffffff", 8.592471),
            ("#ff0000", "#ffffff", 3.998477),
            ("#1a237e", "#fffde7", 12.901065),
            ("#ffff00", "#000000", 19.556),
            ("#3b3b3b", "#f5f0e1", 9.832919),
        ):
            self.assertAlmostEqual(float(contrast(luminance(rgb(one)), luminance(rgb(two)))), ratio, places=5)

    def test_every_colour_has_the_grey_of_its_luminance(self) -> None:
        """IEC 61966-2-1 worked out in full for a million colours, all dark ones among them."""
        rng = np.random.default_rng(3)
        dark = np.stack(np.meshgrid(*[np.arange(32)] * 3), axis=-1).reshape(-1, 3)
        colours = np.vstack((dark, rng.integers(0, 256, (1_000_000, 3)))).astype(np.uint8)
        v = colours / 255
        linear = np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4) @ (0.2126, 0.7152, 0.0722)
        told = 255 * np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)
        off = np.abs(to_grey8(colours[None]).ravel() - told)
        self.assertLessEqual(float(off.max()), 0.5 + 1e-6)

    def test_the_transfer_is_srgbs(self) -> None:
        """IEC 61966-2-1:1999, as colour-science has it."""
        v = np.linspace(0, 1, 256)
        np.testing.assert_allclose(decode_srgb(v), colour.models.eotf_sRGB(v), atol=1e-12)
        np.testing.assert_allclose(encode_srgb(decode_srgb(v)), v, atol=1e-7)


class Compositing(unittest.TestCase):
    # operation, backdrop, source colour and alpha: W3C Compositing and Blending Level 1 (Porter and Duff, SIGGRAPH
    # 1984)
    CASES = (
        ("normal", "#2850a0", "#ffeb3b", 128 / 255, (147.92, 157.80, 109.30)),
        ("normal", "#f5f0e1", "#1e1e1e", 0.2, (202, 198, 186)),
        ("multiply", "#2850a0", "#ffeb3b", 1, (40, 73.73, 37.02)),
        ("multiply", "#2850a0", "#ffeb3b", 128 / 255, (40, 76.85, 98.27)),
        ("multiply", "#f5f0e1", "#1e1e1e", 0.2, (201.76, 197.65, 185.29)),
    )

    def painted(self, blend: str, ground: str, ink: str, alpha: float) -> np.ndarray:
        recipe = read_recipe(
            {"body": {"width_mm": 8, "colour": ink, "opacity": round(alpha, 12)}, "wash": {"blend": blend}}
        )
        stroke = settle(make_trace([0, 1], [2, 8], [5, 5], [0.5, 0.5]), recipe)
        return page_pixels([stroke], Paper(30, 30, "blank", 5, 0.2, 0, ground, "#000000"), View(0, 0, 4, 40, 40))[
            20, 20
        ].astype(float)

    def test_the_formula(self) -> None:
        for blend, ground, ink, alpha, expected in self.CASES:
            np.testing.assert_allclose(self.painted(blend, ground, ink, alpha), expected, atol=0.51)

    def test_a_browsers_canvas(self) -> None:
        script = (
            "const [m, b, s, a] = arguments; const c = document.createElement('canvas').getContext('2d', "
            "{willReadFrequently: true});"
            "c.fillStyle = b; c.fillRect(0, 0, 4, 4); c.globalCompositeOperation = m === 'normal' ? 'source-over' : "
            "m; c.globalAlpha = a;"
            "c.fillStyle = s; c.fillRect(0, 0, 4, 4); return Array.from(c.getImageData(1, 1, 1, 1).data).slice(0, 3)"
        )
        with browser() as driver:
            for blend in ("normal", "multiply", "screen"):
                for _, ground, ink, alpha, _ in self.CASES:
                    theirs = driver.execute_script(script, blend, ground, ink, alpha)
                    np.testing.assert_allclose(self.painted(blend, ground, ink, alpha), theirs, atol=2)

    def test_see_through_pages_follow_the_formula_too(self) -> None:
        recipe = read_recipe({"body": {"width_mm": 8, "colour": "#7828c8", "opacity": 0.4}})
        stroke = settle(make_trace([0, 1], [2, 8], [5, 5], [0.5, 0.5]), recipe)
        np.testing.assert_array_equal(ink_pixels([stroke], View(0, 0, 4, 40, 40))[20, 20], [120, 40, 200, 102])


class Dithering(unittest.TestCase):
    RAMP = np.tile(np.arange(0, 256, 17, dtype=np.uint8), (8, 1))
    NOISE = np.random.default_rng(1).integers(0, 256, (64, 65)).astype(np.uint8)  # an odd side

    def test_error_diffusion_is_the_textbooks(self) -> None:
        """Every pixel of every kernel equal to the package `dithering`: to any number of greys mixed as encoded, and to
        two mixed by light (with more it spaces them by light too).
        """
        for ours, picture in itertools.product(KERNELS, (self.RAMP, self.NOISE, self.NOISE[:1], self.NOISE[:, :1])):
            theirs = ours.replace("-", "_")
            for greys in (2, 4, 6, 16, 52):  # whose encoded values are whole
                np.testing.assert_array_equal(
                    reduce_greys(picture, greys, ours, in_light=False),
                    dithering.error_diffusion(picture, theirs, levels=greys),
                    f"{ours} {greys}",
                )
            np.testing.assert_array_equal(
                reduce_greys(picture, 2, ours), dithering.error_diffusion(picture, theirs, linear=True), ours
            )
        known = reduce_greys(self.RAMP, 2, "floyd-steinberg", in_light=False)
        self.assertEqual("".join(str(v // 255) for v in known[1]), "0000100101010111")

    def test_means_of_light_are_kept(self) -> None:
        """Within 0.5 % of full light by error diffusion and blue noise on 512 pixels, by ordered dither within half a
        step of its matrix; without dither not.
        """
        for greys in (2, 4, 16):
            off = {
                method: max(
                    abs(decode_srgb(reduce_greys(np.full((512, 512), g, np.uint8), greys, method) / 255).mean() - light)
                    for g, light in ((g, decode_srgb(g / 255)) for g in range(0, 256, 15))
                )
                for method in DITHERS
            }
            for method in ("blue-noise", *KERNELS):
                self.assertLess(off[method], 0.005, (greys, method))
            self.assertLess(off["ordered"], 1 / 128 + 1e-4)
            self.assertGreater(off["none"], 0.01)

    def test_blue_noise_has_no_low_frequencies(self) -> None:
        """Ulichney's measure: the radially averaged spectrum of dots at several greys, for whom white noise is even,
        lies low at low frequencies and peaks about the dots' own distance; and each threshold is there once.
        """
        mask = blue_noise()
        np.testing.assert_allclose(np.sort(mask.ravel()), (np.arange(mask.size) + 0.5) / mask.size)
        side = len(mask)
        frequency = np.hypot(*np.meshgrid(np.fft.fftfreq(side), np.fft.fftfreq(side)))
        white = np.random.default_rng(5).permutation(mask.ravel()).reshape(mask.shape)
        for grey in (0.1, 0.3, 0.5, 0.8):
            low = {}
            for name, thresholds in (("blue", mask), ("white", white)):
                dots = (thresholds < grey).astype(float)
                power = np.abs(np.fft.fft2(dots - dots.mean())) ** 2 / (dots.size * grey * (1 - grey))
                own = np.sqrt(min(grey, 1 - grey))  # one dot's distance
                low[name] = float(power[(frequency > 0) & (frequency < 0.35 * own)].mean())
            self.assertLess(low["blue"], 0.12, grey)
            self.assertGreater(low["white"], 0.6, grey)

    def test_ordered_dither_is_bayers(self) -> None:
        """Bayer, IEEE ICC 1973; the published 4 x 4 matrix, and white where v / 255 > (M + 0.5) / 64."""
        self.assertEqual(bayer(2).tolist(), [[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]])
        tiled = np.tile((bayer(3) + 0.5) / 64, (1, 2))
        for in_light, value in ((False, self.RAMP / 255), (True, decode_srgb(self.RAMP / 255))):
            ours = reduce_greys(self.RAMP, 2, "ordered", in_light)
            np.testing.assert_array_equal(ours // 255, value > tiled)

    def test_rounding_switches_halfway(self) -> None:
        """Four levels switch at 43, 128 and 213."""
        out = reduce_greys(np.arange(256, dtype=np.uint8)[None], 4)[0]
        self.assertEqual((np.flatnonzero(np.diff(out)) + 1).tolist(), [43, 128, 213])


class InkMl(unittest.TestCase):
    def test_the_differences_example(self) -> None:
        """W3C Recommendation "InkML", 2011, trace with first and second differences and boolean channels; string from
        memory.
        """
        text = """1125 18432,'23'43,"7"-8,3-5,7 -3,6 2,6 8,3 6 T,2 4*T,3 6,3-6 F F"""
        got = decode_trace(text, ["integer", "integer"], ["boolean", "boolean"]).T.astype(int).tolist()
        self.assertEqual(
            [r[:2] for r in got],
            [
                [1125, 18432],
                [1148, 18475],
                [1178, 18510],
                [1211, 18540],
                [1251, 18567],
                [1297, 18596],
                [1349, 18633],
                [1404, 18676],
                [1461, 18723],
                [1521, 18776],
                [1584, 18823],
            ],
        )
        self.assertEqual([r[2:] for r in got[6:]], [[0, 0], [1, 0], [1, 1], [1, 1], [0, 0]])
