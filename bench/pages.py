"""What the writer waits for in the browser: a small answer, a re-inked preview, live ink."""

import http.client
import pathlib
import statistics
import time
import urllib.parse
from typing import Any

import numpy as np

from bench.timing import best_ms
from gray_quill.core.ink.plan import compile_plan
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed, record_json
from tests.browser.driver import wait_for

FRAME_MS = 1000 / 60
ASK = """
const done = arguments[arguments.length - 1]
const [recipe, ids, rounds] = arguments
const times = []
for (let i = 0; i < rounds; i += 1) {
  const wanted = { ...recipe, press: { ...recipe.press, range: 2 + i / 10 } }
  const start = performance.now()
  const body = { recipe: wanted, source: { sheet_id: 'bench', part: 'sheet' }, width_px: 2400, height_px: 720 }
  const answer = await fetch('/api/pen/preview', {
    method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body),
  })
  const image = new Image()
  image.src = (await answer.json()).image
  await image.decode()
  times.push(performance.now() - start)
}
done(times)
"""


def preview(driver: Any, url: str) -> float:
    """p95 ms from asking for a re-inked line of 3,000 points to its decoded picture, 1200 x 360 at 2x."""
    driver.get(url)
    wait_for(
        driver, "document.querySelector('.margin')?.textContent.includes('Drag')", "the first page to come to rest", 30
    )
    time.sleep(1)
    n, strokes = 100, []
    for k in range(30):
        t = np.arange(n) / 240
        a = 2 * np.pi * 2.5 * t / t[-1]
        strokes.append(
            {
                "id": f"bench-{k}",
                "pen_id": "fen-fountain",
                "revision": 1,
                "t_ms": (t * 1000).tolist(),
                "x_mm": (8 + 4.2 * k + 3.5 * t / t[-1]).tolist(),
                "y_mm": (40 + 3 * np.sin(a)).tolist(),
                "force": (0.5 + 0.3 * np.sin(a)).tolist(),
            }
        )
    driver.execute_async_script(
        """
const done = arguments[arguments.length - 1]
const headers = { 'Content-Type': 'application/json' }
const post = (path, body) => fetch(path, { method: 'POST', headers, body: JSON.stringify(body) })
const of = { hand_id: 'right-firm', device_id: 'tablet-11', pen_id: 'fen-fountain' }
post('/api/sheets', { id: 'bench', name: 'Bench', ...of })
  .then(() => post('/api/sheets/bench/strokes', { strokes: arguments[0] })).then(done)""",
        strokes,
    )
    recipe = {"body": {"width_mm": 0.5}, "press": {"range": 4}, "steady": {"method": "one-euro", "amount": 3}}
    run = "const run = async function () {" + ASK + "}; run(...arguments)"
    driver.execute_async_script(run, recipe, None, 25)  # the server loads what readings need meanwhile
    times = driver.execute_async_script(run, recipe, None, 60)
    return float(np.percentile(times, 95))


LIVE = """
const done = arguments[arguments.length - 1]
const [plan, seconds, hz] = arguments
const canvas = document.createElement('canvas')
canvas.width = 1600; canvas.height = 1100
document.body.append(canvas)
const context = canvas.getContext('2d', { desynchronized: true })
const above = document.createElement('canvas')
above.width = 1600; above.height = 1100
document.body.append(above)
const over = above.getContext('2d', { desynchronized: true })
const drawing = new LiveInk.LiveDrawing(plan)
const pen = drawing.pen
const ahead = new LiveInk.AheadDrawing()
let sample = 0
const handler = []
const frames = []
const start = performance.now()
canvas.addEventListener('pointermove', event => {
  const begun = performance.now()
  for (const s of LiveInk.readEvent(event, { left: 0, top: 0, pxPerMm: 8, startMs: 0 }, -1)) {
    const tS = sample / hz
    const x = 100 + 60 * Math.sin(tS * 2.1) + 5 * Math.sin(tS * 31)
    const y = 65 + 45 * Math.cos(tS * 1.3) + 5 * Math.cos(tS * 29)
    pen.add({ ...s, tS, x, y, force: 0.5 + 0.4 * Math.sin(tS * 7) })
    sample += 1
  }
  handler.push(performance.now() - begun)
})
function frame() {
  const due = Math.floor((performance.now() - start) / 1000 * hz)
  while (sample < due) canvas.dispatchEvent(new PointerEvent('pointermove', { pointerType: 'pen', pressure: 0.5 }))
  const begun = performance.now()
  drawing.draw({ context, scale: 8 })
  ahead.draw({ context: over, scale: 8 }, pen, sample / hz)
  frames.push(performance.now() - begun)
  if (performance.now() - start < seconds * 1000) requestAnimationFrame(frame)
  else setTimeout(() => done({ handler, frames, samples: sample }), 300)
}
requestAnimationFrame(frame)
"""


def live(driver: Any) -> dict[str, float]:
    """Twice five seconds of 240 reports a second through the live-ink engine in the browser, with look-ahead; the
    better of the two, since a long task that is ink's own comes each time.
    """
    rounds = [_lived(driver) for _ in range(2)]
    return {name: min(r[name] for r in rounds) for name in rounds[0]}


def _lived(driver: Any) -> dict[str, float]:
    script = pathlib.Path(__file__).parents[1] / "web" / "dist-parity" / "live-ink.js"
    driver.get("about:blank")
    driver.execute_script(script.read_text() + "\nwindow.LiveInk = LiveInk")
    plan = record_json(compile_plan(changed(SHIPPED_PENS["fen-fountain"], "steady.ahead_ms", 14.0), "#ffffff"))
    result = driver.execute_async_script(LIVE, plan, 5, 240)
    return {
        "handler_p95_ms": float(np.percentile(result["handler"], 95)),
        "longest_ms": max([*result["handler"], *result["frames"]]),
        "samples": result["samples"],
    }


def small_request(url: str) -> float:
    """Middle ms of a small answer on a connection that is kept: two halves that wait for each other cost 40."""
    place = urllib.parse.urlparse(url)
    client = http.client.HTTPConnection(place.hostname or "", place.port)

    def ask() -> None:
        client.request("POST", "/api/pen/plan", b"{}", {"Content-Type": "application/json"})
        client.getresponse().read()

    return statistics.median(best_ms(ask, 1) for _ in range(60))
