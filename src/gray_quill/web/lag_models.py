"""Bodies and replies of the Lag trial."""

from pydantic import Field

from gray_quill.web.api import Model
from gray_quill.web.models import Id, Name, RecipeJson, Source


class LagBody(Model):
    """A pen on a device at a nib speed, and the pens to lay beside it on every device."""

    recipe: RecipeJson
    device_id: Id
    beside: list[RecipeJson] = Field(max_length=12)
    speed_mm_s: float = Field(60, ge=1, le=1000)
    look_ahead_ms: float = Field(0, ge=0, le=100)


class StageItem(Model):
    name: str
    mean_ms: float
    sd_ms: float
    share: float


class BuyItem(Model):
    change: str
    p95_ms: float


class LagItem(Model):
    """As core/lag/trial.py has it."""

    speed_mm_s: float
    mean_ms: float
    sd_ms: float
    p50_ms: float
    p95_ms: float
    first_ink_ms: float
    gap_mm_p50: float
    gap_mm_p95: float
    overshoot_mm: float
    browser_ms: float
    catch_up_ms: float | None
    word: str
    stages: list[StageItem]
    buys: list[BuyItem]


class LagCell(Model):
    """One pen on one device: the 50th and 95th percentile, and what that is called."""

    device_id: str
    pen: str
    p50_ms: float
    p95_ms: float
    word: str


class ThresholdItem(Model):
    from_ms: float
    word: str
    source: str


class LagReply(Model):
    """now: the pen asked for. table: every pen on every device. update_ms: how long the device shows one picture of the ink."""

    now: LagItem
    table: list[LagCell]
    thresholds: list[ThresholdItem]
    update_ms: float


class InspectReply(Model):
    """As core/readings/inspection.py has it."""

    reports: int
    report_hz: float
    clock_jitter: float
    per_frame: float
    gaps: int
    gap_mm: float
    missing: float
    levels: int
    force_low: float
    force_high: float
    onset: float
    rest_noise_mm: float | None
    absent: list[str]
    words: list[str]


class NewDevice(Model):
    """A device of one's own: like a kept one, with the digitiser the source's strokes show."""

    name: Name
    like: Id
    source: Source


class FilmBody(Model):
    recipe: RecipeJson
    device_id: Id
    fps: float = Field(240, ge=60, le=960)
    seed: int = Field(1, ge=0, le=1_000_000)


class FilmQuery(Model):
    fps: float = Field(ge=10, le=10_000)
    mm_per_px: float = Field(gt=0, le=10)


class FilmReading(Model):
    """delay_ms with the half width of its 95 % interval; truth_ms where the film is simulated; frame: one frame as a picture, nib_px and
    front_px where they were found in it."""

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    speed_mm_s: float
    frames_used: int
    truth_ms: float | None
    frame: str
    nib_px: float
    front_px: float
