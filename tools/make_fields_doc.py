"""Writes docs/pen-fields.md from the declarations of the pen recipe. Run as `.venv/bin/python tools/make_fields_doc.py`."""

import pathlib

from gray_quill.core.pen.recipe import FORMAT, recipe_fields

OUT = pathlib.Path(__file__).parents[1] / "docs" / "pen-fields.md"


def fields_doc() -> str:
    """The table as Markdown."""
    lines = [f"# Fields of a pen (`{FORMAT}`)", "",
             "Made by `tools/make_fields_doc.py` from the declarations in `core/pen/`. Missing fields take their defaults.", ""]
    for group, rows in recipe_fields().items():
        lines += [f"## {group}", "", "| field | what it does | range | default |", "|---|---|---|---|"]
        for row in rows:
            bounds = f"{row['low']:g} to {row['high']:g} {row['unit']}".strip() if row["low"] is not None else ", ".join(row["options"]) or row["kind"]
            lines.append(f"| `{row['name']}` | {row['help']} | {bounds} | `{row['default']}` |")
        lines.append("")
    return "\n".join(lines)


if __name__ == "__main__":
    OUT.write_text(fields_doc())
