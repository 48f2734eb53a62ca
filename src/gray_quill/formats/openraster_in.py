"""OpenRaster in: its layers as pictures that lie under the ink (freedesktop.org draft 0.0.5, layers stack)."""

import dataclasses
import io
import zipfile
from xml.etree.ElementTree import Element, ParseError

import defusedxml.ElementTree as SafeTree
from defusedxml.common import DefusedXmlException

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.formats.film_zip import NO_ZIP
from gray_quill.formats.openraster import MEDIA

MOST_FILES, MOST_BYTES, MOST_IN_ALL = 300, 40_000_000, 200_000_000
MOST_LAYERS = 12
LARGEST_PX = 20_000
USUAL_DPI = 96.0


@dataclasses.dataclass(frozen=True)
class Raster:
    """A picture of a layer, where its corner lies in pixels of the whole, and how opaque it is."""

    name: str
    png: bytes
    left_px: int
    top_px: int
    opacity: float


@dataclasses.dataclass(frozen=True)
class Layered:
    """Width and height in pixels, pixels an inch, layers the lowest first, and what was passed over."""

    width_px: int
    height_px: int
    dpi: float
    layers: list[Raster]
    passed_over: list[str]


def read_openraster(data: bytes) -> Layered:
    """Raises FormatError or TooLarge for what is none or is more than is read."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            entries = file.infolist()
            if len(entries) > MOST_FILES or sum(e.file_size for e in entries) > MOST_IN_ALL:
                raise TooLarge("This OpenRaster file holds more than is read. Merge layers, and save it again.")
            if _read(file, "mimetype").strip() != MEDIA.encode():
                raise FormatError("This zip is no OpenRaster picture.")
            root = SafeTree.fromstring(_read(file, "stack.xml"), forbid_dtd=True)
            return _layered(file, root)
    except (DefusedXmlException, ParseError, ValueError, LookupError):
        raise FormatError("The layers of this OpenRaster file cannot be read. Save it again.") from None
    except NO_ZIP:
        raise FormatError("This OpenRaster file is damaged. Save it again.") from None


def _layered(file: zipfile.ZipFile, root: Element) -> Layered:
    width, height = (int(root.get(side, "0")) for side in ("w", "h"))
    if not (1 <= width <= LARGEST_PX and 1 <= height <= LARGEST_PX):
        raise FormatError(f"This OpenRaster picture is {width} x {height} pixels; up to {LARGEST_PX} are read.")
    dpi = float(root.get("xres", USUAL_DPI))
    passed: list[str] = []
    layers: list[Raster] = []
    for element in reversed(list(root.iter("layer"))):  # the file names the uppermost first
        name = (element.get("name") or "layer")[:60]
        if element.get("visibility") == "hidden":
            passed.append(f"layer {name!r}, which is hidden")
            continue
        if (element.get("composite-op") or "svg:src-over") != "svg:src-over":
            passed.append(f"the blend of layer {name!r}: it is laid plainly")
        opacity = min(1.0, max(0.0, float(element.get("opacity", "1"))))
        place = [round(float(element.get(axis, "0"))) for axis in ("x", "y")]
        layers.append(Raster(name, _read(file, element.get("src") or ""), place[0], place[1], opacity))
    if not layers:
        raise FormatError("This OpenRaster picture shows no layer.")
    if len(layers) > MOST_LAYERS:
        raise TooLarge(f"This OpenRaster picture shows {len(layers)} layers; {MOST_LAYERS} are read. Merge some.")
    return Layered(width, height, dpi if 20 <= dpi <= 2400 else USUAL_DPI, layers, passed)


def _read(file: zipfile.ZipFile, name: str) -> bytes:
    info = file.getinfo(name)
    if info.file_size > MOST_BYTES:
        raise TooLarge("A layer of this OpenRaster file is larger than is read. Scale it down.")
    with file.open(info) as entry:
        return entry.read(MOST_BYTES)
