"""Writes docs/pen-fields.md, docs/readings.md, docs/palm-rules.md and docs/words.md from the declarations in the
core. Run as `.venv/bin/python tools/make_fields_doc.py`.
"""

import pathlib

from gray_quill.core.catalogue import READINGS
from gray_quill.core.hand.hand import Hand
from gray_quill.core.palm.contacts import COLUMNS, PHASES
from gray_quill.core.palm.drills import DRILLS
from gray_quill.core.palm.hard.drills import HARD_DRILLS
from gray_quill.core.palm.outcome import GRADES
from gray_quill.core.palm.rules import RULES, Rules
from gray_quill.core.pen.recipe import FORMAT, recipe_fields
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.reading import in_words
from gray_quill.core.units import UNIT_WORDS

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
        "`gestures` (kind and ids); where a device spoils its reports also `ink_mm`, the way the nib went, and "
        "`not_nib`, spans in which a palm was taken for the pen.",
        "",
        "## Rules (JSON, all off at their defaults)",
        "",
        *_table(describe_record(Rules)),
        "",
        f"Rules are asked in this order: {', '.join(rule.name for rule in RULES)}.",
        "The first that fires refuses. Nib ink passes, but for what a jump gives away as a palm's. What looks rather "
        "like a hand waits and does nothing.",
        "",
        "## Drills",
        "",
        "| drill | what to do | meant |",
        "|---|---|---|",
        *(f"| {d.name} | {d.ask} | {d.meant or 'nothing: every touch is a palm'} |" for d in DRILLS.values()),
        "",
        "## The hard set",
        "",
        "Sessions drawn from ranges (`core/palm/hard/ranges.py`), on devices that leave out, round, merge, cancel or "
        "mix up what they report.",
        "No rule is tuned on them: the look of a hand is trained on `core/palm/practice.py`. What they hold:",
        "",
        "| drill | what it holds | meant |",
        "|---|---|---|",
        *(f"| {d.name} | {d.holds} | {d.meant or 'nothing: every touch is a palm'} |" for d in HARD_DRILLS.values()),
        "",
        "What `gray-quill palm-proof --floors --first-seed 8101` printed, shortened (`docs/palm-figures.txt`), before",
        "the colour e-paper shipped, on which it was not run.",
        "The threshold of the start rules was chosen with other seeds in sight (7000 to 9033); none is trained on.",
        "",
        "```",
        (DOCS / "palm-figures.txt").read_text().rstrip(),
        "```",
        "",
        "Where it is not good enough: a hand that brushes the top of the screen, taps and gestures of the other",
        "hand beside one that rests, and two-finger taps; and where fingers write, a resting palm's dot may stand",
        "for longer than half a second. What the ranges hold is common practice, no source: real hands may differ.",
        "",
        "## Grades",
        "",
        "The best one whose bounds all drills together still meet; common practice, no source.",
        "",
        "| called | slips a minute (marks, taps, page shifts, lost ink) | gestures refused | delay |",
        "|---|---|---|---|",
        *(
            f"| {g.word} | {_most(g.slips_a_minute)} | {g.refused_share:.0%} | {_most(g.delay_ms, ' ms')} |"
            for g in GRADES
        ),
        "",
    ]
    return "\n".join(lines)


def readings_doc() -> str:
    """Everything that is measured, as Markdown."""
    lines = [
        "# Readings",
        "",
        "Made by `tools/make_fields_doc.py` from the declarations in the core: the words on screens, in the API and on",
        "the command line come from the same place. A bound is the value from which a reading deserves attention.",
        "",
    ]
    for group, readings in READINGS.items():
        lines += [f"## {group}", "", "| reading | called | what it says | better | bound |", "|---|---|---|---|---|"]
        for key, r in readings.items():
            bound = "" if r.attention is None else in_words(r, r.attention)
            label = f"{r.label}, {r.unit}" if r.unit else r.label
            lines.append(f"| `{key}` | {label} | {r.help} | {r.better} | {bound} |")
        lines.append("")
    return "\n".join(lines)


def words_doc() -> str:
    """Every name a screen shows, in one alphabet, as Markdown."""
    controls = [(group, c) for group, rows in recipe_fields().items() for c in rows]
    controls += [("hand", c) for c in describe_record(Hand)] + [("palm rule", c) for c in describe_record(Rules)]
    entries = [(r.label, group, r.unit, r.help) for group, found in READINGS.items() for r in found.values()]
    entries += [(c.label, group, c.unit, f"{c.help}.") for group, c in controls]
    lines = [
        "# Words",
        "",
        "Made by `tools/make_fields_doc.py` from the declarations in the core. Every name a screen shows, and what it",
        "means; on the screens a press on the name opens the same line.",
        "",
        "## Units",
        "",
        *(f"- **{unit}**: {words}" for unit, words in UNIT_WORDS.items()),
        "",
        "## Names",
        "",
    ]
    for label, where, unit, words in sorted(set(entries), key=lambda e: (e[0].lower(), *e)):
        lines.append(f"- **{label[0].upper()}{label[1:]}**{f', {unit}' if unit else ''} ({where}): {words}")
    return "\n".join([*lines, ""])


def _most(bound: float | None, unit: str = "") -> str:
    return "any" if bound is None else f"{bound:g}{unit}"


def _table(rows: list[Control]) -> list[str]:
    lines = ["| field | what it does | range | default |", "|---|---|---|---|"]
    for c in rows:
        span = f"{c.low:g} to {c.high:g} {c.unit}".strip() if c.low is not None else ", ".join(c.options) or c.kind
        lines.append(f"| `{c.name}` | {c.help} | {span} | `{c.default}` |")
    return lines


if __name__ == "__main__":
    (DOCS / "pen-fields.md").write_text(fields_doc())
    (DOCS / "readings.md").write_text(readings_doc())
    (DOCS / "palm-rules.md").write_text(palm_doc())
    (DOCS / "words.md").write_text(words_doc())
