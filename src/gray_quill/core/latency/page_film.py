"""A page in time as a camera above it would see it: the panel's pictures with the pen over them, so that the reader of
films finds nib and ink front.
"""

from collections.abc import Iterator

import numpy as np

from gray_quill.core.ink.areas import area_cover
from gray_quill.core.ink.view import View
from gray_quill.core.latency.film import PEN, SHAFT
from gray_quill.core.panel.in_time import InTime, Picture

OUTLINE = np.array(SHAFT)


def page_film(page: InTime, frames_hz: float, with_nib: bool) -> Iterator[Picture]:
    """The panel's pictures, each a copy of its own."""
    for t_s, picture in page.play(frames_hz):
        nib = page.writing.nib(t_s) if with_nib else None
        yield picture.copy() if nib is None else _with_pen(picture, page.view, *nib)


def _with_pen(picture: Picture, view: View, x_mm: float, y_mm: float) -> Picture:
    out = picture.copy()
    reach = np.concatenate((OUTLINE.min(axis=0), OUTLINE.max(axis=0))) + (x_mm, y_mm, x_mm, y_mm)
    left, top = np.floor((reach[:2] - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) - 1
    right, bottom = np.ceil((reach[2:] - (view.left_mm, view.top_mm)) * view.px_per_mm).astype(int) + 1
    left, right = (int(np.clip(v, 0, view.width_px)) for v in (left, right))
    top, bottom = (int(np.clip(v, 0, view.height_px)) for v in (top, bottom))
    if left >= right or top >= bottom:
        return out
    scale = view.px_per_mm
    there = View(view.left_mm + left / scale, view.top_mm + top / scale, scale, right - left, bottom - top)
    cover = area_cover([OUTLINE + (x_mm, y_mm)], there)
    part = out[top:bottom, left:right].astype(np.float32)
    cover = cover if part.ndim == 2 else cover[..., None]
    out[top:bottom, left:right] = np.round(part + (PEN - part) * cover)
    return out
