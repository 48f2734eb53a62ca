"""Tips."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return (case.readings.start_tip + case.readings.end_tip) / 2


CRITERION = Criterion(
    key="tips",
    label="tips",
    unit="of the middle width",
    help="Width at the very start and end of strokes over their middle width, the mean of both.",
    nothing=1.0,
    all=0.25,
    reason="1 is cut off blunt; a quarter is as fine as a tip shows on a usual screen (common practice, no source).",
    needs="",
    measured=_measured,
)
