"""A report as one HTML file that opens without a network."""

import base64
import html
from collections.abc import Sequence

from gray_quill.core.ink.swatch import line_pixels
from gray_quill.formats.png import write_png
from gray_quill.formats.report_blocks import GROUND, Block, Heading, Listed, Rows, Standing, Words

LINE_PX = 560  # of 100 points
STYLE = """
body{font:16px/1.5 Georgia,serif;color:#20242b;background:#fffdf8;max-width:60em;margin:2em auto;padding:0 1em}
h1,h2{font-weight:500;font-style:italic}table{border-collapse:collapse;margin:.6em 0}
th,td{text-align:left;font-weight:400;padding:.2em 1.2em .2em 0;border-top:1px solid #c9c3b6;vertical-align:top}
.line{position:relative;height:34px;width:560px;border-bottom:1px solid #c9c3b6}
.line img{position:absolute;left:0;top:3px;height:28px;width:560px}
.line i{position:absolute;top:0;height:34px;border-right:2px solid #2e5e5a}
.line u{position:absolute;bottom:-2px;height:5px;border:solid #20242b;border-width:0 2px 2px}
.small{font-size:.85em;color:#5c626b}@media print{body{margin:0}}
"""


def report_html(title: str, blocks: Sequence[Block]) -> bytes:
    head = f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{_e(title)}</title><style>{STYLE}</style>'
    return (head + "".join(_block(one) for one in blocks) + "</html>").encode()


def _e(text: str) -> str:
    return html.escape(text)


def _block(one: Block) -> str:
    if isinstance(one, Heading):
        return f"<h{one.level}>{_e(one.words)}</h{one.level}>"
    if isinstance(one, Words):
        return f"<p>{_e(one.words)}</p>"
    if isinstance(one, Listed):
        return f"<ul>{''.join(f'<li>{_e(words)}</li>' for words in one.items)}</ul>"
    if isinstance(one, Rows):
        return _rows(one)
    return _standing(one)


def _rows(one: Rows) -> str:
    top = "".join(f"<th>{_e(cell)}</th>" for cell in one.head)
    rows = "".join("<tr>" + "".join(f"<td>{_e(cell)}</td>" for cell in row) + "</tr>" for row in one.rows)
    return f"<table><tr>{top}</tr>{rows}</table>"


def _standing(one: Standing) -> str:
    picture = base64.b64encode(write_png(line_pixels(one.pen, GROUND), compress=6)).decode()
    scale, at, marks = LINE_PX / 100, 0.0, []
    for label, part in one.parts:
        left, width = at * scale, max(0.0, part * scale)
        marks.append(f'<i title="{_e(label)}" style="left:{left:.1f}px;width:{width:.1f}px"></i>')
        at += part
    sure = f'<u style="left:{one.low * scale:.1f}px;width:{(one.high - one.low) * scale:.1f}px"></u>'
    clip = f"clip-path:inset(0 {max(0.0, 100 - one.total):.2f}% 0 0)"
    image = f'<img alt="" style="{clip}" src="data:image/png;base64,{picture}">'
    return f'<div class="line">{image}{"".join(marks)}{sure}</div>'
