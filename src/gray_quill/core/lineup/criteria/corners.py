"""Corners kept."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.readings.corner_loss_mm


CRITERION = Criterion(
    key="corners",
    label="corners kept",
    unit="mm",
    help="How far the ink stays away from sharp corners; nine of ten lose no more.",
    nothing=0.3,
    all=0.0,
    reason="From 0.3 mm on a corner of small writing reads as a bend.",
    needs="",
    measured=_measured,
)
