"""What the hand means to do: strokes as paths in mm, before any motion."""

import dataclasses
import math

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.generated.letterforms import BASELINE, FACES
from gray_quill.core.hand.hand import Hand

X_HEIGHT_UNITS = {"script": 9.0, "plain": 14.0}
SPACE_UNITS = {"script": 13.0, "plain": 12.0}
LINE_SPACING = 3.5  # in x-heights
JOIN_UNITS = 2.5  # a letter's end this close to the next one's start is written without lifting
LONGEST_TEXT = 4000


@dataclasses.dataclass(frozen=True, eq=False)
class Intent:
    """One stroke as meant. path: (n, 2) mm. force: None for the hand's own habit, or its values from start to end.

    pace: factor on the hand's speed. lean_deg: altitude instead of the grip's. dwell_s: rest on a dot.
    hold_s: rest at the end of a longer stroke before lifting.
    """

    path: Floats
    force: tuple[float, ...] | None = None
    pace: float = 1.0
    lean_deg: float | None = None
    dwell_s: float = 0.06
    hold_s: float = 0.0


def text_intents(
    text: str,
    hand: Hand,
    left_mm: float,
    baseline_mm: float,
    width_mm: float,
    rng: np.random.Generator,
    line_mm: float | None = None,
) -> list[Intent]:
    """Strokes of ASCII text, wrapped to width_mm; line_mm is the distance of lines (default 3.5 x-heights).

    Raises InputError for characters the letter forms do not have.
    """
    if not 0 < len(text.strip()) or len(text) > LONGEST_TEXT:
        raise InputError(f"Give 1 to {LONGEST_TEXT} characters of text to write.", "text")
    bad = sorted({c for c in text if not (32 <= ord(c) < 127 or c == "\n")})
    if bad:
        raise InputError(f"The hand knows ASCII letters only; leave out {' '.join(bad)!r}.", "text")
    scale = hand.x_height_mm / X_HEIGHT_UNITS[hand.letters]
    slant = math.tan(math.radians(hand.slant_deg))
    phase = rng.uniform(0, 2 * np.pi, 2)
    intents: list[Intent] = []
    y = baseline_mm
    for paragraph in text.split("\n"):
        for line in _wrap(paragraph, hand.letters, width_mm / scale):
            for run in _line_runs(line, hand.letters):
                x_mm = left_mm + run[:, 0] * scale - (run[:, 1] - BASELINE) * scale * slant
                wander = hand.wander_mm * 0.7 * (np.sin(x_mm / 11 + phase[0] + y) + 0.5 * np.sin(x_mm / 4.3 + phase[1]))
                size = 1 + 0.04 * rng.standard_normal()
                y_mm = y + (run[:, 1] - BASELINE) * scale * size + wander
                intents.append(Intent(np.column_stack((x_mm, y_mm))))
            y += line_mm or LINE_SPACING * hand.x_height_mm
    return intents


def _glyph(letters: str, char: str) -> tuple[float, float, list[Floats]]:
    sides, *runs = FACES[letters][char].split("|")
    left, right = (float(v) for v in sides.split(","))
    return left, right, [np.array(run.split(), float).reshape(-1, 2) for run in runs]


def _advance(letters: str, char: str) -> float:
    if char == " ":
        return SPACE_UNITS[letters]
    left, right, _ = _glyph(letters, char)
    return right - left


def _wrap(paragraph: str, letters: str, width: float) -> list[str]:
    lines, line = [], ""
    for word in paragraph.split(" "):
        longer = f"{line} {word}" if line else word
        if line and sum(_advance(letters, c) for c in longer) > width:
            lines.append(line)
            line = word
        else:
            line = longer
    return [*lines, line]


def _line_runs(line: str, letters: str) -> list[Floats]:
    """Strokes of one line in glyph units; a letter whose end meets the next one's start runs on into it."""
    runs: list[Floats] = []
    open_run: Floats | None = None
    marks: list[Floats] = []  # crosses and dots wait until the joined word is written
    x = 0.0
    for char in line:
        if char == " ":
            x += SPACE_UNITS[letters]
        else:
            left, right, strokes = _glyph(letters, char)
            placed = [s + (x - left, 0) for s in strokes]
            x += right - left
            if open_run is not None and np.hypot(*(placed[0][0] - open_run[-1])) <= JOIN_UNITS:
                placed[0] = np.vstack(
                    (open_run, placed[0][1:] if np.hypot(*(placed[0][0] - open_run[-1])) < 0.5 else placed[0])
                )
            elif open_run is not None:
                runs += [open_run, *marks]
                marks = []
            body, rest = _continuous(placed)
            ends_right = letters == "script" and char.isalpha() and abs(body[-1, 0] - x) <= JOIN_UNITS
            if ends_right:
                open_run, marks = body, marks + rest
                continue
            runs += [body, *marks, *rest]
        if char == " " and open_run is not None:
            runs += [open_run, *marks]
        open_run, marks = None, []
    return runs + ([open_run, *marks] if open_run is not None else [])


def _continuous(strokes: list[Floats]) -> tuple[Floats, list[Floats]]:
    """The first stroke with those that start where it ends, and the rest."""
    body = strokes[0]
    rest: list[Floats] = []
    for s in strokes[1:]:
        if not rest and np.hypot(*(s[0] - body[-1])) < 0.5:
            body = np.vstack((body, s[1:]))
        else:
            rest.append(s)
    return body, rest
