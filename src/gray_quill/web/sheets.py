"""Sheets: putting one down, its paper and name, pictures of parts of the page, files in and out."""

from typing import Annotated, Literal

import numpy as np
from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError, NoInk
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.prompts import Prompt, prompts_for
from gray_quill.core.highlighter.layers import ink_contrast
from gray_quill.core.ink.cover import cover_inks
from gray_quill.core.ink.page import deposit_of, laid_by
from gray_quill.core.ink.underlay import MOST_PRINTS
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper, first_paper
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.on_paper import OnPaper, read_on_paper
from gray_quill.formats.export import DPI, export_ink, export_sheet
from gray_quill.formats.inkml import Noted
from gray_quill.formats.inkml_write import write_inkml
from gray_quill.formats.openraster import MEDIA as ORA
from gray_quill.formats.png import MOST_PIXELS, write_png
from gray_quill.store.database import transaction
from gray_quill.store.items import get_thing
from gray_quill.store.originals import set_prints
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import (
    Reach,
    Sheet,
    add_sheet,
    bin_sheet,
    change_sheet,
    get_sheet,
    list_sheets,
    reached_from,
)
from gray_quill.store.strokes import index_of, stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory, read_outside
from gray_quill.web.inkml_sheet import sheet_of_inkml
from gray_quill.web.records import BinChange, Box, Id, Name, Note, PaperIn, PrintIn, RecipeIn, Source, bounded
from gray_quill.web.replies import download, new_id, over_the_air, png

sheets = Blueprint("sheets", __name__)
MOST_DEPOSIT_PX = 10_000_000  # three planes of numbers each
MEDIA = {
    "svg": "image/svg+xml",
    "png": "image/png",
    "pdf": "application/pdf",
    "ora": ORA,
    "inkml": "application/inkml+xml",
}


class NewSheet(Model):
    """paper: a record, or plain words like "ruled 7mm A5"."""

    id: Id
    name: Name
    kind: Literal["free", "test", "strip"] = "free"
    paper: PaperIn = first_paper()
    hand_id: Id
    device_id: Id
    pen_id: Id


class SheetChange(Model):
    """saw: the version of the sheet the change was made from; a change from an older sight is told what is there."""

    saw: int | None = Field(None, ge=1, le=1_000_000_000)
    reach: Reach = Field("page", description="Which pages a paper is for: this one, those from here on, or all")
    name: Name | None = None
    paper: PaperIn | None = None
    hand_id: Id | None = None
    device_id: Id | None = None
    pen_id: Id | None = None
    note: Note | None = None
    bookmark: Note | None = None
    prints: Annotated[list[PrintIn], Field(max_length=MOST_PRINTS)] | None = Field(
        None, description="What is printed on that paper, in place of what was"
    )


class PaperBody(Model):
    """The paper as it is, or as it may become."""

    paper: PaperIn


class SheetsInBin(Model):
    sheets: list[Sheet]


class SheetDetail(Model):
    sheet: Sheet
    prompts: list[Prompt]
    stroke_ids: list[str]
    colours: list[str]


class PageQuery(Model):
    """lifted: with the covers off what they cover, where these are drawn over it."""

    lifted: bool = False
    scale: float = Field(6, gt=0.2, le=400)
    left: float = 0
    top: float = 0
    right: float | None = None
    bottom: float | None = None


class DepositBody(Model):
    """A part of the page in mm, at a scale of px a mm, and the pen that is to write there."""

    recipe: RecipeIn
    scale: float = Field(gt=0.2, le=400)
    box_mm: Box


class InkFile(Model):
    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]
    form: Literal["svg", "png"] = "png"
    dpi: Annotated[float, bounded(DPI)] = 300


class ExportQuery(Model):
    form: Literal["svg", "png", "pdf", "inkml", "ora"] = "pdf"
    dpi: Annotated[float, bounded(DPI)] = 300
    paper: bool = True
    lifted: bool = False


@operation(sheets, "POST", "/sheets", Sheet, body=NewSheet, status=201)
def new_sheet(body: NewSheet) -> Sheet:
    """Put down a new sheet."""
    get_thing(db(), Hand, body.hand_id)
    get_thing(db(), Device, body.device_id)
    get_pen(db(), body.pen_id)
    prompts = None if body.kind == "free" else body.kind
    kind = "free" if body.kind == "free" else "test"
    sheet = Sheet(body.id, body.name, kind, body.paper, body.hand_id, body.device_id, body.pen_id, "", False, prompts)
    return add_sheet(db(), sheet)


@operation(sheets, "GET", "/sheets/<sheet_id>", SheetDetail)
def read_sheet(sheet_id: str) -> SheetDetail:
    """A sheet, its prompts when it has some, the ids of its strokes and the colours of its ink."""
    sheet, index = get_sheet(db(), sheet_id), stroke_index(db(), sheet_id)
    pens = {entry[1:] for entry in index}
    return SheetDetail(
        sheet=sheet,
        prompts=prompts_for(sheet.paper, sheet.prompts) if sheet.prompts else [],
        stroke_ids=[i for i, _, _ in index],
        colours=sorted({get_pen(db(), pen_id, revision).recipe.body.colour for pen_id, revision in pens}),
    )


@operation(sheets, "PATCH", "/sheets/<sheet_id>", Sheet, body=SheetChange)
def edit_sheet(sheet_id: str, body: SheetChange) -> Sheet:
    """Change a sheet's name, note, hand, device or pen, its pages' paper, or a page's bookmark."""
    if body.hand_id:
        get_thing(db(), Hand, body.hand_id)
    if body.device_id:
        get_thing(db(), Device, body.device_id)
    if body.pen_id:
        get_pen(db(), body.pen_id)
    change = dict(body)
    prints = change.pop("prints")
    with transaction(db()):
        sheet = change_sheet(db(), sheet_id, **change)
        if prints is None:
            return sheet
        for page_id in reached_from(db(), sheet, body.reach):
            set_prints(db(), page_id, prints)
    return get_sheet(db(), sheet_id)


@operation(sheets, "GET", "/bin/sheets", SheetsInBin)
def read_binned_sheets() -> SheetsInBin:
    """The sheets in the bin with all their pages, newest first: the oldest page of each."""
    binned = [page for page in list_sheets(db(), binned=True) if not page.pages]
    return SheetsInBin(sheets=list({page.sheaf: page for page in binned}.values()))


@operation(sheets, "PUT", "/sheets/<sheet_id>/bin", Sheet, body=BinChange)
def change_sheet_bin(sheet_id: str, body: BinChange) -> Sheet:
    """Move a sheet with all its pages to the bin or back."""
    return bin_sheet(db(), sheet_id, body.binned)


@operation(sheets, "GET", "/sheets/<sheet_id>/page.png", "image/png", query=PageQuery, remembered=True)
def read_page(sheet_id: str, query: PageQuery) -> Response:
    """Paper and settled ink of a part of the sheet, snapped outward to whole pixels."""
    sheet = get_sheet(db(), sheet_id)
    right, bottom = query.right or sheet.paper.width_mm, query.bottom or sheet.paper.height_mm
    box = (
        max(0.0, query.left),
        max(0.0, query.top),
        min(right, sheet.paper.width_mm),
        min(bottom, sheet.paper.height_mm),
    )
    if box[2] <= box[0] or box[3] <= box[1] or (box[2] - box[0]) * (box[3] - box[1]) * query.scale**2 > MOST_PIXELS:
        raise InputError(f"Ask for a part of the page of at most {MOST_PIXELS // 1_000_000} million pixels.", "scale")
    pixels = memory().page(db(), sheet_id, box_view(box, query.scale), query.lifted)
    return over_the_air(pixels, write_png(pixels, compress=1))


@operation(sheets, "POST", "/sheets/<sheet_id>/deposit.png", "image/png", body=DepositBody, remembered=True)
def read_deposit(sheet_id: str, body: DepositBody) -> Response:
    """What the ink of a part of the sheet left for a pen that goes over it: red how far the surface is filled, green
    how much of its tone this pen has laid there, 0 to 255; snapped outward to whole pixels.
    """
    left, top, right, bottom = body.box_mm
    if right <= left or bottom <= top or (right - left) * (bottom - top) * body.scale**2 > MOST_DEPOSIT_PX:
        most = MOST_DEPOSIT_PX // 1_000_000
        raise InputError(f"Ask for a part of the page of at most {most} million pixels.", "scale")
    deposit = deposit_of(memory().sheet_inks(db(), sheet_id), box_view(body.box_mm, body.scale))
    own = laid_by(deposit, body.recipe)
    planes = np.stack((deposit.fill, own, np.zeros_like(own)), axis=-1)
    return png(write_png(np.asarray(planes * 255 + 0.5, np.uint8), compress=1))


class PaperFields(Model):
    paper_fields: list[Control]


@operation(sheets, "GET", "/papers", PaperFields)
def read_paper_fields() -> PaperFields:
    """What a sheet of paper has to be set."""
    return PaperFields(paper_fields=describe_record(Paper))


@operation(sheets, "POST", "/sheets/<sheet_id>/on-paper", OnPaper, body=PaperBody)
def read_on_a_paper(sheet_id: str, body: PaperBody) -> OnPaper:
    """Whether a ruling drowns the ink of the sheet's pen, and which spacing suits the letters that are written."""
    sheet = get_sheet(db(), sheet_id)
    pen = get_pen(db(), sheet.pen_id).recipe
    try:
        traces = memory().traces_of(db(), Source(sheet_id=sheet_id, part="words", stroke_ids=None))
    except NoInk:
        traces = []
    return read_on_paper(traces, ink_contrast(pen, body.paper.colour), body.paper)


@operation(sheets, "GET", "/sheets/<sheet_id>/file", "application/octet-stream", query=ExportQuery, costly=True)
def take_out_sheet(sheet_id: str, query: ExportQuery) -> Response:
    """The sheet as a file: SVG, PNG, PDF or OpenRaster with or without its paper, or its traces as InkML."""
    sheet = get_sheet(db(), sheet_id)
    if query.form == "inkml":
        body = get_pen(db(), sheet.pen_id).recipe.body
        traces = [trace for trace, _ in memory().strokes(db(), stroke_index(db(), sheet_id), sheet.paper)]
        brush = {"width": f"{body.width_mm:g}", "color": body.colour, "transparency": f"{1 - body.opacity:g}"}
        data = write_inkml(traces, brush)
    else:
        over = [] if query.lifted else cover_inks(sheet.covers, sheet.paper)
        inks = [*memory().sheet_inks(db(), sheet_id), *over]
        data = export_sheet(inks, memory().ground(sheet), query.form, query.dpi, query.paper, sheet.name)
    return download(data, MEDIA[query.form], f"{sheet.name}.{query.form}")


@operation(sheets, "POST", "/sheets/<sheet_id>/strokes/file", "application/octet-stream", body=InkFile, costly=True)
def take_out_ink(sheet_id: str, body: InkFile) -> Response:
    """Some of a sheet's ink as a picture of its own size, see-through."""
    sheet, wanted = get_sheet(db(), sheet_id), set(body.ids)
    index_of(db(), sheet_id, body.ids)
    entries = [e for e in stroke_index(db(), sheet_id) if e[0] in wanted]
    inks = [ink for _, ink in memory().strokes(db(), entries, sheet.paper)]
    if not inks:
        raise InputError("None of this ink is on the sheet any more. Choose it again.", "ids")
    data = export_ink(inks, sheet.paper.colour, body.form, body.dpi, sheet.name)
    return download(data, MEDIA[body.form], f"{sheet.name}, ink.{body.form}")


@operation(sheets, "POST", "/sheets/<sheet_id>/file", Sheet, body="application/inkml+xml", status=201, reads_file=True)
def bring_in_sheet(sheet_id: str, body: bytes) -> Sheet:
    """Put down a new sheet with the traces of an InkML file, on the paper and with the pen of the sheet named; pages,
    layers and placements as the file notes them, and its pens where they are kept here.
    """
    like = get_sheet(db(), sheet_id)
    noted: list[Noted] = read_outside("inkml", body)
    with transaction(db()):
        return sheet_of_inkml(db(), noted, like, new_id("Brought in"))
