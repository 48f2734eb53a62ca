"""Filling a database with the demo data, on first start or when asked to put it back."""

import contextlib
import pathlib
import sqlite3

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.underlay import Print, laid_out
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.demo.scenes import Scene, scenes
from gray_quill.formats.pictures import key_of
from gray_quill.store.backups import back_up
from gray_quill.store.database import connect, transaction
from gray_quill.store.items import add_thing
from gray_quill.store.originals import Original, add_original, set_prints
from gray_quill.store.pages import add_page
from gray_quill.store.pens import add_pen, list_pens, set_roll
from gray_quill.store.schema import empty
from gray_quill.store.settings import set_settings
from gray_quill.store.sheets import Sheet, add_sheet, list_sheets
from gray_quill.store.start import prepare
from gray_quill.store.strokes import Stroke, add_strokes

ROLL = (
    "fen-fountain",
    "reed-ballpoint",
    "heron-brush",
    "sedge-nib",
    "moth-pencil-2b",
    "survey-marker",
    "dusk-wash",
    "fern-wash",
    "stitch-reed",
    "hollow-reed",
)


def stock(folder: pathlib.Path) -> None:
    """Give an empty database the shipped hands, devices and pens, so that there is something to write with."""
    prepare(folder)
    with contextlib.closing(connect(folder)) as db, transaction(db):
        _stock(db)


def _stock(db: sqlite3.Connection) -> None:
    if list_pens(db) or list_pens(db, binned=True):
        return
    for hand_id, hand in SHIPPED_HANDS.items():
        add_thing(db, hand_id, hand)
    for device_id, device in SHIPPED_DEVICES.items():
        add_thing(db, device_id, device)
    for pen_id, recipe in SHIPPED_PENS.items():
        add_pen(db, pen_id, recipe, "as shipped")
    set_roll(db, ROLL)


def build_demo(folder: pathlib.Path, reset: bool = False) -> bool:
    """Fill the database in `folder` when it holds no sheet, or anew when `reset` (after a backup): all of it, or
    nothing when it is stopped on the way. Returns whether it did.
    """
    prepare(folder)
    if reset:
        back_up(folder)
    with contextlib.closing(connect(folder)) as db, transaction(db):
        if reset:
            empty(db)
        if list_sheets(db):
            return False
        _stock(db)
        for number, scene in enumerate(scenes()):
            _lay_down(db, scene, f"2026-06-{14 + number}T21:30:00.000+00:00")
        set_settings(db, {"sheet_id": scene.id})
        return True


def _lay_down(db: sqlite3.Connection, scene: Scene, made_at: str) -> None:
    sheet = Sheet(
        scene.id,
        scene.name,
        scene.kind,
        scene.paper,
        scene.hand_id,
        scene.device_id,
        scene.pen_id,
        made_at,
        False,
        "test" if scene.kind == "test" else None,
    )
    if scene.after:
        add_page(db, scene.after, scene.id, scene.paper)
    else:
        add_sheet(db, sheet)
    if scene.document:
        _print(db, scene)
    strokes = [Stroke(f"{scene.id}-{k}", pen, 1, trace) for k, (pen, trace) in enumerate(scene.strokes)]
    add_strokes(db, scene.id, strokes)


def _print(db: sqlite3.Connection, scene: Scene) -> None:
    """Lay a scene's document under its ink."""
    size = (scene.paper.width_mm, scene.paper.height_mm)
    document = Original(key_of(scene.document), "pdf", scene.name, [size])
    add_original(db, document, scene.document)
    one = laid_out(Print(f"{scene.id}-print", document.id), "fit", scene.paper, size)
    set_prints(db, scene.id, [one])
