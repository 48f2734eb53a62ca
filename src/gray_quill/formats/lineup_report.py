"""A line-up to hand on: one HTML file that opens without a network, or a table of every reading."""

import base64
import csv
import html
import io
from collections.abc import Mapping, Sequence

import numpy as np

from gray_quill.core.ink.swatch import line_pixels
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.presets import shares
from gray_quill.core.lineup.ranking import DRAWS, SURE, Must, Place, Ranking, Scored, Table
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.reading import in_words
from gray_quill.formats.png import write_png

GROUND = "#fffdf8"
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


def said_value(key: str, value: float | None) -> str:
    """A criterion's value with its unit; what was scored by hand has none."""
    known = CRITERIA.get(key)
    if known is None:
        return "by hand"
    return in_words(known.reading, value)


def label_of(key: str) -> str:
    return CRITERIA[key].label if key in CRITERIA else key


def write_report(
    title: str,
    names: Mapping[str, str],
    pens: Mapping[str, Recipe],
    rankings: Sequence[tuple[str, Ranking]],
    weights: Mapping[str, float],
    musts: Sequence[Must],
    own: Sequence[Scored],
    conditions: Sequence[str],
    verdict: str,
) -> bytes:
    """names, pens: of each candidate by its key. rankings: by group, "" for all together. conditions: what was the same
    for all and what was not, in words. verdict: the writer's own.
    """
    parts = [f"<h1>{html.escape(title)}</h1>"]
    if verdict.strip():
        parts.append(f"<h2>Verdict</h2><p>{html.escape(verdict.strip())}</p>")
    for group, ranking in rankings:
        parts.append(f"<h2>{html.escape(group or 'Ranking')}</h2>")
        parts += [_place(ranking.places, n, names, pens) for n in range(len(ranking.places))]
        for key, of in ranking.aside.items():
            told = ", ".join(names[c] for c in of)
            parts.append(f"<p>{_e(label_of(key))} is set aside for all: it cannot be told of {_e(told)}.</p>")
    parts += [_what_counts(weights), _musts(musts), _by_hand(own, names), _readings(rankings, names)]
    parts.append(f"<h2>Conditions</h2><ul>{''.join(f'<li>{_e(words)}.</li>' for words in conditions)}</ul>")
    blocks = max((ranking.blocks for _, ranking in rankings), default=0)
    parts.append(
        f"<h2>How it was made</h2><p>Each candidate was measured on the same {blocks} blocks of writing, by the "
        "criteria below. A reading counts 0 to 100 points between two values that are declared with their reason; "
        f"points are weighed by the shares. Intervals are of {SURE:.0%}, from {DRAWS} draws of blocks, the same for "
        "all candidates, widened for their small number. Two are called not told apart where the interval of their "
        "difference holds nought.</p>"
    )
    parts.append(_criteria())
    head = f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{_e(title)}</title><style>{STYLE}</style>'
    return (head + "".join(parts) + "</html>").encode()


def _e(text: str) -> str:
    return html.escape(text)


def _place(places: Sequence[Place], n: int, names: Mapping[str, str], pens: Mapping[str, Recipe]) -> str:
    place = places[n]
    name = _e(names[place.candidate])
    if place.out:
        return f"<p><b>{name}</b> is out: {_e(place.out)}.</p>"
    above = _e(names[places[n - 1].candidate]) if n else ""
    picture = base64.b64encode(write_png(line_pixels(pens[place.candidate], GROUND), compress=6)).decode()
    scale, at, marks = LINE_PX / 100, 0.0, []
    for told in place.told:
        marks.append(
            f'<i title="{_e(label_of(told.criterion))}" style="left:{at * scale:.1f}px;'
            f'width:{max(0.0, told.part * scale):.1f}px"></i>'
        )
        at += told.part
    words = [f"{place.total:.1f} points ({place.low:.1f} to {place.high:.1f})"]
    if place.same:
        words.append(f"nothing told of it differs from {above}")
    elif place.tied:
        words.append(f"not told apart from {above}")
    words += [f"strong in {_e(label_of(place.strength))}"] if place.strength else []
    words += [f"weak in {_e(label_of(place.weakness))}"] if place.weakness else []
    words += [f"behind {above} most by {_e(label_of(place.cost))}"] if place.cost and above else []
    if place.lift:
        key = place.lift.criterion
        needed, now = said_value(key, place.lift.needed), said_value(key, place.lift.now)
        words.append(f"a place higher with {_e(label_of(key))} at {needed}, now {now}")
    if place.crossing and above:
        crossing = place.crossing
        words.append(
            f"level with {above} if {_e(label_of(crossing.criterion))} counted {crossing.until:.0%} instead of "
            f"{crossing.share:.0%}"
        )
    sure = f'<u style="left:{place.low * scale:.1f}px;width:{(place.high - place.low) * scale:.1f}px"></u>'
    clip = f"clip-path:inset(0 {max(0.0, 100 - place.total):.2f}% 0 0)"
    return (
        f'<h3>{place.place}. {name}</h3><div class="line"><img alt="" style="{clip}" '
        f'src="data:image/png;base64,{picture}">{"".join(marks)}{sure}</div><p>{"; ".join(words)}.</p>'
    )


def _rows(head: Sequence[str], rows: Sequence[Sequence[str]]) -> str:
    top = "".join(f"<th>{_e(cell)}</th>" for cell in head)
    return (
        f"<table><tr>{top}</tr>"
        + "".join("<tr>" + "".join(f"<td>{_e(cell)}</td>" for cell in row) + "</tr>" for row in rows)
        + "</table>"
    )


def _what_counts(weights: Mapping[str, float]) -> str:
    rows = [(label_of(key), f"{share:.1%}") for key, share in shares(weights).items() if share]
    return "<h2>What counts</h2>" + _rows(("criterion", "share"), rows)


def _musts(musts: Sequence[Must]) -> str:
    said = [
        f"{label_of(m.criterion)} {'at most' if CRITERIA[m.criterion].better == 'less' else 'at least'} "
        f"{said_value(m.criterion, m.bound)}"
        for m in musts
        if m.criterion in CRITERIA
    ]
    return f"<p>Musts: {_e('; '.join(said))}.</p>" if said else ""


def _by_hand(own: Sequence[Scored], names: Mapping[str, str]) -> str:
    rows = [(o.name, names.get(c, c), f"{points:.0f}", o.note) for o in own for c, points in o.points.items()]
    return "<h2>Scored by hand</h2>" + _rows(("criterion", "candidate", "points", "note"), rows) if rows else ""


def _readings(rankings: Sequence[tuple[str, Ranking]], names: Mapping[str, str]) -> str:
    rows = [
        (
            names[p.candidate],
            label_of(t.criterion),
            said_value(t.criterion, t.value),
            f"{t.points:.0f}",
            f"{t.part:.1f}",
        )
        for _, ranking in rankings
        for p in ranking.places
        for t in p.told
    ]
    return "<h2>Readings</h2>" + _rows(("candidate", "criterion", "reading", "points", "of the total"), rows)


def _criteria() -> str:
    rows = [
        (c.label, c.help, said_value(c.key, c.nothing), said_value(c.key, c.all), c.reason) for c in CRITERIA.values()
    ]
    return _rows(("criterion", "what it is", "0 points at", "100 points at", "why"), rows)


def write_table(table: Table) -> str:
    """Every reading of every candidate as CSV; what cannot be told says so."""
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(["candidate", "criterion", "unit", "mean", "points", "blocks"])
    for c, candidate in enumerate(table.candidates):
        for k, key in enumerate(table.keys):
            known = CRITERIA.get(key)
            told = int(np.isfinite(table.values[c, k]).sum()) if known else 0
            mean = f"{table.means[c, k]:.6g}" if told else "by hand" if known is None else "cannot tell"
            points = f"{table.points[c, k]:.4g}" if told or known is None else ""
            rows.writerow([candidate, key, known.unit if known else "", mean, points, told])
    return out.getvalue()
