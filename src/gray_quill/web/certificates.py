"""The certificate this server shows to the room: a leaf for its own names, signed by an authority of its own that lives
in the data folder. Made with trustme (on top of cryptography); keys lie in files only their owner reads.
"""

import dataclasses
import datetime
import hashlib
import json
import pathlib

import trustme
from cryptography import x509
from cryptography.hazmat.primitives import serialization

from gray_quill.core.errors import Unavailable

FOLDER = "tls"
OWNER = "Gray Quill on this machine"
LEAF_DAYS, RENEW_DAYS = 90, 30  # a leaf lasts so long, and is made anew when less than that is left
ONLY_OWNER = 0o600


@dataclasses.dataclass(frozen=True)
class Certificates:
    """leaf: file with the key and the chain; authority: the certificate that others trust, PEM; until: of the leaf."""

    leaf: pathlib.Path
    authority: bytes
    until: datetime.datetime

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the authority's certificate, as devices show it."""
        der = x509.load_pem_x509_certificate(self.authority).public_bytes(serialization.Encoding.DER)
        return ":".join(f"{byte:02X}" for byte in hashlib.sha256(der).digest())


def certificates(data: pathlib.Path, names: tuple[str, ...], now: datetime.datetime | None = None) -> Certificates:
    """The certificates for these names, made where there are none and renewed in time. Raises Unavailable where the
    data folder cannot be written.
    """
    now, folder = now or datetime.datetime.now(datetime.UTC), data / FOLDER
    key, shown, leaf, told = (folder / n for n in ("authority.key", "authority.pem", "leaf.pem", "leaf.json"))
    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        if key.is_file() and shown.is_file():
            authority = trustme.CA.from_pem(shown.read_bytes(), key.read_bytes())
        else:
            authority = trustme.CA(organization_name=OWNER, organization_unit_name="authority")
            _write(key, authority.private_key_pem.bytes())
            _write(shown, authority.cert_pem.bytes())
            leaf.unlink(missing_ok=True)
        until = _until(leaf, told, names)
        if until is None or until - now < datetime.timedelta(days=RENEW_DAYS):
            until = now + datetime.timedelta(days=LEAF_DAYS)
            made = authority.issue_cert(*(n.strip("[]") for n in names), organization_name=OWNER, not_after=until)
            _write(leaf, made.private_key_and_cert_chain_pem.bytes())
            _write(told, json.dumps({"names": names}).encode())
        return Certificates(leaf, shown.read_bytes(), until)
    except OSError as error:
        raise Unavailable(
            f"The certificate cannot be kept in {folder} ({error.strerror}). Let that folder be written, or serve "
            "without TLS (--no-tls)."
        ) from None


def _until(leaf: pathlib.Path, told: pathlib.Path, names: tuple[str, ...]) -> datetime.datetime | None:
    """How long the leaf lasts, None where there is none for just these names."""
    try:
        if json.loads(told.read_bytes())["names"] != list(names):
            return None
        return x509.load_pem_x509_certificate(leaf.read_bytes()).not_valid_after_utc
    except (OSError, ValueError, KeyError):
        return None


def _write(path: pathlib.Path, data: bytes) -> None:
    """Written so that nobody else ever can read it."""
    path.unlink(missing_ok=True)
    path.touch(mode=ONLY_OWNER)
    path.write_bytes(data)
