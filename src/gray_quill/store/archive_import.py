"""An archive brought in beside what is there: nothing is overwritten."""

import contextlib
import dataclasses
import hashlib
import json
import uuid
from typing import Any

import numpy as np

from gray_quill.core.errors import FormatError
from gray_quill.core.pen.recipe import Recipe
from gray_quill.store.archive import BESIDE, KEYS, THINGS, Row, rows_of, with_its_trace
from gray_quill.store.coming_rows import Broken, CameIn, ComingRows, row_id
from gray_quill.store.database import transaction
from gray_quill.store.judged import get_judging
from gray_quill.store.kept import read_kept
from gray_quill.store.layers import held_of
from gray_quill.store.runs import get_lag_run, get_lineup, get_palm_run
from gray_quill.store.settings import get_settings, set_settings
from gray_quill.store.sheets import get_sheet
from gray_quill.store.stroke_edits import stroke_edits_of
from gray_quill.store.strokes import stroke_index
from gray_quill.store.undo_journal import kept_steps

LONGEST_NOTE = 200
ROUNDING_MM = 0.01
CHANGES = ("version", "ink")  # counted by each desk for itself
KNOWN = {"format", "version", *(f.name for f in dataclasses.fields(Recipe))}  # groups of a recipe
NOTED = {"pen": "pens", "hand": "hands", "device": "devices", "sheet": "sheets", "piece": "sheets"}
READ_BACK = {"lag": get_lag_run, "palm": get_palm_run, "lineup": get_lineup, "pairs": get_judging}


class _OnlyLooked(Exception):
    """Takes back what was brought in only to see what would come."""


class BringingIn(ComingRows):
    """One archive on its way into a database that may hold some of it, or other things by the same ids."""

    def run(self, only_look: bool = False) -> CameIn:
        """All of it that is whole, in one change; only_look: what would come, and nothing comes."""
        self._look_at_originals()
        with contextlib.suppress(_OnlyLooked), transaction(self.db):
            self._all()
            if only_look:
                raise _OnlyLooked
        return self.came

    def _look_at_originals(self) -> None:
        """Before anything is changed, so that nobody waits for it who writes."""
        self.sizes: dict[str, list[Any]] = {}
        self.refused: dict[str, Exception] = {}
        for name, row in self._of("originals"):
            self.step()
            try:
                if not self._here("originals", {"id": row_id(row)}):
                    self.sizes[row["id"]] = self.checked(
                        row["kind"], self.files[f"originals/{row['id']}.{row['kind']}"]
                    )
            except Broken as error:
                self.refused[name] = error

    def _all(self) -> None:
        self.db.execute("PRAGMA defer_foreign_keys = ON")
        empty = not self.db.execute("SELECT 1 FROM sheets").fetchone()
        for table in THINGS:
            for name, row in self._of(table):
                self._try(name, lambda table=table, row=row: self._thing(table, row))  # type: ignore[misc]
        for name, pen in self._of("pens"):
            self._try(name, lambda pen=pen: self._pen(pen))  # type: ignore[misc]
        for name, row in self._of("originals"):
            self._try(name, lambda name=name, row=row: self._original(name, row))  # type: ignore[misc]
        self._sheets()
        for table in BESIDE:
            for row in self._listed(f"{table.replace('_', '-')}.json"):
                if table != "settings" or empty:
                    self._try(f"{table} {row.get('id', '')}", lambda table=table, row=row: self._beside(table, row))  # type: ignore[misc]
        self._of_the_desk(empty)
        self._let_go_of_what_hangs()

    def _of_the_desk(self, empty: bool) -> None:
        """Papers and colours of one's own: those not here yet are put beside those that are."""
        told = {"papers": self._listed("papers.json"), "palette": self._listed("palettes.json")}
        for row in [] if empty else self._listed("settings.json"):
            if row.get("key") in told and not told[row["key"]]:
                self._try(f"settings {row['key']}", lambda row=row: told.update({row["key"]: _as_list(row["value"])}))  # type: ignore[misc]
        for key, fresh in told.items():
            for one in fresh:
                self._try(f"{key} {one.get('name', '')}", lambda key=key, one=one: self._laid_beside(key, one))  # type: ignore[misc]

    def _laid_beside(self, key: str, one: Row) -> None:
        kept = get_settings(self.db).get(key, [])
        if any(_alike(one, other) for other in kept):
            self.came.there += 1
            return
        names = {str(other["name"]) for other in kept}
        name = str(one["name"])
        if name in names:
            name = next(f"{name[:26]} {n}" for n in range(2, 1000) if f"{name[:26]} {n}" not in names)
            self.came.twins.append(name)
        fresh = [*kept, {**one, "name": name}]
        self.setting_fits(key, fresh)
        for file in {p["file"] for p in one.get("prints", [])}:
            if not self._here("originals", {"id": file}):
                raise FormatError(f"its picture {file!r} is not here")
        set_settings(self.db, {key: fresh})
        self.came.others += 1

    def _let_go_of_what_hangs(self) -> None:
        """Rows that refer to something which did not come in would undo all of it."""
        for table, rowid, goal, _ in self.db.execute("PRAGMA foreign_key_check").fetchall():
            self.db.execute(f"DELETE FROM {table} WHERE rowid = ?", (rowid,))
            self.came.left_out.append(f"a row of {table}: what it needs of {goal} did not come in")

    def _thing(self, table: str, row: Row) -> None:
        here = self._here(table, {"id": row_id(row)})
        if here is None:
            self._insert(table, row)
            setattr(self.came, table, getattr(self.came, table) + 1)
        elif here["record"] == row["record"]:
            self.came.there += 1
        else:
            twin = self._twin(table, row["id"], str(row["record"].get("name", row["id"])))
            self._insert(table, {**row, "id": twin})
            setattr(self.came, table, getattr(self.came, table) + 1)

    def _pen(self, told: Any) -> None:
        pen, revisions = dict(told["pen"]), told["revisions"]
        here, kept = self._kept_pen(pen["id"], row_id(pen), revisions)
        if here is not None and here["created_at"] != pen.get("created_at") and not all(kept.values()):
            # of another desk, first kept at another time: its revisions are none of the pen that is here
            own = self._own_id(pen)
            self.revised |= {(pen["id"], r["revision"]): own for r in revisions}
            here, kept = self._kept_pen(own, own, revisions)
            if here is None:
                self.came.twins.append(str(revisions[-1]["recipe"].get("name", pen["id"])))
            pen["id"] = own
        apart = [r["revision"] for r in revisions if (k := kept[r["revision"]]) and k["recipe"] != r["recipe"]]
        if apart:
            name = str(revisions[-1]["recipe"].get("name", pen["id"]))
            twin = self._twin("pens", pen["id"], name)
            self.renamed.pop(("pens", pen["id"]))
            # ink of revisions that are alike stays ink of the pen that is here
            shared = {n for n, k in kept.items() if k and n not in apart}
            self.revised |= {(told["pen"]["id"], r["revision"]): twin for r in revisions if r["revision"] not in shared}
            pen["id"], here, kept = twin, None, {}
        if here is None:
            taken = (
                self._here("pens", {"roll_place": pen.get("roll_place")}) if pen.get("roll_place") is not None else None
            )
            self._insert("pens", {**pen, "roll_place": None if taken else pen.get("roll_place")})
            self.came.pens += 1
        fresh = [r for r in revisions if not kept.get(r["revision"])]
        for revision in fresh:
            unknown = sorted(set(revision["recipe"]) - KNOWN)
            if unknown:
                raise FormatError(f"its group {unknown[0][:40]!r} is not known here: it is of a later version")
            self._insert("pen_revisions", {**revision, "pen_id": pen["id"]})
            read_kept(Recipe, json.dumps(revision["recipe"]))
        if here is not None:
            self.came.there += not fresh
            self.came.pens += bool(fresh)

    def _kept_pen(self, pen_id: str, row: str, revisions: list[Row]) -> tuple[Row | None, dict[int, Row | None]]:
        """A pen as it is kept here, and of each of these revisions what is."""
        of = {r["revision"]: {"pen_id": pen_id, "revision": r["revision"]} for r in revisions}
        return self._here("pens", {"id": row}), {n: self._here("pen_revisions", key) for n, key in of.items()}

    @staticmethod
    def _own_id(pen: Row) -> str:
        """The id under which a pen of another desk lies here, the same each time it comes."""
        mark = hashlib.sha256(f"{pen['id']} {pen.get('created_at')}".encode()).hexdigest()
        return f"{pen['id'][:50]}-{mark[:10]}"

    def _original(self, name: str, row: Row) -> None:
        if self._here("originals", {"id": row_id(row)}):
            self.came.there += 1
            return
        if error := self.refused.get(name):
            raise error
        data, sizes = self.files[f"originals/{row['id']}.{row['kind']}"], self.sizes[row["id"]]
        same = np.shape(sizes) == np.shape(row["sizes_mm"]) and np.allclose(sizes, row["sizes_mm"], atol=ROUNDING_MM)
        text = json.dumps(row["sizes_mm"] if same else sizes)
        self.db.execute(
            "INSERT INTO originals (id, kind, name, sizes_mm, data, created_at) VALUES (?, ?, ?, ?, ?, ?)",
            (row["id"], row["kind"], row["name"], text, data, row["created_at"]),
        )
        self.came.others += 1

    def _sheets(self) -> None:
        sheaves: dict[str, list[tuple[str, Any]]] = {}
        for name, told in self._of("sheets"):
            try:
                sheaves.setdefault(str(told["page"]["sheaf"]), []).append((name, told))
            except Broken:
                self.came.left_out.append(f"{name}: it is damaged")
        # a copied stroke shows a trace of another page: a sheet comes after those it shows
        for pages in sheaves.values():
            names = ", ".join(name for name, _ in pages)
            self._try(names, lambda pages=pages: self._sheaf(dict(pages)))  # type: ignore[misc]

    def _sheaf(self, pages: dict[str, Any]) -> None:
        ids = [row_id(told["page"]) for told in pages.values()]
        here = [self._here("sheets", {"id": i}) for i in ids]
        twin = False
        if any(here):
            if all(h and self._same(h, told) for h, told in zip(here, pages.values(), strict=True)):
                self.came.there += 1
                return
            twin = True
            first = next(iter(pages.values()))["page"]
            for was in ids:
                self.renamed["sheets", was] = f"{was[:50]}-{uuid.uuid4().hex[:10]}"
            self.came.twins.append(str(first["name"]))
        for told in pages.values():
            self._page(told, twin)
        self.came.sheets += 1

    def _same(self, here: Row, told: Any) -> bool:
        page = told["page"]
        if any(here[c] != self._mapped("sheets", page).get(c) for c in here if c not in CHANGES):
            return False
        strokes = rows_of(self.db, "strokes", "WHERE sheet_id = ? ORDER BY place, rowid", (here["id"],))
        given = [self._mapped("strokes", s) for s in told["strokes"]]
        if len(strokes) != len(given):
            return False
        # one that went out alone brought the traces it showed with it
        alone = [
            kept if one.get("trace_of") else with_its_trace(self.db, kept, ())
            for kept, one in zip(strokes, given, strict=True)
        ]
        return alone == given

    def _page(self, told: Any, twin: bool) -> None:
        page = self._mapped("sheets", told["page"])
        for table, column in (("hands", "hand_id"), ("devices", "device_id"), ("pens", "pen_id")):
            if not self._here(table, {"id": page[column]}):
                raise FormatError(f"its {column.removesuffix('_id')} {page[column]!r} is not here")
        self._insert("sheets", page)
        for stroke in told["strokes"]:
            row_id(stroke)
            if twin:
                self.renamed["strokes", stroke["id"]] = f"{stroke['id'][:50]}-{uuid.uuid4().hex[:10]}"
        for stroke in told["strokes"]:
            mapped = self._mapped("strokes", stroke)
            if not self._known(mapped["pen_id"], mapped["revision"]):
                raise FormatError(f"its pen {mapped['pen_id']!r}, revision {mapped['revision']}, is not here")
            self._insert("strokes", mapped)
        if told.get("steps") and not twin:
            self._insert("steps", told["steps"])
        self._reads(page["id"])

    def _known(self, pen_id: str, revision: int) -> bool:
        condition = "SELECT 1 FROM pen_revisions WHERE pen_id = ? AND revision = ?"
        return self.db.execute(condition, (pen_id, revision)).fetchone() is not None

    def _reads(self, page_id: str) -> None:
        """That what came in can be read again: what cannot would spoil the desk for all the rest."""
        page = get_sheet(self.db, page_id)
        stroke_edits_of(self.db, [i for i, _, _ in stroke_index(self.db, page_id)])
        held_of(self.db, page_id)
        steps, _ = kept_steps(self.db, page_id)
        if not all(isinstance(steps[way], list) for way in ("past", "future")) or not page.name.isprintable():
            raise FormatError("it is damaged")

    def _beside(self, table: str, row: Row) -> None:
        keys = KEYS.get(table, ("id",))
        mapped = self._mapped(table, row)
        if table == "trials":
            mapped |= {c: self._followed(mapped[c]) for c in ("inputs", "results")}
        if table == "notes":
            if len(row["note"]) > LONGEST_NOTE or not row["note"].isprintable():
                raise FormatError(f"a note has up to {LONGEST_NOTE} printable letters")
            mapped["id"] = self.renamed.get((NOTED.get(row["kind"], ""), row["id"]), row["id"])
        here = self._here(table, {k: mapped[k] for k in keys})
        if here is not None and (keys != ("id",) or _same_run(here, mapped)):
            self.came.there += 1
            if table in ("press_fits", "palm_settings") and not _same_run(here, mapped):
                self.came.left_out.append(f"{table.replace('_', ' ')}: this hand on this device has others here")
            return
        if here is not None:
            inputs = row.get("inputs") or {}
            name = inputs.get("name") or inputs.get("judge") or table.replace("_", " ")
            mapped["id"] = self._twin(table, row["id"], str(name)[:80])
        elif keys == ("id",):
            row_id(mapped)
        if table == "settings":
            value = row["value"]
            self.setting_fits(str(row["key"]), json.loads(value) if isinstance(value, str) else value)
        self._insert(table, mapped)
        if table == "trials":
            READ_BACK[mapped["kind"]](self.db, mapped["id"])
        self.came.others += 1


def _as_list(value: Any) -> list[Row]:
    found = json.loads(value) if isinstance(value, str) else value
    if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
        raise FormatError("it is no list")
    return found


def _alike(one: Row, other: Row) -> bool:
    """Whether two papers or colours are the same but for which version wrote them."""
    return json.dumps(one, sort_keys=True) == json.dumps(other, sort_keys=True)


def _same_run(here: Row, told: Row) -> bool:
    """Whether rows say the same, whenever they came."""
    return {c: v for c, v in here.items() if c != "created_at"} == {c: told.get(c) for c in here if c != "created_at"}
