"""Films: a zip of PNG frames, in the order of their names."""

import contextlib
import io
import re
import zipfile
from collections.abc import Callable, Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.lag.film_reader import MOST_FRAMES
from gray_quill.formats.png import read_png, write_png

MOST_FRAME_PIXELS = 4_000_000
MOST_PIXELS = 600_000_000  # of all frames together; they are held in memory while they are read
MOST_FRAME_BYTES = 30_000_000


def write_film(frames: Sequence[NDArray[np.uint8]]) -> bytes:
    """Grey frames as frame-00001.png and so on."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as film:
        for k, frame in enumerate(frames, 1):
            film.writestr(f"frame-{k:05d}.png", write_png(frame, compress=1))
    return out.getvalue()


def check_film_zip(data: bytes) -> None:
    """Refuse at once what is no zip of frames, or too many of them; the frames themselves are not looked at."""
    with _opened(data):
        pass


def read_film_zip(data: bytes, progress: Callable[[float], None] = lambda _: None) -> list[NDArray[np.uint8]]:
    """Grey frames (h, w), all of one size, of a zip's PNG files; other files in it are passed over. Refuses what is too
    much or not a film.

    `progress` is told the share that is done; what it raises ends the reading.
    """
    frames: list[NDArray[np.uint8]] = []
    with _opened(data) as (film, names):
        for k, info in enumerate(names):
            progress(k / len(names))
            if info.file_size > MOST_FRAME_BYTES:
                raise TooLarge(f"{info.filename} is over {MOST_FRAME_BYTES // 1_000_000} MB. Scale the frames down.")
            with film.open(info) as file:
                frame = to_grey8(read_png(file.read(MOST_FRAME_BYTES + 1), MOST_FRAME_PIXELS))
            if frames and frame.shape != frames[0].shape:
                raise FormatError(
                    f"{info.filename} has another size than the first frame. All frames must be of one film."
                )
            frames.append(frame)
            if len(frames) * frame.size > MOST_PIXELS:
                raise TooLarge("These frames are too many or too large together. Crop them to the stroke.")
    return frames


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
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError, EOFError):
        raise FormatError(
            "This file is not a zip that can be opened. Zip the frames again, without a password."
        ) from None


def _order(info: zipfile.ZipInfo) -> list[tuple[int, str]]:
    """By name, numbers by their value: frame-9 before frame-10."""
    return [(int(part), "") if part.isdigit() else (-1, part) for part in re.split(r"(\d+)", info.filename)]
