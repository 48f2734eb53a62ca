"""The Wash trial: the grid, solving, and sets of washes."""

import dataclasses

from flask import Blueprint

from gray_quill.core.colour_difference import difference
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.wash.grid import Bench, readable_ink, typed_words
from gray_quill.core.wash.layers import LARGE, READABLE, Words, passes_until, visibility_words, wash_layers, words_of
from gray_quill.core.wash.palette import Condition, check_set, propose_set
from gray_quill.core.wash.solve import PASSES, Setting, solve_wash
from gray_quill.formats.png import write_png
from gray_quill.store.pens import list_pens
from gray_quill.store.sheets import get_sheet
from gray_quill.store.things import get_thing
from gray_quill.web.api import operation
from gray_quill.web.context import db, memory
from gray_quill.web.replies import data_url
from gray_quill.web.wash_models import (
    ConditionItem,
    GridBody,
    GridCell,
    GridReply,
    GridRow,
    ReplacementItem,
    SetBody,
    SetReply,
    SettingItem,
    SolveWashBody,
    SolveWashReply,
    WashBody,
)

wash = Blueprint("wash", __name__)


@operation(wash, "POST", "/wash/grid", GridReply, body=GridBody)
def make_grid(body: GridBody) -> GridReply:
    """Your words and printed ones under passes of a wash on several papers, as pictures and numbers."""
    recipe = read_recipe(body.wash)
    bench = _bench(body, recipe, body.passes, body.px_per_mm)
    return GridReply(rows=[_row(bench, recipe, _ink_on(body, paper), paper, body.passes) for paper in body.papers])


def _row(bench: Bench, recipe: Recipe, ink: Recipe, paper: str, passes: int) -> GridRow:
    cells = []
    for n in range(1, passes + 1):
        cell = bench.cell(ink, paper, n)
        cells.append(
            GridCell(
                passes=n,
                image=data_url(write_png(cell.pixels, compress=1)),
                writing=cell.writing,
                typed=cell.typed,
                visibility=cell.visibility,
                seen=visibility_words(cell.visibility),
                unevenness=cell.unevenness,
            )
        )
    words = _words(bench, ink, paper)
    once, twice = (wash_layers(words["typed"], recipe, paper, n).ground for n in (1, 2))
    return GridRow(
        paper=paper,
        ink=ink.name,
        cells=cells,
        overlap=float(difference(once, twice)),
        readable={name: passes_until(w, recipe, paper, READABLE) for name, w in words.items()},
        large={name: passes_until(w, recipe, paper, LARGE) for name, w in words.items()},
    )


@operation(wash, "POST", "/wash/solve", SolveWashReply, body=SolveWashBody)
def solve_for_paper(body: SolveWashBody) -> SolveWashReply:
    """A strength and blend that keep words readable after two passes and the wash clear on a paper, or why there is
    none.
    """
    recipe, ink = read_recipe(body.wash), _ink_on(body, body.paper)
    words = _words(_bench(body, recipe, 1, 12), ink, body.paper)
    answer = solve_wash(recipe, [words[name] for name in body.words], body.paper)
    measured: dict[str, float] = {}
    if answer.setting:
        bench = _bench(body, with_setting(recipe, answer.setting), PASSES, 12)
        twice = bench.cell(ink, body.paper, PASSES)
        measured = {name: getattr(twice, name) for name in body.words} | {
            "visibility": bench.cell(ink, body.paper, 1).visibility
        }
    return SolveWashReply(
        setting=_setting(answer.setting),
        measured=measured,
        best_contrast=answer.best_contrast,
        best_visibility=answer.best_visibility,
        tried=answer.tried,
        other=_setting(answer.other),
        bare_contrast=answer.bare_contrast,
    )


@operation(wash, "POST", "/wash/set", SetReply, body=SetBody)
def check_wash_set(body: SetBody) -> SetReply:
    """Whether a set of washes can be told apart by everybody and on every panel, and colours that can."""
    recipes, ink = [read_recipe(w) for w in body.washes], readable_ink(read_recipe(body.ink), _ink_pens(), body.paper)
    devices = [get_thing(db(), Device, i) for i in body.device_ids]
    panels = {d.name: d.panel for d in devices}
    conditions = check_set(recipes, body.paper, panels)
    if all(c.passes for c in conditions):
        return SetReply(conditions=_conditions(conditions), replacements=[], proposed=[], passes=True)
    proposal = propose_set(recipes, body.paper, panels, [words_of(ink, body.paper), typed_words(body.paper)])
    return SetReply(
        conditions=_conditions(conditions),
        replacements=[ReplacementItem(place=r.place, colour=r.colour) for r in proposal.replacements],
        proposed=_conditions(proposal.conditions),
        passes=proposal.passes,
    )


def with_setting(recipe: Recipe, setting: Setting) -> Recipe:
    """A wash as a solution sets it."""
    return dataclasses.replace(
        recipe,
        body=dataclasses.replace(recipe.body, colour=setting.colour, opacity=setting.opacity),
        wash=dataclasses.replace(recipe.wash, blend=setting.blend, place=setting.place),
    )


def _bench(body: WashBody, recipe: Recipe, passes: int, px_per_mm: float) -> Bench:
    sheet = get_sheet(db(), body.source.sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    return Bench(recipe, memory().traces_of(db(), body.source), body.typed, hand, device, px_per_mm, passes)


def _ink_pens() -> list[Recipe]:
    return [
        p.recipe
        for p in list_pens(db())
        if p.recipe.wash.place == "over" and p.recipe.kind in ("ballpoint", "fountain", "brush", "flat nib")
    ]


def _ink_on(body: WashBody, paper: str) -> Recipe:
    return readable_ink(read_recipe(body.ink), _ink_pens(), paper)


def _words(bench: Bench, ink: Recipe, paper: str) -> dict[str, Words]:
    return {"writing": bench.words_in(ink, paper), "typed": typed_words(paper)}


def _setting(setting: Setting | None) -> SettingItem | None:
    return SettingItem(**dataclasses.asdict(setting)) if setting else None


def _conditions(conditions: list[Condition]) -> list[ConditionItem]:
    return [
        ConditionItem(
            name=c.name, smallest=c.smallest, enough=c.enough, passes=c.passes, pair=list(c.pair), seen=c.seen
        )
        for c in conditions
    ]
