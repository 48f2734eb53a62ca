"""What a delay means to the hand: one table of thresholds, with what is known of their sources."""

import dataclasses


@dataclasses.dataclass(frozen=True)
class Threshold:
    """From this total delay on it is called `word`."""

    from_ms: float
    word: str
    source: str


# All figures are from memory; nothing here could be looked up again.
THRESHOLDS = (
    Threshold(
        0,
        "imperceptible",
        "pens about 1 and 2 ms apart were told apart only when dragging (Ng, Annett, Dietz, Gupta and Bischof, "
        "CHI 2014)",
    ),
    Threshold(7, "seen in slow motion only", "common practice, no source: 9 ms shows on film and hardly in the hand"),
    Threshold(
        50,
        "felt",
        "lowest latency noticed while inking, about 50 ms (Annett, Ng, Dietz, Bischof and Gupta, Graphics "
        "Interface 2014)",
    ),
    Threshold(100, "disturbing", "about 100 ms no longer feels immediate (Miller, AFIPS 1968)"),
    Threshold(225, "unusable", "225 ms: movement time +64 %, errors +214 % (MacKenzie and Ware, INTERCHI 1993)"),
)
FELT_MS = next(t.from_ms for t in THRESHOLDS if t.word == "felt")


def verdict(delay_ms: float) -> Threshold:
    """The threshold a delay has passed last."""
    return [t for t in THRESHOLDS if delay_ms >= t.from_ms][-1]
