"""Bodies and replies of the Lag trial."""

from typing import Annotated

from pydantic import Field

from gray_quill.web.api import Model
from gray_quill.web.models import Id, Name, RecipeJson, Source, StrokeColumns

Ms = Annotated[float, Field(ge=0, le=100_000)]
Speed = Annotated[float, Field(ge=1, le=1000)]


class LiveBody(Model):
    """What a browser timed, as core/lag/figures.py has it."""

    events: int = Field(ge=1, le=1_000_000)
    handler_p50_ms: Ms
    handler_p95_ms: Ms
    frame_p50_ms: Ms
    frame_p95_ms: Ms
    dropped: int = Field(ge=0, le=1_000_000)
    long_tasks: int = Field(ge=0, le=1_000_000)
    control_ms: Ms | None = None
    raw_p50_ms: Ms | None = None


class FilmedBody(Model):
    delay_ms: Ms
    ci95_ms: Ms


class LagBody(Model):
    """A pen on a device at a nib speed, the pens to lay beside it on every device, and what was measured and filmed of
    it.
    """

    recipe: RecipeJson
    device_id: Id
    beside: list[RecipeJson] = Field(max_length=12)
    speed_mm_s: Speed = 60
    look_ahead_ms: float = Field(0, ge=0, le=100)
    live: LiveBody | None = None
    filmed: FilmedBody | None = None


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


class FigureItem(Model):
    """As core/lag/figures.py has it."""

    name: str
    ms: float
    plus_minus_ms: float | None
    covers: str
    words: str


class SpeedItem(Model):
    """A nib speed with its delay, its gap and what is missed at it, as core/lag/missed.py has it."""

    speed_mm_s: float
    p50_ms: float
    gap_mm_p50: float
    gap_mm_p95: float
    bridged: int
    bridged_mm: float
    detail_mm: float
    start_mm: float
    strokes_lost: int
    strokes: int
    stall_share: float
    stall_ms: float


class LagReply(Model):
    """now: the pen asked for. table: every pen on every device. speeds: this pen and device, the speed asked for first.
    figures: stated, modelled, live, filmed. update_ms: how long the device shows one picture of the ink.
    """

    now: LagItem
    table: list[LagCell]
    speeds: list[SpeedItem]
    figures: list[FigureItem]
    thresholds: list[ThresholdItem]
    update_ms: float


class NewRun(Model):
    """A run to keep: which pen on which device for whose hand, and what was measured and filmed."""

    pen_id: Id
    revision: int = Field(ge=1)
    hand_id: Id
    device_id: Id
    speed_mm_s: Speed = 60
    look_ahead_ms: float = Field(0, ge=0, le=100)
    live: LiveBody | None = None
    filmed: FilmedBody | None = None


class RunItem(Model):
    """A kept run: its inputs, its results and its verdict."""

    id: str
    pen: str
    device: str
    hand: str
    created_at: str
    verdict: str
    look_ahead_ms: float
    now: LagItem
    live: LiveBody | None
    filmed: FilmedBody | None
    figures: list[FigureItem]


class RunList(Model):
    runs: list[RunItem]


class RunBin(Model):
    binned: bool


class Setting(Model):
    """A kept run, or a pen on a device as they are set now."""

    run_id: Id | None = None
    recipe: RecipeJson | None = None
    device_id: Id | None = None


class SwapBody(Model):
    one: Setting
    other: Setting
    speed_mm_s: Speed = 60


class SwapItem(Model):
    factor: str
    p50_ms: float
    p95_ms: float


class SwapReply(Model):
    swaps: list[SwapItem]


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
    hover: bool | None
    contact_size: bool | None
    absent: list[str]
    words: list[str]


class Seen(Model):
    """What was written on the device itself, and what the browser told of it beside positions."""

    strokes: list[StrokeColumns] = Field(min_length=1, max_length=400)
    hover: bool | None = None
    contact_size: bool | None = None
    frame_hz: float = Field(60, ge=1, le=1000)


class InspectBody(Model):
    """Strokes of a sheet, a line the stand-in of a device writes, or strokes just written here."""

    source: Source | None = None
    stand_in: Id | None = None
    seen: Seen | None = None


class NewDevice(Model):
    """A device of one's own: like a kept one, with the digitiser these strokes show, and what its data sheet states."""

    name: Name
    like: Id
    ink: InspectBody
    stated_ms: float = Field(0, ge=0, le=1000)


class FilmBody(Model):
    recipe: RecipeJson
    device_id: Id
    fps: float = Field(240, ge=60, le=960)
    seed: int = Field(1, ge=0, le=1_000_000)


class FilmQuery(Model):
    fps: float = Field(ge=10, le=10_000)
    mm_per_px: float = Field(gt=0, le=10)


class FilmReading(Model):
    """delay_ms with the half width of its 95 % interval; truth_ms where the film is simulated; nib_px and front_px:
    where they were found in frame number `frame`.
    """

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    speed_mm_s: float
    frames_used: int
    truth_ms: float | None
    frame: int
    nib_px: float
    front_px: float


class FilmFrames(Model):
    """A film held for stepping: how many frames, their size, the camera, and how many of them must be marked."""

    frames: int
    width_px: int
    height_px: int
    fps: float
    mm_per_px: float
    least_marked: int


class MarkItem(Model):
    """Nib and ink end in one frame, (x, y) in pixels."""

    frame: int = Field(ge=0, le=100_000)
    nib_px: tuple[float, float]
    front_px: tuple[float, float]


class MarksBody(Model):
    fps: float = Field(ge=10, le=10_000)
    mm_per_px: float = Field(gt=0, le=10)
    marks: list[MarkItem] = Field(max_length=500)


class MarkedReply(Model):
    """As core/lag/film_marks.py has it."""

    delay_ms: float
    ci95_ms: float
    gap_mm: float
    frames_used: int
    speed_mm_s: float
