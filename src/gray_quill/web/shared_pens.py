"""A pen shared well: taken out with what its owner saw of it, and opened on one's own hand beside theirs; and in forms
that others take over.
"""

import dataclasses
from typing import Annotated

import numpy as np
from flask import Blueprint, Response
from pydantic import StringConstraints

from gray_quill.core.advice.on_device import not_done
from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError, NoInk
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.swatch import swatch_pixels
from gray_quill.core.ink.view import fitted_view
from gray_quill.core.lineup.setting_card import setting_card
from gray_quill.core.palm.rules import START
from gray_quill.core.paper import Paper
from gray_quill.core.pen.fit import fit_press
from gray_quill.core.pen.for_others import ReadBack
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.differences import Difference, differences
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.readings.standard_lines import LINES, line_traces, standard_readings
from gray_quill.core.trace import Trace, bounds_mm
from gray_quill.formats.archive_zip import write_archive
from gray_quill.formats.card_pdf import write_card
from gray_quill.formats.pen_forms import FORMS, get_form
from gray_quill.formats.png import write_png
from gray_quill.formats.shared_pen import SharedPen, plain_readings, share_files
from gray_quill.store.archive import archived
from gray_quill.store.archive_import import BringingIn
from gray_quill.store.items import get_thing, list_things
from gray_quill.store.palm_settings import kept_setting
from gray_quill.store.pens import Pen, add_revision, get_pen
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.archive import sizes_of
from gray_quill.web.context import db, memory, read_outside
from gray_quill.web.desk import setting_fits
from gray_quill.web.records import Id, Source
from gray_quill.web.replies import data_url, download
from gray_quill.web.time_budget import in_time

shared_pens = Blueprint("shared_pens", __name__)
WIDTH_PX, HEIGHT_PX = 1160, 150
BLEND = 0.6  # how far a curve goes towards an even use of its range when it is fitted to one's force
SAME = 1e-6  # relative: readings that were told with all their digits


class OnSheet(Model):
    """sheet_id: whose writing, hand and device are one's own. fit: with the press curve fitted to one's own force."""

    sheet_id: Id
    fit: bool = False


class LineSeen(Model):
    """A line in the shared pen, with the readings there."""

    image: str
    readings: dict[str, float | None]


class StandardSeen(Model):
    """A standard line: whether this machine reads of it what was told."""

    name: str
    same: bool
    apart: list[str]


class SharedLook(Model):
    """theirs: on the owner's line as it was told; mine: on one's own; differs: readings of the two lines that differ,
    one theirs, other mine. cannot: what one's own device cannot do of it; could_not: what theirs could not.
    """

    name: str
    kind: str
    revisions: int
    hand: str
    device: str
    swatch: str
    theirs: LineSeen
    mine: LineSeen
    differs: list[Difference]
    standard: list[StandardSeen]
    cannot: list[str]
    could_not: list[str]
    fitted: bool


class FormItem(Model):
    """A form that others can take over, and what of a pen it cannot hold."""

    name: str
    words: str
    ending: str
    not_held: str


class FormList(Model):
    forms: list[FormItem]


class FormBack(Model):
    """recipe: the pen with what a file told; largest_error: of what was fitted."""

    recipe: Recipe
    largest_error: float | None
    words: str


@operation(shared_pens, "GET", "/pens/<pen_id>/shared", "application/zip", query=OnSheet, costly=True)
def share_pen(pen_id: str, query: OnSheet) -> Response:
    """A pen with all revisions, and what is seen of it on the sheet's hand and device."""
    pen, sheet = get_pen(db(), pen_id), get_sheet(db(), query.sheet_id)
    hand, device = get_thing(db(), Hand, sheet.hand_id), get_thing(db(), Device, sheet.device_id)
    line = _line(query.sheet_id)
    pictures = {"swatch": write_png(swatch_pixels(pen.recipe, "#fffdf8")), "line": _picture(line, pen.recipe)}
    cards = {}
    for device_id, one in list_things(db(), Device).items():
        kept = kept_setting(db(), sheet.hand_id, device_id)
        cards[device_id] = write_card(setting_card(pen.recipe, one, hand, kept[0] if kept else START), pen.recipe)
    files = archived(db(), {"pens": {pen_id}})
    readings, standard = read_ink(line, pen.recipe), standard_readings(pen.recipe)
    files |= share_files((pen_id, pen.revision), hand, device, line, readings, standard, pictures, cards)
    return download(write_archive(files), "application/zip", f"{pen.recipe.name}.zip")


@operation(shared_pens, "POST", "/pens/shared/look", SharedLook, body="application/zip", query=OnSheet, reads_file=True)
def look_at_shared_pen(body: bytes, query: OnSheet) -> SharedLook:
    """A shared pen on one's own hand beside its owner's; nothing is kept."""
    shared: SharedPen = read_outside("shared pen", body)[0]
    sheet = get_sheet(db(), query.sheet_id)
    device = get_thing(db(), Device, sheet.device_id)
    line = _line(query.sheet_id)
    recipe = _fitted(shared.recipe, line) if query.fit else shared.recipe
    theirs, mine = read_ink(shared.line, shared.recipe), read_ink(line, recipe)
    return SharedLook(
        name=recipe.name,
        kind=recipe.kind,
        revisions=shared.revisions,
        hand=shared.hand.name,
        device=shared.device.name,
        swatch=data_url(write_png(swatch_pixels(recipe, "#fffdf8"))),
        theirs=LineSeen(image=data_url(_picture(shared.line, shared.recipe)), readings=shared.readings),
        mine=LineSeen(image=data_url(_picture(line, recipe)), readings=plain_readings(mine)),
        differs=differences(theirs, mine),
        standard=_standard(shared),
        cannot=not_done(recipe, device),
        could_not=not_done(shared.recipe, shared.device),
        fitted=query.fit,
    )


@operation(shared_pens, "POST", "/pens/shared", Pen, body="application/zip", query=OnSheet, status=201, reads_file=True)
def keep_shared_pen(body: bytes, query: OnSheet) -> Pen:
    """Keep a shared pen with all its revisions, and fitted to one's own force as one more."""
    shared, files = read_outside("shared pen", body)
    coming = BringingIn(db(), files, sizes_of, setting_fits, in_time)
    came = coming.run()
    if came.left_out:
        raise InputError(f"This pen could not be kept: {'; '.join(came.left_out)}.", "file")
    pen_id = coming.revised.get((shared.pen_id, shared.revision), shared.pen_id)
    if not query.fit:
        return get_pen(db(), pen_id)
    return add_revision(db(), pen_id, _fitted(shared.recipe, _line(query.sheet_id)), "fitted to my force")


def _line(sheet_id: str) -> list[Trace]:
    """One's own longest line, or a standard one before anything is written."""
    try:
        return memory().traces_of(db(), Source(sheet_id=sheet_id, part="line", stroke_ids=None))
    except NoInk:
        return list(line_traces(LINES[0]))


def _fitted(recipe: Recipe, line: list[Trace]) -> Recipe:
    force = [trace.force for trace in line if "force" not in trace.absent]
    if not force:
        raise InputError("Your writing carries no force to fit a curve to. Open the pen as it is.", "fit")
    press = fit_press(np.concatenate(force), recipe.press, BLEND)
    return dataclasses.replace(recipe, press=press)


def _picture(line: list[Trace], recipe: Recipe) -> bytes:
    view = fitted_view(bounds_mm(line), WIDTH_PX, HEIGHT_PX)
    paper = Paper(ruling="blank", margin_mm=0.0)
    return write_png(page_pixels(settle_all(line, recipe, paper), paper, view), compress=1)


def _standard(shared: SharedPen) -> list[StandardSeen]:
    here: dict[str, Readings] = standard_readings(shared.recipe)
    found = []
    for name, told in shared.standard.items():
        now = plain_readings(here[name]) if name in here else {}
        apart = [key for key, value in told.items() if key in now and _differ(value, now[key])]
        found.append(StandardSeen(name=name, same=bool(now) and not apart, apart=apart))
    return found


def _differ(one: float | None, other: float | None) -> bool:
    if one is None or other is None:
        return one is not other
    return abs(one - other) > SAME * max(abs(one), abs(other), 1e-3)


FormName = Annotated[str, StringConstraints(max_length=40)]


@operation(shared_pens, "GET", "/pens/forms", FormList)
def read_forms() -> FormList:
    """Forms that others can take over."""
    names = ("name", "words", "ending", "not_held")
    return FormList(forms=[FormItem(**{n: getattr(form, n) for n in names}) for form in FORMS.values()])


@operation(shared_pens, "GET", "/pens/<pen_id>/revisions/<int:revision>/forms/<form>", "application/octet-stream")
def take_out_form(pen_id: str, revision: int, form: str) -> Response:
    """A pen in one of the forms."""
    known, recipe = get_form(form), get_pen(db(), pen_id, revision).recipe
    return download(known.write(recipe), known.media, f"{pen_id}-{revision}-{known.name}.{known.ending}")


@operation(
    shared_pens,
    "POST",
    "/pens/<pen_id>/revisions/<int:revision>/forms/<form>",
    FormBack,
    body="application/octet-stream",
    reads_file=True,
)
def bring_in_form(pen_id: str, revision: int, form: str, body: bytes) -> FormBack:
    """A pen with what a file in one of the forms tells; nothing is kept."""
    get_form(form)
    found: ReadBack = read_outside("pen form", body, name=form, recipe=get_pen(db(), pen_id, revision).recipe)
    return FormBack(recipe=found.recipe, largest_error=found.largest_error, words=found.words)
