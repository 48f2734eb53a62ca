"""Layers of sheets, and how strokes are arranged: on which layer, locked, grouped, in which order. Every change gives
back what was, which puts it back.
"""

import dataclasses
import json
import sqlite3
from collections.abc import Iterable, Mapping, Sequence

from gray_quill.core.errors import InputError, NotFound
from gray_quill.core.ink.layer import FIRST, MOST_LAYERS, Layer
from gray_quill.store.database import transaction
from gray_quill.store.kept import VERSION, written
from gray_quill.store.seen import check_seen
from gray_quill.store.sheets import Sheet, count_ink_change, get_sheet
from gray_quill.store.strokes import Entry, index_of


@dataclasses.dataclass(frozen=True)
class Layering:
    """Layers from below, the one that is written on, and strokes by the layer they are put on."""

    layers: list[Layer]
    on: str
    moved: dict[str, list[str]]


@dataclasses.dataclass(frozen=True)
class Arranged:
    """Of strokes by id: whether they are locked, which group they are of, their place in the order written."""

    locked: dict[str, bool]
    grouped: dict[str, str | None]
    places: dict[str, int]


@dataclasses.dataclass(frozen=True)
class Held:
    """What holds a stroke: its layer, whether it is locked itself, its group."""

    layer: str
    locked: bool
    grouped: str | None


def held_of(db: sqlite3.Connection, sheet_id: str) -> dict[str, Held]:
    """What holds each stroke of a sheet that anything but the first layer does."""
    rows = db.execute(
        "SELECT id, layer, locked, grouped FROM strokes WHERE sheet_id = ? AND binned_at IS NULL "
        "AND (layer IS NOT NULL OR locked OR grouped IS NOT NULL)",
        (sheet_id,),
    )
    return {r["id"]: Held(r["layer"] or FIRST, bool(r["locked"]), r["grouped"]) for r in rows}


def reachable(db: sqlite3.Connection, sheet: Sheet, index: Sequence[Entry], locked_too: bool = False) -> list[Entry]:
    """The strokes that may be rubbed, chosen and moved: on layers that are shown and, like themselves, not locked."""
    held = held_of(db, sheet.id)
    known = {layer.id: layer for layer in sheet.layers}
    lowest = sheet.layers[0]

    def free(stroke_id: str) -> bool:
        by = held.get(stroke_id)
        layer = known.get(by.layer, lowest) if by else known.get(FIRST, lowest)
        return layer.shown and (locked_too or not (layer.locked or (by and by.locked)))

    return [entry for entry in index if free(entry[0])]


def on_layer(db: sqlite3.Connection, sheet: Sheet, index: Sequence[Entry]) -> list[Entry]:
    """Those on the layer that is written on."""
    held, known = held_of(db, sheet.id), {layer.id for layer in sheet.layers}
    lowest = sheet.layers[0].id

    def on(stroke_id: str) -> str:
        layer = held[stroke_id].layer if stroke_id in held else FIRST
        return layer if layer in known else lowest

    return [entry for entry in index if on(entry[0]) == sheet.layer]


def check_free(db: sqlite3.Connection, sheet: Sheet, ids: Iterable[str]) -> None:
    """Raises InputError where one of these strokes is locked, or lies on a layer that is."""
    index = [(i, "", 0) for i in ids]
    if len(reachable(db, sheet, index)) < len(index):
        raise InputError("Some of this ink is locked, or on a layer that is locked or hidden. Unlock it first.", "ids")


def set_layers(
    db: sqlite3.Connection, sheet_id: str, wanted: Layering, seen: Sequence[Layer] | None = None
) -> Layering:
    """Keep layers in this order; strokes on one that goes lie on the nearest that was below it. Raises InputError where
    the layers cannot be, NotFound where a stroke is not on the sheet, Stale where other layers are there than were
    seen; then nothing changes.
    """
    ids = [layer.id for layer in wanted.layers]
    if not 1 <= len(ids) <= MOST_LAYERS or len(set(ids)) < len(ids):
        raise InputError(f"A sheet has 1 to {MOST_LAYERS} layers, each with an id of its own.", "layers")
    if wanted.on not in ids or any(goal not in ids for goal in wanted.moved):
        raise InputError("Write on, and move ink to, a layer that is there.", "on")
    on = next(layer for layer in wanted.layers if layer.id == wanted.on)
    if not on.shown or on.locked:
        raise InputError("The layer that is written on stays shown and unlocked. Write on another first.", "on")
    with transaction(db):
        sheet = get_sheet(db, sheet_id)
        check_seen(seen, sheet.layers, "The layers of this sheet were")
        index_of(db, sheet_id, [i for moved in wanted.moved.values() for i in moved])
        there = {r["id"]: r["layer"] or FIRST for r in db.execute(_LAYER_OF, (sheet_id,))}
        goals = {i: goal for goal, moved in wanted.moved.items() for i in moved}
        known = [layer.id for layer in sheet.layers]
        for stroke_id, layer in there.items():
            if layer not in ids and stroke_id not in goals:
                goals[stroke_id] = _nearest(layer, known, ids)
        changes = {i: goal for i, goal in goals.items() if there.get(i) != goal}
        db.executemany("UPDATE strokes SET layer = ? WHERE id = ?", [(goal, i) for i, goal in changes.items()])
        text = json.dumps({"version": VERSION, "layers": [json.loads(written(layer)) for layer in wanted.layers]})
        db.execute("UPDATE sheets SET layers = ?, layer = ? WHERE id = ?", (text, wanted.on, sheet_id))
        count_ink_change(db, sheet_id)
    was: dict[str, list[str]] = {}
    for stroke_id in changes:
        was.setdefault(there[stroke_id], []).append(stroke_id)
    return Layering(sheet.layers, sheet.layer, was)


_LAYER_OF = "SELECT id, layer FROM strokes WHERE sheet_id = ?"


def _nearest(gone: str, known: Sequence[str], left: Sequence[str]) -> str:
    """The layer that ink of one that goes lies on: the next below that stays, else the lowest."""
    below = known[: known.index(gone)] if gone in known else []
    return next((i for i in reversed(below) if i in left), left[0])


def arrange(db: sqlite3.Connection, sheet_id: str, wanted: Arranged) -> Arranged:
    """Lock, group and order strokes. Raises NotFound where one is not on the sheet; then nothing changes."""
    named = {*wanted.locked, *wanted.grouped, *wanted.places}
    with transaction(db):
        index_of(db, sheet_id, list(named))
        rows = db.execute("SELECT id, locked, grouped, place FROM strokes WHERE sheet_id = ?", (sheet_id,))
        there = {r["id"]: r for r in rows if r["id"] in named}
        was = Arranged(
            {i: bool(there[i]["locked"]) for i in wanted.locked},
            {i: there[i]["grouped"] for i in wanted.grouped},
            {i: there[i]["place"] for i in wanted.places},
        )
        _set(db, "locked", wanted.locked)
        _set(db, "grouped", wanted.grouped)
        _set(db, "place", wanted.places)
        count_ink_change(db, sheet_id)
    return was


def _set(db: sqlite3.Connection, column: str, values: Mapping[str, object]) -> None:
    db.executemany(f"UPDATE strokes SET {column} = ? WHERE id = ?", [(value, i) for i, value in values.items()])


def to_end(db: sqlite3.Connection, sheet_id: str, ids: Iterable[str], front: bool) -> dict[str, int]:
    """The places that put strokes before all others of the sheet, or behind them, in the order they have."""
    rows = db.execute("SELECT id, place FROM strokes WHERE sheet_id = ? ORDER BY place, rowid", (sheet_id,)).fetchall()
    wanted = set(ids)
    chosen = [r["id"] for r in rows if r["id"] in wanted]
    if len(chosen) < len(wanted):
        raise NotFound("Some of this ink is not on this sheet any more. Look at it, then do it again.", "ids")
    low, high = (rows[0]["place"], rows[-1]["place"]) if rows else (0, 0)
    start = high + 1 if front else low - len(chosen)
    return {i: start + k for k, i in enumerate(chosen)}
