"""Strokes as CSV: one row a sample, columns named in the first row or by their place.

What each column means, and in which unit, is guessed from its name and shown before anything is taken: stroke, t_ms,
x_mm, y_mm, force (0 to 1), altitude_deg, azimuth_deg are what it is called here.
"""

import csv
import dataclasses
import io
import itertools
from collections.abc import Mapping

import numpy as np

from gray_quill.core.errors import FormatError, GrayQuillError, InputError, TooLarge
from gray_quill.core.trace import Trace, make_trace
from gray_quill.formats.inkml import MM_PER, S_PER

MOST_BYTES, MOST_ROWS, MOST_STROKES, MOST_COLUMNS = 30_000_000, 400_000, 20_000, 40
SHOWN = 5
ROLES = ("stroke", "t", "x", "y", "force", "altitude", "azimuth")
NAMES = {
    "stroke": ("stroke", "stroke_id", "id", "trace", "group"),
    "t": ("t", "time", "timestamp", "ms"),
    "x": ("x", "posx", "px"),
    "y": ("y", "posy", "py"),
    "force": ("force", "pressure", "p", "f"),
    "altitude": ("altitude", "elevation", "oe"),
    "azimuth": ("azimuth", "oa", "twist"),
}
GAP_S = 0.5  # a longer pause of a file without strokes ends one


@dataclasses.dataclass(frozen=True)
class CsvLook:
    """What a file looks like before it is taken: its columns, which of them is what (None for none), units of lengths
    and times, how many rows and strokes, the first rows, and what of it is passed over.
    """

    columns: list[str]
    roles: dict[str, str | None]
    length_unit: str
    time_unit: str
    rows: int
    strokes: int
    first: list[list[str]]
    passed_over: list[str]


def look_at_csv(data: bytes) -> CsvLook:
    """What the columns may mean, by their names. Raises FormatError or TooLarge."""
    head, rows = _rows(data)
    named = {c: c.lower().strip().rsplit("_", 1) for c in head}
    roles: dict[str, str | None] = {}
    units: dict[str, str] = {}
    for role in ROLES:
        column = next((c for c in head if c.lower().strip() in NAMES[role]), None) or next(
            (c for c, parts in named.items() if parts[0] in NAMES[role] and len(parts) > 1), None
        )
        roles[role] = column
        if column and len(named[column]) > 1:
            units[role] = named[column][1]
    if roles["x"] is None and roles["y"] is None and len(head) >= 2 and head[0].startswith("column"):
        roles["x"], roles["y"] = head[:2]
    length = units.get("x", "mm")
    time = units.get("t", "ms")
    others = [c for c in head if c not in roles.values()]
    strokes = len({r[head.index(roles["stroke"])] for r in rows}) if roles["stroke"] else 1
    return CsvLook(
        head,
        roles,
        length if length in MM_PER else "mm",
        time if time in S_PER else "ms",
        len(rows),
        strokes,
        rows[:SHOWN],
        [f"column {c!r}" for c in others],
    )


def read_strokes_csv(data: bytes, roles: Mapping[str, str | None], length_unit: str, time_unit: str) -> list[Trace]:
    """The strokes of a file whose columns mean this. Raises FormatError with the row where a number is missing."""
    head, rows = _rows(data)
    at = {}
    for role, column in roles.items():
        if column and (role not in ROLES or column not in head):
            raise InputError(f"There is no column {column!r} for {role}. Choose one of: {', '.join(head)}.", role)
        if column:
            at[role] = head.index(column)
    if "x" not in at or "y" not in at:
        raise InputError("Say which columns hold x and y.", "x")
    if length_unit not in MM_PER or time_unit not in S_PER:
        raise InputError(f"Lengths are in {', '.join(MM_PER)}, times in {', '.join(S_PER)}.", "length_unit")
    numbers = {role: _numbers(rows, k, head[k]) for role, k in at.items() if role != "stroke"}
    bounds = _bounds(rows, at.get("stroke"), numbers.get("t"), S_PER[time_unit])
    if len(bounds) - 1 > MOST_STROKES:
        raise TooLarge(f"This file has over {MOST_STROKES} strokes. Split it.")
    found = []
    for a, b in itertools.pairwise(bounds):
        part = {role: values[a:b] for role, values in numbers.items()}
        t = (part["t"] - part["t"][0]) * S_PER[time_unit] if "t" in part else np.arange(b - a) / 100
        angles = {n: np.radians(part[n]) for n in ("altitude", "azimuth") if n in part}
        if "azimuth" in angles and "altitude" not in angles:
            angles = {}
        try:
            mm = MM_PER[length_unit]
            found.append(make_trace(t, part["x"] * mm, part["y"] * mm, _force(part.get("force"), numbers), **angles))
        except GrayQuillError as error:
            raise FormatError(f"The stroke from row {a + 2} on: {error.message}") from None
    return found


def read_table(
    data: bytes, roles: Mapping[str, str | None], length_unit: str, time_unit: str
) -> tuple[list[Trace], list[str]]:
    """The strokes, and what of the file is passed over."""
    traces = read_strokes_csv(data, roles, length_unit, time_unit)
    return traces, [f"column {c!r}" for c in _rows(data)[0] if c not in roles.values()]


def _force(force: np.ndarray | None, all_numbers: Mapping[str, np.ndarray]) -> np.ndarray | None:
    """Force in 0..1: as it is, or over the most the file has where that is more than one."""
    return None if force is None else np.asarray(force / max(1.0, float(all_numbers["force"].max())))


def _rows(data: bytes) -> tuple[list[str], list[list[str]]]:
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This file is over {MOST_BYTES // 1_000_000} MB. Split it.")
    if data.count(b"\n") > MOST_ROWS:
        raise TooLarge(f"This file has over {MOST_ROWS} rows. Split it.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FormatError("This is not text in UTF-8. Save the table as CSV, UTF-8.") from None
    try:
        between = max(",;\t", key=text.partition("\n")[0].count)
        rows = [row for row in csv.reader(io.StringIO(text), delimiter=between) if any(cell.strip() for cell in row)]
    except csv.Error:
        raise FormatError("This is not a table. Save it as CSV with a comma between columns.") from None
    if not rows or not 2 <= len(rows[0]) <= MOST_COLUMNS:
        raise FormatError(f"This table has no 2 to {MOST_COLUMNS} columns. Save it as CSV, a row a sample.")
    if not _is_number(rows[0][0]) or not _is_number(rows[0][1]):
        head, rows = [c.strip()[:40] or f"column {k + 1}" for k, c in enumerate(rows[0])], rows[1:]
    else:
        head = [f"column {k + 1}" for k in range(len(rows[0]))]
    if len(set(head)) < len(head):
        raise FormatError("Two columns of this table have one name. Name each once.")
    short = next((k for k, row in enumerate(rows) if len(row) != len(head)), None)
    if short is not None:
        raise FormatError(f"Row {short + 2} of this table has {len(rows[short])} columns, not {len(head)}.")
    if not rows:
        raise FormatError("This table has no rows. Save it again with its samples.")
    return head, rows


def _is_number(cell: str) -> bool:
    try:
        float(cell)
    except ValueError:
        return False
    return True


def _numbers(rows: list[list[str]], k: int, name: str) -> np.ndarray:
    try:
        values = np.array([row[k] for row in rows], dtype=float)
    except ValueError:
        bad = next(n for n, row in enumerate(rows) if not _is_number(row[k]))
        raise FormatError(f"Row {bad + 2}, column {name!r}: {rows[bad][k][:40]!r} is no number.") from None
    if not np.isfinite(values).all():
        raise FormatError(f"Row {int(np.argmin(np.isfinite(values))) + 2}, column {name!r}, holds no finite number.")
    return values


def _bounds(rows: list[list[str]], stroke: int | None, t: np.ndarray | None, s_per: float) -> list[int]:
    """Where strokes begin among the rows, and the end."""
    if stroke is not None:
        changes = [k for k in range(1, len(rows)) if rows[k][stroke] != rows[k - 1][stroke]]
    elif t is not None:
        steps = np.diff(t) * s_per
        changes = (np.flatnonzero((steps > GAP_S) | (steps < 0)) + 1).tolist()
    else:
        changes = []
    return [0, *changes, len(rows)]
