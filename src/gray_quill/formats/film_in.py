"""Films in: a zip of PNG frames, in the order of their names."""

import contextlib
import re
import struct
from collections.abc import Callable, Iterator

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.latency.film_reader import MOST_FRAMES, FilmReading, read_film, told
from gray_quill.formats.film_zip import MOST_PIXELS
from gray_quill.formats.png import PNG_HEAD, read_png, write_png
from gray_quill.formats.zip_in import ZipIn, ZipLimits, opened_zip

MOST_FRAME_PIXELS = 4_000_000
LIMITS = ZipLimits(files=2 * MOST_FRAMES, file_bytes=30_000_000, all_bytes=600_000_000)
GETTING = 0.7  # of a film's time goes into its frames, the rest into reading them
Frames = NDArray[np.uint8]


def read_film_zip(data: bytes, progress: Callable[[float], None] = lambda _: None) -> Frames:
    """Grey frames, shape (n, h, w), of a zip's PNG files; other files in it are passed over. Refuses what is too much
    or no film. `progress` is told the share that is done.
    """
    with _opened(data) as (film, names):
        height, width = _checked_size(film, names)
        frames = np.empty((len(names), height, width), np.uint8)
        for k, name in enumerate(names):
            progress(k / len(names))
            if _size(film, name) != (height, width):
                raise FormatError(f"{name} has another size than the first frame. All frames must be of one film.")
            frames[k] = _frame(film, name)
    return frames


def read_film_file(
    data: bytes, fps: float, mm_per_px: float, progress: Callable[[float], None] = lambda _: None
) -> FilmReading:
    """What the film reader makes of a film."""
    frames = read_film_zip(data, lambda share: progress(GETTING * share))
    found = read_film(frames, fps, mm_per_px, lambda share: progress(GETTING + (1 - GETTING) * share))
    return told(found, mm_per_px, None)


def film_length(data: bytes) -> tuple[int, int, int]:
    """Number of frames, height and width; what the first frame says of its size is taken for all, and none is unpacked.
    Refuses at once what is no zip of frames, or too much of them.
    """
    with _opened(data) as (film, names):
        return len(names), *_checked_size(film, names)


def read_film_frame(data: bytes, number: int) -> bytes:
    """One frame as a grey PNG of ours; the first is number 0. Raises FormatError where there is none."""
    with _opened(data) as (film, names):
        if number >= len(names):
            raise FormatError(f"This film has {len(names)} frames; there is no number {number}.", "number")
        return write_png(_frame(film, names[number]), compress=1)


def _checked_size(film: ZipIn, names: list[str]) -> tuple[int, int]:
    """Height and width of the first frame, where as many of them as there are can be read."""
    height, width = _size(film, names[0])
    pixels = height * width
    if pixels > MOST_FRAME_PIXELS:
        raise TooLarge(f"A frame has over {MOST_FRAME_PIXELS // 1_000_000} million pixels. Scale the frames down.")
    if pixels * len(names) > MOST_PIXELS:
        raise TooLarge(
            f"These {len(names)} frames are {pixels * len(names) / 1e6:.0f} million pixels together; at most "
            f"{MOST_PIXELS // 1_000_000} million are read. Crop them to the stroke."
        )
    return height, width


def _size(film: ZipIn, name: str) -> tuple[int, int]:
    """Height and width a PNG file says it has, from its first bytes (PNG, W3C, 11.2.1: IHDR comes first)."""
    head = film.read(name, 24)
    if not head.startswith(PNG_HEAD) or len(head) < 24:
        raise FormatError(f"{name[:60]} is not a PNG picture. Save the frames as PNG.")
    width, height = struct.unpack(">II", head[16:24])
    return height, width


def _frame(film: ZipIn, name: str) -> Frames:
    return to_grey8(read_png(film.read(name), MOST_FRAME_PIXELS))


@contextlib.contextmanager
def _opened(data: bytes) -> Iterator[tuple[ZipIn, list[str]]]:
    """The zip and the names of its frames in order."""
    with opened_zip(data, "film", LIMITS) as film:
        names = sorted((n for n in film.entries if n.lower().endswith(".png") and "__MACOSX" not in n), key=_order)
        if not names:
            raise FormatError(
                "This zip holds no PNG frames. Export the film as PNG pictures, one a frame, and zip them."
            )
        if len(names) > MOST_FRAMES:
            raise TooLarge(
                f"This zip holds {len(names)} frames; at most {MOST_FRAMES} are read. Cut the film to one stroke."
            )
        yield film, names


def _order(name: str) -> list[tuple[int, str]]:
    """By name, numbers by their value: frame-9 before frame-10."""
    return [(int(part), "") if part.isdigit() else (-1, part) for part in re.split(r"(\d+)", name)]
