"""Who may come in from the room: the access key, the secret that signs cookies, and the browsers that came."""

import contextlib
import dataclasses
import json
import os
import pathlib
import secrets
import sqlite3

from gray_quill.core.errors import NotFound, Unavailable
from gray_quill.store.database import now, transaction

FILE = "room.json"
KEY_LETTERS = 24
SEEN_EVERY_S = 60  # how finely it is noted when a browser was last seen


@dataclasses.dataclass(frozen=True)
class Secrets:
    """key: lets a browser in; cookies: signs what it is given then."""

    key: str
    cookies: str


@dataclasses.dataclass(frozen=True)
class Browser:
    """A browser that came in; address: where it was last seen from."""

    id: str
    name: str
    address: str
    first_seen: str
    last_seen: str


def room_secrets(data: pathlib.Path, renew: bool = False) -> Secrets:
    """The kept secrets, made where there are none; renew: with a new key. Raises Unavailable where none can be kept."""
    path = data / FILE
    try:
        kept = json.loads(path.read_bytes()) if path.is_file() else {}
    except ValueError:
        kept = {}
    if not renew and {"key", "cookies"} <= kept.keys():
        return Secrets(str(kept["key"]), str(kept["cookies"]))
    found = Secrets(new_key(), str(kept.get("cookies") or secrets.token_hex(32)))
    try:
        data.mkdir(parents=True, exist_ok=True)
        fresh = path.with_suffix(".new")
        fresh.unlink(missing_ok=True)
        fresh.touch(mode=0o600)
        fresh.write_text(json.dumps(dataclasses.asdict(found)))
        os.replace(fresh, path)
    except OSError as error:
        raise Unavailable(f"The access key cannot be kept in {data} ({error.strerror}). Let it be written.") from None
    return found


def new_key() -> str:
    """Letters that are easily read and typed; 24 of 31 hold 118 bits."""
    alphabet = "abcdefghjkmnpqrstuvwxyz23456789"
    return "".join(secrets.choice(alphabet) for _ in range(KEY_LETTERS))


def let_in(db: sqlite3.Connection, address: str) -> str:
    """A browser came with the key; its id."""
    with transaction(db):
        count = int(db.execute("SELECT count(*) FROM browsers").fetchone()[0])
        browser_id = f"browser-{secrets.token_hex(8)}"
        db.execute(
            "INSERT INTO browsers (id, name, address, first_seen, last_seen) VALUES (?, ?, ?, ?, ?)",
            (browser_id, f"screen {count + 1}", address, now(), now()),
        )
    return browser_id


def is_in(db: sqlite3.Connection, browser_id: str, address: str) -> bool:
    """Whether a browser that came in was not signed out since; notes that it was seen."""
    row = db.execute(
        "SELECT address, unixepoch() - unixepoch(last_seen) AS ago FROM browsers WHERE id = ? AND out_at IS NULL",
        (browser_id,),
    ).fetchone()
    if row is None:
        return False
    if row["ago"] is None or row["ago"] > SEEN_EVERY_S or row["address"] != address:
        with contextlib.suppress(sqlite3.Error), transaction(db):  # a full disk keeps nobody out
            db.execute("UPDATE browsers SET last_seen = ?, address = ? WHERE id = ?", (now(), address, browser_id))
    return True


def is_known(db: sqlite3.Connection, browser_id: str) -> bool:
    """The same, without a note."""
    return bool(db.execute("SELECT 1 FROM browsers WHERE id = ? AND out_at IS NULL", (browser_id,)).fetchone())


def browsers_in(db: sqlite3.Connection) -> list[Browser]:
    """Those that may come in without the key, the latest first."""
    rows = db.execute("SELECT * FROM browsers WHERE out_at IS NULL ORDER BY last_seen DESC, first_seen DESC")
    return [Browser(r["id"], r["name"], r["address"], r["first_seen"], r["last_seen"]) for r in rows]


def sign_out(db: sqlite3.Connection, browser_id: str) -> None:
    """It needs the key from now on."""
    with transaction(db):
        done = db.execute("UPDATE browsers SET out_at = ? WHERE id = ? AND out_at IS NULL", (now(), browser_id))
    if not done.rowcount:
        raise NotFound("This screen is not signed in any more.", "browser_id")
