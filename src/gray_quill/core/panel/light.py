"""The light of the room: how light a panel's tones are for the eye that sees them there.

A panel that makes its own light adds the room's as glare to every tone, E reflects / pi; e-paper has no other light
than what it reflects of it, and of its front light (Lambert's law). Contrast is then told by WCAG's formula on what is
seen over the white that is seen, whose 0.05 stands for the flare of a viewer of its own.
"""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import decode_srgb, encode_srgb
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.errors import unknown_choice
from gray_quill.core.ink.page import Pixels


@dataclasses.dataclass(frozen=True)
class Room:
    """lux on the panel; None for tones as they are encoded, without panel or room."""

    name: str
    lux: float | None


# Common practice, no source.
ROOMS = {
    room.name: room
    for room in (
        Room("no glare", None),
        Room("dark room", 5),
        Room("office", 500),
        Room("by the window", 5_000),
        Room("sun", 50_000),
    )
}
LEAST_WHITE_CD_M2 = 1e-3  # in the dark nothing of e-paper is seen


def room_of(name: str) -> Room:
    """One of ROOMS. Raises RecordError for any other."""
    if name not in ROOMS:
        raise unknown_choice("The light", name, ROOMS, "light")
    return ROOMS[name]


def seen_luminance(panel: Panel, room: Room) -> Floats:
    """Relative to the white seen there, 0..1, of each encoded grey; shape (256,)."""
    tone = decode_srgb(np.arange(256) / 255)
    if room.lux is None:
        return tone
    own = (1 + (panel.contrast - 1) * tone) / panel.contrast  # white is 1, black one over the contrast
    back = room.lux * panel.reflects / np.pi
    if panel.technology == "e-paper":
        seen = (panel.white_cd_m2 + back) * own
    else:
        seen = panel.white_cd_m2 * own + back
    return np.asarray(seen / max(float(seen[-1]), LEAST_WHITE_CD_M2))


def white_cd_m2(panel: Panel, room: Room) -> float:
    """How light the panel's white is there."""
    return panel.white_cd_m2 + (room.lux or 0.0) * panel.reflects / np.pi


def as_seen(pixels: Pixels, panel: Panel, room: Room) -> Pixels:
    """A panel's picture as it is seen there, channel by channel."""
    if room.lux is None:
        return pixels
    return np.asarray(np.round(encode_srgb(seen_luminance(panel, room)) * 255), np.uint8)[pixels]
