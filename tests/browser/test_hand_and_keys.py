"""Buttons of the pen, taps of fingers, keys of one's own, and what the other hand may press while the nib is near."""

from tests.browser.desk import LAYER, DeskCase, until_true

PEN = """
const c = document.querySelector('[data-layer=live]'), [x, y, buttons, steps] = arguments
const say = (type, buttons, dx) => c.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 78,
  pointerType: 'pen', button: type === 'pointermove' ? -1 : 0, buttons, clientX: x + dx, clientY: y,
  pressure: buttons ? 0.5 : 0, isPrimary: true }))
c.setPointerCapture = () => {}
say('pointerdown', buttons, 0); for (let k = 1; k < steps; k++) say('pointermove', buttons, 3 * k)
say('pointerup', 0, 3 * steps); say('pointerleave', 0, 3 * steps)
"""
TOUCH = """
const [selector, size] = arguments, e = document.querySelector(selector), r = e.getBoundingClientRect()
const at = { bubbles: true, cancelable: true, pointerId: 91, pointerType: 'touch', width: size, height: size,
  clientX: r.x + r.width / 2, clientY: r.y + r.height / 2 }
e.dispatchEvent(new PointerEvent('pointerdown', at)); e.dispatchEvent(new PointerEvent('pointerup', at))
e.dispatchEvent(new PointerEvent('click', at))
"""
SWIPE = """
const c = document.querySelector('[data-layer=live]'), [left, top] = arguments
c.setPointerCapture = () => {}
const say = (type, k, x) => c.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 40 + k, width: 14,
  height: 14, pointerType: 'touch', clientX: left + x, clientY: top + 200 * k - 50, isPrimary: k === 1 }))
for (const k of [1, 2]) say('pointerdown', k, 400)
for (const x of [320, 230, 150]) for (const k of [1, 2]) say('pointermove', k, x)
for (const k of [1, 2]) say('pointerup', k, 150)
"""
PRESSED = "document.querySelector('.roll [aria-pressed=true]')?.textContent ?? ''"


class HandAndKeys(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        desk = self.desk
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.sheet = f"deeds-{self._testMethodName[-6:]}".replace("_", "-")
        desk.ask("sheets", {"id": self.sheet, "name": "Deeds", "paper": "blank A5", **of})
        desk.ask("desk", {"sheet_id": self.sheet}, "PATCH")
        desk.open(rests=False)
        desk.js("localStorage.setItem('gray-quill-pen-seen', 'true')")
        desk.open("sheet")
        desk.says("Deeds", "h1")

    def strokes(self) -> int:
        return len(self.desk.ask(f"sheets/{self.sheet}")["stroke_ids"])

    def set(self, trigger: str, action: str) -> None:
        desk = self.desk
        desk.press("Frame")
        desk.choose(trigger, action)
        desk.escape()

    def line(self, y: float) -> tuple[float, float]:
        """A line is written; where it begins."""
        left, top = self.desk.corner("[data-layer=live]")
        self.desk.write([(left + 80 + 6 * k, top + y, 0.5) for k in range(30)])
        self.desk.all_kept()
        self.desk.rests()
        return left + 80, top + y

    def test_a_held_button_rubs_and_taps_undo_once_they_are_set(self) -> None:
        desk = self.desk
        x, y = self.line(100)
        desk.js(PEN, x, y + 30, 3, 20)  # with the barrel button down, while it means nothing
        until_true(lambda: self.strokes() == 2, "a stroke like any other")
        self.set("the barrel button of the pen", "rub out")
        desk.rests()
        desk.js(PEN, x + 60, y, 3, 3)
        until_true(lambda: self.strokes() == 3, "the first line in two pieces")
        desk.rests()
        dark = desk.inked("page")
        two = ((1, x + 200, y + 150, 7.0), (2, x + 400, y + 160, 7.0))
        desk.touches("touchStart", *two)
        desk.touches("touchEnd")
        desk.rests(900)
        self.assertEqual(desk.inked("page"), dark, "a tap of two fingers means nothing yet")
        self.set("a tap of two fingers", "undo")
        desk.rests(1600)  # the lock after the nib is over
        desk.touches("touchStart", *two)
        desk.touches("touchEnd")
        until_true(lambda: self.strokes() == 2, "the rub undone by two fingers")
        self.assertEqual(desk.trouble(), [])

    def test_a_swipe_undoes_once_it_is_set_and_the_page_lies_where_it_lay(self) -> None:
        desk = self.desk
        self.line(100)
        desk.press("closer", ".tools")
        desk.rests()
        left, top = desk.corner("[data-layer=live]")
        place = "const r = document.querySelector('.page').getBoundingClientRect(); return [r.x, r.y]"
        lay = desk.js(place)

        def slowly() -> None:
            fingers = [(k, (left + 400, top + 200 * k - 50), (left + 150, top + 200 * k - 45), 4) for k in (1, 2)]
            desk.slide(*fingers, steps=3)
            desk.touches("touchEnd")

        desk.rests(1600)  # the lock after the nib is over
        slowly()
        until_true(lambda: desk.js(place) != lay, "the page moved, while a swipe means nothing")
        self.assertEqual(self.strokes(), 1)
        desk.press("whole sheet", ".tools")
        desk.press("closer", ".tools")
        desk.press("Frame")
        desk.js("[...document.querySelectorAll('details')].find(d => d.textContent.startsWith('Swipes')).open = true")
        desk.choose("A swipe of two fingers to the left", "undo")
        desk.escape()
        desk.rests()
        lay = desk.js(place)
        desk.js(SWIPE, left, top)  # as quick as it must be, however busy the machine
        until_true(lambda: self.strokes() == 0, "the line taken back")
        until_true(lambda: desk.js(place) == lay, "the page where it lay")

    def test_a_key_of_ones_own_and_one_that_is_taken(self) -> None:
        desk = self.desk
        self.line(100)
        desk.press("Frame")
        desk.js("document.querySelector('.gestures details').open = true")
        for key, words in (("w", "does something already"), ("x", "")):
            desk.js(
                "const i = document.querySelector('[aria-label=\"Key for undo\"]'); i.value = arguments[0];"
                "i.dispatchEvent(new Event('input', { bubbles: true }))",
                key,
            )
            desk.says(words, ".gestures")
        desk.escape()
        desk.js("document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'x', bubbles: true }))")
        until_true(lambda: self.strokes() == 0, "the line undone by the key")

    def test_the_other_hands_fingertip_presses_while_the_nib_is_near_and_a_palm_does_not(self) -> None:
        desk = self.desk
        x, y = desk.middle("[data-layer=live]")
        other = "document.querySelector('.roll').querySelectorAll('button')"
        desk.js(f"[...{other}].find(b => b.textContent.includes('Survey')).id = 'survey'")
        desk.js(f"[...{other}].find(b => b.textContent.includes('Reed')).id = 'reed'")
        desk.pen("mouseMoved", x, y - 200)
        desk.js(TOUCH, "#survey", 180)  # a palm's patch
        desk.js(TOUCH, "header h1 button", 25)  # a fingertip, but on nothing that may be pressed now
        self.assertFalse(desk.js("return !!document.querySelector('.choices')"))
        desk.pen("mouseMoved", x, y - 199)
        desk.js(TOUCH, "#reed", 25)
        desk.says("Reed ballpoint", "h1")
        self.assertTrue(desk.js(f"return !!{LAYER.format('live')}"))
        self.assertNotIn("Survey", desk.text("h1"))
