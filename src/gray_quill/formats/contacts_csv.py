"""Contact streams as CSV: one report a row, columns as core/palm/contacts.py names them. What a device does not give is
left empty.
"""

import csv
import io
from collections.abc import Sequence

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.palm.contacts import COLUMNS, MOST_EVENTS, PHASES, Event

MOST_BYTES = 20_000_000
NUMBERS = ("t_ms", "x_mm", "y_mm", "width_mm", "height_mm", "force")


def write_contacts(events: Sequence[Event]) -> bytes:
    """The events in their order; sizes of touches and forces of pens only where there are some."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for e in events:
        size = (f"{e.width_mm:.3f}", f"{e.height_mm:.3f}") if e.size_mm else ("", "")
        rows.writerow(
            (
                f"{e.t_ms:.3f}",
                e.pointer,
                e.id,
                e.phase,
                f"{e.x_mm:.4f}",
                f"{e.y_mm:.4f}",
                *size,
                f"{e.force:.5f}" if e.force else "",
            )
        )
    return out.getvalue().encode()


def read_contacts(data: bytes) -> list[Event]:
    """Events of a CSV with these columns in any order; width_mm, height_mm and force may be missing or empty. Raises
    FormatError by row.
    """
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This file is over {MOST_BYTES // 1_000_000} MB. Cut the recording.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FormatError("This is not a CSV file in UTF-8.") from None
    if "\0" in text:
        raise FormatError("This is not a CSV file: it holds zero bytes.")
    rows = csv.DictReader(io.StringIO(text), skipinitialspace=True)
    try:
        names = [n.strip() for n in rows.fieldnames or ()]
        missing = [c for c in COLUMNS[:6] if c not in names]
        if missing:
            raise FormatError(f"The columns {', '.join(missing)} are missing. Give {', '.join(COLUMNS)}.")
        rows.fieldnames = names
        events: list[Event] = []
        for k, row in enumerate(rows, 2):
            if len(events) >= MOST_EVENTS:
                raise TooLarge(f"This file holds over {MOST_EVENTS} events. Cut the recording.")
            events.append(_event(k, row))
        return events
    except csv.Error as error:
        raise FormatError(f"Line {rows.line_num} is not CSV ({error}).") from None


def _event(line: int, row: dict[str, str]) -> Event:
    pointer, phase = (row["pointer"] or "").strip(), (row["phase"] or "").strip()
    if pointer not in PHASES or phase not in PHASES[pointer]:
        raise FormatError(
            f"Line {line}: {pointer or 'nothing'} {phase} is not known. Pointers are {' and '.join(PHASES)}."
        )
    try:
        values = {n: float(row[n]) if n in COLUMNS[:6] else float((row.get(n) or "").strip() or 0) for n in NUMBERS}
        return Event(pointer=pointer, id=int(row["id"]), phase=phase, **values)
    except (TypeError, ValueError):
        raise FormatError(f"Line {line} holds something that is not a number.") from None
