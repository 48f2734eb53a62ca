"""PNG and JPEG pictures from outside."""

import io
from dataclasses import dataclass

from PIL import Image, ImageOps

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.formats.rendered import Part

LARGEST_MM = 1000.0
MOST_PIXELS, LONGEST_PX = 50_000_000, 16_000
USUAL_DPI = 96.0  # CSS Values and Units Level 3: a pixel is 1/96 inch, where a picture does not say


@dataclass(frozen=True)
class PictureSeen:
    """kind: png, jpeg, svg or pdf; sizes_mm: of each page as it is shown; pixels of a picture, else 0."""

    kind: str
    sizes_mm: list[tuple[float, float]]
    width_px: int = 0
    height_px: int = 0


class Picture:
    """A PNG or JPEG picture, upright as its maker meant it."""

    def __init__(self, data: bytes) -> None:
        Image.MAX_IMAGE_PIXELS = MOST_PIXELS
        try:
            picture = Image.open(io.BytesIO(data), formats=("PNG", "JPEG"))
            if max(picture.size) > LONGEST_PX or picture.width * picture.height > MOST_PIXELS:
                raise TooLarge(
                    f"This picture has {picture.width} x {picture.height} pixels; up to {LONGEST_PX} along a side and "
                    f"{MOST_PIXELS // 1_000_000} million in all are read. Scale it down."
                )
            dpi = picture.info.get("dpi", (USUAL_DPI, USUAL_DPI))[0]
            self.kind = str(picture.format).lower()
            self.picture = ImageOps.exif_transpose(picture).convert("RGBA")
        except Image.DecompressionBombError:
            raise TooLarge("This picture has too many pixels. Scale it down.") from None
        except (OSError, SyntaxError, ValueError, KeyError, IndexError):
            raise FormatError("This picture is damaged, or neither PNG nor JPEG. Save it again as PNG.") from None
        self.dpi = float(dpi) if 20 <= float(dpi or 0) <= 2400 else USUAL_DPI

    def sizes_mm(self) -> list[tuple[float, float]]:
        times = 25.4 / self.dpi
        most = LARGEST_MM / max(self.picture.width * times, self.picture.height * times)
        times *= min(1.0, most)
        return [(self.picture.width * times, self.picture.height * times)]

    def drawn(self, page: int, part: Part, width: int, height: int) -> bytes:
        w, h = self.picture.size
        left, top, right, bottom = part
        box = (max(0.0, left * w), max(0.0, top * h), min(float(w), right * w), min(float(h), bottom * h))
        # larger than it is, its own pixels show; smaller, every one of them counts
        larger = width * (right - left) ** -1 > 2 * w
        how = Image.Resampling.NEAREST if larger else Image.Resampling.BICUBIC
        return self.picture.resize((width, height), how, box=box, reducing_gap=None).tobytes()


def look_at_picture(data: bytes) -> PictureSeen:
    """Raises FormatError or TooLarge for what is not let in."""
    picture = Picture(data)
    return PictureSeen(picture.kind, picture.sizes_mm(), *picture.picture.size)
