"""How a hand writes a line of letters: which runs of a letter it joins, and how one letter leads to the next.

The letter forms tell where ink lies, not how a hand gets there. Common practice, no source: a hand goes back along its
own line rather than lift, writes a bowl before its stem, and leaves dots and crosses until the word is written.
"""

import functools

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.generated.letterforms import FACES

SPACE_UNITS = {"script": 10.0, "plain": 12.0}
BOWL_FIRST = {"plain": "adgq"}  # letters whose second run, the bowl, a hand writes first
LONGEST_RETRACE = 20.0  # units a hand goes back along its own line rather than lift
STEP_OVER = {"script": 4.2, "plain": 0.6}  # units between two runs of a letter that are joined all the same
LEAD = 3.6  # units between a letter's exit and the start of the next that joined writing bridges
DOT_UNITS = 2.0  # runs no larger are dots
ON_LINE = 0.7  # units within which a point counts as on a line
Run = Floats  # (n, 2), in units of the letter forms, y down


def advance(face: str, char: str) -> float:
    """Width of a character, in units."""
    if char == " ":
        return SPACE_UNITS[face]
    left, right, _ = _glyph(face, char)
    return right - left


def line_strokes(line: str, face: str) -> list[Run]:
    """The strokes of one line in the order a hand writes them, the line starting at x = 0."""
    strokes: list[Run] = []
    word: Run | None = None  # the joined word as far as it is written
    marks: list[Run] = []  # its crosses and dots, which wait
    x = 0.0

    def finish() -> None:
        nonlocal word, marks
        strokes.extend(marks if word is None else [word, *marks])
        word, marks = None, []

    for char in line:
        if char == " ":
            finish()
            x += advance(face, char)
            continue
        left, right, _ = _glyph(face, char)
        body, *rest = (run + (x - left, 0) for run in strokes_of(face, char))
        x += right - left
        led = _led(word, body) if word is not None and char.isalpha() else None
        if led is None:
            finish()
        word = body if led is None else led
        marks += rest
        if face == "plain" or not char.isalpha() or abs(body[-1, 0] - x) > LEAD:
            finish()
    finish()
    return strokes


@functools.cache
def strokes_of(face: str, char: str) -> tuple[Run, ...]:
    """A letter's strokes in the order a hand writes them; in joined writing the first leads on to the next letter."""
    _, right, runs = _glyph(face, char)
    dots = [run for run in runs if float(np.ptp(run, axis=0).max()) <= DOT_UNITS]
    lines = [run for run in runs if float(np.ptp(run, axis=0).max()) > DOT_UNITS]
    if char in BOWL_FIRST.get(face, ""):
        lines.reverse()
    strokes: list[Run] = []
    for run in lines:
        joined = (
            _joined(strokes[-1], run, STEP_OVER[face]) if strokes and not _led_out(strokes[-1], face, right) else None
        )
        if joined is None:
            strokes.append(run)
        else:
            strokes[-1] = joined
    return (*strokes, *dots)


def _led_out(stroke: Run, face: str, right: float) -> bool:
    """Whether a stroke of joined writing has come to where the letter is left; what follows are crosses."""
    return face == "script" and abs(float(stroke[-1, 0]) - right) < 0.5 and float(stroke[-1, 1]) == 4


def _joined(stroke: Run, run: Run, step: float) -> Run | None:
    """Both as one stroke where a hand would not lift between them."""
    gap = np.hypot(*(run[0] - stroke[-1]))
    if gap <= step or (gap <= LONGEST_RETRACE and _retraces(stroke, run)):
        return np.vstack((stroke, run[1:] if gap == 0 else run))
    if len(run) == 2 and np.array_equal(run[-1], stroke[-1]):  # down to a point and up again
        return np.vstack((stroke, run[:1]))
    if np.array_equal(run[-1], stroke[0]):
        return np.vstack((run, stroke[1:]))
    return None


def _retraces(stroke: Run, run: Run) -> bool:
    """Whether the straight way from the end of `stroke` to the start of `run` lies on one of them."""
    way = np.linspace(stroke[-1], run[0], 9)
    return any(bool((_distances(way, line) <= ON_LINE).all()) for line in (stroke, run))


def _led(word: Run, letter: Run) -> Run | None:
    """The word with the next letter, or None where the pen is lifted before it."""
    gap = np.hypot(*(letter[0] - word[-1]))
    if gap <= LEAD:
        low = letter[0, 1] > word[-1, 1] + 1  # the exit rises higher than this letter begins: pass below its top
        return np.vstack((word[:-1] if low else word, letter[1:] if gap < 0.5 else letter))
    early = letter[: max(2, len(letter) // 2)]
    near = np.hypot(*(early - word[-1]).T)
    if near.min() > LEAD:
        return None
    return np.vstack((word, early[int(near.argmin()) : 0 : -1], letter))  # over the bowl to its start, and back


def _distances(points: Floats, line: Run) -> Floats:
    """Distance of each point to the nearest piece of a line."""
    start, along = line[:-1], np.diff(line, axis=0)
    length2 = np.maximum((along**2).sum(axis=1), 1e-12)
    u = np.clip(((points[:, None] - start) * along).sum(axis=2) / length2, 0, 1)
    return np.asarray(np.hypot(*np.moveaxis(points[:, None] - start - u[..., None] * along, 2, 0)).min(axis=1))


@functools.cache
def _glyph(face: str, char: str) -> tuple[float, float, list[Run]]:
    sides, *runs = FACES[face][char].split("|")
    left, right = (float(v) for v in sides.split(","))
    return left, right, [np.array(run.split(), float).reshape(-1, 2) for run in runs]
