"""Kept runs of each trial as records, whatever version kept them."""

import dataclasses
import sqlite3
from typing import Any

from gray_quill.core.digitiser.device import Device
from gray_quill.core.latency.figures import Figure, Filmed, Live
from gray_quill.core.latency.trial import Lag
from gray_quill.core.palm.outcome import Outcome
from gray_quill.core.palm.rules import Rules
from gray_quill.core.pen.recipe import Recipe
from gray_quill.store.kept import read_kept
from gray_quill.store.trials import Trial, get_trial, list_trials


@dataclasses.dataclass(frozen=True)
class LagRun:
    """A run of the Lag trial with all it was made from. hand: its name. made_by: the version that worked its figures
    out, empty of runs kept before 0.9.0; they are not worked out again.
    """

    id: str
    created_at: str
    verdict: str
    hand: str
    recipe: Recipe
    device: Device
    look_ahead_ms: float
    now: Lag
    live: Live | None
    filmed: Filmed | None
    figures: list[Figure]
    made_by: str = ""


@dataclasses.dataclass(frozen=True)
class PalmRun:
    """A run of the Palm trial. hand, device: their names. own: a real hand did it; hard: its drills are of the hard
    set. made_by: as of a lag run.
    """

    id: str
    created_at: str
    grade: str
    hand: str
    device: str
    own: bool
    rules: Rules
    total: Outcome
    made_by: str = ""
    hard: bool = False


@dataclasses.dataclass(frozen=True)
class LineupHead:
    """A kept line-up as a list shows it. candidates: how many."""

    id: str
    created_at: str
    name: str
    candidates: int
    verdict: str
    made_by: str = ""


def list_lineups(db: sqlite3.Connection) -> list[LineupHead]:
    """Those that are not in the bin, newest first."""
    return [_lineup(t) for t in list_trials(db, "lineup")]


def get_lineup(db: sqlite3.Connection, run_id: str) -> LineupHead:
    return _lineup(get_trial(db, "lineup", run_id))


def _lineup(trial: Trial) -> LineupHead:
    heads = {"id": trial.id, "created_at": trial.created_at, "verdict": trial.verdict}
    return read_kept(LineupHead, {**trial.inputs, **heads})


def lag_run(trial: Trial) -> LagRun:
    heads = {"id": trial.id, "created_at": trial.created_at, "verdict": trial.verdict}
    return read_kept(LagRun, {**trial.inputs, **trial.results, **heads})


def palm_run(trial: Trial) -> PalmRun:
    heads = {"id": trial.id, "created_at": trial.created_at, "grade": trial.verdict}
    total = _outcome_since_1(trial.results.get("total", {}))
    return read_kept(PalmRun, {**trial.inputs, **heads, "own": bool(trial.inputs.get("own")), "total": total})


def _outcome_since_1(total: dict[str, Any]) -> dict[str, Any]:
    """Version 0 kept the zoom in percent, and palms let through only in the table of confusion."""
    if "zoom_pct" not in total:
        return total
    kept = (total.get("confusion") or {}).get("palm_kept", 0)
    return {**total, "zoomed": total["zoom_pct"] / 100, "palms_kept": kept}


def list_lag_runs(db: sqlite3.Connection) -> list[LagRun]:
    """Those that are not in the bin, newest first."""
    return [lag_run(t) for t in list_trials(db, "lag")]


def list_palm_runs(db: sqlite3.Connection) -> list[PalmRun]:
    """Those that are not in the bin, newest first."""
    return [palm_run(t) for t in list_trials(db, "palm")]


def get_lag_run(db: sqlite3.Connection, run_id: str) -> LagRun:
    return lag_run(get_trial(db, "lag", run_id))


def get_palm_run(db: sqlite3.Connection, run_id: str) -> PalmRun:
    return palm_run(get_trial(db, "palm", run_id))
