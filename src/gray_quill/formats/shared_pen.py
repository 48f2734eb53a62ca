"""A pen as it is shared: an archive of that pen, with what its owner saw of it beside.

pens/ID.json holds the pen with all revisions, as in every archive (docs/archive.md). share/told.json says on whose line
and device it was seen, with the readings there and on the three standard lines; share/swatch.png, share/line.png and
share/card-DEVICE.pdf are for the eye. Brought in as an archive, the pen comes and the rest is passed over.
"""

import dataclasses
from collections.abc import Mapping, Sequence
from typing import Any

from gray_quill import __version__
from gray_quill.core.digitiser.device import Device
from gray_quill.core.errors import FormatError, GrayQuillError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.quantities import read_record, record_json
from gray_quill.core.readings.ink_readings import Readings
from gray_quill.core.readings.reading import readings_of
from gray_quill.core.trace import COLUMNS, Trace, columns_of, make_trace
from gray_quill.formats.archive_zip import read_archive

FORMAT = "gray-quill/shared-pen@1"
TOLD = "share/told.json"
MOST_STROKES, MOST_SAMPLES = 60, 20_000
Told = dict[str, float | None]


@dataclasses.dataclass(frozen=True)
class SharedPen:
    """recipe: the newest one; revisions: how many there are; hand, device: the owner's; line: what was written there;
    readings: on that line, standard: on the standard lines, as they were told.
    """

    pen_id: str
    revision: int
    recipe: Recipe
    revisions: int
    hand: Hand
    device: Device
    line: list[Trace]
    readings: Told
    standard: dict[str, Told]


def plain_readings(readings: Readings) -> Told:
    """Those that are numbers, by name."""
    values = {name: getattr(readings, name) for name in readings_of(Readings)}
    return {
        name: None if v is None else float(v) for name, v in values.items() if isinstance(v, (int, float, type(None)))
    }


def share_files(
    pen: tuple[str, int],
    hand: Hand,
    device: Device,
    line: Sequence[Trace],
    readings: Readings,
    standard: Mapping[str, Readings],
    pictures: Mapping[str, bytes],
    cards: Mapping[str, bytes],
) -> dict[str, Any]:
    """What lies beside the pen in its archive, by name. pictures, cards: bytes of PNG and PDF, by name and device."""
    told = {
        "format": FORMAT,
        "app": __version__,
        "pen": pen[0],
        "revision": pen[1],
        "hand": record_json(hand),
        "device": record_json(device),
        "line": [columns_of(trace) for trace in line],
        "readings": plain_readings(readings),
        "standard": {name: plain_readings(r) for name, r in standard.items()},
    }
    files: dict[str, Any] = {TOLD: told}
    files |= {f"share/{name}.png": data for name, data in pictures.items()}
    return files | {f"share/card-{device_id}.pdf": data for device_id, data in cards.items()}


def open_shared(data: bytes) -> tuple[SharedPen, dict[str, Any]]:
    """A shared pen from its file, and the files of its archive that hold the pen itself."""
    files = read_archive(data).files
    return read_shared(files), {name: content for name, content in files.items() if name.startswith("pens/")}


def read_shared(files: Mapping[str, Any]) -> SharedPen:
    """What an opened archive tells of a shared pen. Raises FormatError, naming the field at fault."""
    told = files.get(TOLD)
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        later = isinstance(told, dict) and str(told.get("format", "")).startswith("gray-quill/shared-pen@")
        raise FormatError(
            "This pen was shared from a later version: update Gray Quill to open it."
            if later
            else "This is no shared pen. An archive comes in under “bring in”."
        )
    try:
        pen = files[f"pens/{told['pen']}.json"]
        revisions = pen["revisions"]
        recipes = {r["revision"]: read_recipe(_as_file(r["recipe"])) for r in revisions}
        line = [make_trace(**{name: one[name] for name in COLUMNS}) for one in told["line"][:MOST_STROKES]]
        if not line or sum(len(trace) for trace in line) > MOST_SAMPLES:
            raise FormatError("Its line has no strokes, or more than are looked at.")
        return SharedPen(
            str(told["pen"]),
            int(told["revision"]),
            recipes[told["revision"]],
            sum(r["revision"] > 0 for r in revisions),
            read_record(Hand, told["hand"], "hand."),
            read_record(Device, told["device"], "device."),
            line,
            _told(told["readings"]),
            {str(name)[:60]: _told(of) for name, of in list(told["standard"].items())[:10]},
        )
    except FormatError:
        raise
    except GrayQuillError as error:
        raise FormatError(f"This shared pen cannot be read: {error.message}", error.field) from None
    except (KeyError, TypeError, ValueError, AttributeError, StopIteration, IndexError, OverflowError) as error:
        raise FormatError(f"This shared pen is not whole ({type(error).__name__} {error}). Ask for it again.") from None


def _as_file(kept: Any) -> dict[str, Any]:
    """A kept recipe as a pen file holds it."""
    return {name: value for name, value in kept.items() if name != "version"}


def _told(given: Any) -> Told:
    known = readings_of(Readings)
    return {name: None if v is None else float(v) for name, v in given.items() if name in known}
