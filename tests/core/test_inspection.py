"""Input inspection: the stand-ins' own figures are read back off what they report."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.latency.inspection import device_like, inspect_input, inspect_stand_in
from gray_quill.core.trace import make_trace
from tests.zoo import zoo

HAND = dataclasses.replace(SHIPPED_HANDS["right-firm"], tremor_mm=0)


class Inspection(unittest.TestCase):
    def test_every_stand_in_is_recognised(self) -> None:
        for name, device in SHIPPED_DEVICES.items():
            rng = np.random.default_rng(4)
            rests = [
                Intent(np.array([(10.0 + 9 * k, 60.0), (15.0 + 9 * k, 60.0)]), (0.5, 0.5), hold_s=1.5) for k in range(5)
            ]
            traces = write_intents(
                [*text_intents("moths on the white sheet, wings folded", HAND, 10, 20, 120, rng), *rests],
                HAND,
                device,
                rng,
            )
            found, asked = inspect_input(traces), device.digitiser
            self.assertAlmostEqual(found.report_hz / asked.report_hz, 1, delta=0.02, msg=name)
            self.assertAlmostEqual(found.per_frame, asked.report_hz / 60, delta=0.1)
            self.assertEqual("tilt" in found.absent, not asked.tilt, name)
            self.assertEqual(any("tilt" in w for w in found.words), not asked.tilt)
            self.assertAlmostEqual(found.missing, asked.dropped, delta=0.006, msg=name)
            self.assertTrue(10 < found.levels <= asked.levels)
            assert found.rest_noise_mm
            self.assertAlmostEqual(found.rest_noise_mm / asked.noise_mm, 1, delta=0.25, msg=name)
            own = device_like(found, device, "Mine")
            self.assertAlmostEqual(own.digitiser.clock_jitter / asked.clock_jitter, 1, delta=0.3, msg=name)
            self.assertEqual((own.name, own.panel, own.digitiser.tilt), ("Mine", device.panel, asked.tilt))

    def test_what_cannot_be_judged_is_said(self) -> None:
        with self.assertRaisesRegex(InputError, "Write a little more"):
            inspect_input([zoo()["dot"]])
        plain = inspect_input([zoo()["no force, no tilt"]])
        self.assertEqual(plain.absent, ["force", "tilt"])
        self.assertIsNone(plain.rest_noise_mm)
        slow = make_trace(np.arange(60) / 40, np.arange(60.0), np.zeros(60), np.linspace(0.1, 0.9, 60))
        self.assertTrue(any("reports a frame" in w for w in inspect_input([slow]).words))

    def test_every_stand_in_is_inspected_and_says_what_it_leaves_out(self) -> None:
        for name, device in SHIPPED_DEVICES.items():
            found = inspect_stand_in(device)
            self.assertAlmostEqual(found.report_hz / device.digitiser.report_hz, 1, delta=0.03, msg=name)
            self.assertAlmostEqual(
                found.rest_noise_mm or 0, device.digitiser.noise_mm, delta=0.4 * device.digitiser.noise_mm
            )
            said = " ".join(found.words)
            for there, words in (
                (device.digitiser.tilt, "No tilt"),
                (device.digitiser.hover, "No hover"),
                (device.touch.size, "No contact size"),
            ):
                self.assertEqual(words in said, not there, f"{name}: {said}")
