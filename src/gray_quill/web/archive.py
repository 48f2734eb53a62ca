"""Everything taken out as one archive, and an archive brought in beside what is there."""

import contextlib

from flask import Blueprint

from gray_quill.core.errors import FormatError
from gray_quill.formats.archive_zip import Opened, write_archive
from gray_quill.formats.picture_in import PictureSeen
from gray_quill.formats.pictures import READ_BY
from gray_quill.formats.shared_pen import TOLD
from gray_quill.store.archive import archived
from gray_quill.store.archive_import import BringingIn
from gray_quill.store.coming_rows import CameIn
from gray_quill.store.database import connect
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db, folder, read_outside
from gray_quill.web.desk import setting_fits
from gray_quill.web.exports import Made, TakenOut
from gray_quill.web.jobs import JobItem, Progress, jobs
from gray_quill.web.time_budget import in_time

archive = Blueprint("archive", __name__)
NAME = "Gray Quill archive.zip"


@operation(archive, "POST", "/archive/out", JobItem, status=202)
def take_out_archive() -> JobItem:
    """Everything that is kept as one zip, found as an export is."""
    data_folder = folder()

    def work(progress: Progress) -> Made:
        with contextlib.closing(connect(data_folder)) as own:
            own.execute("BEGIN")  # one moment of it
            files = archived(own)
            own.execute("ROLLBACK")
        progress(0.5)
        data = write_archive(files)
        words = f"{len(files)} files: pens, sheets, hands, devices and what was brought in."
        return Made(TakenOut(NAME, [], len(data), [], words), "application/zip", data)

    return jobs().start("export", work).item()


def sizes_of(kind: str, data: bytes) -> list[tuple[float, float]]:
    """Of an original that an archive brings, as it is shown. Raises FormatError or TooLarge for what is not let in."""
    if kind not in READ_BY:
        raise FormatError(f"a file of kind {kind[:20]!r} is not read here")
    seen: PictureSeen = read_outside(READ_BY[kind], data)
    return seen.sizes_mm


class ArchiveCame(Model):
    """words: what came in; left_out: what could not, and why; shared_pen: it is a pen somebody shared."""

    came: CameIn
    words: str
    left_out: list[str]
    shared_pen: bool


class LookQuery(Model):
    """only_look: say what would come in; nothing does."""

    only_look: bool = False


@operation(archive, "POST", "/archive", ArchiveCame, body="application/zip", query=LookQuery, reads_file=True)
def bring_in_archive(body: bytes, query: LookQuery) -> ArchiveCame:
    """Bring in an archive: what is here stays as it is, what is the same is passed over, the rest is put beside it."""
    opened: Opened = read_outside("archive", body)
    came = BringingIn(db(), opened.files, sizes_of, setting_fits, in_time).run(query.only_look)
    came.left_out += [f"{name}: it is not as it was taken out" for name in opened.broken]
    return ArchiveCame(
        came=came, words=came.words(query.only_look), left_out=came.left_out, shared_pen=TOLD in opened.files
    )
