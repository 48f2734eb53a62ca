"""Showing others what is written: a link of its own that only looks, the live ink, and the page as it settles."""

import json
import pathlib
import sqlite3
import time
from typing import Annotated, Any

from flask import Blueprint, Response, current_app, redirect, request
from pydantic import Field

from gray_quill.core.errors import InputError, NotFound, Outside
from gray_quill.core.ink.plan import PenPlan, compile_plan
from gray_quill.core.paper import Paper
from gray_quill.store.database import connect
from gray_quill.store.sheets import get_sheet
from gray_quill.web.access import door
from gray_quill.web.api import Model, operation
from gray_quill.web.change_events import boxes_of
from gray_quill.web.context import db, folder
from gray_quill.web.front import WATCH, Watch, words_of
from gray_quill.web.mirror_state import MIRROR_COOKIE, ShownPen, Stage, stage_of
from gray_quill.web.records import Box, Colour, Id, RecipeIn
from gray_quill.web.room import qr_picture
from gray_quill.web.sheets import PageQuery, read_page

mirror = Blueprint("mirror", __name__)
MOST_SAMPLES = 2000  # of one message: some seconds of reports
GONE = "What was shown here is not shown any more. Ask for a new link."
Sample = Annotated[list[float], Field(min_length=6, max_length=6)]


class ShowSheet(Model):
    """Which sheet to show; whole: the whole page, else what the writer sees of it."""

    sheet_id: Id
    whole: bool = False


class StageReply(Model):
    """open: whether something is shown; link: where, for any number of others, who can only look; code: the link as a
    picture of a QR code. mirrors: how many look now.
    """

    open: bool
    link: str
    code: str
    sheet_id: str
    whole: bool
    mirrors: int


class ShownInk(Model):
    """Reports of a stroke, [s, x mm, y mm, force, altitude, azimuth], since the last ones; number: which stroke; pen:
    of those brought before; made_ms: when the last one was made, on the server's clock.
    """

    number: int = Field(ge=0)
    pen: Id
    samples: list[Sample] = Field(max_length=MOST_SAMPLES)
    made_ms: float


class ShownPoint(Model):
    """A pointer that fades: where it went since, mm, whether the hand holds it there still, and how it looks."""

    at: list[tuple[float, float]] = Field(max_length=MOST_SAMPLES)
    down: bool
    dot: bool
    colour: Colour
    size_mm: float = Field(gt=0, le=100)
    fades_s: float = Field(ge=0, le=60)


class ShownLines(Model):
    """What the one who writes did since the last message. lifted, kept, dropped: numbers of strokes."""

    pens: dict[Id, RecipeIn] = Field(default_factory=dict, max_length=8)
    plain: bool = False
    ink: list[ShownInk] = Field(default_factory=list, max_length=16)
    lifted: list[int] = Field(default_factory=list, max_length=200)
    kept: list[int] = Field(default_factory=list, max_length=200)
    dropped: list[int] = Field(default_factory=list, max_length=200)
    point: ShownPoint | None = None
    view: Box | None = None


class MirrorPage(Model):
    """The sheet as it is shown. whole: all of it, else view: what the writer sees of it, None while that is not known.
    ink: how often it changed.
    """

    sheet_id: str
    name: str
    paper: Paper
    ink: int
    whole: bool
    view: Box | None


class Clock(Model):
    now_ms: float


def stage() -> Stage:
    return stage_of(current_app)


@operation(mirror, "GET", "/stage", StageReply)
def read_stage() -> StageReply:
    """What is shown to others now."""
    on = stage()
    link = f"{door().place.address or request.host_url.rstrip('/')}/see/{on.token}" if on.open else ""
    return StageReply(
        open=on.open,
        link=link,
        code=qr_picture(link) if link else "",
        sheet_id=on.sheet_id,
        whole=on.whole,
        mirrors=len(on.listening),
    )


@operation(mirror, "POST", "/stage", StageReply, body=ShowSheet)
def show(body: ShowSheet) -> StageReply:
    """Show a sheet to whoever has the link."""
    stage().show(get_sheet(db(), body.sheet_id).id, body.whole)
    return read_stage()


@operation(mirror, "DELETE", "/stage", StageReply)
def withdraw() -> StageReply:
    """Show nothing any more; the link is worth nothing from now on."""
    stage().withdraw()
    return read_stage()


@operation(mirror, "POST", "/stage/lines", Clock, body=ShownLines)
def tell_stage(body: ShownLines) -> Clock:
    """What the nib did, to every mirror at once. Answers the server's clock."""
    on = stage()
    if not on.open:
        raise NotFound("Nothing is shown now.")
    for key, recipe in body.pens.items():
        on.bring(key, ShownPen(recipe, body.plain))
    missing = {ink.pen for ink in body.ink} - on.pens.keys()
    if missing:
        raise InputError(f"Bring the pen {min(missing)} before its ink.", "ink")
    if body.view is not None:
        on.view = body.view
    on.tell(body.model_dump_json(exclude={"pens", "plain"}, exclude_defaults=True))
    return Clock(now_ms=time.time() * 1000)


@operation(mirror, "GET", "/mirror/clock", Clock)
def read_clock() -> Clock:
    """The server's clock, by which delays between two screens are told."""
    return Clock(now_ms=time.time() * 1000)


@operation(mirror, "GET", "/mirror/page", MirrorPage)
def mirror_page() -> MirrorPage:
    """The sheet that is shown."""
    on = looked_at()
    sheet = get_sheet(db(), on.sheet_id)
    view = None if on.whole else on.view
    return MirrorPage(sheet_id=sheet.id, name=sheet.name, paper=sheet.paper, ink=sheet.ink, whole=on.whole, view=view)


@operation(mirror, "GET", "/mirror/page.png", "image/png", query=PageQuery, costly=True)
def mirror_picture(query: PageQuery) -> Response:
    """A part of the sheet that is shown, as it is settled."""
    covered = query.model_copy(update={"lifted": False})  # who looks on does not lift them
    return read_page(looked_at().sheet_id, covered)


@operation(mirror, "GET", "/mirror/pens/<key>", PenPlan)
def mirror_pen(key: str) -> PenPlan:
    """The plan of a pen that writes on the sheet that is shown."""
    on = looked_at()
    pen = on.pens.get(key)
    if pen is None:
        raise NotFound("That pen does not write here.")
    paper = get_sheet(db(), on.sheet_id).paper
    return compile_plan(pen.recipe, paper.colour, paper, pen.plain)


class MirrorWatch(Watch):
    """Lines of the stage as they are told, and how often the sheet's ink changed, with the part that did."""

    every_s = 0.15  # of the store; lines of the stage wake it

    def __init__(self, on: Stage, token: str, boxes: Any, at: pathlib.Path) -> None:
        self.on, self.token, self.boxes = on, token, boxes
        self.db = connect(at)
        self.seen, self.version, self.ink, self.sheet = on.told, -1, -1, ""
        self.covers: str | None = None
        self.greeted = False

    def wakes(self, nudge: Any) -> None:
        self.on.listening[self] = nudge

    def look(self) -> str | None:
        if not self.on.is_let_in(self.token):
            if self.greeted:
                self.greeted = False
                return 'data: {"over": true}\n\n'
            raise StopIteration
        self.greeted = True
        self.seen, lines = self.on.since(self.seen)
        out = ['{"page": true}'] if lines is None else lines
        try:
            version = int(self.db.execute("PRAGMA data_version").fetchone()[0])
            if (version, self.on.sheet_id) != (self.version, self.sheet):
                self.version = version
                out = [*out, *self._changed()]
        except sqlite3.Error:
            raise StopIteration from None
        return "".join(f"data: {line}\n\n" for line in out) or None

    def _changed(self) -> list[str]:
        row = self.db.execute("SELECT ink, covers FROM sheets WHERE id = ?", (self.on.sheet_id,)).fetchone()
        if row is None:
            raise StopIteration
        ink, before, same = int(row[0]), self.ink, self.sheet == self.on.sheet_id
        covered = same and row[1] != self.covers
        self.ink, self.sheet, self.covers = ink, self.on.sheet_id, row[1]
        if covered:
            return [json.dumps({"changed": ink, "box": None})]
        if not same or ink == before:
            return []
        return [json.dumps({"changed": ink, "box": self.boxes.since(self.sheet, before, ink)})]

    def close(self) -> None:
        self.on.listening.pop(self, None)
        self.db.close()


@operation(mirror, "GET", "/mirror/news", "text/event-stream")
def mirror_news() -> Response:
    """What is written on the sheet that is shown, as it happens."""
    on = looked_at()
    watch = MirrorWatch(on, request.cookies.get(MIRROR_COOKIE, ""), boxes_of(current_app), folder())
    head: dict[str, Any] = {"mimetype": "text/event-stream", "headers": {"Cache-Control": "no-store"}}
    if WATCH in request.environ:
        request.environ[WATCH] = watch
        return Response(**head)
    return Response(words_of(watch, time.sleep), **head)


def looked_at() -> Stage:
    """The stage, for a browser that came by its link."""
    on = stage()
    if not on.is_let_in(request.cookies.get(MIRROR_COOKIE, "")):
        raise Outside(GONE)
    return on


def follow_link(token: str) -> Response:
    """The link that shows: it leaves the address at once, and lets its browser look for as long as it counts."""
    if not stage().is_let_in(token):
        raise Outside(GONE)
    reply: Response = redirect("/mirror", 303)  # type: ignore[assignment]
    reply.set_cookie(MIRROR_COOKIE, token, httponly=True, samesite="Lax", secure=door().place.tls)
    reply.headers["Cache-Control"] = "no-store"
    return reply
