"""Palm rules and posture remembered for a hand on a device."""

import sqlite3

from gray_quill.core.palm.posture import Posture
from gray_quill.core.palm.rules import Rules
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written
from gray_quill.store.seen import check_seen


def keep_setting(
    db: sqlite3.Connection,
    hand_id: str,
    device_id: str,
    rules: Rules,
    posture: Posture | None,
    seen: Rules | None = None,
) -> None:
    """Remember the rules and posture of this pair; new ones take the place of the old. Raises Stale where others are
    kept than were seen.
    """
    with transaction(db):
        kept = kept_setting(db, hand_id, device_id)
        check_seen(seen, kept and kept[0], "The palm rules of this hand on this device were")
        db.execute(
            "INSERT INTO palm_settings (hand_id, device_id, rules, posture, created_at) VALUES (?, ?, ?, ?, ?) "
            "ON CONFLICT (hand_id, device_id) "
            "DO UPDATE SET rules = excluded.rules, posture = excluded.posture, created_at = excluded.created_at",
            (hand_id, device_id, written(rules), posture and written(posture), now()),
        )


def kept_setting(db: sqlite3.Connection, hand_id: str, device_id: str) -> tuple[Rules, Posture | None] | None:
    """The remembered rules and posture of this pair, or None."""
    row = db.execute(
        "SELECT rules, posture FROM palm_settings WHERE hand_id = ? AND device_id = ?", (hand_id, device_id)
    ).fetchone()
    if row is None:
        return None
    return read_kept(Rules, row["rules"]), row["posture"] and read_kept(Posture, row["posture"])
