"""Thick over thin."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.readings.range_ratio if case.has_force else None


CRITERION = Criterion(
    key="range",
    label="thick over thin",
    unit="×",
    help="How many times wider the thickest marks are than the thinnest, without the outermost 5 %.",
    nothing=1.0,
    all=3.0,
    reason=(
        "At 1 a pen keeps its width; three times is what a nib that answers gives an everyday hand (common "
        "practice, no source)."
    ),
    needs="force in the traces",
    measured=_measured,
)
