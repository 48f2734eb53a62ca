"""Long PDF pages as pages that follow each other."""

import io
from collections.abc import Sequence


def cut_pages(data: bytes, heights_pt: Sequence[Sequence[float]]) -> bytes:
    """A PDF with each page cut into pages of these heights from its top: each shows its part of the same content."""
    import pypdf
    from pypdf.generic import RectangleObject

    reader = pypdf.PdfReader(io.BytesIO(data), strict=False)
    writer = pypdf.PdfWriter()
    for long, heights in zip(reader.pages, heights_pt, strict=True):
        left, right, top = (float(v) for v in (long.mediabox.left, long.mediabox.right, long.mediabox.top))
        for height in heights:
            page = writer.add_page(long)
            box = RectangleObject((left, top - height, right, top))
            page.mediabox = page.cropbox = page.trimbox = page.bleedbox = page.artbox = box
            top -= height
    writer.add_metadata({"/Title": (reader.metadata and reader.metadata.title) or "Sheet"})
    writer.compress_identical_objects()
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()
