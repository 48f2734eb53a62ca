"""Tooth: the paper's texture in the mark."""

import dataclasses

from gray_quill.core.quantities import choice


@dataclasses.dataclass(frozen=True)
class Tooth:
    grain: str = choice("none", ("none",), "Grain", "The paper surface the pen catches on")
