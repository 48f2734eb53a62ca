"""Films of the Lag trial: shot by the simulated camera or brought in, read as a long task, or stepped through and
marked by hand.
"""

import dataclasses
from typing import Annotated

from flask import Blueprint, Response
from pydantic import Field

from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import InputError
from gray_quill.core.latency.film import CAMERA_FPS, film
from gray_quill.core.latency.film_marks import LEAST_MARKED, Mark, Marked, read_marks
from gray_quill.core.latency.film_reader import FPS, MM_PER_PX, FilmReading, read_film, told
from gray_quill.formats.film_in import GETTING
from gray_quill.formats.film_zip import write_film
from gray_quill.store.items import get_thing
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, read_outside, sandbox
from gray_quill.web.jobs import Job, JobItem, Progress, jobs
from gray_quill.web.records import Id, RecipeIn, bounded
from gray_quill.web.replies import png
from gray_quill.web.time_budget import TASK_S

lag_films = Blueprint("lag_films", __name__)


class FilmBody(Model):
    recipe: RecipeIn
    device_id: Id
    fps: Annotated[float, bounded(CAMERA_FPS)] = 240
    seed: int = Field(1, ge=0, le=1_000_000)


class Camera(Model):
    """How a film was taken."""

    fps: Annotated[float, bounded(FPS)]
    mm_per_px: Annotated[float, bounded(MM_PER_PX)]


class FilmFrames(Camera):
    """A film held for stepping: how many frames, their size, the camera, and how many of them must be marked."""

    frames: int
    width_px: int
    height_px: int
    least_marked: int


class MarksBody(Camera):
    marks: list[Mark] = Field(max_length=500)


@dataclasses.dataclass(eq=False)
class Held:
    """A film, once its frames are there, as a zip of them, which is small; and its camera."""

    fps: float
    mm_per_px: float
    film: bytes = b""


@operation(lag_films, "POST", "/lag/films/simulated", JobItem, body=FilmBody, status=202)
def film_pen(body: FilmBody) -> JobItem:
    """Film a simulated pen on a device in slow motion and read the film."""
    device, held = get_thing(db(), Device, body.device_id), Held(body.fps, 1)

    def work(progress: Progress) -> FilmReading:
        frames, truth = film(device, body.recipe, body.fps, body.seed, lambda share: progress(GETTING * share))
        held.film, held.mm_per_px = write_film(frames), truth.mm_per_px
        found = read_film(frames, held.fps, held.mm_per_px, lambda share: progress(GETTING + (1 - GETTING) * share))
        return told(found, held.mm_per_px, truth.delay_ms)

    return jobs().start("film", work, held).item()


@operation(lag_films, "POST", "/lag/films", JobItem, body="application/zip", query=Camera, status=202, reads_file=True)
def read_own_film(body: bytes, query: Camera) -> JobItem:
    """Read a film of your own: a zip of PNG frames."""
    read_outside("film size", body)
    held, box = Held(query.fps, query.mm_per_px), sandbox()

    def work(progress: Progress) -> FilmReading:
        held.film = body
        return box.read(  # type: ignore[no-any-return]
            "film", body, within_s=TASK_S, progress=progress, fps=held.fps, mm_per_px=held.mm_per_px
        )

    return jobs().start("film", work, held).item()


@operation(lag_films, "GET", "/lag/films/<job_id>", FilmReading)
def film_reading(job_id: str) -> FilmReading:
    """What a film that was read came to."""
    return jobs().result(job_id, "film")  # type: ignore[no-any-return]


@operation(lag_films, "GET", "/lag/films/<job_id>/frames", FilmFrames)
def film_frames(job_id: str) -> FilmFrames:
    """The frames there are to step through, also of a film that could not be read."""
    held = _held(jobs().get(job_id, "film"))
    frames, height, width = read_outside("film size", held.film)
    return FilmFrames(
        frames=frames,
        width_px=width,
        height_px=height,
        fps=held.fps,
        mm_per_px=held.mm_per_px,
        least_marked=LEAST_MARKED,
    )


@operation(lag_films, "GET", "/lag/films/<job_id>/frames/<int:number>", "image/png")
def read_film_picture(job_id: str, number: int) -> Response:
    """One frame as a picture; the first is number 0."""
    held = _held(jobs().get(job_id, "film"))
    return png(read_outside("film frame", held.film, number=number))


@operation(lag_films, "POST", "/lag/films/marks", Marked, body=MarksBody)
def read_hand_marks(body: MarksBody) -> Marked:
    """The delay from nib and ink end marked by hand."""
    return read_marks(body.marks, body.fps, body.mm_per_px)


def _held(job: Job) -> Held:
    held: Held = job.keeps
    if not held.film:
        raise InputError("This film has no frames to step through yet.", "job_id")
    return held
