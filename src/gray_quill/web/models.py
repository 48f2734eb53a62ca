"""Bodies and replies of the API. Recipes, hands, devices and papers take their schema from the core's declarations."""

from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, WithJsonSchema

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import recipe_schema
from gray_quill.core.quantities import record_schema
from gray_quill.core.trace import Trace, make_trace
from gray_quill.web.api import Model

MOST_SAMPLES = 50_000

Id = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9-]{0,63}$")]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
_recipe = {k: v for k, v in recipe_schema().items() if k != "$schema"}
RecipeJson = Annotated[dict[str, Any], WithJsonSchema(_recipe)]
HandJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Hand))]
DeviceJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Device))]
PaperJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Paper))]
Column = Annotated[list[float], Field(max_length=MOST_SAMPLES)]
Box = list[float]  # left, top, right, bottom in mm


class Done(Model):
    done: bool = True


class HandItem(Model):
    id: str
    hand: HandJson


class DeviceItem(Model):
    id: str
    device: DeviceJson


class PenItem(Model):
    id: str
    revision: int
    newest: int
    recipe: RecipeJson
    note: str
    created_at: str
    roll_place: int | None
    binned: bool


class SheetItem(Model):
    id: str
    name: str
    kind: Literal["free", "test"]
    paper: PaperJson
    paper_words: str
    hand_id: str
    device_id: str
    pen_id: str
    created_at: str
    prompts: Literal["test", "strip"] | None
    strokes: int


class Swatch(Model):
    """A colour of the writer's own palette."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=30)]
    colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]


class Colours(Model):
    """Colours of ink beside a colour of paper, each "#rrggbb"."""

    paper_colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
    colours: Annotated[list[Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]], Field(max_length=64)]


class ColoursReply(Model):
    """contrasts: WCAG ratio of each colour with the paper, 1..21. rule_colour: the ruling that suits the paper."""

    contrasts: list[float]
    rule_colour: str


class Desk(Model):
    """Everything the frame needs at start."""

    hands: list[HandItem]
    devices: list[DeviceItem]
    pens: list[PenItem]
    sheets: list[SheetItem]
    sheet_id: str | None
    surface: str
    side: str
    palette: list[Swatch]
    stationery: dict[str, dict[str, Any]]
    paper_sizes_mm: dict[str, list[float]]
    paper_colours: dict[str, str]
    recipe_fields: dict[str, list[dict[str, Any]]]
    hand_fields: list[dict[str, Any]]


class DeskChange(Model):
    sheet_id: Id | None = None
    surface: Literal["auto", "paper", "night", "e-ink"] | None = None
    side: Literal["hand", "left", "right"] | None = None
    palette: Annotated[list[Swatch], Field(max_length=24)] | None = None


class Roll(Model):
    pen_ids: list[Id]


class NewHand(Model):
    id: Id
    hand: HandJson


class NewPen(Model):
    id: Id
    recipe: RecipeJson
    note: Annotated[str, StringConstraints(max_length=200)] = ""
    on_roll: bool = True


class NewRevision(Model):
    recipe: RecipeJson
    note: Annotated[str, StringConstraints(max_length=200)] = ""


class PenHistory(Model):
    revisions: list[PenItem]


class BinChange(Model):
    binned: bool


class RecipeBody(Model):
    recipe: RecipeJson
    paper_colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")] = "#ffffff"
    paper: PaperJson | None = None


class GrainReply(Model):
    """own: a grain as `tooth.own` holds it."""

    own: str


class Plan(Model):
    plan: dict[str, Any]


class NewSheet(Model):
    id: Id
    name: Name
    kind: Literal["free", "test", "strip"] = "free"
    paper: PaperJson | Annotated[str, StringConstraints(max_length=80)] = "dotted A5"
    hand_id: Id
    device_id: Id
    pen_id: Id


class SheetChange(Model):
    name: Name | None = None
    paper: PaperJson | Annotated[str, StringConstraints(max_length=80)] | None = None
    hand_id: Id | None = None
    device_id: Id | None = None
    pen_id: Id | None = None
    binned: bool | None = None


class PromptItem(Model):
    name: str
    ask: str
    box_mm: Box


class SheetDetail(Model):
    sheet: SheetItem
    prompts: list[PromptItem]
    stroke_ids: list[str]
    colours: list[str]


class StrokeColumns(Model):
    """One stroke as the browser reported it."""

    t_ms: Column
    x_mm: Column
    y_mm: Column
    force: Column | None = None
    altitude: Column | None = None
    azimuth: Column | None = None

    def trace(self) -> Trace:
        return make_trace([t / 1000 for t in self.t_ms], self.x_mm, self.y_mm, self.force, self.altitude, self.azimuth)


class NewStroke(StrokeColumns):
    id: Id
    pen_id: Id
    revision: int


class NewStrokes(Model):
    strokes: Annotated[list[NewStroke], Field(min_length=1, max_length=500)]


class StrokesKept(Model):
    """kept: ids confirmed; box_mm: the part of the page whose picture changed."""

    kept: list[str]
    new: int
    box_mm: Box


class StrokeIds(Model):
    ids: Annotated[list[Id], Field(min_length=1, max_length=20_000)]
    binned: bool


class WriteText(Model):
    text: Annotated[str, StringConstraints(max_length=4000)] = ""
    prompts: bool = False
    seed: int = Field(1, ge=0, le=2**31)


class PageQuery(Model):
    scale: float = Field(6, gt=0.2, le=60)
    left: float = 0
    top: float = 0
    right: float | None = None
    bottom: float | None = None


class Source(Model):
    """Which ink: the sheet's longest line, all of it, or some strokes."""

    sheet_id: Id
    part: Literal["line", "sheet", "words"] = "line"
    stroke_ids: list[Id] | None = None


class Preview(Model):
    recipe: RecipeJson
    source: Source
    width_px: int = Field(1200, ge=50, le=4000)
    height_px: int = Field(360, ge=50, le=4000)


class PreviewReply(Model):
    """image: a data URL, see-through, of the inked part of the picture, whose corner lies at left_px, top_px; it is
    width_px wide.

    box_mm: the part of the page the whole picture shows; scale: its pixels a millimetre.
    """

    image: str
    left_px: int
    top_px: int
    width_px: int
    height_px: int
    box_mm: Box
    scale: float


class ReadBody(Model):
    recipe: RecipeJson
    source: Source


class ReadReply(Model):
    readings: dict[str, float]
    anchors: dict[str, list[list[float]]]
    strokes: int


class ForceReply(Model):
    """counts: samples in equal bins of force from 0 to 1; absent: channels the device did not give."""

    counts: list[int]
    samples: int
    absent: list[str]


class CurveQuery(Model):
    points: str
    steps: int = Field(101, ge=2, le=1001)


class ProofQuery(Model):
    device_id: Id
    dither: Literal["none", "ordered", "diffuse"] = "none"
    greys: int | None = Field(None, ge=2, le=256)


class ProofReply(Model):
    readings: dict[str, float]
    width_px: int
    height_px: int
    greys: int


class ExportQuery(Model):
    form: Literal["svg", "png", "pdf", "inkml"] = "pdf"
    dpi: float = Field(300, ge=30, le=1200)
    paper: bool = True
