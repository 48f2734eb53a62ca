"""An archive of everything: a zip of JSON and of the files that were brought in, with a manifest of their checksums.

manifest.json: {"format": "gray-quill/archive", "version", "app", "files": {name: {"sha256", "bytes"}}}. The same
content makes the same bytes. Nothing of an archive is ever unpacked to a file.
"""

import hashlib
import io
import json
import re
import struct
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from gray_quill import __version__
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.formats.film_zip import NO_ZIP
from gray_quill.formats.plain_json import read_json

FORMAT, VERSION = "gray-quill/archive", 1
MANIFEST = "manifest.json"
MOST_FILES = 20_000
MOST_BYTES, MOST_IN_ALL = 60_000_000, 600_000_000  # unpacked, of one file and of all
NAME = re.compile(r"[a-z-]{1,40}(/[A-Za-z0-9][A-Za-z0-9-]{0,80})?\.(json|pdf|png|jpeg)")
EPOCH = (1980, 1, 1, 0, 0, 0)
END, END_SIZE, LONGEST_COMMENT = b"PK\x05\x06", 22, 65_535


@dataclass(frozen=True)
class Opened:
    """The files of an archive by name, JSON read; broken: names of those that are not whole."""

    files: dict[str, Any]
    broken: list[str]


def write_archive(files: Mapping[str, Any]) -> bytes:
    """Files by name: bytes as they are, everything else as JSON."""
    out, told = io.BytesIO(), {}
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for name, content in sorted(files.items()):
            data = content if isinstance(content, bytes) else json.dumps(content, separators=(",", ":")).encode()
            told[name] = {"sha256": hashlib.sha256(data).hexdigest(), "bytes": len(data)}
            archive.writestr(_entry(name), data)
        manifest = {"format": FORMAT, "version": VERSION, "app": __version__, "files": told}
        archive.writestr(_entry(MANIFEST), json.dumps(manifest, indent=1))
    return out.getvalue()


def _entry(name: str) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(name, EPOCH)
    info.compress_type = zipfile.ZIP_STORED if name.endswith((".png", ".jpeg")) else zipfile.ZIP_DEFLATED
    return info


def read_archive(data: bytes) -> Opened:
    """The files of an archive. Raises FormatError or TooLarge for what is none, hostile, or of a later version; files
    that are missing or do not match their checksum are named, not read.
    """
    _check_count(data)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = archive.infolist()
            _check_entries(entries)
            told = _manifest(archive)
            return _files(archive, told, {e.filename for e in entries})
    except NO_ZIP:
        raise FormatError("This is no archive of Gray Quill, or it is damaged. Take it out again.") from None


def _check_count(data: bytes) -> None:
    """How many files there are stands at the end; a directory of a million is not even read."""
    at = data.rfind(END, max(0, len(data) - END_SIZE - LONGEST_COMMENT))
    if at < 0 or at + END_SIZE > len(data):
        raise FormatError("This is no archive of Gray Quill: it is not a zip. Take it out again.")
    count, size = struct.unpack_from("<HI", data, at + 10)
    if count > MOST_FILES or size > 200 * MOST_FILES:
        raise TooLarge(f"This archive holds over {MOST_FILES} files. Take less out at a time.")


def _check_entries(entries: list[zipfile.ZipInfo]) -> None:
    names = [e.filename for e in entries]
    if names.count(MANIFEST) != 1 or len(set(names)) < len(names):
        raise FormatError("This archive has no manifest, or names a file twice. Take it out again.")
    odd = next((n for n in names if not NAME.fullmatch(n)), None)
    if odd is not None:
        raise FormatError(f"This archive holds a file named {odd[:60]!r}, which no archive does. It is not read.")
    if any(e.file_size > MOST_BYTES for e in entries) or sum(e.file_size for e in entries) > MOST_IN_ALL:
        raise TooLarge("This archive unpacks to more than is read. Take less out at a time.")


def _manifest(archive: zipfile.ZipFile) -> dict[str, Any]:
    manifest = read_json(_read(archive, MANIFEST))
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise FormatError("This zip is no archive of Gray Quill: its manifest says otherwise.")
    version = manifest.get("version")
    if not isinstance(version, int) or version > VERSION:
        raise FormatError(
            f"This archive was made by a later version of Gray Quill ({manifest.get('app')}). Bring it in there, or "
            "bring this one up to date."
        )
    files = manifest.get("files")
    return files if isinstance(files, dict) else {}


def _files(archive: zipfile.ZipFile, told: Mapping[str, Any], there: set[str]) -> Opened:
    files: dict[str, Any] = {}
    broken = sorted(there - {MANIFEST} - told.keys())
    for name, known in told.items():
        try:
            data = _read(archive, name)
            if not isinstance(known, dict) or hashlib.sha256(data).hexdigest() != known.get("sha256"):
                raise FormatError(name)
            files[name] = json.loads(data) if name.endswith(".json") else data
        except (KeyError, FormatError, RecursionError, *NO_ZIP):
            broken.append(name)
    return Opened(files, sorted(set(broken)))


def _read(archive: zipfile.ZipFile, name: str) -> bytes:
    """A file; never more of it than it says, whatever it unpacks to."""
    info = archive.getinfo(name)
    with archive.open(info) as file:
        data = file.read(info.file_size + 1)
    if len(data) != info.file_size:
        raise zipfile.BadZipFile(name)
    return data
