"""A sheet of 5,000 strokes: what the server does with it, and whether the browser keeps up with the hand on it."""

import json
import math
import time
import urllib.request
from collections.abc import Callable, Sequence
from typing import Any

from gray_quill.core.trace import Trace
from tests.browser.desk import at_desk

FRAME_MS = 1000 / 60
FULL: dict[str, tuple[str, float]] = {
    "first": ("the first picture", 1000),
    "rub": ("a rub across 70", 100),
    "place": ("500 placed anew", 300),
    "restyle": ("500 in another pen", 300),
    "hidden": ("a move that hides what is rubbed, p95", FRAME_MS),
    "carried": ("a frame while all are carried, p95", 1.05 * FRAME_MS),
}
FRAMES = """
window.frames_ms = []; window.moves_ms = []; window.ended = false
let last = performance.now()
document.querySelector('[data-layer=live]').addEventListener('pointermove',
  () => (window.began = performance.now()), { capture: true })
document.addEventListener('pointermove', () => window.moves_ms.push(performance.now() - window.began))
const next = (now) => { window.frames_ms.push(now - last); last = now; if (!window.ended) requestAnimationFrame(next) }
requestAnimationFrame(next)
"""


def full_sheet(url: str, restart: Callable[[], str], traces: Sequence[Trace]) -> dict[str, float]:
    """ms for what the server does with a full sheet, by the names of FULL: the best of three each."""

    def ask(path: str, body: object = None, method: str | None = None) -> Any:
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json"}
        request = urllib.request.Request(f"{url}/api/sheets{path}", data, headers, method=method)
        return urllib.request.urlopen(request).read()

    def took(path: str, body: object = None, method: str | None = None) -> float:
        start = time.perf_counter()
        ask(path, body, method)
        return (time.perf_counter() - start) * 1000

    of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
    ask("", {"id": "full", "name": "Full", "paper": "blank A4", **of})
    sent = [
        {"id": f"full-{k}", "pen_id": "fen-fountain", "revision": 1, "t_ms": (t.t_s * 1000).tolist()}
        | {"x_mm": t.x_mm.tolist(), "y_mm": (t.y_mm % 297).tolist(), "force": t.force.tolist()}
        for k, t in enumerate(traces)
    ]
    for k in range(0, len(traces), 250):
        ask("/full/strokes", {"strokes": sent[k : k + 250]})

    def some() -> list[str]:
        return [s["id"] for s in json.loads(ask("/full/strokes/like", {"ids": None}))["strokes"]][:500]

    times: dict[str, list[float]] = {"first": [], "rub": [], "place": [], "restyle": []}
    for turn in range(3):
        url = restart()
        times["first"].append(took("/full/page.png?scale=5"))
        way = [[20 + 0.2 * k, 100 + 30 * turn + 3 * math.sin(k / 5)] for k in range(200)]
        times["rub"].append(took("/full/rub", {"way": way, "radius_mm": 2}))
        times["place"].append(took("/full/strokes/place", {"ids": some(), "placement": [1, 0, 0, 1, 3, 3, 0, 0]}))
        pens = {"inks": [{"pen_id": ("heron-brush", "reed-ballpoint")[turn % 2], "revision": 1, "ids": some()}]}
        times["restyle"].append(took("/full/strokes/pens", pens, "PUT"))
    return {what: min(taken) for what, taken in times.items()}


def hands_on(strokes: int = 5000) -> dict[str, float]:
    """ms in the browser: to answer a move of the eraser over whole strokes, and a frame while all ink is carried."""
    with at_desk(True, 1280, 800) as desk:
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        desk.ask("sheets", {"id": "full", "name": "Full", "paper": "blank A4", **of})
        waves = [{"id": f"wave-{k}", "pen_id": "reed-ballpoint", "revision": 1, **wave(k)} for k in range(strokes)]
        for k in range(0, strokes, 500):
            desk.ask("sheets/full/strokes", {"strokes": waves[k : k + 500]})
        desk.ask("desk", {"sheet_id": "full"}, "PATCH")
        desk.open()
        left, top, wide = desk.js(
            "const r = document.querySelector('.page').getBoundingClientRect(); return [r.x, r.y, r.width]"
        )

        def at(x_mm: float, y_mm: float) -> tuple[float, float]:
            return left + x_mm * wide / 210, top + y_mm * wide / 210

        def p95(name: str, way: list[tuple[float, float]]) -> float:
            desk.rests(900)
            desk.js(FRAMES)
            desk.hold([(*at(*p), 0.5) for p in way])
            times = sorted(desk.js(f"window.ended = true; return window.{name}")[3:])
            desk.lift(*at(*way[-1]))
            desk.rests(900)
            return float(times[int(0.95 * len(times))])

        desk.press("rub", ".verbs")
        desk.press("whole strokes", ".rub")
        hidden = p95("moves_ms", [(10 + k, 60 + 2 * math.sin(k / 4)) for k in range(185)])
        desk.press("choose", ".verbs")
        desk.press("All ink")
        desk.wait("+document.querySelector('[data-chosen]')?.dataset.chosen > 4000", "all ink chosen", 60)
        carried = p95("frames_ms", [(100 + 0.3 * k, 100 + 0.2 * k) for k in range(60)])
    return {"hidden": hidden, "carried": carried}


def wave(k: int) -> dict[str, list[float]]:
    x, y, n = 10 + (k % 50) * 3.8, 10 + (k // 50) * 2.7, 20
    return {
        "t_ms": [8.0 * i for i in range(n)],
        "x_mm": [x + 3 * i / n for i in range(n)],
        "y_mm": [y + math.sin(i / 3) for i in range(n)],
    }
