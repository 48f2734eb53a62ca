"""InkML out, W3C Recommendation of 20 September 2011.

One context with X Y (mm), F (0..FORCE_STEPS), OA OE (deg: azimuth clockwise from +x on a y-down page, elevation above
it), T (s). A sheet's pages and layers are groups, annotated; ink that was moved lies where it is seen, and is annotated
with the placement that took it there.
"""

import dataclasses
import itertools
from collections.abc import Iterator, Mapping, Sequence
from xml.sax.saxutils import escape, quoteattr

import numpy as np

from gray_quill.core.ink.placement import IDENTITY, Placement
from gray_quill.core.trace import Trace

NAMESPACE = "http://www.w3.org/2003/InkML"
FORCE_STEPS = 65535
CHANNELS = (
    '        <channel name="X" type="decimal" units="mm"/>',
    '        <channel name="Y" type="decimal" units="mm"/>',
    f'        <channel name="F" type="integer" min="0" max="{FORCE_STEPS}"/>',
    '        <channel name="OA" type="decimal" units="deg"/>',
    '        <channel name="OE" type="decimal" units="deg"/>',
    '        <channel name="T" type="decimal" units="s"/>',
)
Brush = Mapping[str, str]  # names of properties and their values


@dataclasses.dataclass(frozen=True)
class WrittenStroke:
    """A trace as it lies on its page, the brush it is drawn with, its layer, and how it was placed there."""

    trace: Trace
    brush: str
    layer: str
    placement: Placement = IDENTITY


@dataclasses.dataclass(frozen=True)
class WrittenPage:
    number: int
    width_mm: float
    height_mm: float
    strokes: Sequence[WrittenStroke]


def write_inkml(traces: Sequence[Trace], pen: Brush | None = None) -> bytes:
    """The traces as an InkML document; `pen` is a map of brush property names to values kept with them."""
    brush = "pen" if pen else ""
    lines = [_trace(trace, brush, "  ") for trace in traces]
    return _document(None, {"pen": pen} if pen else {}, lines)


def write_inkml_sheet(title: str, pages: Sequence[WrittenPage], brushes: Mapping[str, Brush]) -> bytes:
    """A sheet with its pages and layers; brushes: by the name strokes give."""
    return _document(title, brushes, [line for page in pages for line in _page(page)])


def _document(title: str | None, brushes: Mapping[str, Brush], lines: Sequence[str]) -> bytes:
    head = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<ink xmlns="{NAMESPACE}">',
        *([f'  <annotation type="title">{_text(title)}</annotation>'] if title else []),
        "  <definitions>",
        *(line for name, brush in brushes.items() for line in _brush(name, brush)),
        '    <context xml:id="sheet">',
        '      <traceFormat xml:id="format">',
        *CHANNELS,
        "      </traceFormat>",
        "    </context>",
        "  </definitions>",
    ]
    return "\n".join([*head, *lines, "</ink>", ""]).encode()


def _brush(name: str, brush: Brush) -> Iterator[str]:
    yield f"    <brush xml:id={quoteattr(name)}>"
    for key, value in brush.items():
        yield f"      <brushProperty name={quoteattr(key)} value={quoteattr(value)}/>"
    yield "    </brush>"


def _page(page: WrittenPage) -> Iterator[str]:
    yield f'  <traceGroup xml:id="page-{page.number}">'
    for kind, value in (
        ("page", page.number),
        ("width_mm", f"{page.width_mm:g}"),
        ("height_mm", f"{page.height_mm:g}"),
    ):
        yield f'    <annotation type="{kind}">{value}</annotation>'
    # runs of one layer, in the order written
    for layer, run in itertools.groupby(page.strokes, lambda stroke: stroke.layer):
        yield "    <traceGroup>"
        yield f'      <annotation type="layer">{_text(layer)}</annotation>'
        for stroke in run:
            if stroke.placement == IDENTITY:
                yield _trace(stroke.trace, stroke.brush, "      ")
                continue
            numbers = " ".join(f"{v:.12g}" for v in stroke.placement)
            yield f'      <traceGroup><annotation type="placement">{numbers}</annotation>'
            yield _trace(stroke.trace, stroke.brush, "        ")
            yield "      </traceGroup>"
        yield "    </traceGroup>"
    yield "  </traceGroup>"


def _trace(trace: Trace, brush: str, indent: str) -> str:
    force = np.round(trace.force * FORCE_STEPS).astype(int)
    azimuth, altitude = np.degrees(trace.azimuth), np.degrees(trace.altitude)
    points = ", ".join(
        f"{x:.4f} {y:.4f} {f} {a:.3f} {e:.3f} {t:.6f}"
        for x, y, f, a, e, t in zip(trace.x_mm, trace.y_mm, force, azimuth, altitude, trace.t_s, strict=True)
    )
    reference = f" brushRef={quoteattr('#' + brush)}" if brush else ""
    return f'{indent}<trace contextRef="#sheet"{reference}>{points}</trace>'


def _text(words: str) -> str:
    return escape("".join(c if c.isprintable() else " " for c in words))
