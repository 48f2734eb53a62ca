"""Kept runs of the trials and the palm rules of a hand on a device."""

import dataclasses
import sqlite3

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.drills import simulate
from gray_quill.core.palm.posture import in_words, read_posture
from gray_quill.core.palm.rules import OFF, Rules
from gray_quill.store.items import get_thing
from gray_quill.store.kept import VERSION
from gray_quill.store.palm_settings import keep_setting, kept_setting
from gray_quill.store.trials import Trial, bin_trial, get_trial, keep_trial, list_trials
from tests.store.test_store import StoreCase


def kept(trial: Trial) -> Trial:
    """The same with the version its JSON was kept with."""
    version = {"version": VERSION}
    return dataclasses.replace(trial, inputs=version | trial.inputs, results=version | trial.results)


class Trials(StoreCase):
    def test_runs_come_back_whole_newest_first_and_from_the_bin(self) -> None:
        inputs = {"rules": {"size_mm": 12.5}, "seed": 4, "drills": ["rest"]}
        made = [
            keep_trial(
                self.db, Trial(kind, "h", "d", inputs, {"k": k}, "quirks", "fen", 1, created_at=f"2026-01-0{k + 1}")
            )
            for k, kind in enumerate(("palm", "lag", "palm"))
        ]
        self.assertEqual(get_trial(self.db, "palm", made[0].id), kept(made[0]))
        self.assertEqual([t.results["k"] for t in list_trials(self.db, "palm")], [2, 0])
        bin_trial(self.db, "palm", made[2].id, True)
        self.assertEqual([t.results["k"] for t in list_trials(self.db, "palm")], [0])
        self.assertEqual(get_trial(self.db, "palm", made[2].id), kept(made[2]), "the bin keeps it")
        bin_trial(self.db, "palm", made[2].id, False)
        self.assertEqual(len(list_trials(self.db, "palm")), 2)
        for kind, trial_id in (("lag", made[0].id), ("palm", "ghost")):
            with self.assertRaisesRegex(NotFound, "no kept run"):
                bin_trial(self.db, kind, trial_id, True)

    def test_a_run_points_at_what_made_it(self) -> None:
        for wrong in ({"hand_id": "ghost"}, {"device_id": "ghost"}, {"revision": 99}, {"kind": "tea"}):
            with self.assertRaises(sqlite3.IntegrityError):
                keep_trial(self.db, dataclasses.replace(Trial("lag", "h", "d", {}, {}, "felt", "fen", 1), **wrong))
        self.assertEqual(list_trials(self.db, "lag"), [])

    def test_rules_and_posture_belong_to_a_hand_on_a_device(self) -> None:
        self.assertIsNone(kept_setting(self.db, "h", "d"))
        stream, _ = simulate(get_thing(self.db, Hand, "h"), get_thing(self.db, Device, "d"), "palm slides", 1)
        posture = in_words(read_posture(stream, [40.0]), "left", "above")
        for rules, measured in ((OFF, None), (Rules(size_mm=13.5, crowd_count=2, still=True), posture)):
            keep_setting(self.db, "h", "d", rules, measured)
            self.assertEqual(kept_setting(self.db, "h", "d"), (rules, measured))
        with self.assertRaises(sqlite3.IntegrityError):
            keep_setting(self.db, "ghost", "d", OFF, None)
