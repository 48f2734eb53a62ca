"""A page in time, followed picture by picture: what the writer sees, and what the program believes is shown."""

import dataclasses
from collections.abc import Iterator

import numpy as np

from gray_quill.core.panel.glass import Box, slices
from gray_quill.core.panel.in_time import InTime, Picture


@dataclasses.dataclass(frozen=True, eq=False)
class Moment:
    """seen, believed: the pictures, each the same array all along; seen_boxes, believed_boxes: where each differs from
    the moment before.
    """

    t_s: float
    seen: Picture
    seen_boxes: list[Box]
    believed: Picture
    believed_boxes: list[Box]


def follow(page: InTime, frames_hz: float) -> Iterator[Moment]:
    """The page from its start to its end."""
    believed, last = page.target(page.whole(), -1.0), -1.0
    for t_s, seen, boxes in page.play_boxes(frames_hz):
        changed = page.changed_between(last, t_s)
        for box in changed:
            believed[slices(box)] = page.target(box, t_s)
        yield Moment(t_s, seen, boxes, believed, changed)
        last = t_s


def apart(one: Picture, other: Picture) -> np.ndarray:
    """How far two pictures differ, encoded tones, shape (h, w): of colours the channel that differs most."""
    found = np.abs(one.astype(np.int16) - other.astype(np.int16))
    return found if found.ndim == 2 else found.max(axis=2)
