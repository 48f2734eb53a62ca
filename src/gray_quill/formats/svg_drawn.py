"""An SVG drawing as a picture under the ink, or laid beside the page it was made from. SVG 1.1, W3C Recommendation of
16 August 2011, section 7: its size, and what part of its plane that shows.
"""

import io
import re
import xml.etree.ElementTree as ElementTree

from PIL import Image

from gray_quill.core.errors import FormatError
from gray_quill.formats.picture_in import PictureSeen
from gray_quill.formats.rendered import Part, Rendered
from gray_quill.formats.svg_in import checked_svg
from gray_quill.formats.xml_in import read_xml

SVG = "http://www.w3.org/2000/svg"
UNITS_MM = {"": 25.4 / 96, "px": 25.4 / 96, "mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
MOST_ELEMENTS = 2_000_000  # of one that was let in, or is of our own
PROOF_PX = 256  # of a side, at which a drawing is tried before it is let in
LARGEST_MM, SMALLEST_MM = 1000.0, 1.0
LONGEST_MM = 5000.0  # of an endless page that was taken out
DAMAGED = "This SVG cannot be drawn. Save it as plain SVG, or as PNG, and bring that in."
ElementTree.register_namespace("", SVG)
ElementTree.register_namespace("xlink", "http://www.w3.org/1999/xlink")


class Drawing(Rendered):
    """An SVG drawing; as RGBA."""

    def __init__(self, data: bytes) -> None:
        root = read_xml(data, "SVG", MOST_ELEMENTS)
        view = [float(v) for v in re.findall(r"-?[\d.]+(?:e-?\d+)?", root.get("viewBox", ""))]
        if len(view) != 4 or min(view[2:]) <= 0:
            view = []
        sides = [_mm(root.get(side), view[2 + k] if view else None) for k, side in enumerate(("width", "height"))]
        if min(sides) < SMALLEST_MM or min(sides) > LARGEST_MM or max(sides) > LONGEST_MM:
            raise FormatError(
                f"This SVG is {sides[0]:.4g} x {sides[1]:.4g} mm; {SMALLEST_MM:g} to {LARGEST_MM:g} mm are drawn. "
                "Give it a usual width and height."
            )
        self.size = sides[0], sides[1]
        if not view:
            root.set("viewBox", f"0 0 {sides[0] / UNITS_MM['']:.6g} {sides[1] / UNITS_MM['']:.6g}")
        root.set("width", f"{sides[0]:.6g}")
        root.set("height", f"{sides[1]:.6g}")
        self.root = ElementTree.tostring(root, "unicode")
        self.has_text = "<text" in self.root

    def sizes_mm(self) -> list[tuple[float, float]]:
        return [self.size]

    def rendered(self, page: int, part: Part, width: int, height: int) -> Image.Image:
        import resvg_py

        (left, top, right, bottom), (w, h) = part, self.size
        seen = f"{left * w:.9g} {top * h:.9g} {(right - left) * w:.9g} {(bottom - top) * h:.9g}"
        whole = (
            f'<svg xmlns="{SVG}" width="{width}" height="{height}" viewBox="{seen}" preserveAspectRatio="none">'
            f"{self.root}</svg>"
        )
        try:
            png = resvg_py.svg_to_bytes(svg_string=whole, skip_system_fonts=not self.has_text)
        except ValueError:
            raise FormatError(DAMAGED) from None
        return Image.open(io.BytesIO(bytes(png)), formats=("PNG",)).convert("RGBA")


def _mm(given: str | None, plain: float | None) -> float:
    """A length in mm; that of the view box where it is not given, or given as a share."""
    match = re.fullmatch(r"\s*([\d.]+(?:e[+-]?\d+)?)\s*([a-z]*)\s*", given or "")
    if match and match[2] in UNITS_MM:
        try:
            return float(match[1]) * UNITS_MM[match[2]]
        except ValueError:
            raise FormatError(DAMAGED) from None
    return (plain if plain is not None else 100 / UNITS_MM[""]) * UNITS_MM[""]


def look_at_svg(data: bytes) -> PictureSeen:
    """It is drawn once, small: what takes too long to draw is not let in. Raises FormatError or TooLarge."""
    checked_svg(data)
    drawing = Drawing(data)
    drawing.rendered(1, (0, 0, 1, 1), PROOF_PX, PROOF_PX)
    return PictureSeen("svg", drawing.sizes_mm())
