"""Small writing that was written large, beside the rest of its page."""

from typing import Annotated

from flask import Blueprint
from pydantic import Field

from gray_quill.core.readings.calmer import Calmer, calmer
from gray_quill.store.sheets import get_sheet
from gray_quill.store.strokes import stroke_index
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.ink_source import WRITING
from gray_quill.web.records import Id

strip = Blueprint("strip", __name__)


class InStrip(Model):
    """The strokes that were written in the strip."""

    ids: Annotated[list[Id], Field(max_length=5000)]


@operation(strip, "POST", "/sheets/<sheet_id>/calmer", Calmer, body=InStrip, remembered=True)
def read_calmer(sheet_id: str, body: InStrip) -> Calmer:
    """How much more evenly these strokes stand on their line than the rest of the page's writing."""
    sheet, index, wanted = get_sheet(db(), sheet_id), stroke_index(db(), sheet_id), set(body.ids)
    pairs = memory().strokes(db(), index, sheet.paper)
    written = [(e[0], trace) for e, (trace, ink) in zip(index, pairs, strict=True) if ink.recipe.kind in WRITING]
    return calmer([t for i, t in written if i in wanted], [t for i, t in written if i not in wanted])
