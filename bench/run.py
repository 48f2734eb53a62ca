"""The speed table: ours against peers, as ratios within one run, and against limits. Run as `make bench` or
`gray-quill bench`.
"""

import pathlib
import sys

sys.path.insert(0, str(pathlib.Path(__file__).parents[1]))
from bench.cabinet import finding_ms
from bench.full_page import FULL, full_sheet, hands_on
from bench.ink import PEN, cut, euro, lag_draws, outlines, page_of_strokes, pens, raster, settling
from bench.lineup import lined_up, next_choice_ms
from bench.others import OTHERS, watched
from bench.pages import FRAME_MS, live, preview, small_request
from bench.panels import diffusion, four_proofs, in_time
from bench.sheets import MEMORY_MB, SHEETS
from bench.sheets import measured as sheets_measured
from bench.table import against, at_most, heading, within
from gray_quill.core.ink.settle import settle_all
from tests.browser.driver import browser, served


def core() -> None:
    inks = settle_all(page_of_strokes(), PEN)
    points = sum(len(ink.x_mm) for ink in inks)
    words = f"raster page, 500 strokes / {points // 1000}k points, A4 at 200 dpi"
    against("aggdraw, ready polygons", words, *raster(inks), 0.35)
    against("shapely buffer, constant width", "outlines of the same strokes, variable width", *outlines(inks), 0.25)
    within(250, "settling 4,000 strokes of 80 reports", settling())
    costs = pens()
    plain = costs["reed-ballpoint"][1]
    for name, (ours, ns) in costs.items():
        against("a pixel of a plain pen", f"200 strokes of {name}, {ours:.0f} ms, a pixel", ns, plain, 5, "ns")
    against("pure-Python reference package", "one-euro over 100k samples", *euro(), 0.02)
    against("drawing the random numbers alone", "1,000,000 lag draws", *lag_draws(), 2)
    against("Pillow to two tones", "error diffusion to 16 greys by light, 1404 x 1872", *diffusion(), 1.5)
    took, read = four_proofs()
    within(400, f"four proofs of an A4 page ({read:.0f} ms with readings)", took)
    took, lasts = in_time()
    within(lasts / 10, f"{lasts:.0f} s of a page in time, 60 pictures a second", took, "s")
    within(5, "exact cut of a stroke of 500 reports", cut())
    took, count = lined_up()
    within(20, f"line-up: 20 pens, 2 hands, 2 devices, {count} points each", took, "s")
    within(300, "the next two to choose between after 15 answers", next_choice_ms())
    found, read, count = finding_ms()
    within(50, f"finding among {count:,} kept things ({read:.0f} ms by reading every row)", found)


def full_page() -> None:
    with served() as server:

        def restart() -> str:
            server.kill()
            return server.start().url

        full = full_sheet(server.url, restart, page_of_strokes(5000))
    full |= hands_on()
    for what, (words, limit_ms) in FULL.items():
        within(limit_ms, f"a sheet of 5,000 strokes: {words}", full[what])


def screens() -> None:
    with served() as server, browser() as driver:
        within(10, "a small request on a kept connection", small_request(server.url))
        within(2 * FRAME_MS, "re-ink preview, 3,000 points, 1200x360 at 2x, p95", preview(driver, server.url))
        got = live(driver)
    within(1, f"live ink with look-ahead, {got['samples']:.0f} reports: handler p95", got["handler_p95_ms"])
    within(50, "live ink: longest task from ink", got["longest_ms"])
    lived_on = sheets_measured()
    for what, (words, limit_ms) in SHEETS.items():
        within(limit_ms, words, lived_on[what])
    at_most(MEMORY_MB, "most memory of the server and its reader in all of it", lived_on["memory"], "MB")
    others = watched()
    for what, (words, limit_ms) in OTHERS.items():
        within(limit_ms, words, others[what])


def main() -> None:
    heading()
    core()
    full_page()
    screens()


if __name__ == "__main__":
    main()
