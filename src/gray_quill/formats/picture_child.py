"""The process that draws pictures and PDF documents from outside that were let in, and puts PDFs together: it alone,
with limits, so that a file which brings a library down takes nothing else with it.

It reads from its input a line of JSON and as many bytes as that names, and answers in the same way: {"length": bytes of
what follows, "error": what is wrong with the file and what to do, "large": it is too much}.
"""

import json
import resource
import sys
from collections import OrderedDict
from typing import Any

from gray_quill.core.errors import GrayQuillError, TooLarge
from gray_quill.formats.pdf_cut import cut_pages
from gray_quill.formats.pdf_in import Document
from gray_quill.formats.pdf_notes import with_notes
from gray_quill.formats.pdf_out import assemble
from gray_quill.formats.picture_in import Picture
from gray_quill.formats.svg_drawn import Drawing

MEMORY_BYTES = 900_000_000
MOST_KEPT = 4  # files held open


READERS: dict[str, type[Picture] | type[Document] | type[Drawing]] = {"pdf": Document, "svg": Drawing}


class Desk:
    """Files held open, the last used last."""

    def __init__(self) -> None:
        self.open: OrderedDict[str, Picture | Document | Drawing] = OrderedDict()
        self.data: dict[str, bytes] = {}

    def take(self, key: str, kind: str, data: bytes) -> None:
        self.open[key] = READERS.get(kind, Picture)(data)
        self.data[key] = data
        while len(self.open) > MOST_KEPT:
            self.data.pop(self.open.popitem(last=False)[0])

    def answer(self, asked: dict[str, Any], payload: bytes) -> tuple[dict[str, Any], bytes]:
        if asked["do"] == "open":
            self.take(asked["key"], asked["kind"], payload)
            return {}, b""
        if asked["do"] == "draw":
            if asked["key"] not in self.open:
                return {"missing": True}, b""
            self.open.move_to_end(asked["key"])
            found = self.open[asked["key"]]
            return {}, found.drawn(asked["page"], asked["part"], asked["width"], asked["height"])
        if asked["do"] == "cut":
            return {}, cut_pages(payload, asked["heights_pt"])
        if asked["do"] == "note":
            return {}, with_notes(payload, asked["notes"])
        at, parts = 0, []
        for length in asked["lengths"]:
            parts.append(payload[at : at + length])
            at += length
        files = dict(zip(asked["keys"], parts[2:], strict=True))
        return {}, assemble(parts[0], parts[1], asked["prints"], files)


def main() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    desk, read, write = Desk(), sys.stdin.buffer, sys.stdout.buffer
    while line := read.readline():
        asked = json.loads(line)
        payload = read.read(asked.get("length", 0))
        try:
            told, data = desk.answer(asked, payload)
        except GrayQuillError as refused:
            told, data = {"error": refused.message, "large": isinstance(refused, TooLarge)}, b""
        except MemoryError:
            told, data = (
                {"error": "This file needs too much memory. Print it to a new, simpler one.", "large": True},
                b"",
            )
        except Exception as error:  # one file's trouble, not the end of all
            told, data = {"error": f"This file cannot be read ({type(error).__name__}). Save or print it anew."}, b""
        write.write(json.dumps({**told, "length": len(data)}).encode() + b"\n" + data)
        write.flush()


if __name__ == "__main__":
    main()
