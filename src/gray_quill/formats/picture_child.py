"""The process that reads pictures and PDF documents from outside: it alone, with limits, so that a file which brings a
library down takes nothing else with it.

It reads from its input a line of JSON and as many bytes as that names, and answers in the same way: {"length": bytes of
what follows, "error": what is wrong with the file and what to do, "large": it is too much}.
"""

import io
import json
import resource
import sys
from collections import OrderedDict
from collections.abc import Sequence
from typing import Any

from PIL import Image, ImageOps

from gray_quill.formats.pdf_cut import cut_pages
from gray_quill.formats.pdf_notes import with_notes
from gray_quill.formats.rendered import Part, Refused, Rendered
from gray_quill.formats.svg_drawn import Drawing

MEMORY_BYTES = 900_000_000
MOST_KEPT = 4  # files held open
PROOF_PX = 256  # of a side, at which a drawing is tried before it is let in
MOST_PAGES = 500
LARGEST_MM, SMALLEST_MM = 1000.0, 20.0
MOST_PIXELS, LONGEST_PX = 50_000_000, 16_000
MM_PER_POINT = 25.4 / 72
USUAL_DPI = 96.0  # CSS Values and Units Level 3: a pixel is 1/96 inch, where a picture does not say


class Picture:
    """A PNG or JPEG picture, upright as its maker meant it."""

    def __init__(self, data: bytes) -> None:
        Image.MAX_IMAGE_PIXELS = MOST_PIXELS
        try:
            picture = Image.open(io.BytesIO(data), formats=("PNG", "JPEG"))
            if max(picture.size) > LONGEST_PX or picture.width * picture.height > MOST_PIXELS:
                raise Refused(
                    f"This picture has {picture.width} x {picture.height} pixels; up to {LONGEST_PX} along a side and "
                    f"{MOST_PIXELS // 1_000_000} million in all are read. Scale it down.",
                    True,
                )
            dpi = picture.info.get("dpi", (USUAL_DPI, USUAL_DPI))[0]
            self.picture = ImageOps.exif_transpose(picture).convert("RGBA")
        except Image.DecompressionBombError:
            raise Refused("This picture has too many pixels. Scale it down.", True) from None
        except (OSError, SyntaxError, ValueError, KeyError, IndexError):
            raise Refused("This picture is damaged, or neither PNG nor JPEG. Save it again as PNG.") from None
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


class Document(Rendered):
    """A PDF document; as RGB."""

    def __init__(self, data: bytes) -> None:
        import pypdfium2
        import pypdfium2.raw as raw

        try:
            self.document = pypdfium2.PdfDocument(data)
        except pypdfium2.PdfiumError as error:
            if "password" in str(error).lower():
                raise Refused(
                    "This PDF is locked with a password. Save a copy without one, and bring that in."
                ) from None
            raise Refused("This PDF is damaged. Print it to a new PDF, and bring that in.") from None
        if raw.FPDF_GetSecurityHandlerRevision(self.document) != -1:
            raise Refused("This PDF is encrypted. Save a copy that is not, and bring that in.")
        count = len(self.document)
        if not 1 <= count <= MOST_PAGES:
            raise Refused(f"This PDF has {count} pages; 1 to {MOST_PAGES} are read. Split it.", count > MOST_PAGES)
        self.sizes = [self.document.get_page_size(k) for k in range(count)]
        for k, size in enumerate(self.sizes):
            sides = [s * MM_PER_POINT for s in size]
            if not SMALLEST_MM <= min(sides) <= max(sides) <= LARGEST_MM:
                raise Refused(
                    f"Page {k + 1} of this PDF is {sides[0]:.0f} x {sides[1]:.0f} mm; pages of {SMALLEST_MM:.0f} to "
                    f"{LARGEST_MM:.0f} mm are read. Print it to a usual size."
                )
        if raw.FPDFDoc_GetJavaScriptActionCount(self.document) > 0 or acts(data):
            raise Refused("This PDF carries scripts, which are not let in. Print it to a new PDF, and bring that in.")

    def sizes_mm(self) -> list[tuple[float, float]]:
        return [(w * MM_PER_POINT, h * MM_PER_POINT) for w, h in self.sizes]

    def rendered(self, page: int, part: Part, width: int, height: int) -> Image.Image:
        import pypdfium2
        import pypdfium2.raw as raw

        size, (left, top, right, bottom) = self.sizes[page - 1], part
        across, down = width / ((right - left) * size[0]), height / ((bottom - top) * size[1])
        bitmap = pypdfium2.PdfBitmap.new_native(width, height, raw.FPDFBitmap_BGRx)
        bitmap.fill_rect((255, 255, 255, 255), 0, 0, width, height)
        loaded = self.document[page - 1]
        matrix = raw.FS_MATRIX(across, 0, 0, down, -left * size[0] * across, -top * size[1] * down)
        clip = raw.FS_RECTF(0, 0, width, height)
        raw.FPDF_RenderPageBitmapWithMatrix(bitmap, loaded, matrix, clip, raw.FPDF_ANNOT)
        picture = Image.frombytes("RGB", (width, height), bytes(bitmap.buffer), "raw", "BGRX", bitmap.stride, 1)
        loaded.close()
        return picture


def acts(data: bytes) -> bool:
    """Whether a PDF would do something when it is opened or printed: its catalogue names actions of scripts."""
    import pypdf

    try:
        root: Any = pypdf.PdfReader(io.BytesIO(data), strict=False).trailer["/Root"].get_object()
        opens: Any = root.get("/OpenAction")
        opens = opens.get_object() if opens is not None else None
        script = isinstance(opens, dict) and opens.get("/S") in ("/JavaScript", "/Launch")
        return bool(script or "/AA" in root or "/JavaScript" in root.get("/Names", {}).get_object())
    except (pypdf.errors.PyPdfError, AttributeError, KeyError, TypeError, ValueError, RecursionError):
        return False  # what opens nothing acts on nothing; drawing it does not depend on this


def assemble(paper: bytes, ink: bytes, prints: Sequence[Sequence[dict[str, Any]]], files: dict[str, bytes]) -> bytes:
    """A PDF of as many pages as `paper`: its pages, on each the pages of documents that are printed there with their
    own outlines and text, and over them the pages of `ink`. A print: file, page, `matrix` from the page as it is shown,
    its lower left corner at 0 0 and its upper right at 1 1, to points, and `clip`, the box that is seen of it.
    """
    import numpy as np
    import pypdf
    from pypdf.generic import RectangleObject

    readers = {key: pypdf.PdfReader(io.BytesIO(data), strict=False) for key, data in files.items()}
    grounds, inks = pypdf.PdfReader(io.BytesIO(paper)), pypdf.PdfReader(io.BytesIO(ink))
    writer = pypdf.PdfWriter()
    for k, page in enumerate(grounds.pages):
        made = writer.add_page(page)
        for one in prints[k]:
            aside = pypdf.PdfWriter()
            source = aside.add_page(readers[one["file"]].pages[one["page"] - 1])
            source.transfer_rotation_to_content()
            shown = source.cropbox
            to_unit = pypdf.Transformation().translate(-float(shown.left), -float(shown.bottom))
            to_unit = to_unit.scale(1 / float(shown.width), 1 / float(shown.height))
            placed = to_unit.transform(pypdf.Transformation(tuple(one["matrix"])))
            # merging cuts off what lies beyond a page's boxes
            back, (left, bottom, right, top) = np.linalg.inv(placed.matrix), one["clip"]
            ends = np.array([(left, bottom, 1), (right, top, 1)]) @ back
            kept = RectangleObject((*ends.min(axis=0)[:2], *ends.max(axis=0)[:2]))
            source.mediabox = source.cropbox = source.trimbox = kept
            made.merge_transformed_page(source, placed, over=True, expand=False)
        made.merge_page(inks.pages[k], over=True)
    writer.add_metadata({"/Title": (grounds.metadata and grounds.metadata.title) or "Sheet"})
    writer.compress_identical_objects()
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


READERS: dict[str, type[Picture] | type[Document] | type[Drawing]] = {"pdf": Document, "svg": Drawing}


class Desk:
    """Files held open, the last used last."""

    def __init__(self) -> None:
        self.open: OrderedDict[str, Picture | Document | Drawing] = OrderedDict()
        self.data: dict[str, bytes] = {}

    def take(self, key: str, kind: str, data: bytes) -> None:
        self.open[key] = READERS.get(kind, Picture)(data)
        self.data[key] = data
        while len(self.open) > MOST_KEPT:
            self.data.pop(self.open.popitem(last=False)[0])

    def answer(self, asked: dict[str, Any], payload: bytes) -> tuple[dict[str, Any], bytes]:
        if asked["do"] == "open":
            self.take(asked["key"], asked["kind"], payload)
            opened = self.open[asked["key"]]
            if isinstance(opened, Drawing) and asked.get("proof"):
                opened.rendered(1, (0, 0, 1, 1), PROOF_PX, PROOF_PX)
            pixels = opened.picture.size if isinstance(opened, Picture) else (0, 0)
            return {"sizes_mm": opened.sizes_mm(), "pixels": pixels}, b""
        if asked["do"] == "draw":
            if asked["key"] not in self.open:
                return {"missing": True}, b""
            self.open.move_to_end(asked["key"])
            found = self.open[asked["key"]]
            return {}, found.drawn(asked["page"], asked["part"], asked["width"], asked["height"])
        if asked["do"] == "cut":
            return {}, cut_pages(payload, asked["heights_pt"])
        if asked["do"] == "note":
            return {}, with_notes(payload, asked["notes"])
        at, parts = 0, []
        for length in asked["lengths"]:
            parts.append(payload[at : at + length])
            at += length
        files = dict(zip(asked["keys"], parts[2:], strict=True))
        return {}, assemble(parts[0], parts[1], asked["prints"], files)


def main() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    desk, read, write = Desk(), sys.stdin.buffer, sys.stdout.buffer
    while line := read.readline():
        asked = json.loads(line)
        payload = read.read(asked.get("length", 0))
        try:
            told, data = desk.answer(asked, payload)
        except Refused as refused:
            told, data = {"error": str(refused), "large": refused.large}, b""
        except MemoryError:
            told, data = (
                {"error": "This file needs too much memory. Print it to a new, simpler one.", "large": True},
                b"",
            )
        except Exception as error:  # one file's trouble, not the end of all
            told, data = {"error": f"This file cannot be read ({type(error).__name__}). Save or print it anew."}, b""
        write.write(json.dumps({**told, "length": len(data)}).encode() + b"\n" + data)
        write.flush()


if __name__ == "__main__":
    main()
