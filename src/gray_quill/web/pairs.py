"""Blind pairs: unnamed renderings of the writer's own line, judged two at a time, and what that says."""

import dataclasses
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint, Response
from pydantic import Field, StringConstraints

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError, NotFound
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.inferred_weights import Weight, fitted_weights, in_words
from gray_quill.core.lineup.measure import check_pens
from gray_quill.core.lineup.pairs import (
    Answer,
    Judge,
    Pairs,
    PenJudged,
    agreement,
    beside,
    judge_of,
    more_needed,
    next_pair,
    ranked,
    strengths_of,
)
from gray_quill.core.lineup.ranking import Scored, Table, rank
from gray_quill.formats.pairs_json import LONGEST_NAME, write_pairs
from gray_quill.store.judged import KIND, Judging, answered, begin_judging, get_judging, list_judgings
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import get_sheet
from gray_quill.store.trials import bin_trial
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, read_outside
from gray_quill.web.jobs import jobs
from gray_quill.web.line_pictures import line_in
from gray_quill.web.lineup import Key, LineupRun, RankBody
from gray_quill.web.records import BinChange, Id, Printable, Source
from gray_quill.web.replies import download

pairs = Blueprint("pairs", __name__)
MOST_PENS = 12
FEWEST_ANSWERS = 3  # before anything is said
JudgeName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME), Printable]


class PenAsked(Model):
    """revision: the newest where none is named."""

    pen_id: Id
    revision: int | None = Field(None, ge=1, le=1_000_000_000)


class NewPairs(Model):
    """Pens to be judged blind, on the line of a sheet."""

    pens: Annotated[list[PenAsked], Field(min_length=1, max_length=MOST_PENS)]
    sheet_id: Id
    judge: JudgeName = "me"
    seed: int = Field(1, ge=0, le=1_000_000)


@dataclasses.dataclass(frozen=True)
class JudgingItem:
    """asked: how many pairs were answered; pens: their ids, in no order of rank."""

    id: str
    created_at: str
    judge: str
    sheet_id: str
    pens: list[str]
    asked: int


class Judgings(Model):
    judgings: list[JudgingItem]


class PairToJudge(Model):
    """one, other: the writer's line twice, as data URLs; nothing says which pens they are. asked: how many pairs were
    answered before.
    """

    id: str
    asked: int
    one: str
    other: str


class AnswerBody(Model):
    """asked: the number of the pair that is answered; answer: 1 for the first, -1 for the second, 0 for no difference,
    None to take the answer before back.
    """

    asked: int = Field(ge=0, le=1_000_000)
    answer: Literal[-1, 0, 1] | None


class PairsAsked(RankBody):
    """run_id: a line-up the same pens were measured in, to be laid beside, ranked by these weights."""

    run_id: Key | None = None
    weights: dict[Key, Annotated[float, Field(ge=0, le=1e6)]] = Field(default_factory=dict)


@dataclasses.dataclass(frozen=True)
class JudgedPen:
    """theta: ln strength with its interval, mean 0; tied: not told apart from the one before."""

    pen_id: str
    revision: int
    name: str
    theta: float
    low: float
    high: float
    tied: bool


class PairsTold(Model):
    """What one judge's answers say. pulled: one was always or never chosen, so that its strength is drawn to the
    middle; more: pairs until the first is told from the second, None for too many; agreement: mean Kendall tau of all
    judges of these pens, None for one alone; tau, rho: with the measured ranking; weights: of criteria these answers
    go by; words: the same in words.
    """

    judge: str
    others: list[str]
    pens: list[JudgedPen]
    told: Judge
    at_random: bool
    pulled: bool
    more: int | None
    agreement: float | None
    tau: float | None
    rho: float | None
    weights: list[Weight]
    words: list[str]


@operation(pairs, "POST", "/pairs", JudgingItem, body=NewPairs, status=201)
def begin_pairs(body: NewPairs) -> JudgingItem:
    """Begin to judge pens blind."""
    pens = [get_pen(db(), p.pen_id, p.revision) for p in body.pens]
    check_pens([p.recipe.name for p in pens], [f"{p.id} {p.revision}" for p in pens])
    sheet = get_sheet(db(), body.sheet_id)
    line_in(_line(body.sheet_id), pens[0].recipe)  # refuses a sheet without ink
    of = sorted((PenJudged(p.id, p.revision) for p in pens), key=lambda p: (p.pen_id, p.revision))
    asked = Pairs(body.judge, of, body.sheet_id, body.seed, [])
    return _item(begin_judging(db(), (sheet.hand_id, sheet.device_id), asked))


@operation(pairs, "GET", "/pairs", Judgings)
def read_judgings() -> Judgings:
    """Everybody's pairs that are kept, newest first."""
    return Judgings(judgings=[_item(j) for j in list_judgings(db())])


def _item(of: Judging) -> JudgingItem:
    return JudgingItem(of.id, of.created_at, of.judge, of.sheet_id, [p.pen_id for p in of.pens], len(of.answers))


def _line(sheet_id: str) -> Source:
    return Source(sheet_id=sheet_id, part="line", stroke_ids=None)


@operation(pairs, "GET", "/pairs/<judging_id>/pair", PairToJudge, costly=True)
def read_pair(judging_id: str) -> PairToJudge:
    """The pair whose answer teaches most."""
    return _pair(get_judging(db(), judging_id))


def _pair(of: Judging) -> PairToJudge:
    shown = next_pair(of.answers, len(of.pens), of.seed)
    pens = [get_pen(db(), of.pens[k].pen_id, of.pens[k].revision).recipe for k in shown]
    images = [line_in(_line(of.sheet_id), pen) for pen in pens]
    return PairToJudge(id=of.id, asked=len(of.answers), one=images[0], other=images[1])


@operation(pairs, "POST", "/pairs/<judging_id>/answers", PairToJudge, body=AnswerBody, costly=True)
def answer_pair(judging_id: str, body: AnswerBody) -> PairToJudge:
    """Answer the pair, or take the last answer back; tells the next pair."""
    now = get_judging(db(), judging_id)
    answer = None
    if body.answer is not None:
        answer = Answer(*next_pair(now.answers, len(now.pens), now.seed), body.answer)
    return _pair(answered(db(), judging_id, body.asked, answer))


@operation(pairs, "PUT", "/pairs/<judging_id>/bin", Judgings, body=BinChange)
def bin_pairs(judging_id: str, body: BinChange) -> Judgings:
    """Put a judge's pairs into the bin, or back."""
    bin_trial(db(), KIND, judging_id, body.binned)
    return read_judgings()


@operation(pairs, "GET", "/pairs/<judging_id>/file", "application/json")
def take_out_pairs(judging_id: str) -> Response:
    """A judge's pairs as a file."""
    of = get_judging(db(), judging_id)
    return download(write_pairs(of), "application/json", f"Pairs of {of.judge}.json")


@operation(
    pairs,
    "POST",
    "/pairs/<judging_id>/others",
    JudgingItem,
    body="application/octet-stream",
    status=201,
    reads_file=True,
)
def bring_in_pairs(judging_id: str, body: bytes) -> JudgingItem:
    """Bring in the file of another judge of the same pens on the same line."""
    of = get_judging(db(), judging_id)
    theirs: Pairs = read_outside("pairs", body)
    if theirs.of != of.of:
        raise InputError(
            "This file judges other pens, other revisions of them, or another line. Bring it in where its own "
            "pens are judged.",
            "file",
        )
    sheet = get_sheet(db(), of.sheet_id)
    pens = list(of.pens)
    same = dataclasses.replace(theirs, pens=pens, answers=theirs.answers_by(pens))
    there = [j for j in list_judgings(db()) if j.of == of.of and j.judge == same.judge and j.answers == same.answers]
    return _item(there[0] if there else begin_judging(db(), (sheet.hand_id, sheet.device_id), same))


@operation(pairs, "POST", "/pairs/<judging_id>/told", PairsTold, body=PairsAsked)
def read_told(judging_id: str, body: PairsAsked) -> PairsTold:
    """What a judge's answers say: who is preferred, how sure, how far the judge can be relied on, and what he or she
    goes by.
    """
    of = get_judging(db(), judging_id)
    count = len(of.pens)
    if len(of.answers) < FEWEST_ANSWERS:
        raise InputError(f"Answer {FEWEST_ANSWERS} pairs at least; twice as many as there are pens tell more.")
    known = strengths_of(of.answers, count)
    others = [j for j in list_judgings(db()) if j.of == of.of and j.id != of.id and len(j.answers) >= FEWEST_ANSWERS]
    agrees = agreement([known, *(strengths_of(j.answers_by(of.pens), count) for j in others)])
    judge = judge_of(of.answers, count)
    judged = sum(not a.checks for a in of.answers)
    more = more_needed(known, judged)
    names = [get_pen(db(), p.pen_id, p.revision).recipe.name for p in of.pens]
    pens = [
        JudgedPen(
            **vars(of.pens[r.candidate]), name=names[r.candidate], theta=r.theta, low=r.low, high=r.high, tied=r.tied
        )
        for r in ranked(known)
    ]
    measured = _measured(of, body)
    level = beside(known, measured[0]) if measured else None
    weights = fitted_weights(of.answers, *measured[1:]) if measured else []
    words = [_first_words(pens, more, judge.at_random), _judge_words(judge, known.pulled, pens)]
    if weights:
        words.append(in_words(weights, [CRITERIA[w.criterion].label for w in weights], judged))
    return PairsTold(
        judge=of.judge,
        others=[j.judge for j in others],
        pens=pens,
        told=judge,
        at_random=judge.at_random,
        pulled=known.pulled,
        more=more,
        agreement=agrees,
        tau=level[0] if level else None,
        rho=level[1] if level else None,
        weights=weights,
        words=words,
    )


def _measured(of: Judging, body: PairsAsked) -> tuple[list[float], list[str], Floats] | None:
    """Totals of the pens judged by these weights, and the criteria that can be told of all of them with their points;
    None where they were not all measured, on one ground.
    """
    if body.run_id is None or not body.weights:
        return None
    try:
        run: LineupRun = jobs().result(body.run_id, "lineup")
    except NotFound:
        return None  # it is not there any more: the answers are
    at = {(c.pen_id, c.revision): c.key for c in run.candidates}
    keys = [at.get((p.pen_id, p.revision)) for p in of.pens]
    if len(run.written) > 1 or any(k is None for k in keys):
        return None
    table = Table(run.measured, [Scored(o.name, o.points, o.note) for o in body.own])
    rows = [table.candidates.index(str(k)) for k in keys]
    places = {p.candidate: p.total for p in rank(table, body.weights, [], [str(k) for k in keys]).places}
    told = [k for k, key in enumerate(table.keys) if key in CRITERIA and not np.isnan(table.points[rows, k]).any()]
    told = [k for k in told if np.ptp(table.points[rows, k]) > 1]  # what is the same for all says nothing
    return [places[str(k)] for k in keys], [table.keys[k] for k in told], table.points[np.ix_(rows, told)]


def _first_words(pens: list[JudgedPen], more: int | None, at_random: bool) -> str:
    first, second = pens[0].name, pens[1].name
    if at_random:
        return "Nothing tells these answers from answers at random: no pen is preferred, so far as can be told."
    if more == 0:
        return f"{first} is preferred to {second}, and to those after it."
    if more is None:
        return f"{first} and {second} are alike to this judge: telling them apart would take hundreds of pairs."
    return f"{first} seems preferred to {second}: some {more} more {'pair' if more == 1 else 'pairs'} would tell."


def _judge_words(judge: Judge, pulled: bool, pens: list[JudgedPen]) -> str:
    said = []
    if judge.agrees is not None:
        said.append(f"of {judge.twice} pairs seen again {round(judge.agrees * judge.twice)} were answered alike")
    if judge.checked is not None:
        held = round(judge.checked * judge.checks)
        said.append(f"the same shown twice was called no different {held} times of {judge.checks}")
    if pulled:
        said.append(f"{pens[0].name} or {pens[-1].name} was always or never chosen: how far ahead it is cannot be told")
    told = "; ".join(said)
    return f"{told[:1].upper()}{told[1:]}." if told else "No pair was seen twice yet, so the judge cannot be told."
