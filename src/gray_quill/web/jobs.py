"""Long work: runs in a thread of its own, tells how far it is, can be cancelled, and keeps its result for a while."""

import dataclasses
import itertools
import json
import logging
import threading
import time
from collections.abc import Callable
from typing import Any

from flask import Blueprint, Response, current_app, request

from gray_quill.core.errors import Busy, GrayQuillError, NotFound
from gray_quill.web.api import operation
from gray_quill.web.front import WATCH, Watch, words_of
from gray_quill.web.time_budget import TASK_S, too_long

KEPT, AT_ONCE = 2, 2
Progress = Callable[[float], None]


@dataclasses.dataclass(frozen=True)
class JobItem:
    """state: running, done, refused (message says why) or cancelled. share: of the work that is done, 0 to 1."""

    id: str
    kind: str
    state: str
    share: float
    message: str


class Cancelled(Exception):
    """Raised inside the work when it is asked to end."""


class Job:
    def __init__(self, job_id: str, kind: str, keeps: Any) -> None:
        self.id, self.kind, self.keeps = job_id, kind, keeps
        self.state, self.share, self.message, self.result = "running", 0.0, "", None
        self.so_far: Any = None
        self.cancelled = False
        self._until = time.monotonic() + TASK_S

    def progress(self, share: float) -> None:
        """How far the work is; ends it when it was cancelled or has taken too long."""
        if self.cancelled:
            raise Cancelled
        if time.monotonic() > self._until:
            raise too_long(TASK_S)
        self.share = max(self.share, min(1.0, share))

    def item(self) -> JobItem:
        return JobItem(id=self.id, kind=self.kind, state=self.state, share=self.share, message=self.message)

    def run(self, work: Callable[[Progress], Any]) -> None:
        try:
            self.result = work(self.progress)
            self.progress(1.0)
            self.state = "done"
        except Cancelled:
            self._end("cancelled", "Cancelled; nothing was changed.")
        except GrayQuillError as error:
            self._end("refused", error.message)
        except Exception:
            logging.exception("a job failed")
            self._end("refused", "Something went wrong here; nothing you kept is lost. Try again.")

    def _end(self, state: str, message: str) -> None:
        self.message = message  # first: who sees the state may ask for the message
        self.state = state


class JobWatch(Watch):
    """A job's states as they change, until it ends."""

    def __init__(self, job: Job) -> None:
        self.job, self.over = job, False
        self.told: JobItem | None = None

    def look(self) -> str | None:
        if self.over:
            raise StopIteration
        item = self.job.item()
        self.over = item.state != "running"
        if item == self.told:
            return None
        self.told = item
        return f"data: {json.dumps(dataclasses.asdict(item))}\n\n"


class Jobs:
    """The last KEPT jobs of each kind; at most AT_ONCE run at a time."""

    def __init__(self) -> None:
        self._jobs: dict[str, Job] = {}
        self._numbers = itertools.count(1)
        self._lock = threading.Lock()

    def start(self, kind: str, work: Callable[[Progress], Any], keeps: Any = None) -> Job:
        """Start work(progress); `keeps` is held with the job for those who ask for it. Raises TooLarge while others
        run.
        """
        with self._lock:
            if sum(j.state == "running" for j in self._jobs.values()) >= AT_ONCE:
                raise Busy("Two long tasks are running already. Wait for one or cancel it.")
            job = Job(f"{kind}-{next(self._numbers)}", kind, keeps)
            self._jobs[job.id] = job
            for old in [j.id for j in self._jobs.values() if j.kind == kind and j.state != "running"][:-KEPT]:
                del self._jobs[old]
        threading.Thread(target=job.run, args=(work,), daemon=True).start()
        return job

    def finished(self, kind: str, result: Any) -> Job:
        """A job that is done: something that was kept is there as if it had just been worked out."""
        with self._lock:
            job = Job(f"{kind}-{next(self._numbers)}", kind, None)
            job.state, job.share, job.result = "done", 1.0, result
            self._jobs[job.id] = job
            for old in [j.id for j in self._jobs.values() if j.kind == kind and j.state != "running"][:-KEPT]:
                del self._jobs[old]
        return job

    def get(self, job_id: str, kind: str | None = None) -> Job:
        job = self._jobs.get(job_id)
        if job is None or kind not in (None, job.kind):
            raise NotFound(f"There is no task {job_id!r} any more. Start it again.")
        return job

    def result(self, job_id: str, kind: str) -> Any:
        """What a job that is done came to. Raises NotFound before."""
        job = self.get(job_id, kind)
        if job.state != "done":
            raise NotFound(job.message or f"The task {job_id} is not done yet. Wait for it.")
        return job.result

    def result_so_far(self, job_id: str, kind: str) -> Any:
        """What a job came to, or what it told while it runs and in case it was cancelled. Raises NotFound before."""
        job = self.get(job_id, kind)
        return self.result(job_id, kind) if job.so_far is None or job.state == "done" else job.so_far


def jobs() -> Jobs:
    return current_app.extensions["jobs"]  # type: ignore[no-any-return]


tasks = Blueprint("jobs", __name__)


@operation(tasks, "GET", "/jobs/<job_id>", JobItem)
def job_state(job_id: str) -> JobItem:
    """How far a long task is."""
    return jobs().get(job_id).item()


@operation(tasks, "DELETE", "/jobs/<job_id>", JobItem)
def cancel_job(job_id: str) -> JobItem:
    """Cancel a long task; it ends at its next step."""
    job = jobs().get(job_id)
    job.cancelled = True
    return job.item()


@operation(tasks, "GET", "/jobs/<job_id>/events", "text/event-stream")
def job_events(job_id: str) -> Response:
    """The states of a long task as server-sent events, until it ends."""
    watch = JobWatch(jobs().get(job_id))
    head: dict[str, Any] = {"mimetype": "text/event-stream", "headers": {"Cache-Control": "no-store"}}
    if WATCH in request.environ:  # the front carries it on, without a thread
        request.environ[WATCH] = watch
        return Response(**head)
    return Response(words_of(watch, time.sleep), **head)
