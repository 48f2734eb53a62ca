"""Odd input of every kind to every operation, upload and command.

    make trial-fuzz N=10000 SEED=1

Counts answers of 500 and more, tracebacks, answers that took over SLOW_S of work (those that take turns at drawing
aside), how much memory stays taken, and changes made by requests that were refused or only read. No other machine is
asked anything.
"""

import argparse
import contextlib
import http.client
import io
import json
import os
import pathlib
import re
import shutil
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections import Counter
from typing import Any
from urllib.parse import quote, urlencode

import numpy as np
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

import gray_quill.web.app
from gray_quill.cli import main as command
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.demo.survey_pdf import survey_pdf
from gray_quill.formats.contacts_csv import write_contacts
from gray_quill.formats.film_zip import write_film
from gray_quill.formats.inkml_write import write_inkml
from gray_quill.formats.palm_json import truth_json
from gray_quill.formats.pen_json import write_pen
from gray_quill.formats.png import write_png
from gray_quill.store.database import connect
from gray_quill.web.api import OPERATIONS
from gray_quill.web.openapi import resolved
from tests.bombs import BOMBS, IMAGE, archive, openraster, svg
from tests.browser.driver import Server, demo_folder
from tests.trials.command_lines import command_lines
from tests.trials.strategies import ODD_BODIES, ODD_WORDS, Schemas, json_bytes, mostly, odd, spoilt
from tests.zoo import zoo

SLOW_S, HANGS_S = 5.0, 60.0  # of work for an answer, and of waiting for it
MOST_GROWTH_MB = 150.0
TIMES = 2  # a campaign is asked at most
WARM = 200
SMALL_BOMBS = ("copies of copies", "twelve layers of one entry", "a million deep", "settings of empty lists")
SHARES = {"requests": 0.7, "uploads": 0.2, "commands": 0.1}


def files() -> dict[str, bytes]:
    """A right file of every kind that is read, by its media type."""
    hand, device = SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"]
    stream, truth = simulate(hand, device, next(iter(DRILLS)), 3)
    grey = np.linspace(0, 255, 64 * 48).astype(np.uint8).reshape(48, 64)
    return {
        "application/inkml+xml": write_inkml(list(zoo().values())[:6]),
        "image/png": write_png(grey),
        "application/zip": write_film([np.roll(grey, k, axis=1) for k in range(14)]),
        "application/json": write_pen(SHIPPED_PENS["fen-fountain"]),
        "text/csv": write_contacts(stream.events),
        "table": b"stroke,t_ms,x_mm,y_mm\na,0,10,20\na,10,11,20\nb,0,30,40\nb,20,31,42\n",
        "image/svg+xml": svg('<g id="g"><path d="M0 0L40 30c1 2 3 4 5 6"/></g><use href="#g" x="9"/>'),
        "image/openraster": openraster(IMAGE.format('<layer src="a.png" x="3"/>'), ("a.png", write_png(grey))),
        "application/octet-stream": survey_pdf(),
        "archive": archive(hands=b"[]", settings=b'[{"key": "side", "value": "left"}]'),
        **{name: bomb.make() for name, bomb in BOMBS.items() if name in SMALL_BOMBS},
        "truth": json.dumps(truth_json(stream, truth)).encode(),
    }


class Fuzz:
    def __init__(self, folder: pathlib.Path) -> None:
        self.folder = folder
        shutil.copytree(demo_folder(), folder / "data")
        self.server = Server(folder / "data").start()
        self.line = http.client.HTTPConnection("127.0.0.1", self.server.port, timeout=120)
        self.document = json.load(urllib.request.urlopen(self.server.url + "/api/openapi.json"))
        self.watch = connect(folder / "data")
        self.files = files()
        desk = json.load(urllib.request.urlopen(self.server.url + "/api/desk"))
        self.pools = {
            "sheet_id": [s["id"] for s in desk["sheets"]] + ["ghost"],
            "pen_id": [p["id"] for p in desk["pens"]] + ["ghost"],
            "hand_id": [h["id"] for h in desk["hands"]] + ["ghost"],
            "device_id": [d["id"] for d in desk["devices"]] + ["ghost"],
            "stand_in": [d["id"] for d in desk["devices"]],
            "like": [d["id"] for d in desk["devices"]],
            "job_id": ["film-1", "sweep-1", "ghost"],
            "run_id": ["ghost"],
            "stroke_id": ["trap-log-0", "trap-log-40", "ghost"],
        }
        self.schemas = Schemas(self.document, self.pools)
        self.sparse = Schemas(self.document, self.pools, sparse=True)
        assert gray_quill.web.app, "registers the operations"
        self.costly = {op.name for op in OPERATIONS if op.costly or op.reads_file}
        self.asked: Counter[str] = Counter()
        self.statuses: Counter[int] = Counter()
        self.faults: list[str] = []
        self.slowest = (0.0, "")
        self.jobs: set[str] = set()

    def operations(self, uploads: bool) -> list[tuple[str, str, dict[str, Any]]]:
        """Method, path template and description of those that take a file, or of the others."""
        return [
            (method.upper(), path, op)
            for path, methods in self.document["paths"].items()
            for method, op in methods.items()
            if uploads == (self._media(op) is not None)
        ]

    def _media(self, op: dict[str, Any]) -> str | None:
        content = op.get("requestBody", {}).get("content", {})
        raw = [m for m, c in content.items() if c["schema"].get("format") == "binary"]
        return raw[0] if raw else None

    @contextlib.contextmanager
    def judged(self, what: str, slow_allowed: bool = False) -> Any:
        began, worked = time.perf_counter(), self.worked_s()
        yield
        took, work = time.perf_counter() - began, self.worked_s() - worked
        if took > self.slowest[0]:
            self.slowest = took, what
        if (work > SLOW_S or took > HANGS_S) and not slow_allowed:
            self.faults.append(f"slow: {took:.1f} s, {work:.1f} s of work, for {what}")

    def worked_s(self) -> float:
        """Processor time the server and this process, where commands run, have had: on a busy machine they wait for
        their turn, which is not their fault.
        """
        assert self.server.process is not None
        fields = pathlib.Path(f"/proc/{self.server.process.pid}/stat").read_text().rsplit(")", 1)[1].split()
        return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK") + time.process_time()

    def request(self, method: str, path: str, op: dict[str, Any], data: bytes | None, media: str) -> None:
        what = f"{method} {path[:150]} {(data or b'')[:300]!r}"
        before, said = self.version(), self.server.words()
        with self.judged(what, op["operationId"] in self.costly):
            self.line.request(method, path, data, {"Content-Type": media})
            reply = self.line.getresponse()
            if reply.headers.get_content_type() == "text/event-stream":  # it may have no end: its first words will do
                body = reply.readline()
                self.line.close()
            else:
                body = reply.read()
        self.asked[op["operationId"]] += 1
        self.statuses[reply.status] += 1
        is_json = reply.headers.get_content_type() == "application/json"
        told = json.loads(body) if is_json and reply.status != 200 else {}
        if reply.status >= 500:
            self.faults.append(f"{reply.status}: {what}: {self.server.words()[len(said) :][-500:]}")
        if self.version() != before and (reply.status >= 400 or method == "GET"):
            self.faults.append(f"changed by {reply.status}: {what}")
        if reply.status >= 400 and not told.get("error", {}).get("message"):
            self.faults.append(f"no words: {what}")
        if reply.status == 202:
            self.jobs.add(told["id"])

    def version(self) -> int:
        """Another one whenever something was written to the database."""
        return int(self.watch.execute("PRAGMA data_version").fetchone()[0])

    def path_of(self, draw: st.DrawFn, template: str) -> str:
        def part(match: re.Match[str]) -> str:
            pool = self.pools.get(match[1], ["1", "0", "2"])
            value = draw(mostly(st.sampled_from(pool), st.sampled_from(ODD_WORDS), 12))
            return quote(value, safe="", errors="replace") or "x"

        return re.sub(r"{(\w+)}", part, template)

    def query_of(self, draw: st.DrawFn, op: dict[str, Any]) -> str:
        asked = {}
        for p in (resolved(self.document, p) for p in op.get("parameters", [])):
            if p["in"] == "query" and ("required" in p or draw(st.booleans())):
                asked[p["name"]] = draw(self.schemas.value(p["schema"], p["name"]))
        return "?" + urlencode({k: str(v) for k, v in asked.items()}, errors="replace") if asked else ""

    def requests(self) -> st.SearchStrategy[Any]:
        operations = self.operations(uploads=False)

        @st.composite
        def case(draw: st.DrawFn) -> None:
            method, template, op = draw(st.sampled_from(operations))
            path = self.path_of(draw, template) + self.query_of(draw, op)
            body = op.get("requestBody")
            data = None
            if body:
                schema = body["content"]["application/json"]["schema"]
                schemas = draw(st.sampled_from([self.schemas, self.sparse]))
                value = draw(mostly(schemas.fitting(schema, ""), odd, 20))
                data = draw(mostly(st.just(json_bytes(value)), st.sampled_from(ODD_BODIES), 20))
            self.request(method, path, op, data, "application/json")

        return case()

    def uploads(self) -> st.SearchStrategy[Any]:
        operations = self.operations(uploads=True)

        @st.composite
        def case(draw: st.DrawFn) -> None:
            method, template, op = draw(st.sampled_from(operations))
            path = self.path_of(draw, template) + self.query_of(draw, op)
            media = self._media(op) or ""
            kind = draw(st.sampled_from([media] * 8 + list(self.files)))
            self.request(method, path, op, draw(spoilt(self.files.get(kind, b""))), media)

        return case()

    def commands(self) -> st.SearchStrategy[Any]:
        lines = command_lines(self.folder / "files", self.files)
        return lines.map(self.told)

    def told(self, argv: list[str]) -> None:
        """One command, in this process."""
        out, err, status = io.StringIO(), io.StringIO(), 99
        what = repr(argv)[:400]
        self.asked[argv[0]] += 1
        with (
            self.judged(what),
            contextlib.chdir(self.folder / "files"),
            contextlib.redirect_stdout(out),
            contextlib.redirect_stderr(err),
        ):
            try:
                status = command(argv)
            except SystemExit as end:
                status = end.code if isinstance(end.code, int) else 99
            except BaseException as error:
                self.faults.append(f"traceback: {what}: {type(error).__name__}: {error}"[:700])
                return
        self.statuses[-status] += 1
        words = err.getvalue()
        if status not in (0, 2) or "Traceback" in words or (status == 2 and len(words.strip().splitlines()) != 1):
            self.faults.append(f"exit {status}: {what}: {words[-300:]!r}")

    def run(self, cases: int, seed_number: int, allowed_mb: float) -> dict[str, Any]:
        """Where memory grew by more than is allowed the same is asked once more: what threads hold comes once, what
        leaks comes every time.
        """
        for name, share in SHARES.items():  # the same once before: what is loaded is loaded, what is remembered is
            self._some(getattr(self, name)(), min(WARM, round(cases * share)), seed_number)
        self.rest()
        began, grown = time.monotonic(), list[float]()
        while not grown or (grown[-1] > allowed_mb and len(grown) < TIMES):
            before = self.memory_mb()
            for name, share in SHARES.items():
                self._some(getattr(self, name)(), round(cases * share), seed_number)
            self.rest()
            grown.append(self.memory_mb() - before)
        if "Traceback" in (words := self.server.words()):
            self.faults.append(f"traceback: {words[-600:]}")
        return {
            "cases": self.asked.total(),
            "operations": len(self.asked),
            "statuses": dict(sorted(self.statuses.items())),
            "memory_mb": round(min(grown)),
            "slowest": f"{self.slowest[0]:.1f} s, {self.slowest[1][:100]}",
            "seconds": round(time.monotonic() - began),
            "faults": self.faults,
        }

    def _some(self, cases: st.SearchStrategy[Any], count: int, seed_number: int) -> None:
        @seed(seed_number)
        @settings(
            max_examples=max(1, count),
            deadline=None,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(cases)
        def each(_: None) -> None:
            if self.asked.total() % 500 == 0:
                print(f"{self.asked.total():>8} asked, {self.memory_mb():.0f} MB", file=sys.stderr)

        each()

    def memory_mb(self) -> float:
        assert self.server.process is not None
        return memory_mb(self.server.process.pid)

    def rest(self) -> None:
        """Long tasks are cancelled and waited for."""
        for job in self.jobs:
            with contextlib.suppress(urllib.error.HTTPError):
                asked = urllib.request.Request(f"{self.server.url}/api/jobs/{job}", method="DELETE")
                until = time.monotonic() + 60
                while json.load(urllib.request.urlopen(asked))["state"] == "running" and time.monotonic() < until:
                    time.sleep(0.05)
        self.jobs.clear()

    def close(self) -> None:
        self.line.close()
        self.watch.close()
        self.server.kill()


def memory_mb(pid: int) -> float:
    """Resident memory of a process."""
    status = pathlib.Path(f"/proc/{pid}/status").read_text()
    found = re.search(r"VmRSS:\s+(\d+) kB", status)
    return int(found[1]) / 1024 if found else 0.0


def trial(cases: int, seed_number: int, allowed_mb: float) -> dict[str, Any]:
    with tempfile.TemporaryDirectory() as name:
        fuzz = Fuzz(pathlib.Path(name))
        try:
            return fuzz.run(cases, seed_number, allowed_mb)
        finally:
            fuzz.close()


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("cases", type=int)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    told = trial(args.cases, args.seed, MOST_GROWTH_MB)
    for name, value in told.items():
        print(f"{name:>10}  {value if name != 'faults' else len(value)}")
    kinds = Counter(f.split(":")[0] for f in told["faults"])
    print(dict(kinds))
    for fault in told["faults"][:60]:
        print("  ", fault, file=sys.stderr)
    return 1 if told["faults"] or told["memory_mb"] > MOST_GROWTH_MB else 0


if __name__ == "__main__":
    raise SystemExit(main())
