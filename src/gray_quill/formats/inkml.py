"""InkML, W3C Recommendation of 20 September 2011: traces in; inkml_write.py writes them.

Read: any channel order and units, contexts, values explicit or as first and second differences. Where a file leaves
units out, X and Y are CSS pixels (1/96 inch), T is milliseconds, angles are degrees.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from xml.etree.ElementTree import Element

import numpy as np

from gray_quill.core.angles import tilt_to_spherical
from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.core.trace import Trace, make_trace
from gray_quill.formats.xml_in import local_name, read_xml

MOST_BYTES = 20_000_000
MOST_TRACES = 20_000
MOST_POINTS = 60_000  # of a trace
MOST_POINTS_IN_ALL = 400_000
DEEPEST, MOST_ELEMENTS = 24, 100_000
REPORTS_WITHOUT_TIME_HZ = 100.0
MM_PER = {
    "m": 1000.0,
    "cm": 10.0,
    "mm": 1.0,
    "in": 25.4,
    "pt": 25.4 / 72,
    "pc": 25.4 / 6,
    "px": 25.4 / 96,
    "dev": 25.4 / 96,
}
S_PER = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "min": 60.0}
PLAIN = re.compile(r"[-+.0-9eE\s]+")
TOKEN = re.compile(r"""\s*([!'"]?)\s*(\*|\?|[TF]|#-?[0-9A-Fa-f]+|[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)""")


@dataclass
class Channel:
    name: str
    kind: str = "decimal"
    units: str = ""
    default: float = 0.0
    low: float | None = None
    high: float | None = None
    per_mm: float | None = None  # device units a millimetre, from the source's resolution


@dataclass
class Format:
    regular: list[Channel] = field(default_factory=lambda: [Channel("X"), Channel("Y")])
    intermittent: list[Channel] = field(default_factory=list)


@dataclass(frozen=True)
class Noted:
    """A trace and what its groups are annotated with, the innermost counting; pen: what its brush says of it."""

    trace: Trace
    notes: dict[str, str]
    pen: str = ""


def read_inkml(data: bytes) -> list[Trace]:
    """All traces of a document, in order. Raises FormatError or TooLarge with what to do about it."""
    return [noted.trace for noted in read_noted(data)]


def read_noted(data: bytes) -> list[Noted]:
    """The same with what is noted of each trace."""
    if len(data) > MOST_BYTES:
        raise TooLarge(f"This InkML file is over {MOST_BYTES // 1_000_000} MB. Split it into smaller files.")
    root = read_xml(data, "InkML", MOST_ELEMENTS, DEEPEST)
    if local_name(root) != "ink":
        raise FormatError("This is XML but not InkML: the outermost element must be <ink>.")
    formats, contexts = _definitions(root)
    brushes = _pens(root)
    found: list[Noted] = []
    points = 0
    for element, form, notes in _written(root, formats, contexts, Format(), {}):
        if len(found) >= MOST_TRACES:
            raise TooLarge(f"This InkML file has more than {MOST_TRACES} traces. Split it into smaller files.")
        trace = _trace(element, form, len(found) + 1)
        found.append(Noted(trace, notes, brushes.get(_reference(element, "brushRef"), "")))
        points += len(trace)
        if points > MOST_POINTS_IN_ALL:
            raise TooLarge(f"This InkML file has more than {MOST_POINTS_IN_ALL} points. Split it into smaller files.")
    if not found:
        raise FormatError("This InkML file holds no <trace> with points.")
    return found


def _id(element: Element) -> str:
    return element.get("{http://www.w3.org/XML/1998/namespace}id") or element.get("id") or ""


def _reference(element: Element, name: str) -> str:
    return (element.get(name) or "").lstrip("#")


def _definitions(root: Element) -> tuple[dict[str, Format], dict[str, Format]]:
    """Formats and contexts by id. A context's format is its own, the one it refers to, or its source's."""
    formats: dict[str, Format] = {}
    sources: dict[str, Format] = {}
    contexts: dict[str, Format] = {}
    for element in root.iter():
        if local_name(element) == "traceFormat" and _id(element):
            formats[_id(element)] = _format(element)
    for element in root.iter():
        if local_name(element) == "inkSource":
            inner = next((e for e in element.iter() if local_name(e) == "traceFormat"), None)
            if inner is not None:
                sources[_id(element)] = _format(inner, element)
    for element in root.iter():
        if local_name(element) == "context" and _id(element):
            contexts[_id(element)] = _context(element, formats, sources, contexts)
    return formats, contexts


def _context(
    element: Element, formats: dict[str, Format], sources: dict[str, Format], contexts: dict[str, Format]
) -> Format:
    inner = next((e for e in element if local_name(e) == "traceFormat"), None)
    if inner is not None:
        return _format(inner)
    if _reference(element, "traceFormatRef") in formats:
        return formats[_reference(element, "traceFormatRef")]
    source = next((e for e in element if local_name(e) == "inkSource"), None)
    if (
        source is not None
        and (inner := next((e for e in source.iter() if local_name(e) == "traceFormat"), None)) is not None
    ):
        return _format(inner, source)
    if _reference(element, "inkSourceRef") in sources:
        return sources[_reference(element, "inkSourceRef")]
    return contexts.get(_reference(element, "contextRef"), Format())


def _format(element: Element, source: Element | None = None) -> Format:
    regular, intermittent = [], []
    for child in element.iter():
        if local_name(child) == "channel":
            regular.append(_channel(child))
    for group in element.iter():
        if local_name(group) == "intermittentChannels":
            names = [_channel(c) for c in group if local_name(c) == "channel"]
            intermittent += names
    late = {c.name for c in intermittent}
    result = Format([c for c in regular if c.name not in late], intermittent)
    for child in source.iter() if source is not None else ():
        if local_name(child) == "channelProperty" and child.get("name") == "resolution":
            for channel in result.regular:
                if channel.name == child.get("channel"):
                    channel.per_mm = _resolution(child.get("value"), child.get("units"))
    return result


def _channel(element: Element) -> Channel:
    def value(name: str) -> float | None:
        text = element.get(name)
        try:
            return None if text is None else float(text)
        except ValueError:
            return None

    kind = element.get("type", "decimal")
    return Channel(
        element.get("name", "?"),
        kind,
        (element.get("units") or "").lower(),
        value("default") or 0.0,
        value("min"),
        value("max"),
    )


def _resolution(value: str | None, units: str | None) -> float | None:
    match = re.fullmatch(r"1/(\w+)", units or "")
    try:
        return float(value or "") / MM_PER[match[1]] if match and match[1] in MM_PER else None
    except ValueError:
        return None


def read_brush(data: bytes) -> dict[str, str]:
    """Properties of the first brush of a document by name; none where it has none."""
    brush = next((e for e in read_xml(data, "InkML", MOST_ELEMENTS, DEEPEST).iter() if local_name(e) == "brush"), None)
    properties = [] if brush is None else [e for e in brush if local_name(e) == "brushProperty"]
    return {e.get("name", ""): e.get("value", "") for e in properties}


def _pens(root: Element) -> dict[str, str]:
    """By brush, what its property "pen" says."""
    return {
        _id(brush): prop.get("value", "")
        for brush in root.iter()
        if local_name(brush) == "brush"
        for prop in brush
        if local_name(prop) == "brushProperty" and prop.get("name") == "pen"
    }


def _written(
    element: Element, formats: dict[str, Format], contexts: dict[str, Format], current: Format, notes: dict[str, str]
) -> Iterator[tuple[Element, Format, dict[str, str]]]:
    """Every trace that holds points, the format its points are in, and what its groups are annotated with."""
    said = {e.get("type", ""): (e.text or "").strip() for e in element if local_name(e) == "annotation"}
    notes = {**notes, **said} if local_name(element) == "traceGroup" else notes
    for child in element:
        name = local_name(child)
        if name == "traceFormat" and local_name(element) == "ink":
            current = _format(child)
        elif name == "context" and local_name(element) == "ink":
            current = contexts.get(_id(child)) or _context(child, formats, {}, contexts)
        elif name in ("trace", "traceGroup"):
            used = contexts.get(_reference(child, "contextRef"), current)
            if name == "traceGroup":
                yield from _written(child, formats, contexts, used, notes)
            elif (child.text or "").strip():
                yield child, used, notes


def _trace(element: Element, form: Format, number: int) -> Trace:
    values = decode_trace(
        element.text or "", [c.kind for c in form.regular], [c.kind for c in form.intermittent], number
    )
    columns = {c.name: (c, values[i]) for i, c in enumerate(form.regular)}
    columns |= {c.name: (c, values[len(form.regular) + i]) for i, c in enumerate(form.intermittent)}
    if "X" not in columns or "Y" not in columns:
        raise FormatError(f"Trace {number} has no X and Y channel. Its traceFormat must name both.")
    position = [_scaled(*columns[n], MM_PER, "dev") for n in ("X", "Y")]
    count = len(position[0])
    altitude, azimuth = _angles(columns)
    return make_trace(_times(element, columns, count), position[0], position[1], _force(columns), altitude, azimuth)


def _scaled(channel: Channel, values: np.ndarray, per_unit: dict[str, float], default: str) -> np.ndarray:
    if channel.per_mm and per_unit is MM_PER:
        return values / channel.per_mm
    if channel.units and channel.units not in per_unit:
        raise FormatError(f"Channel {channel.name} is in {channel.units!r}; units read here are {', '.join(per_unit)}.")
    return values * per_unit[channel.units or default]


def _times(element: Element, columns: dict[str, tuple[Channel, np.ndarray]], count: int) -> np.ndarray:
    if "T" in columns:
        t = _scaled(*columns["T"], S_PER, "ms")
        return np.asarray(t - t[0] if count else t)
    try:
        duration = float(element.get("duration", "")) / 1000
    except ValueError:
        duration = (count - 1) / REPORTS_WITHOUT_TIME_HZ
    return np.linspace(0, duration, count) if duration > 0 else np.arange(count) / REPORTS_WITHOUT_TIME_HZ


def _force(columns: dict[str, tuple[Channel, np.ndarray]]) -> np.ndarray | None:
    if "F" not in columns:
        return None
    channel, values = columns["F"]
    low = channel.low or 0.0
    high = channel.high if channel.high is not None else max(1.0, float(np.nanmax(values)))
    return np.asarray((values - low) / max(high - low, 1e-9))


def _angles(columns: dict[str, tuple[Channel, np.ndarray]]) -> tuple[np.ndarray | None, np.ndarray | None]:
    def degrees(name: str) -> np.ndarray:
        channel, values = columns[name]
        return np.degrees(values) if channel.units == "rad" else values

    if "OE" in columns:
        azimuth = np.radians(degrees("OA")) if "OA" in columns else np.zeros(len(columns["OE"][1]))
        return np.radians(degrees("OE")), azimuth
    if "OTX" in {n.upper() for n in columns}:
        names = {n.upper(): n for n in columns}
        tilt_y = degrees(names["OTY"]) if "OTY" in names else np.zeros(len(columns[names["OTX"]][1]))
        return tilt_to_spherical(np.clip(degrees(names["OTX"]), -90, 90), np.clip(tilt_y, -90, 90))
    return None, None


def decode_trace(text: str, regular: Sequence[str], intermittent: Sequence[str] = (), number: int = 1) -> np.ndarray:
    """Channel values of one trace's text, shape (channels, points).

    regular, intermittent: the channels' types (decimal, integer, boolean). Prefix state is kept for each channel: !
    explicit, ' first difference, " second difference. * keeps the value (or the running difference), ? gives none
    (NaN).
    """
    points = text.split(",")
    if len(points) > MOST_POINTS:
        raise TooLarge(f"Trace {number} has {len(points)} points; {MOST_POINTS} is the most for one stroke. Split it.")
    plain = _plain_values(points, regular, intermittent)
    if plain is not None:
        return plain
    channels = [*regular, *intermittent]
    value, delta, mode = [0.0] * len(channels), [0.0] * len(channels), ["!"] * len(channels)
    out = np.empty((len(channels), len(points)))
    for row, point in enumerate(points):
        tokens = TOKEN.findall(point)
        if TOKEN.sub("", point).strip() or not len(regular) <= len(tokens) <= len(channels):
            raise FormatError(
                f"Trace {number}, point {row + 1} ({point.strip()[:40]!r}) does not hold the {len(regular)} "
                "channels of its format."
            )
        for k, (prefix, word) in enumerate(tokens):
            mode[k] = prefix or mode[k]
            out[k, row] = _step(word, k, value, delta, mode[k], number, row)
        for k in range(len(tokens), len(channels)):
            out[k, row] = value[k]
    missing = np.isnan(out[: len(regular)])
    if missing.any():
        raise FormatError(
            f"Trace {number} leaves out a value (?) at point {int(missing.any(axis=0).argmax()) + 1}. Every stroke "
            "needs all its positions."
        )
    return out


def _plain_values(points: Sequence[str], regular: Sequence[str], intermittent: Sequence[str]) -> np.ndarray | None:
    """The quick way for the usual case: every channel of every point an explicit number in decimals."""
    if intermittent or "boolean" in regular:
        return None
    rows = [point.split() for point in points]
    if any(len(row) != len(regular) for row in rows) or not all(PLAIN.fullmatch(point) for point in points):
        return None
    try:
        return np.array(rows, float).T
    except ValueError:  # the slow way says which point it is
        return None


def _step(word: str, k: int, value: list[float], delta: list[float], mode: str, number: int, row: int) -> float:
    if word in "TF":
        value[k] = float(word == "T")
        return value[k]
    if word == "?":
        return float("nan")
    if word == "*":
        if mode != "!":
            value[k] += delta[k]
        return value[k]
    try:
        amount = float(int(word[1:], 16)) if word.startswith("#") else float(word)
    except (ValueError, OverflowError):
        raise FormatError(f"Trace {number}, point {row + 1}: {word[:40]!r} is not a number.") from None
    delta[k] = {"!": amount - value[k], "'": amount, '"': delta[k] + amount}[mode]
    value[k] = amount if mode == "!" else value[k] + delta[k]
    return value[k]
