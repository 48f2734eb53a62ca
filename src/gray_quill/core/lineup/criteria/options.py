"""Options in use."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import ONCE, Criterion
from gray_quill.core.pen.recipe import Recipe


def _measured(case: Case) -> float | None:
    plain = Recipe()
    groups = ("press", "pace", "lean", "ends", "steady", "tooth", "wash")
    return float(sum(getattr(case.recipe, g) != getattr(plain, g) for g in groups))


CRITERION = Criterion(
    key="options",
    label="options in use",
    unit="",
    help=(
        "How many of its groups a pen makes use of beyond a plain line: Press, Pace, Lean, Ends, Steady, Tooth, Wash."
    ),
    nothing=0.0,
    all=5.0,
    reason="A plain line uses none; five are as many as shipped pens use.",
    needs="",
    measured=_measured,
    often=ONCE,
)
