"""What hands feel of delay, kept with every turn it was told from; the newest of a hand counts."""

import dataclasses
import sqlite3
import uuid
from collections.abc import Sequence

from gray_quill.core.errors import NotFound
from gray_quill.core.latency.noticeable_delay import Felt
from gray_quill.core.latency.staircase import Turn
from gray_quill.core.quantities import record_json
from gray_quill.store.database import now, transaction
from gray_quill.store.kept import read_kept, written


@dataclasses.dataclass(frozen=True)
class KeptFelt:
    """pen, device: the names of what it was written with and on."""

    id: str
    created_at: str
    pen: str
    device: str
    felt: Felt


def keep_felt(
    db: sqlite3.Connection, hand_id: str, pen: str, device: str, turns: Sequence[Turn], felt: Felt
) -> KeptFelt:
    """Keep what a session came to."""
    kept = KeptFelt(f"felt-{uuid.uuid4().hex[:12]}", now(), pen, device, felt)
    with transaction(db):
        db.execute(
            "INSERT INTO felt (id, hand_id, pen, device, turns, felt, created_at) VALUES (?, ?, ?, ?, ?, ?, ?)",
            (
                kept.id,
                hand_id,
                pen,
                device,
                written({"turns": [record_json(t) for t in turns]}),
                written(felt),
                kept.created_at,
            ),
        )
    return kept


def felt_of(db: sqlite3.Connection, hand_id: str) -> KeptFelt | None:
    """The newest of a hand that is not in the bin."""
    row = db.execute(
        "SELECT * FROM felt WHERE hand_id = ? AND binned_at IS NULL ORDER BY created_at DESC, rowid DESC LIMIT 1",
        (hand_id,),
    ).fetchone()
    if row is None:
        return None
    return KeptFelt(row["id"], row["created_at"], row["pen"], row["device"], read_kept(Felt, row["felt"]))


def bin_felt(db: sqlite3.Connection, felt_id: str, binned: bool) -> None:
    """Put one into the bin, or back."""
    with transaction(db):
        found = db.execute("UPDATE felt SET binned_at = ? WHERE id = ?", (now() if binned else None, felt_id))
    if not found.rowcount:
        raise NotFound(f"There is no kept threshold {felt_id!r}.", "felt_id")
