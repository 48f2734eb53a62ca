"""Replies that are not JSON, pictures inside those that are, and ids made from names."""

import base64
import hashlib
import re
import uuid
from collections.abc import Callable
from urllib.parse import quote

import numpy as np
from flask import Response, request
from numpy.typing import NDArray

from gray_quill.formats.png import write_png, write_webp
from gray_quill.web.access import door

WEBP_FROM_BYTES = 200_000  # about where a Wi-Fi of 10 Mbit/s takes longer for the rest than WebP takes to make


def png(data: bytes) -> Response:
    return Response(data, mimetype="image/png", headers={"Cache-Control": "no-store"})


def drawn_once(made_from: str, drawn: Callable[[], NDArray[np.uint8]]) -> Response:
    """A picture that a browser keeps and asks again for: drawn only where it is made from something else by now, which
    names and numbers do not tell, for another database may hold other things by them.
    """
    tag = hashlib.sha256(made_from.encode()).hexdigest()[:20]
    reply = Response(status=304)
    if not request.if_none_match.contains(tag):
        reply = png(write_png(drawn(), compress=6))
    reply.set_etag(tag)
    reply.headers["Cache-Control"] = "private, no-cache"
    return reply


def over_the_air(pixels: NDArray[np.uint8], data: bytes) -> Response:
    """A large picture for another screen goes as WebP where that is smaller; small ones, and all on this machine, as
    the PNG they are: making WebP takes longer than it saves there.
    """
    takes = request.accept_mimetypes["image/webp"] > 0
    if len(data) >= WEBP_FROM_BYTES and takes and door().place.room:
        smaller = write_webp(pixels)
        if len(smaller) < len(data):
            return Response(smaller, mimetype="image/webp", headers={"Cache-Control": "no-store", "Vary": "Accept"})
    return png(data)


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
            "Content-Disposition": f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}",
            "Cache-Control": "no-store",
        },
    )


def new_id(name: str) -> str:
    """An id like the name that nothing has had and nothing will have."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40].strip("-") or "item"
    return f"{stem}-{uuid.uuid4().hex[:12]}"
