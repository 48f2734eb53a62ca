"""Panels in time: a part of a sheet as a panel shows it while it is written."""

import dataclasses
from typing import Annotated

import numpy as np
from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import NoInk
from gray_quill.core.latency.page_film import page_film
from gray_quill.core.latency.trial import takes_fast_path, until_told_ms
from gray_quill.core.panel.cut import THEN, cut_of, cut_view
from gray_quill.core.panel.followed import follow
from gray_quill.core.panel.in_time import InTime
from gray_quill.core.readings.in_time import Ghosts, InTimeReader, InTimeReadings, ghosts_of
from gray_quill.core.readings.on_panel import tones_of
from gray_quill.core.units import px_per_mm
from gray_quill.formats.film_zip import check_length, write_film
from gray_quill.formats.replay_video import Patch, Reels, Strip
from gray_quill.store.items import get_thing
from gray_quill.store.pens import get_pen
from gray_quill.store.sheets import get_sheet
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, memory
from gray_quill.web.panels import OnPanel
from gray_quill.web.records import UpdatesIn
from gray_quill.web.replies import data_url, download
from gray_quill.web.time_budget import in_time

films = Blueprint("panel_films", __name__)
SCREEN_HZ = 30.0
WAIT_STEP_S = 0.02  # that one step of a byte stands for


class PageFilmBody(OnPanel):
    """A part of a sheet, so many mm wide about a place of the page, and what is done after it is written. updates: how
    the panel changes its picture, as that is being changed.
    """

    updates: UpdatesIn | None = None
    x_mm: Annotated[float, Field(ge=-10_000, le=10_000)]
    y_mm: Annotated[float, Field(ge=-10_000, le=10_000)]
    width_mm: Annotated[float, Field(ge=10, le=120)] = 60.0
    then: Annotated[str, Field(max_length=40)] = THEN[0]
    frames_hz: Annotated[float, Field(ge=5, le=60)] = SCREEN_HZ


class PanelFilm(Model):
    """reels: grey PNGs whose bytes, one after another, are what patches are cut from; channels: 1 or 3 bytes a pixel.
    seen, believed: what the writer sees and what the program believes is shown, patch by patch. waits: how long each
    pixel's last tone took to be there, in steps of wait_step_s. began_s: of each update that was begun, when. done_s:
    when something more is done after writing, None where nothing is. toned: how tones are mixed in time.
    """

    reels: list[str]
    width_px: int
    height_px: int
    channels: int
    frames: int
    frames_hz: float
    seen: list[Patch]
    believed: list[Patch]
    waits: Patch
    wait_step_s: float
    began_s: list[float]
    done_s: float | None
    readings: InTimeReadings
    ghosts: Ghosts
    toned: str


@operation(films, "POST", "/panels/film", PanelFilm, body=PageFilmBody, costly=True)
def make_film(body: PageFilmBody) -> PanelFilm:
    """A part of the sheet on a panel while it is written, picture by picture."""
    page = _page(body)
    reels, reader = Reels(), InTimeReader(page)
    frame, strips = 0, None
    for frame, moment in enumerate(follow(page, body.frames_hz)):
        in_time()
        reader.see(moment)
        if strips is None:
            strips = Strip(reels, moment.seen), Strip(reels, moment.believed)
        strips[0].show(frame, moment.seen, moment.seen_boxes)
        strips[1].show(frame, moment.believed, moment.believed_boxes)
    assert strips is not None, "a film has a first frame"
    waits = np.asarray(np.clip(np.ceil(reader.waits_s() / WAIT_STEP_S), 0, 255), np.uint8)
    waited = reels.add(0, waits, page.whole())
    sheet = get_sheet(db(), body.sheet_id)
    pen = body.recipe or get_pen(db(), sheet.pen_id).recipe
    writing = page.writing
    return PanelFilm(
        reels=[data_url(reel) for reel in reels.pictures()],
        width_px=page.view.width_px,
        height_px=page.view.height_px,
        channels=3 if page.panel.colour else 1,
        frames=frame + 1,
        frames_hz=body.frames_hz,
        seen=strips[0].patches,
        believed=strips[1].patches,
        waits=waited,
        wait_step_s=WAIT_STEP_S,
        began_s=sorted({round(u.at_s, 3) for u in page.log}) if page.of_paper else [],
        done_s=None if body.then == THEN[0] else writing.ends_s(),
        readings=reader.readings(),
        ghosts=ghosts_of(*tones_of(pen, sheet.paper.colour, page.panel, page.toning), page.sort),
        toned=page.toning.dither,
    )


@operation(films, "POST", "/panels/film-frames", "application/zip", body=PageFilmBody, costly=True)
def save_film(body: PageFilmBody) -> Response:
    """The same as a zip of PNG frames with the pen over them, which Lag reads too."""
    page = _page(body)
    check_length((page.view.height_px, page.view.width_px), int(page.lasts_s() * body.frames_hz) + 1)
    frames = []
    for picture in page_film(page, body.frames_hz, with_nib=True):
        in_time()
        frames.append(picture)
    return download(write_film(frames), "application/zip", f"{body.device_id} {body.frames_hz:g} frames a second.zip")


def _page(body: PageFilmBody) -> InTime:
    sheet, device = get_sheet(db(), body.sheet_id), get_thing(db(), Device, body.device_id)
    panel = body.panel or device.panel
    drawn = memory().drawn(db(), body.sheet_id, body.recipe)
    if not drawn:
        raise NoInk("There is no ink on this sheet yet. Write a line, or let the hand write one.", "sheet_id")
    view = cut_view(sheet.paper, body.x_mm, body.y_mm, body.width_mm, px_per_mm(panel.ppi))
    writing = cut_of(drawn, view, body.then)
    pen = body.recipe or get_pen(db(), sheet.pen_id).recipe
    late_s = until_told_ms(dataclasses.replace(device, panel=panel), pen) / 1000
    fast = [takes_fast_path(ink.recipe) for ink in writing.inks]
    return InTime(
        writing, memory().ground(sheet), view, panel, body.updates or device.updates, late_s, fast, body.toning
    )
