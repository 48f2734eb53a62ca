"""A line-up to hand on as a report or a table, and two of its criteria against each other."""

import dataclasses
from typing import Annotated, Literal

from flask import Blueprint, Response
from pydantic import Field, StringConstraints

from gray_quill.core.errors import InputError
from gray_quill.core.lineup.ranking import Must, Scored, Table, pareto
from gray_quill.formats.lineup_report import lineup_report as report_blocks
from gray_quill.formats.lineup_report import write_table
from gray_quill.formats.report_html import report_html
from gray_quill.formats.report_pdf import report_pdf
from gray_quill.store.pens import get_pen
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db
from gray_quill.web.jobs import jobs
from gray_quill.web.lineup import Key, LineupRun, RankBody, Verdict, rank_lineup
from gray_quill.web.records import Printable
from gray_quill.web.replies import download

lineup_report = Blueprint("lineup_report", __name__)
Condition = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), Printable]


class ReportBody(RankBody):
    """verdict: the writer's own, in words; families: that of each kind of pen; conditions: what else was the same for
    all, or not; form: one HTML file, PDF, or every reading as a table.
    """

    verdict: Verdict = ""
    families: Annotated[dict[Key, Verdict], Field(max_length=20)] = Field(default_factory=dict)
    conditions: Annotated[list[Condition], Field(max_length=20)] = Field(default_factory=list)
    form: Literal["html", "pdf", "csv"] = "html"


@operation(
    lineup_report, "POST", "/lineup/runs/<job_id>/report", "application/octet-stream", body=ReportBody, costly=True
)
def report_lineup(job_id: str, body: ReportBody) -> Response:
    """The line-up to hand on: pictures, numbers, settings, method, how sure it is, and a verdict."""
    run: LineupRun = jobs().result_so_far(job_id, "lineup")
    if body.form == "csv":
        table = Table(run.measured, [Scored(o.name, o.points, o.note) for o in body.own])
        return download(write_table(table).encode(), "text/csv", "Line-up.csv")
    ranked = [(one.group, one.ranking) for one in rank_lineup(job_id, body).rankings if not one.refused]
    pens = {c.key: get_pen(db(), c.pen_id, c.revision).recipe for c in run.candidates}
    blocks = report_blocks(
        "Line-up",
        {c.key: c.name for c in run.candidates},
        pens,
        ranked,
        body.weights,
        [Must(m.criterion, m.bound) for m in body.musts],
        [Scored(o.name, o.points, o.note) for o in body.own],
        [*_conditions(run), *body.conditions],
        body.verdict,
        body.families if body.by_kind else {},
    )
    if body.form == "pdf":
        return download(report_pdf("Line-up", blocks), "application/pdf", "Line-up.pdf")
    return download(report_html("Line-up", blocks), "text/html", "Line-up.html")


def _conditions(run: LineupRun) -> list[str]:
    hands = sorted({w.hand.name for w in run.written})
    devices = sorted({w.device.name for w in run.written})
    by = "written by a real hand" if run.real else f"written by a simulated hand, seed {run.seed}"
    pens = ", ".join(f"{c.pen_id} revision {c.revision}" for c in run.candidates)
    return [
        by,
        f"hands: {', '.join(hands)}",
        f"devices: {', '.join(devices)}",
        f"pens: {pens}",
        f"measured by version {run.version} of this program",
        *([f"written on {run.glass}"] if run.glass else []),
        *([f"with {run.tip}"] if run.tip else []),
        *(f"not the same for all: {words}" for words in run.unequal),
    ]


class FrontQuery(Model):
    across: Key
    up: Key


@dataclasses.dataclass(frozen=True)
class FrontSpot:
    """across, up: points of two criteria; front: no other is as good in both and better in one."""

    candidate: str
    across: float
    up: float
    front: bool


class Front(Model):
    """Candidates of which both can be told."""

    spots: list[FrontSpot]


@operation(lineup_report, "GET", "/lineup/runs/<job_id>/front", Front, query=FrontQuery)
def read_front(job_id: str, query: FrontQuery) -> Front:
    """Two criteria against each other, and who is beaten in both by nobody."""
    run: LineupRun = jobs().result_so_far(job_id, "lineup")
    known = run.measured.criteria
    missing = next((key for key in (query.across, query.up) if key not in known), None)
    if missing is not None:
        raise InputError(f"There is no criterion {missing!r}. Choose among {', '.join(known)}.", "across")
    places = [known.index(key) for key in (query.across, query.up)]
    told = [
        (key, x, y)
        for key, row in zip(run.measured.candidates, run.points, strict=True)
        if (x := row[places[0]]) is not None and (y := row[places[1]]) is not None
    ]
    front = pareto([(x, y) for _, x, y in told])
    return Front(spots=[FrontSpot(key, x, y, f) for (key, x, y), f in zip(told, front, strict=True)])
