"""Little drag."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.readings.drag_ms


CRITERION = Criterion(
    key="drag",
    label="little drag",
    unit="ms",
    help="How long the steadied tip needs to get where the nib is.",
    nothing=40.0,
    all=0.0,
    reason="From 40 ms on drag is called heavy in this program; none is none.",
    needs="",
    measured=_measured,
)
