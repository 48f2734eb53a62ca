"""Marginalia: readings put into notes with a title, words, their meaning, and whether they deserve attention.

A new note is one line in NOTES: which readings it speaks of, and how. Which notes a screen shows it says by key.
"""

import dataclasses
from collections.abc import Callable, Mapping

from gray_quill.core.readings.ink_readings import EFFORT, Readings
from gray_quill.core.readings.reading import in_words, percent, readings_of

Words = Mapping[str, str]
DECLARED = readings_of(Readings)


@dataclasses.dataclass(frozen=True)
class Note:
    """One note as a screen shows it; `more` is a smaller second line, empty where there is nothing to add."""

    key: str
    title: str
    words: str
    more: str
    help: str
    attention: bool


@dataclasses.dataclass(frozen=True)
class NoteKind:
    """What a note speaks of: `of`, the readings whose meaning and bounds it shares; say, its words from the readings
    and their values in words; more, its second line.
    """

    title: str
    of: tuple[str, ...]
    say: Callable[[Readings, Words], str]
    more: Callable[[Readings, Words], str] = lambda r, w: ""


def effort_word(drag_ms: float) -> str:
    """Drag as a hand feels it."""
    return [word for low, word in EFFORT if drag_ms >= low][-1]


def _drag(r: Readings, w: Words) -> str:
    if not r.drag_ms:
        return "none, no effort"
    return f"{effort_word(r.drag_ms)}: {w['drag_ms']}, trails {w['effort']} at your speed"


def _wobble(r: Readings, w: Words) -> str:
    if r.wobble_in_mm is None:
        return f"hidden by noise, under {w['wobble_high_mm']}" if r.wobble_high_mm else "cannot be told from this"
    if not r.wobble_in_mm:
        return "none that shows"
    return f"{w['wobble_in_mm']} by hand, {w['wobble_out_mm'] if r.wobble_out_mm else 'none that shows'} in ink"


def _inside(share: float) -> str:
    return f"{percent(share)} inside strokes, {percent(1 - share)} between them"


def _about_wobble(r: Readings, w: Words) -> str:
    if r.wobble_in_mm is None:
        return "" if r.wobble_high_mm else "draw the slow line of the test sheet"
    return f"{_span(w['wobble_low_mm'], w['wobble_high_mm'])}, {w['wobble_hz']}" if r.wobble_in_mm else ""


NOTES: dict[str, NoteKind] = {
    "light and firm": NoteKind(
        "Light and firm",
        ("width_p05_mm", "width_p95_mm"),
        lambda r, w: f"{_span(w['width_p05_mm'], w['width_p95_mm'])}, {w['range_ratio']}",
    ),
    "range": NoteKind("Width in letters", ("range_ratio",), lambda r, w: w["range_ratio"]),
    "widths": NoteKind(
        "Thin and thick",
        ("width_p05_mm", "width_p95_mm"),
        lambda r, w: _span(w["width_p05_mm"], w["width_p95_mm"]),
    ),
    "force": NoteKind(
        "Your force",
        ("force_p05", "force_p95", "floor_share", "ceiling_share"),
        lambda r, w: "not told by this device" if r.force_p05 is None else _span(w["force_p05"], w["force_p95"]),
        lambda r, w: (
            "" if r.floor_share is None else f"{w['floor_share']} at the floor, {w['ceiling_share']} at the ceiling"
        ),
    ),
    "lost force": NoteKind(
        "Force that is lost",
        ("floor_share", "ceiling_share"),
        lambda r, w: (
            "no force was told" if r.floor_share is None else f"{w['floor_share']} low, {w['ceiling_share']} high"
        ),
    ),
    "steps": NoteKind("Widths told apart", ("press_steps",), lambda r, w: w["press_steps"]),
    "tapers": NoteKind(
        "Tapers",
        ("taper_start_mm", "taper_end_mm", "max_taper_slope"),
        lambda r, w: f"{w['taper_start_mm']} and {w['taper_end_mm']}, {w['max_taper_slope']}",
    ),
    "tips": NoteKind(
        "Tips", ("start_tip", "end_tip"), lambda r, w: f"start {w['start_tip'].split()[0]}, end {w['end_tip']}"
    ),
    "drag": NoteKind("Drag", ("drag_ms", "effort"), _drag),
    "wobble": NoteKind("Wobble", ("wobble_in_mm", "wobble_out_mm"), _wobble, _about_wobble),
    "corners": NoteKind(
        "Corners",
        ("corner_loss_mm",),
        lambda r, w: f"{w['corner_loss_mm']} lost" if r.corner_loss_mm else "all kept",
    ),
    "open letters": NoteKind(
        "Open letters",
        ("open_share", "nib_widths"),
        lambda r, w: "too few letters to tell" if r.open_share is None else f"{w['open_share']} stay open",
        lambda r, w: "" if r.open_share is None else f"{w['nib_widths']} nib widths high",
    ),
    "inside": NoteKind(
        "Thick and thin lie",
        ("inside_share",),
        lambda r, w: "nowhere: one width" if r.inside_share is None else _inside(r.inside_share),
    ),
    "reports": NoteKind(
        "Reports",
        ("samples", "report_hz", "gaps"),
        lambda r, w: f"{w['samples']} reports, {w['report_hz']}" + (f", {w['gaps']} gaps" if r.gaps else ""),
    ),
}


def notes_of(readings: Readings) -> list[Note]:
    """Every note of some readings, in the order of NOTES."""
    words = {key: in_words(known, getattr(readings, key)) for key, known in DECLARED.items()}
    return [
        Note(
            key,
            kind.title,
            kind.say(readings, words),
            kind.more(readings, words),
            " ".join(DECLARED[k].help for k in kind.of),
            any(DECLARED[k].calls_for_attention(getattr(readings, k)) for k in kind.of),
        )
        for key, kind in NOTES.items()
    ]


SHOWN_RANGE = 1.25  # thick over thin from which a line is seen to vary; three steps that can be told apart


def plain_words(r: Readings) -> list[str]:
    """What a line shows of the hand and the pen, in whole sentences: for who does not read numbers yet."""
    words = {key: in_words(known, getattr(r, key)) for key, known in DECLARED.items()}
    if r.force_p05 is None:
        force = "This device tells no force, so your line keeps the width the pen gives it."
    else:
        force = f"Your light strokes are {words['force_p05']} of full force, your firm ones {words['force_p95']}: "
        if DECLARED["floor_share"].calls_for_attention(r.floor_share):
            force += f"this pen draws {words['floor_share']} of them all equally thin."
        elif DECLARED["ceiling_share"].calls_for_attention(r.ceiling_share):
            force += f"this pen draws {words['ceiling_share']} of them all equally thick."
        elif r.range_ratio < SHOWN_RANGE:
            force += "this pen draws them alike."
        else:
            force += "this pen shows them."
    trail = {
        "light": "The ink keeps right behind your nib.",
        "easy": f"The ink trails your nib by {words['effort']}, which is hardly felt.",
    }.get(effort_word(r.drag_ms), f"The ink trails your nib by {words['effort']}: calm, but it is felt.")
    return [force, trail]


def _span(low: str, high: str) -> str:
    """Two values of one unit: "0.21 to 0.65 mm"."""
    unit = high.partition(" ")[2]
    return f"{low.removesuffix(f' {unit}')} to {high}" if unit else f"{low} to {high}"
