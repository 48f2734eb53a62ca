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


def in_time() -> None:
    """Raises TooLarge when this request has been worked on for too long."""
    if has_request_context():
        until = g.setdefault("until", time.monotonic() + REQUEST_S)
        if time.monotonic() > until:
            raise too_long(REQUEST_S)
