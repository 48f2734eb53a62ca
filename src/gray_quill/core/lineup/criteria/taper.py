"""Gentle taper."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    slope = case.readings.max_taper_slope
    return slope if slope > 0 else None


CRITERION = Criterion(
    key="taper",
    label="gentle taper",
    unit="mm a mm",
    help="The steepest change of width on the tapers of a middling stroke.",
    nothing=0.8,
    all=0.1,
    reason=(
        "At 0.8 a taper ends within its own width and looks cut; a tenth is a long, soft end (common practice, "
        "no source)."
    ),
    needs="strokes that taper",
    measured=_measured,
)
