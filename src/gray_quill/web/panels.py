"""Panels: proofs of a sheet on the devices at hand."""

from typing import Literal

from flask import Blueprint
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.panel.proof import proof_sheet
from gray_quill.core.readings.panel_readings import PanelReadings, panel_readings
from gray_quill.formats.png import write_png
from gray_quill.store.sheets import get_sheet
from gray_quill.store.things import get_thing
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import layers_read, shown_index
from gray_quill.web.records import Id
from gray_quill.web.replies import data_url

panels = Blueprint("panels", __name__)


class ProofQuery(Model):
    device_id: Id
    dither: Literal["none", "ordered", "diffuse"] = "none"
    greys: int | None = Field(None, ge=2, le=256)


class ProofReply(Model):
    """layers: which of the sheet's layers are shown, and which are not."""

    image: str
    readings: PanelReadings
    width_px: int
    height_px: int
    greys: int
    layers: str


@operation(panels, "GET", "/panels/<sheet_id>/proof", ProofReply, query=ProofQuery, costly=True)
def read_proof(sheet_id: str, query: ProofQuery) -> ProofReply:
    """The sheet as a device's panel shows it, pixel for pixel, and what becomes of its ink there."""
    sheet, panel = get_sheet(db(), sheet_id), get_thing(db(), Device, query.device_id).panel
    inks = memory().sheet_inks(db(), sheet_id)
    proof = proof_sheet(inks, sheet.paper, panel, query.dither, query.greys)
    return ProofReply(
        image=data_url(write_png(proof.pixels, panel.ppi, compress=1)),
        readings=panel_readings(inks, sheet.paper, panel, proof),
        width_px=proof.pixels.shape[1],
        height_px=proof.pixels.shape[0],
        greys=query.greys or panel.greys,
        layers=layers_read(db(), sheet, shown_index(db(), sheet_id)[0]),
    )
