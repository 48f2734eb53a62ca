"""Pointer Events angles and response curves against a browser, scipy and published values."""

import pathlib
import tempfile
import unittest

import numpy as np
from scipy.interpolate import PchipInterpolator

from gray_quill.core.angles import spherical_to_tilt, tilt_to_spherical
from gray_quill.core.pen.pressure_curve import Press, press_share
from tests.browser.driver import browser

# tiltX, tiltY, altitude, azimuth: read off Chromium's PointerEvent (W3C Pointer Events Level 3, "Converting between
# tiltX/tiltY and altitudeAngle/azimuthAngle"; section name from memory)
TILTS = [
    (0, 0, 1.570796326795, 0),
    (90, 0, 0, 0),
    (0, 90, 0, 1.570796326795),
    (-90, 0, 0, 3.141592653590),
    (0, -90, 0, 4.712388980385),
    (45, 45, 0.615479708670, 0.785398163397),
    (20, 10, 1.186474797446, 0.451133963645),
    (30, -60, 0.501093013265, 5.034139534781),
    (-45, 20, 0.754316971704, 2.792526803191),
    (-20, -70, 0.346279476938, 4.580681540377),
    (89, 89, 0.012341968079, 0.785398163397),
    (90, 45, 0, 0),
    (90, 90, 0, 0),
]
ANGLES = [
    (np.pi / 2, 0, 0, 0),
    (0, 0, 90, 0),
    (0, np.pi / 2, 0, 90),
    (0, np.pi, -90, 0),
    (0, 3 * np.pi / 2, 0, -90),
    (0, np.pi / 4, 90, 90),
    (np.pi / 4, np.pi / 4, 35, 35),
    (np.pi / 6, np.pi, -60, 0),
    (np.pi / 3, 2.0, -14, 28),
    (1.0, 0.5, 29, 17),
    (0.3, 5.0, 43, -72),
    (1.2, 4.0, -14, -16),
    (0.5, np.pi / 2, 0, 61),
    (0.7, 2 * np.pi, 50, 0),
    (1.5, 1.0, 2, 3),
]


class Angles(unittest.TestCase):
    def test_the_table(self) -> None:
        for tx, ty, altitude, azimuth in TILTS:
            got = tilt_to_spherical(tx, ty)
            np.testing.assert_allclose(
                [float(got[0]), float(got[1])], [altitude, azimuth], atol=1e-9, err_msg=f"{tx} {ty}"
            )
        for altitude, azimuth, tx, ty in ANGLES:
            self.assertEqual(
                tuple(int(v) for v in spherical_to_tilt(altitude, azimuth)), (tx, ty), f"{altitude} {azimuth}"
            )

    def test_all_whole_tilts_come_back(self) -> None:
        tx, ty = np.meshgrid(np.arange(-89, 90), np.arange(-89, 90))
        back = spherical_to_tilt(*tilt_to_spherical(tx, ty))
        np.testing.assert_array_equal(back[0], tx)
        np.testing.assert_array_equal(back[1], ty)

    def test_a_browser_agrees_on_a_grid(self) -> None:
        with tempfile.TemporaryDirectory() as folder, browser() as driver:
            page = pathlib.Path(folder) / "p.html"
            page.write_text("<!doctype html>")
            driver.get(page.as_uri())
            theirs = driver.execute_script(
                "const out = []; for (let x = -90; x <= 90; x += 5) for (let y = -90; y <= 90; y += 5) {"
                "const e = new PointerEvent('pointermove', {tiltX: x, tiltY: y}); out.push([x, y, e.altitudeAngle, "
                "e.azimuthAngle]) } return out"
            )
            back = driver.execute_script(
                "const out = []; for (let a = 0; a <= 1.57; a += 0.1) for (let z = 0; z < 6.28; z += 0.13) {"
                "const e = new PointerEvent('pointermove', {altitudeAngle: a, azimuthAngle: z}); out.push([a, z, "
                "e.tiltX, e.tiltY]) } return out"
            )
        x, y, altitude, azimuth = np.array(theirs).T
        np.testing.assert_allclose(tilt_to_spherical(x, y), (altitude, azimuth), atol=1e-9)
        a, z, tx, ty = np.array(back).T
        np.testing.assert_array_equal(spherical_to_tilt(a, z), (tx, ty))


class Curves(unittest.TestCase):
    def test_the_press_curve_is_scipys_monotone_cubic(self) -> None:
        """Fritsch and Butland, SIAM J. Sci. Comput. 5(2), 1984; values of scipy's PchipInterpolator."""
        press = Press(0, 1, ((0, 0), (0.35, 0.25), (0.7, 0.8), (1, 1)), 4, 1)
        x = np.array([0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.8, 0.9])
        known = [
            0.044096209913,
            0.113994169096,
            0.201822157434,
            0.310872337210,
            0.480540145710,
            0.663732061785,
            0.887497351860,
            0.957668089850,
        ]
        np.testing.assert_allclose(press_share(press, x), known, atol=1e-11)
        np.testing.assert_allclose(
            press_share(press, x), PchipInterpolator([0, 0.35, 0.7, 1], [0, 0.25, 0.8, 1])(x), atol=1e-12
        )
        bent = Press(0.1, 0.7, press.points, 4, 1)
        np.testing.assert_allclose(press_share(bent, 0.1 + 0.6 * x), known, atol=1e-11)
