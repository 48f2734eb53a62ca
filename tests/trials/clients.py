"""Many clients at once: each keeps stroke after stroke while others ask for readings and pictures of a large sheet.

    make trial-clients N=20 SECONDS=30

Prints errors, and how long it takes until a stroke is confirmed. Told to come again (429) is no error for a picture or
a reading; for a stroke it is.
"""

import argparse
import contextlib
import http.client
import json
import pathlib
import shutil
import tempfile
import threading
import time
from collections import Counter

import numpy as np

from gray_quill.store.database import connect
from tests.browser.driver import Server, demo_folder

MOST_P95_S = 0.5
READERS = 1  # of them asks for readings and pictures without a pause
STROKE_EVERY_S = 0.5  # of each of the others: quick writing
LARGE_SHEET = 3  # times the demo's largest


def enlarge(folder: pathlib.Path) -> None:
    """Lay the strokes of the largest sheet down again and again."""
    with contextlib.closing(connect(folder)) as db:
        for k in range(LARGE_SHEET - 1):
            db.execute(
                "INSERT INTO strokes (id, sheet_id, place, pen_id, revision, trace, created_at) SELECT id || ?, "
                "sheet_id, place + ?, pen_id, revision, trace, created_at FROM strokes WHERE sheet_id = 'trap-log' "
                "AND id NOT LIKE '%x'",
                (f"-{k}x", 10_000 * (k + 1)),
            )


class Clients:
    def __init__(self, server: Server, seconds: float) -> None:
        self.server, self.until = server, time.monotonic() + seconds
        self.took: list[float] = []
        self.errors: Counter[str] = Counter()
        self.answers: Counter[str] = Counter()
        self.lock = threading.Lock()

    def writer(self, number: int) -> None:
        line = http.client.HTTPConnection("127.0.0.1", self.server.port, timeout=60)
        k = 0
        while time.monotonic() < self.until:
            xy = [float(v) for v in np.random.default_rng((number, k)).uniform(5, 100, 60)]
            stroke = {"id": f"c{number}-{k}", "pen_id": "fen-fountain", "revision": 1}
            stroke |= {"t_ms": [4.0 * i for i in range(60)], "x_mm": xy, "y_mm": xy[::-1]}
            began = time.perf_counter()
            status, body = self.ask(line, "POST", "/api/sheets/count-by-trap/strokes", {"strokes": [stroke]})
            with self.lock:
                self.took.append(time.perf_counter() - began)
                if status != 200 or json.loads(body)["answers"][0]["state"] != "kept":
                    self.errors[f"stroke {status}"] += 1
            k += 1
            time.sleep(STROKE_EVERY_S)
        line.close()

    def reader(self, number: int) -> None:
        line = http.client.HTTPConnection("127.0.0.1", self.server.port, timeout=60)
        paths = ("/api/sheets/trap-log/readings", "/api/sheets/trap-log/page.png?scale=6", "/api/desk")
        k = number
        while time.monotonic() < self.until:
            status, _ = self.ask(line, "GET", paths[k % 3], None)
            with self.lock:
                self.answers[f"{paths[k % 3].split('/')[-1].split('?')[0]} {status}"] += 1
                if status not in (200, 429):
                    self.errors[f"{paths[k % 3]} {status}"] += 1
            k += 1
        line.close()

    def ask(self, line: http.client.HTTPConnection, method: str, path: str, body: object) -> tuple[int, bytes]:
        try:
            line.request(method, path, None if body is None else json.dumps(body), {"Content-Type": "application/json"})
            reply = line.getresponse()
            return reply.status, reply.read()
        except (OSError, http.client.HTTPException) as error:
            with self.lock:
                self.errors[type(error).__name__] += 1
            line.close()
            return 0, b'{"answers": [{"state": "none"}]}'


def trial(clients: int, seconds: float) -> Clients:
    with tempfile.TemporaryDirectory() as name:
        folder = pathlib.Path(name) / "data"
        shutil.copytree(demo_folder(), folder)
        enlarge(folder)
        server = Server(folder).start()
        run = Clients(server, seconds)
        readers = min(READERS, clients // 2)
        works = [run.reader] * readers + [run.writer] * (clients - readers)
        threads = [threading.Thread(target=work, args=(k,)) for k, work in enumerate(works)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        server.kill()
        return run


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("clients", type=int)
    parser.add_argument("--seconds", type=float, default=30)
    args = parser.parse_args()
    run = trial(args.clients, args.seconds)
    p50, p95, most = np.percentile(run.took, [50, 95, 100])
    print(f"{args.clients} clients, {args.seconds:g} s: {len(run.took)} strokes, {sum(run.errors.values())} errors")
    print(f"until kept: half under {p50:.3f} s, 95 % under {p95:.3f} s, all under {most:.3f} s; {dict(run.answers)}")
    print(dict(run.errors) or "")
    return 1 if run.errors or p95 > MOST_P95_S else 0


if __name__ == "__main__":
    raise SystemExit(main())
