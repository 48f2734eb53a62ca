"""Where a long page is cut into pages that follow each other."""

import dataclasses
from collections.abc import Sequence

import numpy as np

STEP_MM = 25.4 / 144  # cuts lie on whole pixels of a screen
CLEAR_MM = 0.3  # round ink that is not cut through
LEAST = 0.5  # of the asked height, that a page has at least where a clear cut is looked for


@dataclasses.dataclass(frozen=True)
class Cut:
    """at_mm: from the top of the long page; crossed: strokes it goes through, where no clear place was found."""

    at_mm: float
    crossed: int


def cuts(spans_mm: Sequence[tuple[float, float]], height_mm: float, page_mm: float) -> list[Cut]:
    """Cuts from the top, none further than `page_mm` from the one before. spans_mm: top and bottom of each stroke's
    ink. Each lies as low as no ink is crossed, and where there is no such place as low as the fewest strokes are.
    """
    spans = np.array(spans_mm, float).reshape(-1, 2) + (-CLEAR_MM, CLEAR_MM)
    tops, bottoms = np.sort(spans[:, 0]), np.sort(spans[:, 1])
    found: list[Cut] = []
    start = 0.0
    while height_mm - start > page_mm + STEP_MM / 2:
        first, last = np.ceil((start + LEAST * page_mm) / STEP_MM), np.floor((start + page_mm) / STEP_MM + 1e-6)
        at = np.arange(last, first - 1, -1) * STEP_MM
        crossed = np.searchsorted(tops, at, "left") - np.searchsorted(bottoms, at, "right")
        best = int(np.argmin(crossed))  # the first of equals: the lowest on the page
        found.append(Cut(round(float(at[best]), 6), int(crossed[best])))
        start = float(at[best])
    return found
