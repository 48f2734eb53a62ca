"""Pictures and documents under the ink: brought in, laid on a page, laid anew, and what washes leave of their text."""

import dataclasses
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import Field

from gray_quill.core.errors import InputError
from gray_quill.core.ink.placement import Placement
from gray_quill.core.ink.underlay import MOST_PRINTS, Print, carried_along, laid_out, turned_clockwise
from gray_quill.core.paper import LARGEST_MM, SMALLEST_MM, Paper, paper_from_spec
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.on_print import OnPrint, read_on_print
from gray_quill.formats.picture_in import PictureSeen
from gray_quill.formats.pictures import READ_BY, key_of, kind_of
from gray_quill.store.database import transaction
from gray_quill.store.originals import Original, add_original, get_original, set_prints
from gray_quill.store.pages import add_page
from gray_quill.store.sheets import Sheet, add_sheet, get_sheet, pages_of
from gray_quill.store.strokes import stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory, read_outside
from gray_quill.web.pages import Pages, all_pages
from gray_quill.web.records import PrintIn
from gray_quill.web.replies import new_id

prints = Blueprint("prints", __name__)
LONGEST_NAME = 80


class BroughtIn(Model):
    """What a file becomes: a print on this page, or a sheet of its own with a page for each of its."""

    becomes: Literal["print", "sheet"] = "print"
    name: str = Field("Brought in", min_length=1, max_length=LONGEST_NAME)


class Prints(Model):
    """saw: the version of the page these were laid on; carries: ink that lies on a print goes with it."""

    saw: int | None = Field(None, ge=1, le=1_000_000_000)
    prints: Annotated[list[PrintIn], Field(max_length=MOST_PRINTS)]
    carries: bool = False


class LayAnew(Model):
    """A print laid in one of these ways; the others stay."""

    id: str = Field(max_length=60)
    how: Literal["fit", "fill", "true", "turn"]
    carries: bool = False


class PrintsRead(Model):
    print_fields: list[Control]
    files: list[Original]
    read: list[OnPrint]


@operation(
    prints,
    "POST",
    "/sheets/<sheet_id>/originals",
    Pages,
    body="application/octet-stream",
    query=BroughtIn,
    status=201,
    reads_file=True,
)
def bring_in_original(sheet_id: str, body: bytes, query: BroughtIn) -> Pages:
    """Bring in a PNG or JPEG picture or a PDF document, to lie under the ink."""
    like = get_sheet(db(), sheet_id)
    kind = kind_of(body)
    seen: PictureSeen = read_outside(READ_BY[kind], body)
    name = shown_name(query.name)
    original = Original(key_of(body), kind, name, seen.sizes_mm)
    with transaction(db()):
        add_original(db(), original, body)
        if query.becomes == "print":
            first = laid_out(Print(new_id("print")[:60], original.id), "fit", like.paper, seen.sizes_mm[0])
            set_prints(db(), sheet_id, [*like.prints, first])
            return all_pages(like.sheaf)
        made = _sheet_of(original, like)
    return all_pages(made.sheaf)


def shown_name(given: str) -> str:
    """A file's name as a name to show."""
    return "".join(c for c in given if c.isprintable()).strip()[:LONGEST_NAME] or "Brought in"


def _sheet_of(original: Original, like: Sheet) -> Sheet:
    """A sheet with a page for each of a document's, each as large as its own."""
    page_id = new_id(original.name)
    for number, size in enumerate(original.sizes_mm, 1):
        paper = paper_of_size(size)
        if number == 1:
            sheet = Sheet(page_id, original.name, "free", paper, like.hand_id, like.device_id, like.pen_id, "", False)
            add_sheet(db(), sheet)
            last = page_id
        else:
            last = add_page(db(), last, f"{page_id}-{number}", paper).id
        one = laid_out(Print(f"{last}-print"[-60:], original.id, number), "fit", paper, size)
        set_prints(db(), last, [one])
    return get_sheet(db(), page_id)


def paper_of_size(size: tuple[float, float]) -> Paper:
    width, height = (min(LARGEST_MM, max(SMALLEST_MM, side)) for side in size)
    return dataclasses.replace(paper_from_spec("blank white"), width_mm=round(width, 2), height_mm=round(height, 2))


class PrintedLink(Model):
    """Where a link of a page's print leads: an address, or a page of this sheet."""

    address: str
    page_id: str
    page: int


class PrintedHeading(Model):
    """A line of a document's outline, how deep it lies, and the page of this sheet it names."""

    title: str
    depth: int
    page_id: str
    page: int


class PrintedLinks(Model):
    """links: of this page, each place once; outline: of the documents that lie on the sheet's pages."""

    links: list[PrintedLink]
    outline: list[PrintedHeading]


@operation(prints, "GET", "/sheets/<sheet_id>/prints/links", PrintedLinks)
def read_printed_links(sheet_id: str) -> PrintedLinks:
    """Where the links of this page's documents lead, and what outline they have; nothing is opened."""
    here = get_sheet(db(), sheet_id)
    lies: dict[tuple[str, int], Sheet] = {}  # the first page each page of a document lies on
    for page in pages_of(db(), here.sheaf):
        for one in page.prints:
            lies.setdefault((one.file, one.file_page), page)
    links: dict[tuple[str, str], PrintedLink] = {}
    for one in here.prints:
        for link in memory().originals.links(one.file).links:
            goal = lies.get((one.file, link.goal))
            if link.page == one.file_page and (link.address or goal):
                found = PrintedLink(
                    address=link.address, page_id=goal.id if goal else "", page=goal.page if goal else 0
                )
                links.setdefault((found.address, found.page_id), found)
    outline = [
        PrintedHeading(title=line.title, depth=line.depth, page_id=goal.id, page=goal.page)
        for file in dict.fromkeys(file for file, _ in lies)
        for line in memory().originals.links(file).outline
        if (goal := lies.get((file, line.page)))
    ]
    return PrintedLinks(links=list(links.values()), outline=outline)


@operation(prints, "GET", "/sheets/<sheet_id>/prints", PrintsRead, remembered=True)
def read_prints(sheet_id: str) -> PrintsRead:
    """What of a print can be set, the files that lie on this page, and what washes leave of their text."""
    page = get_sheet(db(), sheet_id)
    files = [get_original(db(), file) for file in dict.fromkeys(p.file for p in page.prints)]
    inks = memory().sheet_inks(db(), sheet_id) if page.prints else []
    return PrintsRead(print_fields=describe_record(Print), files=files, read=read_on_print(inks, memory().ground(page)))


@operation(prints, "PUT", "/sheets/<sheet_id>/prints", Sheet, body=Prints, costly=True)
def change_prints(sheet_id: str, body: Prints) -> Sheet:
    """Lay these prints on a page, in place of those that lie there."""
    return _laid(sheet_id, list(body.prints), body.saw, body.carries)


@operation(prints, "POST", "/sheets/<sheet_id>/prints/laid", Sheet, body=LayAnew, costly=True)
def lay_print_anew(sheet_id: str, body: LayAnew) -> Sheet:
    """Lay a print on its page anew: all of it, filling the page, as large as it came, or turned by a quarter."""
    page = get_sheet(db(), sheet_id)
    if body.id not in {p.id for p in page.prints}:
        raise InputError("This picture is not on the page any more. Look at it, then lay it again.", "id")

    def anew(one: Print) -> Print:
        size = get_original(db(), one.file).sizes_mm[one.file_page - 1]
        return turned_clockwise(one) if body.how == "turn" else laid_out(one, body.how, page.paper, size)

    return _laid(sheet_id, [anew(p) if p.id == body.id else p for p in page.prints], None, body.carries)


def _laid(sheet_id: str, wanted: list[Print], saw: int | None, carries: bool) -> Sheet:
    page = get_sheet(db(), sheet_id)
    carried: dict[str, Placement] = {}
    if carries:
        now = {p.id: p for p in wanted}
        moved = [(p, now[p.id]) for p in page.prints if p.id in now and now[p.id] != p]
        index = stroke_index(db(), sheet_id)
        for (stroke_id, _, _), (_, ink) in zip(index, memory().strokes(db(), index, page.paper), strict=True):
            left, top, right, bottom = ink.box_mm
            x, y = (left + right) / 2, (top + bottom) / 2
            for before, after in moved:  # the uppermost last
                if before.box_mm[0] <= x <= before.box_mm[2] and before.box_mm[1] <= y <= before.box_mm[3]:
                    carried[stroke_id] = carried_along(before, after)
    sheet = set_prints(db(), sheet_id, wanted, saw, carried)
    memory().forget(carried)
    return sheet
