"""Layers of a sheet, and arranging ink: on which layer, locked, grouped, in which order."""

from typing import Annotated, Literal

from flask import Blueprint
from pydantic import Field

from gray_quill.core.ink.layer import MOST_LAYERS, READY_MADE, Layer
from gray_quill.core.quantities import Control, describe_record
from gray_quill.store.database import transaction
from gray_quill.store.layers import Arranged, Layering, arrange, held_of, set_layers, to_end
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.strokes import index_of, stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.records import Box, Id, LayerIn
from gray_quill.web.strokes import box_of

layers = Blueprint("layers", __name__)
Ids = Annotated[list[Id], Field(max_length=20_000)]
Place = Annotated[int, Field(ge=-1_000_000_000, le=1_000_000_000)]


class LayersBody(Model):
    """layers: from below, all that the sheet shall have; on: the one that is written on; moved: strokes by the layer
    they are put on; saw: the layers this was made from.
    """

    layers: Annotated[list[LayerIn], Field(min_length=1, max_length=MOST_LAYERS)]
    on: Annotated[str, Field(max_length=60)]
    moved: dict[str, Ids] = Field({}, max_length=MOST_LAYERS)
    saw: Annotated[list[LayerIn], Field(max_length=MOST_LAYERS)] | None = None


class LayersReply(Model):
    """was: what to send to put it back; held: how many strokes each layer holds."""

    was: Layering
    sheet: Sheet


class LayersHold(Model):
    """held: how many strokes each layer holds; fields: what a layer is set by; ready_made: a set for sketches."""

    held: dict[str, int]
    fields: list[Control]
    ready_made: list[Layer]


class ArrangeBody(Model):
    """locked, grouped, places: of strokes by id; front, back: strokes that are put before or behind all others."""

    locked: dict[Id, bool] = Field({}, max_length=20_000)
    grouped: dict[Id, Id | None] = Field({}, max_length=20_000)
    places: dict[Id, Place] = Field({}, max_length=20_000)
    to_end: Literal["front", "back"] | None = None
    ids: Ids = Field([])


class ArrangedReply(Model):
    """was: what to send to put it back."""

    was: Arranged
    box_mm: Box | None
    sheet: Sheet


@operation(layers, "GET", "/sheets/<sheet_id>/layers", LayersHold)
def read_layers(sheet_id: str) -> LayersHold:
    """How much ink lies on each layer, and what a layer is set by."""
    sheet, held = get_sheet(db(), sheet_id), held_of(db(), sheet_id)
    counts = dict.fromkeys((layer.id for layer in sheet.layers), 0)
    for stroke_id, _, _ in stroke_index(db(), sheet_id):
        on = held[stroke_id].layer if stroke_id in held else sheet.layers[0].id
        counts[on if on in counts else sheet.layers[0].id] += 1
    return LayersHold(held=counts, fields=describe_record(Layer), ready_made=list(READY_MADE))


@operation(layers, "PUT", "/sheets/<sheet_id>/layers", LayersReply, body=LayersBody)
def change_layers(sheet_id: str, body: LayersBody) -> LayersReply:
    """Keep the sheet's layers in this order, and put ink on them; ink of a layer that goes lies on the one below."""
    was = set_layers(db(), sheet_id, Layering(body.layers, body.on, body.moved), body.saw)
    return LayersReply(was=was, sheet=get_sheet(db(), sheet_id))


@operation(layers, "PUT", "/sheets/<sheet_id>/strokes/arrange", ArrangedReply, body=ArrangeBody)
def arrange_ink(sheet_id: str, body: ArrangeBody) -> ArrangedReply:
    """Lock, group or order strokes."""
    with transaction(db()):
        places = to_end(db(), sheet_id, body.ids, body.to_end == "front") if body.to_end else {}
        was = arrange(db(), sheet_id, Arranged(dict(body.locked), dict(body.grouped), {**body.places, **places}))
    moved = index_of(db(), sheet_id, list(was.places))
    return ArrangedReply(was=was, box_mm=box_of(sheet_id, moved) if moved else None, sheet=get_sheet(db(), sheet_id))
