"""Everything that is declared, in one place for the API, the docs and the command line."""

from gray_quill.core.advice.diagnosis import ADVICE_READINGS
from gray_quill.core.advice.on_panel import FRAME_READINGS
from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.highlighter.grid import Cell
from gray_quill.core.ink.cover import Cover
from gray_quill.core.ink.underlay import Print
from gray_quill.core.latency.ahead import Ahead
from gray_quill.core.latency.figures import Filmed, Live
from gray_quill.core.latency.missed import AtSpeed
from gray_quill.core.latency.staircase import Turn
from gray_quill.core.latency.trial import Lag
from gray_quill.core.palm.outcome import Outcome
from gray_quill.core.palm.posture import Posture
from gray_quill.core.palm.rules import Rules
from gray_quill.core.palm.zone import Zone
from gray_quill.core.panel.proof import Toning
from gray_quill.core.paper import Paper
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import Steady
from gray_quill.core.readings.calmer import Calmer
from gray_quill.core.readings.exported import Exported
from gray_quill.core.readings.in_time import InTimeReadings
from gray_quill.core.readings.ink_readings import Readings
from gray_quill.core.readings.on_panel import PenOnPanel
from gray_quill.core.readings.on_paper import OnPaper
from gray_quill.core.readings.on_print import OnPrint
from gray_quill.core.readings.panel_readings import PanelReadings
from gray_quill.core.readings.press_use import PressUse
from gray_quill.core.readings.reading import Reading, readings_of
from gray_quill.core.screen.aim import Aim
from gray_quill.core.screen.by_eye import Looked
from gray_quill.core.screen.straightness import Straightness

# What users give: checked field by field against its declared quantities.
RECORDS: tuple[type, ...] = (
    Recipe,
    Press,
    Steady,
    Hand,
    Device,
    Paper,
    Rules,
    Zone,
    Posture,
    Live,
    Filmed,
    Turn,
    Toning,
    Looked,
    Print,
    Cover,
)

# What is measured, by where it is read.
READINGS: dict[str, dict[str, Reading]] = {
    "ink": readings_of(Readings),
    "press": readings_of(PressUse),
    "advice": ADVICE_READINGS,
    "panel": readings_of(PanelReadings),
    "pen on panel": readings_of(PenOnPanel),
    "on paper": readings_of(OnPaper),
    "on print": readings_of(OnPrint),
    "strip": readings_of(Calmer),
    "frame": FRAME_READINGS,
    "exported": readings_of(Exported),
    "in time": readings_of(InTimeReadings),
    "lag": readings_of(Lag),
    "ahead": readings_of(Ahead),
    "aim": readings_of(Aim),
    "straightness": readings_of(Straightness),
    "speeds": readings_of(AtSpeed),
    "palm": readings_of(Outcome),
    "wash": readings_of(Cell),
}
