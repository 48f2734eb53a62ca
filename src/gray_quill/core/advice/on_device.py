"""What a device cannot do of a pen, in words: before one is disappointed by a pen that was made on another."""

import numpy as np

from gray_quill.core.colour.srgb import rgb
from gray_quill.core.digitiser.device import Device
from gray_quill.core.pen.pressure_curve import press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import NOTICED_SHARE
from gray_quill.core.readings.reading import percent, said
from gray_quill.core.units import px_per_mm

COLOURED = 24  # of 255 between a colour's channels: less is taken for a grey; common practice, no source


def not_done(recipe: Recipe, device: Device) -> list[str]:
    """Everything of a pen that does not come out on a device; empty where all does."""
    digitiser, panel = device.digitiser, device.panel
    found = []
    if recipe.lean.side_mm > 0 and not digitiser.tilt:
        found.append("It does not report how the pen leans: the side of the lead is never laid.")
    forced = recipe.press.widening > 1 or recipe.press.deepening > 1
    if forced and digitiser.levels <= 2:
        found.append("It does not report force: the line keeps one width.")
    elif forced:
        step = _widest_step(recipe, digitiser.levels)
        if step > NOTICED_SHARE:
            found.append(
                f"It tells {digitiser.levels} levels of force: from one to the next the line widens by up to "
                f"{percent(step)}, which is seen as steps."
            )
        if digitiser.activation > recipe.press.floor:
            found.append(
                f"It notices no force under {percent(digitiser.activation)} of the full one: the lightest strokes, "
                f"from {percent(recipe.press.floor)} on, are not drawn."
            )
    pixel_mm = 1 / px_per_mm(panel.ppi)
    thin_mm = recipe.body.width_mm / float(np.sqrt(recipe.press.widening))
    if thin_mm < pixel_mm:
        found.append(f"Its pixels are {said(pixel_mm)} mm; the thinnest line, {said(thin_mm)} mm, comes out paler.")
    channels = rgb(recipe.body.colour)
    if not panel.colour and max(channels) - min(channels) > COLOURED:
        found.append("It shows no colour: this ink is a grey there.")
    if panel.greys < 256 and (recipe.body.opacity < 1 or recipe.press.deepening > 1 or recipe.is_wash):
        found.append(f"It has {panel.greys} greys: what is see-through is mixed of dots or set to the nearest.")
    return found


def _widest_step(recipe: Recipe, levels: int) -> float:
    """The largest share by which the width changes from one level of force to the next."""
    term = press_term(recipe.press, np.arange(levels) / (levels - 1))
    return float(np.expm1(np.abs(np.diff(term)).max()))
