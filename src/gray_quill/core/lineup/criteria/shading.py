"""Evenness of shading."""

import dataclasses

import numpy as np

from gray_quill.core.ink.page import opacity_plane
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import box_view
from gray_quill.core.lineup.case import Case
from gray_quill.core.lineup.criterion import ONCE, Criterion
from gray_quill.core.readings.tone import evenness
from gray_quill.core.shading.bench import hatched

SCALE = 10.0  # pixels a mm
INSET_MM = 3.0  # clear of the patch's edges


def _measured(case: Case) -> float | None:
    """A patch hatched at everyday force, upright."""
    hand, device = case.ground.hand, case.ground.device
    steady = dataclasses.replace(hand, tremor_mm=0)
    inks = settle_all(hatched(case.recipe, steady, device, min(0.95, hand.force), 65.0), case.recipe)
    boxes = np.array([ink.box_mm for ink in inks])
    (left, top), (right, bottom) = boxes[:, :2].min(axis=0) + INSET_MM, boxes[:, 2:].max(axis=0) - INSET_MM
    if right - left < 2 or bottom - top < 2:
        return None
    plane = opacity_plane(inks, box_view((float(left), float(top), float(right), float(bottom)), SCALE))
    return evenness(plane / 255, SCALE)


CRITERION = Criterion(
    key="shading",
    label="even shading",
    unit="%",
    help="How much the tone of a hatched patch varies over a millimetre.",
    nothing=0.5,
    all=0.05,
    reason="At half of the mean a patch reads as single strokes; a twentieth looks flat (common practice, no source).",
    needs="room for a patch",
    measured=_measured,
    often=ONCE,
)
