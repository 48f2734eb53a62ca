"""SIGKILL at random moments: under two writing clients, in migrations, in backups, in first starts, while an archive
comes in, on the way back to a backup, and in changes of much at once: the bin emptied,
layers merged, ink and sheets binned.

    make trial-kills N=1000 SEED=1

The clients keep a ledger of their own: what they sent, byte for byte, and what was confirmed. A confirmed stroke that
is not there afterwards, or differs, is lost; one that is there twice, or was never sent, is doubled. Not tested: the
machine losing its power, since a killed process leaves what it wrote with the operating system.
"""

import argparse
import contextlib
import gzip
import http.client
import json
import pathlib
import random
import shutil
import sqlite3
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable

from gray_quill.core.ink.layer import FIRST
from gray_quill.core.trace import make_trace
from gray_quill.demo.build import ROLL, stock
from gray_quill.formats.archive_zip import write_archive
from gray_quill.store.archive import archived
from gray_quill.store.backups import FOLDER, back_up, list_backups
from gray_quill.store.database import FILE, connect
from gray_quill.store.health import examine
from gray_quill.store.kept import VERSION
from gray_quill.store.pens import list_pens
from gray_quill.store.schema import newest
from gray_quill.store.sheets import list_sheets
from gray_quill.store.trace_blob import pack_trace
from tests.browser.driver import free_port
from tests.store.test_going_back import state
from tests.zygote import Child, Zygote

GOLDEN = pathlib.Path(__file__).parents[1] / "store" / "golden"
SHEETS = ("one", "two")
KINDS = {"writing": 0.4, "first start": 0.1, "migration": 0.1, "backup": 0.1, "bringing in": 0.1, "going back": 0.1}
KINDS |= {"changing": 0.2}
START_S = 60.0


class Ledger:
    """What a client sent and what was confirmed. It sends again what was not, under the same ids, as the screens do."""

    def __init__(self, sheet: str, seed: int) -> None:
        self.sheet, self.rng = sheet, random.Random(f"{seed} {sheet}")
        self.sent: dict[str, bytes] = {}
        self.bodies: dict[str, dict[str, object]] = {}
        self.confirmed: set[str] = set()
        self.faults: list[str] = []

    def write_until(self, port: int, stop: threading.Event) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
        with contextlib.closing(connection), contextlib.suppress(OSError, http.client.HTTPException):
            while not stop.is_set():
                fresh = [self.stroke() for _ in range(self.rng.choice((1, 1, 1, 4)))]
                for stroke in fresh:
                    self.bodies[str(stroke["id"])] = stroke
                batch = list(self.bodies.values())[:50]
                connection.request(
                    "POST",
                    f"/api/sheets/{self.sheet}/strokes",
                    json.dumps({"strokes": batch}),
                    {"Content-Type": "application/json"},
                )
                reply = connection.getresponse()
                answer = json.loads(reply.read())
                if reply.status != 200:
                    self.faults.append(f"{reply.status} {answer}")
                    return
                for told in answer["answers"]:
                    if told["state"] == "refused":
                        self.faults.append(str(told))
                    self.confirmed.add(told["id"])
                    del self.bodies[told["id"]]

    def stroke(self) -> dict[str, object]:
        n, stroke_id = self.rng.randint(1, 60), f"{self.sheet}-{len(self.sent)}"
        columns = {
            "t_ms": [float(8 * k) for k in range(n)],
            "x_mm": [self.rng.uniform(0, 140) for _ in range(n)],
            "y_mm": [self.rng.uniform(0, 200) for _ in range(n)],
            "force": [self.rng.random() for _ in range(n)],
        }
        t_s = [t / 1000 for t in columns["t_ms"]]
        self.sent[stroke_id] = pack_trace(make_trace(t_s, columns["x_mm"], columns["y_mm"], columns["force"]))
        return {"id": stroke_id, "pen_id": "fen-fountain", "revision": 1, **columns}


class Kills:
    def __init__(self, folder: pathlib.Path, seed: int) -> None:
        self.folder, self.rng = folder, random.Random(seed)
        self.zygote = Zygote(folder)
        self.done: Counter[str] = Counter()
        self.faults: list[str] = []
        self.desk = folder / "desk"
        stock(self.desk)
        self.ledgers = [Ledger(sheet, seed) for sheet in SHEETS]
        made = "INSERT INTO sheets (id, name, kind, paper, hand_id, device_id, pen_id, created_at) VALUES "
        values = "(?, ?, 'free', '{}', 'left-steep', 'tablet-11', 'fen-fountain', '')"
        with contextlib.closing(connect(self.desk)) as db:
            for sheet in SHEETS:
                db.execute(made + values, (sheet, sheet))
        self.grown = folder / "grown"  # a database large enough for a backup to take some time
        shutil.copytree(self.desk, self.grown)
        with contextlib.closing(connect(self.grown)) as db:
            db.execute("BEGIN")
            rows = [(f"g{k}", "one", k, "fen-fountain", 1, b"GQT1" + bytes(20_000), "") for k in range(400)]
            db.executemany(
                "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at) VALUES "
                "(?, ?, ?, ?, ?, ?, ?)",
                rows,
            )
            db.execute("COMMIT")
        back_up(self.grown)
        self.moved = folder / "moved"  # one that things come into, or that goes back
        self.archive = folder / "archive.zip"
        with contextlib.closing(connect(self.grown)) as db:
            db.execute(
                "UPDATE strokes SET trace = ?", (pack_trace(make_trace([0.0, 0.01], [1, 2], [1, 2], [0.5, 0.5])),)
            )
            self.archive.write_bytes(write_archive(archived(db)))
        self.inked = folder / "inked"  # one whose ink is changed while it is killed
        shutil.copytree(self.desk, self.inked)
        with contextlib.closing(connect(self.inked)) as db:
            blob = pack_trace(make_trace([0.0, 0.01], [1, 2], [1, 2], [0.5, 0.5]))
            db.executemany(
                "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at, layer) VALUES "
                "(?, ?, ?, 'fen-fountain', 1, ?, '', 'upper')",
                [(f"i{k}", SHEETS[k % 2], k, blob) for k in range(800)],
            )
            layers = {"version": VERSION, "layers": [{"id": i, "name": i} for i in (FIRST, "upper")]}
            db.execute("UPDATE sheets SET layers = ?, layer = ?", (json.dumps(layers), FIRST))
            db.execute("UPDATE strokes SET binned_at = 'then' WHERE place >= 600")
        self.seen: Counter[str] = Counter()

    def run(self, kills: int) -> None:
        for _ in range(kills):
            kind = self.rng.choices(list(KINDS), list(KINDS.values()))[0]
            getattr(self, kind.replace(" ", "_"))()
            self.done[kind] += 1
            for said in self.folder.glob("said-*.txt"):
                words = said.read_text(errors="replace")
                if "Traceback" in words:
                    self.faults.append(f"{kind}: a traceback: {words[-300:]}")
                said.unlink()

    def writing(self) -> None:
        port, stop = free_port(), threading.Event()
        server = self.zygote.start("serve", "--port", str(port), "--data", str(self.desk))
        if not self.answers(server, port):
            self.faults.append(f"writing: no start: {server.words()[-300:]}")
            return
        clients = [threading.Thread(target=ledger.write_until, args=(port, stop)) for ledger in self.ledgers]
        for client in clients:
            client.start()
        time.sleep(self.rng.uniform(0.0, 0.35))
        server.kill()
        stop.set()
        for client in clients:
            client.join()

    def answers(self, server: Child, port: int) -> bool:
        until = time.monotonic() + START_S
        while time.monotonic() < until and server.alive():
            with contextlib.suppress(OSError, http.client.HTTPException):
                connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
                with contextlib.closing(connection):
                    connection.request("GET", "/api/jobs/none")
                    return connection.getresponse().status == 404
            time.sleep(0.01)
        return False

    def killed_at_once(self, folder: pathlib.Path, *argv: str, within_s: float) -> None:
        child = self.zygote.start(*argv, "--data", str(folder))
        time.sleep(self.rng.uniform(0, within_s))
        child.kill()

    def opens(self, kind: str, folder: pathlib.Path, command: str) -> None:
        """A later start opens the folder, or says in a line what to do."""
        port = free_port()
        server = self.zygote.start(command, "--port", str(port), "--data", str(folder))
        if not self.answers(server, port):
            words = server.words()
            if server.alive() or "gray-quill: " not in words:
                self.faults.append(f"{kind}: no start and no word: {words[-300:]}")
            else:
                self.faults.append(f"{kind}: not opened: {words[-300:]}")
        server.kill()

    def first_start(self) -> None:
        folder = self.folder / "first"
        shutil.rmtree(folder, ignore_errors=True)
        if self.rng.random() < 0.3:  # two first starts at once, both killed
            other = self.zygote.start("demo", "--port", str(free_port()), "--data", str(folder))
            self.killed_at_once(folder, "demo", "--port", "0", within_s=0.6)
            other.kill()
        else:
            self.killed_at_once(folder, "demo", "--port", "0", within_s=1.5)
        self.opens("first start", folder, "demo")
        with contextlib.closing(connect(folder)) as db:
            pens = list_pens(db)
            found = len(list_sheets(db)), len(pens), sum(p.roll_place is not None for p in pens)
        if found != (6, 19, len(ROLL)):
            self.faults.append(f"first start: sheets, pens, on the roll: {found}")

    def migration(self) -> None:
        folder = self.folder / "old"
        shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir()
        golden = self.rng.choice(sorted(GOLDEN.glob("*.db.gz")))
        (folder / FILE).write_bytes(gzip.decompress(golden.read_bytes()))
        before = examine_strokes(folder / FILE)
        self.killed_at_once(folder, "serve", "--port", "0", within_s=0.25)
        self.opens("migration", folder, "serve")
        health = examine(folder / FILE)
        if (health.state, health.schema, examine_strokes(folder / FILE)) != ("good", newest(), before):
            self.faults.append(f"migration of {golden.name}: {health}")
        if any(examine(b.path).state != "good" for b in list_backups(folder)):
            self.faults.append(f"migration of {golden.name}: a backup that is not good")

    def backup(self) -> None:
        if self.rng.random() < 0.5:
            self.killed_at_once(self.grown, "back-up", within_s=0.15)
        else:  # at a start that makes the day's first
            last = list_backups(self.grown)
            for backup in last[:-1]:
                backup.path.unlink()
            last[-1].path.rename(self.grown / FOLDER / "20260101-000000-000000.db")
            self.killed_at_once(self.grown, "serve", "--port", "0", within_s=0.3)
        states = [examine(b.path).state for b in list_backups(self.grown)]
        if not states or set(states) != {"good"}:
            self.faults.append(f"backup: {states}")
        if (self.grown / FOLDER / ".making").exists():
            self.faults.append("backup: something half made has a place")

    def bringing_in(self) -> None:
        shutil.rmtree(self.moved, ignore_errors=True)
        stock(self.moved)
        before = state(self.moved)
        self.killed_at_once(self.moved, "bring-in", str(self.archive), within_s=0.9)
        self.either(before, lambda: len(state(self.moved)["strokes"]) == 400)

    def going_back(self) -> None:
        shutil.rmtree(self.moved, ignore_errors=True)
        shutil.copytree(self.grown, self.moved)
        then = state(self.moved)
        made = back_up(self.moved)
        assert made is not None
        with contextlib.closing(connect(self.moved)) as db:
            db.execute("DELETE FROM strokes WHERE place < 350")
        before = state(self.moved)
        self.killed_at_once(self.moved, "restore", made.name, within_s=0.6)
        self.either(before, lambda: state(self.moved) == then)

    def changing(self) -> None:
        """A request that changes much at once: all of it is there, or nothing."""
        ids = [f"i{k}" for k in range(0, 400, 2)]
        sheets = "SELECT binned_at IS NULL FROM sheets WHERE"
        strokes, these = "SELECT count(*) FROM strokes WHERE", "place < 400 AND place % 2 = 0 AND binned_at IS NULL"
        merged = {"layers": [{"id": FIRST, "name": "all"}], "on": FIRST, "moved": {FIRST: ids}}
        method, path, body, left = self.rng.choice(
            (
                ("DELETE", "/api/cabinet/bin", None, f"{strokes} binned_at IS NOT NULL"),
                ("PUT", "/api/sheets/one/layers", merged, f"{strokes} sheet_id = 'one' AND layer = 'upper'"),
                ("PUT", "/api/sheets/one/strokes/bin", {"ids": ids, "binned": True}, f"{strokes} {these}"),
                (
                    "PUT",
                    "/api/sheets/two/bin",
                    {"binned": True},
                    f"{sheets} id = 'two'",
                ),
            )
        )
        shutil.rmtree(self.moved, ignore_errors=True)
        shutil.copytree(self.inked, self.moved)
        port = free_port()
        server = self.zygote.start("serve", "--port", str(port), "--data", str(self.moved))
        if not self.answers(server, port):
            self.faults.append(f"changing: no start: {server.words()[-300:]}")
            return
        before = state(self.moved)
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
        with contextlib.closing(connection):
            connection.request(method, path, json.dumps(body) if body else None, {"Content-Type": "application/json"})
            time.sleep(self.rng.uniform(0, 0.12))
            server.kill()

        def whole() -> bool:
            with contextlib.closing(connect(self.moved)) as db:
                return bool(db.execute(left).fetchone()[0] == 0)

        self.either(before, whole)

    def either(self, before: object, after: Callable[[], bool]) -> None:
        """All is as before, or as after; never between."""
        health, now = examine(self.moved / FILE), state(self.moved)
        self.seen["before" if now == before else "after"] += 1
        if health.state != "good" or (now != before and not after()):
            self.faults.append(f"between: {health}")

    def told(self) -> dict[str, object]:
        """What became of every stroke."""
        sent = {i: blob for ledger in self.ledgers for i, blob in ledger.sent.items()}
        confirmed = {i for ledger in self.ledgers for i in ledger.confirmed}
        with contextlib.closing(connect(self.desk)) as db:
            rows = db.execute("SELECT id, trace FROM strokes").fetchall()
        there = {row["id"]: row["trace"] for row in rows}
        lost = [i for i in confirmed if there.get(i) != sent[i]]
        doubled = len(rows) - len({row["trace"] for row in rows}) + len(set(there) - set(sent))
        self.faults += [f for ledger in self.ledgers for f in ledger.faults]
        return {
            "kills": dict(self.done),
            "confirmed": len(confirmed),
            "lost": len(lost),
            "doubled": doubled,
            "came in or back": dict(self.seen),
            "integrity": examine(self.desk / FILE).state,
            "faults": self.faults,
        }


def examine_strokes(path: pathlib.Path) -> str:
    """A fingerprint of every stroke in a database."""
    with contextlib.closing(sqlite3.connect(path)) as db:
        return repr(db.execute("SELECT id, sheet_id, hex(trace) FROM strokes ORDER BY id").fetchall())


def trial(kills: int, seed: int) -> dict[str, object]:
    with tempfile.TemporaryDirectory() as name:
        run = Kills(pathlib.Path(name), seed)
        try:
            run.run(kills)
            return run.told()
        finally:
            run.zygote.close()


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("kills", type=int)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    began = time.monotonic()
    told = trial(args.kills, args.seed)
    for name, value in told.items():
        print(f"{name:>15}  {value if name != 'faults' else len(told['faults'])}")  # type: ignore[arg-type]
    for fault in told["faults"][:20]:  # type: ignore[index]
        print("  ", fault)
    print(f"{time.monotonic() - began:.0f} s; loss of power is not tested")
    return 1 if told["lost"] or told["doubled"] or told["faults"] or told["integrity"] != "good" else 0


if __name__ == "__main__":
    raise SystemExit(main())
