"""The frame: the desk as it was left, the sentence's choices, the pen roll, hands and devices."""

from flask import Blueprint

from gray_quill.core.colour import contrast, luminance
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.page import rgb
from gray_quill.core.paper import COLOURS, SIZES_MM, STATIONERY, rule_colour_for
from gray_quill.core.pen.recipe import recipe_fields
from gray_quill.core.quantities import describe_record, read_record, record_json
from gray_quill.store.pens import list_pens, set_roll
from gray_quill.store.settings import get_settings, set_settings
from gray_quill.store.sheets import count_strokes, get_sheet, list_sheets
from gray_quill.store.things import add_thing, list_things
from gray_quill.web.api import operation
from gray_quill.web.context import db
from gray_quill.web.models import Colours, ColoursReply, Desk, DeskChange, DeviceItem, Done, HandItem, NewHand, Roll
from gray_quill.web.shapes import pen_item, sheet_item

desk = Blueprint("desk", __name__)
PALETTE = [
    {"name": name, "colour": colour}
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


@operation(desk, "GET", "/desk", Desk)
def read_desk() -> Desk:
    """Everything the frame needs at start."""
    settings, counts, sheets = get_settings(db()), count_strokes(db()), list_sheets(db())
    sheet_id = settings.get("sheet_id")
    if sheet_id not in {s.id for s in sheets}:
        sheet_id = sheets[0].id if sheets else None
    return Desk(
        hands=[HandItem(id=i, hand=record_json(h)) for i, h in list_things(db(), Hand).items()],
        devices=[DeviceItem(id=i, device=record_json(d)) for i, d in list_things(db(), Device).items()],
        pens=[pen_item(p) for p in list_pens(db())],
        sheets=[sheet_item(s, counts.get(s.id, 0)) for s in sheets],
        sheet_id=sheet_id,
        surface=settings.get("surface", "auto"),
        side=settings.get("side", "hand"),
        palette=settings.get("palette", PALETTE),
        stationery=STATIONERY,
        paper_sizes_mm={name: list(mm) for name, mm in SIZES_MM.items()},
        paper_colours=COLOURS,
        recipe_fields=recipe_fields(),
        hand_fields=describe_record(Hand),
    )


@operation(desk, "PATCH", "/desk", Done, body=DeskChange)
def change_desk(body: DeskChange) -> Done:
    """Remember which sheet lies on the desk and how the screen looks."""
    if body.sheet_id is not None:
        get_sheet(db(), body.sheet_id)
    set_settings(db(), body.model_dump(exclude_none=True))
    return Done()


@operation(desk, "PUT", "/roll", Done, body=Roll)
def change_roll(body: Roll) -> Done:
    """Put pens on the roll in this order."""
    set_roll(db(), body.pen_ids)
    return Done()


@operation(desk, "POST", "/colours", ColoursReply, body=Colours)
def read_colours(body: Colours) -> ColoursReply:
    """Contrast of ink colours with a paper, and the ruling that suits it."""
    paper, *inks = (float(luminance(rgb(c))) for c in (body.paper_colour, *body.colours))
    return ColoursReply(
        contrasts=[float(contrast(ink, paper)) for ink in inks], rule_colour=rule_colour_for(body.paper_colour)
    )


@operation(desk, "POST", "/hands", HandItem, body=NewHand)
def add_hand(body: NewHand) -> HandItem:
    """Keep a hand, new or changed."""
    hand = read_record(Hand, body.hand, "hand.")
    add_thing(db(), body.id, hand)
    return HandItem(id=body.id, hand=record_json(hand))
