"""Run tests on all cores: python -m tests.run [FILE or folder ...].

Classes of tests are handed out one at a time to processes forked from this one, which has imported everything. What a
class shares (a server, a database) is made once; a browser serves all the classes of its process. There is one process
more than cores, for tests with a browser wait a good deal; no more of these than cores run at once, or they starve.
"""

import argparse
import dataclasses
import gc
import io
import multiprocessing
import os
import pathlib
import sys
import time
import unittest
from collections import deque
from collections.abc import Iterator
from multiprocessing.connection import Connection, wait

from numba.core.event import install_recorder

from gray_quill.demo.warm import use_everything
from tests.browser.driver import answers_folder, demo_folder, zygote
from tests.guardian import leave_nothing_behind

ROOT = pathlib.Path(__file__).parents[1]
CORES = os.cpu_count() or 1
BROWSER = "tests.browser"
CRASHED = "tab crashed"  # the browser's own failure, in the driver's words
# begun first, so that no long one is left for the end
LONG = ("tests.browser.test_layout", "tests.browser.test_walk", "tests.core.test_lag", "tests.trials", "tests.supply")


@dataclasses.dataclass(frozen=True)
class Ran:
    """What became of a class: seconds by test, what failed and how, how many were left out, the kernels that had to be
    compiled meanwhile, and whether it was run again because the browser crashed.
    """

    name: str
    seconds: dict[str, float]
    failed: tuple[str, ...]
    skipped: int
    words: str
    compiled: tuple[str, ...] = ()
    again: bool = False


class Timed(unittest.TextTestResult):
    def startTest(self, test: unittest.TestCase) -> None:
        self.seconds = getattr(self, "seconds", {})
        self.began = time.perf_counter()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        self.seconds[test.id()] = time.perf_counter() - self.began


def classes(places: list[str]) -> dict[str, list[unittest.TestCase]]:
    """The classes of tests in files and folders, by name."""
    found: dict[str, list[unittest.TestCase]] = {}
    for place in places:
        path = ROOT / place
        files = sorted(path.rglob("test_*.py")) if path.is_dir() else [path]
        for file in files:
            module = ".".join(file.resolve().relative_to(ROOT).with_suffix("").parts)
            for test in _each(unittest.defaultTestLoader.loadTestsFromName(module)):
                kind = type(test)
                found.setdefault(f"{module}.{kind.__qualname__}", []).append(test)
    return found


def _each(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _each(test)
        else:
            yield test


def run(name: str, tests: list[unittest.TestCase]) -> Ran:
    words = io.StringIO()
    with install_recorder("numba:compile") as recorder:
        suite = unittest.TestSuite(tests)
        result = unittest.TextTestRunner(words, verbosity=0, resultclass=Timed).run(suite)  # type: ignore[arg-type]
    begun = [event.data for _, event in recorder.buffer if event.is_start]
    compiled = tuple(
        f"{d['dispatcher'].py_func.__qualname__}{d['args']}"
        for d in begun
        if d["dispatcher"].py_func.__module__.startswith("gray_quill")
    )
    ill = [*(test for test, _ in (*result.failures, *result.errors)), *result.unexpectedSuccesses]
    # of a part of a test, the test
    failed = dict.fromkeys(t.id().split(" ")[0] if isinstance(t, unittest.TestCase) else t.id() for t in ill)
    seconds = getattr(result, "seconds", {})
    return Ran(name, seconds, tuple(failed), len(result.skipped), words.getvalue() if failed else "", compiled)


def work(line: Connection, found: dict[str, list[unittest.TestCase]]) -> None:
    """Run the classes that are asked for, until none is. One in which the browser itself crashed is run once more: a
    page that crashes it does so again.
    """
    zygote()  # before there are threads
    while name := line.recv():
        ran = run(name, found[name])
        if CRASHED in ran.words:
            ran = dataclasses.replace(run(name, found[name]), again=True)
        line.send(ran)


def in_turn(found: dict[str, list[unittest.TestCase]], processes: int) -> Iterator[Ran]:
    """What became of each class, as it ends. A process that dies fails its class, and another takes its place."""
    places = {name: next((i for i, part in enumerate(LONG) if name.startswith(part)), len(LONG)) for name in found}
    in_order = sorted(found, key=lambda name: places[name])
    browsers = deque(name for name in in_order if name.startswith(BROWSER))
    others = deque(name for name in in_order if not name.startswith(BROWSER))
    fork = multiprocessing.get_context("fork")
    at_work: dict[Connection, tuple[str, multiprocessing.process.BaseProcess]] = {}

    def next_name() -> str:
        busy = sum(name.startswith(BROWSER) for name, _ in at_work.values())
        if browsers and busy < CORES:
            return browsers.popleft()
        return others.popleft() if others else ""

    def begin() -> None:
        here, there = fork.Pipe()
        process = fork.Process(target=work, args=(there, found))
        process.start()
        there.close()
        hand_on(here, process)

    def hand_on(line: Connection, process: multiprocessing.process.BaseProcess) -> None:
        name = next_name()
        line.send(name)
        if name:
            at_work[line] = (name, process)
        else:
            process.join()

    for _ in range(min(processes, len(found))):
        begin()
    while at_work:
        wait([end for line, (_, process) in at_work.items() for end in (line, process.sentinel)])
        for line, (name, process) in list(at_work.items()):
            if not line.poll() and process.is_alive():
                continue
            del at_work[line]
            try:
                yield line.recv()
            except EOFError:
                process.join()
                yield Ran(name, {}, (name,), 0, f"{name}: its process ended with {process.exitcode}\n")
                if browsers or others:
                    begin()
            else:
                hand_on(line, process)


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("places", nargs="*", default=["tests"], help="files or folders of tests")
    parser.add_argument(
        "--warmed", action="store_true", help="kernels are compiled, for all they are called with: others are a failure"
    )
    parser.add_argument("--processes", type=int, default=CORES + 1)
    asked = parser.parse_args()
    leave_nothing_behind()
    found = classes(asked.places)
    use_everything()  # once for all processes, as the demo is
    demo_folder()
    answers_folder()
    gc.freeze()  # what is loaded is not looked through for litter by each process
    began, seconds, failed, skipped = time.perf_counter(), dict[str, float](), list[str](), 0
    compiled: dict[str, str] = {}
    for ran in in_turn(found, asked.processes):
        verdict = "FAILED" if ran.failed else "ok"
        print(f"{verdict:7}{sum(ran.seconds.values()):7.1f} s {len(ran.seconds):4} {ran.name}", flush=True)
        if ran.again:
            print("       the browser's tab had crashed: this is the second run", flush=True)
        print(ran.words, end="", flush=True)
        seconds |= ran.seconds
        failed += ran.failed
        compiled |= dict.fromkeys(ran.compiled, ran.name)
        skipped += ran.skipped
    print("\nThe longest, s:")
    for name in sorted(seconds, key=lambda n: -seconds[n])[:20]:
        print(f"{seconds[name]:7.1f} {name}")
    for kernel, name in compiled.items():
        print(f"compiled for {name}: {kernel[:300]}")
    if asked.warmed and compiled:
        failed.append("kernels were compiled that `gray-quill warm` should compile, or for other kinds of numbers")
    for name in failed:
        print("FAILED", name)
    print(f"\n{len(seconds)} tests in {time.perf_counter() - began:.0f} s, {asked.processes} processes")
    told = [f"{len(seconds) - len(set(failed) & set(seconds)) - skipped} passed", f"{len(failed)} failed"]
    print(", ".join(told + [f"{skipped} skipped"] * (skipped > 0)))
    return 1 if failed or not seconds else 0


if __name__ == "__main__":
    sys.exit(main())
