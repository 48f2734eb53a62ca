"""What the report of a line-up says, and every reading of it as a table."""

import csv
import io
from collections.abc import Mapping, Sequence

import numpy as np

from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.presets import shares
from gray_quill.core.lineup.ranking import DRAWS, SURE, Must, Place, Ranking, Scored, Table
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.reading import in_words
from gray_quill.formats.report_blocks import Block, Heading, Listed, Rows, Standing, Words


def said_value(key: str, value: float | None) -> str:
    """A criterion's value with its unit; what was scored by hand has none."""
    known = CRITERIA.get(key)
    if known is None:
        return "by hand"
    return in_words(known.reading, value)


def label_of(key: str) -> str:
    return CRITERIA[key].label if key in CRITERIA else key


def lineup_report(
    title: str,
    names: Mapping[str, str],
    pens: Mapping[str, Recipe],
    rankings: Sequence[tuple[str, Ranking]],
    weights: Mapping[str, float],
    musts: Sequence[Must],
    own: Sequence[Scored],
    conditions: Sequence[str],
    verdict: str,
    families: Mapping[str, str] | None = None,
) -> list[Block]:
    """names, pens: of each candidate by its key. rankings: by group, "" for all together. conditions: what was the same
    for all and what was not, in words. verdict: the writer's own; families: that of each group.
    """
    blocks: list[Block] = [Heading(title, 1)]
    if verdict.strip():
        blocks += [Heading("Verdict"), Words(verdict.strip())]
    for group, ranking in rankings:
        blocks.append(Heading(group or "Ranking"))
        said = (families or {}).get(group, "").strip()
        blocks += [Words(f"Verdict: {said}")] if said else []
        for n in range(len(ranking.places)):
            blocks += _place(ranking.places, n, names, pens)
        for key, of in ranking.aside.items():
            told = ", ".join(names[c] for c in of)
            blocks.append(Words(f"{label_of(key)} is set aside for all: it cannot be told of {told}."))
    blocks += [*_what_counts(weights), *_musts(musts), *_by_hand(own, names), *_readings(rankings, names)]
    blocks += [Heading("Conditions"), Listed([f"{words}." for words in conditions])]
    count = max((ranking.blocks for _, ranking in rankings), default=0)
    blocks.append(Heading("How it was made"))
    blocks.append(
        Words(
            f"Each candidate was measured on the same {count} blocks of writing, by the criteria below. A reading "
            "counts 0 to 100 points between two values that are declared with their reason; points are weighed by the "
            f"shares. Intervals are of {SURE:.0%}, from {DRAWS} draws of blocks, the same for all candidates, widened "
            "for their small number. Two are called not told apart where the interval of their difference holds nought."
        )
    )
    blocks.append(_criteria())
    return blocks


def _place(places: Sequence[Place], n: int, names: Mapping[str, str], pens: Mapping[str, Recipe]) -> list[Block]:
    place = places[n]
    name = names[place.candidate]
    if place.out:
        return [Words(f"{name} is out: {place.out}.")]
    above = names[places[n - 1].candidate] if n else ""
    words = [f"{place.total:.1f} points ({place.low:.1f} to {place.high:.1f})"]
    if place.same:
        words.append(f"nothing told of it differs from {above}")
    elif place.tied:
        words.append(f"not told apart from {above}")
    words += [f"strong in {label_of(place.strength)}"] if place.strength else []
    words += [f"weak in {label_of(place.weakness)}"] if place.weakness else []
    words += [f"behind {above} most by {label_of(place.cost)}"] if place.cost and above else []
    if place.lift:
        key = place.lift.criterion
        needed, now = said_value(key, place.lift.needed), said_value(key, place.lift.now)
        words.append(f"a place higher with {label_of(key)} at {needed}, now {now}")
    if place.crossing and above:
        crossing = place.crossing
        words.append(
            f"level with {above} if {label_of(crossing.criterion)} counted {crossing.until:.0%} instead of "
            f"{crossing.share:.0%}"
        )
    parts = [(label_of(told.criterion), told.part) for told in place.told]
    line = Standing(pens[place.candidate], place.total, place.low, place.high, parts)
    return [Heading(f"{place.place}. {name}", 3), line, Words(f"{'; '.join(words)}.")]


def _what_counts(weights: Mapping[str, float]) -> list[Block]:
    rows = [(label_of(key), f"{share:.1%}") for key, share in shares(weights).items() if share]
    return [Heading("What counts"), Rows(("criterion", "share"), rows)]


def _musts(musts: Sequence[Must]) -> list[Block]:
    said = [
        f"{label_of(m.criterion)} {'at most' if CRITERIA[m.criterion].better == 'less' else 'at least'} "
        f"{said_value(m.criterion, m.bound)}"
        for m in musts
        if m.criterion in CRITERIA
    ]
    return [Words(f"Musts: {'; '.join(said)}.")] if said else []


def _by_hand(own: Sequence[Scored], names: Mapping[str, str]) -> list[Block]:
    rows = [(o.name, names.get(c, c), f"{points:.0f}", o.note) for o in own for c, points in o.points.items()]
    return [Heading("Scored by hand"), Rows(("criterion", "candidate", "points", "note"), rows)] if rows else []


def _readings(rankings: Sequence[tuple[str, Ranking]], names: Mapping[str, str]) -> list[Block]:
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
    return [Heading("Readings"), Rows(("candidate", "criterion", "reading", "points", "of the total"), rows)]


def _criteria() -> Rows:
    rows = [
        (c.label, c.help, said_value(c.key, c.nothing), said_value(c.key, c.all), c.reason) for c in CRITERIA.values()
    ]
    return Rows(("criterion", "what it is", "0 points at", "100 points at", "why"), rows)


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
