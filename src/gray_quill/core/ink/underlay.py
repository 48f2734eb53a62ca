"""What is printed on a page under its ink: pictures and pages of documents, placed in true millimetres."""

import dataclasses
from collections.abc import Mapping, Sequence
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.ink.placement import Placement
from gray_quill.core.ink.view import View
from gray_quill.core.paper import NumberedPaper, Paper
from gray_quill.core.quantities import flag, integer, number, text

MOST_PRINTS = 12  # of a page
LUMINANCE = np.array([0.3, 0.59, 0.11], np.float32)  # W3C Compositing and Blending Level 1, section 10: Lum
Size = tuple[float, float]


@dataclasses.dataclass(frozen=True)
class Print:
    """A picture, or a page of a document, as it lies on a page. Its size is that of what is seen of it: cropped, and
    turned.
    """

    id: str = text("print", "Id", "By which it is named", 60)
    file: str = text("file", "File", "What was brought in", 60)
    file_page: int = integer(1, 1, 500, "", "Page", "Of the document; 1 for a picture")
    left_mm: float = number(0, -2000, 2000, 0.1, "mm", "From the left", "Where its left edge lies")
    top_mm: float = number(0, -2000, 2000, 0.1, "mm", "From the top", "Where its upper edge lies")
    width_mm: float = number(100, 2, 3000, 0.1, "mm", "Width", "As it lies, of what is not cut off")
    height_mm: float = number(100, 2, 3000, 0.1, "mm", "Height", "As it lies, of what is not cut off")
    quarter_turns: int = integer(0, 0, 3, "", "Quarter turns", "Clockwise, from how it came")
    crop_left: float = number(0, 0, 0.95, 0.01, "", "Cut off left", "Share of the picture as it came")
    crop_top: float = number(0, 0, 0.95, 0.01, "", "Cut off at the top", "Share of the picture as it came")
    crop_right: float = number(0, 0, 0.95, 0.01, "", "Cut off right", "Share of the picture as it came")
    crop_bottom: float = number(0, 0, 0.95, 0.01, "", "Cut off below", "Share of the picture as it came")
    dim: float = number(0, 0, 1, 0.01, "", "Faded", "How far it fades into the paper, so that ink stands out")
    grey: bool = flag(False, "Grey", "Shown without its colours")
    tiled: bool = flag(False, "Repeated", "Over the whole page, at its size, as a paper's pattern")

    @property
    def box_mm(self) -> tuple[float, float, float, float]:
        return self.left_mm, self.top_mm, self.left_mm + self.width_mm, self.top_mm + self.height_mm

    def covers_mm(self, paper: Paper) -> tuple[float, float, float, float]:
        """The part of a page it lies on: all of it where it is repeated."""
        return (0.0, 0.0, paper.width_mm, paper.height_mm) if self.tiled else self.box_mm

    @property
    def kept(self) -> tuple[float, float, float, float]:
        """Left, top, right and bottom of what is not cut off, as shares of the picture as it came."""
        right, bottom = 1 - self.crop_right, 1 - self.crop_bottom
        return min(self.crop_left, right - 0.01), min(self.crop_top, bottom - 0.01), right, bottom


class Originals(Protocol):
    """Pictures and documents as they were brought in."""

    def drawn(
        self, file: str, page: int, part: tuple[float, float, float, float], width_px: int, height_px: int
    ) -> NDArray[np.uint8]:
        """A part (left, top, right, bottom as shares) of a picture as RGBA or of a page as RGB, shape (height_px,
        width_px, planes).
        """

    def kind(self, file: str) -> str:
        """png, jpeg or pdf."""

    def bound(self, paper: bytes, ink: bytes, documents: Sequence[Sequence[Mapping[str, object]]]) -> bytes:
        """A PDF of the pages of `paper`, on each the document pages printed there, and over them the pages of `ink`: by
        page of the whole, each with the `file` and `page` it is, `matrix` from its unit square to points, and `clip`.
        """


@dataclasses.dataclass(frozen=True, eq=False)
class PrintedPaper(NumberedPaper):
    """Paper of a page with prints on it, the lowest first."""

    prints: tuple[Print, ...] = ()
    originals: Originals | None = None


def printed(paper: Paper, prints: Sequence[Print], originals: Originals, page_number: int = 0) -> Paper:
    """The paper of a page with these prints; itself where neither they nor its number are to be seen."""
    number = page_number if paper.numbered != "none" else 0
    if not prints:
        return NumberedPaper(**vars(paper), page_number=number) if number else paper
    return PrintedPaper(**vars(paper), page_number=number, prints=tuple(prints), originals=originals)


def prints_on(paper: Paper) -> tuple[Print, ...]:
    return paper.prints if isinstance(paper, PrintedPaper) else ()


def originals_of(paper: Paper) -> Originals | None:
    return paper.originals if isinstance(paper, PrintedPaper) else None


def lay_prints(page: NDArray[np.uint8], paper: Paper, view: View) -> None:
    """Lay what is printed on the paper on a page of opaque RGB."""
    for one in prints_on(paper):
        seen = print_pixels(one, paper, view)
        if seen is not None:
            rows, columns, rgba = seen
            there = page[rows, columns]
            if not one.grey and not one.dim and (rgba.shape[2] == 3 or int(rgba[..., 3].min()) == 255):
                there[...] = rgba[..., :3]
            else:
                colour, share = as_it_looks(one, rgba)
                there[...] = there + (colour - there) * share + 0.5


def as_it_looks(one: Print, rgba: NDArray[np.uint8]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """A print's colour in 0..255 and its opacity in 0..1, greyed and faded as it says."""
    colour = rgba[..., :3].astype(np.float32)
    if one.grey:
        colour[...] = (colour @ LUMINANCE)[..., None]
    opaque = np.full((*rgba.shape[:2], 1), 255, np.uint8) if rgba.shape[2] == 3 else rgba[..., 3:]
    return colour, opaque * np.float32((1 - one.dim) / 255)


def print_pixels(one: Print, paper: Paper, view: View) -> tuple[slice, slice, NDArray[np.uint8]] | None:
    """Rows and columns of a view that a print lies in, and it there as it came, RGBA or RGB; None where it is not seen.
    Its edges lie on whole pixels of the page, wherever the view begins.
    """
    originals = originals_of(paper)
    if originals is None:
        return None
    if one.tiled:
        return _repeated(one, originals, paper, view)
    scale = view.px_per_mm
    whole = np.round(np.array(one.box_mm) * scale).astype(int)
    origin = np.round(np.array((view.left_mm, view.top_mm, view.left_mm, view.top_mm)) * scale).astype(int)
    low = np.maximum(whole[:2], origin[:2])
    high = np.minimum(whole[2:], origin[2:] + (view.width_px, view.height_px))
    size = whole[2:] - whole[:2]
    if (high <= low).any() or (size < 1).any():
        return None
    x0, y0 = (float(v) for v in (low - whole[:2]) / size)
    x1, y1 = (float(v) for v in (high - whole[:2]) / size)
    part = _before_turning((x0, y0, x1, y1), one.quarter_turns)
    left, top, right, bottom = one.kept
    across, down = right - left, bottom - top
    asked = (left + part[0] * across, top + part[1] * down, left + part[2] * across, top + part[3] * down)
    width, height = (int(v) for v in high - low)
    if one.quarter_turns % 2:
        width, height = height, width
    rgba = np.rot90(originals.drawn(one.file, one.file_page, asked, width, height), -one.quarter_turns)
    at = low - origin[:2]
    return slice(at[1], at[1] + rgba.shape[0]), slice(at[0], at[0] + rgba.shape[1]), rgba


def _repeated(
    one: Print, originals: Originals, paper: Paper, view: View
) -> tuple[slice, slice, NDArray[np.uint8]] | None:
    """The same of a print that is repeated over the page. Each pixel shows the place of the pattern at its middle, so
    that the pattern keeps its true size however many times it is there.
    """
    scale = view.px_per_mm
    size = max(1, round(one.width_mm * scale)), max(1, round(one.height_mm * scale))
    asked = size[::-1] if one.quarter_turns % 2 else size
    tile = np.rot90(originals.drawn(one.file, one.file_page, one.kept, *asked), -one.quarter_turns)
    ends = []
    for origin_mm, count, length_mm, start, step, px in (
        (view.left_mm, view.width_px, paper.width_mm, one.left_mm, one.width_mm, size[0]),
        (view.top_mm, view.height_px, paper.height_mm, one.top_mm, one.height_mm, size[1]),
    ):
        first = round(origin_mm * scale)
        at = np.arange(max(0, first), min(first + count, round(length_mm * scale)))
        if not len(at):
            return None
        along = np.mod((at + 0.5) / scale - start, step) / step
        ends.append((slice(at[0] - first, at[-1] + 1 - first), np.minimum((along * px).astype(int), px - 1)))
    (columns, across), (rows, down) = ends
    return rows, columns, tile[down][:, across]


def _before_turning(part: tuple[float, float, float, float], turns: int) -> tuple[float, float, float, float]:
    """Where a part of a turned picture was before it was turned clockwise, all as shares."""
    left, top, right, bottom = part
    for _ in range(turns):
        left, top, right, bottom = top, 1 - right, bottom, 1 - left
    return left, top, right, bottom


def turned_size(size_mm: Size, quarter_turns: int) -> Size:
    return (size_mm[1], size_mm[0]) if quarter_turns % 2 else size_mm


def laid_out(one: Print, how: str, paper: Paper, size_mm: Size) -> Print:
    """A print laid anew on its page. how: "fit" all of it as large as it goes, "fill" the page with its edges cut off
    evenly, "true" as large as it came, in the middle. size_mm: of the picture as it came, not cut and not turned.
    """
    plain = dataclasses.replace(one, crop_left=0.0, crop_top=0.0, crop_right=0.0, crop_bottom=0.0)
    width, height = turned_size(size_mm, one.quarter_turns)
    across, down = paper.width_mm / width, paper.height_mm / height
    if how == "fill":
        times = max(across, down)
        cut = (1 - across / times) / 2, (1 - down / times) / 2  # of the turned picture, at its sides and at its ends
        sides, ends = cut[::-1] if one.quarter_turns % 2 else cut
        filled = dataclasses.replace(plain, crop_left=sides, crop_right=sides, crop_top=ends, crop_bottom=ends)
        return dataclasses.replace(filled, left_mm=0.0, top_mm=0.0, width_mm=paper.width_mm, height_mm=paper.height_mm)
    times = 1.0 if how == "true" else min(across, down)
    left, top = (paper.width_mm - width * times) / 2, (paper.height_mm - height * times) / 2
    return dataclasses.replace(plain, left_mm=left, top_mm=top, width_mm=width * times, height_mm=height * times)


def turned_clockwise(one: Print) -> Print:
    """A print turned by a quarter about its middle."""
    x, y = one.left_mm + one.width_mm / 2, one.top_mm + one.height_mm / 2
    return dataclasses.replace(
        one,
        quarter_turns=(one.quarter_turns + 1) % 4,
        left_mm=x - one.height_mm / 2,
        top_mm=y - one.width_mm / 2,
        width_mm=one.height_mm,
        height_mm=one.width_mm,
    )


def on_turned_page(one: Print, height_mm: float) -> Print:
    """A print on a page that was turned clockwise by a quarter; height_mm: of the page before."""
    return dataclasses.replace(
        one,
        quarter_turns=(one.quarter_turns + 1) % 4,
        left_mm=height_mm - one.top_mm - one.height_mm,
        top_mm=one.left_mm,
        width_mm=one.height_mm,
        height_mm=one.width_mm,
    )


def carried_along(before: Print, now: Print) -> Placement:
    """Where ink goes that is tied to a print which was laid anew, whatever was cut off it."""
    (o0, u0, v0), (o1, u1, v1) = (_corners(_uncut(each), each.quarter_turns) for each in (before, now))
    m = np.column_stack((u1, v1)) @ np.linalg.inv(np.column_stack((u0, v0)))
    e = o1 - m @ o0
    return float(m[0, 0]), float(m[1, 0]), float(m[0, 1]), float(m[1, 1]), float(e[0]), float(e[1]), 0.0, 0.0


def _uncut(one: Print) -> tuple[float, float, float, float]:
    """Left, top, width and height of the whole picture on the page, with what is cut off."""
    left, top, right, bottom = one.kept
    for _ in range(one.quarter_turns):
        left, top, right, bottom = 1 - bottom, left, 1 - top, right
    width, height = one.width_mm / (right - left), one.height_mm / (bottom - top)
    return one.left_mm - left * width, one.top_mm - top * height, width, height


def _corners(box: tuple[float, float, float, float], turns: int) -> tuple[NDArray, NDArray, NDArray]:  # type: ignore[type-arg]
    """Where a turned picture's own upper left corner lies, and the ways along its upper and its left side."""
    left, top, width, height = box
    places = np.array([(left, top), (left + width, top), (left + width, top + height), (left, top + height)])
    at = np.roll(places, -turns, axis=0)
    return at[0], at[1] - at[0], at[3] - at[0]
