"""How a press record uses a hand's force."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.pen.pressure_curve import Press, press_share, press_term
from gray_quill.core.readings.reading import SHARE, Reading, declared, reading

CLIPPED = 0.05  # a twentieth of the samples; common practice, no source
FLOOR_SHARE = Reading(
    "share at the floor",
    SHARE,
    "Samples under the pen's floor all come out equally thin.",
    better="less",
    attention=CLIPPED,
)
CEILING_SHARE = Reading(
    "share at the ceiling",
    SHARE,
    "Samples over the pen's ceiling all come out equally thick.",
    better="less",
    attention=CLIPPED,
)


@dataclasses.dataclass(frozen=True)
class PressUse:
    """Shares of the pen's range and of samples, and the thin-thick ratio between the 5th and 95th percentile of P."""

    range_used: float = reading(
        "range in use", SHARE, "Share of what the pen can do that nine tenths of your force bring out.", better="more"
    )
    floor_share: float = declared(FLOOR_SHARE)
    ceiling_share: float = declared(CEILING_SHARE)
    width_ratio: float = reading("thick over thin", "×", "Between the 5th and 95th percentile of your force.")


def press_use(force: Floats, press: Press) -> PressUse:
    """What a press record does with these force samples."""
    share = press_share(press, force)
    low, high = np.percentile(share, (5, 95))
    thin, thick = np.percentile(press_term(press, force), (5, 95))
    return PressUse(
        float(high - low),
        float((force <= press.floor).mean()),
        float((force >= press.ceiling).mean()),
        float(np.exp(thick - thin)),
    )
