"""A pen in neutral open forms: press curve as CSV and as a cubic-bezier, steadying as CSV, brush as InkML."""

import csv
import dataclasses
import io
import json
from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import FormatError, InputError, TooLarge
from gray_quill.core.pen.fit import cubic_form
from gray_quill.core.pen.for_others import (
    STEPS,
    ReadBack,
    curve_table,
    response,
    with_cubic,
    with_curve,
    with_response,
)
from gray_quill.core.pen.pressure_curve import press_share
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.formats.inkml import read_brush
from gray_quill.formats.inkml_write import write_inkml
from gray_quill.formats.plain_json import read_json

MOST_BYTES = 200_000
CURVE = ("step", "force", "share", "width_mm", "opacity")
RESPONSE = ("t_ms", "hand_mm", "tip_mm")
CUBIC = "gray-quill/press-cubic@1"


@dataclasses.dataclass(frozen=True)
class Form:
    """name, words: how it is called; media, ending: of its file; not_held: what of a pen it cannot hold."""

    name: str
    words: str
    media: str
    ending: str
    not_held: str
    write: Callable[[Recipe], bytes] = dataclasses.field(repr=False)
    read: Callable[[bytes, Recipe], ReadBack] = dataclasses.field(repr=False)


def _csv(columns: Sequence[str], rows: Floats) -> bytes:
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(columns)
    table.writerows([f"{v:.6g}" for v in row] for row in rows)
    return out.getvalue().encode()


def _columns(data: bytes, wanted: Sequence[str]) -> list[Floats]:
    """The wanted columns of a table. Raises FormatError, with the row where there is one."""
    try:
        rows = list(csv.DictReader(io.StringIO(data.decode("utf-8-sig"))))
    except (UnicodeDecodeError, csv.Error):
        raise FormatError("This is no CSV file in UTF-8.") from None
    if not rows or any(name not in rows[0] for name in wanted):
        raise FormatError(f"This table needs the columns {', '.join(wanted)}.")
    if len(rows) > 4 * STEPS:
        raise TooLarge(f"This table has {len(rows)} rows; {4 * STEPS} is the most.")
    found = []
    for name in wanted:
        values = np.full(len(rows), np.nan)
        for k, row in enumerate(rows):
            try:
                values[k] = float(row[name])
            except (TypeError, ValueError):
                raise FormatError(f"{name} in row {k + 2} is no number.") from None
        if not np.isfinite(values).all() or np.abs(values).max() > 1e6:
            raise FormatError(f"{name} holds a value that is no number a pen can have.")
        found.append(values)
    return found


def _write_curve(recipe: Recipe) -> bytes:
    return _csv(CURVE, np.column_stack((np.arange(STEPS), curve_table(recipe))))


def _read_curve(data: bytes, recipe: Recipe) -> ReadBack:
    force, share, width, opacity = _columns(data, CURVE[1:])
    if (width <= 0).any() or (opacity <= 0).any() or (opacity > 1).any() or force.min() < 0 or force.max() > 1:
        raise FormatError("Force and opacity go from 0 to 1, and widths are above 0.")
    return with_curve(recipe, force, share, width, opacity)


def _write_cubic(recipe: Recipe) -> bytes:
    form = cubic_form(recipe.press)
    told = {
        "format": CUBIC,
        "floor": recipe.press.floor,
        "ceiling": recipe.press.ceiling,
        "cubic_bezier": [round(v, 4) for v in (form.x1, form.y1, form.x2, form.y2)],
        "largest_error": round(form.largest_error, 4),
    }
    return (json.dumps(told, indent=1) + "\n").encode()


def _read_cubic(data: bytes, recipe: Recipe) -> ReadBack:
    told = read_json(data)
    if not isinstance(told, dict) or told.get("format") != CUBIC:
        raise FormatError(f"This is no press curve as a cubic: its format must be {CUBIC!r}.")
    try:
        x1, y1, x2, y2 = (float(v) for v in told["cubic_bezier"])
        floor, ceiling = float(told["floor"]), float(told["ceiling"])
    except (KeyError, TypeError, ValueError):
        raise FormatError("A cubic needs floor, ceiling and cubic_bezier with four numbers.") from None
    return with_cubic(recipe, (x1, y1, x2, y2), floor, ceiling)


def _write_response(recipe: Recipe) -> bytes:
    return _csv(RESPONSE, response(recipe.steady))


def _read_response(data: bytes, recipe: Recipe) -> ReadBack:
    return with_response(recipe, _columns(data, RESPONSE)[2])


def _write_brush(recipe: Recipe) -> bytes:
    """Names of properties as in InkML (W3C Recommendation, 2011) and the applications its examples come from; from
    memory, for no parser of it is among the libraries.
    """
    share = press_share(recipe.press, np.array([0.0, 1.0]))
    brush = {
        "width": f"{recipe.body.width_mm:g}",
        "height": f"{recipe.body.width_mm:g}",
        "color": recipe.body.colour,
        "transparency": f"{1 - recipe.body.opacity:g}",
        "tip": "rectangle" if recipe.kind == "flat nib" else "ellipse",
        "rasterOp": "maskPen" if recipe.is_wash else "copyPen",
        "ignorePressure": str(not (recipe.press.on and share[1] > share[0] and recipe.press.range > 1)).lower(),
    }
    return write_inkml([], brush)


def _read_brush(data: bytes, recipe: Recipe) -> ReadBack:
    found = read_brush(data)
    told = write_recipe(recipe)
    try:
        if "width" in found:
            told["body"]["width_mm"] = float(found["width"])
        if "transparency" in found:
            told["body"]["opacity"] = round(1 - float(found["transparency"]), 6)
    except ValueError:
        raise FormatError("Width and transparency of this brush are no numbers.") from None
    if "color" in found:
        told["body"]["colour"] = found["color"]
    if found.get("ignorePressure") == "true":
        told["press"]["range"] = 1.0
    taken = [name for name in ("width", "color", "transparency", "ignorePressure") if name in found]
    if not taken:
        raise FormatError("This InkML names no brush whose width, color or transparency could be taken over.")
    return ReadBack(read_recipe(told), None, f"Taken over: {', '.join(taken)}.")


FORMS: dict[str, Form] = {
    form.name: form
    for form in (
        Form(
            "press-curve",
            "Press curve, 256 steps",
            "text/csv",
            "csv",
            "what pace, tilt, ends and grain do; steadying",
            _write_curve,
            _read_curve,
        ),
        Form(
            "press-cubic",
            "Press curve as cubic-bezier",
            "application/json",
            "json",
            "curves of more than one bend, but nearly; widths and opacity; everything but force",
            _write_cubic,
            _read_cubic,
        ),
        Form(
            "steadying",
            "Steadying, as what the tip does",
            "text/csv",
            "csv",
            "how it answers other speeds; look-ahead; the catch-up at the lift",
            _write_response,
            _read_response,
        ),
        Form(
            "brush",
            "Brush of InkML",
            "application/inkml+xml",
            "inkml",
            "the press curve but for whether force counts; pace, lean, ends, steadying, grain",
            _write_brush,
            _read_brush,
        ),
    )
}


def get_form(name: str) -> Form:
    if name not in FORMS:
        raise InputError(f"There is no form {name[:40]!r}. There are {', '.join(FORMS)}.", "form")
    return FORMS[name]


def read_form(form: Form, data: bytes, recipe: Recipe) -> ReadBack:
    """A pen with what a file of this form tells. Raises FormatError, InputError or TooLarge with what to do."""
    if len(data) > MOST_BYTES:
        raise TooLarge(f"Such a file is some kilobytes; this one is over {MOST_BYTES // 1000}.")
    found = form.read(data, recipe)
    read_recipe(write_recipe(found.recipe))  # within every bound a pen has
    return found


def read_named_form(data: bytes, name: str, recipe: Recipe) -> ReadBack:
    """The same, of a form by its name."""
    return read_form(get_form(name), data, recipe)
