"""Covers over the ink of a page, and where a long page would be cut."""

import sqlite3
from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.ink.cover import MOST_COVERS
from gray_quill.core.ink.cuts import Cut, cuts
from gray_quill.core.paper import LARGEST_MM
from gray_quill.store.covers import set_covers
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import InkMemory
from gray_quill.web.records import CoverIn

covers = Blueprint("covers", __name__)
LEAST_PAGE_MM = 40.0


class Covers(Model):
    """saw: the version of the page these were laid on."""

    saw: int | None = Field(None, ge=1, le=1_000_000_000)
    covers: Annotated[list[CoverIn], Field(max_length=MOST_COVERS)]


class CutQuery(Model):
    page_mm: float = Field(210, ge=LEAST_PAGE_MM, le=LARGEST_MM)


class PageCuts(Model):
    """forced: how many go through ink, as no clear place was found."""

    cuts: list[Cut]
    forced: int


@operation(covers, "PUT", "/sheets/<sheet_id>/covers", Sheet, body=Covers)
def change_covers(sheet_id: str, body: Covers) -> Sheet:
    """Lay these covers on a page, in place of those that lie there."""
    return set_covers(db(), sheet_id, body.covers, body.saw)


@operation(covers, "GET", "/sheets/<sheet_id>/cuts", PageCuts, query=CutQuery, remembered=True)
def read_cuts(sheet_id: str, query: CutQuery) -> PageCuts:
    """Where this page would be cut into pages of at most this height."""
    found = page_cuts(db(), memory(), get_sheet(db(), sheet_id), query.page_mm)
    return PageCuts(cuts=found, forced=sum(cut.crossed > 0 for cut in found))


def page_cuts(db: sqlite3.Connection, memory: InkMemory, page: Sheet, page_mm: float) -> list[Cut]:
    boxes = [ink.box_mm for ink in memory.sheet_inks(db, page.id)]
    boxes += [one.box_mm for one in page.prints if not one.tiled]
    return cuts([(box[1], box[3]) for box in boxes], page.paper.height_mm, page_mm)
