"""SVG in: its paths and shapes as strokes of constant force, drawn at an even speed. SVG 1.1, W3C Recommendation of 16
August 2011; where it gives no unit a pixel is 1/96 inch.
"""

import dataclasses
import io
import itertools
import math
import string
from collections import Counter
from collections.abc import Callable, Iterator
from typing import Any
from xml.etree.ElementTree import Element, ParseError

import defusedxml.ElementTree as SafeTree
import numpy as np
from defusedxml.common import DefusedXmlException

from gray_quill.core.errors import FormatError, GrayQuillError, TooLarge
from gray_quill.core.trace import Trace, make_trace

MOST_BYTES, MOST_ELEMENTS, DEEPEST = 8_000_000, 50_000, 40
MOST_STEPS = 60_000  # of all paths
MOST_STROKES, MOST_POINTS, MOST_POINTS_IN_ALL = 20_000, 20_000, 400_000
PPI = 96.0
MM_PER_PX = 25.4 / PPI
STEP_MM = 0.3
LETTERS = string.ascii_letters.encode()
SPEED_MM_S = 60.0  # everyday writing; common practice, no source
DRAWN = {"path", "line", "polyline", "polygon", "rect", "circle", "ellipse"}
SILENT = {"svg", "g", "defs", "title", "desc", "metadata", "style", "symbol", "use", "clipPath", "linearGradient"}
ENDLESS = {"feTurbulence", "feConvolveMatrix", "feMorphology"}  # filters whose work has no bound
SILENT |= {"radialGradient", "stop", "pattern", "mask", "filter", "marker", "namedview", "a", "switch"}


@dataclasses.dataclass(frozen=True)
class CameAs:
    """What came of a file: its strokes, and what of it was passed over, in words."""

    traces: list[Trace]
    passed_over: list[str]


def read_svg(data: bytes, step: Callable[[], object] = lambda: None) -> CameAs:
    """Every way that is drawn, one stroke each. Raises FormatError or TooLarge with what to do; `step` is called
    between shapes, what it raises ends the reading.
    """
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This SVG is over {MOST_BYTES // 1_000_000} MB. Split it, or simplify its paths.")
    others = look_through_svg(data)
    # late: only who brings SVG in waits for it
    import svgelements

    try:
        drawing = svgelements.SVG.parse(io.BytesIO(data), ppi=PPI)
    except (ValueError, KeyError, TypeError, ZeroDivisionError, RecursionError, AttributeError, ParseError):
        raise FormatError("This SVG cannot be understood. Save it as plain SVG, and bring that in.") from None
    traces: list[Trace] = []
    count = 0
    for shape in drawing.elements():
        step()
        if not isinstance(shape, svgelements.Shape):
            continue
        try:
            ways = list(_ways(svgelements.Path(shape)))
        except (ValueError, ZeroDivisionError, TypeError, AttributeError):
            others["shapes that make no way"] += 1
            continue
        for way in ways:
            count += len(way)
            if len(traces) >= MOST_STROKES or count > MOST_POINTS_IN_ALL:
                raise TooLarge("This SVG draws more than a sheet takes. Split it, or simplify its paths.")
            traces.append(_trace(way))
    if not traces:
        raise FormatError("This SVG draws no line. Text and pictures are not read: turn text into paths first.")
    return CameAs(traces, [f"{n} {what}" for what, n in others.items()])


def look_through_svg(data: bytes) -> Counter[str]:
    """Elements by name that draw something and are not read. Raises FormatError for what is not let in."""
    others: Counter[str] = Counter()
    depth, count, uses, steps = 0, 0, 0, 0
    try:
        for event, element in SafeTree.iterparse(io.BytesIO(data), events=("start", "end"), forbid_dtd=True):
            depth += 1 if event == "start" else -1
            if event == "end":
                continue
            count += 1
            name = str(element.tag).rsplit("}", 1)[-1]
            if count == 1 and name != "svg":
                raise FormatError("This is XML but not SVG: the outermost element must be <svg>.")
            if depth > DEEPEST or count > MOST_ELEMENTS:
                raise TooLarge("This SVG holds more, or nests deeper, than is read. Save it as plain SVG, in parts.")
            uses += name == "use"
            steps += _letters(element.get("d", "")) + element.get("points", "").count(",")
            if steps > MOST_STEPS:
                raise TooLarge(f"The paths of this SVG have over {MOST_STEPS} parts. Split it, or simplify its paths.")
            _check_links(element)
            if name in ENDLESS:
                raise FormatError(f"This SVG holds a <{name}>, which may take for ever. Save it without filters.")
            if name not in DRAWN | SILENT:
                others[f"<{name[:30]}>"] += 1
    except DefusedXmlException:
        raise FormatError("This SVG declares entities or a DTD, which are not read. Save it as plain SVG.") from None
    except (ParseError, ValueError, LookupError) as error:
        raise FormatError(f"This is not well-formed XML ({error}). Save it as SVG again.") from None
    if uses > 200:  # each may repeat what repeats others
        raise TooLarge("This SVG repeats its parts more often than is read. Save it with its copies drawn out.")
    return others


def _letters(text: str) -> int:
    """How many there are: of millions, without looking at each."""
    data = text.encode()
    return len(data) - len(data.translate(None, LETTERS))


def _check_links(element: Element) -> None:
    for key, value in element.attrib.items():
        link = str(key).rsplit("}", 1)[-1] == "href"
        # a drawing inside a link could link on
        linked = link and (not value.startswith(("#", "data:")) or value.startswith("data:image/svg"))
        if linked or ("url(" in value and "url(#" not in value and 'url("#' not in value):
            raise FormatError("This SVG links to something outside itself, which is not followed. Save it whole.")


def _ways(path: Any) -> Iterator[np.ndarray]:
    """Places along each part of a path that is drawn without a lift, mm, shape (n, 2)."""
    import svgelements

    for part in path.as_subpaths():
        places: list[tuple[float, float]] = []
        for segment in part:
            if isinstance(segment, svgelements.Move) or segment.start is None or segment.end is None:
                if segment.end is not None:
                    places.append((segment.end.x, segment.end.y))
                continue
            straight = isinstance(segment, (svgelements.Line, svgelements.Close))
            corners = [getattr(segment, n, None) for n in ("start", "control", "control1", "control2", "end")]
            around = [p for p in corners if p is not None]
            length = sum(math.dist((a.x, a.y), (b.x, b.y)) for a, b in itertools.pairwise(around))
            if isinstance(segment, svgelements.Arc):
                length = abs(segment.sweep) * max(segment.rx, segment.ry)
            n = 1 if straight else int(min(2000, max(2, length * MM_PER_PX / STEP_MM)))
            places += [(p.x, p.y) for p in (segment.point(k / n) for k in range(1, n + 1))]
            if len(places) > MOST_POINTS:
                raise TooLarge("This SVG has a path with more points than a stroke takes. Simplify it.")
        way = np.array(places, float).reshape(-1, 2) * MM_PER_PX
        if len(way) and np.isfinite(way).all() and np.abs(way).max() < 5000:
            yield way


def _trace(way: np.ndarray) -> Trace:
    along = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(way, axis=0).T))))
    kept = np.concatenate(([True], np.diff(along) > 1e-6))
    try:
        return make_trace(along[kept] / SPEED_MM_S, way[kept, 0], way[kept, 1])
    except GrayQuillError as error:
        raise FormatError(f"This SVG holds a path that makes no stroke: {error.message}") from None
