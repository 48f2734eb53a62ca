"""The truth beside a contact stream, as JSON: the screen, which contacts were palms, and the gestures
that were meant.
"""

from typing import Any

from gray_quill.core.errors import FormatError
from gray_quill.core.palm.contacts import Gesture, Stream, Truth
from gray_quill.formats.plain_json import read_json

KINDS = ("zoom", "scroll", "tap", "press")


def truth_json(stream: Stream, truth: Truth) -> dict[str, Any]:
    """Plain data: screen_mm, contacts by id, gestures, the nib's way, spans in which a palm was taken for the pen."""
    return {
        "screen_mm": [stream.width_mm, stream.height_mm],
        "contacts": {str(i): "palm" if i in truth.palms else "finger" for i in stream.contacts},
        "gestures": [{"kind": g.kind, "ids": list(g.ids)} for g in truth.gestures],
        "ink_mm": truth.ink_mm,
        "not_nib": [list(span) for span in truth.not_nib],
        "known": None if truth.known is None else sorted(truth.known),
    }


def read_truth(data: bytes) -> tuple[tuple[float, float], Truth]:
    """Screen size and truth. Raises FormatError for what is not such a file."""
    found = read_json(data)
    try:
        width, height = (float(v) for v in found["screen_mm"])
        gestures = tuple(Gesture(str(g["kind"]), tuple(int(i) for i in g["ids"])) for g in found["gestures"])
        palms = frozenset(int(i) for i, what in found["contacts"].items() if what == "palm")
        ink = found.get("ink_mm")  # files of old do not have it
        spans = tuple((float(a), float(b)) for a, b in found.get("not_nib", []))
        known = found.get("known")
        told = Truth(
            palms,
            gestures,
            None if ink is None else float(ink),
            spans,
            None if known is None else frozenset(int(i) for i in known),
        )
    except (ValueError, KeyError, TypeError, AttributeError, OverflowError):
        raise FormatError(
            "The JSON file beside the contacts is not a truth file: it needs screen_mm, contacts and gestures."
        ) from None
    if any(g.kind not in KINDS for g in gestures):
        raise FormatError(f"A gesture in the truth file is none of {', '.join(KINDS)}.")
    return (width, height), told
