"""A sheet one can live on: a document of 2 MB shown and shown nearer, twenty written pages out as PDF, and the memory
of the server in all of it.
"""

import io
import json
import pathlib
import time
import urllib.request

import numpy as np
from PIL import Image
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from tests.browser.driver import served

A4_PT = (595.28, 841.89)
A4_MM = (210, 297)
FULL_WIDTH_PX_PER_MM = 8.0  # 1680 pixels across
NEARER_PX_PER_MM = 24.0
PAGES, STROKES = 20, 400
SHEETS = {
    "shown": ("an A4 page of a PDF of 2 MB, at full width", 300.0),
    "nearer": ("the same sharp after a zoom", 300.0),
    "out": ("20 pages of 400 strokes each out as PDF, compared with the screen", 5000.0),
}
MEMORY_MB = 700.0


def photograph(rng: np.random.Generator) -> Image.Image:
    """Something with the detail of one: noise of every size, the larger the stronger."""
    total = np.zeros((630, 810, 3))
    for size in (6, 18, 54, 162, 486):
        part = rng.normal(0, 400 / size, (size, round(size * 1.3), 3))
        layers = [Image.fromarray(part[..., c].astype(np.float32)).resize((810, 630)) for c in range(3)]
        total += np.stack([np.asarray(layer) for layer in layers], axis=-1)
    return Image.fromarray(np.clip(total + 128, 0, 255).astype(np.uint8))


def document(seed: int = 3) -> bytes:
    """An A4 page with a photograph, a drawing of many lines, and text: about 2 MB."""
    rng = np.random.default_rng(seed)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4_PT)
    canvas.drawImage(ImageReader(photograph(rng)), 60, 420, 475, 370)
    for row in range(40):
        canvas.drawString(60, 400 - 9 * row, "Traps stand twenty paces apart along the ditch, lamps at knee height.")
    x, y = rng.uniform(60, 535, 4000), rng.uniform(40, 400, 4000)
    for k in range(3999):
        canvas.line(x[k], y[k], x[k] + 8, y[k + 1] * 0.02 + y[k])
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def measured() -> dict[str, float]:
    """The quickest of some rounds, ms; memory in MB."""
    with served() as server:
        sheet = _brought_in(server.url)
        most = [0.0]
        whole = (0.0, 0.0, float(A4_MM[0]), float(A4_MM[1]))
        shown = [_page_ms(server.url, sheet, whole, FULL_WIDTH_PX_PER_MM + 0.01 * k) for k in range(5)]
        part = (60.0, 80.0, 60 + 1680 / NEARER_PX_PER_MM, 80 + 1050 / NEARER_PX_PER_MM)
        nearer = [_page_ms(server.url, sheet, part, NEARER_PX_PER_MM + 0.01 * k) for k in range(5)]
        most.append(_memory_mb(server.process.pid))
        pages = _written(server.url)
        out = _export_ms(server.url, pages, server.process.pid, most)
        return {"shown": min(shown), "nearer": min(nearer), "out": out, "memory": max(most)}


def _ask(url: str, path: str, data: bytes | None = None, kind: str = "application/json") -> bytes:
    request = urllib.request.Request(f"{url}/api/{path}", data, {"Content-Type": kind})
    return bytes(urllib.request.urlopen(request).read())


def _brought_in(url: str) -> str:
    told = _ask(url, "sheets/trap-log/originals?becomes=sheet&name=Bench", document(), "application/octet-stream")
    return str(json.loads(told)["pages"][0]["id"])


def _page_ms(url: str, sheet: str, box: tuple[float, ...], scale: float) -> float:
    left, top, right, bottom = box
    start = time.perf_counter()
    _ask(url, f"sheets/{sheet}/page.png?scale={scale}&left={left}&top={top}&right={right}&bottom={bottom}")
    return (time.perf_counter() - start) * 1000


def _written(url: str) -> str:
    """A sheet of PAGES pages with STROKES strokes each, of letters' size."""
    of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
    _ask(url, "sheets", json.dumps({"id": "many", "name": "Many", "paper": "ruled 7mm A4", **of}).encode())
    last = "many"
    for number in range(PAGES):
        if number:
            page = f"many-{number}"
            _ask(url, f"sheets/{last}/pages", json.dumps({"id": page}).encode())
            last = page
        strokes = [_stroke(last, k) for k in range(STROKES)]
        _ask(url, f"sheets/{last}/strokes", json.dumps({"strokes": strokes}).encode())
    return "many"


def _stroke(page: str, k: int) -> dict[str, object]:
    t = np.arange(60) * 4.0
    x = 15 + (k % 20) * 9 + t / 40
    y = 20 + (k // 20) * 13 + 2 * np.sin(t / 12 + k)
    force = 0.5 + 0.3 * np.sin(t / 30)
    columns = {"t_ms": t, "x_mm": x, "y_mm": y, "force": force}
    told = {name: np.round(values, 3).tolist() for name, values in columns.items()}
    return {"id": f"{page}-{k}", "pen_id": "fen-fountain", "revision": 1, **told}


def _export_ms(url: str, sheet: str, pid: int, most: list[float]) -> float:
    body = json.dumps({"form": "pdf", "pages": "all"}).encode()
    start = time.perf_counter()
    job = json.loads(_ask(url, f"sheets/{sheet}/exports", body))
    while job["state"] == "running":
        most.append(_memory_mb(pid))
        time.sleep(0.05)
        job = json.loads(_ask(url, f"jobs/{job['id']}"))
    assert job["state"] == "done", job
    return (time.perf_counter() - start) * 1000


def _memory_mb(pid: int) -> float:
    """Resident memory of a process and those it started."""
    total = 0.0
    for process in [pid, *_children(pid)]:
        try:
            text = pathlib.Path(f"/proc/{process}/status").read_text()
        except OSError:
            continue
        resident = (float(line.split()[1]) / 1024 for line in text.splitlines() if line.startswith("VmRSS"))
        total += next(resident, 0.0)
    return total


def _children(pid: int) -> list[int]:
    found = []
    for path in pathlib.Path(f"/proc/{pid}/task").glob("*/children"):
        try:
            own = [int(child) for child in path.read_text().split()]
        except OSError:
            continue
        found += [*own, *(grandchild for child in own for grandchild in _children(child))]
    return found
