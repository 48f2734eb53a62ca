"""Databases that earlier versions really wrote: each opens, and everything in it still shows.

The files in golden/ were made by the versions in their names: the demo, ten strokes a sheet, a pen with a second
revision, one of one's own and one in the bin, a hand of one's own, and from 0.2.0 on a fit, from 0.4.0 on a device of
one's own, palm rules and kept runs; from 0.7.0 on a stroke written with changes not kept, and a sheet's note; from
0.10.0 on ink rubbed and moved; in 0.11.0 a second layer, ink locked, grouped and filled, and a figure placed;
in 0.13.0 a pen that looks ahead; in 0.14.0 a touch told to have been a palm, and rules that go by its look; in 0.15.0
a panel of one's own, and what a hand feels; in 0.16.0 a log table for paper; in 0.17.0 a second page with a picture
under its ink; in 0.18.0 a cover; in 0.19.0 a line-up that was kept, and pairs that are judged blind.
"""

import dataclasses
import gzip
import json
import pathlib
import tempfile
import unittest
from typing import Any

from gray_quill.core.digitiser.device import ByEye, Device, Updates
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.layer import FIRST, Layer
from gray_quill.core.ink.settle import settle
from gray_quill.core.palm.rules import Rules
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import record_json
from gray_quill.store.database import FILE, connect
from gray_quill.store.fits import kept_fit
from gray_quill.store.items import get_thing, list_things
from gray_quill.store.judged import list_judgings
from gray_quill.store.kept import read_kept, version_of, written
from gray_quill.store.layers import held_of
from gray_quill.store.noticeable_delay import felt_of
from gray_quill.store.palm_settings import kept_setting
from gray_quill.store.palm_told import told_of
from gray_quill.store.pens import get_pen, list_pens, pen_history
from gray_quill.store.runs import list_lag_runs, list_lineups, list_palm_runs
from gray_quill.store.schema import newest
from gray_quill.store.sheets import list_sheets
from gray_quill.store.start import prepare
from gray_quill.store.stroke_edits import stroke_edits_of
from gray_quill.store.strokes import list_strokes
from gray_quill.web.app import create_app

GOLDEN = pathlib.Path(__file__).parent / "golden"
LAYERED = ("0.11.0", "0.13.0", "0.14.0", "0.15.0", "0.16.0", "0.17.0", "0.18.0", "0.19.0")


class Golden(unittest.TestCase):
    def opened(self, version: str) -> pathlib.Path:
        """A folder with that version's database, brought up to date."""
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        folder = pathlib.Path(temporary.name)
        (folder / FILE).write_bytes(gzip.decompress((GOLDEN / f"{version}.db.gz").read_bytes()))
        prepare(folder)
        return folder

    def test_pens_hands_devices_and_sheets_of_every_version_show(self) -> None:
        versions = [p.name.removesuffix(".db.gz") for p in GOLDEN.glob("*.db.gz")]
        versions.sort(key=lambda version: [int(part) for part in version.split(".")])
        self.assertEqual(
            versions,
            ["0.1.0", "0.2.0", "0.3.0", "0.4.0", "0.5.0", "0.6.0", "0.7.0", "0.8.0", "0.9.0"]
            + ["0.10.0", "0.11.0", "0.13.0", "0.14.0", "0.15.0", "0.16.0", "0.17.0", "0.18.0", "0.19.0"],
        )
        for version in versions:
            folder = self.opened(version)
            db = connect(folder)
            self.addCleanup(db.close)
            with self.subTest(version=version):
                self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], newest())
                ahead = version in LAYERED[1:]  # a revision more
                widths = [p.recipe.body.width_mm for p in pen_history(db, "fen-fountain")]
                self.assertEqual(widths, [0.7, 0.7, 0.5] if ahead else [0.7, 0.5])
                self.assertEqual(get_pen(db, "fen-fountain").recipe.steady.ahead_ms, 14 if ahead else 0)
                self.assertEqual(get_pen(db, "own-pen").recipe.name, "Own pen")
                self.assertEqual([p.id for p in list_pens(db, binned=True)], ["reed-ballpoint"])
                self.assertEqual(get_thing(db, Hand, "own-hand").name, "left hand of my own")
                panels = {d.panel.technology for d in list_things(db, Device).values() if d.kind == "e-paper"}
                self.assertIn("paper-slate-10", list_things(db, Device))
                self.assertEqual(panels, {"e-paper"}, "those kept before panels said what makes their light")
                for sheet in list_sheets(db):
                    strokes = list_strokes(db, sheet.id)
                    more = {
                        ("0.10.0", "dusk-to-dawn"): 12,
                        ("0.11.0", "dusk-to-dawn"): 12,
                        ("0.11.0", "first-count"): 11,
                        ("0.13.0", "dusk-to-dawn"): 12,
                        ("0.13.0", "first-count"): 11,
                        ("0.13.0", "trap-log"): 12,
                        ("0.14.0", "dusk-to-dawn"): 12,
                        ("0.14.0", "first-count"): 11,
                        ("0.14.0", "trap-log"): 12,
                        ("0.15.0", "dusk-to-dawn"): 12,
                        ("0.15.0", "first-count"): 11,
                        ("0.15.0", "trap-log"): 12,
                        ("0.16.0", "dusk-to-dawn"): 12,
                        ("0.16.0", "first-count"): 11,
                        ("0.16.0", "trap-log"): 12,
                        ("0.17.0", "dusk-to-dawn"): 12,
                        ("0.17.0", "first-count"): 11,
                        ("0.17.0", "trap-log"): 12,
                        ("0.17.0", "trap-log-copied"): 12,
                        ("0.18.0", "dusk-to-dawn"): 12,
                        ("0.18.0", "first-count"): 11,
                        ("0.18.0", "trap-log"): 12,
                        ("0.18.0", "trap-log-copied"): 12,
                        ("0.19.0", "dusk-to-dawn"): 12,
                        ("0.19.0", "first-count"): 11,
                        ("0.19.0", "trap-log"): 12,
                        ("0.19.0", "trap-log-copied"): 12,
                    }
                    own = (1, 1, sheet.id)
                    if (
                        version in ("0.17.0", "0.18.0", "0.19.0") and sheet.sheaf == "trap-log"
                    ):  # has a second page with a picture under it
                        own = (1 + (sheet.id != "trap-log"), 2, "trap-log")
                        self.assertEqual(len(sheet.prints), sheet.page - 1)
                    self.assertEqual((sheet.page, sheet.pages, sheet.sheaf), own)
                    covered = version in ("0.18.0", "0.19.0") and sheet.id == "trap-log"
                    self.assertEqual(len(sheet.covers), covered)
                    count = more.get((version, sheet.id), 10)
                    self.assertEqual((len(strokes), sheet.strokes), (count, count))
                    if sheet.id == "first-count" and version in LAYERED:
                        self.assertEqual([layer.name for layer in sheet.layers], ["ink", "lines"])
                    else:
                        self.assertEqual((sheet.layers, sheet.layer), ([Layer()], FIRST), "one layer changes nothing")
                    for s in strokes:
                        settle(s.trace, get_pen(db, s.pen_id, s.revision).recipe, sheet.paper)
                fit = kept_fit(db, "left-steep", "tablet-11")
                self.assertEqual(fit is None, version == "0.1.0")
                self.assertEqual([run.name for run in list_lineups(db)], ["Two pens"] * (version == "0.19.0"))
                self.assertEqual([j.judge for j in list_judgings(db)], ["me"] * (version == "0.19.0"))
                self.assertEqual(
                    {i for k, i in db.execute("SELECT kind, id FROM things WHERE kind = 'pen' AND binned_at IS NULL")},
                    {p.id for p in list_pens(db)},
                    "all that was kept is in the cabinet",
                )
                client = create_app(folder).test_client()
                self.assertEqual(client.get("/api/desk").status_code, 200)

    def test_figures_fills_and_locks_of_0_11_0_show(self) -> None:
        db = connect(self.opened("0.11.0"))
        self.addCleanup(db.close)
        ids = [s.id for s in list_strokes(db, "first-count")]
        held, edits_by_id = held_of(db, "first-count"), stroke_edits_of(db, ids)
        self.assertEqual(sorted(h.layer for h in held.values()), ["first", "lines", "lines", "lines"])
        self.assertEqual([h.locked for h in held.values() if h.layer == FIRST], [True])
        (round_one,) = [s for s in edits_by_id.values() if s.figure]
        self.assertEqual((round_one.figure and round_one.figure.kind, round_one.placement[0]), ("circle", 1.2))
        self.assertEqual([s.fill.colour for s in edits_by_id.values() if s.fill], ["#f2c14e"])

    def test_a_told_touch_and_rules_of_0_14_0_show(self) -> None:
        db = connect(self.opened("0.14.0"))
        self.addCleanup(db.close)
        (told,) = told_of(db, "left-steep", "tablet-11", 9)
        self.assertIn(b"touch", told[0])
        rules, _ = kept_setting(db, "left-steep", "tablet-11") or (None, None)
        self.assertTrue(rules and rules.likely == 0.7 and rules.still)
        self.assertIsNone(felt_of(db, "left-steep"), "nothing was known yet")

    def test_a_panel_and_what_a_hand_feels_of_0_15_0_show(self) -> None:
        folder = self.opened("0.15.0")
        db = connect(folder)
        self.addCleanup(db.close)
        (own,) = [d for d in list_things(db, Device).values() if d.name == "Own slate"]
        self.assertEqual((own.panel.ppi, own.panel.technology), (212, "e-paper"))
        half = 2 * own.panel.response_ms  # half of an update is what the response was
        self.assertEqual((own.panel.vivid, own.updates, own.by_eye), (1, Updates(fast_ms=half), ByEye()))
        pad = get_thing(db, Device, "paper-pad-8")
        self.assertEqual(pad.updates.grey_ms, 2 * pad.panel.response_ms)
        felt = felt_of(db, "left-steep")
        assert felt is not None
        self.assertAlmostEqual(felt.felt.noticed_ms or 0, 114.0, delta=0.1)

    def test_a_draft_and_a_note_of_0_7_0_show(self) -> None:
        db = connect(self.opened("0.7.0"))
        self.addCleanup(db.close)
        drafted = list_strokes(db, "trap-log")[-1]
        self.assertEqual((drafted.id, drafted.revision), ("drafted", -1))
        self.assertEqual(get_pen(db, drafted.pen_id, drafted.revision).recipe.body.width_mm, 1.1)
        self.assertEqual(next(s.note for s in list_sheets(db) if s.id == "trap-log"), "kept for later versions")

    def test_a_run_kept_before_versions_were_noted_says_so(self) -> None:
        db = connect(self.opened("0.8.0"))
        self.addCleanup(db.close)
        self.assertEqual([run.made_by for run in list_lag_runs(db)], [""])

    def test_every_run_and_rule_of_0_4_0_shows(self) -> None:
        folder = self.opened("0.4.0")
        db = connect(folder)
        self.addCleanup(db.close)
        full, plain = list_lag_runs(db)
        self.assertEqual((plain.recipe, plain.device), (full.recipe, full.device))
        self.assertEqual((plain.live, plain.filmed), (None, None))
        self.assertEqual([f.name for f in full.figures], ["modelled", "stated", "live", "filmed"])
        self.assertTrue(full.live and full.live.raw_p50_ms == 4.5 and full.filmed and full.filmed.ci95_ms == 2.2)
        self.assertEqual((full.look_ahead_ms, full.verdict), (12, full.now.word))
        self.assertAlmostEqual(sum(s.share for s in full.now.stages), 1)
        own, simulated = list_palm_runs(db)
        self.assertEqual((own.own, simulated.own, own.hand), (True, False, simulated.hand))
        self.assertEqual(simulated.rules.size_mm, 13)
        raw = json.loads(db.execute("SELECT results FROM trials WHERE id = ?", (simulated.id,)).fetchone()[0])["total"]
        self.assertEqual(simulated.total.zoomed, raw["zoom_pct"] / 100)
        self.assertEqual(simulated.total.palms_kept, raw["confusion"]["palm_kept"])
        rules, posture = kept_setting(db, "right-firm", "tablet-11") or (None, None)
        self.assertTrue(rules and rules.crowd_count == 2 and posture and posture.side == "right")
        self.assertIsNone((kept_setting(db, "left-steep", "paper-slate-10") or (None, 1))[1])
        self.assertEqual(list_things(db, Device)["my-slate"].stated_ms, 9)
        client = create_app(folder).test_client()
        for path in ("lag/runs", "palm/runs", "palm/setting?hand_id=right-firm&device_id=tablet-11"):
            self.assertEqual(client.get(f"/api/{path}").status_code, 200, path)
        swap = {"one": {"run_id": full.id}, "other": {"run_id": plain.id}}
        self.assertEqual(client.post("/api/lag/swaps", json=swap).status_code, 200)


class TolerantReader(unittest.TestCase):
    def test_what_was_written_is_read_back_and_carries_a_version(self) -> None:
        for record in (*SHIPPED_PENS.values(), Hand("H"), Device(), Paper(), Rules(size_mm=12.0)):
            text = written(record)
            self.assertEqual(read_kept(type(record), text), record)
            self.assertEqual(version_of(text), 1)
            self.assertEqual(version_of(json.dumps(record_json(record))), 0, "rows of earlier versions")

    def test_it_refuses_nothing(self) -> None:
        """Unknown fields, values out of range, wrong types, missing groups: the nearest value that fits."""
        pen: dict[str, Any] = {
            "name": "Old",
            "smell": "cedar",
            "body": {"width_mm": 999, "opacity": "full", "line": {"pattern": "wavy"}},
            "press": {"points": [[0, 0], [0.5, 2]]},
            "steady": None,
            "tooth": [],
        }
        read = read_kept(Recipe, json.dumps(pen))
        plain = Recipe()
        self.assertEqual((read.name, read.body.opacity), ("Old", 1))
        self.assertEqual((read.body.line, read.press), (plain.body.line, plain.press))
        self.assertEqual(read.body.width_mm, 20, "the largest there is")
        self.assertEqual((read.steady, read.tooth, read.wash), (plain.steady, plain.tooth, plain.wash))
        for broken in ("{}", "[]", "null", "3", '"x"', '{"version": "new"}'):
            self.assertEqual(read_kept(Rules, broken), Rules())
            self.assertEqual(version_of(broken), 0)
        self.assertTrue(dataclasses.is_dataclass(read_kept(Recipe, "{}")))
