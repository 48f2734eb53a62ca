"""Writes docs/pen-fields.md and docs/palm-rules.md from the declarations in the core. Run as `.venv/bin/python
tools/make_fields_doc.py`.
"""

import pathlib
from typing import Any

from gray_quill.core.palm.contacts import COLUMNS, PHASES
from gray_quill.core.palm.drills import DRILLS
from gray_quill.core.palm.outcome import GRADES
from gray_quill.core.palm.rules import Rules
from gray_quill.core.pen.recipe import FORMAT, recipe_fields
from gray_quill.core.quantities import describe_record

DOCS = pathlib.Path(__file__).parents[1] / "docs"


def fields_doc() -> str:
    """The table as Markdown."""
    lines = [
        f"# Fields of a pen (`{FORMAT}`)",
        "",
        "Made by `tools/make_fields_doc.py` from the declarations in `core/pen/`. Missing fields take their defaults.",
        "",
    ]
    for group, rows in recipe_fields().items():
        lines += [f"## {group}", "", *_table(rows), ""]
    return "\n".join(lines)


def palm_doc() -> str:
    """Rules, drills, grades and the columns of a contact stream, as Markdown."""
    lines = [
        "# Palms: contact streams, rules, drills, grades",
        "",
        "Made by `tools/make_fields_doc.py` from the declarations in `core/palm/`.",
        "",
        "## Columns of a contact stream (CSV)",
        "",
        f"`{', '.join(COLUMNS)}`",
        "",
        "Times in ms from the first event on, places in mm of the screen from its upper left, sizes of a "
        "contact along the screen's axes,",
        "force from 0 to 1. Sizes and force are empty where the device gives none. Rows go in the order of "
        "their times.",
        "",
        *(f"- `{pointer}`: {', '.join(phases)}" for pointer, phases in PHASES.items()),
        "",
        "Beside a simulated stream lies its truth as JSON: `screen_mm`, `contacts` (palm or finger by id) and "
        "`gestures` (kind and ids).",
        "",
        "## Rules (JSON, all off at their defaults)",
        "",
        *_table(describe_record(Rules)),
        "",
        "Rules are asked in this order: nib near, contact size, resting zone, edge, crowd; *nib arrived* when "
        "the nib is first seen,",
        "*lies still* when a contact is old enough. The first that fires refuses. Nib ink always passes.",
        "",
        "## Drills",
        "",
        "| drill | what to do | meant |",
        "|---|---|---|",
        *(f"| {d.name} | {d.ask} | {d.meant or 'nothing: every touch is a palm'} |" for d in DRILLS.values()),
        "",
        "## Grades",
        "",
        "The best one whose bounds all drills together still meet; common practice, no source.",
        "",
        "| called | slips a minute (marks, taps, page shifts, lost ink) | gestures refused | delay |",
        "|---|---|---|---|",
        *(f"| {g.word} | {g.slips_a_minute:g} | {g.refused_share:.0%} | {g.delay_ms:g} ms |" for g in GRADES),
        "",
    ]
    return "\n".join(lines)


def _table(rows: list[dict[str, Any]]) -> list[str]:
    lines = ["| field | what it does | range | default |", "|---|---|---|---|"]
    for row in rows:
        bounds = (
            f"{row['low']:g} to {row['high']:g} {row['unit']}".strip()
            if row["low"] is not None
            else ", ".join(row["options"]) or row["kind"]
        )
        lines.append(f"| `{row['name']}` | {row['help']} | {bounds} | `{row['default']}` |")
    return lines


if __name__ == "__main__":
    (DOCS / "pen-fields.md").write_text(fields_doc())
    (DOCS / "palm-rules.md").write_text(palm_doc())
