"""What a hand wrote is never lost: a bad stroke among ten, a full disk, a folder that goes, two windows, a reset. Each
ends with every good stroke on the page and words that are true.
"""

import contextlib
import resource
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree

from gray_quill.demo.build import build_demo
from gray_quill.store.database import FILE, connect
from tests.browser.desk import DeskCase, until_true
from tests.browser.driver import count_timers

# Changes the first strokes that wait in the browser's own database, as a fault of a device or a program would.
SPOIL = """
const done = arguments[arguments.length - 1], changes = arguments[0]
const open = indexedDB.open('gray-quill')
open.onsuccess = () => {
  const all = open.result.transaction('waiting-strokes', 'readwrite')
  const store = all.objectStore('waiting-strokes')
  store.openCursor().onsuccess = (event) => {
    const cursor = event.target.result, change = changes.shift()
    if (!cursor || !change) return
    store.put({ ...cursor.value, stroke: { ...cursor.value.stroke, ...change } }, cursor.key)
    cursor.continue()
  }
  all.oncomplete = () => { open.result.close(); done(true) }
}
"""
FAR = {"x_mm": [10, 12, 10_001], "y_mm": [10, 12, 14], "t_ms": [0, 9, 20], "force": None}


class Trust(DeskCase):
    shared = False

    def setUp(self) -> None:
        super().setUp()
        self.desk.open()

    def strokes(self, sheet: str = "trap-log") -> int:
        with contextlib.closing(connect(self.desk.server.folder)) as db:
            row = db.execute("SELECT count(*) FROM strokes WHERE sheet_id = ? AND binned_at IS NULL", (sheet,))
            return int(row.fetchone()[0])

    def write(self, count: int, row: int = 0) -> None:
        left, top = self.desk.corner("[data-layer=live]")
        for k in range(count):
            at = (left + 60 + 40 * k, top + 40 + 40 * row)
            self.desk.write([(at[0] + 2 * i, at[1] + 3 * i, 0.5) for i in range(8)])

    def written_while_away(self, count: int, *spoil: dict[str, Any]) -> None:
        """Strokes the server never heard of; the first of them spoilt; the page is closed while they wait."""
        self.desk.server.kill()
        self.write(count)
        self.desk.says(f"{count} strokes wait", "header p")
        self.desk.driver.execute_async_script(SPOIL, list(spoil))
        self.desk.driver.get("about:blank")

    def test_bad_strokes_among_ten_keep_no_other_from_being_kept_and_have_places_to_go(self) -> None:
        desk, before = self.desk, self.strokes()
        self.written_while_away(10, FAR, {"pen_id": "ghost-pen"})
        desk.server.start()
        desk.open(rests=False)
        desk.says("goes beyond 10000 mm", ".refused")
        desk.says("2 strokes refused, kept in this browser", "header p")
        self.assertEqual(self.strokes(), before + 8)
        desk.wait("document.querySelectorAll('.marked rect').length == 2", "the marks around refused strokes")
        desk.open()  # a reload neither loses them nor sends them over and over
        desk.says("goes beyond 10000 mm", ".refused")
        desk.press("1 more", ".refused")
        desk.says("'ghost-pen'", ".refused")
        desk.press("Put on this sheet with this pen", ".refused")
        desk.says("1 stroke refused, kept in this browser", "header p")
        self.assertEqual(self.strokes(), before + 9)
        desk.press("Later", ".refused")
        desk.press("Trap log", "h1")  # the desk is as it was
        desk.press("Put down a new sheet")
        desk.press("1 stroke refused", "header p")
        desk.says("not taken", ".refused")
        self.assertFalse(desk.js("return document.querySelector('.refused').textContent.includes('Let it go')"))
        desk.press("Take out as InkML", ".refused")
        self.assertEqual(self.taken_out(), [[10, 10], [12, 12], [10_001, 14]])
        desk.press("Let it go", ".refused")
        desk.all_kept()
        self.assertEqual(self.strokes(), before + 9)

    def taken_out(self) -> list[list[float]]:
        """Positions in the file taken out, which holds a place that no sheet takes."""
        file = ElementTree.fromstring(self.desk.download("Trap log, first night refused.inkml"))
        (trace,) = file.iter("{http://www.w3.org/2003/InkML}trace")
        return [[float(v) for v in point.split()[:2]] for point in (trace.text or "").split(",")]

    def test_a_full_disk_and_a_folder_that_goes_are_said_and_writing_goes_on_meanwhile(self) -> None:
        desk, before = self.desk, self.strokes()
        with self.no_room():
            self.write(4)
            desk.says("the disk is full: writing goes on in this browser, 4 strokes wait", "header p")
            self.assertEqual(self.strokes(), before)
            desk.open(rests=False)  # reading goes on
            desk.wait("document.querySelector('aside .notes')", "readings")
            until_true(lambda: desk.inked("page") > 500, "the page to be shown")
            desk.press("Panels", "nav")
            desk.press("Sheet", "nav")
            desk.wait("document.querySelector('[data-layer=page]')?.width > 300", "the page to be laid out")
        desk.all_kept()
        self.assertEqual(self.strokes(), before + 4)

        self.a_folder_goes_and_comes_back()

    def a_folder_goes_and_comes_back(self) -> None:
        desk, before = self.desk, self.strokes()
        desk.rests()
        folder = desk.server.folder
        aside = folder.with_name(folder.name + "-aside")
        folder.rename(aside)
        self.addCleanup(lambda: aside.exists() and aside.rename(folder))
        self.write(2)
        desk.says("the data folder is gone: writing goes on in this browser, 2 strokes wait", "header p")
        desk.press("closer", ".tools")
        desk.says("The picture of this sheet did not come", ".missing")
        self.assertFalse((folder / FILE).exists(), "nothing was begun anew there")
        aside.rename(folder)
        desk.all_kept()
        self.assertEqual(self.strokes(), before + 2)
        desk.wait("!document.querySelector('.missing')", "the picture to come after all")

    @contextlib.contextmanager
    def no_room(self) -> Iterator[None]:
        """No file of the server's may grow beyond what its database is now: what a full disk does, for it alone."""
        process = self.desk.server.process
        assert process is not None
        kept = resource.prlimit(process.pid, resource.RLIMIT_FSIZE)
        resource.prlimit(process.pid, resource.RLIMIT_FSIZE, (1, kept[1]))
        try:
            yield
        finally:
            resource.prlimit(process.pid, resource.RLIMIT_FSIZE, kept)

    def test_two_windows_merge_what_differs_and_ask_about_what_does_not(self) -> None:
        desk, driver = self.desk, self.desk.driver
        first = driver.current_window_handle
        driver.switch_to.new_window("tab")
        count_timers(driver)
        other = driver.current_window_handle
        self.addCleanup(lambda: (driver.switch_to.window(other), driver.close(), driver.switch_to.window(first)))
        desk.open()
        desk.pick("Reed ballpoint")
        desk.says("Reed ballpoint", "h1")
        self.write(2)
        desk.all_kept()
        driver.switch_to.window(first)
        desk.says("is changed", ".news")  # the window that is come back to looks again, and says what it sees
        desk.says("Reed ballpoint", "h1")
        desk.press("Understood", ".news")
        desk.ask("sheets/trap-log", {"pen_id": "moth-pencil-2b"}, "PATCH")
        desk.pick("Heron brush")
        desk.says("was changed in another window meanwhile", ".trouble")
        self.assertEqual(self.sheet()["pen_id"], "moth-pencil-2b")
        desk.press("Keep mine", ".trouble")
        until_true(lambda: self.sheet()["pen_id"] == "heron-brush", "mine to count")
        self.write(2, row=1)
        desk.all_kept()
        desk.ask("sheets/trap-log", {"pen_id": "heron-brush", "note": "seen"}, "PATCH")
        desk.press("right hand, firm", "h1")
        desk.press("left hand, steep grip", ".choices")
        until_true(lambda: self.sheet()["hand_id"] == "left-steep", "the hand to be changed")
        self.assertEqual(self.sheet()["pen_id"], "heron-brush", "what the other window changed stays")

    def sheet(self) -> dict[str, Any]:
        return next(s for s in self.desk.ask("desk")["sheets"] if s["id"] == "trap-log")

    def test_ink_of_a_sheet_that_a_reset_took_is_offered_a_place(self) -> None:
        desk = self.desk
        desk.press("Trap log", "h1")
        desk.press("Put down", "header")
        desk.says("Sheet", "h1")
        desk.rests()
        self.written_while_away(3)
        build_demo(desk.server.folder, reset=True)
        before = self.strokes()
        desk.server.start()
        desk.open(rests=False)
        desk.says("There is no sheet", ".refused")
        desk.press("Put on “Trap log, first night”", ".refused")
        desk.all_kept()
        until_true(lambda: self.strokes() == before + 3, "the three on the sheet chosen")
