"""The Palm trial: drills of a simulated or a real hand, judged with rules; rules that fit; posture; runs and settings
kept.
"""

import dataclasses
import math
from typing import Any

from flask import Blueprint, Response

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import COLUMNS, Event, Stream, Truth, make_stream
from gray_quill.core.palm.drills import DRILLS, intended, simulate
from gray_quill.core.palm.engine import LIMITS
from gray_quill.core.palm.outcome import GRADES, Grade, Outcome, grade, measure, noticed, total
from gray_quill.core.palm.posture import Posture, in_words, read_posture
from gray_quill.core.palm.proof import tuning_sessions
from gray_quill.core.palm.recommend import recommend
from gray_quill.core.palm.replay import fault_words, replay
from gray_quill.core.palm.rules import OFF, Rules, Zone, zone_of
from gray_quill.core.palm.scores import explain, score_contacts
from gray_quill.core.quantities import describe_record, read_record, record_json
from gray_quill.formats.contacts_csv import read_contacts, write_contacts
from gray_quill.store.palm_settings import keep_setting, kept_setting
from gray_quill.store.things import get_thing
from gray_quill.store.trials import Trial, bin_trial, keep_trial, list_trials
from gray_quill.web.api import operation
from gray_quill.web.context import db
from gray_quill.web.jobs import JobItem, Progress, jobs
from gray_quill.web.lag_models import RunBin
from gray_quill.web.palm_models import (
    ContactItem,
    ContactsQuery,
    NewSetting,
    OutcomeItem,
    OwnPart,
    PairQuery,
    PalmGrade,
    PalmInfo,
    PalmLimits,
    PalmReply,
    PalmRun,
    PalmRuns,
    PalmSetting,
    PartItem,
    PostureBody,
    PostureItem,
    RunBody,
    ScreenQuery,
    StreamBody,
    SweepBody,
    SweepReply,
    ZoneItem,
)
from gray_quill.web.replies import download

palm = Blueprint("palm", __name__)
Part = tuple[str, Stream, Truth]


@operation(palm, "GET", "/palm", PalmInfo)
def palm_info() -> PalmInfo:
    """The drills, the rules and the grades."""
    drills = [{"name": d.name, "ask": d.ask, "meant": d.meant, "asks": d.asks} for d in DRILLS.values()]
    return PalmInfo.model_validate(
        {
            "drills": drills,
            "fields": describe_record(Rules),
            "off": record_json(OFF),
            "grades": [_grade_item(g) for g in GRADES],
        }
    )


@operation(palm, "GET", "/palm/setting", PalmSetting, query=PairQuery)
def palm_setting(query: PairQuery) -> PalmSetting:
    """Rules and resting zone of a hand on a device, kept or as the hand's record says."""
    hand = get_thing(db(), Hand, query.hand_id)
    get_thing(db(), Device, query.device_id)
    kept = kept_setting(db(), query.hand_id, query.device_id)
    rules, posture = kept or (START, None)
    zone = posture.zone if posture else zone_of(hand)
    return PalmSetting(
        rules=record_json(rules),
        zone=_zone_item(zone),
        posture=None if posture is None else _posture_item(posture),
        limits=PalmLimits(**LIMITS),
        kept=kept is not None,
    )


# What protects the sheet before a hand has done its drills.
START = Rules(before_ms=800, after_ms=600, size_mm=15, crowd_count=3, crowd_mm=30, take_back_ms=1000, still=True)


@operation(palm, "PUT", "/palm/setting", PalmSetting, body=NewSetting)
def keep_palm_setting(body: NewSetting) -> PalmSetting:
    """Keep rules and posture for a hand on a device; the sheet follows them from then on."""
    get_thing(db(), Hand, body.hand_id)
    get_thing(db(), Device, body.device_id)
    posture = None
    if body.posture is not None:
        posture = Posture(**{**body.posture.model_dump(), "zone": _zone(body.posture.zone)})
    keep_setting(db(), body.hand_id, body.device_id, read_record(Rules, body.rules, "rules."), posture)
    return palm_setting(PairQuery(hand_id=body.hand_id, device_id=body.device_id))


@operation(palm, "POST", "/palm/run", PalmReply, body=RunBody)
def run_drills(body: RunBody) -> PalmReply:
    """Drills judged with some rules: every contact, what it did, and what came of it."""
    rules, zone, parts = _prepared(body)
    return _reply(parts, rules, zone)


def _prepared(body: RunBody) -> tuple[Rules, Zone, list[Part]]:
    hand, device = get_thing(db(), Hand, body.hand_id), get_thing(db(), Device, body.device_id)
    rules = read_record(Rules, body.rules, "rules.")
    parts = (
        _own(body.own)
        if body.own
        else [(name, *simulate(hand, device, name, body.seed)) for name in body.drills or DRILLS]
    )
    return rules, _zone_for(body.zone, hand, body.hand_id, body.device_id), parts


def _own(own: list[OwnPart]) -> list[Part]:
    streams = [(part.drill, part.stream.stream()) for part in own]
    return [(drill, stream, intended(drill, stream)) for drill, stream in streams]


def _zone_for(given: ZoneItem | None, hand: Hand, hand_id: str, device_id: str) -> Zone:
    if given is not None:
        return _zone(given)
    kept = kept_setting(db(), hand_id, device_id)
    return kept[1].zone if kept and kept[1] else zone_of(hand)


def _reply(parts: list[Part], rules: Rules, zone: Zone) -> PalmReply:
    items, outcomes = [], []
    for drill, stream, truth in parts:
        played, scores = replay(stream, rules, zone), score_contacts(stream, zone)
        outcome = measure(stream, played.state, rules, truth)
        outcomes.append(outcome)
        contacts = []
        for t in played.state.touches.values():
            path = played.paths[t.id]
            why = explain(t.decision, t.rule, rules, scores[t.id])
            contacts.append(
                ContactItem(
                    id=t.id,
                    palm=t.id in truth.palms,
                    decision=t.decision,
                    rule=t.rule,
                    at_ms=t.at_ms,
                    born_ms=t.born_ms,
                    end_ms=path[-1][0],
                    why=why,
                    path=[list(p) for p in path],
                    mark=played.state.marks.get(t.id, []),
                )
            )
        lasts = stream.events[-1].t_ms if stream.events else 0.0
        items.append(
            PartItem(
                drill=drill,
                lasts_ms=lasts,
                contacts=contacts,
                nib=[list(n) for n in played.nib],
                views=[list(v) for v in played.views],
                outcome=_outcome_item(outcome),
            )
        )
    first = parts[0][1]
    word = _grade_item(grade(outcomes, sum(i.lasts_ms for i in items)))
    return PalmReply(
        screen_mm=[first.width_mm, first.height_mm],
        zone=_zone_item(zone),
        parts=items,
        total=_outcome_item(total(outcomes)),
        grade=word,
        fault=fault_words([(stream, truth) for _, stream, truth in parts], rules, zone),
    )


@operation(palm, "POST", "/palm/sweeps", JobItem, body=SweepBody)
def sweep_rules(body: SweepBody) -> JobItem:
    """Sweep every rule and search the joint settings that fit a hand on a device."""
    hand, device = get_thing(db(), Hand, body.hand_id), get_thing(db(), Device, body.device_id)
    zone = _zone_for(body.zone, hand, body.hand_id, body.device_id)
    own = [(stream, truth) for _, stream, truth in _own(body.own)]

    def work(progress: Progress) -> SweepReply:
        found = recommend(own or tuning_sessions(hand, device), zone, progress)
        plain = dataclasses.asdict(found)
        plain["rules"] = record_json(found.rules)
        for curve in plain["curves"]:
            curve["points"] = [list(p) for p in curve["points"]]
            curve["area"] = None if math.isnan(curve["area"]) else curve["area"]
        for name in ("expected", "without"):
            plain[name] = _outcome_item(getattr(found, name))
        return SweepReply.model_validate(plain)

    return jobs().start("sweep", work).item()


@operation(palm, "GET", "/palm/sweeps/<job_id>", SweepReply)
def sweep_result(job_id: str) -> SweepReply:
    """What a sweep came to."""
    return jobs().result(job_id, "sweep")  # type: ignore[no-any-return]


@operation(palm, "POST", "/palm/posture", PostureItem, body=PostureBody)
def measure_posture(body: PostureBody) -> PostureItem:
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
    return _posture_item(posture)


@operation(palm, "POST", "/palm/runs", PalmRun, body=RunBody)
def keep_palm_run(body: RunBody) -> PalmRun:
    """Keep a run with its contacts, to lay it beside another later."""
    rules, zone, parts = _prepared(body)
    hand, device = get_thing(db(), Hand, body.hand_id), get_thing(db(), Device, body.device_id)
    found = _reply(parts, rules, zone)
    inputs = {
        "rules": record_json(rules),
        "zone": dataclasses.asdict(zone),
        "hand": hand.name,
        "device": device.name,
        "seed": body.seed,
        "drills": [drill for drill, _, _ in parts],
        "own": [part.model_dump() for part in body.own],
    }
    results = {"total": found.total.model_dump(), "parts": {p.drill: p.outcome.model_dump() for p in found.parts}}
    return _run_item(keep_trial(db(), Trial("palm", body.hand_id, body.device_id, inputs, results, found.grade.word)))


@operation(palm, "GET", "/palm/runs", PalmRuns)
def kept_palm_runs() -> PalmRuns:
    """All kept runs, newest first."""
    return PalmRuns(runs=[_run_item(t) for t in list_trials(db(), "palm")])


@operation(palm, "PUT", "/palm/runs/<run_id>/bin", PalmRuns, body=RunBin)
def bin_palm_run(run_id: str, body: RunBin) -> PalmRuns:
    """Put a kept run into the bin, or back."""
    bin_trial(db(), "palm", run_id, body.binned)
    return kept_palm_runs()


@operation(palm, "GET", "/palm/contacts.csv", "text/csv", query=ContactsQuery)
def contacts_out(query: ContactsQuery) -> Response:
    """The contact stream of a simulated drill as CSV."""
    stream, _ = simulate(
        get_thing(db(), Hand, query.hand_id), get_thing(db(), Device, query.device_id), query.drill, query.seed
    )
    return download(write_contacts(stream.events), "text/csv", f"{query.drill}.csv")


@operation(palm, "POST", "/palm/contacts.csv", "text/csv", body=StreamBody)
def own_contacts_out(body: StreamBody) -> Response:
    """A recorded contact stream as CSV."""
    return download(write_contacts(body.stream().events), "text/csv", "contacts.csv")


@operation(palm, "POST", "/palm/contacts", StreamBody, body="text/csv", query=ScreenQuery)
def contacts_in(body: bytes, query: ScreenQuery) -> StreamBody:
    """Read a contact stream from CSV, on a screen of this size."""
    stream = make_stream(read_contacts(body), query.width_mm, query.height_mm)
    return StreamBody.model_validate({"screen_mm": (stream.width_mm, stream.height_mm), **_columns(stream.events)})


def _columns(events: tuple[Event, ...]) -> dict[str, list[Any]]:
    return {name: [getattr(e, name) for e in events] for name in COLUMNS}


def _run_item(run: Trial) -> PalmRun:
    return PalmRun.model_validate(
        {
            "id": run.id,
            "hand": run.inputs["hand"],
            "device": run.inputs["device"],
            "created_at": run.created_at,
            "own": bool(run.inputs["own"]),
            "rules": run.inputs["rules"],
            "total": run.results["total"],
            "grade": run.verdict,
        }
    )


def _outcome_item(outcome: Outcome) -> OutcomeItem:
    return OutcomeItem.model_validate(
        {**{k: v for k, v in dataclasses.asdict(outcome).items() if k != "decisions"}, "noticed": noticed(outcome)}
    )


def _grade_item(grade: Grade) -> PalmGrade:
    return PalmGrade.model_validate({k: None if v == math.inf else v for k, v in dataclasses.asdict(grade).items()})


def _zone(item: ZoneItem) -> Zone:
    return Zone(**item.model_dump())


def _zone_item(zone: Zone) -> ZoneItem:
    return ZoneItem(**dataclasses.asdict(zone))


def _posture_item(posture: Posture) -> PostureItem:
    return PostureItem.model_validate(dataclasses.asdict(posture))
