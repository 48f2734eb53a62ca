"""What a writer told of one contact, as a session the search can use."""

from gray_quill.core.errors import InputError
from gray_quill.core.palm.contacts import Gesture, Stream, Truth
from gray_quill.core.palm.engine import fold_stream
from gray_quill.core.palm.rules import OFF
from gray_quill.core.palm.state import TAP_MS
from gray_quill.core.palm.zone import Zone

MOST_TOLD = 40  # the newest are searched on


def told_truth(stream: Stream, contact: int, palm: bool, zone: Zone) -> Truth:
    """The truth of a stream of which only one contact is known: a palm, or a finger that scrolled, pressed or tapped.

    Raises InputError where the stream does not hold the contact.
    """
    touch = fold_stream(stream, OFF, zone).touches.get(contact)
    if touch is None:
        raise InputError(f"The contacts hold no contact {contact}. Say it of one that is there.", "contact")
    known = frozenset({contact})
    if palm:
        return Truth(frozenset({contact}), known=known)
    lasted_ms = min(touch.ended_ms, stream.events[-1].t_ms) - touch.born_ms
    kind = "scroll" if touch.moved else "press" if lasted_ms > TAP_MS else "tap"
    return Truth(frozenset(), (Gesture(kind, (contact,)),), known=known)
