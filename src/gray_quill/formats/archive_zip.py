"""An archive of everything: a zip of JSON and of the files that were brought in, with a manifest of their checksums.

manifest.json: {"format": "gray-quill/archive", "version", "app", "files": {name: {"sha256", "bytes"}}}. The same
content makes the same bytes. Nothing of an archive is ever unpacked to a file.
"""

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from gray_quill import __version__
from gray_quill.core.errors import FormatError
from gray_quill.formats.plain_json import JsonBudget, read_json
from gray_quill.formats.zip_in import NO_ZIP, ZipIn, ZipLimits, opened_zip

FORMAT, VERSION = "gray-quill/archive", 1
MANIFEST = "manifest.json"
LIMITS = ZipLimits(files=20_000, file_bytes=42_000_000, all_bytes=250_000_000)
MOST_VALUES, MOST_CONTAINERS = 4_000_000, 800_000  # of its JSON together
NAME = re.compile(r"[a-z-]{1,40}(/[A-Za-z0-9][A-Za-z0-9-]{0,80})?\.(json|pdf|png|jpeg)")
EPOCH = (1980, 1, 1, 0, 0, 0)


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
    with opened_zip(data, "archive", LIMITS) as archive:
        if MANIFEST not in archive.entries:
            raise FormatError("This archive has no manifest. Take it out again.")
        odd = next((n for n in archive.entries if not NAME.fullmatch(n)), None)
        if odd is not None:
            raise FormatError(f"This archive holds a file named {odd[:60]!r}, which no archive does. It is not read.")
        return _files(archive, _manifest(archive))


def _manifest(archive: ZipIn) -> dict[str, Any]:
    manifest = read_json(archive.read(MANIFEST))
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


def _files(archive: ZipIn, listed: Mapping[str, Any]) -> Opened:
    files: dict[str, Any] = {}
    broken = set(archive.entries) - {MANIFEST} - listed.keys()
    budget = JsonBudget(MOST_VALUES, MOST_CONTAINERS)
    for name, known in listed.items():
        try:
            data = archive.read(name)
            if not isinstance(known, dict) or hashlib.sha256(data).hexdigest() != known.get("sha256"):
                raise FormatError(name)
            files[name] = read_json(data, budget) if name.endswith(".json") else data
        except (KeyError, FormatError, *NO_ZIP):
            broken.add(name)
    return Opened(files, sorted(broken))
