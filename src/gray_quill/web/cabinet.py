"""Everything that is kept: found, looked at, copied, named, noted, binned and let go of; what room it takes."""

import contextlib
import sqlite3
from typing import Annotated, Literal

from flask import Blueprint, Response
from pydantic import Field, StringConstraints

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.recipe_changes import FieldChange, recipe_changes
from gray_quill.formats.archive_zip import write_archive
from gray_quill.store.archive import archived
from gray_quill.store.backups import back_up
from gray_quill.store.cabinet.emptying import Emptying, empty_bin, what_would_go
from gray_quill.store.cabinet.finding import Found, Thing, Wanted, find, get_kept
from gray_quill.store.cabinet.item_operations import bin_thing, copy_thing, note_thing, rename_thing
from gray_quill.store.cabinet.kinds import KINDS, Kind
from gray_quill.store.cabinet.needs import needed
from gray_quill.store.cabinet.space import Space, space_of
from gray_quill.store.cabinet.uses import Use, uses_of
from gray_quill.store.database import transaction
from gray_quill.store.items import add_thing, get_thing
from gray_quill.store.pens import Pen, pen_history
from gray_quill.store.seen import check_seen
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, folder
from gray_quill.web.records import BinChange, DeviceIn, DeviceItem, HandIn, HandItem, Name, Note, Printable
from gray_quill.web.replies import download, new_id

cabinet = Blueprint("cabinet", __name__)
MOST_AT_ONCE = 60
Day = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d\d-\d\d)?$")]
KindName = Annotated[str, StringConstraints(max_length=20)]
ThingId = Annotated[str, StringConstraints(min_length=1, max_length=180)]


class WantedQuery(Model):
    """first, most: which part of what is found."""

    words: Annotated[str, StringConstraints(max_length=200), Printable] = ""
    kind: KindName = ""
    since: Day = ""
    until: Day = ""
    use: Literal["any", "used", "unused"] = "any"
    binned: bool = False
    first: int = Field(0, ge=0, le=1_000_000)
    most: int = Field(24, ge=1, le=MOST_AT_ONCE)


class ThingQuery(Model):
    kind: KindName
    id: ThingId


class CabinetInfo(Model):
    """What each kind of thing allows, and the fields by which hands and devices are made."""

    kinds: list[Kind]
    hand_fields: list[Control]
    device_fields: list[Control]


class Revision(Model):
    """A pen as it was kept once; changes: since the revision before."""

    pen: Pen
    changes: list[FieldChange]


class ThingDetail(Model):
    """A thing, what uses it, and a pen's history, the first revision first."""

    thing: Thing
    uses: list[Use]
    history: list[Revision]
    hand: Hand | None
    device: Device | None


class NewName(Model):
    """saw: the name it had when this was written."""

    name: Name
    saw: str | None = Field(None, max_length=200)


class NewNote(Model):
    """saw: the note there was when this was written."""

    note: Note
    saw: str | None = Field(None, max_length=200)


class Emptied(Model):
    """backup: what was there before, kept as this backup."""

    emptied: Emptying
    backup: str


@operation(cabinet, "GET", "/cabinet/kinds", CabinetInfo)
def read_kinds() -> CabinetInfo:
    """The kinds of things there are."""
    return CabinetInfo(
        kinds=list(KINDS.values()), hand_fields=describe_record(Hand), device_fields=describe_record(Device)
    )


@operation(cabinet, "GET", "/cabinet", Found, query=WantedQuery)
def find_things(query: WantedQuery) -> Found:
    """Things by words, kind, date and use."""
    wanted = Wanted(**query.model_dump(exclude={"first", "most"}))
    return find(db(), wanted, query.first, query.most)


@operation(cabinet, "GET", "/cabinet/thing", ThingDetail, query=ThingQuery)
def read_thing(query: ThingQuery) -> ThingDetail:
    """One thing, where it is used, and how it came to be."""
    thing = get_kept(db(), query.kind, query.id)
    history = []
    if thing.kind == "pen":
        pens = pen_history(db(), thing.id)[::-1]
        before = [None, *pens[:-1]]
        history = [
            Revision(pen=pen, changes=recipe_changes(was.recipe, pen.recipe) if was else [])
            for was, pen in zip(before, pens, strict=True)
        ]
    return ThingDetail(
        thing=thing,
        uses=uses_of(db(), thing.kind, thing.id),
        history=history,
        hand=get_thing(db(), Hand, thing.id) if thing.kind == "hand" else None,
        device=get_thing(db(), Device, thing.id) if thing.kind == "device" else None,
    )


@operation(cabinet, "POST", "/cabinet/thing/copy", Thing, query=ThingQuery, status=201)
def copy_kept_thing(query: ThingQuery) -> Thing:
    """Another of the same."""
    return copy_thing(db(), query.kind, query.id, new_id(get_kept(db(), query.kind, query.id).name))


@operation(cabinet, "PUT", "/cabinet/thing/name", Thing, query=ThingQuery, body=NewName)
def name_kept_thing(query: ThingQuery, body: NewName) -> Thing:
    """Call a thing otherwise."""
    with transaction(db()):
        check_seen(body.saw, get_kept(db(), query.kind, query.id).name, "This name was")
        return rename_thing(db(), query.kind, query.id, body.name)


@operation(cabinet, "PUT", "/cabinet/thing/note", Thing, query=ThingQuery, body=NewNote)
def note_kept_thing(query: ThingQuery, body: NewNote) -> Thing:
    """Write a note on a thing."""
    with transaction(db()):
        check_seen(body.saw, get_kept(db(), query.kind, query.id).note, "This note was")
        return note_thing(db(), query.kind, query.id, body.note.strip())


@operation(cabinet, "PUT", "/cabinet/thing/bin", Thing, query=ThingQuery, body=BinChange)
def bin_kept_thing(query: ThingQuery, body: BinChange) -> Thing:
    """Put a thing into the bin or back."""
    return bin_thing(db(), query.kind, query.id, body.binned)


@operation(cabinet, "GET", "/cabinet/thing/file", "application/zip", query=ThingQuery, costly=True)
def take_out_thing(query: ThingQuery) -> Response:
    """A thing with all it needs as an archive of open files."""
    thing = get_kept(db(), query.kind, query.id)
    data = write_archive(archived(db(), needed(db(), thing.kind, thing.id)))
    return download(data, "application/zip", f"{thing.name}.zip")


@operation(cabinet, "GET", "/cabinet/bin", Emptying)
def look_into_bin() -> Emptying:
    """What emptying the bin would let go of, and what would stay."""
    return what_would_go(db())


@operation(cabinet, "DELETE", "/cabinet/bin", Emptied, costly=True)
def empty_the_bin() -> Emptied:
    """Let go of what lies in the bin, after a backup of what there was."""
    backup = back_up(folder())
    emptied = empty_bin(db())
    with contextlib.suppress(sqlite3.OperationalError):  # somebody writes: the room is used again later
        db().execute("VACUUM")
    return Emptied(emptied=emptied, backup=backup.name if backup else "")


@operation(cabinet, "GET", "/cabinet/space", Space)
def read_space() -> Space:
    """The room that is taken, and where."""
    return space_of(db(), folder())


class NewDeviceRecord(Model):
    """saw: the device this was made from."""

    device: DeviceIn
    saw: DeviceIn | None = None


class NewHandRecord(Model):
    """saw: the hand this was made from."""

    hand: HandIn
    saw: HandIn | None = None


@operation(cabinet, "PUT", "/hands/<hand_id>", HandItem, body=NewHandRecord)
def change_hand(hand_id: str, body: NewHandRecord) -> HandItem:
    """Set a kept hand's habits."""
    with transaction(db()):
        check_seen(body.saw, get_thing(db(), Hand, hand_id), "This hand was")
        add_thing(db(), hand_id, body.hand)
    return HandItem(id=hand_id, hand=body.hand)


@operation(cabinet, "PUT", "/devices/<device_id>", DeviceItem, body=NewDeviceRecord)
def change_device(device_id: str, body: NewDeviceRecord) -> DeviceItem:
    """Set what a kept device reports and shows."""
    with transaction(db()):
        check_seen(body.saw, get_thing(db(), Device, device_id), "This device was")
        add_thing(db(), device_id, body.device)
    return DeviceItem(id=device_id, device=body.device)
