"""Commands that look after the data folder: check, back-up, restore."""

import argparse
import contextlib
import os
import pathlib
from collections.abc import Callable

from platformdirs import user_data_path

from gray_quill.cli_items import bytes_of, save
from gray_quill.core.errors import Conflict
from gray_quill.formats.archive_zip import read_archive, write_archive
from gray_quill.formats.picture_in import PictureSeen
from gray_quill.formats.pictures import READ_BY
from gray_quill.formats.sandbox import Sandbox
from gray_quill.store.archive import archived
from gray_quill.store.archive_import import BringingIn
from gray_quill.store.backups import back_up, get_backup, list_backups, newest_good, restore
from gray_quill.store.database import FILE, connect
from gray_quill.store.going_back import go_back, what_would_change
from gray_quill.store.health import Health, examine
from gray_quill.store.owner import owned
from gray_quill.store.start import prepare

Command = Callable[[str, Callable[[argparse.Namespace], None], str], argparse.ArgumentParser]
CHECKOUT = pathlib.Path(__file__).parents[2]


def default_folder() -> pathlib.Path:
    """Where the data lies when --data does not say: ./data in a checkout, else the user's data folder."""
    in_checkout = (CHECKOUT / "pyproject.toml").is_file() and pathlib.Path.cwd() == CHECKOUT
    return pathlib.Path("data") if in_checkout else user_data_path("gray-quill", appauthor=False)


def data_argument(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--data", type=_folder, default=default_folder(), help="folder of the database (default: %(default)s)"
    )


def _folder(text: str) -> pathlib.Path:
    if "\0" in text:
        raise argparse.ArgumentTypeError("no folder has a name like this")
    return pathlib.Path(text)


def add_keeping_commands(command: Command) -> None:
    """check, back-up, restore, archive and bring-in."""
    check = command("check", _check, "Look through the database and its backups; nothing is changed.")
    keep = command("back-up", _back_up, "Make a checked backup now; also while Gray Quill runs.")
    back = command(
        "restore", _restore, "Without a name: list the backups. With one: put it in the database's place, keeping that."
    )
    back.add_argument("backup", nargs="?", help='a name from the list, or "newest" for the newest good one')
    back.add_argument("--look", action="store_true", help="only say what would change")
    out = command("archive", _archive, "Write everything that is kept as one archive of open files.")
    out.add_argument("output", help="zip file to write")
    come = command("bring-in", _bring_in, "Bring in an archive beside what is there; nothing is overwritten.")
    come.add_argument("input", help="zip file an archive was written to")
    come.add_argument("--look", action="store_true", help="only say what would come in")
    for parser in (check, keep, back, out, come):
        data_argument(parser)


def _check(args: argparse.Namespace) -> None:
    health = examine(args.data / FILE)
    print(f"{args.data / FILE}: {health.words()}")
    _list(args.data)
    if health.state != "good":
        raise Conflict(f"The database is {health.words()}. gray-quill restore puts a backup in its place.")


def _list(folder: pathlib.Path) -> None:
    backups = list_backups(folder)
    for backup in backups:
        print(f"  {backup.name}  {examine(backup.path).words()}")
    if not backups:
        print("  no backups")


def _back_up(args: argparse.Namespace) -> None:
    if examine(args.data / FILE, whole=False).state in ("missing", "empty"):
        raise Conflict(f"There is nothing to back up in {args.data}.")
    made = back_up(args.data)
    print(made.path if made else "")


def _archive(args: argparse.Namespace) -> None:
    with contextlib.closing(connect(args.data)) as db:
        db.execute("BEGIN")  # one moment of it
        files = archived(db)
    save(args.output, write_archive(files))
    print(f"{args.output}: {len(files)} files")


def _bring_in(args: argparse.Namespace) -> None:
    from gray_quill.web.desk import setting_fits  # late: other commands need no server

    opened, box = read_archive(bytes_of(args.input)), Sandbox()

    def sizes_of(kind: str, data: bytes) -> list[tuple[float, float]]:
        seen: PictureSeen = box.read(READ_BY[kind], data)
        return seen.sizes_mm

    with owned(args.data):
        prepare(args.data)
        with contextlib.closing(connect(args.data)) as db:
            came = BringingIn(db, opened.files, sizes_of, setting_fits).run(only_look=args.look)
    box.close()
    print(came.words(args.look))
    for words in [*came.left_out, *(f"{name}: it is not as it was taken out" for name in opened.broken)]:
        print(f"  left out: {words}")


def _restore(args: argparse.Namespace) -> None:
    if args.backup is None:
        print(f"now   {examine(args.data / FILE).words()}")
        _list(args.data)
        print(f"gray-quill restore NAME --data {os.fspath(args.data)} puts one of them in its place")
        return
    present = examine(args.data / FILE)
    name = args.backup
    if name == "newest":
        found = newest_good(args.data)
        name = found[0].name if found else None
    if args.look:
        _look(args.data, get_backup(args.data, name or args.backup).name, present)
        return
    with owned(args.data):
        if name and present.state == "good":
            backup, kept = go_back(args.data, name)
            aside: pathlib.Path | None = kept.path
        else:  # what is there cannot be read: the file is moved aside as it is
            backup, aside = restore(args.data, name)
    print(f"{backup.name} is in place: {examine(args.data / FILE).words()}")
    if aside:
        print(f"what was there is kept as {aside}")


def _look(folder: pathlib.Path, name: str, present: Health) -> None:
    """What going back would change; nothing is."""
    if present.state != "good":
        raise Conflict(f"What is there now is {present.words()}: nothing can be laid beside it.")
    found = what_would_change(folder, name)
    for change in found.changes:
        print(f"  {change.way}: {change.kind} {change.name}")
    print(f"{len(found.changes)} things would be otherwise; nothing was changed")
