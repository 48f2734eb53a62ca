"""Papers of the writer's own, as they are kept with the desk and as they look."""

from typing import Annotated, Any

from flask import Blueprint, Response
from pydantic import Field, StringConstraints

from gray_quill.core.errors import InputError
from gray_quill.core.ink.page import paper_pixels
from gray_quill.core.ink.underlay import MOST_PRINTS, Print, printed
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper
from gray_quill.formats.png import write_png
from gray_quill.store.kept import read_kept
from gray_quill.store.settings import get_settings
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import PaperIn, Printable, PrintIn
from gray_quill.web.replies import png

own_papers = Blueprint("own_papers", __name__)
CORNER_PX_PER_MM = 3.2  # of a pattern, which is told by its corner; twice what a tile shows
TILE_PX = (124, 160)
PaperName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=30), Printable]


class NamedPaper(Model):
    """A paper of one's own. prints: what is printed on it, placed on that page; where it is repeated, on any."""

    name: PaperName
    paper: PaperIn
    prints: Annotated[list[PrintIn], Field(max_length=MOST_PRINTS)] = Field(default_factory=list)


class OwnPaperQuery(Model):
    name: PaperName


def kept_papers(settings: dict[str, Any]) -> list[NamedPaper]:
    return [_named_paper(kept) for kept in settings.get("papers", [])]


def _named_paper(kept: dict[str, Any]) -> NamedPaper:
    prints = [read_kept(Print, one) for one in kept.get("prints", [])]
    return NamedPaper(name=kept["name"], paper=read_kept(Paper, kept["paper"]), prints=prints)


@operation(own_papers, "GET", "/papers/own.png", "image/png", query=OwnPaperQuery, remembered=True)
def read_own_paper(query: OwnPaperQuery) -> Response:
    """A paper of one's own as its tile shows it: its corner, or all of it where a picture is placed on it."""
    own = next((p for p in kept_papers(get_settings(db())) if p.name == query.name), None)
    if own is None:
        raise InputError(f"There is no paper {query.name!r} of your own. Keep it first.", "name")
    width, height = TILE_PX
    placed = any(not one.tiled for one in own.prints)
    scale = min(width / own.paper.width_mm, height / own.paper.height_mm) if placed else CORNER_PX_PER_MM
    paper = printed(own.paper, own.prints, memory().originals)
    return png(write_png(paper_pixels(paper, View(0, 0, scale, width, height)), compress=1))
