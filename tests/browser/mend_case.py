"""A sheet to be mended with the pen: what tests of rubbing and choosing share."""

import itertools

import numpy as np

from gray_quill.store.database import connect
from gray_quill.store.trace_blob import unpack_trace
from tests.browser.desk import DeskCase, until_true

STRIP = [("reed-ballpoint", 30), ("reed-ballpoint", 55), ("dusk-wash", 30)]


class MendCase(DeskCase):
    """Two lines and a wash on a blank sheet, mended on the screen."""

    number = itertools.count(1)

    def setUp(self) -> None:
        super().setUp()
        desk, number = self.desk, next(self.number)
        self.sheet, self.lines = f"mend-{number}", [f"line-{number}-{n}" for n in range(3)]
        self.db = connect(desk.server.folder)
        self.addCleanup(self.db.close)
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "reed-ballpoint"}
        desk.ask("sheets", {"id": self.sheet, "name": "Mend", "paper": "blank A6", **like})
        strokes = [
            {
                "id": self.lines[k],
                "pen_id": pen,
                "revision": 1,
                "t_ms": [0, 300, 600],
                "x_mm": [20, 50, 80],
                "y_mm": [y] * 3,
            }
            for k, (pen, y) in enumerate(STRIP)
        ]
        desk.ask(f"sheets/{self.sheet}/strokes", {"strokes": strokes})
        desk.ask("desk", {"sheet_id": self.sheet}, "PATCH")
        desk.open(rests=False)
        desk.js("for (const k of Object.keys(localStorage)) if (/eraser|write/.test(k)) localStorage.removeItem(k)")
        desk.open()

    def there(self) -> list[str]:
        row = "SELECT id FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place"
        return [r[0] for r in self.db.execute(row, (self.sheet,))]

    def at(self, x_mm: float, y_mm: float) -> tuple[float, float]:
        left, top, wide = self.desk.js(
            "const r = document.querySelector('[data-layer=live]').getBoundingClientRect(); return [r.x, r.y, r.width]"
        )
        return left + x_mm * wide / 105, top + y_mm * wide / 105

    def go(self, *places: tuple[float, float]) -> None:
        """A pen's way through places of the page, mm."""
        ends = [self.at(*p) for p in places]
        way = [
            (a[0] + (b[0] - a[0]) * k / 8, a[1] + (b[1] - a[1]) * k / 8, 0.5)
            for a, b in itertools.pairwise(ends)
            for k in range(9)
        ]
        self.desk.write(way)

    def dark(self, x_mm: float, y_mm: float, reach_mm: float = 1.5) -> int:
        """Dark pixels of the page around a place."""
        scale = self.desk.js("return document.querySelector('[data-layer=page]').width") / 105
        side = 2 * reach_mm * scale
        return self.desk.inked("page", ((x_mm - reach_mm) * scale, (y_mm - reach_mm) * scale, side, side))

    def newest(self, before: list[str]) -> np.ndarray:
        """The way of the one stroke that was not there before, mm."""
        until_true(lambda: len(self.there()) == len(before) + 1, "the stroke")
        fresh = next(i for i in self.there() if i not in before)
        blob = self.db.execute("SELECT trace FROM strokes WHERE id = ?", (fresh,)).fetchone()[0]
        return unpack_trace(blob).xy_mm
