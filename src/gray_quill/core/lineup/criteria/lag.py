"""Quick ink."""

from gray_quill.core.latency.trial import quick_lag
from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import ONCE, Criterion


def _measured(case: Case) -> float | None:
    return quick_lag(case.ground.device, case.recipe)[1]


CRITERION = Criterion(
    key="lag",
    label="quick ink",
    unit="ms",
    help="Modelled delay from nib to ink on this device, a twentieth of all ink is slower.",
    nothing=150.0,
    all=20.0,
    reason="Ink 150 ms late disturbs most hands; under 20 ms few notice (from memory; see what is said of lag).",
    needs="",
    measured=_measured,
    often=ONCE,
)
