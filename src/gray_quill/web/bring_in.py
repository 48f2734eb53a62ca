"""Files that become sheets: SVG and tables as strokes, layered pictures as pictures under the ink."""

from collections.abc import Sequence

from flask import Blueprint
from pydantic import Field

from gray_quill.core.ink.cost import check_cost
from gray_quill.core.ink.underlay import Print
from gray_quill.core.paper import LARGEST_MM, SMALLEST_MM
from gray_quill.core.trace import Trace, moved
from gray_quill.formats.openraster_in import Layered
from gray_quill.formats.pictures import key_of
from gray_quill.formats.strokes_csv import CsvLook
from gray_quill.formats.svg_in import CameAs
from gray_quill.store.database import transaction
from gray_quill.store.originals import Original, add_original, set_prints
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import Sheet, add_sheet, get_sheet
from gray_quill.store.strokes import Stroke, add_strokes
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, read_outside
from gray_quill.web.inkml_sheet import onto_page
from gray_quill.web.replies import new_id
from gray_quill.web.time_budget import in_time
from gray_quill.web.underlay import paper_of_size, shown_name

bring_in = Blueprint("bring_in", __name__)


class FileNamed(Model):
    name: str = Field("Brought in", min_length=1, max_length=80)


class CsvMeaning(FileNamed):
    """Which column is what, "" for none, and units of lengths and times."""

    x: str
    y: str
    stroke: str = ""
    t: str = ""
    force: str = ""
    altitude: str = ""
    azimuth: str = ""
    length_unit: str = "mm"
    time_unit: str = "ms"


class SheetCame(Model):
    """passed_over: what of the file was not understood, in words."""

    sheet: Sheet
    passed_over: list[str]


@operation(
    bring_in,
    "POST",
    "/sheets/<sheet_id>/svg",
    SheetCame,
    body="image/svg+xml",
    query=FileNamed,
    status=201,
    reads_file=True,
)
def bring_in_svg(sheet_id: str, body: bytes, query: FileNamed) -> SheetCame:
    """Put down a new sheet with the lines of an SVG as strokes of constant force."""
    came: CameAs = read_outside("svg", body)
    return SheetCame(sheet=_written(sheet_id, query.name, came.traces), passed_over=came.passed_over)


@operation(bring_in, "POST", "/csv/look", CsvLook, body="text/csv", reads_file=True)
def look_at_table(body: bytes) -> CsvLook:
    """What the columns of a table of strokes may mean; nothing is taken yet."""
    return read_outside("table look", body)  # type: ignore[no-any-return]


@operation(
    bring_in,
    "POST",
    "/sheets/<sheet_id>/csv",
    SheetCame,
    body="text/csv",
    query=CsvMeaning,
    status=201,
    reads_file=True,
)
def bring_in_csv(sheet_id: str, body: bytes, query: CsvMeaning) -> SheetCame:
    """Put down a new sheet with the strokes of a table whose columns mean this."""
    meaning = query.model_dump(exclude={"name", "length_unit", "time_unit"})
    roles = {role: column or None for role, column in meaning.items()}
    units = {"length_unit": query.length_unit, "time_unit": query.time_unit}
    traces, passed_over = read_outside("table", body, roles=roles, **units)
    return SheetCame(sheet=_written(sheet_id, query.name, traces), passed_over=passed_over)


@operation(
    bring_in,
    "POST",
    "/sheets/<sheet_id>/openraster",
    SheetCame,
    body="image/openraster",
    query=FileNamed,
    status=201,
    reads_file=True,
)
def bring_in_openraster(sheet_id: str, body: bytes, query: FileNamed) -> SheetCame:
    """Put down a new sheet of an OpenRaster picture's size, its layers as pictures under the ink."""
    like = get_sheet(db(), sheet_id)
    layered: Layered = read_outside("openraster", body)
    mm = 25.4 / layered.dpi
    mm *= min(1.0, LARGEST_MM / (max(layered.width_px, layered.height_px) * mm))
    paper = paper_of_size((max(SMALLEST_MM, layered.width_px * mm), max(SMALLEST_MM, layered.height_px * mm)))
    name = shown_name(query.name)
    with transaction(db()):
        made = Sheet(new_id(name), name, "free", paper, like.hand_id, like.device_id, like.pen_id, "", False)
        add_sheet(db(), made)
        prints = []
        for k, layer in enumerate(layered.layers):
            original = Original(key_of(layer.png), layer.seen.kind, shown_name(layer.name), layer.seen.sizes_mm)
            add_original(db(), original, layer.png)
            prints.append(_laid(layered, k, original, mm))
        set_prints(db(), made.id, prints)
    return SheetCame(sheet=get_sheet(db(), made.id), passed_over=layered.passed_over)


def _laid(layered: Layered, k: int, original: Original, mm: float) -> Print:
    layer = layered.layers[k]
    return Print(
        f"layer-{k}",
        original.id,
        1,
        layer.left_px * mm,
        layer.top_px * mm,
        max(2.0, layer.seen.width_px * mm),
        max(2.0, layer.seen.height_px * mm),
        dim=1 - layer.opacity,
    )


def _written(like_id: str, name: str, traces: Sequence[Trace]) -> Sheet:
    """A new sheet with these traces, on the paper and with the pen of another."""
    like = get_sheet(db(), like_id)
    pen = get_pen(db(), like.pen_id)
    for trace in traces:
        check_cost(trace, pen.recipe)
        in_time()
    shift = onto_page(traces)
    placed = [moved(t, *shift) for t in traces]
    called = shown_name(name)
    made = Sheet(new_id(called), called, "free", like.paper, like.hand_id, like.device_id, like.pen_id, "", False)
    with transaction(db()):
        add_sheet(db(), made)
        add_strokes(db(), made.id, [Stroke(f"{made.id}-{k}", pen.id, pen.revision, t) for k, t in enumerate(placed)])
    return get_sheet(db(), made.id)
