"""What a hand feels of delay: the next hidden turn, what the turns tell, and thresholds kept."""

from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.latency.figures import base_of
from gray_quill.core.latency.noticeable_delay import Feel, Felt, feel, felt
from gray_quill.core.latency.staircase import Next, next_turn
from gray_quill.core.latency.trial import NIB_SPEED, model_lag
from gray_quill.store.items import get_thing
from gray_quill.store.noticeable_delay import KeptFelt, bin_felt, felt_of, keep_felt
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.records import FilmedIn, Id, RecipeIn, TurnIn

lag_felt = Blueprint("lag_felt", __name__)
MOST_TURNS = 100
Turns = Annotated[list[TurnIn], Field(max_length=MOST_TURNS)]


class Session(Model):
    """The turns of a session so far, with which pen on which device, and what was filmed of them."""

    device_id: Id
    recipe: RecipeIn
    turns: Turns
    filmed: FilmedIn | None = None

    def told(self) -> tuple[Feel, Felt | None]:
        """What the turns tell, and that as delays from nib to light."""
        found = feel(self.turns)
        device = get_thing(db(), Device, self.device_id)
        lag = model_lag(device, self.recipe, max(NIB_SPEED.low, found.speed_mm_s or 0))
        return found, felt(found, *base_of(lag, found.bare_frame_ms, self.filmed))


class FeelBody(Session):
    seed: int = Field(ge=0, lt=2**31)


class FeelReply(Model):
    """next: what is to be written now, under which delay. felt: None while nothing can be told."""

    next: Next
    feel: Feel
    felt: Felt | None


class NewFelt(Session):
    hand_id: Id


class HandBin(Model):
    hand_id: Id
    binned: bool


class FeltReply(Model):
    """What counts for this hand now."""

    kept: KeptFelt | None


@operation(lag_felt, "POST", "/lag/feel", FeelReply, body=FeelBody)
def read_feel(body: FeelBody) -> FeelReply:
    """What the turns so far tell, and the turn that comes next."""
    found, own = body.told()
    return FeelReply(next=next_turn(body.turns, body.seed), feel=found, felt=own)


@operation(lag_felt, "POST", "/lag/felt", FeltReply, body=NewFelt, status=201)
def keep(body: NewFelt) -> FeltReply:
    """Keep what a hand feels: from then on verdicts go by it."""
    get_thing(db(), Hand, body.hand_id)
    found, own = body.told()
    if own is None:
        raise InputError(f"There is no threshold to keep yet: {found.noticed.words}.", "turns")
    device = get_thing(db(), Device, body.device_id)
    return FeltReply(kept=keep_felt(db(), body.hand_id, body.recipe.name, device.name, body.turns, own))


@operation(lag_felt, "PUT", "/lag/felt/<felt_id>/bin", FeltReply, body=HandBin)
def bin_kept(felt_id: str, body: HandBin) -> FeltReply:
    """Put a kept threshold into the bin, or back; the one before it counts then."""
    bin_felt(db(), felt_id, body.binned)
    return FeltReply(kept=felt_of(db(), body.hand_id))
