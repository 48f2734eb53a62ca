"""SVG in: its paths and shapes as strokes of constant force, drawn at an even speed. SVG 1.1, W3C Recommendation of 16
August 2011; where it gives no unit a pixel is 1/96 inch.
"""

import dataclasses
import io
import itertools
import math
import re
from collections import Counter
from collections.abc import Iterator
from typing import Any
from xml.etree.ElementTree import Element, ParseError

import numpy as np

from gray_quill.core.errors import FormatError, GrayQuillError, TooLarge
from gray_quill.core.trace import Trace, make_trace
from gray_quill.formats.xml_in import local_name, read_xml

MOST_BYTES, MOST_ELEMENTS = 8_000_000, 50_000
MOST_DRAWN = 60_000  # elements, with all that is drawn again by reference; 50 steps of a path count as one
MOST_STEPS = 60_000  # of all paths
DEEPEST_REFERENCE = 30
MOST_STROKES, MOST_POINTS, MOST_POINTS_IN_ALL = 20_000, 20_000, 400_000
PPI = 96.0
MM_PER_PX = 25.4 / PPI
STEP_MM = 0.3
STEPS = re.compile(r"([a-zA-Z])([^a-zA-Z]*)")
EXPONENTS = re.compile(r"(?<=[\d.])[eE](?=[-+\d])")
NUMBERS = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)")
TAKES = {"m": 2, "l": 2, "h": 1, "v": 1, "c": 6, "s": 4, "q": 4, "t": 2, "a": 7}  # numbers a step (8.3)
REFERENCES = re.compile(r"url\(\s*[\"']?#([^\"')\s]+)")
AGAIN = "This SVG repeats its parts more often than is read. Save it with its copies drawn out."
SPEED_MM_S = 60.0  # everyday writing; common practice, no source
DRAWN = {"path", "line", "polyline", "polygon", "rect", "circle", "ellipse"}
SILENT = {"svg", "g", "defs", "title", "desc", "metadata", "style", "symbol", "use", "clipPath", "linearGradient"}
ENDLESS = {"feTurbulence", "feConvolveMatrix", "feMorphology"}  # filters whose work has no bound
SHADES = {"linearGradient", "radialGradient"}
SILENT |= {"radialGradient", "stop", "pattern", "mask", "filter", "marker", "namedview", "a", "switch"}


@dataclasses.dataclass(frozen=True)
class CameAs:
    """What came of a file: its strokes, and what of it was passed over, in words."""

    traces: list[Trace]
    passed_over: list[str]


def read_svg(data: bytes) -> CameAs:
    """Every way that is drawn, one stroke each. Raises FormatError or TooLarge with what to do."""
    _, others = checked_svg(data)
    # late: only who brings SVG in waits for it
    import svgelements

    try:
        drawing = svgelements.SVG.parse(io.BytesIO(data), ppi=PPI)
    except (ValueError, KeyError, TypeError, ZeroDivisionError, RecursionError, AttributeError, ParseError):
        raise FormatError("This SVG cannot be understood. Save it as plain SVG, and bring that in.") from None
    traces: list[Trace] = []
    count = 0
    for shape in drawing.elements():
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


def checked_svg(data: bytes) -> tuple[Element, Counter[str]]:
    """Its outermost element, and how many elements there are, by name, that draw something and are not read. Raises
    FormatError for what is not let in, TooLarge for what would draw too much.
    """
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This SVG is over {MOST_BYTES // 1_000_000} MB. Split it, or simplify its paths.")
    root = read_xml(data, "SVG", MOST_ELEMENTS)
    if local_name(root) != "svg":
        raise FormatError("This is XML but not SVG: the outermost element must be <svg>.")
    others: Counter[str] = Counter()
    steps: dict[Element, int] = {}
    total = 0
    for element in root.iter():
        name = local_name(element)
        steps[element] = _steps(element)
        total += steps[element]
        if total > MOST_STEPS:
            raise TooLarge(f"The paths of this SVG have over {MOST_STEPS} parts. Split it, or simplify its paths.")
        _check_links(element)
        if name in ENDLESS:
            raise FormatError(f"This SVG holds a <{name}>, which may take for ever. Save it without filters.")
        if name not in DRAWN | SILENT:
            others[f"<{name[:30]}>"] += 1
    if _Drawn(root, steps).count(root) > MOST_DRAWN:
        raise TooLarge(AGAIN)
    return root, others


def _steps(element: Element) -> int:
    """Steps of a path or shape: a letter with more numbers than it takes repeats itself (SVG 1.1, 8.3)."""
    points, path = element.get("points", ""), element.get("d", "")
    if len(points) > 20 * MOST_STEPS or len(path) > 60 * MOST_STEPS:
        return MOST_STEPS + 1  # not even counted: a step is hardly longer
    steps = len(NUMBERS.findall(points)) // 2
    for step in STEPS.finditer(EXPONENTS.sub("0", path)):
        letter, numbers = step.groups()
        steps += max(1, len(NUMBERS.findall(numbers)) // TAKES.get(letter.lower(), 2))
        if steps > MOST_STEPS:
            break
    return steps


class _Drawn:
    """Counts what is drawn when each reference is drawn out, without drawing it."""

    def __init__(self, root: Element, steps: dict[Element, int]) -> None:
        self.steps = steps
        self.named = {element.get("id", ""): element for element in root.iter() if element.get("id")}
        self.known: dict[str, int] = {}

    def count(self, element: Element, depth: int = 0) -> int:
        total = 0
        for inner in element.iter():
            total += 1 + self.steps[inner] // 50
            marked = any("marker" in words for words in (*map(str, inner.attrib), inner.get("style", "")))
            corners = 1 + self.steps[inner] if marked else 1
            total += sum(corners * self._again(goal, depth + 1) for goal in _goals(inner))
            if total > MOST_DRAWN:
                raise TooLarge(AGAIN)
        return total

    def _again(self, name: str, depth: int) -> int:
        if depth > DEEPEST_REFERENCE or self.known.get(name) == 0:  # it is being counted: it draws itself
            raise TooLarge(AGAIN)
        goal = self.named.get(name)
        if goal is None or local_name(goal) in SHADES:
            return 0
        if name not in self.known:
            self.known[name] = 0
            self.known[name] = self.count(goal, depth)
        return self.known[name]


def _goals(element: Element) -> list[str]:
    """What an element draws again, by name."""
    goals = [goal for value in element.attrib.values() if "url(" in value for goal in REFERENCES.findall(value)]
    if local_name(element) == "use":
        goals += [v[1:] for k, v in element.attrib.items() if str(k).rsplit("}", 1)[-1] == "href"]
    return goals


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
