"""Ink on request: strokes of a sheet with their pens, settled once and remembered while they are in use."""

import dataclasses
import logging
import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Collection, Sequence

from gray_quill.core.errors import GrayQuillError, NoInk
from gray_quill.core.ink.bare import bare_ink, is_bare, settle_or_bare, undrawable
from gray_quill.core.ink.cover import cover_inks
from gray_quill.core.ink.layer import FIRST, Placed, layers_said
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import UNEDITED, shown, to_settle
from gray_quill.core.ink.underlay import printed
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.lines import longest_line
from gray_quill.core.trace import Trace
from gray_quill.store.layers import held_of
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.store.stroke_edits import stroke_edits_of
from gray_quill.store.strokes import Entry, load_traces, stroke_index
from gray_quill.web.originals import KeptOriginals
from gray_quill.web.records import Source
from gray_quill.web.time_budget import in_time

MOST_BYTES = 150_000_000  # of traces and ink remembered
AT_ONCE = 500  # strokes settled between two looks at the clock
WRITING = ("ballpoint", "fountain", "flat nib")


def _bytes(pair: tuple[Trace, Ink]) -> int:
    """What a trace and its ink hold, about: their columns, and as much again for a small one's objects."""
    trace, ink = pair
    return 8 * (6 * len(trace) + 8 * len(ink.x_mm)) + 3000


def shown_index(
    db: sqlite3.Connection, sheet_id: str, hidden_too: bool = False
) -> tuple[list[Entry], list[Placed | None]]:
    """The strokes of a sheet's shown layers in the order written, and the layer of each; None where the sheet has but
    one, that lays its ink plainly. hidden_too: those of all layers.
    """
    index, sheet = stroke_index(db, sheet_id), get_sheet(db, sheet_id)
    if len(sheet.layers) == 1 and sheet.layers[0].plain and sheet.layers[0].shown:
        return index, [None] * len(index)
    places = {layer.id: Placed(layer, k) for k, layer in enumerate(sheet.layers)}
    held = held_of(db, sheet_id)
    lowest = next(iter(places.values()))
    on = [places.get(held[e[0]].layer if e[0] in held else FIRST, lowest) for e in index]
    seen = [k for k, place in enumerate(on) if place.layer.shown or hidden_too]
    return [index[k] for k in seen], [on[k] for k in seen]


def layers_read(db: sqlite3.Connection, sheet: Sheet, index: Sequence[Entry]) -> str:
    """On which layers of a sheet these strokes lie, and which are hidden; "" where it has but one."""
    if len(sheet.layers) == 1:
        return ""
    held, known = held_of(db, sheet.id), {layer.id for layer in sheet.layers}
    on = {held[e[0]].layer if e[0] in held else FIRST for e in index}
    return layers_said(sheet.layers, {i if i in known else sheet.layers[0].id for i in on})


class InkMemory:
    """Traces and settled ink by stroke, the pen revision that draws it and paper: none ever changes for these."""

    def __init__(self, originals: KeptOriginals) -> None:
        self.originals = originals
        self._lock = threading.Lock()
        self._kept: OrderedDict[tuple[Entry, int], tuple[Trace, Ink]] = OrderedDict()
        self._papers: dict[Paper, int] = {}
        self._bytes = 0
        self.changes = 0  # how often ink that was settled was no longer the one to show

    def _on(self, paper: Paper) -> int:
        """The number of a paper, inside the lock; one that grows keeps its own, for no ink is settled otherwise."""
        plain = dataclasses.replace(paper, height_mm=Paper.height_mm) if paper.endless else paper
        return self._papers.setdefault(plain, len(self._papers))

    def strokes(self, db: sqlite3.Connection, index: Sequence[Entry], paper: Paper) -> list[tuple[Trace, Ink]]:
        """Trace and settled ink of each (stroke id, pen id, revision) on this paper, where they show on it."""
        with self._lock:
            on = self._on(paper)
            there = [self._kept.get((entry, on)) for entry in index]
            if all(there):
                if self._bytes > MOST_BYTES / 2:  # what is used stays longest
                    for entry in index:
                        self._kept.move_to_end((entry, on))
                return [pair for pair in there if pair]
            missing = [entry for entry, pair in zip(index, there, strict=True) if pair is None]
            before = self.changes
        ids = [i for i, _, _ in missing]
        traces, edits_by_id = load_traces(db, ids), stroke_edits_of(db, ids)
        recipes: dict[tuple[str, int], Recipe] = {key: get_pen(db, *key).recipe for key in {e[1:] for e in missing}}
        fresh = {}
        for start in range(0, len(missing), AT_ONCE):
            in_time()
            part = missing[start : start + AT_ONCE]
            edits = {entry: edits_by_id.get(entry[0], UNEDITED) for entry in part}
            drawn = [(to_settle(traces[e[0]], how), recipes[e[1:]]) for e, how in edits.items()]
            for (entry, how), ink in zip(edits.items(), settle_or_bare(drawn, paper), strict=True):
                fresh[entry] = shown(traces[entry[0]], ink, how)
                if is_bare(ink):
                    logging.getLogger("gray_quill").error("stroke %s cannot be drawn with %s %d", *entry)
        found = [fresh.get(entry) or pair for entry, pair in zip(index, there, strict=True)]
        with self._lock:
            if before != self.changes:  # what was read may be what was to be forgotten
                return [pair for pair in found if pair]
            for entry, pair in fresh.items():
                if (entry, on) not in self._kept:
                    self._bytes += _bytes(pair)
                self._kept[entry, on] = pair
            for entry in index:
                if (entry, on) in self._kept:
                    self._kept.move_to_end((entry, on))
            while self._bytes > MOST_BYTES and len(self._kept) > len(index):
                self._bytes -= _bytes(self._kept.popitem(last=False)[1])
        return [pair for pair in found if pair]

    def ground(self, sheet: Sheet) -> Paper:
        """What a page's ink is laid on: its paper with what is printed there."""
        return printed(sheet.paper, sheet.prints, self.originals, sheet.page)

    def forget(self, stroke_ids: Collection[str]) -> None:
        """Settle these strokes anew when they are asked for: they show otherwise now."""
        with self._lock:
            self.changes += 1
            for key in [key for key in self._kept if key[0][0] in stroke_ids]:
                self._bytes -= _bytes(self._kept.pop(key))

    def forget_all(self) -> None:
        """Nothing is as it was: other ink may have the ids that were known."""
        with self._lock:
            self.changes += 1
            self._kept.clear()
            self._bytes = 0

    def sheet_inks(self, db: sqlite3.Connection, sheet_id: str, recipe: Recipe | None = None) -> list[Ink]:
        """Settled ink of a sheet's shown layers, as in `drawn`."""
        return [ink for _, ink in self.drawn(db, sheet_id, recipe)]

    def drawn(self, db: sqlite3.Connection, sheet_id: str, recipe: Recipe | None = None) -> list[tuple[Trace, Ink]]:
        """Traces and settled ink of a sheet's shown layers, in the order written, each on its layer. recipe: how the
        sheet's pen would draw all it drew, where that is not as it was kept.
        """
        index, layers = shown_index(db, sheet_id)
        sheet = get_sheet(db, sheet_id)
        pairs = self.strokes(db, index, sheet.paper)
        inks = [ink for _, ink in pairs]
        if recipe is not None:
            own = [k for k, (_, pen_id, _) in enumerate(index) if pen_id == sheet.pen_id]
            again = settle_or_bare([(pairs[k][0], recipe) for k in own], sheet.paper)
            for k, ink in zip(own, again, strict=True):
                inks[k] = dataclasses.replace(ink, rubs=inks[k].rubs, fill=inks[k].fill)
        traces = [trace for trace, _ in pairs]
        return [(trace, ink.on_layer(on)) for trace, ink, on in zip(traces, inks, layers, strict=True)]

    def all_inks(self, db: sqlite3.Connection, sheet_id: str) -> list[Ink]:
        """Settled ink of all of a sheet's layers, the hidden ones too, in the order written, each on its layer."""
        index, layers = shown_index(db, sheet_id, hidden_too=True)
        pairs = self.strokes(db, index, get_sheet(db, sheet_id).paper)
        return [ink.on_layer(on) for (_, ink), on in zip(pairs, layers, strict=True)]

    def page(self, db: sqlite3.Connection, sheet_id: str, view: View, lifted: bool = False) -> Pixels:
        """Paper, ink and, unless lifted, the covers of a part of a sheet. Strokes that cannot be drawn there become
        bare paths, now and later.
        """
        sheet = get_sheet(db, sheet_id)
        paper, ground = sheet.paper, self.ground(sheet)
        index, layers = shown_index(db, sheet_id)
        pairs = self.strokes(db, index, paper)
        over = [] if lifted else cover_inks(sheet.covers, paper)
        try:
            inks = [ink.on_layer(on) for (_, ink), on in zip(pairs, layers, strict=True)]
            return page_pixels([*inks, *over], ground, view)
        except GrayQuillError:
            raise
        except Exception:
            logging.getLogger("gray_quill").exception("a page of %s cannot be drawn", sheet_id)
            spoilt = undrawable([ink for _, ink in pairs], view, lambda inks, part: page_pixels(inks, paper, part))
            if not spoilt:
                raise
            with self._lock:
                self.changes += 1
                for k in spoilt:
                    self._kept[index[k], self._on(paper)] = pairs[k] = (pairs[k][0], bare_ink(pairs[k][0]))
            inks = [ink.on_layer(on) for (_, ink), on in zip(pairs, layers, strict=True)]
            return page_pixels([*inks, *over], ground, view)

    def bare(self, db: sqlite3.Connection, sheet_id: str) -> int:
        """How many strokes of a sheet are shown as bare paths."""
        return sum(is_bare(ink) for ink in self.sheet_inks(db, sheet_id))

    def traces_of(self, db: sqlite3.Connection, source: Source) -> list[Trace]:
        """The traces a source names. Raises InputError when there are none.

        "line": the longest among strokes of the sheet's pen when it has written some, and never among washes. "words":
        the longest among strokes of pens that write.
        """
        index, _ = shown_index(db, source.sheet_id)
        if source.stroke_ids is not None:
            wanted = set(source.stroke_ids)
            index = [entry for entry in index if entry[0] in wanted]
        sheet = get_sheet(db, source.sheet_id)
        pairs = self.strokes(db, index, sheet.paper)
        traces = [trace for trace, _ in pairs]
        if source.part == "words" and source.stroke_ids is None:
            written = (
                [t for t, ink in pairs if ink.recipe.kind in WRITING]
                or [t for t, ink in pairs if ink.recipe.wash.place == "over"]
                or traces
            )
            traces = [written[i] for i in longest_line(written)]
        if source.part == "line" and source.stroke_ids is None:
            own = [
                t
                for (t, ink), entry in zip(pairs, index, strict=True)
                if entry[1] == sheet.pen_id and ink.recipe.wash.place == "over"
            ]
            traces = own or [t for t, ink in pairs if ink.recipe.wash.place == "over"] or traces
            traces = [traces[i] for i in longest_line(traces)]
        if not traces:
            raise NoInk("There is no ink on this sheet yet. Write a line, or let the hand write one.", "source")
        return traces
