"""PDF documents from outside: what is let in, how their pages look, where their links lead and what their outline is.

ISO 32000-1:2008, from memory: 12.3.3 outlines, 12.5.6.5 link annotations, 12.6 actions.
"""

import io
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlsplit

from PIL import Image

from gray_quill.core.errors import FormatError, TooLarge
from gray_quill.formats.picture_in import LARGEST_MM, PictureSeen
from gray_quill.formats.rendered import Part, Rendered

SMALLEST_MM = 20.0
MOST_PAGES = 500
MM_PER_POINT = 25.4 / 72
# actions that run something, fetch something, or send something away; following a link is none of them
HARMFUL = {"/JavaScript", "/Launch", "/SubmitForm", "/ImportData", "/ResetForm", "/Rendition", "/Movie", "/Sound"}
HARMFUL |= {"/GoToE", "/RichMediaExecute", "/SetOCGState", "/Trans", "/GoTo3DView"}
SCHEMES = ("http", "https", "mailto")  # of links that are kept
LONGEST_LINK, LONGEST_TITLE = 2_000, 200
MOST_LINKS, MOST_OUTLINE, MOST_LOOKED_AT = 5_000, 2_000, 200_000
DEEPEST_OUTLINE = 8
DAMAGED = "This PDF is damaged. Print it to a new PDF, and bring that in."
SCRIPTS = "This PDF carries scripts or actions, which are not let in. Print it to a new PDF, and bring that in."


@dataclass(frozen=True)
class Link:
    """On page (from 1) in box (left, top, right, bottom as shares of the page as it is shown): an address, or a page to
    go to.
    """

    page: int
    box: tuple[float, float, float, float]
    address: str = ""
    goal: int = 0


@dataclass(frozen=True)
class Heading:
    """A line of an outline: how deep it lies, from 0, and its page, from 1."""

    title: str
    depth: int
    page: int


@dataclass(frozen=True)
class PdfLinks:
    links: list[Link]
    outline: list[Heading]


class Document(Rendered):
    """A PDF document; as RGB."""

    def __init__(self, data: bytes) -> None:
        import pypdfium2
        import pypdfium2.raw as raw

        try:
            self.document = pypdfium2.PdfDocument(data)
        except pypdfium2.PdfiumError as error:
            if "password" in str(error).lower():
                raise FormatError(
                    "This PDF is locked with a password. Save a copy without one, and bring that in."
                ) from None
            raise FormatError(DAMAGED) from None
        if raw.FPDF_GetSecurityHandlerRevision(self.document) != -1:
            raise FormatError("This PDF is encrypted. Save a copy that is not, and bring that in.")
        count = len(self.document)
        if not 1 <= count <= MOST_PAGES:
            kind = TooLarge if count > MOST_PAGES else FormatError
            raise kind(f"This PDF has {count} pages; 1 to {MOST_PAGES} are read. Split it.")
        try:
            self.sizes = [self.document.get_page_size(k) for k in range(count)]
        except pypdfium2.PdfiumError:
            raise FormatError(DAMAGED) from None
        for k, size in enumerate(self.sizes):
            sides = [s * MM_PER_POINT for s in size]
            if not SMALLEST_MM <= min(sides) <= max(sides) <= LARGEST_MM:
                raise FormatError(
                    f"Page {k + 1} of this PDF is {sides[0]:.0f} x {sides[1]:.0f} mm; pages of {SMALLEST_MM:.0f} to "
                    f"{LARGEST_MM:.0f} mm are read. Print it to a usual size."
                )

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


def look_at_pdf(data: bytes) -> PictureSeen:
    """Raises FormatError or TooLarge for what is not let in."""
    document = Document(data)
    check_actions(data)
    return PictureSeen("pdf", document.sizes_mm())


def check_actions(data: bytes) -> None:
    """Raises FormatError where a PDF would do anything but follow a link, when it is opened, read or pressed."""
    import pypdf

    try:
        reader = pypdf.PdfReader(io.BytesIO(data), strict=False)
        root = _resolved(reader.trailer["/Root"])
        names = _resolved(root.get("/Names")) or {}
        if "/JavaScript" in names or "/XFA" in (_resolved(root.get("/AcroForm")) or {}):
            raise FormatError(SCRIPTS)
        pages = [_resolved(page) for page in reader.pages]
        for looked_at, (action, pressed) in enumerate(_actions(root, pages)):
            if looked_at > MOST_LOOKED_AT:
                raise TooLarge("This PDF holds more notes and actions than is looked through. Print it to a new PDF.")
            does = str(action.get("/S"))
            if does in HARMFUL or "/JS" in action or not (pressed or does in ("/GoTo", "/Named")):
                raise FormatError(SCRIPTS)
    except (pypdf.errors.PyPdfError, AttributeError, KeyError, TypeError, ValueError, RecursionError, IndexError):
        raise FormatError(DAMAGED) from None


def _actions(root: Any, pages: list[Any]) -> Iterator[tuple[Any, bool]]:
    """Every action there is, with those that follow it (12.6.2, Next), and whether it waits for a press."""
    by_itself: list[Any] = [root.get("/OpenAction"), *_values(root.get("/AA"))]
    pressed: list[Any] = []
    form, outline = _resolved(root.get("/AcroForm")), _resolved(root.get("/Outlines"))
    fields = list(_tree(_list(form.get("/Fields")), "/Kids")) if isinstance(form, dict) else []
    for page in pages:
        by_itself += _values(page.get("/AA"))
        fields += [note for one in _list(page.get("/Annots")) if isinstance(note := _resolved(one), dict)]
    for one in fields:
        by_itself += _values(one.get("/AA"))
        pressed += [one.get("/A"), one.get("/PA")]
    pressed += [item.get("/A") for item, _ in outline_lines(outline)] if isinstance(outline, dict) else []
    waiting = [(action, True) for action in pressed] + [(action, False) for action in by_itself]
    seen: set[tuple[int, bool]] = set()
    while waiting:
        found, asked = waiting.pop()
        action = _resolved(found)
        if isinstance(action, dict) and (id(action), asked) not in seen:
            seen.add((id(action), asked))
            yield action, asked
            following = action.get("/Next")
            waiting += [(after, asked) for after in _list(following) or [following]]


def outline_lines(outline: Any) -> Iterator[tuple[Any, int]]:
    """Lines of an outline with their depths; one that refers to itself ends."""
    seen: set[int] = set()
    waiting = [(outline.get("/First"), 0)]
    while waiting:
        item, depth = waiting.pop()
        item = _resolved(item)
        if not isinstance(item, dict) or id(item) in seen or len(seen) >= MOST_OUTLINE:
            continue
        seen.add(id(item))
        yield item, depth
        waiting.append((item.get("/Next"), depth))
        waiting.append((item.get("/First"), depth + 1))


def _tree(found: list[Any], kids: str) -> Iterator[Any]:
    seen: set[int] = set()
    waiting = list(found)
    while waiting and len(seen) < MOST_LOOKED_AT:
        one = _resolved(waiting.pop())
        if isinstance(one, dict) and id(one) not in seen:
            seen.add(id(one))
            yield one
            waiting += _list(one.get(kids))


def read_pdf_links(data: bytes) -> PdfLinks:
    """Links to addresses and pages, and the outline; what leads elsewhere is passed over."""
    import pypdf

    try:
        reader = pypdf.PdfReader(io.BytesIO(data), strict=False)
        places = {page.indirect_reference.idnum: k for k, page in enumerate(reader.pages, 1) if page.indirect_reference}
        links = [link for k, page in enumerate(reader.pages, 1) for link in _links(reader, page, k, places)]
        outline = _resolved(_resolved(reader.trailer["/Root"]).get("/Outlines"))
        headings = []
        for item, depth in outline_lines(outline) if isinstance(outline, dict) else ():
            title = "".join(c for c in str(item.get("/Title", "")) if c.isprintable()).strip()[:LONGEST_TITLE]
            goal = _goal(reader, item, places)
            if title and goal and depth <= DEEPEST_OUTLINE:
                headings.append(Heading(title, depth, goal))
    except (pypdf.errors.PyPdfError, AttributeError, KeyError, TypeError, ValueError, RecursionError, IndexError):
        return PdfLinks([], [])  # drawing it does not depend on them
    return PdfLinks(links[:MOST_LINKS], headings)


def _links(reader: Any, page: Any, number: int, places: dict[int, int]) -> Iterator[Link]:
    for one in _list(page.get("/Annots")):
        note = _resolved(one)
        if not isinstance(note, dict) or note.get("/Subtype") != "/Link":
            continue
        action = _resolved(note.get("/A"))
        address = str(_resolved(action.get("/URI", ""))) if isinstance(action, dict) else ""
        goal = _goal(reader, note, places)
        box = _shown(page, [float(v) for v in _list(note.get("/Rect"))])
        if box and (is_plain_link(address) or goal):
            yield Link(number, box, address if is_plain_link(address) else "", goal)


def is_plain_link(address: str) -> bool:
    """One that a browser or a mail program opens, with nothing odd in it."""
    if not address or len(address) > LONGEST_LINK or not address.isprintable():
        return False
    try:
        return urlsplit(address).scheme.lower() in SCHEMES
    except ValueError:
        return False


def _goal(reader: Any, item: Any, places: dict[int, int]) -> int:
    """The page something goes to, from 1; 0 for none of this document."""
    action = _resolved(item.get("/A"))
    goal = item.get("/Dest")
    if goal is None and isinstance(action, dict) and action.get("/S") == "/GoTo":
        goal = action.get("/D")
    goal = _resolved(goal)
    if isinstance(goal, str):  # by name
        named = reader.named_destinations.get(goal)
        goal = [named.raw_get("/Page")] if named is not None else None
    elif isinstance(goal, dict):
        goal = _resolved(goal.get("/D"))
    if not isinstance(goal, list) or not goal:
        return 0
    return places.get(getattr(goal[0], "idnum", -1), 0)


def _shown(page: Any, rect: list[float]) -> tuple[float, float, float, float] | None:
    """A rectangle in points as shares of the page as it is shown, turned as its /Rotate says."""
    if len(rect) != 4:
        return None
    box = page.cropbox
    left, bottom, width, height = float(box.left), float(box.bottom), float(box.width), float(box.height)
    xs = sorted((x - left) / width for x in rect[::2])
    ys = sorted(1 - (y - bottom) / height for y in rect[1::2])
    for _ in range(int(page.rotation or 0) // 90 % 4):  # a quarter clockwise
        xs, ys = sorted(1 - y for y in ys), xs
    (a, c), (b, d) = ([min(1.0, max(0.0, v)) for v in side] for side in (xs, ys))
    return (a, b, c, d) if a < c and b < d else None


def _resolved(found: Any) -> Any:
    return found.get_object() if hasattr(found, "get_object") else found


def _list(found: Any) -> list[Any]:
    found = _resolved(found)
    return list(found) if isinstance(found, list) else []


def _values(found: Any) -> list[Any]:
    found = _resolved(found)
    return list(found.values()) if isinstance(found, dict) else []
