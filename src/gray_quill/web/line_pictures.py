"""The writer's own line in any pen, as a picture beside others of it."""

import dataclasses

from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import fitted_view
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.trace import bounds_mm
from gray_quill.formats.png import write_png
from gray_quill.store.sheets import get_sheet
from gray_quill.web.context import db, memory
from gray_quill.web.records import Source
from gray_quill.web.replies import data_url

WIDTH_PX, HEIGHT_PX = 900, 240


def line_in(source: Source, recipe: Recipe) -> str:
    """A data URL of what was written, inked in a pen on the sheet's bare paper."""
    traces = memory().traces_of(db(), source)
    view = fitted_view(bounds_mm(traces), WIDTH_PX, HEIGHT_PX)
    paper = dataclasses.replace(get_sheet(db(), source.sheet_id).paper, ruling="blank", margin_mm=0.0)
    return data_url(write_png(page_pixels(settle_all(traces, recipe, paper), paper, view), compress=1))
