"""How a request's JSON becomes the core's own records, one annotated type each, and the small types requests share."""

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field, StringConstraints, ValidationInfo, WithJsonSchema

from gray_quill.core.digitiser.device import ByEye, Device, Panel, Updates
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.area import Fill
from gray_quill.core.ink.cover import Cover
from gray_quill.core.ink.layer import Layer
from gray_quill.core.ink.underlay import Print
from gray_quill.core.latency.figures import Filmed, Live
from gray_quill.core.latency.staircase import Turn
from gray_quill.core.palm.contacts import MOST_EVENTS, Event, Stream, make_stream
from gray_quill.core.palm.posture import Posture
from gray_quill.core.palm.rules import Rules
from gray_quill.core.palm.zone import Zone
from gray_quill.core.panel.proof import Toning
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.pen.steady import Steady
from gray_quill.core.quantities import Quantity, read_record
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.screen.by_eye import Looked
from gray_quill.core.trace import Trace, make_trace
from gray_quill.web.api import RECORD, Model

MOST_SAMPLES = 50_000


def _reader(record: type) -> BeforeValidator:
    """Reads a record with the core's own checks; errors name the field as it was sent."""

    def read(value: Any, info: ValidationInfo) -> Any:
        if value is None or isinstance(value, record):
            return value
        return read_record(record, value, f"{info.field_name}." if info.field_name else "")

    return BeforeValidator(read)


def _named(record: type) -> WithJsonSchema:
    """The record's one schema, which the document holds by its name."""
    return WithJsonSchema({RECORD: record.__name__})


def _either(read: Callable[[Any], Any], record: type) -> BeforeValidator:
    return BeforeValidator(lambda value: value if value is None or isinstance(value, record) else read(value))


def paper_of(given: Any) -> Paper:
    """A paper from a record or from plain words, whose ruling fits on it."""
    paper = paper_from_spec(given) if isinstance(given, str) else read_record(Paper, given, "paper.")
    ruling_marks(paper)
    return paper


RecipeIn = Annotated[Recipe, _either(read_recipe, Recipe), _named(Recipe)]
PaperIn = Annotated[Paper, _either(paper_of, Paper), _named(Paper)]
FillIn = Annotated[Fill, _reader(Fill), _named(Fill)]
CoverIn = Annotated[Cover, _reader(Cover), _named(Cover)]
PrintIn = Annotated[Print, _reader(Print), _named(Print)]
LayerIn = Annotated[Layer, _reader(Layer), _named(Layer)]
HandIn = Annotated[Hand, _reader(Hand), _named(Hand)]
DeviceIn = Annotated[Device, _reader(Device), _named(Device)]
PanelIn = Annotated[Panel, _reader(Panel), _named(Panel)]
UpdatesIn = Annotated[Updates, _reader(Updates), _named(Updates)]
ByEyeIn = Annotated[ByEye, _reader(ByEye), _named(ByEye)]
LookedIn = Annotated[Looked, _reader(Looked), _named(Looked)]
PressIn = Annotated[Press, _reader(Press), _named(Press)]
SteadyIn = Annotated[Steady, _reader(Steady), _named(Steady)]
RulesIn = Annotated[Rules, _reader(Rules), _named(Rules)]
# a type that stands twice in one model loses its name in the document
RulesSeen = Annotated[Any, _reader(Rules), _named(Rules)]
ZoneIn = Annotated[Zone, _reader(Zone), _named(Zone)]
PostureIn = Annotated[Posture, _reader(Posture), _named(Posture)]
LiveIn = Annotated[Live, _reader(Live), _named(Live)]
FilmedIn = Annotated[Filmed, _reader(Filmed), _named(Filmed)]
TurnIn = Annotated[Turn, _reader(Turn), _named(Turn)]
ToningIn = Annotated[Toning, _reader(Toning), _named(Toning)]


def _printable(text: str) -> str:
    if not text.isprintable():
        raise ValueError("has characters that cannot be shown")
    return text


Printable = AfterValidator(_printable)
Id = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9-]{0,63}$")]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), Printable]
Note = Annotated[str, StringConstraints(max_length=200), Printable]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
Pixels = Annotated[int, Field(ge=50, le=4000)]
Box = tuple[float, float, float, float]  # left, top, right, bottom in mm
Column = Annotated[list[float], Field(max_length=MOST_SAMPLES)]
Numbers = Annotated[list[float], Field(max_length=MOST_EVENTS)]
Words = Annotated[list[str], Field(max_length=MOST_EVENTS)]


def bounded(quantity: Quantity) -> Any:
    """A pydantic field with the range and help of a declared quantity, for `x: float = bounded(X)`."""
    return Field(ge=quantity.low, le=quantity.high, description=f"{quantity.help} ({quantity.unit})")


class Done(Model):
    done: bool = True


class BinChange(Model):
    """Into the bin, or back."""

    binned: bool


class HandItem(Model):
    """A kept hand."""

    id: str
    hand: Hand


class DeviceItem(Model):
    """A kept device."""

    id: str
    device: Device


class Source(Model):
    """Which ink: the sheet's longest line, all of it, its longest line of words, or some strokes."""

    sheet_id: Id
    part: Literal["line", "sheet", "words"] = "line"
    stroke_ids: list[Id] | None = None


class PenOn(Model):
    """A recipe on some ink."""

    recipe: RecipeIn
    source: Source


class StrokeColumns(Model):
    """One stroke as the browser reported it. begun_ms: when it began, on a clock shared with the strokes around it."""

    begun_ms: Annotated[float, Field(ge=0, le=1e14)] | None = None
    t_ms: Column
    x_mm: Column
    y_mm: Column
    force: Column | None = None
    altitude: Column | None = None
    azimuth: Column | None = None

    def trace(self) -> Trace:
        begun_s = None if self.begun_ms is None else self.begun_ms / 1000
        times = [t / 1000 for t in self.t_ms]
        return make_trace(times, self.x_mm, self.y_mm, self.force, self.altitude, self.azimuth, begun_s)


class StreamBody(Model):
    """A contact stream, column by column, on a screen of this size; width_mm and height_mm are 0 where the device
    gives none.
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
        columns = [getattr(self, name) for name in type(self).model_fields if name != "screen_mm"]
        if any(len(c) != len(self.t_ms) for c in columns):
            raise InputError("The columns of this stream differ in length. Give each one value an event.", "events")
        return make_stream([Event(*row) for row in zip(*columns, strict=True)], *self.screen_mm)
