"""OpenRaster in: its layers as pictures that lie under the ink (freedesktop.org draft 0.0.5, layers stack)."""

import dataclasses
from xml.etree.ElementTree import Element

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.formats.openraster import MEDIA
from gray_quill.formats.picture_in import PictureSeen, look_at_picture
from gray_quill.formats.xml_in import local_name, read_xml
from gray_quill.formats.zip_in import ZipIn, ZipLimits, opened_zip

LIMITS = ZipLimits(files=300, file_bytes=40_000_000, all_bytes=200_000_000)
MOST_STACK_BYTES, MOST_ELEMENTS = 1_000_000, 2_000
MOST_LAYERS = 12
MOST_PIXELS = 100_000_000  # of all layers, each picture once
LARGEST_PX = 20_000
USUAL_DPI = 96.0


@dataclasses.dataclass(frozen=True)
class Raster:
    """A picture of a layer, what it is, where its corner lies in pixels of the whole, and how opaque it is."""

    name: str
    png: bytes
    seen: PictureSeen
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
    with opened_zip(data, "OpenRaster file", LIMITS) as file:
        try:
            if file.read("mimetype", 100).strip() != MEDIA.encode():
                raise FormatError("This zip is no OpenRaster picture.")
            stack = file.read("stack.xml", MOST_STACK_BYTES + 1)
            if len(stack) > MOST_STACK_BYTES:
                raise TooLarge("The stack.xml of this OpenRaster file is larger than is read. Merge layers.")
            return _layered(file, read_xml(stack, "OpenRaster", MOST_ELEMENTS))
        except (ValueError, LookupError):
            raise FormatError("The layers of this OpenRaster file cannot be read. Save it again.") from None


def merged_picture(data: bytes) -> bytes:
    """The whole of an OpenRaster file as PNG."""
    with opened_zip(data, "OpenRaster file", LIMITS) as file:
        return file.read("mergedimage.png")


def _layered(file: ZipIn, root: Element) -> Layered:
    width, height = (int(root.get(side, "0")) for side in ("w", "h"))
    if not (1 <= width <= LARGEST_PX and 1 <= height <= LARGEST_PX):
        raise FormatError(f"This OpenRaster picture is {width} x {height} pixels; up to {LARGEST_PX} are read.")
    dpi = float(root.get("xres", USUAL_DPI))
    passed: list[str] = []
    shown: list[Element] = []
    for element in (e for e in root.iter() if local_name(e) == "layer"):
        if element.get("visibility") == "hidden":
            passed.append(f"layer {_name(element)!r}, which is hidden")
        else:
            shown.insert(0, element)  # the file names the uppermost first
    if not shown:
        raise FormatError("This OpenRaster picture shows no layer.")
    if len(shown) > MOST_LAYERS:
        raise TooLarge(f"This OpenRaster picture shows {len(shown)} layers; {MOST_LAYERS} are read. Merge some.")
    pictures = _pictures(file, {e.get("src") or "" for e in shown})
    layers = []
    for element in shown:
        if (element.get("composite-op") or "svg:src-over") != "svg:src-over":
            passed.append(f"the blend of layer {_name(element)!r}: it is laid plainly")
        opacity = min(1.0, max(0.0, float(element.get("opacity", "1"))))
        left, top = (round(float(element.get(axis, "0"))) for axis in ("x", "y"))
        png, seen = pictures[element.get("src") or ""]
        layers.append(Raster(_name(element), png, seen, left, top, opacity))
    return Layered(width, height, dpi if 20 <= dpi <= 2400 else USUAL_DPI, layers, passed)


def _pictures(file: ZipIn, names: set[str]) -> dict[str, tuple[bytes, PictureSeen]]:
    """Each picture, read once however many layers show it."""
    found: dict[str, tuple[bytes, PictureSeen]] = {}
    pixels = 0
    for name in sorted(names):
        png = file.read(name)
        found[name] = png, look_at_picture(png)
        pixels += found[name][1].width_px * found[name][1].height_px
        if pixels > MOST_PIXELS:
            raise TooLarge("The layers of this OpenRaster picture have more pixels than is read. Scale it down.")
    return found


def _name(element: Element) -> str:
    return (element.get("name") or "layer")[:60]
