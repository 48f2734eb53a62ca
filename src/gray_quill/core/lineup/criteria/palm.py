"""Palms refused."""

from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import Criterion
from gray_quill.core.palm.outcome import outcome_of, palms_kept_share
from gray_quill.core.palm.practice import practise
from gray_quill.core.palm.zone import zone_of

FIRST_SEED = 7000


def _measured(case: Case) -> float | None:
    """In one practice session a block, with the rules of this hand on this device."""
    ground = case.ground
    stream, truth = practise(ground.hand, ground.device, FIRST_SEED + case.block)
    return 1 - palms_kept_share(outcome_of(stream, ground.rules, zone_of(ground.hand), truth))


CRITERION = Criterion(
    key="palm",
    label="palms refused",
    unit="%",
    help="Share of resting palms that the palm rules refuse, in simulated sessions of this hand on this device.",
    nothing=0.8,
    all=1.0,
    reason="With one palm of five let through no page can be written on; all is all (common practice, no source).",
    needs="",
    measured=_measured,
    of_ground=True,
)
