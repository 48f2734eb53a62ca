"""Replies that are not JSON, pictures inside those that are, and ids made from names."""

import base64
import re
import uuid
from urllib.parse import quote

from flask import Response


def png(data: bytes) -> Response:
    return Response(data, mimetype="image/png", headers={"Cache-Control": "no-store"})


def data_url(data: bytes) -> str:
    """A PNG as a picture inside a JSON reply."""
    return f"data:image/png;base64,{base64.b64encode(data).decode()}"


def download(data: bytes, media: str, name: str) -> Response:
    """A file to keep; the name is safe in a header."""
    plain = re.sub(r"[^A-Za-z0-9._ -]", "_", name)
    return Response(
        data,
        mimetype=media,
        headers={
            "Content-Disposition": f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}",
            "Cache-Control": "no-store",
        },
    )


def new_id(name: str) -> str:
    """An id like the name that nothing has had and nothing will have."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40].strip("-") or "item"
    return f"{stem}-{uuid.uuid4().hex[:12]}"
