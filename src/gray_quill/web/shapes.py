"""Kept objects as the API shows them."""

import dataclasses
from typing import Any

from gray_quill.core.paper import Paper, describe_paper, paper_from_spec
from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.quantities import read_record, record_json
from gray_quill.store.pens import Pen
from gray_quill.store.sheets import Sheet
from gray_quill.web.models import PenItem, SheetItem


def pen_item(pen: Pen) -> PenItem:
    return PenItem(
        id=pen.id,
        revision=pen.revision,
        newest=pen.newest,
        recipe=write_recipe(pen.recipe),
        note=pen.note,
        created_at=pen.created_at,
        roll_place=pen.roll_place,
        binned=pen.binned,
    )


def sheet_item(sheet: Sheet, strokes: int) -> SheetItem:
    values: dict[str, Any] = {
        f.name: getattr(sheet, f.name) for f in dataclasses.fields(sheet) if f.name not in ("paper", "binned")
    }
    return SheetItem(**values, paper=record_json(sheet.paper), paper_words=describe_paper(sheet.paper), strokes=strokes)


def paper_of(given: dict[str, Any] | str) -> Paper:
    """A paper from a record or from plain words."""
    return paper_from_spec(given) if isinstance(given, str) else read_record(Paper, given, "paper.")
