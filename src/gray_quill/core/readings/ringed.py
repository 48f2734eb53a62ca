"""What a ring on the page means to hold: whole words by the larger part of their ink, letters with their dots."""

from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.hit_test import share_inside
from gray_quill.core.ink.settle import Ink
from gray_quill.core.readings.words import letter_of_dots, words
from gray_quill.core.trace import Trace

MOST_OF_IT = 0.5  # of a word's ink, by length, that lies inside a ring at least which takes the word
ALL_BUT = 0.9  # of a stroke's, where its word lies mostly outside: one letter of it is ringed, or a part of a drawing


def held_by(
    inks: Sequence[Ink], traces: Sequence[Trace], ring_mm: Floats, step: Callable[[], object] = lambda: None
) -> set[int]:
    """Places of the strokes a ring (n, 2), closed where it ends, holds: all of a word of which at least half lies
    inside, and of other words what lies inside nearly wholly, but no dot, bar or comma without its letter. `step` is
    called now and then and may end it.
    """
    word = words(traces)
    inside = np.zeros(len(inks))
    for k, ink in enumerate(inks):
        step()
        inside[k] = share_inside(ink, ring_mm)
    length = np.array([max(float(np.hypot(np.diff(i.x_mm), np.diff(i.y_mm)).sum()), 0.1) for i in inks])
    of: dict[int, list[int]] = {}
    for k, number in enumerate(word):
        of.setdefault(number, []).append(k)
    held: set[int] = set()
    for strokes in of.values():
        whole = float((inside[strokes] * length[strokes]).sum()) >= MOST_OF_IT * float(length[strokes].sum())
        held |= {k for k in strokes if whole or inside[k] >= ALL_BUT}
    return with_dots(traces, word, held)


def with_dots(traces: Sequence[Trace], word: Sequence[int], chosen: set[int]) -> set[int]:
    """Dots and bars are chosen with their letter, and not without it."""
    letter = letter_of_dots(traces, word)
    return {k for k in range(len(traces)) if letter.get(k, k) in chosen}
