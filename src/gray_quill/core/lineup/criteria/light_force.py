"""Answer to light force."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import ONCE, Criterion


def _measured(case: Case) -> float | None:
    return case.nature.light_answer


CRITERION = Criterion(
    key="light answer",
    label="answer to light force",
    unit="×",
    help="How many times wider a mark grows over the lightest quarter of the pen's own force.",
    nothing=1.0,
    all=1.4,
    reason=(
        "A hand notices some 8 % between widths side by side; four such steps are a lively answer (common "
        "practice, no source)."
    ),
    needs="",
    measured=_measured,
    often=ONCE,
)
