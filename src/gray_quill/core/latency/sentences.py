"""Sentences nobody has practised: drawn at random, so that the hand can't learn one by heart."""

import numpy as np

_FIRST = ("A late", "One grey", "The quiet", "A torn", "Every small", "The third", "No dry", "A heavy", "The last")
_THING = (
    "heron", "lamp", "ferry", "moth", "ledger", "kettle", "ladder", "orchard", "drummer", "gutter", "fiddle", "quarry",
)  # fmt: skip
_DOES = ("waits", "rattles", "crosses", "hums", "turns back", "dries", "settles", "jumps", "folds", "drifts", "glows")
_WHERE = ("under", "beside", "beyond", "behind", "above", "near", "below", "along")
_OF = ("the wet", "a borrowed", "her yellow", "the frozen", "my other", "a crooked", "the busy", "an empty", "the far")
_PLACE = ("jetty", "hedge", "window", "viaduct", "stairwell", "market", "pillow", "railing", "furrow", "bakery", "zinc")
_PARTS = (_FIRST, _THING, _DOES, _WHERE, _OF, _PLACE)


def sentence(rng: np.random.Generator) -> str:
    """One of some 900,000, 30 to 50 letters long."""
    return " ".join(str(rng.choice(part)) for part in _PARTS)
