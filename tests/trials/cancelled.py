"""Heavy requests, half of which are left by their client at a random moment: what stays taken of memory and processes.

    make trial-cancelled N=2000 SEED=1

Proofs, films of panels, replays, PDF and pictures of pages, lines to judge, files that come in. Counts answers of 500
and more, how long a light question takes meanwhile, and what the server holds before and after.
"""

import argparse
import contextlib
import http.client
import json
import pathlib
import random
import shutil
import tempfile
import threading
import time
from collections import Counter
from typing import Any

from gray_quill.demo.survey_pdf import survey_pdf
from tests.bombs import BOMBS
from tests.browser.driver import Server, demo_folder
from tests.guardian import descendants

CLIENTS = 4
ALLOWED_MB = 150.0
PROOF = {"sheet_id": "trap-log", "device_id": "paper-slate-10"}
SLOW = BOMBS["styles that fill with patterns"]
HEAVY: tuple[tuple[str, str, Any], ...] = (
    ("POST", "/api/panels/proof", PROOF),
    ("POST", "/api/panels/film", {**PROOF, "then": "scrolled", "x_mm": 60, "y_mm": 60}),
    ("GET", "/api/sheets/trap-log/file?form=pdf&dpi=300", None),
    ("GET", "/api/sheets/dusk-to-dawn/file?form=png&dpi=300", None),
    ("GET", "/api/sheets/test-sheet/page.png?scale=12", None),
    ("GET", "/api/sheets/trap-log/replay", None),
    ("POST", "/api/sheets/trap-log/originals?name=survey", survey_pdf()),
    ("POST", SLOW.path, SLOW.make()),
)


class Cancelled:
    def __init__(self, server: Server, seed: int) -> None:
        self.server, self.rng = server, random.Random(seed)
        self.statuses: Counter[int] = Counter()
        self.left, self.waits, self.faults = 0, list[float](), list[str]()
        self.lock = threading.Lock()

    def ask(self, method: str, path: str, body: Any, leaves_after_s: float | None) -> None:
        data = body if isinstance(body, bytes) or body is None else json.dumps(body).encode()
        media = "application/octet-stream" if isinstance(body, bytes) else "application/json"
        connection = http.client.HTTPConnection("127.0.0.1", self.server.port, timeout=120)
        with contextlib.closing(connection):
            connection.request(method, path, data, {"Content-Type": media})
            if leaves_after_s is not None:
                time.sleep(leaves_after_s)
                self.left += 1
                return
            reply = connection.getresponse()
            words = reply.read()
        with self.lock:
            self.statuses[reply.status] += 1
            if reply.status >= 500:
                self.faults.append(f"{reply.status} {path}: {words[:200]!r}")

    def client(self, plan: list[tuple[str, str, Any, float | None]]) -> None:
        for one in plan:
            with contextlib.suppress(OSError):
                self.ask(*one)

    def holds(self) -> tuple[float, int]:
        """Megabytes of the server itself, and how many processes it has."""
        assert self.server.process is not None
        status = pathlib.Path(f"/proc/{self.server.process.pid}/status").read_text()
        line = next(row for row in status.splitlines() if row.startswith("VmRSS"))
        return int(line.split()[1]) / 1000, len(descendants(self.server.process.pid))

    def run(self, requests: int) -> dict[str, Any]:
        for method, path, body in 2 * HEAVY:  # what is loaded is loaded, what is laid on a page was drawn
            self.ask(method, path, body, None)
        before, (mb, processes) = time.monotonic(), self.holds()
        plans: list[list[tuple[str, str, Any, float | None]]] = [[] for _ in range(CLIENTS)]
        for k in range(requests):
            leaves = self.rng.uniform(0, 0.5) if k % 2 else None
            plans[k % CLIENTS].append((*self.rng.choice(HEAVY), leaves))
        clients = [threading.Thread(target=self.client, args=(plan,)) for plan in plans]
        for one in clients:
            one.start()
        while any(one.is_alive() for one in clients):
            began = time.monotonic()
            self.ask("GET", "/api/jobs/none", None, None)
            self.waits.append(time.monotonic() - began)
            time.sleep(0.2)
        until = time.monotonic() + 40
        while self.holds()[1] > processes and time.monotonic() < until:
            time.sleep(0.2)
        after_mb, after = self.holds()
        if after > processes:
            self.faults.append(f"{after - processes} processes are left")
        waits = sorted(self.waits)
        return {
            "requests": requests,
            "left by their clients": self.left,
            "statuses": dict(sorted(self.statuses.items())),
            "a light question, s, median and 95 %": (
                round(waits[len(waits) // 2], 3),
                round(waits[int(0.95 * (len(waits) - 1))], 3),
            ),
            "memory_mb": (round(mb), round(after_mb)),
            "processes": (processes, after),
            "seconds": round(time.monotonic() - before),
            "faults": self.faults,
        }


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("requests", type=int, nargs="?", default=2000)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    with tempfile.TemporaryDirectory() as name:
        shutil.copytree(demo_folder(), name, dirs_exist_ok=True)
        server = Server(pathlib.Path(name)).start()
        try:
            found = Cancelled(server, asked.seed).run(asked.requests)
        finally:
            server.kill()
    print(json.dumps(found, indent=1))
    return int(bool(found["faults"]) or found["memory_mb"][1] - found["memory_mb"][0] > ALLOWED_MB)


if __name__ == "__main__":
    raise SystemExit(main())
