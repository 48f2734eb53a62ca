"""Line-up: pens on devices in hands, measured on the same ground and ranked by what counts for somebody."""

import contextlib
import dataclasses
import multiprocessing
import os
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from typing import Annotated

from flask import Blueprint
from pydantic import Field, StringConstraints

from gray_quill import __version__
from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.lineup.case import Candidate, Ground, own_ground, simulated_ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import MOST_CANDIDATES, Measured, Runs, check_candidates, measure
from gray_quill.core.lineup.presets import PRESETS
from gray_quill.core.lineup.ranking import Must, Ranking, Scored, Table, points_of, rank
from gray_quill.core.palm.rules import START, Rules
from gray_quill.core.paper import first_paper
from gray_quill.core.readings.reading import Reading
from gray_quill.store.items import get_thing
from gray_quill.store.palm_settings import kept_setting
from gray_quill.store.pens import Pen, get_pen
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.jobs import Job, JobItem, Progress, jobs
from gray_quill.web.records import Id, Printable, Source

lineup = Blueprint("lineup", __name__)
MOST_OWN = 12
WORTH_IT = 16  # candidates from which processes of their own are started
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=60), Printable]
Key = Annotated[str, StringConstraints(min_length=1, max_length=300)]


@dataclasses.dataclass(frozen=True)
class CriterionItem:
    """What a criterion is; nothing and all: the values that count 0 and 100."""

    key: str
    reading: Reading
    nothing: float
    all: float
    reason: str
    needs: str


class LineupInfo(Model):
    """presets: weights by kind of user."""

    criteria: list[CriterionItem]
    presets: dict[str, dict[str, float]]


class LineupCandidate(Model):
    """revision: the newest where none is named."""

    pen_id: Id
    revision: int | None = Field(None, ge=1, le=1_000_000_000)
    hand_id: Id
    device_id: Id


class NewLineup(Model):
    """sheet_id: on the writing of this sheet, as its hand wrote it on its device; simulated hands write otherwise.
    glass, tip: what it was written on and with, in the writer's words, for the report.
    """

    candidates: Annotated[list[LineupCandidate], Field(min_length=1, max_length=MOST_CANDIDATES)]
    sheet_id: Id | None = None
    seed: int = Field(1, ge=0, le=1_000_000)
    glass: Words = ""
    tip: Words = ""


@dataclasses.dataclass(frozen=True)
class LinedUp:
    """A candidate as it was measured; group: its pen's kind."""

    key: str
    name: str
    group: str
    pen_id: str
    revision: int
    hand_id: str
    device_id: str


@dataclasses.dataclass(frozen=True)
class Written:
    """By whom and on what it was written, as they were then."""

    hand_id: str
    device_id: str
    hand: Hand
    device: Device
    rules: Rules


@dataclasses.dataclass(frozen=True)
class LineupRun:
    """points: 0 to 100 by candidate and criterion, None where it cannot be told; unequal: conditions that are not the
    same for all, in words; version: of the program that measured.
    """

    candidates: list[LinedUp]
    measured: Measured
    points: list[list[float | None]]
    seed: int
    real: bool
    unequal: list[str]
    version: str
    sheet_id: str = ""
    glass: str = ""
    tip: str = ""
    written: list[Written] = dataclasses.field(default_factory=list)


class OwnScores(Model):
    """A criterion scored by hand: points by candidate, and why."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40), Printable]
    points: dict[Key, Annotated[float, Field(ge=0, le=100)]]
    note: Annotated[str, StringConstraints(max_length=400)] = ""


class MustBody(Model):
    criterion: Key
    bound: float


Verdict = Annotated[str, StringConstraints(max_length=4000)]


class RankBody(Model):
    """weights: by criterion, those of one's own too; by_kind: a ranking for each kind of pen."""

    weights: dict[Key, Annotated[float, Field(ge=0, le=1e6)]]
    musts: Annotated[list[MustBody], Field(max_length=20)] = Field(default_factory=list)
    own: Annotated[list[OwnScores], Field(max_length=MOST_OWN)] = Field(default_factory=list)
    by_kind: bool = False


@dataclasses.dataclass(frozen=True)
class GroupRanking:
    """group: the kind, "" for all together; refused: why it cannot be ranked, with none of its places then; presets:
    the place of each candidate by preset, where it can be told.
    """

    group: str
    ranking: Ranking
    refused: str
    presets: dict[str, dict[str, int]]


class Rankings(Model):
    rankings: list[GroupRanking]


@operation(lineup, "GET", "/lineup", LineupInfo)
def read_lineup() -> LineupInfo:
    """The criteria of a line-up and what counts for whom."""
    names = [f.name for f in dataclasses.fields(CriterionItem)]
    items = [CriterionItem(**{n: getattr(c, n) for n in names}) for c in CRITERIA.values()]
    return LineupInfo(criteria=items, presets=PRESETS)


@operation(lineup, "POST", "/lineup/runs", JobItem, body=NewLineup, status=202)
def run_lineup(body: NewLineup) -> JobItem:
    """Measure candidates, every criterion on every block."""
    return measuring(body).item()


def measuring(body: NewLineup) -> Job:
    """A task that measures these."""
    pens = [get_pen(db(), c.pen_id, c.revision) for c in body.candidates]
    binned = next((p for p in pens if p.binned), None)
    if binned is not None:
        raise InputError(f"{binned.recipe.name} is in the bin. Put it back, or leave it out.", "candidates")
    pairs = list(dict.fromkeys((c.hand_id, c.device_id) for c in body.candidates))
    if body.sheet_id:
        sheet = get_sheet(db(), body.sheet_id)
        if pairs != [(sheet.hand_id, sheet.device_id)]:
            raise InputError(
                "On your own writing only pens are compared: it was written by one hand on one device.", "candidates"
            )
    several = len(pairs) > 1
    items = [_lined_up(pen, c, several) for pen, c in zip(pens, body.candidates, strict=True)]
    candidates = [
        Candidate(item.key, item.name, pen.recipe, pairs.index((item.hand_id, item.device_id)))
        for item, pen in zip(items, pens, strict=True)
    ]
    check_candidates(candidates)
    grounds = [_ground(hand_id, device_id, body) for hand_id, device_id in pairs]
    unequal = _unequal(grounds, items)
    by = [Written(*ids, g.hand, g.device, g.rules) for ids, g in zip(pairs, grounds, strict=True)]
    how = {"sheet_id": body.sheet_id or "", "glass": body.glass, "tip": body.tip}
    seed, real = body.seed, body.sheet_id is not None

    by_key = {item.key: item for item in items}

    def run_of(measured: Measured) -> LineupRun:
        done = [by_key[key] for key in measured.candidates]
        return LineupRun(done, measured, points_of(measured), seed, real, unequal, __version__, **how, written=by)

    def work(progress: Progress) -> LineupRun:
        def so_far(measured: Measured) -> None:
            if len(measured.candidates) > 1:  # one alone is no line-up
                job.so_far = run_of(measured)

        with _on_all_cores(len(candidates)) as runs:
            return run_of(measure(candidates, grounds, progress, runs, so_far))

    job = jobs().start("lineup", work)
    return job


@contextlib.contextmanager
def _on_all_cores(count: int) -> Iterator[Runs]:
    """How candidates are run through: one after another, or where they are many by processes of their own, which take
    a second to start and end with what asked for them.
    """
    cores = os.cpu_count() or 1
    if count < WORTH_IT or cores < 2:
        yield map
        return
    pool = ProcessPoolExecutor(cores, multiprocessing.get_context("spawn"))  # a server of threads must not fork
    try:
        yield pool.map
    finally:
        pool.shutdown(wait=False, cancel_futures=True)


def _lined_up(pen: Pen, asked: LineupCandidate, several: bool) -> LinedUp:
    """Named by its pen, and by hand and device where these are several."""
    key, name = f"{pen.id} {pen.revision}", pen.recipe.name
    if several:
        key = f"{key} {asked.hand_id} {asked.device_id}"
        hand, device = get_thing(db(), Hand, asked.hand_id), get_thing(db(), Device, asked.device_id)
        name = f"{name}, {hand.name}, {device.name}"
    return LinedUp(key, name, pen.recipe.kind, pen.id, pen.revision, asked.hand_id, asked.device_id)


def _ground(hand_id: str, device_id: str, body: NewLineup) -> Ground:
    hand, device = get_thing(db(), Hand, hand_id), get_thing(db(), Device, device_id)
    kept = kept_setting(db(), hand_id, device_id)
    rules = kept[0] if kept else START
    if body.sheet_id is None:
        return simulated_ground(hand, device, first_paper(), rules, seed=body.seed)
    traces = memory().traces_of(db(), Source(sheet_id=body.sheet_id, part="words", stroke_ids=None))
    return own_ground(traces, hand, device, get_sheet(db(), body.sheet_id).paper, rules)


def _unequal(grounds: list[Ground], items: list[LinedUp]) -> list[str]:
    """What is not the same for all candidates."""
    said = []
    if len({g.hand.name for g in grounds}) > 1:
        said.append("different hands wrote: what a hand does counts as its pen's")
    if len({g.device.name for g in grounds}) > 1:
        said.append("different devices reported: each has its own rate, noise and panel")
    names = [item.pen_id for item in items]
    twice = sorted({n for n in names if len({i.revision for i in items if i.pen_id == n}) > 1})
    if twice:
        said.append(f"several revisions of {', '.join(twice)} take part")
    return said


@operation(lineup, "GET", "/lineup/runs/<job_id>", LineupRun)
def read_lineup_run(job_id: str) -> LineupRun:
    """What was measured; while more is, or in case it was cancelled, what was so far."""
    return jobs().result_so_far(job_id, "lineup")  # type: ignore[no-any-return]


@operation(lineup, "POST", "/lineup/runs/<job_id>/ranking", Rankings, body=RankBody)
def rank_lineup(job_id: str, body: RankBody) -> Rankings:
    """Rank what was measured by these weights, all together or by kind of pen."""
    run: LineupRun = jobs().result_so_far(job_id, "lineup")
    kinds = list(dict.fromkeys(c.group for c in run.candidates))
    groups = {kind: [c.key for c in run.candidates if c.group == kind] for kind in kinds}
    if not body.by_kind:
        groups = {"": [c.key for c in run.candidates]}
    table = Table(run.measured, [Scored(o.name, o.points, o.note) for o in body.own])
    return Rankings(rankings=[_ranked(table, body, group, keys) for group, keys in groups.items()])


def _ranked(table: Table, body: RankBody, group: str, keys: list[str]) -> GroupRanking:
    musts = [Must(m.criterion, m.bound) for m in body.musts]
    try:
        ranking, refused = rank(table, body.weights, musts, keys), ""
    except InputError as error:
        if not group:
            raise
        ranking, refused = Ranking([], {}, 0), error.message
    presets: dict[str, dict[str, int]] = {}
    for name, weights in PRESETS.items():
        with contextlib.suppress(InputError):
            told = rank(table, weights, musts, keys)
            presets[name] = {place.candidate: place.place for place in told.places}
    return GroupRanking(group, ranking, refused, presets)
