"""What covers the ink of a page."""

import json
import sqlite3
from collections.abc import Sequence

from gray_quill.core.errors import InputError, Stale
from gray_quill.core.ink.cover import MOST_COVERS, Cover
from gray_quill.store.database import transaction
from gray_quill.store.kept import VERSION, written
from gray_quill.store.sheets import Sheet, count_changes, get_sheet


def set_covers(db: sqlite3.Connection, page_id: str, covers: Sequence[Cover], saw: int | None = None) -> Sheet:
    """Lay these covers on a page, in place of those there. Raises Stale when the page is no longer the version that
    was seen, InputError for more than a page has, or two of one id.
    """
    if len(covers) > MOST_COVERS or len({c.id for c in covers}) < len(covers):
        raise InputError(f"A page has up to {MOST_COVERS} covers, each with an id of its own.", "covers")
    with transaction(db):
        page = get_sheet(db, page_id)
        if saw is not None and saw != page.version:
            raise Stale("This page was changed elsewhere meanwhile. Look at it, then cover it again.")
        text = json.dumps({"version": VERSION, "covers": [json.loads(written(one)) for one in covers]})
        db.execute("UPDATE sheets SET covers = ? WHERE id = ?", (text if covers else None, page_id))
        count_changes(db, [page_id])
    return get_sheet(db, page_id)
