"""Ink on a page: outlines, pixels, settling, what each pen costs, smoothing and the draws of the lag model."""

import itertools

import aggdraw
import numpy as np
import shapely
from OneEuroFilter import OneEuroFilter

from bench.timing import best_ms, best_of_both
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.eraser import rubbed, sweep_of, touched
from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.page import opacity_plane, page_pixels
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.stroke_edits import UNEDITED
from gray_quill.core.ink.view import box_view, page_view
from gray_quill.core.latency.stage import draw_totals
from gray_quill.core.latency.trial import stages_of
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady.one_euro import one_euro
from gray_quill.core.trace import Trace, make_trace, moved

PEN = read_recipe(
    {
        "body": {"width_mm": 0.5},
        "press": {"range": 3},
        "ends": {"start_mm": 0.6, "start_tip": 0.3, "end_mm": 1.2, "end_tip": 0.2},
    }
)


def page_of_strokes(strokes: int = 500, points: int = 80) -> list[Trace]:
    """Handwriting-sized strokes in lines on an A4 page."""
    rng = np.random.default_rng(1)
    out = []
    for i in range(strokes):
        t = np.arange(points) / 240
        x0, y0 = 12 + (i % 20) * 9.3, 14 + (i // 20) * 10.8
        a = 2 * np.pi * (2.4 * t / t[-1]) + rng.uniform(0, 6)
        out.append(make_trace(t, x0 + 7.5 * t / t[-1] + 0.9 * np.cos(a), y0 + 1.6 * np.sin(a), 0.5 + 0.35 * np.sin(a)))
    return out


def raster(inks: list[Ink]) -> tuple[float, float]:
    """Page of ink against aggdraw filling polygons that are ready."""
    paper = paper_from_spec("blank A4")
    view = page_view(paper, 200)
    paths = []
    for ink in inks:
        for ring in outline(ink):
            paths.append((ring * view.px_per_mm).ravel().tolist())

    def theirs() -> bytes:
        draw = aggdraw.Draw("RGB", (view.width_px, view.height_px), "white")
        brush = aggdraw.Brush("black")
        for p in paths:
            draw.polygon(p, brush)
        draw.flush()
        return draw.tobytes()  # type: ignore[no-any-return]

    return best_of_both(lambda: page_pixels(inks, paper, view), theirs)


def outlines(inks: list[Ink]) -> tuple[float, float]:
    lines = [shapely.LineString(np.column_stack((ink.x_mm, ink.y_mm))) for ink in inks]
    return best_of_both(lambda: [outline(ink) for ink in inks], lambda: [line.buffer(0.25) for line in lines], 3)


def settling(strokes: int = 4000) -> float:
    """ms to settle a sheet of this many strokes in the fountain pen."""
    traces = page_of_strokes(strokes)
    return best_ms(lambda: settle_all(traces, SHIPPED_PENS["fen-fountain"]))


def pens() -> dict[str, tuple[float, float]]:
    """Of each shipped pen: ms to draw a page of 200 written strokes at 200 dpi, and ns a pixel they ink."""
    paper = paper_from_spec("blank A4")
    view = page_view(paper, 200)
    words = "Hawk-moth on the white sheet, wings folded"
    line = write_text(words, SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 3)
    traces = [moved(t, 0, 18 * k) for k in range(10) for t in line][:200]
    empty = best_ms(lambda: page_pixels([], paper, view), 3)
    out = {}
    for name, recipe in SHIPPED_PENS.items():
        inks = settle_all(traces, recipe)
        inked = sum(int((opacity_plane([ink], box_view(ink.box_mm, view.px_per_mm)) > 0).sum()) for ink in inks)
        page_pixels(inks, paper, view)
        ours = best_ms(lambda inks=inks: page_pixels(inks, paper, view), 3) - empty  # type: ignore[misc]
        out[name] = ours, 1e6 * ours / inked
    return out


def cut() -> float:
    """ms to cut a stroke of 500 reports where an eraser went across it."""
    trace = page_of_strokes(1, 500)[0]
    ink = settle_all([trace], SHIPPED_PENS["fen-fountain"])[0]
    x, y = ink.x_mm[300], ink.y_mm[300]
    way = [(x - 3 + 0.1 * k, y - 3 + 0.1 * k) for k in range(60)]

    def work() -> None:
        sweep = sweep_of(way, 1.0)
        touched([ink], sweep)
        rubbed(ink, UNEDITED, sweep)

    return best_ms(work, 20)


def euro() -> tuple[float, float]:
    n = 100_000
    t = 1 + np.arange(n) / 240
    x = np.cumsum(np.random.default_rng(2).normal(0, 0.1, n))
    both = np.column_stack((x, np.zeros(n)))
    reference = OneEuroFilter(freq=240, mincutoff=1.0, beta=0.01, dcutoff=1.0)
    values, times = x.tolist(), t.tolist()
    return best_ms(lambda: one_euro(t, both, 1.0, 0.01, 1.0)), best_ms(
        lambda: [reference(v, s) for v, s in zip(values, times, strict=True)], 3
    )


def lag_draws(count: int = 1_000_000) -> tuple[float, float]:
    """Totals of a pen on a device against the random numbers they take."""
    stages = stages_of(SHIPPED_DEVICES["convertible-13"], SHIPPED_PENS["fen-fountain"])
    waits = sum(s.wait_ms > 0 for s in stages)
    shapes = [(s.jitter_ms / s.jitter_sd_ms) ** 2 for s in stages if s.jitter_sd_ms]

    def numbers() -> None:
        rng = np.random.default_rng(1)
        for _ in range(waits):
            rng.random(count)
        for shape in shapes:
            rng.standard_gamma(shape, count)

    seeds = itertools.count()  # what was drawn before is kept
    return best_ms(lambda: draw_totals(stages, next(seeds), count)), best_ms(numbers)
