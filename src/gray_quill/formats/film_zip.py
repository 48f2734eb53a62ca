"""Films: a zip of PNG frames, in the order of their names."""

import contextlib
import io
import lzma
import re
import struct
import zipfile
import zlib
from collections.abc import Callable, Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.lag.film_reader import MOST_FRAMES
from gray_quill.formats.png import PNG_HEAD, read_png, write_png

MOST_FRAME_PIXELS = 4_000_000
MOST_PIXELS = 200_000_000  # of all frames together, a byte each, which are in memory while they are read
MOST_FRAME_BYTES = 30_000_000
# what reading a damaged or odd zip may come to
NO_ZIP = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    RuntimeError,
    NotImplementedError,
    EOFError,
    OSError,
    ValueError,
    OverflowError,
)
Frames = NDArray[np.uint8]


def write_film(frames: Sequence[NDArray[np.uint8]]) -> bytes:
    """Grey frames as frame-00001.png and so on."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as film:
        for k, frame in enumerate(frames, 1):
            film.writestr(f"frame-{k:05d}.png", write_png(frame, compress=1))
    return out.getvalue()


def check_length(size: tuple[int, int], frames: int) -> None:
    """Refuse to make a film that is too much. size: height and width."""
    million = size[0] * size[1] * frames / 1_000_000
    if million > MOST_PIXELS / 1_000_000 or frames > MOST_FRAMES:
        raise TooLarge(
            f"That film would have {frames} frames and {million:.0f} million pixels; {MOST_FRAMES} and "
            f"{MOST_PIXELS // 1_000_000} million are the most. Take fewer frames a second, or less of the page."
        )


def check_film_zip(data: bytes) -> None:
    """Refuse at once what is no zip of frames, or too much of them: what the first frame says of its size is taken for
    all, and none is unpacked.
    """
    with _opened(data) as (film, names):
        _check_budget(_size(film, names[0]), len(names))


def read_film_zip(data: bytes, progress: Callable[[float], None] = lambda _: None) -> Frames:
    """Grey frames, shape (n, h, w), of a zip's PNG files; other files in it are passed over. Refuses what is too much
    or no film.

    `progress` is told the share that is done; what it raises ends the reading.
    """
    with _opened(data) as (film, names):
        height, width = _size(film, names[0])
        _check_budget((height, width), len(names))
        frames = np.empty((len(names), height, width), np.uint8)
        for k, info in enumerate(names):
            progress(k / len(names))
            if _size(film, info) != (height, width):
                raise FormatError(
                    f"{info.filename} has another size than the first frame. All frames must be of one film."
                )
            frames[k] = _frame(film, info)
    return frames


def film_size(data: bytes) -> tuple[int, int, int]:
    """Number of frames, height and width."""
    with _opened(data) as (film, names):
        return len(names), *_size(film, names[0])


def film_frame(data: bytes, number: int) -> NDArray[np.uint8]:
    """One grey frame (h, w) of a film that was read; the first is number 0."""
    with _opened(data) as (film, names):
        return _frame(film, names[number])


def _check_budget(size: tuple[int, int], frames: int) -> None:
    pixels = size[0] * size[1]
    if pixels > MOST_FRAME_PIXELS:
        raise TooLarge(f"A frame has over {MOST_FRAME_PIXELS // 1_000_000} million pixels. Scale the frames down.")
    if pixels * frames > MOST_PIXELS:
        raise TooLarge(
            f"These {frames} frames are {pixels * frames / 1e6:.0f} million pixels together; at most "
            f"{MOST_PIXELS // 1_000_000} million are read. Crop them to the stroke."
        )


def _size(film: zipfile.ZipFile, info: zipfile.ZipInfo) -> tuple[int, int]:
    """Height and width a PNG file says it has, from its first bytes (PNG, W3C, 11.2.1: IHDR comes first)."""
    if info.file_size > MOST_FRAME_BYTES:
        raise TooLarge(f"{info.filename[:60]} is over {MOST_FRAME_BYTES // 1_000_000} MB. Scale the frames down.")
    with film.open(info) as file:
        head = file.read(24)
    if not head.startswith(PNG_HEAD) or len(head) < 24:
        raise FormatError(f"{info.filename[:60]} is not a PNG picture. Save the frames as PNG.")
    width, height = struct.unpack(">II", head[16:24])
    return height, width


def _frame(film: zipfile.ZipFile, info: zipfile.ZipInfo) -> NDArray[np.uint8]:
    with film.open(info) as file:
        return to_grey8(read_png(file.read(MOST_FRAME_BYTES + 1), MOST_FRAME_PIXELS))


@contextlib.contextmanager
def _opened(data: bytes) -> Iterator[tuple[zipfile.ZipFile, list[zipfile.ZipInfo]]]:
    """The zip and its frames in order."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as film:
            names = sorted(
                (i for i in film.infolist() if i.filename.lower().endswith(".png") and "__MACOSX" not in i.filename),
                key=_order,
            )
            if not names:
                raise FormatError(
                    "This zip holds no PNG frames. Export the film as PNG pictures, one a frame, and zip them."
                )
            if len(names) > MOST_FRAMES:
                raise TooLarge(
                    f"This zip holds {len(names)} frames; at most {MOST_FRAMES} are read. Cut the film to one stroke."
                )
            yield film, names
    except NO_ZIP:
        raise FormatError(
            "This file is not a zip that can be opened. Zip the frames again, without a password."
        ) from None


def _order(info: zipfile.ZipInfo) -> list[tuple[int, str]]:
    """By name, numbers by their value: frame-9 before frame-10."""
    return [(int(part), "") if part.isdigit() else (-1, part) for part in re.split(r"(\d+)", info.filename)]
