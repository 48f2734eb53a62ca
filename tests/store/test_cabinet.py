"""Everything kept as things: what is found is what there is, however it came, changed or went."""

import datetime
import json
import unittest
from unittest import mock

from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Device
from gray_quill.core.errors import Conflict, InputError, NotFound, RecordError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.ink.underlay import Print
from gray_quill.core.lineup.pairs import Pairs, PenJudged
from gray_quill.core.palm.rules import Rules
from gray_quill.core.paper import Paper
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import record_json
from gray_quill.store.cabinet.emptying import empty_bin, what_would_go
from gray_quill.store.cabinet.finding import Wanted, find, get_kept
from gray_quill.store.cabinet.item_operations import bin_thing, copy_thing, note_thing, rename_thing
from gray_quill.store.cabinet.uses import uses_of
from gray_quill.store.database import transaction
from gray_quill.store.fits import keep_fit
from gray_quill.store.items import add_thing, get_thing, list_things
from gray_quill.store.judged import begin_judging
from gray_quill.store.originals import Original, add_original, set_prints
from gray_quill.store.pages import add_page, copy_page
from gray_quill.store.palm_settings import keep_setting
from gray_quill.store.pens import add_pen, add_revision, get_pen, list_pens
from gray_quill.store.schema import empty
from gray_quill.store.settings import set_settings
from gray_quill.store.sheets import Sheet, add_sheet, change_sheet, list_sheets, pages_of
from gray_quill.store.strokes import Stroke, add_strokes, bin_strokes, list_strokes
from gray_quill.store.trials import Trial, keep_trial, list_trials
from tests.store.test_store import StoreCase
from tests.zoo import wave

FEN = SHIPPED_PENS["fen-fountain"]


class Cabinet(StoreCase):
    def setUp(self) -> None:
        super().setUp()
        add_thing(self.db, "hand", Hand("Own hand", "right"))
        add_thing(self.db, "tablet", SHIPPED_DEVICES["tablet-11"])
        change_sheet(self.db, "s", hand_id="hand", device_id="tablet")

    def names(self, words: str = "", **more: object) -> list[str]:
        return [t.name for t in find(self.db, Wanted(words, **more)).things]  # type: ignore[arg-type]

    def kept_and_listed(self) -> None:
        """What the triggers keep is what looking through everything would find; so are its words."""
        listed = {tuple(r) for r in self.db.execute("SELECT kind, id, name, words, binned_at FROM things")}
        there = {
            (r[0], r[1], r[2] or r[1], r[3] or "", r[4])
            for r in self.db.execute("SELECT kind, id, name, words, binned_at FROM kept_things")
        }
        self.assertEqual(listed, there)
        self.db.execute("INSERT INTO things_said (things_said, rank) VALUES ('integrity-check', 1)")

    def test_whatever_comes_changes_or_goes_is_found_as_it_is(self) -> None:
        db = self.db
        self.kept_and_listed()
        add_revision(db, "fen", FEN, "for the wetland count")
        self.assertEqual(self.names("wetl cou"), [FEN.name], "each word may be begun; notes of revisions count")
        add_thing(db, "h2", Hand("Ferry hand", "left"))
        add_thing(db, "d2", Device("Ferry slate"))
        self.assertEqual(sorted(self.names("ferry")), ["Ferry hand", "Ferry slate"])
        keep_fit(db, "h2", "d2", Press())
        keep_setting(db, "h2", "d2", Rules(), None)
        self.assertEqual(
            {t.kind for t in find(db, Wanted("ferry")).things}, {"hand", "device", "press fit", "palm rules"}
        )
        add_thing(db, "h2", Hand("Quay hand", "left"))
        self.assertEqual(len(self.names("quay")), 3, "what is named by it is named anew")
        self.kept_and_listed()
        page = add_page(db, "s", "s2")
        change_sheet(db, page.id, bookmark="owlet moths")
        self.assertEqual([t.id for t in find(db, Wanted("owlet")).things], ["s"], "a sheet by a bookmark of any page")
        add_original(db, Original("pic", "png", "Reed bed.png", [(10, 10)]), b"x")
        keep_trial(db, Trial("lineup", "h2", "d2", {"name": "Which for the boat"}, {}, "the first"))
        set_settings(db, {"papers": [{"name": "Tide table", "paper": record_json(Paper())}]})
        set_settings(db, {"palette": [{"name": "Madder", "colour": "#aa0000"}]})
        for words, kind in (("reed bed", "picture"), ("boat", "line-up"), ("tide", "paper"), ("madd", "palette")):
            self.assertEqual([t.kind for t in find(db, Wanted(words)).things], [kind], words)
        set_settings(db, {"papers": []})
        self.assertEqual(self.names("tide"), [])
        self.kept_and_listed()
        with transaction(db):
            empty(db)
        self.assertEqual((self.names(), db.execute("SELECT count(*) FROM things_said").fetchone()[0]), ([], 0))

    def test_kind_days_and_use_narrow_what_is_found(self) -> None:
        add_pen(self.db, "idle", SHIPPED_PENS["heron-brush"])
        add_strokes(self.db, "s", [Stroke("k", "fen", 1, wave(0.2))])
        found = find(self.db, Wanted(kind="pen"))
        self.assertEqual((found.count, found.by_kind["sheet"]), (len(list_pens(self.db)), 1), "counts say what else")
        self.assertEqual(self.names(kind="pen", use="used"), [FEN.name])
        self.assertEqual(self.names(kind="pen", use="unused"), ["Heron brush 0.7"])
        self.db.execute("UPDATE pens SET created_at = '2020-05-05T10:00:00' WHERE id = 'idle'")
        self.db.execute("UPDATE pens SET binned_at = NULL WHERE id = 'idle'")  # looked at again
        day = "2020-05-05"
        self.assertEqual(self.names(since=day, until=day), ["Heron brush 0.7"])
        self.assertEqual(self.names(until="2020-05-04", since="2000-01-01"), [])
        for odd in ('"', "_", "a" * 150, "NEAR(", "name:x OR", "*", "ﬁsh 🦋"):
            try:
                self.assertEqual(self.names(odd), [], odd)
            except InputError as error:
                self.assertIn("words", error.message)
        self.assertRaises(RecordError, find, self.db, Wanted(kind="spoon"))
        self.assertRaises(NotFound, get_kept, self.db, "pen", "none")

    def test_a_copy_is_changed_on_its_own(self) -> None:
        db = self.db
        add_strokes(db, "s", [Stroke("k", "fen", 1, wave(0.2))])
        copy_page(db, "s", "s2")
        change_sheet(db, "s2", bookmark="second")
        copied = copy_thing(db, "sheet", "s", "copy")
        self.assertEqual(
            [(p.bookmark, p.strokes, p.sheaf) for p in pages_of(db, "copy")], [("", 1, "copy"), ("second", 1, "copy")]
        )
        self.assertTrue(copied.name.endswith(" copy"))
        bin_strokes(db, "copy", [s.id for s in list_strokes(db, "copy")], True)
        self.assertEqual([p.strokes for p in pages_of(db, "s")], [1, 1])
        for kind, thing in (("pen", "fen"), ("hand", "hand"), ("device", "tablet")):
            made = copy_thing(db, kind, thing, f"{kind}-copy")
            self.assertEqual(rename_thing(db, kind, made.id, "Otherwise").name, "Otherwise")
            self.assertNotEqual(get_kept(db, kind, thing).name, "Otherwise")
        self.assertEqual(get_pen(db, "pen-copy").revision, 2, "a name is part of a pen's history")
        set_settings(db, {"palette": [{"name": "Madder", "colour": "#aa0000"}]})
        self.assertRaises(Conflict, copy_thing, db, "palette", "own", "x")
        self.assertRaises(InputError, rename_thing, db, "hand", "hand", "x" * 500)
        self.assertEqual(note_thing(db, "pen", "fen", "for zebras").note, "for zebras")
        self.assertEqual(self.names("zebra"), [FEN.name])
        self.assertEqual(note_thing(db, "sheet", "s", "of the quay").note, "of the quay")
        self.assertEqual(pages_of(db, "s")[0].note, "of the quay", "as its list shows it")
        self.kept_and_listed()

    def test_things_of_one_moment_stand_in_the_order_they_were_kept(self) -> None:
        """A quick machine keeps several in one tick of the clock: no list may depend on how many."""
        db = self.db
        tick = datetime.datetime(2030, 1, 1, tzinfo=datetime.UTC)
        with mock.patch("gray_quill.store.database.datetime.datetime") as clock:
            clock.now.return_value = tick
            for device_id, device in SHIPPED_DEVICES.items():
                add_thing(db, device_id, device)
            for pen_id, recipe in SHIPPED_PENS.items():
                add_pen(db, pen_id, recipe)
            for sheet_id in ("b", "c", "a"):
                add_sheet(db, Sheet(sheet_id, sheet_id, "free", Paper(), "hand", "tablet", "fen", "", False))
            for run_id in ("2", "3", "1"):
                keep_trial(db, Trial("lag", "hand", "tablet", {}, {}, "quirks", id=run_id))
        self.assertNotEqual(sorted(SHIPPED_DEVICES), list(SHIPPED_DEVICES), "they tell nothing")
        self.assertEqual([i for i in list_things(db, Device) if i in SHIPPED_DEVICES], list(SHIPPED_DEVICES))
        self.assertEqual([p.id for p in list_pens(db) if p.id in SHIPPED_PENS], list(SHIPPED_PENS))
        self.assertEqual([s.id for s in list_sheets(db)][:3], ["a", "c", "b"])
        self.assertEqual([t.id for t in list_trials(db, "lag")], ["1", "3", "2"])
        found = [t.id for t in find(db, Wanted(kind="device")).things]
        self.assertEqual([i for i in found if i in SHIPPED_DEVICES], list(reversed(SHIPPED_DEVICES)))

    def test_uses_are_told_one_by_one(self) -> None:
        db = self.db
        add_strokes(db, "s", [Stroke("k", "fen", 1, wave(0.2)), Stroke("k2", "fen", 1, wave(0.2))])
        copy_thing(db, "sheet", "s", "copy")
        begin_judging(db, ("hand", "tablet"), Pairs("me", [PenJudged("fen", 1), PenJudged("fen", 1)], "s", 1, []))
        add_original(db, Original("pic", "png", "Reed bed", [(10, 10)]), b"x")
        set_prints(db, "copy", [Print("p", "pic", 1, 0, 0, 20, 20)])
        told = {(u.kind, u.words) for u in uses_of(db, "pen", "fen")}
        self.assertLessEqual({("sheet", "2 strokes"), ("blind pairs", "measured with it")}, told)
        self.assertIn(("sheet", "copy"), {(u.kind, u.id) for u in uses_of(db, "sheet", "s")}, "it shows ink of it")
        self.assertEqual([u.id for u in uses_of(db, "picture", "pic")], ["copy"])
        self.assertIn("blind pairs", {u.kind for u in uses_of(db, "hand", "hand")})
        self.assertIn("blind pairs", {u.kind for u in uses_of(db, "sheet", "s")})

    def test_emptying_leaves_what_is_still_needed_and_says_by_what(self) -> None:
        db = self.db
        add_strokes(db, "s", [Stroke("k", "fen", 1, wave(0.2))])
        copy_thing(db, "sheet", "s", "copy")
        add_pen(db, "idle", SHIPPED_PENS["heron-brush"])
        add_thing(db, "h2", Hand("Ferry hand", "left"))
        keep_fit(db, "h2", "tablet", Press())
        set_settings(db, {"rolls": [{"name": "notes", "pen_ids": ["idle", "fen"]}]})
        for kind, thing in (("sheet", "s"), ("pen", "idle"), ("pen", "fen"), ("hand", "h2")):
            bin_thing(db, kind, thing, True)
        would = what_would_go(db)
        self.assertEqual({t.id for t in would.go}, {"idle", "h2"})
        self.assertEqual(
            {s.thing.id: {u.id for u in s.needed_by} for s in would.stay}, {"s": {"copy"}, "fen": {"copy", "s"}}
        )
        self.assertEqual([u.kind for u in would.with_them], ["press fit"])
        self.assertEqual(what_would_go(db), would, "looking changes nothing")
        bin_thing(db, "sheet", "copy", True)
        self.assertEqual(
            {t.id for t in what_would_go(db).go}, {"idle", "h2", "s", "copy", "fen"}, "all that hung on it"
        )
        bin_thing(db, "sheet", "copy", False)
        strokes = [s.id for s in list_strokes(db, "copy")]
        self.assertEqual(empty_bin(db), would)
        self.assertEqual([s.id for s in list_strokes(db, "copy")], strokes)
        self.assertRaises(NotFound, get_pen, db, "idle")
        self.assertEqual(db.execute("PRAGMA foreign_key_check").fetchall(), [])
        self.kept_and_listed()
        # ink that was rubbed out can come back, so its pen stays
        bin_strokes(db, "copy", strokes, True)
        (fen,) = [s for s in what_would_go(db).stay if s.thing.id == "fen"]
        self.assertIn("copy", {u.id for u in fen.needed_by})

    def test_a_sheet_that_comes_back_brings_its_hand_and_device(self) -> None:
        bin_thing(self.db, "sheet", "s", True)
        bin_thing(self.db, "hand", "hand", True)
        bin_thing(self.db, "device", "tablet", True)
        self.assertNotIn("hand", list_things(self.db, Hand))
        bin_thing(self.db, "sheet", "s", False)
        self.assertIn("hand", list_things(self.db, Hand))
        self.assertIn("tablet", list_things(self.db, Device))
        self.kept_and_listed()

    def test_what_undo_can_bring_back_stays(self) -> None:
        add_original(self.db, Original("pic", "png", "Reed bed", [(10, 10)]), b"x")
        bin_thing(self.db, "picture", "pic", True)
        self.assertEqual([t.id for t in what_would_go(self.db).go], ["pic"])
        steps = json.dumps({"past": [{"prints": [{"file": "pic"}]}], "future": []})
        self.db.execute("INSERT INTO steps (sheet_id, steps, count) VALUES ('s', ?, 1)", (steps,))
        (stays,) = what_would_go(self.db).stay
        self.assertEqual([(u.id, u.words) for u in stays.needed_by], [("s", "undo can lay it there again")])

    def test_what_the_desk_holds_is_not_binned(self) -> None:
        self.assertRaises(Conflict, bin_thing, self.db, "hand", "hand", True)
        self.assertRaises(Conflict, bin_thing, self.db, "device", "tablet", True)
        keep_fit(self.db, "hand", "tablet", Press())
        self.assertRaises(Conflict, bin_thing, self.db, "press fit", "hand~tablet", True)
        self.assertEqual(get_thing(self.db, Device, "tablet"), SHIPPED_DEVICES["tablet-11"])


class Thousands(StoreCase):
    """Five thousand things: what a search looks through grows with what is found, not with what there is."""

    def test_a_search_goes_by_its_index_and_finds_the_few(self) -> None:
        db = self.db
        db.execute("BEGIN")
        for k in range(5000):
            row = (f"h{k}", json.dumps({"name": f"hand {k} of fen {k % 50}"}), f"2026-01-{k % 28 + 1:02}")
            db.execute("INSERT INTO hands (id, record, created_at) VALUES (?, ?, ?)", row)
        db.execute("COMMIT")
        found = find(db, Wanted("hand 4321"))
        self.assertEqual([t.id for t in found.things], ["h4321"])
        self.assertEqual(find(db, Wanted("fen"), first=4990).count, 5001, "and the pen")
        plan = " ".join(
            row["detail"]
            for row in db.execute(
                "EXPLAIN QUERY PLAN SELECT t.id FROM things_said JOIN things t ON t.place = things_said.rowid "
                "WHERE things_said MATCH 'x'"
            )
        )
        self.assertNotIn("SCAN t ", plan)
        self.assertIn("VIRTUAL TABLE INDEX", plan)


if __name__ == "__main__":
    unittest.main()
