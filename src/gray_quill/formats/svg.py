"""SVG: ink as filled outlines in millimetres, with or without the paper."""

import base64
import io
from collections.abc import Iterable, Sequence
from xml.sax.saxutils import escape

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.outline import inside_rings, outline
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.underlay import Print, prints_on
from gray_quill.core.paper import Paper
from gray_quill.core.rulings import ruling_marks
from gray_quill.formats.png import write_png
from gray_quill.formats.stroke_picture import Drawn, blend_of, drawn_parts, part_picture
from gray_quill.formats.underlay_picture import print_picture


def write_svg(inks: Sequence[Ink], paper: Paper, with_paper: bool = True, title: str = "Sheet") -> bytes:
    """A document of the paper's size. Outlines are filled by the nonzero rule, strokes whose tone varies
    are pictures; opacity and blend as in the raster page."""
    w, h = paper.width_mm, paper.height_mm
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{w:g}mm" height="{h:g}mm" viewBox="0 0 {w:g} {h:g}">',
        f"<title>{escape(''.join(c if c.isprintable() else ' ' for c in title))}</title>",
    ]
    if with_paper:
        parts += _paper(paper)
        parts += [_print(one, paper) for one in prints_on(paper)]
    parts += [_part(part, paper) for part in drawn_parts(inks)]
    return "\n".join([*parts, "</svg>", ""]).encode()


def path_data(rings: Iterable[Floats]) -> str:
    """The d attribute of closed rings, to a thousandth of a millimetre."""
    return "".join("M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring) + "Z" for ring in rings if len(ring))


def stroke_opacity(ink: Ink) -> float:
    """One opacity for a stroke: the body's times its mean along the ink. Vector files hold one value a stroke."""
    return float(ink.recipe.body.opacity * ink.opacity.mean())


def _part(part: Drawn, paper: Paper) -> str:
    ink = part.inks[0]
    body = ink.recipe.body
    blend = blend_of(part, paper)
    if part.below is not None:
        return _picture(part, paper, blend)
    style = f' style="mix-blend-mode:{blend}"' if blend != "normal" else ""
    opacity = stroke_opacity(ink)
    see_through = f' fill-opacity="{opacity:.4g}"' if opacity < 1 else ""
    area = "".join(path_data(outline(each)) for each in part.inks)
    out = f'<path fill="{body.colour}"{see_through}{style} d="{area}"/>'
    if body.hollow.on and body.hollow.fill_opacity > 0:
        out += (
            f'<path fill="{body.hollow.fill}" fill-opacity="{body.hollow.fill_opacity:.4g}" '
            f'd="{path_data(inside_rings(ink))}"/>'
        )
    return out


def _picture(part: Drawn, paper: Paper, blend: str) -> str:
    pixels, (left, top, width, height) = part_picture(part, paper)
    data = base64.b64encode(write_png(pixels, compress=6)).decode()
    return (
        f'<image x="{left:.4f}" y="{top:.4f}" width="{width:.4f}" height="{height:.4f}" preserveAspectRatio="none" '
        f'style="image-rendering:pixelated;mix-blend-mode:{blend}" href="data:image/png;base64,{data}"/>'
    )


def _print(one: Print, paper: Paper) -> str:
    out = io.BytesIO()
    print_picture(one, paper).save(out, "PNG")
    data = base64.b64encode(out.getvalue()).decode()
    left, top, right, bottom = one.covers_mm(paper)
    return (
        f'<image x="{left:.4f}" y="{top:.4f}" width="{right - left:.4f}" height="{bottom - top:.4f}" '
        f'preserveAspectRatio="none" href="data:image/png;base64,{data}"/>'
    )


def _paper(paper: Paper) -> list[str]:
    marks = ruling_marks(paper)
    lines = "".join(f"M{x0:.3f} {y0:.3f}L{x1:.3f} {y1:.3f}" for x0, y0, x1, y1 in marks.lines)
    dots = "".join(f"M{x:.3f} {y:.3f}h0" for x, y in marks.dots)
    rules = (
        f'<path fill="none" stroke="{paper.rule_colour}" stroke-width="{marks.weight_mm:g}" '
        f'stroke-linecap="round" d="{lines}{dots}"/>'
    )
    return [
        f'<rect width="{paper.width_mm:g}" height="{paper.height_mm:g}" fill="{paper.colour}"/>',
        rules if lines or dots else "",
    ]
