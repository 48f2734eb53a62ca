"""The Palm trial: drills of a simulated or a real hand, judged with rules; rules that fit; posture; runs and settings
kept.
"""

from collections.abc import Collection
from typing import Annotated, Literal

from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import COLUMNS, make_stream
from gray_quill.core.palm.drills import DRILLS, intended, simulate
from gray_quill.core.palm.hard.drills import HARD_DRILLS, digest, simulate_hard
from gray_quill.core.palm.outcome import GRADES, Grade
from gray_quill.core.palm.posture import Posture, in_words, read_posture
from gray_quill.core.palm.proof import practice_sessions, tuning_sessions
from gray_quill.core.palm.recommend import Recommended, recommend
from gray_quill.core.palm.rules import OFF, START, Rules
from gray_quill.core.palm.state import Limits
from gray_quill.core.palm.trees import Trees, trees
from gray_quill.core.palm.trial import JudgedRun, Part, judge_run
from gray_quill.core.palm.zone import Zone, zone_of
from gray_quill.core.quantities import Control, describe_record, record_json
from gray_quill.formats.contacts_csv import write_contacts
from gray_quill.store.items import get_thing
from gray_quill.store.palm_settings import keep_setting, kept_setting
from gray_quill.store.palm_told import count_told
from gray_quill.store.runs import PalmRun, get_palm_run, list_palm_runs, palm_run
from gray_quill.store.trials import Trial, bin_trial, keep_trial
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, read_outside
from gray_quill.web.jobs import JobItem, Progress, jobs
from gray_quill.web.palm_pair import Pair, pair_of, zone_for
from gray_quill.web.palm_told import told_sessions
from gray_quill.web.records import BinChange, Id, PostureIn, RulesIn, RulesSeen, StreamBody, ZoneIn
from gray_quill.web.replies import download

palm = Blueprint("palm", __name__)
MOST_OWN = 60  # takes: five of each drill and some
DrillName = Annotated[str, Field(max_length=40)]
Seed = Annotated[int, Field(ge=0, le=1_000_000)]


class ContactsQuery(Pair):
    drill: DrillName
    hard: bool = False
    seed: Seed = 1


class ScreenQuery(Model):
    width_mm: float = Field(ge=20, le=2000)
    height_mm: float = Field(ge=20, le=2000)


class DrillItem(Model):
    """asks: how many gestures are meant; meant: which, empty where every touch is a palm."""

    name: str
    ask: str
    meant: str
    asks: int


class PalmInfo(Model):
    """The drills, those of the hard set with its digest, the rules as controls, and the table of grades."""

    drills: list[DrillItem]
    hard: list[DrillItem]
    hard_digest: str
    controls: list[Control]
    off: Rules
    grades: list[Grade]


class PalmSetting(Model):
    """Rules and posture of a hand on a device, and the engine's limits; kept is false where they are only what the
    hand's record says. told: how many decisions its writer knew better.
    """

    rules: Rules
    zone: Zone
    posture: Posture | None
    limits: Limits
    kept: bool
    told: int


class NewSetting(Pair):
    """saw: the rules that were kept when these were made."""

    rules: RulesIn
    posture: PostureIn | None = None
    saw: RulesSeen | None = None


class OwnPart(Model):
    """What a real hand did for one drill; enlarged: with the page enlarged first."""

    drill: DrillName
    stream: StreamBody
    enlarged: bool = False


class RunBody(Pair):
    """Drills of the simulated hand by name and seed, or what a real hand did, each once or several times; judged with
    these rules. hard: of the hard set. zone: None for the pair's own.
    """

    rules: RulesIn
    zone: ZoneIn | None = None
    drills: list[DrillName] = Field(default=[], max_length=40)
    hard: bool = False
    seed: Seed = 1
    own: list[OwnPart] = Field(default=[], max_length=MOST_OWN)


class PostureBody(Model):
    """A line written with the hand down, by a real hand (stream, with the tilt's azimuths) or the simulated one;
    corrected in words where given.
    """

    stream: StreamBody | None = None
    azimuths_deg: list[float] = Field(default=[], max_length=50_000)
    hand_id: Id | None = None
    device_id: Id | None = None
    seed: Seed = 1
    side: Literal["left", "right"] | None = None
    rest: Literal["below", "side", "above"] | None = None


class SweepBody(Pair):
    """Whose drills are searched: the simulated hand's, or those a real hand did. rules: those of now, which stay where
    none are better on own drills.
    """

    zone: ZoneIn | None = None
    own: list[OwnPart] = Field(default=[], max_length=MOST_OWN)
    rules: RulesIn = START


class PalmRuns(Model):
    runs: list[PalmRun]


@operation(palm, "GET", "/palm", PalmInfo)
def palm_info() -> PalmInfo:
    """The drills, the rules and the grades."""
    return PalmInfo(
        drills=[DrillItem(name=d.name, ask=d.ask, meant=d.meant, asks=d.asks) for d in DRILLS.values()],
        hard=[DrillItem(name=d.name, ask=d.holds, meant=d.meant, asks=0) for d in HARD_DRILLS.values()],
        hard_digest=digest(),
        controls=describe_record(Rules),
        off=OFF,
        grades=list(GRADES),
    )


@operation(palm, "GET", "/palm/trees", Trees)
def palm_trees() -> Trees:
    """What tells the look of a hand, for the rules in the browser."""
    return trees()


@operation(palm, "GET", "/palm/setting", PalmSetting, query=Pair)
def palm_setting(query: Pair) -> PalmSetting:
    """Rules and resting zone of a hand on a device, kept or as the hand's record says."""
    hand, _ = pair_of(query)
    kept = kept_setting(db(), query.hand_id, query.device_id)
    rules, posture = kept or (START, None)
    zone = posture.zone if posture else zone_of(hand)
    told = count_told(db(), query.hand_id, query.device_id)
    return PalmSetting(rules=rules, zone=zone, posture=posture, limits=Limits(), kept=kept is not None, told=told)


@operation(palm, "PUT", "/palm/setting", PalmSetting, body=NewSetting)
def keep_palm_setting(body: NewSetting) -> PalmSetting:
    """Keep rules and posture for a hand on a device; the sheet follows them from then on."""
    pair_of(body)
    keep_setting(db(), body.hand_id, body.device_id, body.rules, body.posture, body.saw)
    return palm_setting(body)


@operation(palm, "POST", "/palm/judge", JudgedRun, body=RunBody, remembered=True)
def judge_drills(body: RunBody) -> JudgedRun:
    """Drills judged with some rules: every contact, what it did, and what came of it."""
    zone, parts = _prepared(body)
    return judge_run(parts, body.rules, zone, _asked(body))


def _asked(body: RunBody) -> Collection[str]:
    return HARD_DRILLS if body.hard and not body.own else DRILLS


def _prepared(body: RunBody) -> tuple[Zone, list[Part]]:
    hand, device = pair_of(body)
    simulated = [] if body.own else body.drills or list(_asked(body))
    do = simulate_hard if body.hard else simulate
    parts = _own(body.own) or [(name, *do(hand, device, name, body.seed)) for name in simulated]
    return zone_for(body.zone, hand, body), parts


def _own(own: list[OwnPart]) -> list[Part]:
    streams = [(part.drill, part.stream.stream()) for part in own]
    return [(drill, stream, intended(drill, stream)) for drill, stream in streams]


@operation(palm, "POST", "/palm/sweeps", JobItem, body=SweepBody, status=202)
def sweep_rules(body: SweepBody) -> JobItem:
    """Sweep every rule and search the joint settings that fit a hand on a device."""
    hand, device = pair_of(body)
    zone = zone_for(body.zone, hand, body)
    own = [(stream, truth) for _, stream, truth in _own(body.own)]
    told = told_sessions(body)

    def work(progress: Progress) -> Recommended:
        if own:
            return recommend(practice_sessions(hand, device), zone, progress, [*told, *own], body.rules)
        return recommend([*told, *tuning_sessions(hand, device)], zone, progress)

    return jobs().start("sweep", work).item()


@operation(palm, "GET", "/palm/sweeps/<job_id>", Recommended)
def sweep_result(job_id: str) -> Recommended:
    """What a sweep came to."""
    return jobs().result(job_id, "sweep")  # type: ignore[no-any-return]


@operation(palm, "POST", "/palm/posture", Posture, body=PostureBody)
def measure_posture(body: PostureBody) -> Posture:
    """The posture read off a line written with the hand down, corrected in words where the writer knows better."""
    if body.stream is not None:
        posture = read_posture(body.stream.stream(), body.azimuths_deg)
    elif body.hand_id and body.device_id:
        hand, device = get_thing(db(), Hand, body.hand_id), get_thing(db(), Device, body.device_id)
        stream, _ = simulate(hand, device, "palm slides", body.seed)
        azimuth = hand.azimuth_deg if hand.side == "right" else 180 - hand.azimuth_deg
        posture = read_posture(stream, [azimuth] if device.digitiser.tilt else [])
    else:
        raise InputError("Give a stream, or a hand and a device that write for it.", "stream")
    if body.side or body.rest:
        posture = in_words(posture, body.side or posture.side, body.rest or posture.rest)
    return posture


@operation(palm, "POST", "/palm/runs", PalmRun, body=RunBody, status=201)
def keep_palm_run(body: RunBody) -> PalmRun:
    """Keep a run with its contacts, to lay it beside another later."""
    zone, parts = _prepared(body)
    hand, device = pair_of(body)
    found = judge_run(parts, body.rules, zone, _asked(body))
    inputs = {
        "rules": record_json(body.rules),
        "zone": record_json(zone),
        "hand": hand.name,
        "device": device.name,
        "seed": body.seed,
        "hard": body.hard and not body.own,
        "drills": [drill for drill, _, _ in parts],
        "own": [part.model_dump() for part in body.own],
    }
    results = {
        "total": record_json(found.total),
        "parts": {d.drill: record_json(d.outcome) for d in found.drills},
    }
    trial = Trial("palm", body.hand_id, body.device_id, inputs, results, found.verdict)
    return palm_run(keep_trial(db(), trial))


@operation(palm, "GET", "/palm/runs", PalmRuns)
def kept_palm_runs() -> PalmRuns:
    """All kept runs, newest first."""
    return PalmRuns(runs=list_palm_runs(db()))


@operation(palm, "PUT", "/palm/runs/<run_id>/bin", PalmRun, body=BinChange)
def bin_palm_run(run_id: str, body: BinChange) -> PalmRun:
    """Put a kept run into the bin, or back."""
    bin_trial(db(), "palm", run_id, body.binned)
    return get_palm_run(db(), run_id)


@operation(palm, "GET", "/palm/contacts.csv", "text/csv", query=ContactsQuery)
def contacts_out(query: ContactsQuery) -> Response:
    """The contact stream of a simulated drill as CSV."""
    do = simulate_hard if query.hard else simulate
    stream, _ = do(*pair_of(query), query.drill, query.seed)
    return download(write_contacts(stream.events), "text/csv", f"{query.drill}.csv")


@operation(palm, "POST", "/palm/contacts.csv", "text/csv", body=StreamBody)
def own_contacts_out(body: StreamBody) -> Response:
    """A recorded contact stream as CSV."""
    return download(write_contacts(body.stream().events), "text/csv", "contacts.csv")


@operation(palm, "POST", "/palm/contacts", StreamBody, body="text/csv", query=ScreenQuery, reads_file=True)
def contacts_in(body: bytes, query: ScreenQuery) -> StreamBody:
    """Read a contact stream from CSV, on a screen of this size."""
    stream = make_stream(read_outside("contacts", body), query.width_mm, query.height_mm)
    columns = {name: [getattr(e, name) for e in stream.events] for name in COLUMNS}
    return StreamBody(screen_mm=(stream.width_mm, stream.height_mm), **columns)
