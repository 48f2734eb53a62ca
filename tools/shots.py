"""Renews docs/screenshots/ from the demo data. Run as `make shots`, or `tools/shots.py OUT NAME ...` for some into
another folder.
"""

import pathlib
import sys
import time

sys.path.insert(0, str(pathlib.Path(__file__).parents[1]))
from tests.browser.driver import browser, resize, served, wait_for

OUT = pathlib.Path(__file__).parents[1] / "docs" / "screenshots"
PRESS = (
    "[...document.querySelectorAll('[role=tab], .el-radio-button__inner')].find(b => b.textContent.trim() "
    "=== arguments[0]).click()"
)
# Each picture: name, station, sheet (and /pen, where not the sheet's own), surface, width, height, and the tabs pressed
# before it is taken.
SHOTS = [
    ("sheet", "sheet", "trap-log", "paper", 1280, 800),
    ("sheet-left-hand", "sheet", "dusk-to-dawn", "paper", 1280, 800),
    ("sheet-e-ink", "sheet", "trap-log", "e-ink", 1280, 800),
    ("sheet-portrait", "sheet", "trap-log", "paper", 800, 1280),
    ("test-sheet", "sheet", "test-sheet", "paper", 1280, 800),
    ("pen", "pen", "trap-log", "paper", 1280, 800),
    ("pen-steady", "pen", "trap-log", "paper", 1280, 800, "steady"),
    ("pen-heat", "pen", "trap-log", "paper", 1280, 800, "heat", "body"),
    ("pen-tooth", "pen", "trap-log/moth-pencil-2b", "paper", 1280, 800, "tooth"),
    ("pen-night", "pen", "count-by-trap", "night", 1280, 800),
    ("pen-e-ink", "pen", "trap-log", "e-ink", 1280, 800),
    ("pen-portrait", "pen", "trap-log", "paper", 800, 1280),
    ("wash", "wash", "trap-log/fen-fountain", "paper", 1280, 800),
    ("wash-set", "wash", "trap-log", "paper", 1280, 800, "told apart"),
    ("wash-e-ink", "wash", "dusk-to-dawn", "e-ink", 1280, 800),
    ("lag", "lag", "trap-log/fen-fountain", "paper", 1280, 800),
    ("palm", "palm", "trap-log", "paper", 1280, 800),
    ("panels", "panels", "trap-log", "paper", 1280, 800),
    ("panels-e-ink", "panels", "dusk-to-dawn", "e-ink", 1280, 800),
]


def main() -> None:
    out = pathlib.Path(sys.argv[1]) if len(sys.argv) > 1 else OUT
    wanted = set(sys.argv[2:])
    out.mkdir(parents=True, exist_ok=True)
    with served() as server, browser() as driver:
        for name, station, sheet, surface, width, height, *tabs in SHOTS:
            if wanted and name not in wanted:
                continue
            driver.get(server.url)
            sheet, _, pen = sheet.partition("/")
            if pen:
                driver.execute_async_script(
                    "const done = arguments[arguments.length - 1];"
                    "fetch('/api/sheets/' + arguments[0], {method: 'PATCH', headers: {'Content-Type': "
                    "'application/json'},"
                    " body: JSON.stringify({pen_id: arguments[1]})}).then(done)",
                    sheet,
                    pen,
                )
            driver.execute_async_script(
                "const done = arguments[arguments.length - 1];"
                "fetch('/api/desk', {method: 'PATCH', headers: {'Content-Type': 'application/json'},"
                " body: JSON.stringify({sheet_id: arguments[0], surface: arguments[1]})}).then(done)",
                sheet,
                surface,
            )
            resize(driver, width, height)
            driver.get(f"{server.url}/{station}")
            wait_for(driver, "document.querySelector('.station')", "the station", 30)
            time.sleep(3)
            for tab in tabs:
                driver.execute_script(PRESS, tab)
                time.sleep(2)
            driver.save_screenshot(str(out / f"{name}.png"))
        for entry in driver.get_log("browser"):
            print(entry["level"], entry["message"])


if __name__ == "__main__":
    main()
