"""Panels: proofs of a sheet on the devices at hand, and taking a sheet out."""

import dataclasses

from flask import Blueprint, Response

from gray_quill.core.digitiser.device import Device
from gray_quill.core.panel.proof import panel_readings, proof_sheet
from gray_quill.formats.export import export_sheet
from gray_quill.formats.inkml import write_inkml
from gray_quill.formats.png import write_png
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import get_sheet, stroke_index
from gray_quill.store.things import get_thing
from gray_quill.web.api import operation
from gray_quill.web.context import db, memory
from gray_quill.web.models import ExportQuery, ProofQuery, ProofReply
from gray_quill.web.replies import download, png

panels = Blueprint("panels", __name__)
MEDIA = {"svg": "image/svg+xml", "png": "image/png", "pdf": "application/pdf", "inkml": "application/inkml+xml"}


@operation(panels, "GET", "/sheets/<sheet_id>/proof.png", "image/png", query=ProofQuery)
def read_proof(sheet_id: str, query: ProofQuery) -> Response:
    """The sheet as a device's panel shows it, pixel for pixel."""
    sheet, panel = get_sheet(db(), sheet_id), get_thing(db(), Device, query.device_id).panel
    return png(
        write_png(
            proof_sheet(memory().sheet_inks(db(), sheet_id), sheet.paper, panel, query.dither, query.greys).pixels,
            panel.ppi,
            compress=1,
        )
    )


@operation(panels, "GET", "/sheets/<sheet_id>/proof", ProofReply, query=ProofQuery)
def read_proof_readings(sheet_id: str, query: ProofQuery) -> ProofReply:
    """What becomes of the sheet's ink on a device's panel."""
    sheet, panel = get_sheet(db(), sheet_id), get_thing(db(), Device, query.device_id).panel
    inks = memory().sheet_inks(db(), sheet_id)
    proof = proof_sheet(inks, sheet.paper, panel, query.dither, query.greys)
    readings = panel_readings(inks, sheet.paper, panel, proof)
    return ProofReply(
        readings=dataclasses.asdict(readings),
        width_px=proof.pixels.shape[1],
        height_px=proof.pixels.shape[0],
        greys=query.greys or panel.greys,
    )


@operation(panels, "GET", "/sheets/<sheet_id>/export", "application/octet-stream", query=ExportQuery)
def take_out_sheet(sheet_id: str, query: ExportQuery) -> Response:
    """The sheet as a file: SVG, PNG or PDF with or without its paper, or its traces as InkML."""
    sheet = get_sheet(db(), sheet_id)
    if query.form == "inkml":
        pen = get_pen(db(), sheet.pen_id).recipe
        traces = [trace for trace, _ in memory().strokes(db(), stroke_index(db(), sheet_id), sheet.paper)]
        data = write_inkml(
            traces,
            {"width": f"{pen.body.width_mm:g}", "color": pen.body.colour, "transparency": f"{1 - pen.body.opacity:g}"},
        )
    else:
        data = export_sheet(
            memory().sheet_inks(db(), sheet_id), sheet.paper, query.form, query.dpi, query.paper, sheet.name
        )
    return download(data, MEDIA[query.form], f"{sheet.name}.{query.form}")
