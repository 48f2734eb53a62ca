"""A small campaign of kills; `make trial-kills` runs a large one."""

import contextlib
import pathlib
import tempfile
import unittest

from gray_quill.store.database import connect
from tests.trials.kills import Kills

SEED = 7


class FewKills(unittest.TestCase):
    def test_nothing_confirmed_is_lost_or_doubled_and_the_count_can_fail(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            trial = Kills(pathlib.Path(name), SEED)
            self.addCleanup(trial.zygote.close)
            for _ in range(4):
                trial.writing()
            trial.first_start()
            trial.migration()
            trial.backup()
            trial.changing()
            told = trial.told()
            self.assertEqual((told["lost"], told["doubled"], told["faults"]), (0, 0, []))
            self.assertEqual(told["integrity"], "good")
            self.assertGreater(int(str(told["confirmed"])), 10)
            with contextlib.closing(connect(trial.desk)) as db:
                (one, blob, two) = db.execute(
                    "SELECT a.id, b.trace, b.id FROM strokes a, strokes b WHERE a.rowid = 1 AND b.rowid = 2"
                ).fetchone()
                db.execute("UPDATE strokes SET trace = ? WHERE id = ?", (blob, one))
            spoilt = trial.told()
            self.assertEqual((spoilt["lost"], spoilt["doubled"]), (1, 1), f"{one} was overwritten with {two}")
