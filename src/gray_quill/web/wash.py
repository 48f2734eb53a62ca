"""The Wash trial: the grid, solving, and sets of washes."""

from typing import Annotated, Literal

from flask import Blueprint
from pydantic import Field, StringConstraints

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.highlighter.grid import Bench, grid_row, readable_ink, typed_words
from gray_quill.core.highlighter.layers import Words, visibility_words, words_of
from gray_quill.core.highlighter.palette import Condition, Proposal, check_set, propose_set
from gray_quill.core.highlighter.solve import PASSES, Answer, Setting, colours_that_work, solve_wash, with_setting
from gray_quill.core.paper import COLOURS
from gray_quill.core.pen.recipe import Recipe
from gray_quill.formats.png import write_png
from gray_quill.store.items import get_thing
from gray_quill.store.pens import list_pens
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import WRITING
from gray_quill.web.records import Colour, Id, RecipeIn, Source
from gray_quill.web.replies import data_url

wash = Blueprint("wash", __name__)
WRITTEN_WITH = (*WRITING, "brush")
Typed = Annotated[str, StringConstraints(min_length=1, max_length=60)]


class WashBody(Model):
    """A wash over the source's line, written with `ink`, and over a printed line."""

    wash: RecipeIn
    ink: RecipeIn
    source: Source
    typed: Typed = "wings folded"


class GridBody(WashBody):
    papers: list[Colour] = Field(min_length=1, max_length=6)
    passes: int = Field(4, ge=1, le=6)
    px_per_mm: float = Field(8, ge=3, le=24)


class GridCell(Model):
    """Readings as in core/highlighter/grid.py under `passes` passes, the picture, and what the visibility is called."""

    passes: int
    image: str
    writing: float
    typed: float
    visibility: float
    unevenness: float
    seen: str


class GridRow(Model):
    """ink: the pen the words on this paper are in. readable, large: the first pass under which writing or print falls
    below 4.5:1 and 3:1, None where they stay above. overlap: CIEDE2000 between one pass and two.
    """

    paper: Colour
    ink: str
    cells: list[GridCell]
    readable: dict[str, int | None]
    large: dict[str, int | None]
    overlap: float


class GridReply(Model):
    rows: list[GridRow]


class SolveWashBody(WashBody):
    paper: Colour
    words: list[Literal["writing", "typed"]] = Field(default=["writing", "typed"], min_length=1, max_length=2)


class SolveWashReply(Model):
    """measured: contrast after two passes and visibility after one of what was found, read off rendered pixels.
    colours: settings in other hues that work here too. twin: this wash as it works on `twin_paper`, a paper of the
    other lightness, with words that can be read there; None where it cannot.
    """

    answer: Answer
    measured: dict[str, float]
    colours: list[Setting]
    twin_paper: str
    twin: Setting | None


class SetBody(Model):
    """Washes to tell apart on one paper, on the panels of these devices."""

    washes: list[RecipeIn] = Field(min_length=1, max_length=12)
    ink: RecipeIn
    paper: Colour
    device_ids: list[Id] = Field(max_length=20)


class SetReply(Model):
    """proposal: colours that do better, and the conditions with them; None when the set passes."""

    conditions: list[Condition]
    proposal: Proposal | None


@operation(wash, "POST", "/wash/grid", GridReply, body=GridBody, remembered=True)
def make_grid(body: GridBody) -> GridReply:
    """Your words and printed ones under passes of a wash on several papers, as pictures and numbers."""
    bench = _bench(body, body.wash, body.passes, body.px_per_mm)
    return GridReply(rows=[_row(bench, body, paper) for paper in body.papers])


def _row(bench: Bench, body: GridBody, paper: str) -> GridRow:
    ink = _ink_on(body, paper)
    row = grid_row(bench, body.wash, ink, paper, body.passes)
    cells = [
        GridCell(
            passes=n,
            image=data_url(write_png(cell.pixels, compress=1)),
            writing=cell.writing,
            typed=cell.typed,
            visibility=cell.visibility,
            unevenness=cell.unevenness,
            seen=visibility_words(cell.visibility),
        )
        for n, cell in enumerate(row.cells, 1)
    ]
    return GridRow(paper=paper, ink=ink.name, cells=cells, readable=row.readable, large=row.large, overlap=row.overlap)


@operation(wash, "POST", "/wash/solve", SolveWashReply, body=SolveWashBody, remembered=True)
def solve_for_paper(body: SolveWashBody) -> SolveWashReply:
    """A strength and blend that keep words readable after two passes and the wash clear on a paper, or why there is
    none.
    """
    ink = _ink_on(body, body.paper)
    bench = _bench(body, body.wash, 1, 12)
    words: dict[str, Words] = {"writing": bench.words_in(ink, body.paper), "typed": typed_words(body.paper)}
    meant = [words[name] for name in body.words]
    answer = solve_wash(body.wash, meant, body.paper)
    colours = colours_that_work(body.wash, meant, body.paper, answer.setting)
    other = COLOURS["white" if is_dark(body.paper) else "dusk"]
    there = {"writing": words_of(_ink_on(body, other), other), "typed": typed_words(other)}
    twin = solve_wash(body.wash, [there[name] for name in body.words], other)
    measured: dict[str, float] = {}
    if answer.setting:
        bench = _bench(body, with_setting(body.wash, answer.setting), PASSES, 12)
        twice = bench.cell(ink, body.paper, PASSES)
        once = bench.cell(ink, body.paper, 1)
        measured = {name: getattr(twice, name) for name in body.words} | {"visibility": once.visibility}
    return SolveWashReply(
        answer=answer, measured=measured, colours=colours, twin_paper=other, twin=twin.setting or twin.other
    )


@operation(wash, "POST", "/wash/set", SetReply, body=SetBody, remembered=True)
def check_wash_set(body: SetBody) -> SetReply:
    """Whether a set of washes can be told apart by everybody and on every panel, and colours that can."""
    ink = readable_ink(body.ink, _ink_pens(), body.paper)
    panels = {d.name: d.panel for d in (get_thing(db(), Device, i) for i in body.device_ids)}
    conditions = check_set(body.washes, body.paper, panels)
    if all(c.passes for c in conditions):
        return SetReply(conditions=conditions, proposal=None)
    words = [words_of(ink, body.paper), typed_words(body.paper)]
    return SetReply(conditions=conditions, proposal=propose_set(body.washes, body.paper, panels, words))


def _bench(body: WashBody, recipe: Recipe, passes: int, px_per_mm: float) -> Bench:
    sheet = get_sheet(db(), body.source.sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    return Bench(recipe, memory().traces_of(db(), body.source), body.typed, hand, device, px_per_mm, passes)


def _ink_pens() -> list[Recipe]:
    kept = [p.recipe for p in list_pens(db())]
    return [r for r in kept if r.wash.place == "over" and r.kind in WRITTEN_WITH]


def _ink_on(body: WashBody, paper: str) -> Recipe:
    return readable_ink(body.ink, _ink_pens(), paper)
