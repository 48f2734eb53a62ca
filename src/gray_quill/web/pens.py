"""Pens: revisions, the bin, JSON files, plans, grains and swatches."""

import base64

from flask import Blueprint, Response, request

from gray_quill.core.colour import to_grey8
from gray_quill.core.ink.grain_tile import grain_tile
from gray_quill.core.paper import Paper
from gray_quill.core.pen.plan import compile_plan
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.quantities import read_record
from gray_quill.formats.pen_json import read_pen, write_pen
from gray_quill.formats.png import read_png
from gray_quill.store.pens import add_pen, add_revision, bin_pen, get_pen, list_pens, pen_history
from gray_quill.web.api import operation
from gray_quill.web.context import db
from gray_quill.web.models import (
    BinChange,
    Done,
    GrainReply,
    NewPen,
    NewRevision,
    PenHistory,
    PenItem,
    Plan,
    RecipeBody,
)
from gray_quill.web.replies import download, free_id, png
from gray_quill.web.shapes import pen_item
from gray_quill.web.swatch import swatch_png

pens = Blueprint("pens", __name__)
MOST_GRAIN_PIXELS = 20_000_000


@operation(pens, "POST", "/pens", PenItem, body=NewPen)
def new_pen(body: NewPen) -> PenItem:
    """Keep a new pen."""
    return pen_item(add_pen(db(), body.id, read_recipe(body.recipe), body.note, body.on_roll))


@operation(pens, "GET", "/pens/<pen_id>", PenHistory)
def read_pen_history(pen_id: str) -> PenHistory:
    """All revisions of a pen, newest first."""
    return PenHistory(revisions=[pen_item(p) for p in pen_history(db(), pen_id)])


@operation(pens, "POST", "/pens/<pen_id>/revisions", PenItem, body=NewRevision)
def new_revision(pen_id: str, body: NewRevision) -> PenItem:
    """Keep a changed recipe as the pen's next revision."""
    return pen_item(add_revision(db(), pen_id, read_recipe(body.recipe), body.note))


@operation(pens, "PUT", "/pens/<pen_id>/bin", Done, body=BinChange)
def change_pen_bin(pen_id: str, body: BinChange) -> Done:
    """Move a pen to the bin or back."""
    bin_pen(db(), pen_id, body.binned)
    return Done()


@operation(pens, "GET", "/bin/pens", PenHistory)
def read_pen_bin() -> PenHistory:
    """Pens in the bin."""
    return PenHistory(revisions=[pen_item(p) for p in list_pens(db(), binned=True)])


@operation(pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/file", "application/json")
def take_out_pen(pen_id: str, revision: int) -> Response:
    """A revision as a pen JSON file."""
    return download(write_pen(get_pen(db(), pen_id, revision).recipe), "application/json", f"{pen_id}-{revision}.json")


@operation(pens, "POST", "/pen-files", PenItem, body="application/json")
def bring_in_pen(body: bytes) -> PenItem:
    """Keep a pen from a pen JSON file."""
    recipe = read_pen(body)
    taken = {p.id for p in [*list_pens(db()), *list_pens(db(), binned=True)]}
    return pen_item(add_pen(db(), free_id(recipe.name, taken), recipe, "brought in from a file", on_roll=True))


@operation(pens, "POST", "/plan", Plan, body=RecipeBody)
def make_plan(body: RecipeBody) -> Plan:
    """Compile a recipe into the tables live ink draws from."""
    paper = read_record(Paper, body.paper, "paper.") if body.paper else None
    return Plan(plan=compile_plan(read_recipe(body.recipe), body.paper_colour, paper))


@operation(pens, "POST", "/grains", GrainReply, body="image/png")
def make_grain(body: bytes) -> GrainReply:
    """A picture of a surface as a grain for a pen."""
    grey = to_grey8(read_png(body, MOST_GRAIN_PIXELS)) / 255
    return GrainReply(own=base64.b64encode(grain_tile(grey).tobytes()).decode())


@operation(pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/swatch.png", "image/png")
def read_swatch(pen_id: str, revision: int) -> Response:
    """A stroke this pen really draws."""
    reply = png(swatch_png(get_pen(db(), pen_id, revision).recipe, request.args.get("ground", "#fffdf8")))
    reply.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return reply
