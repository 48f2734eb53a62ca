"""A layer of a sheet: ink that is shown, held and laid on the page together."""

import dataclasses
from collections.abc import Collection, Sequence

from gray_quill.core.pen.highlighter import BLENDS
from gray_quill.core.quantities import choice, flag, number, text

MOST_LAYERS = 12
FIRST = "first"  # the id of the layer that ink without one lies on
LAYER_BLENDS = BLENDS[:3]


@dataclasses.dataclass(frozen=True)
class Layer:
    """One layer. id: by which strokes name it."""

    id: str = text(FIRST, "Id", "By which strokes name it", 60)
    name: str = text("ink", "Name", "What the layer is called", 30)
    shown: bool = flag(True, "Shown", "Whether its ink is seen, on the sheet and in every file")
    locked: bool = flag(False, "Locked", "Its ink is not rubbed, chosen or moved")
    opacity: float = number(1, 0, 1, 0.01, "", "Opacity", "Of the layer as a whole")
    blend: str = choice("normal", LAYER_BLENDS, "Blend", "W3C blend mode of the layer as a whole")
    clipped: bool = flag(False, "Only on ink", "Shows only where there is ink on the layers below")
    cover: bool = flag(False, "Study cover", "Hidden until it is pressed")

    @property
    def plain(self) -> bool:
        """Whether its ink is simply laid on what is below."""
        return self.opacity == 1 and self.blend == "normal" and not self.clipped


@dataclasses.dataclass(frozen=True)
class Placed:
    """A layer and how many lie below it."""

    layer: Layer
    below: int


def layers_said(layers: Sequence[Layer], read: Collection[str]) -> str:
    """Which layers of a sheet are spoken of where ink of these was read, in words; "" where it has but one."""
    if len(layers) == 1:
        return ""
    hidden = [layer.name for layer in layers if not layer.shown]
    words = f"on {_listed([layer.name for layer in layers if layer.id in read])}" if read else "on no layer"
    return words + (f"; {_listed(hidden)} {'is' if len(hidden) == 1 else 'are'} hidden" if hidden else "")


def _listed(names: Sequence[str]) -> str:
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


READY_MADE = (
    Layer("rough", "rough", opacity=0.4),
    Layer("lines", "lines"),
    Layer("shading", "shading", blend="multiply"),
)
