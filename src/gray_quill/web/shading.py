"""The shading bench of the Pen station."""

import dataclasses

from flask import Blueprint

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.prompts import prompts_for
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.readings.shading import (
    Patch,
    export_crispness,
    grade_ladder,
    own_patch,
    shading_patches,
    small_text,
)
from gray_quill.core.trace import Trace, bounds_mm
from gray_quill.formats.png import write_png
from gray_quill.store.sheets import Sheet, get_sheet, stroke_index
from gray_quill.store.things import get_thing
from gray_quill.web.api import operation
from gray_quill.web.bench_models import CrispnessItem, GradeItem, PatchItem, ShadingBody, ShadingReply, TextItem
from gray_quill.web.context import db, memory
from gray_quill.web.replies import data_url

shading = Blueprint("shading", __name__)


@operation(shading, "POST", "/shading", ShadingReply, body=ShadingBody)
def shade(body: ShadingBody) -> ShadingReply:
    """A pen on the shading bench: hatched patches, grades, small writing and what exports keep, for the sheet's hand
    and device.
    """
    recipe, sheet = read_recipe(body.recipe), get_sheet(db(), body.sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    patches = shading_patches(recipe, hand, device, sheet.paper)
    if body.own_sheet_id:
        own = get_sheet(db(), body.own_sheet_id)
        patches.append(own_patch(_own_shading(own), recipe, sheet.paper))
    grit, crispness = export_crispness(recipe, hand, device)
    ladder = grade_ladder(recipe, hand, device, sheet.paper)
    return ShadingReply(
        patches=[_patch(p) for p in patches],
        grades=[
            GradeItem(grade=g, tone=tone, image=data_url(write_png(pixels, compress=1))) for g, tone, pixels in ladder
        ],
        text=[
            TextItem(
                image=data_url(write_png(t.pixels, compress=1)),
                x_height_mm=t.x_height_mm,
                contrast=t.contrast,
                broken=t.broken,
                thickness=t.thickness,
                verdict=t.verdict,
            )
            for t in small_text(recipe, hand, device, sheet.paper)
        ],
        grit=grit,
        crispness=[CrispnessItem(**dataclasses.asdict(c)) for c in crispness],
        device=device.name,
    )


def _patch(patch: Patch) -> PatchItem:
    return PatchItem(
        force=patch.force,
        lean=patch.lean,
        image=data_url(write_png(patch.pixels, compress=1)),
        tone=patch.tone,
        unevenness=patch.unevenness,
        raggedness_mm=patch.raggedness_mm,
    )


def _own_shading(sheet: Sheet) -> list[Trace]:
    """The strokes in a test sheet's shading prompt."""
    boxes = [p.box_mm for p in prompts_for(sheet.paper, sheet.prompts) if p.name == "shading"] if sheet.prompts else []
    traces = [t for t, _ in memory().strokes(db(), stroke_index(db(), sheet.id), sheet.paper)] if boxes else []
    inside = [t for t in traces if _meets(bounds_mm([t]), boxes[0])]
    if not inside:
        raise InputError(
            "That sheet holds no shading of yours. Put down a test sheet and shade its shading prompt.", "own_sheet_id"
        )
    return inside


def _meets(box: tuple[float, float, float, float], prompt: tuple[float, float, float, float]) -> bool:
    x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    return prompt[0] <= x <= prompt[2] and prompt[1] <= y <= prompt[3]
