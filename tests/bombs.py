"""Files made to cost far more than they weigh, by the operation they are sent to: each must be refused in words."""

import dataclasses
import hashlib
import io
import json
import struct
import zipfile
import zlib
from collections.abc import Callable

from PIL import Image

SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 200 100"{}>{}</svg>'


@dataclasses.dataclass(frozen=True)
class Bomb:
    """path: where it is sent; words: some of what it is refused with."""

    path: str
    media: str
    words: str
    make: Callable[[], bytes]


def zipped(*files: tuple[str, bytes], pack: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", pack) as archive:
        for name, data in files:
            archive.writestr(name, data)
    return out.getvalue()


def png_head(width: int, height: int) -> bytes:
    """A PNG that says it is so large, of pixels that are all one."""
    rows = zlib.compress(bytes(min(2_000_000, (width + 1) * height)), 9)
    parts = ((b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)), (b"IDAT", rows), (b"IEND", b""))
    chunks = (struct.pack(">I", len(d)) + k + d + struct.pack(">I", zlib.crc32(k + d)) for k, d in parts)
    return b"\x89PNG\r\n\x1a\n" + b"".join(chunks)


def jpeg(width: int, height: int) -> bytes:
    out = io.BytesIO()
    Image.new("L", (width, height), 255).save(out, "JPEG", quality=1)
    return out.getvalue()


def openraster(stack: str, *files: tuple[str, bytes]) -> bytes:
    return zipped(("mimetype", b"image/openraster"), ("stack.xml", stack.encode()), *files)


def archive(pack: int = zipfile.ZIP_DEFLATED, **files: bytes) -> bytes:
    """An archive whose manifest is right."""
    named = {f"{name}.json": data for name, data in files.items()}
    listed = {name: {"sha256": hashlib.sha256(data).hexdigest(), "bytes": len(data)} for name, data in named.items()}
    manifest = {"format": "gray-quill/archive", "version": 1, "app": "0", "files": listed}
    return zipped(("manifest.json", json.dumps(manifest).encode()), *named.items(), pack=pack)


def directory_of(count: int) -> bytes:
    """A zip of the 64-bit kind with a directory of so many entries, whose end says one."""
    entry = struct.pack("<IHHHHHHIIIHHHHHII", 0x02014B50, 20, 20, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0) + b"a"
    directory = entry * count
    end_64 = struct.pack("<IQHHIIQQQQ", 0x06064B50, 44, 45, 45, 0, 0, count, count, len(directory), 0)
    locator = struct.pack("<IIQI", 0x07064B50, 0, len(directory), 1)
    return directory + end_64 + locator + struct.pack("<IHHHHIIH", 0x06054B50, 0, 0, 1, 1, 0xFFFFFFFF, 0xFFFFFFFF, 0)


def nested_uses(reference: str = "use") -> str:
    """8 to the 20th copies in some kilobytes."""
    groups = []
    for k in range(20):
        if reference == "use":
            inside = f'<use href="#g{k + 1}"/>' * 8
            groups.append(f'<g id="g{k}">{inside}</g>')
        else:
            inside = f'<rect width="9" height="9" fill="url(#g{k + 1})"/>' * 8
            groups.append(f'<pattern id="g{k}" width="10" height="10" patternUnits="userSpaceOnUse">{inside}</pattern>')
    last = '<rect id="g20" width="1" height="1"/>'
    return f'<defs>{"".join(groups)}{last}</defs><use href="#g0"/><rect width="50" height="50" fill="url(#g0)"/>'


def svg(inside: str, more: str = "") -> bytes:
    return SVG.format(more, inside).encode()


def pdf(objects: dict[int, str], root: int = 1) -> bytes:
    """A PDF of these objects, with its table."""
    out, places = bytearray(b"%PDF-1.7\n"), {}
    for number, text in objects.items():
        places[number] = len(out)
        out += f"{number} 0 obj\n{text}\nendobj\n".encode()
    start, size = len(out), max(objects) + 1
    rows = "".join(f"{places[k]:010d} 00000 n \n" if k in places else "0000000000 65535 f \n" for k in range(size))
    out += f"xref\n0 {size}\n{rows}trailer\n<< /Size {size} /Root {root} 0 R >>\nstartxref\n{start}\n%%EOF".encode()
    return bytes(out)


def many_pages(count: int) -> bytes:
    """One page named so often."""
    return pdf(
        {
            1: "<< /Type /Catalog /Pages 2 0 R >>",
            2: f"<< /Type /Pages /Count {count} /Kids [{' '.join(['3 0 R'] * count)}] >>",
            3: "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 300] >>",
        }
    )


def pages_of_themselves() -> bytes:
    return pdf(
        {1: "<< /Type /Catalog /Pages 2 0 R >>", 2: "<< /Type /Pages /Count 2 /Kids [2 0 R 2 0 R] /Parent 2 0 R >>"}
    )


ORIGINAL = "/api/sheets/trap-log/originals?name=x"
AS_STROKES = "/api/sheets/trap-log/svg?name=x"
LAYERED = "/api/sheets/trap-log/openraster?name=x"
ARCHIVE = "/api/archive"
BYTES, ORA, ZIP = "application/octet-stream", "image/openraster", "application/zip"
IMAGE = '<image w="200" h="100"><stack>{}</stack></image>'
BOMBS = {
    "one entry for every layer": Bomb(
        LAYERED,
        ORA,
        "times its size|layers",
        lambda: openraster(IMAGE.format('<layer src="a"/>' * 100_000), ("a", bytes(39_000_000))),
    ),
    "twelve layers of one entry": Bomb(
        LAYERED,
        ORA,
        "times its size|unpacks",
        lambda: openraster(IMAGE.format('<layer src="a"/>' * 12), ("a", bytes(39_000_000))),
    ),
    "millions of elements": Bomb(
        LAYERED, ORA, "larger than is read|unpacks", lambda: openraster("<image>" + "<a/>" * 9_700_000 + "</image>")
    ),
    "a million deep": Bomb(LAYERED, ORA, "deep|larger", lambda: openraster("<a>" * 1_000_000 + "</a>" * 1_000_000)),
    "deep within its size": Bomb(LAYERED, ORA, "deep", lambda: openraster("<a>" * 100_000 + "</a>" * 100_000)),
    "layers of huge pictures": Bomb(
        LAYERED,
        ORA,
        "pixels|damaged",
        lambda: openraster(
            IMAGE.format("".join(f'<layer src="{k}"/>' for k in range(12))),
            *((str(k), png_head(7000, 7000)) for k in range(12)),
        ),
    ),
    "copies of copies": Bomb(AS_STROKES, "image/svg+xml", "repeats", lambda: svg(nested_uses())),
    "copies of copies, as a picture": Bomb(ORIGINAL, BYTES, "repeats", lambda: svg(nested_uses())),
    "patterns of patterns": Bomb(ORIGINAL, BYTES, "repeats", lambda: svg(nested_uses("pattern"))),
    "a use of itself": Bomb(AS_STROKES, "image/svg+xml", "repeats", lambda: svg('<g id="a"><use href="#a"/></g>')),
    "lines without letters": Bomb(
        AS_STROKES, "image/svg+xml", "parts", lambda: svg('<path d="M0 0' + " 0 0" * 1_900_000 + '"/>')
    ),
    "a marker at each corner": Bomb(
        ORIGINAL,
        BYTES,
        "repeats",
        lambda: svg(
            '<marker id="m">' + '<rect width="1" height="1"/>' * 900 + "</marker>"
            '<path marker-mid="url(#m)" d="M0 0' + "L1 1L0 0" * 10_000 + '"/>'
        ),
    ),
    "styles that fill with patterns": Bomb(
        ORIGINAL,
        BYTES,
        "brought its reader down|memory|cannot be drawn|repeats",
        lambda: svg(
            "<style>"
            + "".join(f".c{k}{{fill:url(#p{k + 1})}}" for k in range(14))
            + "</style><defs>"
            + "".join(
                f'<pattern id="p{k}" width="10" height="10" patternUnits="userSpaceOnUse">'
                + f'<rect class="c{k}" width="9" height="9"/>' * 8
                + "</pattern>"
                for k in range(14)
            )
            + '</defs><rect width="100" height="100" fill="url(#p0)"/>'
        ),
    ),
    "a picture that says it is huge": Bomb(ORIGINAL, BYTES, "pixels", lambda: png_head(60_000, 60_000)),
    "a long picture of one row": Bomb(ORIGINAL, BYTES, "pixels", lambda: png_head(2_000_000, 1)),
    "a photograph of many pixels": Bomb(ORIGINAL, BYTES, "pixels", lambda: jpeg(15_000, 9_000)),
    "settings of empty lists": Bomb(
        ARCHIVE, ZIP, "unpacks", lambda: archive(settings=b"[" + b"[]," * 18_000_000 + b"[]]")
    ),
    "settings of empty lists, only looked at": Bomb(
        ARCHIVE + "?only_look=true",
        ZIP,
        "unpacks",
        lambda: archive(settings=b"[" + b"[]," * 18_000_000 + b"[]]"),
    ),
    "settings of empty lists, as they are": Bomb(
        ARCHIVE, ZIP, "values", lambda: archive(zipfile.ZIP_STORED, settings=b"[" + b"[]," * 7_000_000 + b"[]]")
    ),
    "more settings than a desk has": Bomb(
        ARCHIVE, ZIP, "rows", lambda: archive(zipfile.ZIP_STORED, settings=b"[" + b"{}," * 250_000 + b"{}]")
    ),
    "a directory larger than its count": Bomb(ARCHIVE, ZIP, "64-bit", lambda: directory_of(700_000)),
    "more frames than are read": Bomb(
        "/api/lag/films?fps=240&mm_per_px=0.1",
        ZIP,
        "files",
        lambda: zipped(*((f"f{k}.png", b"") for k in range(20_000))),
    ),
    "frames of zeros": Bomb(
        "/api/lag/films?fps=240&mm_per_px=0.1",
        ZIP,
        "times its size|unpacks",
        lambda: zipped(*((f"f{k}.png", bytes(29_000_000)) for k in range(20))),
    ),
    "a shared pen of zeros": Bomb(
        "/api/pens/shared/look?sheet_id=trap-log",
        ZIP,
        "times its size|unpacks",
        lambda: zipped(("manifest.json", b" " * 41_000_000)),
    ),
    "ink of millions of groups": Bomb(
        "/api/sheets/trap-log/file",
        "application/inkml+xml",
        "elements",
        lambda: b'<ink xmlns="http://www.w3.org/2003/InkML">' + b"<a/>" * 4_900_000 + b"</ink>",
    ),
    "rows without end": Bomb("/api/csv/look", "text/csv", "rows", lambda: b"x,y\n" + b"1,2\n" * 5_000_000),
    "a row of millions of cells": Bomb("/api/csv/look", "text/csv", "columns", lambda: b"1," * 10_000_000),
    "lists in lists": Bomb(
        "/api/pens/files", "application/json", "deep|kilobytes", lambda: b"[" * 49_000 + b"]" * 49_000
    ),
    "a body of empty lists": Bomb(
        "/api/sheets/trap-log/strokes",
        "application/json",
        "values",
        lambda: b'{"strokes": [' + b"[]," * 7_900_000 + b"[]]}",
    ),
    "a document of 100,000 pages": Bomb(ORIGINAL, BYTES, "pages|damaged", lambda: many_pages(100_000)),
    "a document of itself": Bomb(ORIGINAL, BYTES, "PDF|reader down", pages_of_themselves),
}
