"""The frame: the desk as it was left, the sentence's choices, the pen roll, hands."""

from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import Field, StringConstraints, TypeAdapter

from gray_quill.core.catalogue import READINGS
from gray_quill.core.colour.palettes import PALETTES
from gray_quill.core.colour.srgb import LARGE, SEEN
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.words import WORDS as HAND_WORDS
from gray_quill.core.highlighter.layers import ink_contrast
from gray_quill.core.latency.trial import NIB_SPEED
from gray_quill.core.paper import COLOURS, SIZES_MM, STATIONERY, Paper, first_paper, rule_colour_for
from gray_quill.core.pen.recipe import KINDS, Recipe, recipe_fields
from gray_quill.core.pen.uses import use_called
from gray_quill.core.quantities import Control, changed, control, describe_record
from gray_quill.core.readings.reading import Reading
from gray_quill.store.database import transaction
from gray_quill.store.items import list_things
from gray_quill.store.kept import read_kept
from gray_quill.store.pens import ROLL_PLACES, Pen, list_pens, set_roll
from gray_quill.store.seen import merged
from gray_quill.store.settings import get_settings, set_settings
from gray_quill.store.sheets import Sheet, get_sheet, list_sheets
from gray_quill.web.api import Model, operation, parsed
from gray_quill.web.context import db
from gray_quill.web.eraser import Eraser
from gray_quill.web.ink_source import WRITING
from gray_quill.web.own_papers import NamedPaper, kept_papers
from gray_quill.web.records import Colour, DeviceItem, Done, HandItem, Id, PaperIn, Printable, RecipeIn

desk = Blueprint("desk", __name__)
MOST_SHOWN = 4
MOST_ERASERS = 4
MOST_PAPERS = 24


class Swatch(Model):
    """A colour of the writer's own palette."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=30), Printable]
    colour: Colour


PALETTE = [
    Swatch(name=name, colour=colour)
    for name, colour in (
        ("graphite", "#20242b"),
        ("slate", "#4a5560"),
        ("dusk", "#1d3557"),
        ("iris", "#2c2a4a"),
        ("fen", "#2e5e5a"),
        ("moss", "#4d6b2f"),
        ("bark", "#6b4423"),
        ("rust", "#8a3a2d"),
        ("berry", "#7a2850"),
        ("ochre", "#b07a1e"),
        ("straw", "#f2c14e"),
        ("lamp", "#f4efdf"),
    )
]


class NamedRoll(Model):
    """Pens one press away for one sort of writing; plain: whether tuning shows the plain dials or every group."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=30), Printable]
    pen_ids: Annotated[list[Id], Field(max_length=ROLL_PLACES)]
    plain: bool = False


def first_rolls(pens: list[Pen]) -> list[NamedRoll]:
    """The rolls before any was arranged: what is on the roll, and two made from what one may mostly write."""
    there = {p.id for p in pens}
    on_roll = [p.id for p in pens if p.roll_place is not None]
    uses = {"drawing": "sketch-notes", "marking up": "marking up"}
    others = {name: [i for i in use_called(use).pens if i in there] for name, use in uses.items()}
    return [NamedRoll(name=name, pen_ids=ids) for name, ids in {"notes": on_roll, **others}.items()]


class Desk(Model):
    """Everything the frame needs at start: what is kept, how the screen was left, and all that is declared. papers: the
    writer's own; new_paper: what new sheets lie on, None for paper like the sheet before.
    """

    hands: list[HandItem]
    devices: list[DeviceItem]
    pens: list[Pen]
    sheets: list[Sheet]
    sheet_id: str | None
    surface: str
    side: str
    palette: list[Swatch]
    palettes: dict[str, list[Swatch]]
    rolls: list[NamedRoll]
    roll: str
    erasers: list[Eraser]
    stationery: dict[str, dict[str, Any]]
    paper_sizes_mm: dict[str, tuple[float, float]]
    paper_colours: dict[str, str]
    first_paper: Paper
    papers: list[NamedPaper]
    new_paper: Paper | None
    pen_kinds: list[str]
    recipe_fields: dict[str, list[Control]]
    hand_fields: list[Control]
    hand_words: dict[str, dict[str, dict[str, float | str]]]
    lag_fields: list[Control]
    readings: dict[str, dict[str, Reading]]


class DeskSeen(Model):
    """Lists of the desk as they were when a change was made from them: what others changed of them since stays."""

    palette: Annotated[list[Swatch], Field(max_length=24)] | None = None
    rolls: Annotated[list[NamedRoll], Field(max_length=8)] | None = None
    erasers: Annotated[list[Eraser], Field(max_length=MOST_ERASERS)] | None = None
    papers: Annotated[list[NamedPaper], Field(max_length=MOST_PAPERS)] | None = None


class DeskChange(Model):
    sheet_id: Id | None = None
    surface: Literal["auto", "paper", "night", "e-ink"] | None = None
    side: Literal["hand", "left", "right"] | None = None
    palette: Annotated[list[Swatch], Field(max_length=24)] | None = None
    rolls: Annotated[list[NamedRoll], Field(min_length=1, max_length=8)] | None = None
    roll: str | None = None
    erasers: Annotated[list[Eraser], Field(max_length=MOST_ERASERS)] | None = None
    papers: Annotated[list[NamedPaper], Field(max_length=MOST_PAPERS)] | None = None
    new_paper: PaperIn | None = None
    new_as_before: bool | None = Field(None, description="New sheets lie on paper like the sheet before")
    saw: DeskSeen | None = None


class Roll(Model):
    """saw: the pens that were on the roll when this was made."""

    pen_ids: list[Id]
    saw: list[Id] | None = None


class Colours(Model):
    """Colours of ink beside a colour of paper; pen: whose opacity and blend they are laid with, else full and plain."""

    paper_colour: Colour
    colours: Annotated[list[Colour], Field(max_length=64)]
    pen: RecipeIn | None = None


class Shown(Model):
    """A kept pen and the contrast of its ink with a paper."""

    pen_id: str
    name: str
    contrast: float


class ColoursReply(Model):
    """contrasts: WCAG ratio of each colour with the paper, 1..21. lost: whether each hardly shows. rule_colour: the
    ruling that suits the paper. shows: pens that write and whose ink stands out on it (3:1 and more), those on the roll
    first.
    """

    contrasts: list[float]
    lost: list[bool]
    rule_colour: str
    shows: list[Shown]


@operation(desk, "GET", "/desk", Desk)
def read_desk() -> Desk:
    """Everything the frame needs at start."""
    settings, sheets = get_settings(db()), list_sheets(db())
    sheet_id, new_paper = settings.get("sheet_id"), settings.get("new_paper")
    if sheet_id not in {s.id for s in sheets}:
        sheet_id = sheets[0].id if sheets else None
    pens = list_pens(db())
    rolls = [NamedRoll(**r) for r in settings.get("rolls", [])] or first_rolls(pens)
    return Desk(
        hands=[HandItem(id=i, hand=h) for i, h in list_things(db(), Hand).items()],
        devices=[DeviceItem(id=i, device=d) for i, d in list_things(db(), Device).items()],
        pens=pens,
        sheets=sheets,
        sheet_id=sheet_id,
        surface=settings.get("surface", "auto"),
        side=settings.get("side", "hand"),
        palette=settings.get("palette", PALETTE),
        palettes={title: [Swatch(name=n, colour=c) for n, c in named] for title, named in PALETTES.items()},
        rolls=rolls,
        roll=settings.get("roll", rolls[0].name),
        erasers=[Eraser(**e) for e in settings.get("erasers", [])],
        stationery=STATIONERY,
        paper_sizes_mm=SIZES_MM,
        paper_colours=COLOURS,
        first_paper=first_paper(),
        papers=kept_papers(settings),
        new_paper=read_kept(Paper, new_paper) if isinstance(new_paper, dict) else None,
        pen_kinds=list(KINDS),
        recipe_fields=recipe_fields(),
        hand_fields=describe_record(Hand),
        hand_words=HAND_WORDS,
        lag_fields=[control("speed_mm_s", NIB_SPEED)],
        readings=READINGS,
    )


class DeskKept(Model):
    """desk: lists that were changed, as they are now."""

    desk: dict[str, Any]


@operation(desk, "PATCH", "/desk", DeskKept, body=DeskChange)
def change_desk(body: DeskChange) -> DeskKept:
    """Remember which sheet lies on the desk and how the screen looks."""
    if body.sheet_id is not None:
        get_sheet(db(), body.sheet_id)
    changes = body.model_dump(exclude_none=True)
    seen = changes.pop("saw", {})
    if changes.pop("new_as_before", False):
        changes["new_paper"] = None
    with transaction(db()):
        here = lists_of_desk(get_settings(db())) if seen else {}
        seen = {key: rows for key, rows in seen.items() if key in changes}
        for key in seen:
            changes[key] = merged(seen[key], changes[key], here.get(key, seen[key]), f"The desk's {key} were")
            setting_fits(key, changes[key])
        set_settings(db(), changes)
    return DeskKept(desk={key: changes[key] for key in seen})


def lists_of_desk(settings: dict[str, Any]) -> dict[str, Any]:
    """Its lists, of which some was kept."""
    papers = [TypeAdapter(NamedPaper).dump_python(one) for one in kept_papers(settings)]
    kept = {key: settings.get(key) for key in ("palette", "rolls", "erasers")}
    return DeskSeen(**kept, papers=papers or None).model_dump(exclude_none=True)


def setting_fits(key: str, value: Any) -> None:
    """Raises BodyError where this is no setting of the desk."""
    if value is not None:
        parsed(DeskChange, {key: value}, "setting")


@operation(desk, "PUT", "/desk/roll", Done, body=Roll)
def change_roll(body: Roll) -> Done:
    """Put pens on the roll in this order."""
    set_roll(db(), body.pen_ids, body.saw)
    return Done()


@operation(desk, "POST", "/desk/colours", ColoursReply, body=Colours)
def read_colours(body: Colours) -> ColoursReply:
    """Contrast of ink colours with a paper, and the ruling that suits it."""
    pen = body.pen or Recipe()
    pens = [(p, ink_contrast(p.recipe, body.paper_colour)) for p in list_pens(db()) if p.recipe.kind in WRITING]
    shows = [Shown(pen_id=p.id, name=p.recipe.name, contrast=c) for p, c in pens if c >= LARGE]
    contrasts = [ink_contrast(changed(pen, "body.colour", c), body.paper_colour) for c in body.colours]
    return ColoursReply(
        contrasts=contrasts,
        lost=[c < SEEN for c in contrasts],
        rule_colour=rule_colour_for(body.paper_colour),
        shows=shows[:MOST_SHOWN],
    )
