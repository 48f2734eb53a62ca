"""A sheet from an InkML document: its pages, layers and placements as the document notes them."""

import dataclasses
import math
import sqlite3
from collections.abc import Sequence

from gray_quill.core.errors import FormatError, GrayQuillError
from gray_quill.core.ink.cost import check_cost
from gray_quill.core.ink.layer import FIRST, MOST_LAYERS, Layer
from gray_quill.core.ink.placement import IDENTITY, Placement, check_placement, inverse, placed
from gray_quill.core.paper import LARGEST_MM, SMALLEST_MM, Paper
from gray_quill.core.trace import Trace, bounds_mm, moved
from gray_quill.formats.inkml import Noted
from gray_quill.store.layers import Layering, set_layers
from gray_quill.store.pages import MOST_PAGES, add_page
from gray_quill.store.pens import Pen, get_pen
from gray_quill.store.sheets import Sheet, add_sheet, get_sheet
from gray_quill.store.stroke_edits import place_strokes
from gray_quill.store.strokes import Stroke, add_strokes
from gray_quill.web.time_budget import in_time

MARGIN_MM = 12.0  # from the corner, for ink that came in beyond the page
NAME = "Brought in"


def sheet_of_inkml(db: sqlite3.Connection, noted: Sequence[Noted], like: Sheet, sheet_id: str) -> Sheet:
    """Put down a sheet of these traces, like another one, inside the caller's transaction."""
    pages: dict[str, list[Noted]] = {}
    for one in noted:
        pages.setdefault(one.notes.get("page", "1"), []).append(one)
    if len(pages) > MOST_PAGES:
        raise FormatError(f"This InkML file has {len(pages)} pages; {MOST_PAGES} are the most. Split it.")
    last = ""
    for number, traces in enumerate(pages.values()):
        paper = _paper(traces[0], like.paper)
        if not last:
            last = sheet_id
            made = Sheet(last, NAME, "free", paper, like.hand_id, like.device_id, like.pen_id, "", False)
            add_sheet(db, made)
        else:
            last = add_page(db, last, f"{sheet_id}-{number + 1}", paper).id
        _fill(db, last, traces, get_pen(db, like.pen_id))
    return get_sheet(db, sheet_id)


def onto_page(traces: Sequence[Trace]) -> tuple[float, float]:
    """By how much ink that came in beyond the page is moved onto it, across and down, mm."""
    left, top, _, _ = bounds_mm(traces)
    return (0.0, 0.0) if left >= 0 and top >= 0 else (MARGIN_MM - left, MARGIN_MM - top)


def _paper(noted: Noted, like: Paper) -> Paper:
    """The paper of a page, as large as the document says."""
    try:
        width, height = (float(noted.notes[side]) for side in ("width_mm", "height_mm"))
    except (KeyError, ValueError):
        return like
    if not all(SMALLEST_MM <= side <= LARGEST_MM for side in (width, height)):
        return like
    return dataclasses.replace(like, width_mm=width, height_mm=height)


def _fill(db: sqlite3.Connection, page_id: str, noted: Sequence[Noted], usual: Pen) -> None:
    layers = list(dict.fromkeys(one.notes.get("layer", Layer().name)[:30] or Layer().name for one in noted))
    layers = layers[:MOST_LAYERS]
    ids = {name: FIRST if k == 0 else f"layer-{k}" for k, name in enumerate(layers)}
    if len(layers) > 1 or layers[0] != Layer().name:
        wanted = [Layer(id=ids[name], name=name) for name in layers]
        set_layers(db, page_id, Layering(wanted, wanted[-1].id, {}))
    shift = onto_page([one.trace for one in noted])
    strokes, placements = [], {}
    for k, one in enumerate(noted):
        in_time()
        stroke_id, pen = f"{page_id}-{k}", _pen(db, one.pen) or usual
        trace, placement = _as_written(moved(one.trace, *shift), one.notes.get("placement", ""))
        check_cost(trace, pen.recipe)
        name = one.notes.get("layer", Layer().name)[:30]
        strokes.append(Stroke(stroke_id, pen.id, pen.revision, trace, layer=ids.get(name, FIRST)))
        if placement != IDENTITY:
            placements[stroke_id] = placement
    add_strokes(db, page_id, strokes)
    place_strokes(db, page_id, placements)


def _pen(db: sqlite3.Connection, said: str) -> Pen | None:
    """The pen a brush names, where it is kept here in that revision."""
    pen_id, _, revision = said.rpartition(" ")
    try:
        return get_pen(db, pen_id, int(revision)) if pen_id else None
    except (GrayQuillError, ValueError):
        return None


def _as_written(trace: Trace, said: str) -> tuple[Trace, Placement]:
    """What the hand did where ink was placed, and the placement; as it lies, where none is noted or it cannot be."""
    try:
        a, b, c, d, e, f, g, h = (float(v) for v in said.split())
        placement = (a, b, c, d, e, f, g, h)
        if not all(map(math.isfinite, placement)):
            return trace, IDENTITY
        x, y = placed(trace.x_mm, trace.y_mm, inverse(placement))
        check_placement(placement, x, y)
    except (ValueError, ArithmeticError, GrayQuillError):
        return trace, IDENTITY
    return dataclasses.replace(trace, x_mm=x, y_mm=y), placement
