"""The command line: every command, and exit status 2 with a message for what it cannot do."""

import json
import pathlib

import numpy as np
from PIL import Image

from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.formats.film_in import read_film_zip
from gray_quill.formats.inkml_write import write_inkml
from tests.web.cli_case import CliCase
from tests.zoo import zoo

KEYS = [
    "samples",
    "length_mm",
    "duration_s",
    "report_hz",
    "width_p05_mm",
    "width_p50_mm",
    "width_p95_mm",
    "range_ratio",
    "force_p05",
    "force_p50",
    "force_p95",
    "floor_share",
    "ceiling_share",
    "start_tip",
    "end_tip",
    "wobble_in_mm",
    "wobble_out_mm",
    "shake_left",
    "drag_ms",
    "trail_mm",
    "frechet_mm",
    "corner_loss_mm",
    "gaps",
]


class Cli(CliCase):
    def test_advice_is_followed_to_its_end(self) -> None:
        self.run_cli(
            "write", "hawk-moth", "--hand", "right-firm", "--device", "tablet-11", "--seed", "7", "-o", self.ink
        )
        status, out, _ = self.run_cli("advise", self.ink, "--pen", "heath-brush", "--follow", "--json")
        told = json.loads(out)
        self.assertEqual((status, set(told)), (0, {"proposals", "steps", "pen"}))
        first = told["proposals"][0]
        self.assertLessEqual({"title", "evidence", "doing", "reading", "before", "after", "price"}, set(first))
        self.assertEqual([s["predicted"] for s in told["steps"]], [s["obtained"] for s in told["steps"]])
        pen = self.folder / "end.json"
        pen.write_text(json.dumps(told["pen"]))
        _, out, _ = self.run_cli("advise", self.ink, "--pen", str(pen), "--follow")
        self.assertIn("Followed to its end in 0 steps.", out)
        status, out, _ = self.run_cli("advise", self.ink, "--pen", "fen-fountain", "--device", "clamshell-11")
        self.assertEqual(status, 0)
        self.assertEqual(self.run_cli("advise", self.ink, "--pen", "fen-fountain", "--device", "nothing")[0], 2)

    def test_pens_are_lined_up_and_what_cannot_be_is_refused(self) -> None:
        two = ("lineup", "reed-ballpoint", "fen-fountain", "--counts", "handsome handwriting")
        status, out, _ = self.run_cli(*two, "--json")
        told = json.loads(out)
        places = told["ranking"]["places"]
        self.assertEqual((status, [p["candidate"] for p in places]), (0, ["fen-fountain", "reed-ballpoint"]))
        status, out, _ = self.run_cli(*two)
        self.assertIn(f"  1 fen-fountain: {places[0]['total']:.1f}", out)
        rows = self.run_cli(*two, "--csv")[1].splitlines()
        self.assertEqual(len(rows), 1 + 2 * len(told["measured"]["criteria"]))
        self.assertIn("reed-ballpoint,under wash,:1,cannot tell,,0", rows)
        weights = self.folder / "weights.json"
        for text, status in (("{", 2), ("[1]", 2), ('{"drag": -1}', 2), ('{"beauty": 1}', 2), ('{"drag": 1}', 0)):
            weights.write_text(text)
            self.assertEqual(self.run_cli(*two[:3], "--weights", str(weights))[0], status, text)
        for wrong in (("lineup", "fen-fountain"), ("lineup", "fen-fountain", "fen-fountain"), (*two, "--hand", "x")):
            self.assertEqual(self.run_cli(*wrong)[0], 2, wrong)

    def test_write_read_ink_and_proof(self) -> None:
        self.assertEqual(
            self.run_cli(
                "write", "moth 3", "--hand", "left-steep", "--device", "paper-slate-10", "--seed", "7", "-o", self.ink
            )[0],
            0,
        )
        status, out, _ = self.run_cli("read", self.ink, "--pen", "fen-fountain", "--json")
        readings = json.loads(out)
        self.assertEqual((status, [k for k in KEYS if k not in readings]), (0, []))
        self.assertAlmostEqual(readings["report_hz"], 200, delta=10)
        for form, magic in (("svg", b"<svg"), ("pdf", b"%PDF"), ("png", b"\x89PNG")):
            path = self.folder / f"out.{form}"
            self.assertEqual(
                self.run_cli("ink", self.ink, "--pen", "reed-ballpoint", "--paper", "ruled 7mm A6", "-o", str(path))[0],
                0,
            )
            self.assertTrue(path.read_bytes().startswith(magic))
        for source in (self.ink, str(self.folder / "out.png")):
            self.assertEqual(
                self.run_cli(
                    "proof", source, "--device", "paper-pad-8", "--dither", "ordered", "-o", str(self.folder / "p.png")
                )[0],
                0,
            )
            self.assertLessEqual(len(np.unique(np.asarray(Image.open(self.folder / "p.png")))), 8)

    def test_a_page_in_time_is_a_film_that_reads_back_and_says_what_it_cost(self) -> None:
        for device, fast in (("paper-slate-10", True), ("paper-pad-8", False)):
            self.run_cli("write", "mo", "--hand", "right-firm", "--device", device, "--seed", "7", "-o", self.ink)
            zip_file = str(self.folder / "ghost.zip")
            on = ("--device", device, "--paper", "blank A5", "--fps", "12")
            status, out, _ = self.run_cli("ghost", self.ink, *on, "--json", "-o", zip_file)
            told = json.loads(out)
            self.assertEqual((status, told["fast"] > 0), (0, fast))
            frames = read_film_zip(pathlib.Path(zip_file).read_bytes())
            self.assertEqual(len(frames), told["frames"])
            self.assertEqual(len(np.unique(frames[0])), 1, "bare paper first")
            self.assertGreater(len(np.unique(frames[-1])), 2)
        for wrong, words in ((("--fps", "0"), "1 to 120 frames/s"), (("--device", "ghost"), "ghost")):
            asked = {"--device": "paper-pad-8", "--fps": "12", **dict([wrong])}
            given = [a for pair in asked.items() for a in pair]
            status, _, told_ = self.run_cli("ghost", self.ink, *given, "-o", zip_file)
            self.assertEqual(status, 2)
            self.assertIn(words, told_)

    def test_a_seed_writes_the_same_file_and_a_wedge_has_the_range_of_the_formula(self) -> None:
        files = [self.folder / n for n in ("a.inkml", "b.inkml")]
        for f in files:
            self.run_cli("write", "sedge", "--hand", "right-firm", "--device", "tablet-11", "--seed", "3", "-o", str(f))
        self.assertEqual(files[0].read_bytes(), files[1].read_bytes())
        pathlib.Path(self.ink).write_bytes(write_inkml([zoo()["wedge"]]))
        pen = self.folder / "pen.json"
        pen.write_text(json.dumps({"press": {"floor": 0, "ceiling": 1, "range": 4}}))
        ratio = json.loads(self.run_cli("read", self.ink, "--pen", str(pen), "--json")[1])["range_ratio"]
        self.assertAlmostEqual(ratio / 4**0.9, 1, delta=0.03)

    def test_lag_film_and_film_read(self) -> None:
        zip_file = self.folder / "frames.zip"
        code, out, _ = self.run_cli(
            "lag", "--device", "tablet-11", "--pen", "fen-fountain", "--speed", "100", "--lookahead", "10", "--json"
        )
        lag = json.loads(out)
        self.assertEqual(code, 0)
        self.assertAlmostEqual(sum(s["share"] for s in lag["stages"]), 1)
        self.assertLess(lag["gap_mm_p50"], lag["p50_ms"] * 0.1)
        self.assertEqual(
            self.run_cli(
                "film",
                "--device",
                "tablet-11",
                "--pen",
                "fen-fountain",
                "--fps",
                "240",
                "--seed",
                "3",
                "-o",
                str(zip_file),
            )[0],
            0,
        )
        truth = json.loads(zip_file.with_suffix(".json").read_text())
        self.assertEqual(sorted(truth), ["delay_ms", "fps", "gap_mm", "mm_per_px"])
        code, out, _ = self.run_cli(
            "film-read", str(zip_file), "--fps", "240", "--mm-per-px", str(truth["mm_per_px"]), "--json"
        )
        read = json.loads(out)
        self.assertEqual(sorted(read), ["ci95_ms", "delay_ms", "frames_used", "gap_mm"])
        self.assertAlmostEqual(read["delay_ms"], truth["delay_ms"], delta=4.2)
        for wrong, words in (
            (("film-read", str(zip_file), "--fps", "240", "--mm-per-px", "7"), "mm a pixel"),
            (("film-read", "gone.zip", "--fps", "240", "--mm-per-px", "0.1"), "cannot be read"),
            (
                ("lag", "--device", "tablet-11", "--pen", "fen-fountain", "--speed", "0"),
                "--speed is 0; it must lie",
            ),
            (
                ("film", "--device", "tablet-11", "--pen", "fen-fountain", "--fps", "5", "-o", str(zip_file)),
                "fps is 5; it must lie from 60 to 2000",
            ),
        ):
            code, _, err = self.run_cli(*wrong)
            self.assertEqual(code, 2, wrong)
            self.assertIn(words, err)

    def test_what_cannot_be_done_is_said_with_status_2(self) -> None:
        pathlib.Path(self.ink).write_bytes(write_inkml([zoo()["straight"]]))
        broken = self.folder / "broken.json"
        broken.write_text('{"body": {"widht_mm": 3}}')
        text = self.folder / "text.png"
        text.write_text("not a picture")
        out = str(self.folder / "o.png")
        for args, words in (
            (("read", "nowhere.inkml", "--pen", "fen-fountain"), "cannot be read"),
            (("read", self.ink, "--pen", "ghost"), "reed-ballpoint"),
            (("read", self.ink, "--pen", str(broken)), "widht_mm"),
            (("ink", self.ink, "--pen", "fen-fountain", "-o", "x.docx"), "svg, png, pdf or ora"),
            (("ink", self.ink, "--pen", "fen-fountain", "--dpi", "9", "-o", out), "20 to 2400"),
            (("ink", self.ink, "--pen", "fen-fountain", "--paper", "dotted A99", "-o", out), "A99"),
            (("proof", str(text), "--device", "tablet-11", "-o", out), "not a PNG"),
            (("proof", self.ink, "--device", "tablet-11", "--dither", "wild", "-o", out), "wild"),
            (("proof", self.ink, "--device", "tablet-11", "--light", "candle", "-o", out), "candle"),
            (("proof", self.ink, "--device", "tablet-11"), "--json"),
            (("proof", self.ink, "--device", "tablet-11", "--greys", "1", "-o", out), "2 to 256"),
            (("write", "", "--hand", "left-steep", "--device", "tablet-11", "-o", out), "1 to 4000"),
            (("write", "x"), "required"),
            (("dance",), "invalid choice"),
            (("ink", self.ink, "--pen", "fen-fountain", "-o", str(self.folder / "no" / "o.png")), "cannot be written"),
        ):
            with self.subTest(words):
                status, _, err = self.run_cli(*args)
                self.assertEqual(status, 2)
                self.assertIn(words, err)
        self.assertFalse(pathlib.Path(out).exists())

    def test_files_of_ones_own_are_taken(self) -> None:
        pen = self.folder / "mine.json"
        pen.write_text(json.dumps(write_recipe(SHIPPED_PENS["heron-brush"])))
        hand = self.folder / "hand.json"
        hand.write_text(json.dumps({"name": "mine", "side": "left", "tremor_mm": 0}))
        self.assertEqual(
            self.run_cli("write", "fen", "--hand", str(hand), "--device", "tablet-11", "-o", self.ink)[0], 0
        )
        self.assertEqual(self.run_cli("read", self.ink, "--pen", str(pen))[0], 0)

    def test_palm_sim_and_palm(self) -> None:
        file, rules = self.folder / "s.csv", self.folder / "rules.json"
        who = ("--hand", "right-firm", "--device", "tablet-11", "--seed", "7", "-o", str(file))
        self.assertEqual(self.run_cli("palm-sim", *who, "--drill", "all")[0], 0)
        first = file.read_bytes()
        self.run_cli("palm-sim", *who, "--drill", "all")
        self.assertEqual(file.read_bytes(), first, "repeats exactly")
        truth = json.loads(file.with_suffix(".json").read_text())
        judge = ("palm", str(file), "--hand", "right-firm")
        off = json.loads(self.run_cli(*judge, "--rules", "off", "--json")[1])
        names = [
            "added_delay_ms",
            "confusion",
            "contacts",
            "gestures",
            "jiggle_mm",
            "late_marks",
            "lost_ink_mm",
            "page_shift_mm",
            "palms_kept",
            "refused_gestures",
            "stray_ink_mm",
            "stray_marks",
            "taps",
            "unreported_mm",
            "zoomed",
        ]
        self.assertEqual(sorted(off), names)
        self.assertEqual(sorted(off["contacts"][0]), ["at_ms", "decision", "id", "rule"])
        palms = sum(v == "palm" for v in truth["contacts"].values())
        fingers = len(truth["contacts"]) - palms
        self.assertEqual(
            off["confusion"], {"palm_refused": 0, "palm_kept": palms, "finger_kept": fingers, "finger_refused": 0}
        )
        rules.write_text(
            json.dumps(
                {"before_ms": 800, "after_ms": 600, "size_mm": 13, "crowd_count": 2, "edge_mm": 9, "take_back_ms": 1000}
            )
        )
        judged = json.loads(self.run_cli("palm", str(file), "--rules", str(rules), "--hand", "right-firm", "--json")[1])
        self.assertEqual(
            (judged["confusion"]["palm_kept"], judged["refused_gestures"], judged["lost_ink_mm"]), (0, 0, 0)
        )
        self.assertLess(judged["page_shift_mm"], 0.5)
        self.assertGreater(off["page_shift_mm"], 5)
        self.assertIn("palms: 0 refused", self.run_cli(*judge, "--rules", "off")[1])
        _, told, note = self.run_cli(*judge)
        self.assertIn("palms: 0 refused" if not palms else f"palms: {palms} refused", told)
        self.assertIn("rules every hand starts with", note)
        hard = self.folder / "hard.csv"
        made = self.run_cli("palm-sim", *who[:-1], str(hard), "--hard", "--drill", "close pinch")
        self.assertEqual(made[0], 0)
        fitted = self.folder / "fitted.json"
        code, told, _ = self.run_cli("palm-fit", *who[:4], "--own", str(hard), "-o", str(fitted))
        self.assertEqual(code, 0)
        self.assertIn("likely", told)
        found = json.loads(self.run_cli("palm", str(hard), "--rules", str(fitted), "--hand", "right-firm", "--json")[1])
        self.assertEqual((found["confusion"]["palm_kept"], found["refused_gestures"]), (0, 0))
        file.with_suffix(".json").unlink()
        self.assertNotIn("confusion", json.loads(self.run_cli("palm", str(file), "--hand", "right-firm", "--json")[1]))
        rules.write_text('{"size_mm": -3}')
        (self.folder / "bad.csv").write_text("t_ms,pointer\n")
        for wrong, words in (
            (("palm", str(file), "--rules", str(rules), "--hand", "right-firm"), "size_mm"),
            (("palm", str(self.folder / "bad.csv"), "--hand", "right-firm"), "columns"),
            (("palm", "gone.csv", "--hand", "right-firm"), "cannot be read"),
            (("palm-sim", *who, "--drill", "juggle"), "juggle"),
            (("palm-sim", *who, "--hard", "--drill", "rest"), "early rest"),
            (("palm-fit", *who[:4], "--own", str(file), "-o", str(fitted)), "truth lies beside"),
            (
                (
                    "palm-sim",
                    "--hand",
                    "right-firm",
                    "--device",
                    "tablet-11",
                    "--drill",
                    "rest",
                    "--seed",
                    "-1",
                    "-o",
                    str(file),
                ),
                "--seed",
            ),
            (("palm-proof", "--seeds", "0"), "--seeds"),
        ):
            code, _, err = self.run_cli(*wrong)
            self.assertEqual(code, 2, wrong)
            self.assertIn(words, err)
