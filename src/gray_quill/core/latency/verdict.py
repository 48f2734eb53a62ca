"""What a delay means to the hand: one table of thresholds, with what is known of their sources."""

import dataclasses
from collections.abc import Sequence


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
FELT, DISTURBING = "felt", "disturbing"
FELT_MS = next(t.from_ms for t in THRESHOLDS if t.word == FELT)
# From here on a stroke is begun anew, or given up, before its ink is seen. Common practice, no source.
LATE_FIRST_INK_MS = 1000.0


def verdict(delay_ms: float, thresholds: Sequence[Threshold] = THRESHOLDS) -> Threshold:
    """The threshold a delay has passed last."""
    return [t for t in thresholds if delay_ms >= t.from_ms][-1]


def called(delay_ms: float, first_ink_ms: float, thresholds: Sequence[Threshold] = THRESHOLDS) -> str:
    """What a delay is called: ink that first comes that late is of no use, however close it then follows."""
    return THRESHOLDS[-1].word if first_ink_ms >= LATE_FIRST_INK_MS else verdict(delay_ms, thresholds).word


def of_this_hand(noticed_ms: float, disturbed_ms: float | None, source: str) -> tuple[Threshold, ...]:
    """The table with a hand's own thresholds in place of the general ones; of the others those that lie on their side
    of them.
    """
    words = [t.word for t in THRESHOLDS]
    own = [Threshold(noticed_ms, FELT, source)]
    if disturbed_ms is not None:
        own.append(Threshold(max(disturbed_ms, noticed_ms), DISTURBING, source))
    before = [t for t in THRESHOLDS[: words.index(FELT)] if t.from_ms < noticed_ms]
    after = [t for t in THRESHOLDS[words.index(FELT) + len(own) :] if t.from_ms > own[-1].from_ms]
    return (*before, *own, *after)
