"""The rows of the speed table. A peer runs in the same run and meets the same machine; a limit does not, so that beside
it stands how slow the machine was, and where that alone may have broken it, the table does not say that it is broken.
"""

from bench.timing import pace

WIDE = "{:<68} {:<32} {:>10} {:>10} {:>7} {:>6} {:>5}  {}"


def heading() -> None:
    _line("work", "peer or limit", "ours", "theirs", "ratio", "goal", "pace", "")


def against(peer: str, work: str, ours: float, theirs: float, goal: float, unit: str = "ms") -> None:
    """Ours as a share of what a peer takes."""
    ratio = ours / theirs
    _row(work, peer, _said(ours, unit), _said(theirs, unit), ratio, goal, "met" if ratio <= goal else "NOT MET")


def within(limit: float, work: str, ours: float, unit: str = "ms") -> None:
    """Ours as a share of a limit in time, and what the machine's pace leaves of that."""
    ratio, slow = ours / limit, pace()
    verdict = "met" if ratio <= 1 else "slow machine: cannot tell" if ratio / slow <= 1 else "NOT MET"
    _row(work, "a limit", _said(ours, unit), _said(limit, unit), ratio, 1, verdict, f"{slow:.1f}")


def at_most(limit: float, work: str, ours: float, unit: str) -> None:
    """Ours as a share of a limit that no machine's pace changes."""
    ratio = ours / limit
    _row(work, "a limit", _said(ours, unit), _said(limit, unit), ratio, 1, "met" if ratio <= 1 else "NOT MET")


def _said(value: float, unit: str) -> str:
    return f"{value:.3g} {unit}" if value < 100 else f"{value:.0f} {unit}"


def _row(work: str, peer: str, ours: str, theirs: str, ratio: float, goal: float, verdict: str, slow: str = "") -> None:
    _line(work, peer, ours, theirs, f"{ratio:.3f}", f"{goal:.2f}", slow, verdict)


def _line(*cells: str) -> None:
    print(WIDE.format(*cells).rstrip(), flush=True)
