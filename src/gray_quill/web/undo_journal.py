"""Undo and redo of a sheet: the steps are kept here, and taken by asking for what they say."""

from typing import Annotated, Any

from flask import Blueprint
from pydantic import Field, TypeAdapter, ValidationError

from gray_quill.core.errors import GrayQuillError
from gray_quill.store.undo_journal import keep_steps, kept_steps
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.covers import Covers
from gray_quill.web.layers import ArrangeBody, LayersBody
from gray_quill.web.mending import SwapInk
from gray_quill.web.records import Done
from gray_quill.web.strokes import InkAgain, StrokesBin
from gray_quill.web.underlay import Prints

steps = Blueprint("steps", __name__)
MOST_STEPS = 200
MOST_AT_ONCE = 4


class LayersStep(Model):
    layers: LayersBody


class ArrangeStep(Model):
    arranged: ArrangeBody


class PrintsStep(Model):
    prints: Prints


class CoversStep(Model):
    covers: Covers


OneStep = StrokesBin | InkAgain | SwapInk | LayersStep | ArrangeStep | PrintsStep | CoversStep


class SeveralSteps(Model):
    """Done as one, in this order."""

    several: Annotated[list[OneStep], Field(min_length=1, max_length=MOST_AT_ONCE)]


Step = OneStep | SeveralSteps
STEP: TypeAdapter[Step] = TypeAdapter(Step)
Steps = Annotated[list[Step], Field(max_length=MOST_STEPS)]


class SheetSteps(Model):
    """past: what takes back the last changes, the latest last; future: what makes those taken back again; count: how
    often they changed.
    """

    past: Steps
    future: Steps
    count: int = Field(ge=0, le=2**53)


@operation(steps, "GET", "/sheets/<sheet_id>/steps", SheetSteps)
def read_steps(sheet_id: str) -> SheetSteps:
    """What can be taken back on a sheet, and what made again."""
    found, count = kept_steps(db(), sheet_id)
    return SheetSteps(past=_readable(found["past"]), future=_readable(found["future"]), count=count)


def _readable(kept: list[Any]) -> list[Step]:
    """The latest steps, as far back as this version can read them: one must not be taken over another."""
    read: list[Step] = []
    for raw in reversed(kept):
        try:
            read.insert(0, STEP.validate_python(raw))
        except (ValidationError, GrayQuillError):
            break
    return read


@operation(steps, "PUT", "/sheets/<sheet_id>/steps", Done, body=SheetSteps)
def change_steps(sheet_id: str, body: SheetSteps) -> Done:
    """Keep what can be taken back; refused where another window kept steps meanwhile."""
    kept = body.model_dump(exclude={"count"}, mode="json")
    keep_steps(db(), sheet_id, kept, body.count)
    return Done()
