"""A process that has everything imported and forks `gray-quill` commands from itself: a start costs a fraction of a
second instead of several, and a killed child is killed as really as any other process.
"""

import contextlib
import json
import os
import pathlib
import signal
import subprocess
import sys
import time


class Zygote:
    """Speaks to the forking process; every child is its own process, with its words in a file."""

    def __init__(self, folder: pathlib.Path) -> None:
        self.folder, self.started = folder, 0
        self.process = subprocess.Popen(
            [sys.executable, "-m", "tests.zygote"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )
        assert self.process.stdout is not None
        self.process.stdout.readline()  # ready

    def start(self, *argv: str) -> "Child":
        assert self.process.stdin is not None
        assert self.process.stdout is not None
        self.started += 1
        said = self.folder / f"said-{self.started}.txt"
        self.process.stdin.write(json.dumps({"argv": argv, "said": str(said)}) + "\n")
        self.process.stdin.flush()
        return Child(int(self.process.stdout.readline()), said)

    def close(self) -> None:
        assert self.process.stdin is not None
        assert self.process.stdout is not None
        self.process.stdin.close()
        self.process.stdout.close()
        self.process.wait(30)


class Child:
    def __init__(self, pid: int, said: pathlib.Path) -> None:
        self.pid, self.said = pid, said

    def alive(self) -> bool:
        return pathlib.Path(f"/proc/{self.pid}").exists()  # with any of its threads

    def kill(self) -> None:
        with contextlib.suppress(ProcessLookupError):
            os.kill(self.pid, signal.SIGKILL)
        self.ends()

    def ends(self, seconds: float = 60) -> None:
        until = time.time() + seconds
        while self.alive():
            if time.time() > until:
                raise AssertionError(f"process {self.pid} does not end: {self.words()[-300:]}")
            time.sleep(0.002)

    def words(self) -> str:
        return self.said.read_text(errors="replace") if self.said.exists() else ""


def main() -> None:
    import scipy.signal

    import gray_quill.demo.build
    import gray_quill.web.server  # noqa: F401  (everything a child needs)
    from gray_quill.cli import main as command
    from gray_quill.core.ink.settle import settle
    from gray_quill.core.pen.shipped import SHIPPED_PENS
    from tests.zoo import wave

    assert scipy.signal
    settle(wave(0.2), SHIPPED_PENS["fen-fountain"])  # the kernels are loaded
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    print("ready", flush=True)
    for line in sys.stdin:
        asked = json.loads(line)
        pid = os.fork()
        if pid == 0:
            signal.signal(signal.SIGCHLD, signal.SIG_DFL)
            words = os.open(asked["said"], os.O_CREAT | os.O_WRONLY | os.O_APPEND)
            os.dup2(words, 1)
            os.dup2(words, 2)
            os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
            status = 70
            try:
                status = command(asked["argv"])
            except BaseException:
                import traceback

                traceback.print_exc()
            finally:
                sys.stdout.flush()
                os._exit(status)
        print(pid, flush=True)


if __name__ == "__main__":
    main()
