"""Taking a sheet out: the pages that are asked for, in any form, as one file or many, each compared with the screen."""

import contextlib
import dataclasses
import datetime
import io
import itertools
import re
import sqlite3
import zipfile
from collections.abc import Callable, Sequence
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint, Response
from pydantic import Field, StringConstraints

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.ink.cover import cover_inks
from gray_quill.core.ink.layer import FIRST
from gray_quill.core.ink.placement import IDENTITY
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import UNEDITED
from gray_quill.core.ink.view import View, page_view
from gray_quill.core.panel.proof import PLAIN, proof_sheet
from gray_quill.core.paper import LARGEST_MM, Paper
from gray_quill.core.units import mm_to_pt, px_per_mm
from gray_quill.formats.export import DPI, export_sheet
from gray_quill.formats.inkml_write import Brush, WrittenPage, WrittenStroke, write_inkml_sheet
from gray_quill.formats.openraster_in import merged_picture
from gray_quill.formats.pdf import write_pdf
from gray_quill.formats.pdf_notes import InkNote
from gray_quill.formats.pictures import key_of
from gray_quill.formats.png import write_png
from gray_quill.store.database import connect
from gray_quill.store.items import get_thing
from gray_quill.store.layers import held_of
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import Sheet, get_sheet, pages_of
from gray_quill.store.stroke_edits import stroke_edits_of
from gray_quill.store.strokes import stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, folder, memory
from gray_quill.web.covers import LEAST_PAGE_MM, page_cuts
from gray_quill.web.ink_source import InkMemory
from gray_quill.web.jobs import JobItem, Progress, jobs
from gray_quill.web.records import Id, Printable, bounded
from gray_quill.web.replies import download
from gray_quill.web.sheets import MEDIA

exports = Blueprint("exports", __name__)
EPOCH = (1980, 1, 1, 0, 0, 0)  # the same sheet makes the same bytes
COMPARED_DPI = 144.0
MOST_COMPARED = 6  # pages, evenly among more
EQUAL = 0.003  # of full scale, on the mean: what another renderer's edges come to
MOST_COMPARED_PX = 20_000_000
OUTLINES = ("pdf", "svg")
Span = tuple[float, float]
COMPARED = {"pdf": "pdf", "png": "png", "ora": "png", "svg": "svg"}  # what can be read back and laid beside the screen


class ExportBody(Model):
    """pages: "this", "all", or numbers like "2-4, 7". apart: a file for each page. names: what files are called, with
    {sheet}, {page}, {bookmark} and {date}. device_id: a PNG as this device's panel shows it, pixel for pixel. cut_mm: a
    PDF's longer pages are cut into such of at most this height. annotated: a PDF's ink as annotations. lifted: with
    the covers off what they cover.
    """

    form: Literal["svg", "png", "pdf", "inkml", "ora"] = "pdf"
    pages: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)] = "this"
    apart: bool = False
    dpi: Annotated[float, bounded(DPI)] = 300
    paper: bool = True
    names: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), Printable] = "{sheet}"
    device_id: Id | None = None
    cut_mm: float | None = Field(None, ge=LEAST_PAGE_MM, le=LARGEST_MM)
    annotated: bool = False
    lifted: bool = False


@dataclasses.dataclass(frozen=True)
class Beside:
    """A page that was taken out beside the screen: by how much of full scale they differ on the mean, and why."""

    page: int
    apart: float
    why: str


@dataclasses.dataclass(frozen=True)
class TakenOut:
    """name: of the file; files: of those inside, where it holds several; beside: of pages that could be read back;
    words: what that comes to.
    """

    name: str
    files: list[str]
    bytes: int
    beside: list[Beside]
    words: str


@dataclasses.dataclass(frozen=True)
class Made:
    """What an export came to, and the file itself."""

    told: TakenOut
    media: str
    data: bytes


def chosen_pages(asked: str, now: int, count: int) -> list[int]:
    """Page numbers that "this", "all" or "2-4, 7" name, each once and rising. Raises InputError for others."""
    if asked in ("this", "all"):
        return [now] if asked == "this" else list(range(1, count + 1))
    chosen: set[int] = set()
    for part in asked.split(","):
        match = re.fullmatch(r"\s*(\d{1,4})\s*(?:-\s*(\d{1,4}))?\s*", part)
        first, last = (int(match[1]), int(match[2] or match[1])) if match else (0, 0)
        if not 1 <= first <= last <= count:
            raise InputError(f"Name pages from 1 to {count}, like 2-4, 7; {part.strip()!r} is none.", "pages")
        chosen |= set(range(first, last + 1))
    return sorted(chosen)


def named(pattern: str, page: Sheet) -> str:
    """A file's name without its ending."""
    words = {
        "sheet": page.name,
        "page": f"{page.page:0{len(str(page.pages))}d}",
        "bookmark": page.bookmark or "no bookmark",
        "date": datetime.date.today().isoformat(),
    }
    unknown = [word for word in re.findall(r"\{([^{}]*)\}", pattern) if word not in words]
    if unknown:
        raise InputError(f"Names know {{sheet}}, {{page}}, {{bookmark}} and {{date}}, not {{{unknown[0]}}}.", "names")
    name = re.sub(r"\{(\w+)\}", lambda match: words[match[1]], pattern)
    return re.sub(r'[/\\:*?"<>|]', "-", name).strip(" .") or "Sheet"


@operation(exports, "POST", "/sheets/<sheet_id>/exports", JobItem, body=ExportBody, status=202)
def export_pages(sheet_id: str, body: ExportBody) -> JobItem:
    """Take pages of a sheet out, compared with the screen where the file can be read back."""
    here = get_sheet(db(), sheet_id)
    numbers = chosen_pages(body.pages, here.page, here.pages)
    named(body.names, here)
    if body.device_id:
        get_thing(db(), Device, body.device_id)
        if body.form != "png":
            raise InputError("A panel's look is a picture: take it out as PNG.", "form")
    if body.form != "pdf" and (body.cut_mm or body.annotated):
        raise InputError("Only a PDF has pages to cut, and annotations. Take it out as PDF, or without these.", "form")
    data_folder, ink_memory = folder(), memory()

    def work(progress: Progress) -> Made:
        with contextlib.closing(connect(data_folder)) as own:
            pages = [p for p in pages_of(own, here.sheaf) if p.page in numbers]
            return _Exporting(own, ink_memory, body, progress).made(pages)

    return jobs().start("export", work).item()


@operation(exports, "GET", "/exports/<job_id>", TakenOut)
def read_export(job_id: str) -> TakenOut:
    """What was taken out, and how it compares with the screen."""
    return jobs().result(job_id, "export").told  # type: ignore[no-any-return]


@operation(exports, "GET", "/exports/<job_id>/file", "application/octet-stream")
def export_file(job_id: str) -> Response:
    """The file that was made."""
    made: Made = jobs().result(job_id, "export")
    return download(made.data, made.media, made.told.name)


class _Exporting:
    """One export on its way. Drawing is two thirds of it, comparing the rest."""

    def __init__(self, db: sqlite3.Connection, memory: InkMemory, body: ExportBody, progress: Progress) -> None:
        self.db, self.memory, self.body, self.progress = db, memory, body, progress

    def made(self, pages: Sequence[Sheet]) -> Made:
        form, together = self.body.form, self.body.form in ("pdf", "inkml") and not self.body.apart
        step: Callable[[float], None] = lambda share: self.progress(0.65 * share)  # noqa: E731
        if together or len(pages) == 1:
            data = self._file(pages, step)
            name, media, inside = f"{named(self.body.names, pages[0])}.{form}", MEDIA[form], [(pages, data)]
        else:
            inside = []
            for k, page in enumerate(pages):
                inside.append(([page], self._file([page], lambda _: None)))
                step((k + 1) / len(pages))
            data, name, media = self._zipped(inside), f"{named('{sheet}', pages[0])}.zip", "application/zip"
        beside = self._beside(inside)
        files = self._names(pages) if media == "application/zip" else []
        words = _words(beside, form, len(pages))
        return Made(TakenOut(name, files, len(data), beside, words), media, data)

    def _names(self, pages: Sequence[Sheet]) -> list[str]:
        """Of the files in a zip: each once, so with the page where the pattern does not tell them apart."""
        names = [named(self.body.names, page) for page in pages]
        if len(set(names)) < len(names):
            names = [f"{name}, page {named('{page}', page)}" for name, page in zip(names, pages, strict=True)]
        return [f"{name}.{self.body.form}" for name in names]

    def _zipped(self, inside: Sequence[tuple[Sequence[Sheet], bytes]]) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED if self.body.form == "svg" else zipfile.ZIP_STORED) as file:
            for name, (_, data) in zip(self._names([pages[0] for pages, _ in inside]), inside, strict=True):
                file.writestr(zipfile.ZipInfo(name, EPOCH), data)
        return out.getvalue()

    def _file(self, pages: Sequence[Sheet], step: Callable[[float], None]) -> bytes:
        body, title = self.body, pages[0].name
        if body.form == "inkml":
            return self._inkml(pages)
        if body.form == "pdf":
            return self._pdf(pages, title, step)
        inks, ground = self._drawn(pages[0])
        if body.form == "ora":
            inks = [*self.memory.all_inks(self.db, pages[0].id), *self._covers(pages[0])]
        if body.device_id:
            panel = get_thing(self.db, Device, body.device_id).panel
            return write_png(proof_sheet(inks, ground, panel, PLAIN).pixels, panel.ppi)
        return export_sheet(inks, ground, body.form, body.dpi, body.paper, title)

    def _pdf(self, pages: Sequence[Sheet], title: str, step: Callable[[float], None]) -> bytes:
        notes: list[list[InkNote]] | None = [] if self.body.annotated else None
        data = write_pdf([self._drawn(page) for page in pages], self.body.paper, title, step, notes)
        reader = self.memory.originals.reader
        if notes:
            data = reader.noted(data, notes)
        heights = [[mm_to_pt(bottom - top) for top, bottom in self._pieces(page)] for page in pages]
        return reader.cut(data, heights) if any(len(each) > 1 for each in heights) else data

    def _pieces(self, page: Sheet) -> list[Span]:
        """Top and bottom of the pages that come of one, mm."""
        at = [0.0, page.paper.height_mm]
        if self.body.cut_mm:
            at[1:1] = [cut.at_mm for cut in page_cuts(self.db, self.memory, page, self.body.cut_mm)]
        return list(itertools.pairwise(at))

    def _drawn(self, page: Sheet) -> tuple[list[Ink], Paper]:
        return [*self.memory.sheet_inks(self.db, page.id), *self._covers(page)], self.memory.ground(page)

    def _covers(self, page: Sheet) -> list[Ink]:
        return [] if self.body.lifted else cover_inks(page.covers, page.paper)

    def _beside(self, inside: Sequence[tuple[Sequence[Sheet], bytes]]) -> list[Beside]:
        """Each page read back, beside what the screen shows."""
        if self.body.form not in COMPARED or self.body.device_id or not self.body.paper:
            return []
        found: list[Beside] = []
        every = [
            (page, number, data, span)
            for pages, data in inside
            for number, (page, span) in enumerate([(page, span) for page in pages for span in self._pieces(page)], 1)
        ]
        some = np.unique(np.linspace(0, len(every) - 1, min(len(every), MOST_COMPARED)).round().astype(int))
        for k in some.tolist():
            found.append(self._compared(*every[k]))
            self.progress(0.65 + 0.35 * len(found) / len(some))
        return found

    def _compared(self, page: Sheet, number: int, data: bytes, span: Span) -> Beside:
        view = page_view(page.paper, self.body.dpi)
        if self.body.form in OUTLINES or view.width_px * view.height_px > MOST_COMPARED_PX:
            scale = px_per_mm(COMPARED_DPI)  # at which cuts lie on whole pixels
            sides = (page.paper.width_mm, span[1] - span[0])
            view = View(0, span[0], scale, *(max(1, round(side * scale)) for side in sides))
        if self.body.form == "ora":
            data = merged_picture(data)
        screen = self.memory.page(self.db, page.id, view, self.body.lifted).astype(np.int16)
        whole = (0.0, 0.0, 1.0, 1.0)
        kind = COMPARED[self.body.form]
        reader = self.memory.originals.reader
        file = reader.drawn(key_of(data), kind, lambda: data, number, whole, view.width_px, view.height_px)[..., :3]
        screen -= file
        apart = float(np.abs(screen, out=screen).mean() / 255)
        return Beside(page.page, apart, "" if apart <= EQUAL else self._why(page))

    def _why(self, page: Sheet) -> str:
        inks = self.memory.sheet_inks(self.db, page.id)
        if page.prints:
            return "print is drawn from its own outlines, whose edges fall otherwise between pixels"
        if self.body.form == "png":
            return "a picture of other density, scaled for this comparison"
        if any(ink.recipe.tooth.toothed for ink in inks):
            return "grain goes out as pictures of 600 dpi, which are scaled for this comparison"
        if any(float(np.ptp(ink.opacity)) > 0.05 for ink in inks):
            return "outlines hold one tone a stroke; here it varies along it"
        return "edges fall otherwise between pixels where another program draws them"

    def _inkml(self, pages: Sequence[Sheet]) -> bytes:
        brushes: dict[str, Brush] = {}
        written = []
        for page in pages:
            index = stroke_index(self.db, page.id)
            held = held_of(self.db, page.id)
            names = {layer.id: layer.name for layer in page.layers}
            edits_by_id = stroke_edits_of(self.db, [i for i, _, _ in index])
            strokes = []
            for (stroke_id, pen_id, revision), (trace, _) in zip(
                index, self.memory.strokes(self.db, index, page.paper), strict=True
            ):
                brush = f"pen-{pen_id}-{revision}"
                brushes.setdefault(brush, self._brush(pen_id, revision))
                on = held[stroke_id].layer if stroke_id in held else FIRST
                placement = edits_by_id.get(stroke_id, UNEDITED).placement or IDENTITY
                strokes.append(WrittenStroke(trace, brush, names.get(on, page.layers[0].name), placement))
            written.append(WrittenPage(page.page, page.paper.width_mm, page.paper.height_mm, strokes))
        return write_inkml_sheet(pages[0].name, written, brushes)

    def _brush(self, pen_id: str, revision: int) -> Brush:
        body = get_pen(self.db, pen_id, revision).recipe.body
        return {
            "pen": f"{pen_id} {revision}",
            "width": f"{body.width_mm:g}",
            "color": body.colour,
            "transparency": f"{1 - body.opacity:g}",
        }


def _words(beside: Sequence[Beside], form: str, pages: int) -> str:
    if not beside:
        return {
            "inkml": "What the hand did, not how it looks: nothing to lay beside the screen.",
        }.get(form, "Not laid beside the screen: it is meant to look otherwise.")
    worst = max(beside, key=lambda one: one.apart)
    share = f"{100 * worst.apart:.2g} % of full scale"
    if worst.apart <= EQUAL:
        of = f", on {len(beside)} of {pages} pages" if len(beside) < pages else ""
        return f"Equals what you see: {share} apart at most{of}."
    return f"{share[0].upper()}{share[1:]} apart from what you see, on page {worst.page}: {worst.why}."
