"""Hairlines kept."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.hairlines_kept()


CRITERION = Criterion(
    key="hairlines",
    label="hairlines kept",
    unit="%",
    help="Share of the ink's length that the panel shows at 3:1 at least.",
    nothing=0.7,
    all=1.0,
    reason="With three tenths gone letters break; all of it is all (common practice, no source).",
    needs="",
    measured=_measured,
)
