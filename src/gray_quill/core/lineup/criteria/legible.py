"""Legible on the panel."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion


def _measured(case: Case) -> float | None:
    return case.middle_contrast()


CRITERION = Criterion(
    key="legible",
    label="legible on the panel",
    unit=":1",
    help="Contrast of the ink with its paper as the device's panel shows it, half of its length is better.",
    nothing=3.0,
    all=7.0,
    reason="WCAG 2.2: 3:1 is the least for large print and lines, 7:1 the enhanced contrast of text.",
    needs="",
    measured=_measured,
)
