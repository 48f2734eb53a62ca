"""The pictures and documents of a server's database, drawn by its reading process."""

import contextlib
import pathlib
import threading
from collections import OrderedDict
from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import FormatError
from gray_quill.formats.pdf_in import PdfLinks
from gray_quill.formats.pictures import PictureReader
from gray_quill.formats.sandbox import Sandbox
from gray_quill.store.database import connect
from gray_quill.store.originals import get_original, original_data

MOST_BYTES = 40_000_000  # of drawn parts remembered


class KeptOriginals:
    """What is printed on pages, as core/ink/underlay.py asks for it; parts drawn last are remembered."""

    def __init__(self, folder: pathlib.Path, sandbox: Sandbox) -> None:
        self.folder, self.reader, self.sandbox = folder, PictureReader(), sandbox
        self._links: dict[str, PdfLinks] = {}
        self._kinds: dict[str, str] = {}
        self._drawn: OrderedDict[tuple[object, ...], NDArray[np.uint8]] = OrderedDict()
        self._lock = threading.Lock()

    def drawn(
        self, file: str, page: int, part: tuple[float, float, float, float], width_px: int, height_px: int
    ) -> NDArray[np.uint8]:
        asked = (file, page, part, width_px, height_px)
        with self._lock:
            found = self._drawn.get(asked)
            if found is not None:
                self._drawn.move_to_end(asked)
                return found
        pixels = self.reader.drawn(file, self.kind(file), lambda: self._data(file), page, part, width_px, height_px)
        with self._lock:
            self._drawn[asked] = pixels
            while len(self._drawn) > 1 and sum(p.nbytes for p in self._drawn.values()) > MOST_BYTES:
                self._drawn.popitem(last=False)
        return pixels

    def bound(self, paper: bytes, ink: bytes, documents: Sequence[Sequence[Mapping[str, object]]]) -> bytes:
        files = sorted({str(one["file"]) for page in documents for one in page})
        return self.reader.assembled(paper, ink, documents, {file: self._data(file) for file in files})

    def _data(self, file: str) -> bytes:
        with contextlib.closing(connect(self.folder)) as db:
            return original_data(db, file)

    def links(self, file: str) -> PdfLinks:
        """Where the links of a document lead, and its outline; nothing of a picture."""
        if file not in self._links:
            try:
                self._links[file] = (
                    self.sandbox.read("pdf links", self._data(file)) if self.kind(file) == "pdf" else PdfLinks([], [])
                )
            except FormatError:
                self._links[file] = PdfLinks([], [])  # it is drawn without them
        return self._links[file]

    def kind(self, file: str) -> str:
        if file not in self._kinds:
            with contextlib.closing(connect(self.folder)) as db:
                self._kinds[file] = get_original(db, file).kind
        return self._kinds[file]
