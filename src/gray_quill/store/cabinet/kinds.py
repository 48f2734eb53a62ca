"""The kinds of things that are kept, and what can be done with each."""

import dataclasses


@dataclasses.dataclass(frozen=True)
class Kind:
    """name: as in `things.kind`; words, many: one and several of it, as it is said. copies, renames, bins: what can
    be done with one here. pictured: the core draws one.
    """

    name: str
    words: str
    many: str
    copies: bool = False
    renames: bool = False
    bins: bool = False
    pictured: bool = False


KINDS: dict[str, Kind] = {
    k.name: k
    for k in (
        Kind("pen", "pen", "pens", copies=True, renames=True, bins=True, pictured=True),
        Kind("hand", "hand", "hands", copies=True, renames=True, bins=True, pictured=True),
        Kind("device", "device", "devices and their panels", copies=True, renames=True, bins=True, pictured=True),
        Kind("paper", "paper of one's own", "papers of one's own", renames=True, pictured=True),
        Kind("palette", "palette", "palettes", pictured=True),
        Kind("piece", "piece", "pieces", copies=True, renames=True, bins=True, pictured=True),
        Kind("sheet", "sheet", "sheets", copies=True, renames=True, bins=True, pictured=True),
        Kind("picture", "picture", "pictures", renames=True, bins=True, pictured=True),
        Kind("document", "document", "documents", renames=True, bins=True, pictured=True),
        Kind("press fit", "press fit", "press fits"),
        Kind("palm rules", "palm rules", "palm rules"),
        Kind("contacts", "touches told", "touches told", bins=True),
        Kind("felt", "what a hand feels", "what hands feel", bins=True),
        Kind("lag run", "run of Lag", "runs of Lag", bins=True, pictured=True),
        Kind("palm run", "run of Palm", "runs of Palm", bins=True),
        Kind("line-up", "line-up", "line-ups", renames=True, bins=True, pictured=True),
        Kind("blind pairs", "blind pairs", "blind pairs", bins=True, pictured=True),
    )
}
TABLES = {"hand": "hands", "device": "devices", "picture": "originals", "document": "originals"}
TABLES |= {"pen": "pens", "contacts": "palm_told", "felt": "felt"}
TABLES |= dict.fromkeys(("lag run", "palm run", "line-up", "blind pairs"), "trials")
PAIRS = {"press fit": "press_fits", "palm rules": "palm_settings"}


def pair_of(thing_id: str) -> tuple[str, str]:
    """Hand and device of a thing that belongs to a pair of them."""
    hand_id, _, device_id = thing_id.partition("~")
    return hand_id, device_id
