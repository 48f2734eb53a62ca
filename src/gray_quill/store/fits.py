"""Press records fitted to a hand on a device, remembered for that pair."""

import sqlite3

from gray_quill.core.digitiser.device import Device
from gray_quill.core.hand.hand import Hand
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.store.database import now, transaction
from gray_quill.store.items import get_thing
from gray_quill.store.kept import read_kept, written
from gray_quill.store.seen import check_seen


def keep_fit(db: sqlite3.Connection, hand_id: str, device_id: str, press: Press, seen: Press | None = None) -> None:
    """Remember the fit of this hand on this device; a new one takes the place of the old, which is told where it is not
    the one that was seen.
    """
    with transaction(db):
        check_seen(seen, kept_fit(db, hand_id, device_id), "The fit of this hand on this device was")
        db.execute(
            "INSERT INTO press_fits (hand_id, device_id, press, created_at) VALUES (?, ?, ?, ?) "
            "ON CONFLICT (hand_id, device_id) DO UPDATE SET press = excluded.press, created_at = excluded.created_at",
            (hand_id, device_id, written(press), now()),
        )


def kept_fit(db: sqlite3.Connection, hand_id: str, device_id: str) -> Press | None:
    """The remembered fit of this pair, or None."""
    _known(db, hand_id, device_id)
    row = db.execute(
        "SELECT press FROM press_fits WHERE hand_id = ? AND device_id = ?", (hand_id, device_id)
    ).fetchone()
    return read_kept(Press, row["press"]) if row else None


def _known(db: sqlite3.Connection, hand_id: str, device_id: str) -> None:
    """A NotFoundError names a hand or a device that is not there."""
    get_thing(db, Hand, hand_id)
    get_thing(db, Device, device_id)
