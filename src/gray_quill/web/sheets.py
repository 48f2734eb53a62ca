"""Sheets: putting one down, keeping strokes, the simulated hand, pictures of parts of the page."""

from collections.abc import Sequence

from flask import Blueprint, Response

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.prompts import prompts_for
from gray_quill.core.hand.writer import fill_prompts, write_text
from gray_quill.core.ink.page import box_view, page_pixels
from gray_quill.core.trace import Trace, bounds_mm, make_trace
from gray_quill.formats.inkml import read_inkml
from gray_quill.formats.png import MOST_PIXELS, write_png
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import (
    Sheet,
    Stroke,
    add_sheet,
    add_strokes,
    bin_strokes,
    change_sheet,
    get_sheet,
    list_sheets,
    stroke_index,
)
from gray_quill.store.things import get_thing
from gray_quill.web.api import operation
from gray_quill.web.context import db, memory
from gray_quill.web.models import (
    NewSheet,
    NewStrokes,
    PageQuery,
    PromptItem,
    SheetChange,
    SheetDetail,
    SheetItem,
    StrokeIds,
    StrokesKept,
    WriteText,
)
from gray_quill.web.replies import free_id, png
from gray_quill.web.shapes import paper_of, sheet_item

sheets = Blueprint("sheets", __name__)


@operation(sheets, "POST", "/sheets", SheetItem, body=NewSheet)
def new_sheet(body: NewSheet) -> SheetItem:
    """Put down a new sheet."""
    get_thing(db(), Hand, body.hand_id)
    get_thing(db(), Device, body.device_id)
    get_pen(db(), body.pen_id)
    prompts = None if body.kind == "free" else body.kind
    kind = "free" if body.kind == "free" else "test"
    sheet = Sheet(
        body.id, body.name, kind, paper_of(body.paper), body.hand_id, body.device_id, body.pen_id, "", False, prompts
    )
    return sheet_item(add_sheet(db(), sheet), 0)


@operation(sheets, "GET", "/sheets/<sheet_id>", SheetDetail)
def read_sheet(sheet_id: str) -> SheetDetail:
    """A sheet, its prompts when it has some, the ids of its strokes and the colours of its ink."""
    sheet, index = get_sheet(db(), sheet_id), stroke_index(db(), sheet_id)
    prompts = (
        [PromptItem(name=p.name, ask=p.ask, box_mm=list(p.box_mm)) for p in prompts_for(sheet.paper, sheet.prompts)]
        if sheet.prompts
        else []
    )
    pens = {entry[1:] for entry in index}
    colours = sorted({get_pen(db(), pen_id, revision).recipe.body.colour for pen_id, revision in pens})
    return SheetDetail(
        sheet=sheet_item(sheet, len(index)), prompts=prompts, stroke_ids=[i for i, _, _ in index], colours=colours
    )


@operation(sheets, "PATCH", "/sheets/<sheet_id>", SheetItem, body=SheetChange)
def edit_sheet(sheet_id: str, body: SheetChange) -> SheetItem:
    """Change a sheet's name, paper, hand, device or pen, or move it to the bin or back."""
    if body.hand_id:
        get_thing(db(), Hand, body.hand_id)
    if body.device_id:
        get_thing(db(), Device, body.device_id)
    if body.pen_id:
        get_pen(db(), body.pen_id)
    paper = paper_of(body.paper) if body.paper is not None else None
    changed = change_sheet(db(), sheet_id, paper=paper, **body.model_dump(exclude={"paper"}))
    return sheet_item(changed, len(stroke_index(db(), sheet_id)))


@operation(sheets, "POST", "/sheets/<sheet_id>/strokes", StrokesKept, body=NewStrokes)
def keep_strokes(sheet_id: str, body: NewStrokes) -> StrokesKept:
    """Keep strokes; a repeated save of the same ids changes nothing."""
    return _keep(sheet_id, [Stroke(s.id, s.pen_id, s.revision, s.trace()) for s in body.strokes])


def _keep(sheet_id: str, strokes: Sequence[Stroke]) -> StrokesKept:
    new = add_strokes(db(), sheet_id, strokes)
    return StrokesKept(
        kept=[s.id for s in strokes],
        new=new,
        box_mm=_box(sheet_id, [s.id for s in strokes], [(s.pen_id, s.revision) for s in strokes]),
    )


def _box(sheet_id: str, ids: Sequence[str], pens: Sequence[tuple[str, int]]) -> list[float]:
    boxes = [
        ink.box_mm
        for _, ink in memory().strokes(
            db(), [(i, *p) for i, p in zip(ids, pens, strict=True)], get_sheet(db(), sheet_id).paper
        )
    ]
    lows, highs = [min(b[k] for b in boxes) for k in (0, 1)], [max(b[k] for b in boxes) for k in (2, 3)]
    return [*lows, *highs]


@operation(sheets, "PUT", "/sheets/<sheet_id>/strokes/bin", StrokesKept, body=StrokeIds)
def change_stroke_bin(sheet_id: str, body: StrokeIds) -> StrokesKept:
    """Move strokes to the bin or back, for undo and redo."""
    before = {i: (p, r) for i, p, r in stroke_index(db(), sheet_id)}
    bin_strokes(db(), sheet_id, body.ids, body.binned)
    after = before | {i: (p, r) for i, p, r in stroke_index(db(), sheet_id)}
    known = [i for i in body.ids if i in after]
    if not known:
        raise InputError("Those strokes are in the bin already.", "ids")
    return StrokesKept(kept=known, new=0, box_mm=_box(sheet_id, known, [after[i] for i in known]))


@operation(sheets, "POST", "/sheets/<sheet_id>/write", StrokesKept, body=WriteText)
def let_hand_write(sheet_id: str, body: WriteText) -> StrokesKept:
    """Let the sheet's simulated hand write text below what is there, or do its prompts."""
    sheet = get_sheet(db(), sheet_id)
    hand, device, pen = (
        get_thing(db(), Hand, sheet.hand_id),
        get_thing(db(), Device, sheet.device_id),
        get_pen(db(), sheet.pen_id),
    )
    if body.prompts:
        traces = fill_prompts(sheet.paper, hand, device, body.seed, sheet.prompts or "test")
    else:
        traces = _written_below(sheet, body, hand, device)
    stem = f"hand-{len(stroke_index(db(), sheet_id))}-{body.seed}"
    taken = {i for i, _, _ in stroke_index(db(), sheet_id)}
    return _keep(
        sheet_id,
        [Stroke(free_id(f"{sheet_id[:24]}-{stem}-{k}", taken), pen.id, pen.revision, t) for k, t in enumerate(traces)],
    )


def _written_below(sheet: Sheet, body: WriteText, hand: Hand, device: Device) -> list[Trace]:
    margin = max(sheet.paper.margin_mm + 3, 14.0)
    there = [trace for trace, _ in memory().strokes(db(), stroke_index(db(), sheet.id), sheet.paper)]
    line = max(3.5 * hand.x_height_mm, 7.0)
    first = (bounds_mm(there)[3] + 0.8 * line) if there else 2.6 * line
    traces = write_text(body.text, hand, device, body.seed, margin, first, sheet.paper.width_mm - margin - 12, line)
    if bounds_mm(traces)[3] > sheet.paper.height_mm:
        raise InputError(
            "The sheet is full: there is no room for that text below the ink. Put down a new sheet or write less.",
            "text",
        )
    return traces


@operation(sheets, "GET", "/sheets/<sheet_id>/page.png", "image/png", query=PageQuery)
def read_page(sheet_id: str, query: PageQuery) -> Response:
    """Paper and settled ink of a part of the sheet, snapped outward to whole pixels."""
    sheet = get_sheet(db(), sheet_id)
    right, bottom = query.right or sheet.paper.width_mm, query.bottom or sheet.paper.height_mm
    box = (
        max(0.0, query.left),
        max(0.0, query.top),
        min(right, sheet.paper.width_mm),
        min(bottom, sheet.paper.height_mm),
    )
    if box[2] <= box[0] or box[3] <= box[1] or (box[2] - box[0]) * (box[3] - box[1]) * query.scale**2 > MOST_PIXELS:
        raise InputError(f"Ask for a part of the page of at most {MOST_PIXELS // 1_000_000} million pixels.", "scale")
    return png(
        write_png(page_pixels(memory().sheet_inks(db(), sheet_id), sheet.paper, box_view(box, query.scale)), compress=1)
    )


@operation(sheets, "POST", "/sheet-files/<sheet_id>", SheetItem, body="application/inkml+xml")
def bring_in_sheet(sheet_id: str, body: bytes) -> SheetItem:
    """Put down a new sheet with the traces of an InkML file, on the paper and with the pen of the sheet named."""
    like = get_sheet(db(), sheet_id)
    traces = read_inkml(body)
    left, top, _, _ = bounds_mm(traces)
    taken = {s.id for s in list_sheets(db())}
    name = "Brought in"
    sheet = add_sheet(
        db(),
        Sheet(free_id(name, taken), name, "free", like.paper, like.hand_id, like.device_id, like.pen_id, "", False),
    )
    pen = get_pen(db(), like.pen_id)
    fits = left >= 0 and top >= 0
    placed = (
        traces
        if fits
        else [make_trace(t.t_s, t.x_mm - left + 12, t.y_mm - top + 12, t.force, t.altitude, t.azimuth) for t in traces]
    )
    add_strokes(db(), sheet.id, [Stroke(f"{sheet.id}-{k}", pen.id, pen.revision, t) for k, t in enumerate(placed)])
    return sheet_item(sheet, len(traces))
