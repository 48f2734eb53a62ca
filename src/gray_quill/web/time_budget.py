"""How long a request may be worked on: work in many steps looks at the clock between them and ends."""

import time

from flask import g, has_request_context

from gray_quill.core.errors import TooLarge

REQUEST_S = 30.0
TASK_S = 240.0


def too_long(budget_s: float) -> TooLarge:
    return TooLarge(
        f"This took longer than {budget_s:g} s and was stopped; nothing was changed. Ask for less at a time."
    )


def time_left_s() -> float:
    """How long this request may still be worked on."""
    if not has_request_context():
        return REQUEST_S
    return float(g.setdefault("until", time.monotonic() + REQUEST_S) - time.monotonic())


def in_time() -> None:
    """Raises TooLarge when this request has been worked on for too long."""
    if time_left_s() < 0:
        raise too_long(REQUEST_S)
