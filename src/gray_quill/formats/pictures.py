"""Pictures and PDF documents from outside: what kind of file they are, and, once they were let in by the sandbox, how
they look, drawn by a process of its own that may fall without harm.
"""

import contextlib
import hashlib
import json
import os
import re
import selectors
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import FormatError, TooLarge, Unavailable
from gray_quill.formats.pdf_notes import InkNote, plain_notes

MOST_BYTES = 40_000_000
ANSWERS_S = 12.0  # on a busy machine; others wait meanwhile, and what takes longer is not worth it
KINDS = {b"%PDF-": "pdf", b"\x89PNG\r\n\x1a\n": "png", b"\xff\xd8\xff": "jpeg"}
READ_BY = {"pdf": "pdf", "svg": "svg picture", "png": "picture", "jpeg": "picture"}  # of the sandbox
MEDIA = {"pdf": "application/pdf", "png": "image/png", "jpeg": "image/jpeg", "svg": "image/svg+xml"}
SVG_HEAD = re.compile(rb"(?:\xef\xbb\xbf)?\s*<(?:\?xml|!--|!DOCTYPE|(?:\w+:)?svg[\s>])")
FELL = "This file brought its reader down, or kept it too long. Print it to a new, simpler one."


def kind_of(data: bytes) -> str:
    """png, jpeg, svg or pdf, by its first bytes. Raises FormatError for anything else, TooLarge for too much of it."""
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This file is over {MOST_BYTES // 1_000_000} MB. Make it smaller, or split it.")
    kind = next((kind for head, kind in KINDS.items() if data.lstrip()[:8].startswith(head)), None)
    if kind is None and SVG_HEAD.match(data[:4000]):
        return "svg"
    if kind is None:
        raise FormatError("This is neither a PDF nor a PNG, JPEG or SVG picture. Save or print it as one of these.")
    return kind


def key_of(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()[:40]


class PictureReader:
    """The one reading process of a server, started when it is needed and again after it fell."""

    def __init__(self, answers_s: float = ANSWERS_S) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._answers_s = answers_s

    def drawn(
        self,
        key: str,
        kind: str,
        load: Callable[[], bytes],
        page: int,
        part: tuple[float, float, float, float],
        width_px: int,
        height_px: int,
    ) -> NDArray[np.uint8]:
        """A part of a page as RGB, of a picture or drawing as RGBA, top row first. load: its bytes."""
        asked = {"do": "draw", "page": page, "part": part, "width": width_px, "height": height_px}
        with self._lock:
            told, pixels = self._ask({**asked, "key": key})
            if told.get("missing"):
                self._ask({"do": "open", "key": key, "kind": kind}, load())
                told, pixels = self._ask({**asked, "key": key})
        return np.frombuffer(pixels, np.uint8).reshape(height_px, width_px, -1)

    def assembled(
        self, paper: bytes, ink: bytes, prints: Sequence[Sequence[Mapping[str, object]]], files: dict[str, bytes]
    ) -> bytes:
        """A PDF of papers, the document pages printed on them, and ink over all, as in picture_child.assemble."""
        parts = [paper, ink, *files.values()]
        asked = {"do": "assemble", "prints": prints, "keys": list(files), "lengths": [len(p) for p in parts]}
        with self._lock:
            return self._ask(asked, b"".join(parts))[1]

    def noted(self, data: bytes, pages: Sequence[Sequence[InkNote]]) -> bytes:
        """A PDF with ink annotations on its pages."""
        with self._lock:
            return self._ask({"do": "note", "notes": plain_notes(pages)}, data)[1]

    def cut(self, long: bytes, heights_pt: Sequence[Sequence[float]]) -> bytes:
        """A PDF with each page cut into pages of these heights."""
        with self._lock:
            return self._ask({"do": "cut", "heights_pt": heights_pt}, long)[1]

    def __del__(self) -> None:
        self._end()

    def close(self) -> None:
        with self._lock:
            self._end()

    def _ask(
        self, asked: dict[str, Any], payload: bytes = b"", within_s: float = ANSWERS_S
    ) -> tuple[dict[str, Any], bytes]:
        process = self._running()
        until = time.monotonic() + min(within_s, self._answers_s)
        try:
            line = json.dumps({**asked, "length": len(payload)}).encode() + b"\n"
            sender = threading.Thread(target=self._send, args=(process, line + payload), daemon=True)
            sender.start()  # who answers before all is read must not be waited for by its own input
            told, rest = self._line(process, until)
            data = self._read(process, told["length"], until, rest)
            sender.join(max(0.0, until - time.monotonic()))
        except (OSError, ValueError, KeyError, TimeoutError):
            self._end()
            raise FormatError(FELL) from None
        if told.get("error"):
            raise (TooLarge if told.get("large") else FormatError)(told["error"])
        return told, data

    @staticmethod
    def _send(process: subprocess.Popen[bytes], data: bytes) -> None:
        assert process.stdin is not None
        try:
            process.stdin.write(data)
            process.stdin.flush()
        except (OSError, ValueError):
            pass  # it fell; who waits for its answer sees that

    def _line(self, process: subprocess.Popen[bytes], until: float) -> tuple[dict[str, Any], bytes]:
        got = b""
        while b"\n" not in got:
            got += self._some(process, until)
        line, _, rest = got.partition(b"\n")
        return json.loads(line), rest

    def _read(self, process: subprocess.Popen[bytes], length: int, until: float, got: bytes) -> bytes:
        parts, have = [got], len(got)
        while have < length:
            parts.append(self._some(process, until))
            have += len(parts[-1])
        return b"".join(parts)

    @staticmethod
    def _some(process: subprocess.Popen[bytes], until: float) -> bytes:
        assert process.stdout is not None
        with selectors.DefaultSelector() as ready:
            ready.register(process.stdout, selectors.EVENT_READ)
            if not ready.select(max(0.0, until - time.monotonic())):
                raise TimeoutError
        data = os.read(process.stdout.fileno(), 1 << 20)
        if not data:
            raise OSError("it ended")
        return data

    def _running(self) -> subprocess.Popen[bytes]:
        if self._process is None or self._process.poll() is not None:
            self._end()
            command = [sys.executable, "-m", "gray_quill.formats.picture_child"]
            try:
                self._process = subprocess.Popen(
                    command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, cwd="/"
                )
            except OSError:
                raise Unavailable("Pictures and PDF cannot be read now: no process could be started.") from None
        return self._process

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is None:
            return
        process.kill()
        process.wait()
        for pipe in (process.stdin, process.stdout):
            if pipe:
                with contextlib.suppress(OSError):
                    pipe.close()
