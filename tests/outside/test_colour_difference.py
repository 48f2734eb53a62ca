"""Colour difference, colour deficiencies and compositing against published pairs, independent libraries
and a browser.
"""

import unittest

import colour
import numpy as np
from coloraide import Color

from gray_quill.core.colour.difference import ciede2000, from_lab, lab
from gray_quill.core.colour.vision import seen_with
from gray_quill.core.highlighter.layers import laid
from tests.browser.driver import browser

# Sharma, Wu and Dalal, "The CIEDE2000 color-difference formula", Color Res. Appl. 30(1), 2005, table 1 (from memory):
# L*, a*, b* of both colours and their difference
PAIRS = np.array([
    (50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425),
    (50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615),
    (50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412),
    (50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0000),
    (50, -1.1848, -84.8006, 50, 0, -82.7485, 1.0000),
    (50, -0.9009, -85.5211, 50, 0, -82.7485, 1.0000),
    (50, 0, 0, 50, -1, 2, 2.3669),
    (50, -1, 2, 50, 0, 0, 2.3669),
    (50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792),
    (50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792),
    (50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195),
    (50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195),
    (50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045),
    (50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045),
    (50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461),
    (50, 2.5, 0, 50, 0, -2.5, 4.3065),
    (50, 2.5, 0, 73, 25, -18, 27.1492),
    (50, 2.5, 0, 61, -5, 29, 22.8977),
    (50, 2.5, 0, 56, -27, -3, 31.9030),
    (50, 2.5, 0, 58, 24, 15, 19.4535),
    (50, 2.5, 0, 50, 3.1736, 0.5854, 1.0000),
    (50, 2.5, 0, 50, 3.2972, 0, 1.0000),
    (50, 2.5, 0, 50, 1.8634, 0.5757, 1.0000),
    (50, 2.5, 0, 50, 3.2592, 0.335, 1.0000),
    (60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644),
    (63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630),
    (61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731),
    (35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645),
    (22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373),
    (36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146),
    (90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441),
    (90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381),
    (6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377),
    (2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082),
])  # fmt: skip
COLOURS = ("#ff0000", "#00a000", "#1f5fbf", "#e0a030", "#f2c14e", "#9ccb86", "#777777", "#ffffff", "#000000")


def rgb(text: str) -> list[int]:
    return [int(text[i : i + 2], 16) for i in (1, 3, 5)]


class Difference(unittest.TestCase):
    def test_the_published_pairs(self) -> None:
        np.testing.assert_allclose(ciede2000(PAIRS[:, :3], PAIRS[:, 3:6]), PAIRS[:, 6], atol=1e-4)
        np.testing.assert_allclose(ciede2000(PAIRS[:, 3:6], PAIRS[:, :3]), PAIRS[:, 6], atol=1e-4)

    def test_random_colours_against_colour_science(self) -> None:
        one, other = np.random.default_rng(2).uniform((0, -90, -90), (100, 90, 90), (2, 3000, 3))
        np.testing.assert_allclose(ciede2000(one, other), colour.delta_E(one, other, method="CIE 2000"), atol=1e-9)

    def test_lab_of_srgb_and_back(self) -> None:
        """coloraide's D65 Lab; its white differs in the fifth digit."""
        for text in COLOURS:
            np.testing.assert_allclose(lab(rgb(text)), Color(text).convert("lab-d65")[:3], atol=0.02, err_msg=text)
            back, inside = from_lab(lab(rgb(text)))
            np.testing.assert_allclose(back, rgb(text), atol=1e-6)
            self.assertTrue(inside)
        self.assertFalse(from_lab((50, 120, 0))[1])


class Deficiencies(unittest.TestCase):
    def test_the_colours_of_two_libraries(self) -> None:
        """Machado, Oliveira and Fernandes, IEEE TVCG 15(6), 2009, at severity 1.0: colour-science's matrices and
        coloraide's filter.
        """
        for name, anomaly, short in (
            ("protanopia", "Protanomaly", "protan"),
            ("deuteranopia", "Deuteranomaly", "deutan"),
            ("tritanopia", "Tritanomaly", "tritan"),
        ):
            matrix = colour.matrix_cvd_Machado2009(anomaly, 1.0)
            for text in COLOURS:
                ours = seen_with(name, rgb(text))
                linear = colour.models.eotf_sRGB(np.array(rgb(text)) / 255) @ matrix.T
                np.testing.assert_allclose(
                    ours,
                    colour.models.eotf_inverse_sRGB(np.clip(linear, 0, 1)) * 255,
                    atol=1e-3,
                    err_msg=f"{name} {text}",
                )
                theirs = Color(text).filter(short, 1, method="machado").convert("srgb")[:3]
                np.testing.assert_allclose(ours, np.clip(theirs, 0, 1) * 255, atol=1, err_msg=f"{name} {text}")

    def test_greys_stay_grey(self) -> None:
        for name in ("protanopia", "deuteranopia", "tritanopia"):
            np.testing.assert_allclose(seen_with(name, [119, 119, 119]), 119, atol=0.01)


class FineCanvas(unittest.TestCase):
    def test_flat_layers_equal_a_browsers_float16_canvas(self) -> None:
        """W3C Compositing and Blending Level 1 on an opaque ground, to a tenth of a 255th."""
        script = (
            "const [cases] = arguments; return cases.map(([mode, below, above, alpha]) => {"
            "const c = document.createElement('canvas').getContext('2d', {colorType: 'float16', willReadFrequently: "
            "true});"
            "c.fillStyle = `rgb(${below})`; c.fillRect(0, 0, 2, 2); c.globalCompositeOperation = mode === 'normal' "
            "? 'source-over' : mode;"
            "c.fillStyle = `rgba(${above},${alpha})`; c.fillRect(0, 0, 2, 2);"
            "return Array.from(c.getImageData(0, 0, 1, 1, {pixelFormat: 'rgba-float16'}).data).slice(0, 3).map(v => "
            "v * 255) })"
        )
        cases = [
            (mode, rgb(below), rgb(above), alpha)
            for mode in ("normal", "multiply", "screen")
            for below in ("#2850a0", "#f5f0e1", "#2b3036")
            for above in ("#ffeb3b", "#1e1e1e", "#9ccb86")
            for alpha in (51 / 255, 128 / 255, 1)  # a browser keeps alpha in 8 bits
        ]
        with browser() as driver:
            driver.get("about:blank")
            shown = driver.execute_script(script, cases)
        for (mode, below, above, alpha), theirs in zip(cases, shown, strict=True):
            np.testing.assert_allclose(
                laid(below, above, np.float64(alpha), mode),
                theirs,
                atol=0.1,
                err_msg=f"{mode} {below} {above} {alpha}",
            )
