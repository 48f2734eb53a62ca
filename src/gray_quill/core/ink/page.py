"""Raster pages: strokes and ruling drawn with the coverage kernels at any density."""

import dataclasses
import itertools
import zlib
from collections.abc import Iterable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import rgb
from gray_quill.core.ink.compositing import BLENDS, REMEMBERED, Batch, Deposit, Looks, Rubs, composed, lay_strokes
from gray_quill.core.ink.coverage import DISC, SHAPES, Path, untouched
from gray_quill.core.ink.grain import DROPS, WAVELENGTH, fade, surface, surface_of
from gray_quill.core.ink.layer import Layer
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.underlay import lay_prints
from gray_quill.core.ink.view import View, inked_part
from gray_quill.core.paper import Paper
from gray_quill.core.pen.highlighter import WET_LOSS, blend_on, wet_rim_mm
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.tooth import Tooth, hairs_of
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.trace import along_path_mm

Pixels = NDArray[np.uint8]
BAND_PX = 2_000_000  # of a layer that is laid as a whole
TWO_BANDS_PX = 120_000  # larger pages are laid in two halves at once


def draw_order(inks: Iterable[Ink]) -> list[Ink]:
    """Layer by layer: washes that lie under the ink first, then all else, each in the order written, and under each
    what its inside is filled with.
    """
    ordered = sorted(inks, key=lambda ink: (ink.on.below if ink.on else 0, ink.recipe.wash.place != "under"))
    if not any(ink.fill for ink in ordered):
        return ordered
    return [each for ink in ordered for each in ((ink.filling(), ink) if ink.fill else (ink,))]


def by_layer(inks: Iterable[Ink]) -> list[tuple[Layer | None, list[Ink]]]:
    """Ink in the order it is drawn, parted by its layers; None for one that is simply laid on what is below."""
    groups = [(on, list(group)) for on, group in itertools.groupby(draw_order(inks), lambda ink: ink.on)]
    return [(on.layer if on and not on.layer.plain else None, group) for on, group in groups]


def page_pixels(inks: Sequence[Ink], paper: Paper, view: View) -> Pixels:
    """Paper, ruling and ink as opaque RGB, shape (height, width, 3)."""
    page = paper_pixels(paper, view)
    lay_ink(page, inks, view, paper.colour)
    return page


def paper_pixels(paper: Paper, view: View) -> Pixels:
    """Paper, ruling and what is printed on it as opaque RGB, shape (height, width, 3)."""
    page = np.empty((view.height_px, view.width_px, 3), np.uint8)
    page[0] = rgb(paper.colour)
    page[1:] = page[0]  # row by row is several times quicker than pixel by pixel
    _lay(page, _ruling(paper, view))
    lay_prints(page, paper, view)
    return page


def lay_ink(page: Pixels, inks: Sequence[Ink], view: View, paper_colour: str) -> None:
    """Lay ink on a page of opaque RGB, layer by layer, washes that lie under first."""
    laid: list[Ink] = []
    for layer, group in by_layer(inks):
        if layer is None:
            _lay(page, _batch(group, view, paper_colour))
        else:
            part = _layer_part(group, view)
            if part is not None:
                rows, columns, view_there = part
                for band, view_band in _bands(view_there):
                    there = page[rows, columns][band]
                    above = layer_plane(layer, group, laid, view_band, paper_colour)
                    there[...] = composed(np.asarray(there / 255, np.float32), above, BLENDS[layer.blend]) * 255 + 0.5
        laid += group


def ink_pixels(inks: Sequence[Ink], view: View, paper_colour: str = "#ffffff", below: Sequence[Ink] = ()) -> Pixels:
    """Ink alone as RGBA, shape (height, width, 4); `paper_colour` decides what blend "auto" means. below: ink that is
    not shown, but that these meet where they are laid.
    """
    return np.asarray(_ink_plane(inks, view, paper_colour, below) * 255 + 0.5, np.uint8)


def _ink_plane(inks: Sequence[Ink], view: View, paper_colour: str, below: Sequence[Ink] = ()) -> NDArray[np.float32]:
    """Ink alone as RGBA in 0..1, not premultiplied."""
    page = np.zeros((view.height_px, view.width_px, 4), np.float32)
    deposit = deposit_of(below, view) if below else None
    laid: list[Ink] = []
    for layer, group in by_layer(inks):
        if layer is None:
            _lay(page, _batch(group, view, paper_colour), deposit)
        else:
            for band, part in _bands(view):
                above = layer_plane(layer, group, laid, part, paper_colour)
                page[band] = composed(page[band], above, BLENDS[layer.blend])
        laid += group
    return page


def _bands(view: View) -> Iterator[tuple[slice, View]]:
    """Rows of a picture, and the view of them, few enough that planes of floats stay small."""
    step = max(1, BAND_PX // view.width_px)
    for top in range(0, view.height_px, step):
        height = min(step, view.height_px - top)
        yield (
            slice(top, top + height),
            dataclasses.replace(view, top_mm=view.top_mm + top / view.px_per_mm, height_px=height),
        )


def _layer_part(inks: Sequence[Ink], view: View) -> tuple[slice, slice, View] | None:
    """Rows and columns of a picture that these lie in, and the view of them; None where they are not seen."""
    part, left, top = inked_part(inks, view)
    if left >= view.width_px or top >= view.height_px:
        return None
    return slice(top, top + part.height_px), slice(left, left + part.width_px), part


def layer_plane(
    layer: Layer, inks: Sequence[Ink], below: Sequence[Ink], view: View, paper_colour: str
) -> NDArray[np.float32]:
    """A layer's ink as RGBA in 0..1, not premultiplied, as it is laid on the ink below by the layer's blend."""
    plain = [ink.on_layer(None) for ink in inks]
    page = _ink_plane(plain, view, paper_colour)
    page[..., 3] *= layer.opacity
    if layer.clipped:
        page[..., 3] *= _ink_plane(below, view, paper_colour)[..., 3] if below else 0
    return page


def deposit_of(inks: Sequence[Ink], view: View) -> Deposit:
    """What ink left for pens that go over it."""
    deposit = _untouched((view.height_px, view.width_px), True, True)
    batch = _batch([ink for ink in draw_order(inks) if leaves_deposit(ink.recipe)], view, "#ffffff")
    _lay(np.zeros((view.height_px, view.width_px, 1), np.uint8), batch, deposit)
    return deposit


def leaves_deposit(recipe: Recipe) -> bool:
    """Whether this pen's ink depends on what such a pen laid below it."""
    return recipe.tooth.toothed or recipe.wash.streaks < 1


def met_by(ink: Ink, below: Sequence[Ink]) -> list[Ink]:
    """What of the ink below this ink meets and depends on."""
    if not leaves_deposit(ink.recipe):
        return []
    return [other for other in below if leaves_deposit(other.recipe) and _meets(other.box_mm, ink.box_mm)]


def pen_number(recipe: Recipe) -> int:
    """By which an even pen knows its own ink, from one page to the next; -1 for all others."""
    return zlib.crc32(repr(recipe).encode()) & 0x7FFFFFFF if recipe.wash.streaks < 1 else -1


def laid_by(deposit: Deposit, recipe: Recipe) -> NDArray[np.float32]:
    """How much of its tone this pen has laid at each pixel, 0..1."""
    return np.asarray(np.where(deposit.pen == pen_number(recipe), deposit.much, 0).max(axis=-1), np.float32)


def _untouched(size: tuple[int, int], toothed: bool, even: bool) -> Deposit:
    height, width = size
    laid = (height if even else 0, width, REMEMBERED)
    fill = np.zeros((height if toothed else 0, width), np.float32)
    return Deposit(fill, np.zeros(laid, np.float32), np.full(laid, -1, np.int32))


def opacity_plane(inks: Sequence[Ink], view: View) -> Pixels:
    """How much the ink covers, 0..255, shape (height, width): all that a picture in one colour needs."""
    page = np.zeros((view.height_px, view.width_px, 1), np.uint8)
    _lay(page, _batch(inks, view, "#ffffff"))
    return page[..., 0]


def _lay(page: NDArray[np.uint8] | NDArray[np.float32], batch: Batch | None, below: Deposit | None = None) -> None:
    """Lay a batch, over what ink below left; that then holds these too."""
    if batch is None:
        return
    height = page.shape[0]
    looks = batch.looks
    deposit = below or _untouched(page.shape[:2], bool((looks.surface >= 0).any()), bool((looks.even > 0).any()))
    if height * page.shape[1] < TWO_BANDS_PX:
        _lay_band(page, batch, deposit)
        return
    half = height // 2
    rubs = batch.rubs._replace(path=batch.rubs.path._replace(y=batch.rubs.path.y - half))
    lower = batch._replace(path=batch.path._replace(y=batch.path.y - half), above=batch.above + half, rubs=rubs)
    with ThreadPoolExecutor(1) as other:
        done = other.submit(_lay_band, page[half:], lower, _rows(deposit, half, height))
        _lay_band(page[:half], batch, _rows(deposit, 0, half))
        done.result()  # what fails there fails here: no page comes out with ink missing


def _rows(deposit: Deposit, top: int, bottom: int) -> Deposit:
    return Deposit(deposit.fill[top:bottom], deposit.much[top:bottom], deposit.pen[top:bottom])


_spare: list[NDArray[np.float32]] = []  # coverage that is all zeros again, for the next pages
SPARE_PLANES, SPARE_CELLS = 4, 4_000_000


def _lay_band(page: NDArray[np.uint8] | NDArray[np.float32], batch: Batch, below: Deposit) -> None:
    height, width = page.shape[:2]
    try:
        cells = _spare.pop()
    except IndexError:
        cells = np.zeros(0, np.float32)
    if len(cells) < height * width:
        cells = np.zeros(height * width, np.float32)
    plane = untouched(cells[: height * width].reshape(height, width))
    inner = np.zeros_like(plane.cov) if batch.looks.wall.any() else plane.cov[:0]
    lay_strokes(page, plane, inner, batch, below)
    if len(cells) <= SPARE_CELLS and len(_spare) < SPARE_PLANES:  # never one that a failure left with ink on it
        _spare.append(cells)


def _batch(inks: Sequence[Ink], view: View, paper_colour: str) -> Batch | None:
    scale = view.px_per_mm
    right, bottom = view.left_mm + view.width_px / scale, view.top_mm + view.height_px / scale
    margin = 1 / scale
    frame = (view.left_mm - margin, view.top_mm - margin, right + margin, bottom + margin)
    seen = [ink for ink in inks if _meets(ink.box_mm, frame)]
    if not seen:
        return None
    # most strokes of a page are of a few pens, so what a pen decides is worked out once a pen
    pens = {id(ink.recipe): ink.recipe for ink in seen}
    place = {key: k for k, key in enumerate(pens)}
    pen = np.array([place[id(ink.recipe)] for ink in seen])
    recipes = list(pens.values())
    bodies, teeth = [r.body for r in recipes], [r.tooth for r in recipes]
    offsets = np.concatenate(([0], np.cumsum([len(ink.x_mm) for ink in seen])))
    pieces = np.concatenate([[0]] + [ink.pieces[1:] + offsets[i] for i, ink in enumerate(seen)]).astype(np.int64)
    shapes = np.array([SHAPES[ink.shape] for ink in seen])
    path = _path(seen, view, bool((shapes != DISC).any()))
    surfaces, tiles = _tiles(teeth)

    def each(values: Sequence[object], kind: type = float) -> NDArray[Any]:
        return np.array(values, kind)[pen]

    looks = Looks(
        shape=shapes,
        colour=each([rgb(b.colour) for b in bodies]),
        opacity=each([b.opacity for b in bodies]),
        mode=each([BLENDS[blend_on(r.wash, paper_colour)] for r in recipes], int),
        wall=each([_wall_mm(r) * scale for r in recipes]),
        fill=each([rgb(b.hollow.fill) for b in bodies]),
        fill_opacity=each([b.hollow.fill_opacity for b in bodies]),
        wet=each([0.0 if r.body.hollow.on else WET_LOSS * r.wash.wet_edge for r in recipes]),
        builds=each([r.wash.build_up for r in recipes], bool),
        surface=surfaces[pen],
        depth=each([t.depth for t in teeth]),
        soft=each([fade(t) for t in teeth]),
        step=each([WAVELENGTH / t.scale_mm / scale for t in teeth]),
        bristles=each([t.bristles for t in teeth]),
        hairs=each([hairs_of(b.width_mm) for b in bodies], int),
        smear=each([t.smear for t in teeth]),
        crumbs=each([t.crumbs for t in teeth]),
        even=each([1 - r.wash.streaks for r in recipes]),
        pen=each([pen_number(r) for r in recipes], int),
    )
    strokes = np.concatenate(([0], np.cumsum([len(ink.pieces) - 1 for ink in seen])))
    return Batch(
        path, pieces, strokes, looks, tiles, float(view.left_mm * scale), float(view.top_mm * scale), _rubs(seen, view)
    )


def _wall_mm(recipe: Recipe) -> float:
    """Distance from the edge at which the inside of a hollow or a wet stroke begins; 0 for any other."""
    hollow, wash = recipe.body.hollow, recipe.wash
    return hollow.wall_mm if hollow.on else wet_rim_mm(recipe.body.width_mm) if wash.wet_edge > 0 else 0.0


def _path(inks: Sequence[Ink], view: View, shaped: bool) -> Path:
    """The footprints of strokes, in pixels of the view. shaped: not all of them are discs, which have no direction and
    one width.
    """

    def joined(column: str) -> Floats:
        return np.concatenate([getattr(ink, column) for ink in inks])

    scale = view.px_per_mm
    long = joined("long_mm") * scale
    none = np.zeros(len(long))
    return Path(
        (joined("x_mm") - view.left_mm) * scale,
        (joined("y_mm") - view.top_mm) * scale,
        long,
        joined("short_mm") * scale if shaped else long,
        joined("angle") if shaped else none,
        _flow(inks),
        joined("t_s") if shaped else none,  # only sprays ask for time, and only bristles for the way
        _along_mm(inks) if any(ink.recipe.tooth.bristles for ink in inks) else none,
    )


def _disc_path(x: Floats, y: Floats, width: Floats) -> Path:
    """Even discs, which no time and no direction changes, in pixels."""
    none = np.zeros(len(x))
    return Path(x, y, width, width, none, np.ones(len(x)), none, none)


def _rubs(inks: Sequence[Ink], view: View) -> Rubs:
    """Where erasers went over these, in pixels of the view."""
    rubs = [rub for ink in inks for rub in ink.rubs]
    counts = np.concatenate(([0], np.cumsum([len(ink.rubs) for ink in inks])))
    if not rubs:
        return _NO_RUBS._replace(strokes=counts)
    ways = np.concatenate([way for way, _ in rubs])
    lengths = [len(way) for way, _ in rubs]
    width = np.repeat([2 * radius * view.px_per_mm for _, radius in rubs], lengths)
    x, y = ((ways - (view.left_mm, view.top_mm)) * view.px_per_mm).T
    path = _disc_path(np.ascontiguousarray(x), np.ascontiguousarray(y), width)
    return Rubs(path, np.concatenate(([0], np.cumsum(lengths))), counts)


def _flow(inks: Sequence[Ink]) -> Floats:
    """Opacity along the path, or a spray's flow a second."""
    return np.concatenate([ink.opacity * ink.recipe.wash.flow if ink.shape == "spray" else ink.opacity for ink in inks])


def _along_mm(inks: Sequence[Ink]) -> Floats:
    """Way from each stroke's start."""
    return np.concatenate(
        [along_path_mm(ink.x_mm, ink.y_mm) if ink.recipe.tooth.bristles else np.zeros(len(ink.x_mm)) for ink in inks]
    )


_NO_TILES = np.zeros((1, 1, 1), np.float32)
_NO_RUBS = Rubs(_disc_path(np.zeros(0), np.zeros(0), np.zeros(0)), np.zeros(1, np.int64), np.zeros(2, np.int64))


def _tiles(teeth: Sequence[Tooth]) -> tuple[NDArray[np.int64], NDArray[np.float32]]:
    """Which surface each stroke catches on (-1 for none), and the surfaces."""
    used = list(dict.fromkeys((t.grain, t.own) for t in teeth if t.toothed))
    if not used:
        return np.full(len(teeth), -1), _NO_TILES
    place = {key: k for k, key in enumerate(used)}
    crumbs = [surface(DROPS)] if any(t.crumbs > 0 for t in teeth) else []  # always the last
    return np.array([place.get((t.grain, t.own), -1) if t.toothed else -1 for t in teeth]), np.stack(
        [surface_of(*key) for key in used] + crumbs
    )


def _meets(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    return a[0] <= b[2] and a[2] >= b[0] and a[1] <= b[3] and a[3] >= b[1]


def _ruling(paper: Paper, view: View) -> Batch | None:
    marks = ruling_marks(paper)
    ends = np.concatenate((marks.lines.reshape(-1, 2), marks.dots)).reshape(-1, 2)
    if not len(ends):
        return None
    scale = view.px_per_mm
    lengths = np.concatenate((np.full(len(marks.lines), 2), np.full(len(marks.dots), 1)))
    n = len(ends)
    weight = np.full(n, marks.weight_mm * scale)
    path = _disc_path((ends[:, 0] - view.left_mm) * scale, (ends[:, 1] - view.top_mm) * scale, weight)
    pieces = np.concatenate(([0], np.cumsum(lengths))).astype(np.int64)
    looks = Looks(
        shape=np.array([SHAPES["round"]]),
        colour=np.array([rgb(paper.rule_colour)], float),
        opacity=np.ones(1),
        mode=np.zeros(1, np.int64),
        wall=np.zeros(1),
        fill=np.zeros((1, 3)),
        fill_opacity=np.zeros(1),
        wet=np.zeros(1),
        builds=np.zeros(1, bool),
        surface=np.full(1, -1),
        depth=np.zeros(1),
        soft=np.ones(1),
        step=np.ones(1),
        bristles=np.zeros(1),
        hairs=np.ones(1, np.int64),
        smear=np.zeros(1),
        crumbs=np.zeros(1),
        even=np.zeros(1),
        pen=np.full(1, -1),
    )
    return Batch(path, pieces, np.array([0, len(lengths)]), looks, _NO_TILES, 0.0, 0.0, _NO_RUBS)
