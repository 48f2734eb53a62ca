"""Zip files from outside, the only place where they are opened: counted before anything is read, nothing unpacked
beyond what it says, nothing ever written to a file. Layout: APPNOTE.TXT of the zip format,
4.3.12 to 4.3.16; from memory.
"""

import contextlib
import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass

from gray_quill.core.errors import FormatError, TooLarge

END, END_SIZE, LONGEST_COMMENT = b"PK\x05\x06", 22, 65_535
ENTRY, ENTRY_SIZE = b"PK\x01\x02", 46
END_64, LOCATOR_SIZE = b"PK\x06\x07", 20  # the locator of a directory with numbers of 64 bits
MOST_TIMES, FROM_BYTES = 60, 20_000_000  # what unpacks to more than this is at most so many times its size
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


@dataclass(frozen=True)
class ZipLimits:
    """files: how many; file_bytes, all_bytes: unpacked, of one and of all."""

    files: int
    file_bytes: int
    all_bytes: int


class ZipIn:
    """Files of a zip by name, each of which stands in it once."""

    def __init__(self, archive: zipfile.ZipFile, what: str, limits: ZipLimits) -> None:
        self.entries = {e.filename: e for e in archive.infolist()}
        self._archive, self._what = archive, what
        if len(self.entries) < len(archive.infolist()):
            raise FormatError(f"This {what} names a file twice. Save it again.")
        sizes = [e.file_size for e in self.entries.values()]
        if max(sizes, default=0) > limits.file_bytes or sum(sizes) > limits.all_bytes:
            raise TooLarge(
                f"This {what} unpacks to more than is read: {limits.file_bytes // 1_000_000} MB a file, "
                f"{limits.all_bytes // 1_000_000} in all. Save it in parts."
            )

    def read(self, name: str, most_bytes: int | None = None) -> bytes:
        """A file, or its first bytes; never more of it than it says, whatever it unpacks to. Raises KeyError."""
        info = self.entries[name]
        with self._archive.open(info) as file:
            if most_bytes is not None:
                return file.read(most_bytes)
            data = file.read(info.file_size + 1)
        if len(data) != info.file_size:
            raise zipfile.BadZipFile(name)
        return data


@contextlib.contextmanager
def opened_zip(data: bytes, what: str, limits: ZipLimits) -> Iterator[ZipIn]:
    """what: how such a file is called. Raises FormatError for what is no zip or a damaged one, TooLarge for too much;
    so does whatever is done inside.
    """
    _check_directory(data, what, limits)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            opened = ZipIn(archive, what, limits)
            total = sum(e.file_size for e in opened.entries.values())
            if total > max(FROM_BYTES, MOST_TIMES * len(data)):
                raise TooLarge(f"This {what} unpacks to {total / len(data):.0f} times its size, which none does.")
            yield opened
    except NO_ZIP:
        raise FormatError(
            f"This {what} is damaged, or not a zip that can be opened. Save it again, without a password."
        ) from None


def _check_directory(data: bytes, what: str, limits: ZipLimits) -> None:
    """The directory is walked first, and left where it holds more than is read: zipfile makes an object of each entry,
    whatever count the end gives.
    """
    at = data.rfind(END, max(0, len(data) - END_SIZE - LONGEST_COMMENT))
    if at < 0 or at + END_SIZE > len(data):
        raise FormatError(f"This {what} is not a zip, or damaged. Save it again.")
    if data[max(0, at - LOCATOR_SIZE) :][:4] == END_64:
        raise TooLarge(f"This {what} is a zip of the 64-bit kind, for huge files, which is not read. Save it in parts.")
    (size,) = struct.unpack_from("<I", data, at + 12)
    place, count = at - size, 0  # where zipfile looks for it too, whatever stands before the zip
    if place < 0:
        raise FormatError(f"This {what} is a damaged zip. Save it again.")
    while place < at and data[place : place + 4] == ENTRY:
        count += 1
        if count > limits.files:
            raise TooLarge(f"This {what} holds over {limits.files} files. Save it in parts.")
        place += ENTRY_SIZE + sum(struct.unpack_from("<HHH", data, place + 28))
