"""Ink as annotations of a PDF: each stroke a thing of its own that other programs show, hide, move and take away.

ISO 32000-1:2008, 12.5.6.13: an annotation of subtype Ink with the way of the nib, and an appearance that fills the
outline the ink really has.
"""

import dataclasses
import io
from collections.abc import Sequence
from typing import Any

Colour = tuple[float, float, float]


@dataclasses.dataclass(frozen=True)
class Area:
    """A filled way, as PDF operators in points; opacity 0 to 1, blend as PDF names it."""

    code: str
    colour: Colour
    opacity: float
    blend: str


@dataclasses.dataclass(frozen=True)
class InkNote:
    """One stroke, or strokes that lie as one: its areas, the ways of the nib as x y x y, width and box in points."""

    areas: Sequence[Area]
    ways: Sequence[Sequence[float]]
    width: float
    box: tuple[float, float, float, float]
    name: str


def plain_notes(pages: Sequence[Sequence[InkNote]]) -> list[list[dict[str, Any]]]:
    """As JSON holds them."""
    return [[dataclasses.asdict(note) for note in page] for page in pages]


def with_notes(data: bytes, pages: Sequence[Sequence[dict[str, Any]]]) -> bytes:
    """A PDF with ink annotations on its pages, as plain_notes gives them."""
    import pypdf
    from pypdf.generic import ArrayObject, DictionaryObject, FloatObject, NameObject, StreamObject, TextStringObject

    def numbers(values: Sequence[float]) -> Any:
        return ArrayObject(FloatObject(f"{v:.3f}") for v in values)

    writer = pypdf.PdfWriter(clone_from=io.BytesIO(data))
    for page, notes in zip(writer.pages, pages, strict=True):
        there: Any = page.get("/Annots", ArrayObject()).get_object()
        for note in notes:
            states, code = DictionaryObject(), []
            for k, area in enumerate(note["areas"]):
                state = {"/Type": NameObject("/ExtGState"), "/ca": FloatObject(f"{area['opacity']:.4f}")}
                state["/BM"] = NameObject(f"/{area['blend']}")
                states[NameObject(f"/G{k}")] = DictionaryObject({NameObject(n): v for n, v in state.items()})
                red, green, blue = area["colour"]
                code.append(f"/G{k} gs {red:.4f} {green:.4f} {blue:.4f} rg {area['code']} f")
            look = StreamObject()
            look.set_data("\n".join(code).encode())
            look = look.flate_encode()
            look.update(
                {
                    NameObject("/Type"): NameObject("/XObject"),
                    NameObject("/Subtype"): NameObject("/Form"),
                    NameObject("/BBox"): numbers(note["box"]),
                    NameObject("/Resources"): DictionaryObject({NameObject("/ExtGState"): states}),
                }
            )
            first = note["areas"][0]
            told = {
                "/Type": NameObject("/Annot"),
                "/Subtype": NameObject("/Ink"),
                "/Rect": numbers(note["box"]),
                "/InkList": ArrayObject(numbers(way) for way in note["ways"]),
                "/C": numbers(first["colour"]),
                "/CA": FloatObject(f"{first['opacity']:.4f}"),
                "/BS": DictionaryObject({NameObject("/W"): FloatObject(f"{note['width']:.3f}")}),
                "/F": FloatObject(4),  # printed too
                "/Contents": TextStringObject(note["name"]),
                "/AP": DictionaryObject({NameObject("/N"): writer._add_object(look)}),
            }
            made = DictionaryObject({NameObject(n): v for n, v in told.items()})
            there.append(writer._add_object(made))
        page[NameObject("/Annots")] = there
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()
