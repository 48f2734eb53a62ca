"""Films for a screen: the first picture whole, then only what changes, all pixels one after another in grey PNGs that
every browser unpacks.
"""

import dataclasses
from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import TooLarge
from gray_quill.core.panel.glass import Box, joined, slices
from gray_quill.formats.png import write_png

REEL_PX = 2048  # side of a full reel
MOST_BYTES = 100_000_000
Pixels = NDArray[np.uint8]


@dataclasses.dataclass(frozen=True)
class Patch:
    """Pixels of one frame's part, row by row, from `offset` bytes of all reels on."""

    frame: int
    left: int
    top: int
    width: int
    height: int
    offset: int


class Reels:
    """Bytes in the order they are added."""

    def __init__(self) -> None:
        self._parts: list[Pixels] = []
        self._bytes = 0

    def add(self, frame: int, picture: Pixels, box: Box) -> Patch:
        """Keep a part of a picture, (h, w) or (h, w, 3). Refuses more than a screen should hold."""
        part = np.ascontiguousarray(picture[slices(box)]).reshape(-1)
        patch = Patch(frame, box[0], box[1], box[2] - box[0], box[3] - box[1], self._bytes)
        self._parts.append(part.copy())
        self._bytes += len(part)
        if self._bytes > MOST_BYTES:
            raise TooLarge(
                f"That film would have over {MOST_BYTES // 1_000_000} million pixels. Take a smaller part of the page "
                "or a coarser panel."
            )
        return patch

    def pictures(self) -> list[bytes]:
        """Grey PNGs REEL_PX wide; the last is filled up with zeros."""
        data = np.concatenate(self._parts) if self._parts else np.zeros(0, np.uint8)
        data = np.pad(data, (0, -len(data) % REEL_PX)).reshape(-1, REEL_PX)
        return [write_png(data[k : k + REEL_PX], compress=1) for k in range(0, len(data), REEL_PX)]


class Strip:
    """One film in the reels: a picture that is shown from frame to frame."""

    def __init__(self, reels: Reels, picture: Pixels) -> None:
        self._reels, self._shown = reels, picture.copy()
        height, width = picture.shape[:2]
        self.patches = [reels.add(0, picture, (0, 0, width, height))]

    def show(self, frame: int, picture: Pixels, boxes: Iterable[Box]) -> None:
        """What the picture is from a frame on, where only these boxes may have changed."""
        for box in few_boxes(boxes):
            there = slices(box)
            if not np.array_equal(self._shown[there], picture[there]):
                self.patches.append(self._reels.add(frame, picture, box))
                self._shown[there] = picture[there]


def few_boxes(boxes: Iterable[Box]) -> list[Box]:
    """Boxes that cover the same, joined where that is no more than both."""
    kept: list[Box] = []
    for box in sorted(set(boxes), key=_area, reverse=True):
        for k, other in enumerate(kept):
            both = joined(other, box)
            if both and _area(both) <= _area(other) + _area(box):
                kept[k] = both
                break
        else:
            kept.append(box)
    return kept


def _area(box: Box) -> int:
    return (box[2] - box[0]) * (box[3] - box[1])
