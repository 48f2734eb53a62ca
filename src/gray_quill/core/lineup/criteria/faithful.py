"""Faithful."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.readings.frechet_mm


CRITERION = Criterion(
    key="faithful",
    label="faithful",
    unit="mm",
    help="The farthest the steadied path strays from the hand's.",
    nothing=0.5,
    all=0.0,
    reason=(
        "Half a millimetre is a quarter of the x-height of everyday writing: a letter changes (common "
        "practice, no source)."
    ),
    needs="",
    measured=_measured,
)
