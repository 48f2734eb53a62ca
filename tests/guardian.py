"""Nothing of the tests is left behind, however they end: by themselves, by a signal, or because who started them ended.

The tests go on in a child; this process only waits, and then ends whatever descends from it, servers and browsers that
were let go of too (prctl(2): PR_SET_CHILD_SUBREAPER gives orphans to it, PR_SET_PDEATHSIG tells of its parent's end).
"""

import contextlib
import ctypes
import os
import pathlib
import signal
import sys
import time
from typing import NoReturn

PR_SET_PDEATHSIG, PR_SET_CHILD_SUBREAPER = 1, 36
PATIENCE_S = 20.0


class _Ended(BaseException):
    pass


def leave_nothing_behind() -> None:
    """Returns in the child that does the work."""
    sys.stdout.flush()
    prctl = ctypes.CDLL(None, use_errno=True).prctl
    prctl(PR_SET_CHILD_SUBREAPER, 1)
    parent = os.getppid()
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _end)
    child = os.fork()
    if child == 0:
        for number in (signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, signal.SIG_DFL)
        signal.signal(signal.SIGINT, signal.default_int_handler)
        prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
        return
    prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
    _wait(child, parent)


def _end(number: int, _: object) -> None:
    raise _Ended(number)


def _wait(child: int, parent: int) -> NoReturn:
    status = 1
    try:
        while os.getppid() == parent:
            ended, how = os.wait()  # orphans too
            if ended == child:
                status = os.waitstatus_to_exitcode(how)
                break
    except _Ended as told:
        status = 128 + int(told.args[0])
    finally:
        for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, signal.SIG_IGN)
        _end_descendants()
    os._exit(status if status >= 0 else 1)


def _end_descendants() -> None:
    until = time.monotonic() + PATIENCE_S
    while (left := descendants(os.getpid())) and time.monotonic() < until:
        for pid in left:
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        with contextlib.suppress(ChildProcessError):
            while os.waitpid(-1, os.WNOHANG)[0]:
                pass
        time.sleep(0.02)


def descendants(of: int) -> list[int]:
    """Processes that descend from one and still live."""
    parents: dict[int, int] = {}
    for place in pathlib.Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError, ValueError, IndexError):
            fields = (place / "stat").read_text().rsplit(")", 1)[1].split()
            parents[int(place.name)] = int(fields[1])
    found: list[int] = []
    layer = {of}
    while layer:
        layer = {pid for pid, parent in parents.items() if parent in layer} - set(found)
        found += layer
    return found
