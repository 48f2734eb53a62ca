"""A hand on a device, which palm rules belong to, and where that hand rests."""

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.zone import Zone, zone_of
from gray_quill.store.items import get_thing
from gray_quill.store.palm_settings import kept_setting
from gray_quill.web.api import Model
from gray_quill.web.context import db
from gray_quill.web.records import Id


class Pair(Model):
    """A hand on a device."""

    hand_id: Id
    device_id: Id


def pair_of(pair: Pair) -> tuple[Hand, Device]:
    """The hand and the device themselves."""
    return get_thing(db(), Hand, pair.hand_id), get_thing(db(), Device, pair.device_id)


def zone_for(given: Zone | None, hand: Hand, pair: Pair) -> Zone:
    """Where the hand rests: as given, as it was measured, or as its record says."""
    kept = kept_setting(db(), pair.hand_id, pair.device_id)
    return given or (kept[1].zone if kept and kept[1] else zone_of(hand))
