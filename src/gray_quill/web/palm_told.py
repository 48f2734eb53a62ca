"""Decisions on the glass: why one was made, and what its writer knew better."""

from flask import Blueprint

from gray_quill.core.errors import InputError
from gray_quill.core.palm.contacts import make_stream
from gray_quill.core.palm.engine import fold_stream
from gray_quill.core.palm.labelled_contacts import MOST_TOLD, told_truth
from gray_quill.core.palm.outcome import Session
from gray_quill.core.palm.scores import contacts_of, explain
from gray_quill.formats.contacts_csv import read_contacts, write_contacts
from gray_quill.formats.palm_json import read_truth, truth_json
from gray_quill.store.palm_told import bin_told, count_told, keep_told, told_of
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.palm_pair import Pair, pair_of, zone_for
from gray_quill.web.records import RulesIn, StreamBody

palm_told = Blueprint("palm_told", __name__)


class WhyBody(Pair):
    """One contact of what was felt on the glass, under some rules."""

    rules: RulesIn
    stream: StreamBody
    contact: int


class Why(Model):
    """What became of a contact and why, in words."""

    decision: str
    rule: str
    words: str


class ToldBody(Pair):
    """Of one contact its writer says that it was a palm, or that it was a finger."""

    stream: StreamBody
    contact: int
    palm: bool


class PairBin(Pair):
    binned: bool


class Told(Model):
    """told: how many there are of this pair now."""

    id: str
    told: int


def told_sessions(pair: Pair) -> list[Session]:
    """What was told of a hand on a device, for the search of rules."""
    out = []
    for contacts, beside in told_of(db(), pair.hand_id, pair.device_id, MOST_TOLD):
        screen, truth = read_truth(beside)
        out.append((make_stream(read_contacts(contacts), *screen), truth))
    return out


@operation(palm_told, "POST", "/palm/why", Why, body=WhyBody)
def why_decided(body: WhyBody) -> Why:
    """Why one contact was kept or refused, and what would have changed it."""
    hand, _ = pair_of(body)
    zone, stream = zone_for(None, hand, body), body.stream.stream()
    touch = fold_stream(stream, body.rules, zone).touches.get(body.contact)
    if touch is None:
        raise InputError(f"The contacts hold no contact {body.contact}. Ask of one that is there.", "contact")
    words = explain(touch.decision, touch.rule, body.rules, contacts_of(stream, zone)[body.contact])
    return Why(decision=touch.decision, rule=touch.rule, words=words)


@operation(palm_told, "POST", "/palm/told", Told, body=ToldBody, status=201)
def tell(body: ToldBody) -> Told:
    """Keep that a contact was a palm, or a finger: the next search of rules uses it."""
    hand, _ = pair_of(body)
    stream = body.stream.stream()
    truth = told_truth(stream, body.contact, body.palm, zone_for(None, hand, body))
    contacts = write_contacts(stream.events)
    told_id = keep_told(db(), body.hand_id, body.device_id, contacts, truth_json(stream, truth))
    return Told(id=told_id, told=count_told(db(), body.hand_id, body.device_id))


@operation(palm_told, "PUT", "/palm/told/<told_id>/bin", Told, body=PairBin)
def take_told_back(told_id: str, body: PairBin) -> Told:
    """Take back what was told of a contact, or tell it again."""
    bin_told(db(), told_id, body.binned)
    return Told(id=told_id, told=count_told(db(), body.hand_id, body.device_id))
