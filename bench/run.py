"""The speed table: ours against peers, as ratios within one run. Run as `make bench` or `gray-quill bench`."""

import http.client
import itertools
import pathlib
import statistics
import sys
import time
import urllib.parse
import urllib.request
from collections.abc import Callable

import numpy as np

sys.path.insert(0, str(pathlib.Path(__file__).parents[1]))
import aggdraw
import shapely
from OneEuroFilter import OneEuroFilter

from bench.cabinet import finding_ms
from bench.full_page import FULL, full_sheet, hands_on
from bench.lineup import lined_up, next_choice_ms
from bench.others import OTHERS, watched
from bench.panels import diffusion, four_proofs, in_time
from bench.sheets import SHEETS
from bench.sheets import measured as sheets_measured
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.page import opacity_plane, page_pixels
from gray_quill.core.ink.plan import compile_plan
from gray_quill.core.ink.rubbing import rubbed, sweep_of, touched
from gray_quill.core.ink.settle import Ink, settle_all
from gray_quill.core.ink.showing import AS_WRITTEN
from gray_quill.core.ink.view import box_view, page_view
from gray_quill.core.lag.stage import draw_totals
from gray_quill.core.lag.trial import stages_of
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady.one_euro import one_euro
from gray_quill.core.quantities import changed, record_json
from gray_quill.core.trace import Trace, make_trace, moved
from tests.browser.driver import browser, served, wait_for

ROUNDS = 7
FRAME_MS = 1000 / 60
PEN = read_recipe(
    {
        "body": {"width_mm": 0.5},
        "press": {"range": 3},
        "ends": {"start_mm": 0.6, "start_tip": 0.3, "end_mm": 1.2, "end_tip": 0.2},
    }
)


def best_ms(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """The quickest of some rounds, ms."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times) * 1000


def best_of_both(ours: Callable[[], object], theirs: Callable[[], object], turns: int = 8) -> tuple[float, float]:
    """The quickest of some rounds of each, ms, taken in turn, so that a busy moment meets both."""
    times = [(best_ms(ours, 3), best_ms(theirs, 3)) for _ in range(turns)]
    return min(t[0] for t in times), min(t[1] for t in times)


def page_of_strokes(strokes: int = 500, points: int = 80) -> list[Trace]:
    """Handwriting-sized strokes in lines on an A4 page."""
    rng = np.random.default_rng(1)
    out = []
    for i in range(strokes):
        t = np.arange(points) / 240
        x0, y0 = 12 + (i % 20) * 9.3, 14 + (i // 20) * 10.8
        a = 2 * np.pi * (2.4 * t / t[-1]) + rng.uniform(0, 6)
        out.append(make_trace(t, x0 + 7.5 * t / t[-1] + 0.9 * np.cos(a), y0 + 1.6 * np.sin(a), 0.5 + 0.35 * np.sin(a)))
    return out


def raster(inks: list[Ink]) -> tuple[float, float]:
    """Page of ink against aggdraw filling polygons that are ready."""
    paper = paper_from_spec("blank A4")
    view = page_view(paper, 200)
    paths = []
    for ink in inks:
        for ring in outline(ink):
            paths.append((ring * view.px_per_mm).ravel().tolist())

    def theirs() -> bytes:
        draw = aggdraw.Draw("RGB", (view.width_px, view.height_px), "white")
        brush = aggdraw.Brush("black")
        for p in paths:
            draw.polygon(p, brush)
        draw.flush()
        return draw.tobytes()  # type: ignore[no-any-return]

    return best_of_both(lambda: page_pixels(inks, paper, view), theirs)


def outlines(inks: list[Ink]) -> tuple[float, float]:
    lines = [shapely.LineString(np.column_stack((ink.x_mm, ink.y_mm))) for ink in inks]
    return best_of_both(lambda: [outline(ink) for ink in inks], lambda: [line.buffer(0.25) for line in lines], 3)


def settling(strokes: int = 4000) -> float:
    """ms to settle a sheet of this many strokes in the fountain pen."""
    traces = page_of_strokes(strokes)
    return best_ms(lambda: settle_all(traces, SHIPPED_PENS["fen-fountain"]))


def euro() -> tuple[float, float]:
    n = 100_000
    t = 1 + np.arange(n) / 240
    x = np.cumsum(np.random.default_rng(2).normal(0, 0.1, n))
    both = np.column_stack((x, np.zeros(n)))
    reference = OneEuroFilter(freq=240, mincutoff=1.0, beta=0.01, dcutoff=1.0)
    values, times = x.tolist(), t.tolist()
    return best_ms(lambda: one_euro(t, both, 1.0, 0.01, 1.0)), best_ms(
        lambda: [reference(v, s) for v, s in zip(values, times, strict=True)], 3
    )


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


def preview(driver, url: str) -> float:  # type: ignore[no-untyped-def]
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


def live(driver) -> dict[str, float]:  # type: ignore[no-untyped-def]
    """Ten seconds of 240 reports a second through the live-ink engine in the browser, with look-ahead."""
    script = pathlib.Path(__file__).parents[1] / "web" / "dist-parity" / "live-ink.js"
    driver.get("about:blank")
    driver.execute_script(script.read_text() + "\nwindow.LiveInk = LiveInk")
    plan = record_json(compile_plan(changed(SHIPPED_PENS["fen-fountain"], "steady.ahead_ms", 14.0), "#ffffff"))
    result = driver.execute_async_script(LIVE, plan, 10, 240)
    return {
        "handler_p95_ms": float(np.percentile(result["handler"], 95)),
        "frame_p95_ms": float(np.percentile(result["frames"], 95)),
        "longest_ms": max([*result["handler"], *result["frames"]]),
        "samples": result["samples"],
    }


def row(work: str, peer: str, ours: str, theirs: str, ratio: float, goal: float) -> bool:
    met = ratio <= goal
    print(
        f"{work:<58} {peer:<34} {ours:>10} {theirs:>10} {ratio:>7.3f} {goal:>6.2f}  {'met' if met else 'NOT MET'}",
        flush=True,
    )
    return met


def lag_draws(count: int = 1_000_000) -> tuple[float, float]:
    """Totals of a pen on a device against the random numbers they take."""
    stages = stages_of(SHIPPED_DEVICES["convertible-13"], SHIPPED_PENS["fen-fountain"])
    waits = sum(s.wait_ms > 0 for s in stages)
    shapes = [(s.jitter_ms / s.jitter_sd_ms) ** 2 for s in stages if s.jitter_sd_ms]

    def numbers() -> None:
        rng = np.random.default_rng(1)
        for _ in range(waits):
            rng.random(count)
        for shape in shapes:
            rng.standard_gamma(shape, count)

    seeds = itertools.count()  # what was drawn before is kept
    return best_ms(lambda: draw_totals(stages, next(seeds), count)), best_ms(numbers)


def pens() -> dict[str, tuple[float, float]]:
    """Of each shipped pen: ms to draw a page of 200 written strokes at 200 dpi, and ns a pixel they ink."""
    paper = paper_from_spec("blank A4")
    view = page_view(paper, 200)
    words = "Hawk-moth on the white sheet, wings folded"
    line = write_text(words, SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 3)
    traces = [moved(t, 0, 18 * k) for k in range(10) for t in line][:200]
    empty = best_ms(lambda: page_pixels([], paper, view), 3)
    out = {}
    for name, recipe in SHIPPED_PENS.items():
        inks = settle_all(traces, recipe)
        inked = sum(int((opacity_plane([ink], box_view(ink.box_mm, view.px_per_mm)) > 0).sum()) for ink in inks)
        page_pixels(inks, paper, view)
        ours = best_ms(lambda inks=inks: page_pixels(inks, paper, view), 3) - empty  # type: ignore[misc]
        out[name] = ours, 1e6 * ours / inked
    return out


def cut() -> float:
    """ms to cut a stroke of 500 reports where an eraser went across it."""
    trace = page_of_strokes(1, 500)[0]
    ink = settle_all([trace], SHIPPED_PENS["fen-fountain"])[0]
    x, y = ink.x_mm[300], ink.y_mm[300]
    way = [(x - 3 + 0.1 * k, y - 3 + 0.1 * k) for k in range(60)]

    def work() -> None:
        sweep = sweep_of(way, 1.0)
        touched([ink], sweep)
        rubbed(ink, AS_WRITTEN, sweep)

    return best_ms(work, 20)


def small_request(url: str) -> float:
    """Middle ms of a small answer on a connection that is kept: two halves that wait for each other cost 40."""
    place = urllib.parse.urlparse(url)
    client = http.client.HTTPConnection(place.hostname or "", place.port)

    def ask() -> None:
        client.request("POST", "/api/pen/plan", b"{}", {"Content-Type": "application/json"})
        client.getresponse().read()

    return statistics.median(best_ms(ask, 1) for _ in range(60))


def main() -> None:
    print(f"{'work':<58} {'peer or limit':<34} {'ours':>10} {'theirs':>10} {'ratio':>7} {'goal':>6}")
    inks = settle_all(page_of_strokes(), PEN)
    points = sum(len(ink.x_mm) for ink in inks)
    ms = "{:.1f} ms".format
    ours, theirs = raster(inks)
    row(
        f"raster page, 500 strokes / {points // 1000}k points, A4 at 200 dpi",
        "aggdraw, ready polygons",
        ms(ours),
        ms(theirs),
        ours / theirs,
        0.35,
    )
    ours, theirs = outlines(inks)
    row(
        "outlines of the same strokes, variable width",
        "shapely buffer, constant width",
        ms(ours),
        ms(theirs),
        ours / theirs,
        0.25,
    )
    took = settling()
    row("settling 4,000 strokes of 80 reports", "250 ms", ms(took), "250.0 ms", took / 250, 1)
    costs = pens()
    plain = costs["reed-ballpoint"][1]
    for name, (ours, ns) in costs.items():
        words = f"200 strokes of {name}, {ms(ours)}, a pixel"
        row(words, "a pixel of a plain pen", f"{ns:.0f} ns", f"{plain:.0f} ns", ns / plain, 5)
    ours, theirs = euro()
    row("one-euro over 100k samples", "pure-Python reference package", ms(ours), ms(theirs), ours / theirs, 0.02)
    ours, theirs = lag_draws()
    row("1,000,000 lag draws", "drawing the random numbers alone", ms(ours), ms(theirs), ours / theirs, 2)
    ours, theirs = diffusion(best_of_both)
    row(
        "error diffusion to 16 greys by light, 1404 x 1872",
        "Pillow to two tones",
        ms(ours),
        ms(theirs),
        ours / theirs,
        1.5,
    )
    took, read = four_proofs()
    row(f"four proofs of an A4 page ({ms(read)} with readings)", "400 ms", ms(took), "400.0 ms", took / 400, 1)
    took, lasts = in_time()
    row(
        f"{lasts:.0f} s of a page in time, 60 pictures a second",
        "10x real time",
        ms(1000 * took),
        ms(100 * lasts),
        10 * took / lasts,
        1,
    )
    took = cut()
    row("exact cut of a stroke of 500 reports", "5 ms", ms(took), "5.0 ms", took / 5, 1)
    took, count = lined_up()
    words = f"line-up: 20 pens, 2 hands, 2 devices, {count} points each"
    row(words, "20 s", f"{took:.1f} s", "20.0 s", took / 20, 1)
    took = next_choice_ms()
    row("the next two to choose between after 15 answers", "300 ms", ms(took), "300.0 ms", took / 300, 1)
    found, read, count = finding_ms()
    row(f"finding among {count:,} kept things", "50 ms", ms(found), ms(read), found / 50, 1)
    with served() as server:

        def restart() -> str:
            server.kill()
            return server.start().url

        full = full_sheet(server.url, restart, page_of_strokes(5000))
    full |= hands_on()
    for what, (words, goal_ms) in FULL.items():
        limit = f"{goal_ms:.3g} ms"
        row(f"a sheet of 5,000 strokes: {words}", limit, ms(full[what]), ms(goal_ms), full[what] / goal_ms, 1)
    with served() as server, browser() as driver:
        took = small_request(server.url)
        row("a small request on a kept connection", "10 ms", ms(took), "10.0 ms", took / 10, 1)
        p95 = preview(driver, server.url)
        row(
            "re-ink preview, 3,000 points, 1200x360 at 2x, p95",
            "frames of a 60 Hz screen",
            ms(p95),
            ms(FRAME_MS),
            p95 / FRAME_MS,
            2,
        )
        got = live(driver)
    lived_on = sheets_measured()
    for what, (words, goal) in SHEETS.items():
        row(words, f"{goal:g}", f"{lived_on[what]:.0f}", f"{goal:g}", lived_on[what] / goal, 1)
    others = watched()
    for what, (words, goal_ms) in OTHERS.items():
        row(words, f"{goal_ms:g} ms", ms(others[what]), ms(goal_ms), others[what] / goal_ms, 1)
    row(
        f"live ink with look-ahead, {got['samples']:.0f} reports in 10 s: handler p95",
        "1 ms",
        f"{got['handler_p95_ms']:.3f} ms",
        "1.0 ms",
        got["handler_p95_ms"],
        1,
    )
    row("live ink: longest task from ink", "50 ms", ms(got["longest_ms"]), "50.0 ms", got["longest_ms"] / 50, 1)


if __name__ == "__main__":
    main()
