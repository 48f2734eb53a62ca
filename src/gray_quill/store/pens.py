"""Pens and their revisions. A revision is never changed; strokes point at the one that drew them.

A pen also writes with changes that are not kept. What it was then is a draft: a row like a revision, numbered -1,
-2 ... It is no part of the history. When the same recipe is kept, the ink of its draft is ink of that revision."""

import dataclasses
import json
import sqlite3
from collections.abc import Sequence

from gray_quill.core.errors import Binned, Conflict, NotFound, Stale
from gray_quill.core.pen.recipe import Recipe, write_recipe
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept
from gray_quill.store.seen import check_seen

ROLL_PLACES = 10


@dataclasses.dataclass(frozen=True)
class Pen:
    """A pen as kept, at one revision. roll_place: 0..9 on the roll, or None. newest: its latest revision."""

    id: str
    revision: int
    newest: int
    recipe: Recipe
    note: str
    created_at: str
    roll_place: int | None
    binned: bool


_SELECT = """
    SELECT p.id, p.roll_place, p.binned_at, r.revision, r.recipe, r.note, r.created_at,
           (SELECT max(revision) FROM pen_revisions WHERE pen_id = p.id) AS newest
    FROM pens p JOIN pen_revisions r ON r.pen_id = p.id
"""


def _pen(row: sqlite3.Row) -> Pen:
    return Pen(
        row["id"],
        row["revision"],
        row["newest"],
        read_kept(Recipe, row["recipe"]),
        row["note"],
        row["created_at"],
        row["roll_place"],
        row["binned_at"] is not None,
    )


def get_pen(db: sqlite3.Connection, pen_id: str, revision: int | None = None) -> Pen:
    """A pen at a revision, the newest by default."""
    rows = db.execute(_SELECT + "WHERE p.id = ? ORDER BY r.revision DESC", (pen_id,)).fetchall()
    if not rows:
        raise NotFound(f"There is no pen {pen_id!r}. Choose one from the roll or the list.", "pen_id")
    for row in rows:
        if revision in (None, row["revision"]):
            return _pen(row)
    raise NotFound(f"Pen {pen_id!r} has no revision {revision}; its newest is {rows[0]['newest']}.", "revision")


def pen_history(db: sqlite3.Connection, pen_id: str) -> list[Pen]:
    """All revisions, newest first, without drafts."""
    get_pen(db, pen_id)
    condition = "WHERE p.id = ? AND r.revision > 0 ORDER BY r.revision DESC"
    return [_pen(row) for row in db.execute(_SELECT + condition, (pen_id,))]


def list_pens(db: sqlite3.Connection, binned: bool = False) -> list[Pen]:
    """Every pen at its newest revision, those on the roll first in its order."""
    condition = (
        "WHERE (p.binned_at IS NULL) = ? AND r.revision = newest ORDER BY p.roll_place IS NULL, "
        "p.roll_place, p.created_at, p.rowid"
    )
    return [_pen(row) for row in db.execute(_SELECT + condition, (not binned,))]


def add_pen(db: sqlite3.Connection, pen_id: str, recipe: Recipe, note: str = "", on_roll: bool = False) -> Pen:
    """Keep a new pen as revision 1, on the roll's first free place if asked and there is one."""
    with transaction(db):
        if db.execute("SELECT 1 FROM pens WHERE id = ?", (pen_id,)).fetchone():
            raise Conflict(
                f"There is a pen {pen_id!r} already. Save it as a revision, or give the new one another id.", "id"
            )
        taken = {row[0] for row in db.execute("SELECT roll_place FROM pens WHERE roll_place IS NOT NULL")}
        free = next((place for place in range(ROLL_PLACES) if place not in taken), None) if on_roll else None
        db.execute("INSERT INTO pens (id, roll_place, created_at) VALUES (?, ?, ?)", (pen_id, free, now()))
        _insert_revision(db, pen_id, 1, recipe, note)
    return get_pen(db, pen_id)


def add_revision(db: sqlite3.Connection, pen_id: str, recipe: Recipe, note: str = "", saw: int | None = None) -> Pen:
    """Keep a changed recipe as the pen's next revision. Raises Stale when `saw` is no longer its newest one."""
    with transaction(db):
        pen = get_pen(db, pen_id)
        if saw is not None and saw != pen.newest:
            raise Stale(
                f"Revision {pen.newest} of {pen.recipe.name} was kept elsewhere meanwhile. Yours is not kept yet: keep "
                f"it as revision {pen.newest + 1}, or go back to theirs."
            )
        made = pen.newest + 1
        _insert_revision(db, pen_id, made, recipe, note)
        drafts = [r for r, written_with in _recipes(db, pen_id) if r < 0 and written_with == recipe]
        db.executemany(
            "UPDATE strokes SET revision = ? WHERE pen_id = ? AND revision = ?", [(made, pen_id, r) for r in drafts]
        )
        return get_pen(db, pen_id)


def written_revision(db: sqlite3.Connection, pen_id: str, recipe: Recipe) -> int:
    """Where a stroke written with this recipe points: the pen's newest revision that is the same, or else its draft,
    which is made when there is none. Raises NotFound when there is no such pen."""
    with transaction(db):
        get_pen(db, pen_id)
        there = _recipes(db, pen_id)
        for revision, known in there:
            if known == recipe:
                return revision
        draft = min(0, *(revision for revision, _ in there)) - 1
        _insert_revision(db, pen_id, draft, recipe, "")
        return draft


def _recipes(db: sqlite3.Connection, pen_id: str) -> list[tuple[int, Recipe]]:
    """Everything a pen is or was, revisions first, the newest first, then drafts."""
    rows = db.execute("SELECT revision, recipe FROM pen_revisions WHERE pen_id = ? ORDER BY revision DESC", (pen_id,))
    return [(r["revision"], read_kept(Recipe, r["recipe"])) for r in rows]


def _insert_revision(db: sqlite3.Connection, pen_id: str, revision: int, recipe: Recipe, note: str) -> None:
    db.execute(
        "INSERT INTO pen_revisions (pen_id, revision, recipe, note, created_at) VALUES (?, ?, ?, ?, ?)",
        (pen_id, revision, json.dumps(write_recipe(recipe)), note, now()),
    )


def set_roll(db: sqlite3.Connection, pen_ids: Sequence[str], seen: Sequence[str] | None = None) -> None:
    """Put these pens on the roll, in this order; all others leave it. Raises Stale where others are there than were
    seen.
    """
    if len(pen_ids) > ROLL_PLACES or len(set(pen_ids)) != len(pen_ids):
        raise Conflict(f"The roll holds up to {ROLL_PLACES} different pens.", "pen_ids")
    with transaction(db):
        rows = db.execute("SELECT id FROM pens WHERE roll_place IS NOT NULL AND binned_at IS NULL ORDER BY roll_place")
        check_seen(seen, [row["id"] for row in rows], "The roll was")
        for pen_id in pen_ids:
            if get_pen(db, pen_id).binned:
                raise Binned(f"The pen {pen_id!r} is in the bin. Put it back before it goes on the roll.", "pen_ids")
        db.execute("UPDATE pens SET roll_place = NULL")
        db.executemany("UPDATE pens SET roll_place = ? WHERE id = ?", list(enumerate(pen_ids)))


def bin_pen(db: sqlite3.Connection, pen_id: str, binned: bool) -> None:
    """Move a pen to the bin or back; its ink and revisions stay."""
    get_pen(db, pen_id)
    with transaction(db):
        db.execute(
            "UPDATE pens SET binned_at = ?, roll_place = CASE WHEN ? THEN NULL ELSE roll_place END WHERE id = ?",
            (now() if binned else None, binned, pen_id),
        )
