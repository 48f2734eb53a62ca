"""Pages of a sheet: what there are, and adding, copying, ordering, turning and binning them."""

import dataclasses
from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.readings.passages import Passage, passages_of
from gray_quill.store.pages import MOST_PAGES, add_page, bin_page, copy_page, order_pages, turn_page
from gray_quill.store.sheets import Sheet, get_sheet, pages_of
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import BinChange, Id, PaperIn
from gray_quill.web.time_budget import in_time

pages = Blueprint("pages", __name__)


class Pages(Model):
    """binned: pages in the bin while others of their sheet are not."""

    pages: list[Sheet]
    binned: list[Sheet]


class NewPage(Model):
    """A page after another one: empty, on paper like its own or on this, or a copy of it with its ink."""

    id: Id
    paper: PaperIn | None = None
    copy_ink: bool = False


class PageOrder(Model):
    """saw: the order there was when this was made."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=MOST_PAGES)]
    saw: Annotated[list[Id], Field(max_length=MOST_PAGES)] | None = None


@operation(pages, "GET", "/sheets/<sheet_id>/pages", Pages)
def read_pages(sheet_id: str) -> Pages:
    """The pages of the sheet that this is a page of, in their order."""
    return all_pages(get_sheet(db(), sheet_id).sheaf)


def all_pages(sheaf: str) -> Pages:
    return Pages(pages=pages_of(db(), sheaf), binned=pages_of(db(), sheaf, binned=True))


@dataclasses.dataclass(frozen=True)
class MarkOn:
    """A marked passage and the page it is on."""

    page_id: str
    page: int
    mark: Passage


class MarkedPassages(Model):
    """By colour of wash, each colour where it is first met."""

    marks: list[MarkOn]


@operation(pages, "GET", "/sheets/<sheet_id>/marks", MarkedPassages, remembered=True)
def read_marks(sheet_id: str) -> MarkedPassages:
    """What is marked with washes on all pages of a sheet: passages and the notes that are in the same colour."""
    found = []
    for page in pages_of(db(), get_sheet(db(), sheet_id).sheaf):
        in_time()
        found += [MarkOn(page.id, page.page, mark) for mark in passages_of(memory().sheet_inks(db(), page.id))]
    colours = list(dict.fromkeys(one.mark.colour for one in found))
    return MarkedPassages(marks=sorted(found, key=lambda one: colours.index(one.mark.colour)))


@operation(pages, "POST", "/sheets/<sheet_id>/pages", Pages, body=NewPage, status=201)
def new_page(sheet_id: str, body: NewPage) -> Pages:
    """Put a page down after this one."""
    made = copy_page(db(), sheet_id, body.id) if body.copy_ink else add_page(db(), sheet_id, body.id, body.paper)
    return all_pages(made.sheaf)


@operation(pages, "PUT", "/sheets/<sheet_id>/pages", Pages, body=PageOrder)
def put_pages_in_order(sheet_id: str, body: PageOrder) -> Pages:
    """Put the pages of a sheet in this order."""
    order_pages(db(), sheet_id, body.ids, body.saw)
    return all_pages(get_sheet(db(), sheet_id).sheaf)


@operation(pages, "PUT", "/sheets/<sheet_id>/page/bin", Pages, body=BinChange)
def change_page_bin(sheet_id: str, body: BinChange) -> Pages:
    """Move one page to the bin, or back to its place."""
    return all_pages(bin_page(db(), sheet_id, body.binned).sheaf)


@operation(pages, "POST", "/sheets/<sheet_id>/page/turn", Pages)
def turn_a_page(sheet_id: str) -> Pages:
    """Turn a page a quarter clockwise, with its ink."""
    turned, stroke_ids = turn_page(db(), sheet_id)
    memory().forget(stroke_ids)
    return all_pages(turned.sheaf)
