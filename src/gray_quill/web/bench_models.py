"""Bodies and replies of the pen bench."""

from typing import Annotated, Any, Literal

from pydantic import Field, WithJsonSchema

from gray_quill.core.pen.press import Press
from gray_quill.core.pen.steady import Steady
from gray_quill.core.quantities import record_schema
from gray_quill.web.api import Model
from gray_quill.web.models import Box, Id, RecipeJson, Source

PressJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Press))]
SteadyJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Steady))]


class PenOn(Model):
    """A recipe on some ink."""

    recipe: RecipeJson
    source: Source


class FitBody(Model):
    press: PressJson
    source: Source
    blend: float = Field(0.6, ge=0, le=1)


class FitReply(Model):
    """before, after: how the press record uses the force. cubic: x1, y1, x2, y2 of the two-point form and its largest
    error.
    """

    press: PressJson
    before: dict[str, float]
    after: dict[str, float]
    cubic: dict[str, float]
    samples: int


class KeepFit(Model):
    hand_id: Id
    device_id: Id
    press: PressJson


class KeptFit(Model):
    press: PressJson | None


class TradeBody(Model):
    steady: SteadyJson
    source: Source


class TradePointItem(Model):
    method: str
    amount: float
    parameter: float
    wobble_mm: float
    drag_ms: float


class TradeReply(Model):
    points: list[TradePointItem]
    now: TradePointItem
    methods: dict[str, dict[str, str]]


class SolveBody(TradeBody):
    most_drag_ms: float | None = Field(None, ge=0, le=500)
    most_wobble_mm: float | None = Field(None, ge=0, le=5)


class SolveReply(Model):
    point: TradePointItem | None


class ConvertQuery(Model):
    method: str
    amount: float | None = Field(None, ge=0, le=10)
    parameter: float | None = Field(None, ge=0)


class ConvertReply(Model):
    amount: float
    parameter: float
    unit: str


class SpotBody(PenOn):
    x_mm: float
    y_mm: float


class SpotReply(Model):
    spot: dict[str, float]


class HeatBody(PenOn):
    quantity: Literal["width", "force", "speed"] = "width"
    width_px: int = Field(1200, ge=50, le=4000)
    height_px: int = Field(360, ge=50, le=4000)


class HeatReply(Model):
    image: str
    low: float
    high: float
    unit: str
    colours: list[str]
    box_mm: Box


class JudgeBody(Model):
    recipe: RecipeJson


class Failed(Model):
    words: str
    reading: str
    value: float


class JudgeReply(Model):
    kind: str
    met: bool
    failed: list[Failed]
    nearest: str
    demands: list[str]
    nature: dict[str, float]


class EffectsBody(PenOn):
    group: str


class EffectItem(Model):
    field: str
    share: float
    reason: str


class EffectsReply(Model):
    effects: list[EffectItem]


class AdviceItem(Model):
    title: str
    evidence: str
    doing: str
    recipe: RecipeJson | None
    reading: str
    before: float
    after: float


class AdviceReply(Model):
    advice: list[AdviceItem]


class DifferBody(Model):
    one: RecipeJson
    other: RecipeJson
    source: Source


class Difference(Model):
    reading: str
    one: float
    other: float


class DifferReply(Model):
    differences: list[Difference]


class LadderBody(Model):
    recipe: RecipeJson
    over: Literal["width", "opacity", "range"] = "width"
    paper_colour: str = Field("#ffffff", pattern=r"^#[0-9a-fA-F]{6}$")
    width_px: int = Field(1200, ge=50, le=4000)
    height_px: int = Field(360, ge=50, le=4000)


class LadderReply(Model):
    image: str
    values: list[float]


class ShadingBody(Model):
    """A recipe with the hand, device and paper of a sheet; own_sheet_id: a test sheet whose shading is measured too."""

    recipe: RecipeJson
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


class CrispnessItem(Model):
    dpi: int
    kept: float
    cause: str


class ShadingReply(Model):
    """grades: empty for pens without tooth. grit: of a crisp patch on the device's panel; crispness: what exports keep
    of it.
    """

    patches: list[PatchItem]
    grades: list[GradeItem]
    text: list[TextItem]
    grit: float
    crispness: list[CrispnessItem]
    device: str
