"""Blind pairs as they are judged: kept with each answer, so that a judge can stop and go on."""

import dataclasses
import sqlite3
from collections.abc import Sequence

from gray_quill.core.errors import InputError, Stale
from gray_quill.core.lineup.pairs import Answer, Pairs
from gray_quill.store.database import transaction
from gray_quill.store.kept import read_kept, written
from gray_quill.store.trials import Trial, get_trial, keep_trial, list_trials

KIND = "pairs"
MOST_ANSWERS = 400


@dataclasses.dataclass(frozen=True)
class Judging(Pairs):
    """A judge's pairs as they are kept."""

    id: str = ""
    created_at: str = ""


def begin_judging(db: sqlite3.Connection, pair: tuple[str, str], pairs: Pairs) -> Judging:
    """pair: the hand that wrote the line, and on which device."""
    inputs: dict[str, object] = {"judge": pairs.judge, "sheet_id": pairs.sheet_id, "seed": pairs.seed}
    inputs["pens"] = [{"pen_id": p.pen_id, "revision": p.revision} for p in pairs.pens]
    return _judging(keep_trial(db, Trial(KIND, *pair, inputs, _results(pairs.answers), "")))


def list_judgings(db: sqlite3.Connection) -> list[Judging]:
    """Those that are not in the bin, newest first."""
    return [_judging(t) for t in list_trials(db, KIND)]


def get_judging(db: sqlite3.Connection, judging_id: str) -> Judging:
    return _judging(get_trial(db, KIND, judging_id))


def answered(db: sqlite3.Connection, judging_id: str, asked: int, answer: Answer | None) -> Judging:
    """Keep the answer to question `asked`, counted from 0; None takes the one before it back. Raises Stale where
    another window answered meanwhile.
    """
    with transaction(db):
        now = get_judging(db, judging_id)
        if asked != len(now.answers):
            raise Stale("This pair was answered elsewhere meanwhile. You see the next one.")
        if answer is not None and asked >= MOST_ANSWERS:
            raise InputError(f"After {MOST_ANSWERS} pairs there is no more to be learnt. Look at what they say.")
        answers = [*now.answers, answer] if answer is not None else now.answers[:-1]
        db.execute("UPDATE trials SET results = ? WHERE id = ?", (written(_results(answers)), judging_id))
    return dataclasses.replace(now, answers=answers)


def _results(answers: Sequence[Answer]) -> dict[str, object]:
    return {"answers": [vars(a) for a in answers]}


def _judging(trial: Trial) -> Judging:
    heads = {"id": trial.id, "created_at": trial.created_at}
    return read_kept(Judging, {**trial.inputs, **trial.results, **heads})
