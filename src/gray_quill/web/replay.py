"""A page's ink coming about again: what happens when, the page at a moment, and the whole of it as a file."""

import dataclasses
import io
import threading
import zipfile
from collections.abc import Iterator
from typing import Annotated, Literal

import numpy as np
from flask import Blueprint, Response, current_app
from PIL import Image
from pydantic import Field

from gray_quill.core.errors import InputError, NoInk, TooLarge
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.panel.replay import rewritten
from gray_quill.core.panel.writing import Writing
from gray_quill.core.paper import Paper
from gray_quill.formats.png import write_png
from gray_quill.store.sheets import Sheet, get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.exports import EPOCH, Made, TakenOut, named
from gray_quill.web.jobs import JobItem, Progress, jobs
from gray_quill.web.records import Box
from gray_quill.web.replies import png

replay = Blueprint("replay", __name__)
By = Literal["time", "stroke", "steady"]
MOST_PX = 12_000_000  # of one picture
MOST_FRAMES, MOST_FILM_PX = 2000, 150_000_000
HOLDS_S = 1.5  # how long the finished page stands at the end of a film
# Without whole pictures in between, as for jumping about in: a fifth of the time and a quarter of the size.
ONLY_CHANGES = {"lossless": True, "method": 1, "kmin": 0, "kmax": 0}
DRAWN = 0.7  # of the work; the rest is writing it down
MEDIA = {"webp": "image/webp", "png": "image/apng", "zip": "application/zip"}


@dataclasses.dataclass(frozen=True)
class Coming:
    """A stroke that comes about from a moment to another, inside a box of the page."""

    from_s: float
    until_s: float
    box_mm: Box


class Replay(Model):
    lasts_s: float
    strokes: list[Coming]


class ReplayQuery(Model):
    by: By = "time"


class MomentQuery(Model):
    """A part of the page in mm as it was at a moment, at a scale of px a mm; snapped outward to whole pixels."""

    by: By = "time"
    at_s: float = Field(ge=0, le=1e6)
    scale: float = Field(6, gt=0.2, le=400)
    left: float = Field(0, ge=-1)
    top: float = Field(0, ge=-1)
    right: float
    bottom: float


class FilmOut(Model):
    """speed: how many times as fast as it was written; form: an animated WebP or PNG, or a zip of PNG frames."""

    by: By = "time"
    form: Literal["webp", "png", "zip"] = "webp"
    speed: Annotated[float, Field(ge=0.25, le=64)] = 4
    frames_hz: Annotated[float, Field(ge=1, le=30)] = 12
    width_px: Annotated[int, Field(ge=100, le=2000)] = 800


class Writings:
    """The last replay that was asked for: it is asked for again and again."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._last: tuple[tuple[object, ...], Writing] | None = None

    def of(self, sheet: Sheet, by: str) -> Writing:
        key = (sheet.id, sheet.version, sheet.ink, by)
        with self._lock:
            if self._last and self._last[0] == key:
                return self._last[1]
        pairs = memory().drawn(db(), sheet.id)
        if not pairs:
            raise NoInk("There is no ink on this page yet: nothing to see again.", "sheet_id")
        made = rewritten([trace for trace, _ in pairs], [ink for _, ink in pairs], by)
        with self._lock:
            self._last = key, made
        return made


def writings() -> Writings:
    return current_app.extensions["writings"]  # type: ignore[no-any-return]


@operation(replay, "GET", "/sheets/<sheet_id>/replay", Replay, query=ReplayQuery, costly=True)
def read_replay(sheet_id: str, query: ReplayQuery) -> Replay:
    """When each stroke of a page comes about, and where."""
    writing = writings().of(get_sheet(db(), sheet_id), query.by)
    strokes = [
        Coming(round(start, 4), round(start + writing.lasts_s(k), 4), ink.box_mm)
        for k, (ink, start) in enumerate(zip(writing.inks, writing.starts_s, strict=True))
    ]
    return Replay(lasts_s=writing.written_s(), strokes=strokes)


@operation(replay, "GET", "/sheets/<sheet_id>/replay.png", "image/png", query=MomentQuery, costly=True)
def read_moment(sheet_id: str, query: MomentQuery) -> Response:
    """A part of the page as it was at a moment of its replay."""
    sheet = get_sheet(db(), sheet_id)
    box = (query.left, query.top, query.right, query.bottom)
    if box[2] <= box[0] or box[3] <= box[1] or (box[2] - box[0]) * (box[3] - box[1]) * query.scale**2 > MOST_PX:
        raise InputError(f"Ask for a part of the page of at most {MOST_PX // 1_000_000} million pixels.", "scale")
    inks = writings().of(sheet, query.by).until(query.at_s)
    return png(write_png(page_pixels(inks, memory().ground(sheet), box_view(box, query.scale)), compress=1))


@operation(replay, "POST", "/sheets/<sheet_id>/replay/film", JobItem, body=FilmOut, status=202)
def take_out_replay(sheet_id: str, body: FilmOut) -> JobItem:
    """The replay of a page as a file, found as an export is."""
    sheet = get_sheet(db(), sheet_id)
    scale = body.width_px / sheet.paper.width_mm
    view = box_view((0, 0, sheet.paper.width_mm, sheet.paper.height_mm), scale)
    writing = writings().of(sheet, body.by)
    frames = int(writing.written_s() / body.speed * body.frames_hz) + 2
    if frames > MOST_FRAMES or frames * view.width_px * view.height_px > MOST_FILM_PX:
        raise TooLarge(
            f"That film would have {frames} pictures of {view.width_px} x {view.height_px}. Make it faster or smaller, "
            "or of fewer pictures a second.",
            "speed",
        )
    ground = memory().ground(sheet)

    def work(progress: Progress) -> Made:
        data = _film(_frames(writing, ground, view, body, frames, progress), frames, body)
        name = f"{named('{sheet}, page {page}' if sheet.pages > 1 else '{sheet}', sheet)}.{body.form}"
        words = f"{frames} pictures, {frames / body.frames_hz + HOLDS_S:.1f} s."
        return Made(TakenOut(name, [], len(data), [], words), MEDIA[body.form], data)

    return jobs().start("export", work).item()


def _frames(
    writing: Writing, ground: Paper, view: View, body: FilmOut, count: int, progress: Progress
) -> Iterator[Pixels]:
    """The page at each moment; only what changed is drawn."""
    page, shown_s = page_pixels([], ground, view), -1.0
    for k in range(count):
        at_s = min(k / body.frames_hz * body.speed, writing.written_s() + 1)
        part = _changed(writing, shown_s, at_s, view)
        if part is not None:
            rows, columns, there = part
            page[rows, columns] = page_pixels(writing.until(at_s), ground, there)
        shown_s = at_s
        progress(DRAWN * k / count)
        yield page.copy()


def _changed(writing: Writing, before_s: float, at_s: float, view: View) -> tuple[slice, slice, View] | None:
    """Where ink came about between two moments: rows and columns of the view, and the view of them."""
    boxes = [
        ink.box_mm
        for k, (ink, start) in enumerate(zip(writing.inks, writing.starts_s, strict=True))
        if start <= at_s and start + writing.lasts_s(k) >= before_s
    ]
    if not boxes:
        return None
    low, high = np.array(boxes)[:, :2].min(axis=0), np.array(boxes)[:, 2:].max(axis=0)
    x, y = np.maximum(np.floor(low * view.px_per_mm).astype(int) - 1, 0)
    right, bottom = np.minimum(np.ceil(high * view.px_per_mm).astype(int) + 1, (view.width_px, view.height_px))
    if right <= x or bottom <= y:
        return None
    there = View(x / view.px_per_mm, y / view.px_per_mm, view.px_per_mm, int(right - x), int(bottom - y))
    return slice(y, bottom), slice(x, right), there


def _film(frames: Iterator[Pixels], count: int, body: FilmOut) -> bytes:
    out = io.BytesIO()
    if body.form == "zip":
        with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as file:
            for number, frame in enumerate(frames, 1):
                file.writestr(zipfile.ZipInfo(f"frame-{number:05d}.png", EPOCH), write_png(frame, compress=1))
        return out.getvalue()
    first, rest = next(frames), [Image.fromarray(frame) for frame in frames]
    durations = [round(1000 / body.frames_hz)] * (count - 1) + [round(HOLDS_S * 1000)]
    settings = ONLY_CHANGES if body.form == "webp" else {}
    Image.fromarray(first).save(
        out, body.form.upper(), save_all=True, append_images=rest, duration=durations, loop=0, **settings
    )
    return out.getvalue()
