"""The shading bench of the Pen station."""

from flask import Blueprint

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.prompts import prompts_for
from gray_quill.core.shading.bench import (
    Crispness,
    Patch,
    export_crispness,
    grade_ladder,
    inside_prompt,
    own_patch,
    shading_patches,
    small_text,
)
from gray_quill.core.trace import Trace
from gray_quill.formats.png import write_png
from gray_quill.store.items import get_thing
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.strokes import stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.records import Id, RecipeIn
from gray_quill.web.replies import data_url

shading = Blueprint("shading", __name__)


class ShadingBody(Model):
    """A recipe with the hand, device and paper of a sheet; own_sheet_id: a test sheet whose shading is measured too."""

    recipe: RecipeIn
    sheet_id: Id
    own_sheet_id: Id | None = None


class PatchItem(Model):
    force: str
    lean: str
    image: str
    tone: float
    unevenness: float
    raggedness_mm: float | None


class GradeItem(Model):
    grade: str
    tone: float
    image: str


class TextItem(Model):
    """contrast: median along the strokes; broken: share of length under 3:1; thickness: stroke width over x-height."""

    image: str
    x_height_mm: float
    contrast: float
    broken: float
    thickness: float
    verdict: str


class ShadingReply(Model):
    """grades: empty for pens without tooth. grit: of a crisp patch on the device's panel; crispness: what exports keep
    of it.
    """

    patches: list[PatchItem]
    grades: list[GradeItem]
    text: list[TextItem]
    grit: float
    crispness: list[Crispness]
    device: str


@operation(shading, "POST", "/pen/shading", ShadingReply, body=ShadingBody, remembered=True)
def shade(body: ShadingBody) -> ShadingReply:
    """A pen on the shading bench: hatched patches, grades, small writing and what exports keep, for the sheet's hand
    and device.
    """
    recipe, sheet = body.recipe, get_sheet(db(), body.sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    patches = shading_patches(recipe, hand, device, sheet.paper)
    if body.own_sheet_id:
        patches.append(own_patch(_own_shading(get_sheet(db(), body.own_sheet_id)), recipe, sheet.paper))
    grit, crispness = export_crispness(recipe, hand, device)
    ladder = grade_ladder(recipe, hand, device, sheet.paper)
    return ShadingReply(
        patches=[_patch(p) for p in patches],
        grades=[GradeItem(grade=g, tone=tone, image=data_url(write_png(px, compress=1))) for g, tone, px in ladder],
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
        crispness=crispness,
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
    prompts = [p for p in prompts_for(sheet.paper, sheet.prompts) if p.name == "shading"] if sheet.prompts else []
    pairs = memory().strokes(db(), stroke_index(db(), sheet.id), sheet.paper) if prompts else []
    found = inside_prompt([t for t, _ in pairs], prompts[0]) if prompts else []
    if not found:
        raise InputError(
            "That sheet holds no shading of yours. Put down a test sheet and shade its shading prompt.", "own_sheet_id"
        )
    return found
