"""J12 on the screen: a typed survey comes in and is marked up, pages are added, ordered, read, and all goes out."""

import io
import zipfile

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.demo.survey_pdf import survey_pdf
from gray_quill.store.database import connect
from gray_quill.store.strokes import list_strokes
from tests.browser.desk import DeskCase, until_true
from tests.web.test_underlay import linked_document

H1 = "document.querySelector('h1').textContent"
PAGES = "[...document.querySelectorAll('.pages[aria-label=Pages] img')].map(i => i.src.split('/')[5])"
REPLAYED = "document.querySelector('[data-layer=replay]')"
# dark pixels of a layer's upper 400 rows
DARK = (
    "(c => c.getContext('2d').getImageData(0, 0, c.width, 400).data.filter((v, k) => k % 4 === 1 && v < 120).length)"
    "(document.querySelector('[data-layer={}]'))"
)


class Pages(DeskCase):
    def test_j12_a_survey_is_marked_up_read_and_taken_out(self) -> None:
        self.a_typed_survey_comes_in()
        self.it_is_marked_up_and_the_wash_is_read()
        self.a_picture_is_laid_faded_and_moved_with_the_pen()
        self.pages_are_added_ordered_and_binned()
        self.they_are_read_without_a_mark()
        self.the_page_comes_about_again()
        self.all_of_it_goes_out()
        trouble = [told["message"] for told in self.desk.trouble() if "status of 400" not in told["message"]]
        self.assertEqual(trouble, [], "the console holds what was refused, and nothing else")

    def test_links_say_where_they_lead_and_the_outline_turns_pages(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        self.sentence("sheet")
        desk.bring("Ink, PDF, a picture or an archive", "Linked.pdf", linked_document())
        desk.wait(f"{H1}.startsWith('Linked')", "the document as a sheet", 60)
        self.sentence("pages")
        desk.press("fen.example", ".links")
        desk.says("It leads out of Gray Quill, to https://fen.example/night", ".choices")
        link = desk.js("const a = document.querySelector('.leads a'); return [a.href, a.target, a.rel]")
        self.assertEqual(link, ["https://fen.example/night", "_blank", "noopener noreferrer"])
        self.assertEqual(len(desk.driver.window_handles), 1, "nothing is opened by that")
        desk.press("to page 2", ".links")
        desk.wait(f"{H1}.includes('page 2')", "the page the link leads to")
        self.sentence("pages")
        desk.press("Traps", ".outline")
        desk.wait(f"{H1}.includes('page 1')", "the page of the outline's line")

    def test_an_endless_page_grows_under_the_pen_is_covered_read_beside_another_and_cut(self) -> None:
        desk = self.desk
        desk.open()
        desk.rests()
        self.sentence("paper")
        desk.press("Size, spacing and colour", ".choices")
        desk.wait("document.querySelector('.form [aria-label=Endless]')", "the switch")
        desk.js("document.querySelector('.form [aria-label=Endless]').click()")
        until_true(lambda: self.sheet()["paper"]["endless"], "endless paper")
        desk.escape()
        height = self.sheet()["paper"]["height_mm"]
        desk.driver.get(desk.url + "/sheet")
        desk.rests()
        # the foot of the page, by the wheel; a line there makes room below it
        desk.js("document.querySelector('.scroll').scrollTo(0, 1e6)")
        desk.rests()
        x, y = desk.middle(".scroll")
        desk.drag((x - 100, y + 60), (x + 120, y + 70))
        desk.all_kept()
        until_true(lambda: self.sheet()["paper"]["height_mm"] >= height + 60, "room below the line")
        tall = "document.querySelector('.page').getBoundingClientRect().height"
        scale = desk.js("return document.querySelector('.page').getBoundingClientRect().width") / 148
        until_true(lambda: desk.js(f"return {tall}") > (height + 55) * scale, "the longer page on the screen")
        desk.says("endless", "header")
        # what was written is covered, lifted by a press, rubbed away, and comes back by undo
        desk.press("choose", ".verbs")
        desk.drag((x - 10, y + 40), (x - 5, y + 95))
        desk.press("Cover it", ".margin")
        until_true(lambda: len(self.sheet()["covers"]) == 1, "a cover")
        desk.wait("document.querySelector('.cover button')?.ariaPressed === 'false'", "the cover on the page")
        desk.js("document.querySelector('.cover button').click()")
        desk.wait("document.querySelector('.cover.lifted')", "the cover lifted")
        desk.press("Take covers away", ".margin")
        until_true(lambda: not self.sheet()["covers"], "no cover")
        desk.press("Undo", ".margin")
        until_true(lambda: len(self.sheet()["covers"]) == 1, "the cover again")
        # touched, it is chosen and not the ink under it; a ring takes both, and they go and come back together
        desk.wait("document.querySelector('.cover.lifted button')", "the cover on the page")
        desk.js("document.querySelector('.cover button').click()")
        desk.wait("document.querySelector('.cover:not(.lifted)')", "the cover laid")
        lies = "const r = document.querySelector('.cover').getBoundingClientRect(); "
        left, top, right, bottom = desk.js(lies + "return [r.left, r.top, r.right, r.bottom]")
        desk.drag((left + 20, top + 8), (left + 21, top + 8), 2)
        desk.says("1 cover chosen", ".margin")
        desk.press("Let it go", ".margin")
        ring = [(left - 9, top - 9), (right + 9, top - 9), (right + 9, bottom + 9), (left - 9, bottom + 9)]
        desk.write([(x, y, 0.5) for x, y in [*ring, ring[0]]])
        desk.says("strokes, 1 cover chosen", ".margin")
        was, strokes = self.sheet()["covers"][0], self.sheet()["strokes"]
        middle = ((left + right) / 2, (top + bottom) / 2)
        desk.drag(middle, (middle[0] + 60, middle[1] - 90))
        until_true(lambda: self.sheet()["covers"][0]["top_mm"] < was["top_mm"] - 60 / scale, "the cover carried")
        desk.press("Undo", ".margin")
        until_true(lambda: self.sheet()["covers"] == [was], "the cover back")
        until_true(lambda: self.sheet()["strokes"] == strokes, "its ink back")
        # another sheet beside it, and the other way round
        here = self.sheet()["name"]
        self.sentence("sheet")
        desk.js("document.querySelector('[aria-label=\"Name and note of First count\"]').click()")
        desk.press("Lay it beside", ".choices")
        desk.wait("document.querySelector('.beside img')?.naturalWidth > 200", "the other sheet's picture")
        desk.press("write on this one", ".beside")
        desk.wait(f"{H1}.startsWith('First count')", "the other sheet on the desk")
        desk.says(here, ".beside")
        desk.press("write on this one", ".beside")
        desk.wait(f"{H1}.startsWith('{here}')", "this sheet on the desk again")
        desk.press("put it away", ".beside")
        # cuts are named before the file is made
        desk.press("Take out")
        desk.wait("document.querySelectorAll('.out label.el-checkbox').length === 4", "what can be taken out")
        desk.js("[...document.querySelectorAll('.out label.el-checkbox')].at(-1).click()")
        desk.says("no ink is cut through", ".out")
        desk.press("PDF", ".out")
        desk.says("is in your downloads", ".out", 180)
        document = pypdfium2.PdfDocument(desk.download(f"{here}.pdf"))
        self.assertGreater(len(document), 1)
        self.assertLessEqual(max(page.get_size()[1] for page in document), 210 * 72 / 25.4 + 0.1)
        self.assertEqual(desk.trouble(), [])

    def sheet(self) -> dict:  # type: ignore[type-arg]
        desk = self.desk.ask("desk")
        return dict(next(s for s in desk["sheets"] if s["id"] == desk["sheet_id"]))

    def of_the_picture(self, what: str, nth: int) -> None:
        """Press something of the second print."""
        found = f"document.querySelectorAll('fieldset')[1]?.querySelectorAll('{what}')[{nth}]"
        self.desk.wait(found, what)
        self.desk.js(f"{found}.click()")

    def sentence(self, part: str) -> None:
        """Open a part of the sentence; pages, where there is but one, from the sheets."""
        found = f"document.querySelector('header [data-part={part}]')"
        if part == "pages" and not self.desk.js(f"return {found}"):
            self.sentence("sheet")
            self.desk.press("Pages of this sheet", ".choices")
        else:
            self.desk.js(f"{found}.click()")

    def a_typed_survey_comes_in(self) -> None:
        desk = self.desk
        desk.open()
        self.sentence("sheet")
        desk.bring("Ink, PDF, a picture or an archive", "note.pdf", b"no PDF at all")
        desk.says("neither a PDF", "header")
        desk.bring("Ink, PDF, a picture or an archive", "Survey sheet.pdf", survey_pdf())
        desk.wait(f"{H1}.startsWith('Survey sheet')", "the survey as a sheet", 60)
        desk.rests()
        until_true(lambda: desk.js(f"return {DARK.format('page')}") > 300, "its print on the page")

    def it_is_marked_up_and_the_wash_is_read(self) -> None:
        desk = self.desk
        self.first = self.sheet()["id"]
        desk.ask(f"sheets/{self.first}", {"name": "Survey by night"}, "PATCH")
        desk.wait(f"{H1}.startsWith('Survey by night')", "its name")
        desk.pick("Dusk wash")
        desk.rests()
        x, y = desk.corner("[data-layer=page]")
        wide = desk.js("return document.querySelector('.page').getBoundingClientRect().width") / 148
        desk.drag((x + 15 * wide, y + 23 * wide), (x + 80 * wide, y + 23 * wide))
        desk.all_kept()
        self.sentence("paper")
        desk.says("as printed", ".form", 60)
        desk.says("under it", ".form")

    def a_picture_is_laid_faded_and_moved_with_the_pen(self) -> None:
        desk = self.desk
        out = io.BytesIO()
        Image.new("RGB", (60, 40), "#1030c0").save(out, "PNG")
        desk.bring("Picture or PDF under the ink", "blue.png", out.getvalue())
        until_true(lambda: len(self.sheet()["prints"]) == 2, "the picture on the page")
        self.of_the_picture(".word-button", 4)
        desk.says("Drag the picture", ".margin")
        before = self.sheet()["prints"][1]
        strokes = self.sheet()["strokes"]
        x, y = desk.middle(".scroll")
        desk.drag((x, y), (x + 60, y + 90))
        until_true(lambda: self.sheet()["prints"][1]["top_mm"] > before["top_mm"] + 5, "the picture moved")
        self.assertEqual(self.sheet()["strokes"], strokes, "moving it wrote nothing")
        desk.press("It lies well", ".margin")
        lies = self.sheet()["prints"][1]["top_mm"]
        desk.press("Undo", ".margin")
        until_true(lambda: self.sheet()["prints"][1]["top_mm"] == before["top_mm"], "it where it lay")
        desk.press("Redo", ".margin")
        until_true(lambda: self.sheet()["prints"][1]["top_mm"] == lies, "it moved again")
        self.sentence("paper")
        self.of_the_picture(".el-switch__core", 0)
        until_true(lambda: self.sheet()["prints"][1]["grey"], "it is grey")
        self.of_the_picture(".word-button", 6)
        until_true(lambda: len(self.sheet()["prints"]) == 1, "the picture taken away")
        desk.driver.find_element("css selector", "body").send_keys("\ue00c")

    def pages_are_added_ordered_and_binned(self) -> None:
        desk = self.desk
        self.sentence("pages")
        desk.press("New page", ".choices")
        desk.wait(f"{H1}.includes('page 2 of 2')", "a second page")
        until_true(lambda: self.sheet()["id"] != self.first, "the desk to follow")
        self.second = self.sheet()["id"]
        self.sentence("paper")
        desk.turn_to("Ruling")
        desk.press("ruled", ".grid")
        until_true(lambda: self.sheet()["paper"]["ruling"] == "ruled", "its own paper")
        self.sentence("pages")
        desk.press("Copy this page", ".choices")
        desk.wait(f"{PAGES}.length === 3", "a copy")
        (third,) = set(desk.js(f"return {PAGES}")) - {self.first, self.second}
        desk.js(
            f"const p = document.querySelector('.pages [data-key=\"{self.first}\"]'); p.focus();"
            "p.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight', shiftKey: true, bubbles: true}))"
        )
        desk.wait(f"{PAGES}[1] === '{self.first}'", "the first page moved to the second place")
        desk.press("Move it to the bin", ".choices")
        desk.wait(f"{PAGES}.length === 2", "the copy gone")
        desk.press("1 in the bin", ".choices")
        desk.press("put back", ".choices")
        desk.wait(f"{PAGES}.length === 3", "the copy back")
        told = desk.ask(f"sheets/{self.first}/pages")["pages"]
        self.assertEqual([p["id"] for p in told], [self.second, self.first, third])
        desk.driver.find_element("css selector", "body").send_keys("\ue00c")

    def they_are_read_without_a_mark(self) -> None:
        desk = self.desk
        desk.press("read", ".verbs")
        strokes = [p["strokes"] for p in desk.ask(f"sheets/{self.first}/pages")["pages"]]
        before = desk.wait(f"/page \\d/.exec({H1})?.[0]", "a page")
        x, y = desk.middle(".scroll")
        towards = -1 if before == "page 1" else 1
        desk.drag((x + 100, y), (x + 100 + towards * 240, y))
        desk.wait(f"/page \\d/.exec({H1})?.[0] !== '{before}'", "another page after a swipe")
        desk.rests()
        body = desk.driver.find_element("css selector", ".scroll")
        for _ in range(6):  # a view, and from the end of the page to the next
            body.send_keys("\ue00f")
        desk.wait(f"{H1}.includes('page 3')", "the last page by the pedal's key")
        self.assertEqual([p["strokes"] for p in desk.ask(f"sheets/{self.first}/pages")["pages"]], strokes)
        desk.press("write", ".verbs")

    def the_page_comes_about_again(self) -> None:
        desk = self.desk
        self.sentence("sheet")
        desk.press("Trap log", ".choices")
        desk.wait(f"{H1}.startsWith('Trap log')", "the trap log")
        desk.rests()
        whole = desk.js(f"return {DARK.format('page')}")
        self.sentence("pages")
        desk.press("Replay it", ".choices")
        desk.wait(f"{REPLAYED}?.dataset.at === '0'", "the page before it was written", 60)
        self.assertLess(desk.js(f"return {DARK.format('replay')}"), whole / 20)
        desk.drag_slider("Moment of the replay", 0.1)
        desk.wait(f"+{REPLAYED}.dataset.at > 1000", "a moment of it", 60)
        part = desk.js(f"return {DARK.format('replay')}")
        self.assertTrue(0 < part < whole, (part, whole))
        desk.choose("How fast", "32")
        desk.press("Play", ".bar")
        lasts = desk.js("return Math.floor(document.querySelector('.el-slider [aria-valuemax]').ariaValueMax)")
        desk.wait(f"+{REPLAYED}.dataset.at >= {lasts} - 1", "its end", 180)
        again = desk.js(f"return {DARK.format('replay')}")
        self.assertEqual(again, whole)
        desk.press("back to the page", ".bar")

    def all_of_it_goes_out(self) -> None:
        desk = self.desk
        self.sentence("sheet")
        desk.press("Survey", ".choices")
        desk.wait(f"{H1}.startsWith('Survey')", "the survey")
        desk.rests()
        desk.press("Take out", "nav")
        desk.choose("Which pages", "all 3")
        desk.press("PDF", ".out")
        desk.says("Survey by night.pdf is in your downloads", ".out", 180)
        document = pypdfium2.PdfDocument(desk.download("Survey by night.pdf"))
        texts = [page.get_textpage().get_text_range() for page in document]
        self.assertEqual([("Night survey" in text) for text in texts], [False, True, False])
        desk.choose("Which pages", "some")
        desk.js(
            "const e = document.querySelector('[aria-label^=\"Pages, like\"]'); e.value = '9'; "
            "e.dispatchEvent(new Event('input', {bubbles: true}))"
        )
        desk.press("PDF", ".out")
        desk.says("Name pages from 1 to 3", ".out")
        desk.js(
            "const e = document.querySelector('[aria-label^=\"Pages, like\"]'); e.value = '1-2'; "
            "e.dispatchEvent(new Event('input', {bubbles: true}))"
        )
        desk.choose("Dots an inch of pictures", "at 150")
        desk.press("PNG", ".out")
        desk.says("Survey by night.zip, 2 files", ".out", 180)
        desk.says("Equals what you see", ".out")
        inside = zipfile.ZipFile(io.BytesIO(desk.download("Survey by night.zip")))
        self.assertEqual(inside.namelist(), ["Survey by night, page 1.png", "Survey by night, page 2.png"])
        picture = np.asarray(Image.open(inside.open("Survey by night, page 2.png")).convert("L"))
        self.assertGreater((picture < 100).sum(), 1000)


class SmallWriting(DeskCase):
    def test_what_is_written_large_in_the_strip_lands_small_and_the_strip_moves_on(self) -> None:
        desk = self.desk
        desk.open()
        desk.js("document.querySelector('header [data-part=sheet]').click()")
        desk.press("Pages of this sheet", ".choices")
        desk.press("Small writing on it", ".choices")
        window = "document.querySelector('[data-strip-window]')"
        desk.wait(f"parseFloat({window}?.style.width) < 60", "the strip's window on the page")
        desk.rests()
        left, top, width = (
            float(v) for v in desk.js(f"const s = {window}.style; return [s.left, s.top, s.width].map(parseFloat)")
        )
        before = {s["id"] for s in self.strokes()}
        x, y, wide, high = desk.js(
            "const r = document.querySelector('.scroll').getBoundingClientRect(); return [r.x, r.y, r.width, r.height]"
        )
        desk.write([(x + 0.1 * wide + 4 * k, y + 0.5 * high + (20 if k % 2 else -20), 0.6) for k in range(30)])
        desk.all_kept()
        (small,) = [s for s in self.strokes() if s["id"] not in before]
        span = max(small["x_mm"]) - min(small["x_mm"])
        mm_here = 148 * width / 100 / wide  # of the page, a pixel of the strip
        self.assertAlmostEqual(span, 29 * 4 * mm_here, delta=0.5)
        self.assertLess(span, 16, "half as long on the page as under the hand, or less")
        self.assertEqual(
            float(desk.js(f"return parseFloat({window}.style.left)")), left, "it stays while there is room"
        )
        desk.write([(x + 0.7 * wide + 5 * k, y + 0.5 * high, 0.6) for k in range(30)])
        desk.wait(f"parseFloat({window}.style.left) > {left + 5}", "the window to move on")
        for _ in range(12):  # to the margin, and to the next line; written there, it would move on from its start
            desk.rests(800)
            if desk.js(f"return parseFloat({window}.style.top) > {top + 1}"):
                break
            desk.write([(x + 0.8 * wide + 5 * k, y + 0.5 * high, 0.6) for k in range(25)])
        desk.wait(
            f"parseFloat({window}.style.top) > {top + 1} && parseFloat({window}.style.left) < {left + 1}",
            "the next line",
        )
        desk.press("back to the page", ".bar")
        desk.wait(f"!{window}", "the page")

    def strokes(self) -> list[dict]:  # type: ignore[type-arg]
        db = connect(self.desk.server.folder)
        try:
            return [{"id": s.id, "x_mm": s.trace.x_mm.tolist()} for s in list_strokes(db, "trap-log")]
        finally:
            db.close()


class Sound(DeskCase):
    def test_writing_sounds_while_the_nib_goes_and_not_before_it_is_wished(self) -> None:
        desk = self.desk
        desk.open()
        level = "return document.documentElement.dataset.sounding ?? ''"
        x, y = desk.middle(".scroll")
        way = [(x + 6 * k, y, 0.6) for k in range(20)]
        desk.write(way)
        self.assertEqual(desk.js(level), "", "off until it is wished")
        desk.press("Frame", "nav")
        desk.choose("Writing sounds like", "a pencil")
        desk.driver.find_element("css selector", "body").send_keys("\ue00c")
        desk.hold(way)
        loud = float(
            desk.wait(
                "+document.documentElement.dataset.sounding > 0 && document.documentElement.dataset.sounding", "a sound"
            )
        )
        self.assertLess(loud, 0.5)
        desk.lift(*way[-1][:2])
        desk.wait("document.documentElement.dataset.sounding === '0'", "silence as it lifts")
