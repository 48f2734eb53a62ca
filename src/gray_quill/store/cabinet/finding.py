"""Things found by words, kind, date and use. SQLite's FTS5 answers; triggers of the schema keep its list."""

import dataclasses
import re
import sqlite3

from gray_quill.core.errors import InputError, NotFound, unknown_choice
from gray_quill.store.cabinet.kinds import KINDS

WORD = re.compile(r"\w+")
MOST_WORDS = 12
USES = ("any", "used", "unused")
# What uses a thing; the same places `uses.py` tells one by one
USED = {
    "pen": "EXISTS (SELECT 1 FROM strokes k WHERE k.pen_id = t.id) OR EXISTS "
    "(SELECT 1 FROM sheets k WHERE k.pen_id = t.id) OR EXISTS (SELECT 1 FROM trials k WHERE k.pen_id = t.id)",
    "hand": "EXISTS (SELECT 1 FROM sheets k WHERE k.hand_id = t.id) OR EXISTS "
    "(SELECT 1 FROM trials k WHERE k.hand_id = t.id)",
    "device": "EXISTS (SELECT 1 FROM sheets k WHERE k.device_id = t.id) OR EXISTS "
    "(SELECT 1 FROM trials k WHERE k.device_id = t.id)",
    "picture": "EXISTS (SELECT 1 FROM sheets k WHERE instr(k.prints, '\"' || t.id || '\"'))",
}
USED["document"] = USED["picture"]


@dataclasses.dataclass(frozen=True)
class Thing:
    """Something that is kept. made_at: empty where it is not known. binned_at: since when it lies in the bin."""

    kind: str
    id: str
    name: str
    note: str
    made_at: str
    binned_at: str | None


@dataclasses.dataclass(frozen=True)
class Wanted:
    """words: each must begin a word of the name, of what is said of it or of its note. since, until: days of making,
    like 2026-11-28, both included. use: of USES; unused is told of pens, hands, devices, pictures and documents.
    """

    words: str = ""
    kind: str = ""
    since: str = ""
    until: str = ""
    use: str = "any"
    binned: bool = False


@dataclasses.dataclass(frozen=True)
class Found:
    """things: those of the page asked for; count: how many there are; by_kind: how many of each kind, whatever kind was
    asked for."""

    things: list[Thing]
    count: int
    by_kind: dict[str, int]


def find(db: sqlite3.Connection, wanted: Wanted, first: int = 0, most: int = 24) -> Found:
    """Things that are wanted: with words the likest first, else the newest first."""
    source, where, values = _asked(wanted)
    by_kind = dict(
        db.execute(f"SELECT t.kind, count(*) FROM {source} WHERE {where} GROUP BY t.kind", values).fetchall()
    )
    if wanted.kind:
        where, values = f"{where} AND t.kind = ?", [*values, wanted.kind]
    order = "bm25(things_said, 10, 2, 4), t.made_at DESC" if "things_said" in source else "t.made_at DESC"
    rows = db.execute(
        f"SELECT t.kind, t.id, t.name, t.note, t.made_at, t.binned_at FROM {source} WHERE {where} "
        f"ORDER BY {order}, t.place DESC LIMIT ? OFFSET ?",
        [*values, most, first],
    )
    count = by_kind.get(wanted.kind, 0) if wanted.kind else sum(by_kind.values())
    return Found([Thing(*row) for row in rows], count, {k: by_kind[k] for k in KINDS if k in by_kind})


def _asked(wanted: Wanted) -> tuple[str, str, list[object]]:
    """From where, under which condition, with which values."""
    if wanted.kind and wanted.kind not in KINDS:
        raise unknown_choice("The kind", wanted.kind, KINDS, "kind")
    if wanted.use not in USES:
        raise unknown_choice("The use", wanted.use, USES, "use")
    words = WORD.findall(wanted.words)
    if len(words) > MOST_WORDS:
        raise InputError(f"Look for up to {MOST_WORDS} words at once.", "words")
    if wanted.words.strip() and not words:
        raise InputError("Look for words or numbers; signs alone are not found.", "words")
    source, where, values = "things t", [f"t.binned_at IS {'NOT ' if wanted.binned else ''}NULL"], list[object]()
    if words:
        source = "things_said JOIN things t ON t.place = things_said.rowid"
        where.append("things_said MATCH ?")
        values.append(" ".join(f'"{word}"*' for word in words))
    if wanted.since:
        where.append("t.made_at >= ?")
        values.append(wanted.since)
    if wanted.until:
        where.append("t.made_at <> '' AND substr(t.made_at, 1, 10) <= ?")
        values.append(wanted.until)
    if wanted.use != "any":
        told = " OR ".join(f"(t.kind = '{kind}' AND ({used}))" for kind, used in USED.items())
        kinds = ", ".join(f"'{kind}'" for kind in USED)
        where.append(f"({told})" if wanted.use == "used" else f"t.kind IN ({kinds}) AND NOT ({told})")
    return source, " AND ".join(where), values


def get_kept(db: sqlite3.Connection, kind: str, thing_id: str) -> Thing:
    """One thing. Raises NotFound."""
    if kind not in KINDS:
        raise unknown_choice("The kind", kind, KINDS, "kind")
    row = db.execute(
        "SELECT kind, id, name, note, made_at, binned_at FROM things WHERE kind = ? AND id = ?", (kind, thing_id)
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no {KINDS[kind].words} {thing_id[:80]!r} any more. Look for it again.", "id")
    return Thing(*row)
