"""A process forked from this one, with everything that is loaded here, that forks `gray-quill` commands from itself: a
start costs a fraction of a second instead of several, and a killed child is killed as really as any other process.
"""

import contextlib
import functools
import hashlib
import multiprocessing
import os
import pathlib
import pickle
import signal
import sys
import threading
import time
from multiprocessing.connection import Connection
from unittest import mock

from gray_quill.web import app
from gray_quill.web.response_cache import Answer, Answers, Key


class SharedAnswers(Answers):
    """Answers that servers over copies of one database have together: the first that is asked makes them. Each looks
    whether its own database still says what they were made from.
    """

    def __init__(self, folder: pathlib.Path) -> None:
        super().__init__()
        self.folder = folder

    def known(self, key: Key) -> Answer | None:
        found = super().known(key)
        if found is None:
            with contextlib.suppress(FileNotFoundError):
                found = pickle.loads(self._path(key).read_bytes())
        return found

    def keep(self, key: Key, answer: Answer) -> None:
        super().keep(key, answer)
        path = self._path(key)
        if not answer.inks and not path.exists():  # made before any ink of that server was changed in place
            fresh = path.with_suffix(f".{os.getpid()}-{threading.get_ident()}")
            fresh.write_bytes(pickle.dumps(answer))
            fresh.rename(path)

    def _path(self, key: Key) -> pathlib.Path:
        return self.folder / hashlib.sha256(repr(key).encode()).hexdigest()


class Zygote:
    """Speaks to the forking process; every child is its own process, with its words in a file. Make it before there are
    threads.
    """

    def __init__(self, folder: pathlib.Path, answers: pathlib.Path | None = None) -> None:
        """answers: a folder for the answers of servers, where they may share them."""
        self.folder, self.started = folder, 0
        fork = multiprocessing.get_context("fork")
        self.line, there = fork.Pipe()
        self.process = fork.Process(target=fork_commands, args=(there, self.line, answers))
        self.process.start()
        there.close()

    def start(self, *argv: str) -> "Child":
        self.started += 1
        said = self.folder / f"said-{self.started}.txt"
        self.line.send((argv, said))
        return Child(self.line.recv(), said)

    def close(self) -> None:
        self.line.close()
        self.process.join(30)


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
        until = time.monotonic() + seconds
        while self.alive():
            if time.monotonic() > until:
                raise AssertionError(f"process {self.pid} does not end: {self.words()[-300:]}")
            time.sleep(0.002)

    def words(self) -> str:
        return self.said.read_text(errors="replace") if self.said.exists() else ""


def fork_commands(line: Connection, other_end: Connection, answers: pathlib.Path | None) -> None:
    """Begin each command that is asked for, until nobody asks any more."""
    other_end.close()
    from gray_quill.cli import main as command
    from gray_quill.demo.warm import use_everything

    use_everything()
    if answers:
        mock.patch.object(app, "Answers", functools.partial(SharedAnswers, answers)).start()
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    with contextlib.suppress(EOFError):
        while True:
            argv, said = line.recv()
            pid = os.fork()
            if pid == 0:
                signal.signal(signal.SIGCHLD, signal.SIG_DFL)
                line.close()
                words = os.open(said, os.O_CREAT | os.O_WRONLY | os.O_APPEND)
                os.dup2(words, 1)
                os.dup2(words, 2)
                os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
                status = 70
                try:
                    status = command(list(argv))
                except BaseException:
                    import traceback

                    traceback.print_exc()
                finally:
                    sys.stdout.flush()
                    os._exit(status)
            line.send(pid)
