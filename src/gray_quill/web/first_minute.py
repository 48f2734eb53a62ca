"""The first minute from nothing: who writes on what and what mostly, made into a sheet on the desk in one go."""

import dataclasses
from typing import Literal

from flask import Blueprint

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand, hooked
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.uses import USES, use_called
from gray_quill.store.database import transaction
from gray_quill.store.items import add_thing, get_thing, list_things
from gray_quill.store.pens import list_pens, set_roll
from gray_quill.store.settings import set_settings
from gray_quill.store.sheets import Sheet, add_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.desk import Desk, read_desk
from gray_quill.web.records import Id
from gray_quill.web.replies import new_id

first_minute = Blueprint("first_minute", __name__)
HERE = "this-screen"
UPRIGHT = {"left": "left-steep", "right": "right-firm"}
LIKE = {"paper": "paper-slate-10", "touch": "tablet-11", "mouse": "convertible-13"}  # until it is measured


class FirstUse(Model):
    """What one may mostly write, and the paper it starts with."""

    name: str
    help: str
    paper: Paper


class FirstChoices(Model):
    uses: list[FirstUse]


class FirstDesk(Model):
    """device_id: a stand-in, or None for this screen, which is taken to be like its sort until it is measured."""

    side: Literal["left", "right"] = "right"
    hooked: bool = False
    device_id: Id | None = None
    screen: Literal["paper", "touch", "mouse"] = "touch"
    use: str = USES[0].name


@operation(first_minute, "GET", "/desk/first", FirstChoices)
def first_choices() -> FirstChoices:
    """What one may mostly write."""
    return FirstChoices(uses=[FirstUse(name=u.name, help=u.help, paper=paper_from_spec(u.paper)) for u in USES])


@operation(first_minute, "POST", "/desk/first", Desk, body=FirstDesk, status=201)
def first_desk(body: FirstDesk) -> Desk:
    """Put down a first sheet for this hand, device and use; its pens go on the roll. All can be changed later."""
    use = use_called(body.use)
    if body.device_id:
        get_thing(db(), Device, body.device_id)
    with transaction(db()):
        pens = [p.id for p in list_pens(db())]
        roll = [p for p in use.pens if p in pens] or pens[:1]
        sheet = Sheet(
            new_id("sheet"),
            "Sheet 1",
            "free",
            paper_from_spec(use.paper),
            _hand(body),
            body.device_id or _this_screen(body.screen),
            roll[0],
            "",
            False,
        )
        set_roll(db(), roll)
        add_sheet(db(), sheet)
        set_settings(db(), {"sheet_id": sheet.id})
    return read_desk()


def _hand(body: FirstDesk) -> str:
    """The shipped hand of this side, or one like it that writes hooked."""
    upright = UPRIGHT[body.side]
    if not body.hooked:
        return upright
    made = hooked(list_things(db(), Hand).get(upright, SHIPPED_HANDS[upright]))
    hand_id = f"{body.side}-hooked"
    if hand_id not in list_things(db(), Hand):
        add_thing(db(), hand_id, made)
    return hand_id


def _this_screen(screen: str) -> str:
    devices = list_things(db(), Device)
    if HERE not in devices:
        like = devices[LIKE[screen]]
        add_thing(db(), HERE, dataclasses.replace(like, name="this screen"))
    return HERE
