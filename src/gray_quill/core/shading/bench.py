"""The shading bench: patches hatched by a hand, a ladder of grades, small writing, and what exports
keep of the grit.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import READABLE, luminance, rgb, to_grey8
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_intents, write_text
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent
from gray_quill.core.hand.prompts import Prompt
from gray_quill.core.ink.page import Pixels, lay_ink, opacity_plane, page_pixels, paper_pixels
from gray_quill.core.ink.settle import Ink, settle, settle_all
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.tooth import GRADES
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.quantities import changed
from gray_quill.core.readings.panel_readings import LIGHT, VISIBLE, contrast_along, lengths_along
from gray_quill.core.readings.tone import evenness, mean_tone, raggedness_mm
from gray_quill.core.trace import Trace, bounds_mm, moved
from gray_quill.core.units import px_per_mm

FORCES = (("light", 0.45), ("middle", 1.0), ("firm", 1.5))  # times the hand's everyday force, as on the force strip
LEANS = (("upright", 78.0), ("leaned", 32.0))  # altitude in degrees
PATCH_MM = (16.0, 10.0)
MARGIN_MM = 2.0
SCALE = 12.0  # px/mm of the bench's pictures
OVERLAP = 0.65  # rows of a hatch lie this many mark widths apart
X_HEIGHTS_MM = (2.0, 3.0, 4.0)
SAMPLE = "wing bar 9"
# Common practice, no source: strokes thicker than a third of the x-height fill the letters; a tenth of their length
# missing breaks them.
CLOGGED, BROKEN = 1 / 3, 0.1
EXPORT_DPI = (150, 300, 600)
APERTURE_MM = 0.1  # about one minute of arc at reading distance: finer grit is not seen as grit
KEPT = 0.9  # share of the panel's grit an export must keep to pass for it
FINER = 1.005  # from there on an export shows more grit than the panel


@dataclasses.dataclass(frozen=True, eq=False)
class Patch:
    """force, lean: names from FORCES and LEANS ("own" for the writer's). tone: mean opacity 0..1. unevenness:
    coefficient of variation at 1 mm. raggedness_mm: of a straight stroke's edge; None for the writer's own patch.
    """

    force: str
    lean: str
    pixels: Pixels
    tone: float
    unevenness: float
    raggedness_mm: float | None


@dataclasses.dataclass(frozen=True, eq=False)
class SmallText:
    """contrast: median along the strokes. broken: share of their length under 3:1. thickness: stroke width over
    x-height.
    """

    x_height_mm: float
    pixels: Pixels
    contrast: float
    broken: float
    thickness: float
    verdict: str


@dataclasses.dataclass(frozen=True)
class Crispness:
    """dpi of an export, its grit over the panel's, what that means, and why it loses the rest; "" where it does not.
    An export finer than the panel shows grit the panel cannot: that is more than the panel's, and not kept of it.
    """

    dpi: int
    kept: float
    words: str
    cause: str


def shading_patches(recipe: Recipe, hand: Hand, device: Device, paper: Paper) -> list[Patch]:
    """Patches at each force, upright and leaned."""
    out = []
    for lean, altitude in LEANS:
        for force, factor in FORCES:
            pressed = min(0.95, hand.force * factor)
            edge = settle(_probe(hand, device, pressed, altitude), recipe)
            plane = opacity_plane([edge], box_view(edge.box_mm, 2 * SCALE)) / 255
            hatch = settle_all(hatched(recipe, hand, device, pressed, altitude), recipe)
            out.append(_patch(force, lean, hatch, paper, raggedness_mm(plane, 2 * SCALE)))
    return out


def own_patch(traces: Sequence[Trace], recipe: Recipe, paper: Paper) -> Patch:
    """The writer's own shading, re-inked and measured where it is closed."""
    left, top, right, bottom = bounds_mm(traces)
    shift = (MARGIN_MM + PATCH_MM[0] / 2 - (left + right) / 2, MARGIN_MM + PATCH_MM[1] / 2 - (top + bottom) / 2)
    return _patch("own", "own", settle_all([moved(t, *shift) for t in traces], recipe), paper, None)


def _patch(force: str, lean: str, inks: Sequence[Ink], paper: Paper, ragged: float | None) -> Patch:
    plain = dataclasses.replace(paper, ruling="blank", margin_mm=0.0)
    view = View(0, 0, SCALE, round((PATCH_MM[0] + 2 * MARGIN_MM) * SCALE), round((PATCH_MM[1] + 2 * MARGIN_MM) * SCALE))
    cover = _inside(opacity_plane(inks, view) / 255, SCALE)
    page = paper_pixels(plain, view)
    lay_ink(page, inks, view, paper.colour)
    return Patch(force, lean, page, mean_tone(cover), evenness(cover, SCALE), ragged)


def _inside(plane: Floats, scale: float) -> Floats:
    """The middle of a patch, clear of its edges."""
    inset, (width, height) = MARGIN_MM + 2.0, PATCH_MM
    rows, columns = (slice(round(inset * scale), round((MARGIN_MM + side - 2.0) * scale)) for side in (height, width))
    return plane[rows, columns]


def _probe(hand: Hand, device: Device, force: float, altitude_deg: float) -> Trace:
    still = dataclasses.replace(hand, tremor_mm=0, wander_mm=0)
    exact = dataclasses.replace(device, digitiser=dataclasses.replace(device.digitiser, noise_mm=0, dropped=0))
    line = Intent(np.array([(10.0, 10.0), (34.0, 10.0)]), (force, force), 0.8, altitude_deg)
    return write_intents([line], still, exact, np.random.default_rng(5))[0]


def hatched(recipe: Recipe, hand: Hand, device: Device, force: float, altitude_deg: float) -> list[Trace]:
    """One zigzag over the patch, its rows as far apart as this hand would lay them: less than the mark is broad."""
    broad = float(np.median(settle(_probe(hand, device, force, altitude_deg), recipe).mark_width_mm()))
    width, height = PATCH_MM
    rows = np.arange(MARGIN_MM, MARGIN_MM + height, float(np.clip(OVERLAP * broad, 0.2, 4)))
    path = np.array([(MARGIN_MM + (width if k % 2 else 0), y) for row, y in enumerate(rows) for k in (row, row + 1)])
    return write_intents([Intent(path, (force, force), 1.6, altitude_deg)], hand, device, np.random.default_rng(6))


def inside_prompt(traces: Sequence[Trace], prompt: Prompt) -> list[Trace]:
    """The strokes whose middles lie in a prompt's box."""
    left, top, right, bottom = prompt.box_mm
    boxes = [bounds_mm([t]) for t in traces]
    middles = [((b[0] + b[2]) / 2, (b[1] + b[3]) / 2) for b in boxes]
    return [t for t, (x, y) in zip(traces, middles, strict=True) if left <= x <= right and top <= y <= bottom]


def grade_ladder(recipe: Recipe, hand: Hand, device: Device, paper: Paper) -> list[tuple[str, float, Pixels]]:
    """Grade, mean tone and picture of a small patch for every grade, at middle force; nothing where the pen has no
    tooth.
    """
    if not recipe.tooth.toothed:
        return []
    traces = [moved(t, -MARGIN_MM, -MARGIN_MM) for t in hatched(recipe, hand, device, hand.force, LEANS[0][1])]
    view, plain = (
        View(3, 2, SCALE, round(5 * SCALE), round(6 * SCALE)),
        dataclasses.replace(paper, ruling="blank", margin_mm=0.0),
    )
    out = []
    for grade in GRADES:
        inks = settle_all(traces, changed(recipe, "tooth.grade", grade))
        out.append((grade, mean_tone(opacity_plane(inks, view) / 255), page_pixels(inks, plain, view)))
    return out


def small_text(recipe: Recipe, hand: Hand, device: Device, paper: Paper) -> list[SmallText]:
    """The pen writing at small letter heights, and whether that can be read."""
    return [_small_text(recipe, dataclasses.replace(hand, x_height_mm=x), device, paper) for x in X_HEIGHTS_MM]


def _small_text(recipe: Recipe, hand: Hand, device: Device, paper: Paper) -> SmallText:
    x = hand.x_height_mm
    inks = settle_all(write_text(SAMPLE, hand, device, 3, 2, 3 * x, 200), recipe)
    boxes = np.array([ink.box_mm for ink in inks])
    view = box_view((0, boxes[:, 1].min() - 1, boxes[:, 2].max() + 2, boxes[:, 3].max() + 1), SCALE)
    plain = dataclasses.replace(paper, ruling="blank", margin_mm=0.0)
    pixels = page_pixels(inks, plain, view)
    ground = float(luminance(np.array(rgb(paper.colour), np.uint8)))
    shown = to_grey8(pixels)
    ratio = np.concatenate([contrast_along(ink, shown, LIGHT, ground, view) for ink in inks])
    length = np.concatenate([lengths_along(ink) for ink in inks])
    width = np.concatenate([ink.mark_width_mm() for ink in inks])
    middle, broken = (
        float(weighted_percentiles(ratio, length, (50,))[0]),
        float(length[ratio < VISIBLE].sum() / length.sum()),
    )
    thick = float(weighted_percentiles(width, length, (50,))[0]) / x
    return SmallText(x, pixels, middle, broken, thick, text_verdict(middle, broken, thick))


def text_verdict(middle: float, broken: float, thickness: float) -> str:
    """Whether small writing can be read, in words."""
    if thickness > CLOGGED:
        return "letters fill up"
    if broken > BROKEN:
        return "lines break up"
    return "pale" if middle < READABLE else "reads well"


def export_crispness(recipe: Recipe, hand: Hand, device: Device) -> tuple[float, list[Crispness]]:
    """The grit a crisp leaned patch has on the device's panel, and what exports of this pen keep of it; nothing where
    the pen has no tooth.
    """
    if not recipe.tooth.toothed:
        return 0.0, []
    traces = hatched(recipe, hand, device, hand.force, LEANS[1][1])

    def grit_at(dpi: float, crisp: bool) -> float:
        gritty = changed(recipe, "tooth.crisp", crisp)
        scale = px_per_mm(dpi)
        view = View(
            0, 0, scale, round((PATCH_MM[0] + 2 * MARGIN_MM) * scale), round((PATCH_MM[1] + 2 * MARGIN_MM) * scale)
        )
        return grit(_inside(opacity_plane(settle_all(traces, gritty), view) / 255, scale), scale)

    crisp = recipe.tooth.crisp
    panel = grit_at(device.panel.ppi, True)
    rows = []
    for dpi in EXPORT_DPI:
        kept, at_best = (grit_at(dpi, c) / max(panel, 1e-9) for c in (crisp, True))
        rows.append(
            Crispness(
                dpi,
                kept,
                f"keeps {100 * kept:.0f} % of the grit" if kept <= FINER else "grittier than the panel shows",
                "" if kept >= KEPT else _loss(recipe.tooth.scale_mm * px_per_mm(dpi), dpi, crisp, kept, at_best),
            )
        )
    return panel, rows


def _loss(grain_px: float, dpi: int, crisp: bool, kept: float, kept_crisp: float) -> str:
    """The part to blame: the pen's soft edges where turning them crisp brings most of the grit back, else the export's
    density.
    """
    if not crisp and kept_crisp - kept > (1 - kept) / 2:
        return "the pen's edges are soft: turn Crisp on"
    return f"a grain is only {grain_px:.1f} pixels wide at {dpi} dpi: take a denser export or a larger grain size"


def grit(cover: Floats, scale: float) -> float:
    """Standard deviation of the tone seen through an aperture of APERTURE_MM, 0..0.5."""
    from scipy.ndimage import uniform_filter  # late, as in readings/tremor.py

    fine = APERTURE_MM / 5
    rows, columns = (((np.arange(int(n / scale / fine)) + 0.5) * fine * scale).astype(int) for n in cover.shape)
    return float(uniform_filter(cover[np.ix_(rows, columns)], 5, mode="nearest").std())
