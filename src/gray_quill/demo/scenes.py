"""The demo's sheets: what each hand writes and draws on them."""

import dataclasses

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.hand.prompts import prompt_intents, prompts_for
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.trace import Trace
from gray_quill.demo import drawing, survey_pdf


@dataclasses.dataclass(frozen=True)
class Scene:
    """A sheet to build: who writes on what, with which pen last, and its strokes with their pens in the
    order written. after: the sheet it is the next page of; document: what is printed on it.
    """

    id: str
    name: str
    kind: str
    paper: Paper
    hand_id: str
    device_id: str
    pen_id: str
    strokes: list[tuple[str, Trace]]
    after: str = ""
    document: bytes = b""


class Desk:
    """One hand at one device, putting down strokes with one pen after another. Seeded."""

    def __init__(self, hand_id: str, device_id: str, seed: int) -> None:
        self.hand: Hand = SHIPPED_HANDS[hand_id]
        self.device: Device = SHIPPED_DEVICES[device_id]
        self.rng = np.random.default_rng(seed)
        self.strokes: list[tuple[str, Trace]] = []

    def draw(self, pen: str, intents: list[Intent], calm: bool = False) -> None:
        hand = (
            dataclasses.replace(
                self.hand, tremor_mm=min(self.hand.tremor_mm, 0.012), speed_mm_s=self.hand.speed_mm_s * 0.8
            )
            if calm
            else self.hand
        )
        self.strokes += [(pen, t) for t in write_intents(intents, hand, self.device, self.rng)]

    def write(
        self, pen: str, text: str, x: float, y: float, width: float = 200, size: float = 1, line: float | None = None
    ) -> None:
        hand = dataclasses.replace(self.hand, x_height_mm=self.hand.x_height_mm * size)
        self.draw(pen, text_intents(text, hand, x, y, width, self.rng, line))


def trap_log() -> Scene:
    """A page of the trap log with a sketch, highlighted where it was counted twice."""
    desk = Desk("right-firm", "tablet-11", 11)
    desk.write("fen-fountain", "Sedge Hollow, trap 3", 15, 26, size=1.3)
    desk.draw("fen-fountain", [drawing.underline(15, 84, 30.5)], calm=True)
    desk.write("fen-fountain", "21:30  12.6 C  wind light, NW", 15, 43, size=0.85)
    desk.write("fen-fountain", "Hawk-moth on the white sheet,", 15, 56, size=0.85)
    desk.write("fen-fountain", "wings folded, three dark bars.", 15, 67, size=0.85)
    desk.write("fen-fountain", "Counted twice.", 15, 78, size=0.85)
    desk.draw("dusk-wash", [Intent(np.array([(14, 76.5), (59, 76.2)]), (0.5, 0.5), 0.8)], calm=True)
    desk.draw("mist-spray", drawing.shadow(64, 133, 30), calm=True)
    desk.draw("lichen-pencil-2h", drawing.moth_shading(64, 124, 36)[:6], calm=True)
    desk.draw("moth-pencil-2b", drawing.moth_shading(64, 124, 36))
    desk.draw("alder-charcoal", drawing.moth_body(64, 124, 36), calm=True)
    desk.draw("fen-fountain", drawing.moth(64, 124, 36), calm=True)
    desk.draw("needle-liner", [drawing.curve([(101, 112), (108, 118), (112, 128)])], calm=True)
    desk.write("reed-ballpoint", "forewing\n31 mm", 106, 134, 40, size=0.7, line=8)
    desk.write("reed-ballpoint", "grey-brown, rough; eyespot pale", 22, 158, size=0.7)
    desk.write("fen-fountain", "22:15  five more, all small", 15, 176, size=0.85)
    desk.draw("fern-wash", [Intent(np.array([(14, 174.5), (34, 174.3)]), (0.5, 0.5), 0.8)], calm=True)
    desk.write("fen-fountain", "23:00  count 14, lamp off", 15, 188, size=0.85)
    return Scene(
        "trap-log",
        "Trap log, first night",
        "free",
        paper_from_spec("dotted A5"),
        "right-firm",
        "tablet-11",
        "fen-fountain",
        desk.strokes,
    )


def timeline() -> Scene:
    """Dusk to dawn as a sketch-note."""
    desk = Desk("left-hooked", "paper-slate-10", 21)
    desk.write("sedge-nib", "Dusk to dawn", 16, 25, size=1.9)
    desk.draw(
        "heron-brush",
        [drawing.curve([(14, 74), (60, 70), (120, 76), (196, 71)], force=(0.25, 0.6, 0.45, 0.2))],
        calm=True,
    )
    stops = [
        (24, "20:40", "lamp on"),
        (66, "21:30", "hawk-moths"),
        (110, "23:00", "rain, sheet in"),
        (154, "01:20", "small ones"),
        (186, "04:10", "birds"),
    ]
    for x, hour, what in stops:
        desk.draw("needle-liner", [drawing.curve([(x, 66), (x, 78)])], calm=True)
        desk.write("fen-fountain", hour, x - 8, 62, size=0.8)
        desk.write("fen-fountain", what, x - 9, 86, 40, size=0.68, line=6.5)
    desk.draw("survey-marker", drawing.sun(24, 47, 5), calm=True)
    desk.draw("reed-ballpoint", drawing.moon(110, 44, 6), calm=True)
    desk.draw("moth-pencil-2b", drawing.moth_shading(67, 42, 11))
    desk.draw("needle-liner", drawing.moth(67, 42, 11), calm=True)
    desk.draw("hollow-reed", [drawing.box(18, 104, 92, 132)], calm=True)
    desk.write("fen-fountain", "Best hour: half past nine.\nCalm, warm, no moon.", 23, 115, 70, size=0.76, line=10)
    desk.draw("dusk-wash", [Intent(np.array([(22, 113.5), (44, 113.3)]), (0.5, 0.5), 0.8)], calm=True)
    desk.draw("stitch-reed", drawing.arrow([(94, 112), (112, 102), (118, 96)])[:1], calm=True)
    desk.write("sedge-nib", "14 moths", 118, 116, size=1.9)
    desk.write("fen-fountain", "of six kinds, two unnamed", 119, 128, size=0.7)
    desk.draw("heron-brush", drawing.reeds(182, 140, (15, 20, 13, 18, 11)), calm=True)
    return Scene(
        "dusk-to-dawn",
        "Dusk to dawn",
        "free",
        paper_from_spec("dotted A5 landscape"),
        "left-hooked",
        "paper-slate-10",
        "fen-fountain",
        desk.strokes,
    )


def survey_sheet() -> Scene:
    """The survey sheet filled in line by line and marked up: each washed passage has its note in the same wash."""
    desk = Desk("left-steep", "convertible-13", 31)
    rows = [
        "trap 1   20:50   14.1 C   3",
        "trap 2   21:10   13.4 C   6",
        "trap 3   21:30   12.6 C   14",
        "trap 4   21:55   12.2 C   9",
        "trap 5   22:20   11.8 C   2",
        "trap 6   22:40   11.5 C   11",
    ]
    desk.write("fen-fountain", "Count by trap", 16, 24.3, size=1.5)
    for k, row in enumerate(rows):
        desk.write("reed-ballpoint", row, 16, 38.2 + 14 * k, size=1.05)
    desk.draw("fern-wash", [drawing.band(15, 90, 65), drawing.band(93, 119, 65.2)], calm=True)
    desk.draw("pool-wash", [drawing.band(15, 82, 93), drawing.band(15, 31, 135)], calm=True)
    desk.draw("mallow-wash", [drawing.band(15, 84, 107), drawing.band(86, 112, 108)], calm=True)
    desk.draw("survey-marker", [drawing.circle(80.5, 64.8, 6.2), drawing.underline(16, 88, 97.6)], calm=True)
    desk.write("survey-marker", "recount!", 94, 66.2, size=1.3)
    desk.write("fen-fountain", "a late rise", 88, 109.2, size=0.9)
    desk.write(
        "fen-fountain",
        "Trap 5 stood in the wind; move it behind the sallows next time.",
        16,
        136.2,
        112,
        size=0.95,
        line=14,
    )
    desk.draw("stitch-reed", [drawing.curve([(94, 95), (112, 104), (112, 118), (96, 126)])], calm=True)
    return Scene(
        "count-by-trap",
        "Count by trap",
        "free",
        paper_from_spec("ruled 7mm A5"),
        "left-steep",
        "convertible-13",
        "reed-ballpoint",
        desk.strokes,
    )


def typed_survey() -> Scene:
    """The typed survey sheet marked up: what it says is washed, and what it does not say is written beside it."""
    desk = Desk("left-steep", "convertible-13", 33)
    desk.draw("fern-wash", [drawing.band(14, 102, survey_pdf.row_y_mm(2) - 1.3)], calm=True)
    desk.draw("pool-wash", [drawing.band(14, 100, survey_pdf.row_y_mm(4) - 1.3)], calm=True)
    desk.draw("survey-marker", [drawing.circle(94.5, survey_pdf.row_y_mm(2) - 1.4, 5)], calm=True)
    desk.write("survey-marker", "recount", 108, survey_pdf.row_y_mm(2), 40, size=0.85)
    desk.write("reed-ballpoint", "windy", 108, survey_pdf.row_y_mm(4), 40, size=0.85)
    low = survey_pdf.row_y_mm(len(survey_pdf.ROWS)) + 12
    desk.draw("dusk-wash", [drawing.band(14, 76, low + 12.8)], calm=True)
    desk.draw("reed-ballpoint", [drawing.underline(15, 58, low + 8.2)], calm=True)
    desk.write("reed-ballpoint", "here it rained at 23:00", 16, low + 32, size=1.0)
    return Scene(
        "count-by-trap-typed",
        "Count by trap",
        "free",
        paper_from_spec("blank A5 white"),
        "left-steep",
        "convertible-13",
        "reed-ballpoint",
        desk.strokes,
        "count-by-trap",
        survey_pdf.survey_pdf(),
    )


def test_sheet() -> Scene:
    """The prompts, done by the firm right hand."""
    desk, paper = Desk("right-firm", "tablet-11", 41), paper_from_spec("dotted A5")
    for prompt in prompts_for(paper):
        desk.draw(
            "moth-pencil-2b" if prompt.name == "shading" else "fen-fountain",
            prompt_intents(prompt, desk.hand, desk.rng),
        )
    return Scene("test-sheet", "Test sheet", "test", paper, "right-firm", "tablet-11", "fen-fountain", desk.strokes)


def first_count() -> Scene:
    """What a slow and shaky hand counted, with a line drawn under it."""
    desk = Desk("right-shaky", "tablet-11", 51)
    desk.write("moth-pencil-2b", "Nine moths", 20, 30, size=1.2)
    desk.draw("moth-pencil-2b", [Intent(np.array([(20.0, 36.0), (92, 36)]), None, 0.45)])
    desk.write("reed-ballpoint", "two big ones\nand 7 small", 20, 56, size=0.9)
    return Scene(
        "first-count",
        "First count",
        "free",
        paper_from_spec("ruled 7mm A5"),
        "right-shaky",
        "tablet-11",
        "reed-ballpoint",
        desk.strokes,
    )


def scenes() -> list[Scene]:
    """All sheets of the demo, the one to open first last."""
    return [test_sheet(), first_count(), survey_sheet(), typed_survey(), timeline(), trap_log()]
