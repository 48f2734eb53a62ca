"""Words under a wash stay legible."""

from gray_quill.core.highlighter.grid import typed_words
from gray_quill.core.highlighter.layers import wash_layers
from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import ONCE, Criterion


def _measured(case: Case) -> float | None:
    if not case.recipe.is_wash:
        return None
    colour = case.ground.paper.colour
    return float(wash_layers(typed_words(colour), case.recipe, colour, 1).contrast())


CRITERION = Criterion(
    key="under wash",
    label="words under the wash",
    unit=":1",
    help="Contrast of printed words with their ground where this wash lies over them once.",
    nothing=3.0,
    all=7.0,
    reason="WCAG 2.2: 3:1 is the least for large print, 7:1 the enhanced contrast of text.",
    needs="a wash",
    measured=_measured,
    often=ONCE,
)
