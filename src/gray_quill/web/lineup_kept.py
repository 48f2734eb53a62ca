"""Kept line-ups: with what counted and the verdict, opened again as they were, and measured again with today's pens."""

import dataclasses
from typing import Annotated, Any

from flask import Blueprint
from pydantic import Field, StringConstraints

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError, NotFound
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lineup.retest import Moved, moved
from gray_quill.core.quantities import record_json
from gray_quill.store.items import get_thing
from gray_quill.store.kept import read_kept
from gray_quill.store.pens import get_pen
from gray_quill.store.runs import LineupHead, list_lineups
from gray_quill.store.sheets import get_sheet
from gray_quill.store.trials import Trial, bin_trial, get_trial, keep_trial
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.jobs import JobItem, jobs
from gray_quill.web.lineup import (
    Key,
    LinedUp,
    LineupCandidate,
    LineupRun,
    NewLineup,
    RankBody,
    Verdict,
    measuring,
    rank_lineup,
)
from gray_quill.web.records import BinChange, Printable

lineup_kept = Blueprint("lineup_kept", __name__)


class KeepLineup(RankBody):
    """A line-up that was measured, under a name, with what counts and the verdict so far."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60), Printable]
    verdict: Verdict = ""
    families: Annotated[dict[Key, Verdict], Field(max_length=20)] = Field(default_factory=dict)


class KeptLineups(Model):
    lineups: list[LineupHead]


class KeptLineup(Model):
    """run_id: the task its measuring can be read and ranked by; set: what counted, and the verdict."""

    head: LineupHead
    run_id: str
    set: KeepLineup


class Retest(Model):
    """left_out: candidates that cannot be measured again, and why; asked: the task that measures the others."""

    asked: JobItem
    left_out: list[str]


@dataclasses.dataclass(frozen=True)
class MovedItem(Moved):
    """key, name: of the candidate now."""

    key: str = ""
    name: str = ""


class MovedSince(Model):
    """same: how many readings are what they were; changed: what is not as it was then besides, in words."""

    moved: list[MovedItem]
    same: int
    changed: list[str]


class MovedQuery(Model):
    kept_id: Key


@operation(lineup_kept, "POST", "/lineup/runs/<job_id>/keep", LineupHead, body=KeepLineup, status=201)
def keep_lineup(job_id: str, body: KeepLineup) -> LineupHead:
    """Keep what was measured, what counted and the verdict."""
    run: LineupRun = jobs().result(job_id, "lineup")
    rank_lineup(job_id, body)  # refuses what it could not be ranked by again
    first = run.candidates[0]
    inputs = {"name": body.name, "set": body.model_dump(mode="json"), "candidates": len(run.candidates)}
    trial = Trial("lineup", first.hand_id, first.device_id, inputs, {"run": record_json(run)}, body.verdict)
    kept = keep_trial(db(), trial)
    return next(head for head in list_lineups(db()) if head.id == kept.id)


@operation(lineup_kept, "GET", "/lineup/kept", KeptLineups)
def kept_lineups() -> KeptLineups:
    """All kept line-ups, newest first."""
    return KeptLineups(lineups=list_lineups(db()))


@operation(lineup_kept, "PUT", "/lineup/kept/<kept_id>/bin", KeptLineups, body=BinChange)
def bin_lineup(kept_id: str, body: BinChange) -> KeptLineups:
    """Put a kept line-up into the bin, or back."""
    bin_trial(db(), "lineup", kept_id, body.binned)
    return kept_lineups()


@operation(lineup_kept, "POST", "/lineup/kept/<kept_id>/open", KeptLineup)
def open_lineup(kept_id: str) -> KeptLineup:
    """Lay a kept line-up out as it was measured."""
    trial = get_trial(db(), "lineup", kept_id)
    run = _run(trial)
    job = jobs().finished("lineup", run)
    head = next((h for h in list_lineups(db()) if h.id == kept_id), None)
    if head is None:
        raise NotFound("This line-up is in the bin. Put it back first.", "kept_id")
    return KeptLineup(head=head, run_id=job.id, set=_set(trial, head.name))


def _run(trial: Trial) -> LineupRun:
    return read_kept(LineupRun, trial.results["run"])


def _set(trial: Trial, name: str) -> KeepLineup:
    return KeepLineup.model_validate({**trial.inputs["set"], "name": name})


@operation(lineup_kept, "POST", "/lineup/kept/<kept_id>/retest", Retest, status=202)
def retest_lineup(kept_id: str) -> Retest:
    """Measure a kept line-up again with today's revisions of its pens, on the same writing."""
    run = _run(get_trial(db(), "lineup", kept_id))
    left_out, asked = [], []
    for one in run.candidates:
        why = _gone(one.pen_id, one.hand_id, one.device_id)
        if why:
            left_out.append(f"{one.name}: {why}")
        else:
            who = {"pen_id": one.pen_id, "hand_id": one.hand_id, "device_id": one.device_id}
            asked.append(LineupCandidate(**who, revision=None))
    unique = {_who(c): c for c in asked}
    if run.sheet_id:
        get_sheet(db(), run.sheet_id)
    if len(unique) < 2:
        raise InputError(
            f"Too few of it are there to be measured again ({'; '.join(left_out) or 'one pen in one hand'}). "
            "Put them back from the bin first.",
            "kept_id",
        )
    body = NewLineup(
        candidates=list(unique.values()), sheet_id=run.sheet_id or None, seed=run.seed, glass=run.glass, tip=run.tip
    )
    return Retest(asked=measuring(body).item(), left_out=left_out)


def _gone(pen_id: str, hand_id: str, device_id: str) -> str:
    """Why a candidate cannot be measured again; "" where it can."""
    try:
        if get_pen(db(), pen_id).binned:
            return "its pen is in the bin"
        get_thing(db(), Hand, hand_id)
        get_thing(db(), Device, device_id)
    except NotFound as error:
        return error.message
    return ""


@operation(lineup_kept, "GET", "/lineup/runs/<job_id>/moved", MovedSince, query=MovedQuery)
def read_moved(job_id: str, query: MovedQuery) -> MovedSince:
    """What moved since a line-up was kept, and what of that is noise."""
    now: LineupRun = jobs().result(job_id, "lineup")
    before = _run(get_trial(db(), "lineup", query.kept_id))
    places = {_who(c): k for k, c in enumerate(before.candidates)}
    both = [(k, places[_who(c)]) for k, c in enumerate(now.candidates) if _who(c) in places]
    old, new = (_only(run, kept) for run, kept in ((before, [b for _, b in both]), (now, [n for n, _ in both])))
    found = [_named(m, now.candidates[both[m.candidate][0]]) for m in moved(old, new)]
    told = sum(v is not None for values in new.values for row in values for v in row[:1])
    return MovedSince(moved=found, same=told - len(found), changed=_changed(before, now))


def _only(run: LineupRun, which: list[int]) -> Any:
    of = run.measured
    return dataclasses.replace(of, candidates=[of.candidates[k] for k in which], values=[of.values[k] for k in which])


def _who(one: LinedUp | LineupCandidate) -> tuple[str, str, str]:
    return one.pen_id, one.hand_id, one.device_id


def _named(one: Moved, of: LinedUp) -> MovedItem:
    return MovedItem(**vars(one), key=of.key, name=of.name)


def _changed(before: LineupRun, now: LineupRun) -> list[str]:
    said = []
    revisions = {c.pen_id: c.revision for c in before.candidates}
    for c in {c.pen_id: c for c in now.candidates}.values():
        if revisions.get(c.pen_id, c.revision) != c.revision:
            said.append(f"{c.name} was revision {revisions[c.pen_id]} and is {c.revision}")
    was = {(w.hand_id, w.device_id): w for w in before.written}
    for w in now.written:
        old = was.get((w.hand_id, w.device_id))
        if old is None:
            continue
        for what, a, b in (("the hand", old.hand, w.hand), ("the device", old.device, w.device)):
            if a != b:
                said.append(f"{what} {b.name} is not as it was")
        if old.rules != w.rules:
            said.append(f"the palm rules of {w.hand.name} on {w.device.name} are others")
    if before.version != now.version:
        said.append(f"version {before.version} measured then, {now.version} now")
    if before.sheet_id and [len(r[0]) for r in before.measured.values] != [len(r[0]) for r in now.measured.values]:
        said.append("the sheet's writing is not what it was: blocks are not the same")
    return said
