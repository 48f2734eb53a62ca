"""The built screens, as files: compressed at build, served so to browsers that take it (WhiteNoise), kept by them for
good where their name changes with what is in them.
"""

import functools
import pathlib
from collections.abc import Mapping
from typing import Any

from flask import Flask, Response, request
from flask_compress import Compress
from whitenoise import WhiteNoise

from gray_quill.core.errors import NotFound

WORTH_IT_BYTES = 1500  # smaller answers go as they are


class Screens:
    """Serves what lies in `dist`, and its first page at every address of the screens."""

    def __init__(self, app: Flask, dist: pathlib.Path) -> None:
        self.files = _files_in(str(dist) if dist.is_dir() else None)
        app.add_url_rule("/", "first_page", lambda: self.page("index.html"))
        app.add_url_rule("/<path:name>", "page", self.page)

    def page(self, name: str) -> Response:
        """A file, or the first page: the screens' own addresses are no files."""
        found = self.files.get(f"/{name}")
        if found is None and not name.startswith("api/") and "." not in name:
            found = self.files.get("/index.html")
            if found is None:
                raise NotFound("The screens are not built yet. Run make setup.")
        if found is None:
            raise NotFound("There is nothing at this address.")
        asked = {name: value for name, value in request.environ.items() if name != "HTTP_RANGE"}
        answer = found.get_response(request.method, asked)
        body = b""
        if answer.file is not None:
            with answer.file:
                body = answer.file.read()
        headers = [*answer.headers, ("Accept-Ranges", "none")]  # files are small, and go whole
        return Response(body, int(answer.status), headers)


@functools.cache
def _files_in(root: str | None) -> Mapping[str, Any]:
    return WhiteNoise(None, root=root, max_age=0, allow_all_origins=False, immutable_file_test=r"^/assets/").files


def compress_answers(app: Flask) -> None:
    """JSON goes compressed: over the air that is felt, on this machine it would only cost time."""
    app.config.update(
        COMPRESS_MIMETYPES=["application/json"],
        COMPRESS_ALGORITHM=["br", "gzip"],
        COMPRESS_BR_LEVEL=4,
        COMPRESS_MIN_SIZE=WORTH_IT_BYTES,
    )
    Compress(app)
