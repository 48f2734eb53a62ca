"""Letters that stay open."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.readings.open_share


CRITERION = Criterion(
    key="open letters",
    label="letters that stay open",
    unit="%",
    help="Share of the counters of the letters in which the ink leaves white that shows.",
    nothing=0.5,
    all=1.0,
    reason="With half of them filled words are guessed; all of them is all.",
    needs="letters with counters",
    measured=_measured,
)
