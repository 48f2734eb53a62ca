"""Shake calmed."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return 1 - case.readings.shake_left


CRITERION = Criterion(
    key="calm",
    label="shake calmed",
    unit="%",
    help="How much of a shake 5 to 12 times a second is taken out of a slow line.",
    nothing=0.0,
    all=0.8,
    reason=(
        "Nothing is taken out; more than four fifths only costs more drag (the curves of calm against drag "
        "flatten there)."
    ),
    needs="",
    measured=_measured,
)
