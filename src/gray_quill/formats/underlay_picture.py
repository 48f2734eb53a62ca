"""How what is printed on a page goes into vector files: pictures as pictures, pages of documents as they are."""

import dataclasses

import numpy as np
from PIL import Image

from gray_quill.core.ink.underlay import Print, PrintedPaper, as_it_looks, originals_of, print_pixels, prints_on
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper
from gray_quill.core.units import mm_to_pt, px_per_mm

PRINT_DPI = 300.0


def is_document(one: Print, paper: Paper) -> bool:
    originals = originals_of(paper)
    return originals is not None and originals.kind(one.file) == "pdf" and not one.tiled


def print_picture(one: Print, paper: Paper) -> Image.Image:
    """A print as a picture of PRINT_DPI, as it lies and looks on the page."""
    left, top, right, bottom = one.covers_mm(paper)
    plain = one if one.tiled else dataclasses.replace(one, left_mm=0.0, top_mm=0.0)
    view = box_view((0, 0, right - left, bottom - top), px_per_mm(PRINT_DPI))
    assert isinstance(paper, PrintedPaper)
    seen = print_pixels(plain, paper, view)
    if seen is None:
        return Image.new("RGBA", (1, 1))
    colour, share = as_it_looks(one, seen[2])
    return Image.fromarray(np.asarray(np.concatenate((colour, 255 * share), axis=-1) + 0.5, np.uint8))


def document_prints(paper: Paper) -> list[dict[str, object]]:
    """Pages of documents on a paper, as Originals.bound takes them."""
    return [_document(one, paper) for one in prints_on(paper) if is_document(one, paper)]


def _document(one: Print, paper: Paper) -> dict[str, object]:
    left, top, right, bottom = (mm_to_pt(v) for v in one.box_mm)
    height = mm_to_pt(paper.height_mm)
    across, down = right - left, bottom - top
    # where the kept part lies in the unit square of the page as it came, y upward; then turned, then laid
    x0, y0, x1, y1 = one.kept
    kept = np.array([[x1 - x0, 0, x0], [0, y1 - y0, 1 - y1], [0, 0, 1]])
    turn = np.linalg.matrix_power(np.array([[0.0, 1, 0], [-1, 0, 1], [0, 0, 1]]), one.quarter_turns)
    laid = np.array([[across, 0, left], [0, down, height - bottom], [0, 0, 1]])
    m = laid @ turn @ np.linalg.inv(kept)
    matrix = [float(v) for v in (m[0, 0], m[1, 0], m[0, 1], m[1, 1], m[0, 2], m[1, 2])]
    clip = [left, height - bottom, right, height - top]
    return {"file": one.file, "page": one.file_page, "matrix": matrix, "clip": clip}
