"""What covers ink of a page until it is lifted, to be asked what lies under it."""

import dataclasses

from gray_quill.core.quantities import number, text

MOST_COVERS = 200  # of a page


@dataclasses.dataclass(frozen=True)
class Cover:
    """A strip over a part of a page."""

    id: str = text("cover", "Id", "By which it is named", 60)
    left_mm: float = number(0, -1000, 6000, 0.1, "mm", "From the left", "Where its left edge lies")
    top_mm: float = number(0, -1000, 6000, 0.1, "mm", "From the top", "Where its upper edge lies")
    width_mm: float = number(40, 0.5, 1000, 0.1, "mm", "Width", "How long the strip is")
    height_mm: float = number(8, 0.5, 5000, 0.1, "mm", "Height", "How broad the strip is")
