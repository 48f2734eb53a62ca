"""What the hand means to do: strokes as paths in mm, before any motion."""

import dataclasses
import math

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.generated.letterforms import BASELINE
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.letters import advance, line_strokes

X_HEIGHT_UNITS = {"script": 9.0, "plain": 14.0}
LINE_SPACING = 3.5  # in x-heights
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
    dwell_s: float = 0.08
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
            for run in line_strokes(line, hand.letters):
                x_mm = left_mm + run[:, 0] * scale - (run[:, 1] - BASELINE) * scale * slant
                wander = hand.wander_mm * 0.7 * (np.sin(x_mm / 11 + phase[0] + y) + 0.5 * np.sin(x_mm / 4.3 + phase[1]))
                size = 1 + 0.04 * rng.standard_normal()
                y_mm = y + (run[:, 1] - BASELINE) * scale * size + wander
                intents.append(Intent(np.column_stack((x_mm, y_mm))))
            y += line_mm or LINE_SPACING * hand.x_height_mm
    return intents


def _wrap(paragraph: str, letters: str, width: float) -> list[str]:
    lines, line = [], ""
    for word in paragraph.split(" "):
        longer = f"{line} {word}" if line else word
        if line and sum(advance(letters, c) for c in longer) > width:
            lines.append(line)
            line = word
        else:
            line = longer
    return [*lines, line]
