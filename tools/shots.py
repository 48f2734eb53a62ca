"""Renews docs/screenshots/ from the demo data, each picture from a fresh desk, taken when its screen is ready. Run as
`make shots`, or `tools/shots.py OUT NAME ...` for some into another folder.
"""

import argparse
import dataclasses
import math
import pathlib
import sys

sys.path.insert(0, str(pathlib.Path(__file__).parents[1]))
from tests.browser.desk import Desk, at_desk

OUT = pathlib.Path(__file__).parents[1] / "docs" / "screenshots"
LOADED = "[...document.querySelectorAll('img')].every((i) => i.complete) && !document.querySelector('.stale')"
SEEN = "localStorage.setItem('gray-quill-pen-seen', 'true')"


@dataclasses.dataclass(frozen=True)
class Shot:
    """`pen` where it is not the sheet's own; `tabs` are pressed before it is taken, `ready` is waited for; without a
    `sheet` the desk is empty. The pen does what `verb` says along `way`, px from the page's corner. aims: the pen is
    put down on nine crosses at three leans, and its ink lies beside; widths_mm: the pen is kept at each, one revision
    after the other; mirrored: as those see it who look on.
    """

    name: str
    station: str
    sheet: str = "trap-log"
    pen: str = ""
    surface: str = "paper"
    size: tuple[int, int] = (1280, 800)
    tabs: tuple[str, ...] = ()
    ready: str = LOADED
    verb: str = ""
    way: tuple[tuple[float, float], ...] = ()
    aims: bool = False
    widths_mm: tuple[float, ...] = ()
    mirrored: bool = False


PORTRAIT = (800, 1280)
LEANS = ((20, 10), (-4, 2), (-25, -18))  # tilt of the pen, degrees
OFF_PX = (2.2, -1.3)
MIRRORED = "document.querySelector('[data-layer=mirror-page]')?.width > 300"
SHOTS = (
    Shot("sheet", "sheet"),
    Shot("sheet-left-hand", "sheet", "dusk-to-dawn"),
    Shot("sheet-portrait", "sheet", size=PORTRAIT),
    Shot(
        "sheet-choose",
        "sheet",
        ready="document.querySelector('[data-chosen]')",
        verb="choose",
        way=tuple((90 + 6 * k, 437) for k in range(42)),
    ),
    Shot("sheet-survey", "sheet", "count-by-trap-typed"),
    Shot("pen", "pen"),
    Shot("pen-tooth", "pen", pen="moth-pencil-2b", tabs=("tooth",), ready="document.querySelector('[data-text]')"),
    Shot("pen-e-ink", "pen", surface="e-ink"),
    Shot("this-screen", "this-screen", tabs=("aim",), ready="document.querySelector('[data-aim]')", aims=True),
    Shot("mirror", "sheet", ready=MIRRORED, mirrored=True),
    Shot("wash", "wash", pen="fen-fountain"),
    Shot("line-up", "line-up", tabs=("Measure",), ready="document.querySelectorAll('ol .row').length === 5"),
    Shot(
        "line-up-pairs",
        "line-up",
        tabs=("blind pairs", "Judge 5 pens blind"),
        ready="document.querySelectorAll('.pair img').length === 2",
    ),
    Shot(
        "cabinet",
        "cabinet",
        pen="sedge-nib",
        widths_mm=(1.5, 1.9),
        tabs=("pens", "Sedge flat nib 1.1"),
        ready="document.querySelectorAll('ol.line img').length === 3",
    ),
    Shot("lag", "lag"),
    Shot("palm", "palm", ready="document.querySelector('[data-map]')"),
    Shot("panels", "panels"),
    Shot(
        "panels-in-time",
        "panels",
        tabs=("in time", "waits"),
        ready="document.querySelectorAll('.card-in-time:not(.waits) dl').length === 2",
    ),
    Shot(
        "first-minute", "", "", tabs=("left hand, hooked", "neat notes"), ready="document.querySelector('.first .tile')"
    ),
)


def take(desk: Desk, shot: Shot, out: pathlib.Path) -> None:
    for width_mm in shot.widths_mm:
        recipe = next(p["recipe"] for p in desk.ask("desk")["pens"] if p["id"] == shot.pen)
        wider = {**recipe, "body": {**recipe["body"], "width_mm": width_mm}}
        desk.ask(f"pens/{shot.pen}/revisions", {"recipe": wider, "note": "a little wider"}, "POST")
    if shot.pen:
        desk.ask(f"sheets/{shot.sheet}", {"pen_id": shot.pen}, "PATCH")
    if shot.sheet:
        desk.ask("desk", {"sheet_id": shot.sheet, "surface": shot.surface}, "PATCH")
        desk.open(rests=False)
    else:
        desk.driver.get(desk.url)
        desk.wait(shot.ready, shot.name)
    desk.js(SEEN)
    if shot.sheet:
        desk.open(shot.station)
    for words in shot.tabs:
        if shot.sheet and shot.station not in ("line-up", "cabinet"):
            desk.turn_to(words)
        else:
            desk.press(words, ".main" if shot.station == "cabinet" else "body")
        desk.rests()
    if shot.verb:
        desk.press(shot.verb, ".verbs")
        desk.rests()
        left, top = desk.corner("[data-layer=live]")
        desk.write([(left + x, top + y, 0.5) for x, y in shot.way])
        desk.rests()
    if shot.aims:
        put_down_on_crosses(desk)
    if shot.mirrored:
        desk.driver.get(desk.ask("stage", {"sheet_id": shot.sheet, "whole": True}, "POST")["link"])
    desk.wait(shot.ready, shot.name)
    desk.wait(LOADED, shot.name)
    desk.rests()
    desk.driver.save_screenshot(str(out / f"{shot.name}.png"))
    for entry in desk.driver.get_log("browser"):
        print(shot.name, entry["level"], entry["message"])


def put_down_on_crosses(desk: Desk) -> None:
    left, top = desk.corner("[data-check]")
    wide, high = desk.js("const c = document.querySelector('[data-check]'); return [c.clientWidth, c.clientHeight]")
    for k, tilt in enumerate(LEANS):
        for v in (0.12, 0.5, 0.88):
            for u in (0.12, 0.5, 0.88):
                x = left + u * wide + OFF_PX[0] + math.sin(7 * u + k) / 2
                y = top + v * high + OFF_PX[1] + math.cos(5 * v + k) / 2
                for kind in ("mousePressed", "mouseMoved", "mouseReleased"):
                    desk.pen(kind, x, y, 0.5, tilt)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("out", nargs="?", type=pathlib.Path, default=OUT, help="the folder they go to")
    parser.add_argument("names", nargs="*", help="which of them", metavar="NAME")
    asked = parser.parse_args()
    if unknown := set(asked.names) - {shot.name for shot in SHOTS}:
        parser.error(f"there is no picture {sorted(unknown)[0]!r}")
    asked.out.mkdir(parents=True, exist_ok=True)
    for shot in SHOTS:
        if not asked.names or shot.name in asked.names:
            with at_desk(bool(shot.sheet), *shot.size) as desk:
                take(desk, shot, asked.out)


if __name__ == "__main__":
    main()
