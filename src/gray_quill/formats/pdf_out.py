"""A PDF put together from papers, pages of documents and ink: of what documents bring only what is seen and plain links
goes out; no action, script, form or file of theirs.
"""

import io
from collections.abc import Mapping, Sequence
from typing import Any

from gray_quill.formats.pdf_in import Link, read_pdf_links


def assemble(paper: bytes, ink: bytes, prints: Sequence[Sequence[dict[str, Any]]], files: Mapping[str, bytes]) -> bytes:
    """A PDF of as many pages as `paper`: its pages, on each the pages of documents that are printed there with their
    own outlines and text, and over them the pages of `ink`. A print: file, page, `matrix` from the page as it is shown,
    its lower left corner at 0 0 and its upper right at 1 1, to points, and `clip`, the box that is seen of it.
    """
    import numpy as np
    import pypdf
    from pypdf.generic import RectangleObject

    links = {key: read_pdf_links(data).links for key, data in files.items()}
    readers = {key: pypdf.PdfReader(io.BytesIO(flattened(data)), strict=False) for key, data in files.items()}
    grounds, inks = pypdf.PdfReader(io.BytesIO(paper)), pypdf.PdfReader(io.BytesIO(ink))
    writer = pypdf.PdfWriter()
    shown: dict[tuple[str, int], int] = {}  # the first page each page of a document lies on
    for k, on_page in enumerate(prints):
        for one in on_page:
            shown.setdefault((one["file"], one["page"]), k)
    for k, page in enumerate(grounds.pages):
        made = writer.add_page(page)
        for one in prints[k]:
            aside = pypdf.PdfWriter()
            source = aside.add_page(readers[one["file"]].pages[one["page"] - 1])
            source.pop("/Annots", None)
            source.transfer_rotation_to_content()
            box = source.cropbox
            to_unit = pypdf.Transformation().translate(-float(box.left), -float(box.bottom))
            to_unit = to_unit.scale(1 / float(box.width), 1 / float(box.height))
            placed = to_unit.transform(pypdf.Transformation(tuple(one["matrix"])))
            # merging cuts off what lies beyond a page's boxes
            back, (left, bottom, right, top) = np.linalg.inv(placed.matrix), one["clip"]
            ends = np.array([(left, bottom, 1), (right, top, 1)]) @ back
            kept = RectangleObject((*ends.min(axis=0)[:2], *ends.max(axis=0)[:2]))
            source.mediabox = source.cropbox = source.trimbox = kept
            made.merge_transformed_page(source, placed, over=True, expand=False)
        made.merge_page(inks.pages[k], over=True)
    for k, made in enumerate(writer.pages):
        for one in prints[k]:
            for link in links[one["file"]]:
                if link.page == one["page"]:
                    _lay(writer, made, link, one, shown.get((one["file"], link.goal)))
    writer.add_metadata({"/Title": (grounds.metadata and grounds.metadata.title) or "Sheet"})
    writer.compress_identical_objects()
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def flattened(data: bytes) -> bytes:
    """A document whose notes and fields have become part of its pages: what is seen stays, what acts is gone."""
    import pypdfium2
    import pypdfium2.raw as raw

    document = pypdfium2.PdfDocument(data)
    changed = False
    for k in range(len(document)):
        page = document[k]
        changed |= raw.FPDFPage_Flatten(page, raw.FLAT_NORMALDISPLAY) == raw.FLATTEN_SUCCESS
        page.close()
    if not changed:
        return data
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _lay(writer: Any, page: Any, link: Link, one: Mapping[str, Any], goal: int | None) -> None:
    """A link where the page it stands on lies, as far as that is seen."""
    from pypdf.annotations import Link as Note
    from pypdf.generic import Fit

    if not link.address and goal is None:
        return
    a, b, c, d, e, f = one["matrix"]
    left, top, right, bottom = link.box
    corners = [(a * x + c * y + e, b * x + d * y + f) for x in (left, right) for y in (1 - top, 1 - bottom)]
    seen = one["clip"]
    xs, ys = ([corner[axis] for corner in corners] for axis in (0, 1))
    rect = max(min(xs), seen[0]), max(min(ys), seen[1]), min(max(xs), seen[2]), min(max(ys), seen[3])
    if rect[0] >= rect[2] or rect[1] >= rect[3]:
        return
    to = {"url": link.address} if link.address else {"target_page_index": goal, "fit": Fit.fit()}
    note = Note(rect=rect, border=[0, 0, 0], **to)
    writer.add_annotation(page.page_number, note)
