"""Three lines that are the same everywhere: who shares a pen and who opens it can lay their readings side by side."""

import dataclasses
from functools import lru_cache

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.ink_readings import Readings, read_ink
from gray_quill.core.trace import Trace

TEXT = "moths on the sheet"


@dataclasses.dataclass(frozen=True)
class StandardLine:
    """hand, device: of the shipped ones; seed: of its writing."""

    name: str
    hand: str
    device: str
    seed: int


LINES = (
    StandardLine("small and quick", "left-steep", "tablet-11", 11),
    StandardLine("slow and firm", "right-firm", "convertible-13", 12),
    StandardLine("shaky, on e-paper", "right-shaky", "paper-slate-10", 13),
)


@lru_cache(maxsize=len(LINES))
def line_traces(line: StandardLine) -> tuple[Trace, ...]:
    """What that hand writes there."""
    return tuple(write_text(TEXT, SHIPPED_HANDS[line.hand], SHIPPED_DEVICES[line.device], line.seed, width_mm=400))


def standard_readings(recipe: Recipe) -> dict[str, Readings]:
    """A pen's readings on each line, by its name."""
    return {line.name: read_ink(line_traces(line), recipe) for line in LINES}
