"""Rows of an archive on their way into a database: read, mapped to the ids they have here, inserted or left out."""

import base64
import binascii
import dataclasses
import json
import re
import sqlite3
import uuid
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from gray_quill.core.errors import FormatError, GrayQuillError, TooLarge
from gray_quill.core.trace import COLUMNS, make_trace
from gray_quill.store.archive import Row, plain
from gray_quill.store.database import transaction
from gray_quill.store.trace_blob import pack_trace, unpack_trace

Files = Mapping[str, Any]
MOST_ROWS = 20_000  # of a table
BLOBS = {("palm_told", "contacts")}
ID = re.compile(r"[A-Za-z0-9][A-Za-z0-9-]{0,79}")
REFERS = {
    "pen_id": "pens",
    "hand_id": "hands",
    "device_id": "devices",
    "sheet_id": "sheets",
    "sheaf": "sheets",
    "trace_of": "strokes",
}
Unfit = (sqlite3.IntegrityError, sqlite3.InterfaceError, sqlite3.ProgrammingError)
Broken = (GrayQuillError, *Unfit, KeyError, TypeError, ValueError, AttributeError, OverflowError)


@dataclasses.dataclass
class CameIn:
    """How many pens, sheets, hands, devices and other things came in; there: how many were there already; twins: names
    of those that came in beside another of their id; left_out: what could not, and why.
    """

    pens: int = 0
    sheets: int = 0
    hands: int = 0
    devices: int = 0
    others: int = 0
    there: int = 0
    twins: list[str] = dataclasses.field(default_factory=list)
    left_out: list[str] = dataclasses.field(default_factory=list)

    def words(self, only_looked: bool = False) -> str:
        """What came in, in words, or would come."""
        counts = {"pens": self.pens, "sheets": self.sheets, "hands": self.hands, "devices": self.devices}
        counts |= {"other things": self.others}
        came = ", ".join(f"{n} {kind if n != 1 else kind.removesuffix('s')}" for kind, n in counts.items() if n)
        beside = f"; beside another of their own name: {', '.join(self.twins)}" if self.twins else ""
        comes, were = ("would come in", "are") if only_looked else ("came in", "were")
        return f"{came or 'Nothing new'} {comes}, {self.there} {were} there already{beside}."


def _blob(told: Any) -> bytes:
    if isinstance(told, str):
        blob = base64.b64decode(told, validate=True)
        unpack_trace(blob)
        return blob
    if not told:
        return b""
    columns = {name: told[name] for name in COLUMNS}
    trace = make_trace(**columns, begun_s=told.get("begun_s"))
    if len(columns["t_s"]) != len(trace):
        raise FormatError("it holds a trace with two samples at once")
    return pack_trace(trace)


class ComingRows:
    """An archive's rows, and which ids they get where another thing has theirs."""

    def __init__(
        self,
        db: sqlite3.Connection,
        files: Files,
        checked: Callable[[str, bytes], list[Any]],
        setting_fits: Callable[[str, Any], object],
        step: Callable[[], object] = lambda: None,
    ) -> None:
        """checked: the sizes of a picture or document, or a refusal; setting_fits: refuses a setting that is none; step
        is called before each row, and what it raises ends it all.
        """
        self.db, self.files, self.checked, self.setting_fits, self.step = db, files, checked, setting_fits, step
        self.came = CameIn()
        self.renamed: dict[tuple[str, str], str] = {}  # (table, id there) -> id here
        self.revised: dict[tuple[str, int], str] = {}  # (pen there, revision) -> pen here

    def _of(self, folder: str) -> Iterator[tuple[str, Any]]:
        return ((n, f) for n, f in self.files.items() if n.startswith(f"{folder}/") and n.endswith(".json"))

    def _try(self, name: str, work: Callable[[], None]) -> bool:
        """Bring one thing in whole, or not at all."""
        self.step()
        try:
            with transaction(self.db):
                work()
            return True
        except Broken as error:
            words = error.message if isinstance(error, GrayQuillError) else f"it is damaged ({type(error).__name__})"
            self.came.left_out.append(f"{name}: {words}")
            return False

    def _insert(self, table: str, row: Row) -> None:
        known = {c["name"] for c in self.db.execute(f"PRAGMA table_info({table})")}
        values = {c: self._kept(table, c, v) for c, v in row.items() if c in known}
        columns, marks = ", ".join(values), ", ".join("?" * len(values))
        self.db.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", list(values.values()))

    @staticmethod
    def _kept(table: str, column: str, value: Any) -> Any:
        if (table, column) == ("strokes", "trace"):
            return _blob(value)
        if (table, column) in BLOBS:
            try:
                return base64.b64decode(value, validate=True)
            except binascii.Error:
                raise FormatError("bytes that are none") from None
        return json.dumps(value) if isinstance(value, (dict, list)) else value

    def _here(self, table: str, key: Mapping[str, Any]) -> Row | None:
        where = " AND ".join(f"{c} = ?" for c in key)
        rows = self.db.execute(f"SELECT * FROM {table} WHERE {where}", list(key.values())).fetchall()
        return {name: plain(table, name, rows[0][name]) for name in rows[0].keys()} if rows else None  # noqa: SIM118

    def _listed(self, name: str) -> list[Any]:
        """The rows of a file that holds a list of them."""
        found = self.files.get(name)
        if not (found is None or (isinstance(found, list) and all(isinstance(row, dict) for row in found))):
            self.came.left_out.append(f"{name}: it is no list of rows")
            return []
        if found and len(found) > MOST_ROWS:
            raise TooLarge(f"{name} of this archive holds over {MOST_ROWS} rows. Take less out at a time.")
        return found or []

    def _twin(self, table: str, was: str, name: str) -> str:
        """A new id for what comes in beside another of its own."""
        new = f"{was[:50]}-{uuid.uuid4().hex[:10]}"
        self.renamed[table, was] = new
        self.came.twins.append(name)
        return new

    def _mapped(self, table: str, row: Row) -> Row:
        """A row with the ids its references have here."""
        new = {c: self.renamed.get((REFERS[c], v), v) if c in REFERS else v for c, v in row.items()}
        if "revision" in row and "pen_id" in row:
            new["pen_id"] = self.revised.get((row["pen_id"], row["revision"]), row["pen_id"])
        if "id" in row:
            new["id"] = self.renamed.get((table, row["id"]), row["id"])
        return new

    def _followed(self, value: Any) -> Any:
        """What a run tells, its references by the ids they have here."""
        if isinstance(value, list):
            return [self._followed(one) for one in value]
        if not isinstance(value, dict):
            return value
        named = {c: v for c, v in value.items() if c in REFERS and isinstance(v, str)}
        if named and isinstance(value.get("revision"), int):
            named["revision"] = value["revision"]
        return {c: self._followed(v) for c, v in value.items()} | self._mapped("", named)


def row_id(row: Row) -> str:
    """The id of a row. Raises FormatError for what no id is."""
    if not isinstance(row.get("id"), str) or not ID.fullmatch(row["id"]):
        raise FormatError("it has no name that could be one")
    return str(row["id"])
