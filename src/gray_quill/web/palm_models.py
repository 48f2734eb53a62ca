"""Bodies and replies of the Palm trial."""

from typing import Annotated, Any, Literal

from pydantic import Field, WithJsonSchema

from gray_quill.core.errors import InputError
from gray_quill.core.palm.contacts import MOST_EVENTS, Event, Stream, make_stream
from gray_quill.core.palm.rules import Rules
from gray_quill.core.quantities import record_schema
from gray_quill.web.api import Model
from gray_quill.web.models import Id

RulesJson = Annotated[dict[str, Any], WithJsonSchema(record_schema(Rules))]
Numbers = Annotated[list[float], Field(max_length=MOST_EVENTS)]
Words = Annotated[list[str], Field(max_length=MOST_EVENTS)]
Side = Literal["left", "right"]
Rest = Literal["below", "side", "above"]


class StreamBody(Model):
    """A contact stream, column by column, on a screen of this size; width_mm and height_mm are 0 where the device gives
    none.
    """

    screen_mm: tuple[float, float]
    t_ms: Numbers
    pointer: Words
    id: Annotated[list[int], Field(max_length=MOST_EVENTS)]
    phase: Words
    x_mm: Numbers
    y_mm: Numbers
    width_mm: Numbers
    height_mm: Numbers
    force: Numbers

    def stream(self) -> Stream:
        columns = (
            self.t_ms,
            self.pointer,
            self.id,
            self.phase,
            self.x_mm,
            self.y_mm,
            self.width_mm,
            self.height_mm,
            self.force,
        )
        count = len(self.t_ms)
        if any(len(c) != count for c in columns):
            raise InputError(
                "The columns of this stream differ in length. Give every column one value an event.", "events"
            )
        return make_stream([Event(*row) for row in zip(*columns, strict=True)], *self.screen_mm)


class OwnPart(Model):
    """What a real hand did for one drill."""

    drill: Annotated[str, Field(max_length=40)]
    stream: StreamBody


class ZoneItem(Model):
    """The resting place as an ellipse: its middle from the nib and its half axes, mm."""

    dx_mm: float = Field(ge=-400, le=400)
    dy_mm: float = Field(ge=-400, le=400)
    rx_mm: float = Field(gt=0, le=400)
    ry_mm: float = Field(gt=0, le=400)


class PostureItem(Model):
    side: Side
    rest: Rest
    zone: ZoneItem
    azimuth_deg: float | None
    from_tilt: bool
    contacts: int = Field(ge=0)
    words: str


class DrillItem(Model):
    name: str
    ask: str
    meant: str
    asks: int


class PalmGrade(Model):
    word: str
    attention: bool
    slips_a_minute: float | None
    refused_share: float
    delay_ms: float | None


class PalmInfo(Model):
    """The drills, the rules as fields for controls, and the table of grades (None: no bound)."""

    drills: list[DrillItem]
    fields: list[dict[str, Any]]
    off: RulesJson
    grades: list[PalmGrade]


class PalmLimits(Model):
    """What the rules' engine takes for granted: when a touch has moved, how much farther it must stray at rest, how
    long a tap lasts.
    """

    slop_mm: float
    at_rest: float
    tap_ms: float


class PalmSetting(Model):
    """Rules and posture of a hand on a device, and the engine's limits; kept is false where they are only what the
    hand's record says.
    """

    rules: RulesJson
    zone: ZoneItem
    posture: PostureItem | None
    limits: PalmLimits
    kept: bool


class NewSetting(Model):
    hand_id: Id
    device_id: Id
    rules: RulesJson
    posture: PostureItem | None = None


class RunBody(Model):
    """Drills of the simulated hand by name and seed, or what a real hand did; judged with these rules. zone: None for
    the pair's own.
    """

    hand_id: Id
    device_id: Id
    rules: RulesJson
    zone: ZoneItem | None = None
    drills: list[Annotated[str, Field(max_length=40)]] = Field(default=[], max_length=20)
    seed: int = Field(1, ge=0, le=1_000_000)
    own: list[OwnPart] = Field(default=[], max_length=20)


class ContactItem(Model):
    """One contact: palm by the truth, what became of it and why; path: rows (t_ms, x, y, width, height)."""

    id: int
    palm: bool
    decision: str
    rule: str
    at_ms: float
    born_ms: float
    end_ms: float
    why: str
    path: list[list[float]]
    mark: list[float]


class OutcomeItem(Model):
    """As core/palm/outcome.py has it; noticed: the readings that are wrong to the eye."""

    stray_marks: int
    page_shift_mm: float
    jiggle_mm: float
    zoom_pct: float
    taps: int
    lost_ink_mm: float
    gestures: int
    refused_gestures: int
    added_delay_ms: float
    confusion: dict[str, int] | None
    noticed: list[str]


class PartItem(Model):
    """One drill: its contacts, the nib's way (t_ms, x, y, 1 in contact), how the page lay (t_ms, scale, x, y), and what
    came of it.
    """

    drill: str
    lasts_ms: float
    contacts: list[ContactItem]
    nib: list[list[float]]
    views: list[list[float]]
    outcome: OutcomeItem


class PalmReply(Model):
    """screen_mm; each drill; all together; the grade; and whose fault what is left is."""

    screen_mm: list[float]
    zone: ZoneItem
    parts: list[PartItem]
    total: OutcomeItem
    grade: PalmGrade
    fault: str


class PostureBody(Model):
    """A line written with the hand down, by a real hand (stream, with the tilt's azimuths) or the simulated one;
    corrected in words where given.
    """

    stream: StreamBody | None = None
    azimuths_deg: list[float] = Field(default=[], max_length=50_000)
    hand_id: Id | None = None
    device_id: Id | None = None
    seed: int = Field(1, ge=0, le=1_000_000)
    side: Side | None = None
    rest: Rest | None = None


class SweepBody(Model):
    """Whose drills are searched: the simulated hand's, or those a real hand did."""

    hand_id: Id
    device_id: Id
    zone: ZoneItem | None = None
    own: list[OwnPart] = Field(default=[], max_length=40)


class CurveItem(Model):
    rule: str
    points: list[list[float]]
    area: float | None


class PointItem(Model):
    rule: str
    value: float
    palms_kept: float
    gestures_refused: float
    delay_ms: float


class ReasonItem(Model):
    rule: str
    value: float
    words: str


class SweepReply(Model):
    """As core/palm/recommend.py has it."""

    rules: RulesJson
    reasons: list[ReasonItem]
    expected: OutcomeItem
    without: OutcomeItem
    curves: list[CurveItem]
    points: list[PointItem]


class PalmRun(Model):
    """A kept run: for whom, with which rules, and what came of it."""

    id: str
    hand: str
    device: str
    created_at: str
    own: bool
    rules: RulesJson
    total: OutcomeItem
    grade: str


class PalmRuns(Model):
    runs: list[PalmRun]


class PairQuery(Model):
    hand_id: Id
    device_id: Id


class ContactsQuery(Model):
    hand_id: Id
    device_id: Id
    drill: Annotated[str, Field(max_length=40)]
    seed: int = Field(1, ge=0, le=1_000_000)


class ScreenQuery(Model):
    width_mm: float = Field(ge=20, le=2000)
    height_mm: float = Field(ge=20, le=2000)
