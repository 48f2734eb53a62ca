"""Kept runs of the trials, so that two can be laid side by side; binned ones can be put back."""

import dataclasses
import json
import sqlite3
import uuid
from typing import Any

from gray_quill import __version__
from gray_quill.core.errors import NotFound
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import written


@dataclasses.dataclass(frozen=True)
class Trial:
    """One run: its inputs (settings, recipe, device, seed) and results as JSON, and what they mean in words."""

    kind: str
    hand_id: str
    device_id: str
    inputs: dict[str, Any]
    results: dict[str, Any]
    verdict: str
    pen_id: str | None = None
    revision: int | None = None
    id: str = ""
    created_at: str = ""


def keep_trial(db: sqlite3.Connection, trial: Trial) -> Trial:
    """Keep a run; returns it with its id and time, and the version that made it among its inputs."""
    kept = dataclasses.replace(
        trial,
        id=trial.id or f"{trial.kind}-{uuid.uuid4().hex[:12]}",
        created_at=trial.created_at or now(),
        inputs={**trial.inputs, "made_by": __version__},
    )
    with transaction(db):
        db.execute(
            "INSERT INTO trials (id, kind, hand_id, device_id, pen_id, revision, inputs, results, verdict, created_at) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                kept.id,
                kept.kind,
                kept.hand_id,
                kept.device_id,
                kept.pen_id,
                kept.revision,
                written(kept.inputs),
                written(kept.results),
                kept.verdict,
                kept.created_at,
            ),
        )
    return kept


def list_trials(db: sqlite3.Connection, kind: str) -> list[Trial]:
    """Those that are not in the bin, newest first."""
    return [
        _trial(row)
        for row in db.execute(
            "SELECT * FROM trials WHERE kind = ? AND binned_at IS NULL ORDER BY created_at DESC, rowid DESC", (kind,)
        )
    ]


def get_trial(db: sqlite3.Connection, kind: str, trial_id: str) -> Trial:
    row = db.execute("SELECT * FROM trials WHERE kind = ? AND id = ?", (kind, trial_id)).fetchone()
    if row is None:
        raise NotFound(f"There is no kept run {trial_id!r}. Choose one from the list.", "run_id")
    return _trial(row)


def bin_trial(db: sqlite3.Connection, kind: str, trial_id: str, binned: bool) -> None:
    """Put a run into the bin, or back."""
    get_trial(db, kind, trial_id)
    with transaction(db):
        db.execute("UPDATE trials SET binned_at = ? WHERE id = ?", (now() if binned else None, trial_id))


def _trial(row: sqlite3.Row) -> Trial:
    return Trial(
        row["kind"],
        row["hand_id"],
        row["device_id"],
        json.loads(row["inputs"]),
        json.loads(row["results"]),
        row["verdict"],
        row["pen_id"],
        row["revision"],
        row["id"],
        row["created_at"],
    )
