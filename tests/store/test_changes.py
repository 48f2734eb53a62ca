"""Changing what is kept: sheets, settings, fits, hands."""

from gray_quill.core.errors import NotFound
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.store.fits import keep_fit, kept_fit
from gray_quill.store.items import add_thing, get_thing, list_things
from gray_quill.store.settings import get_settings, set_settings
from gray_quill.store.sheets import bin_sheet, change_sheet, get_sheet, list_sheets
from tests.store.test_store import StoreCase


class Changes(StoreCase):
    def test_what_is_not_named_stays_as_it_was(self) -> None:
        before = get_sheet(self.db, "s")
        for change in (
            {"name": "Renamed"},
            {"paper": paper_from_spec("ruled 9mm A4")},
        ):
            after = change_sheet(self.db, "s", **change)  # type: ignore[arg-type]
            for field in ("name", "paper", "hand_id", "pen_id"):
                expected = change.get(field, getattr(before, field))
                self.assertEqual(getattr(after, field), expected, f"{field} after {change}")
            before = after
        self.assertEqual([s.name for s in list_sheets(self.db)], ["Renamed"])
        self.assertTrue(bin_sheet(self.db, "s", True).binned)
        self.assertEqual(list_sheets(self.db), [])
        self.assertEqual(get_sheet(self.db, "s").name, "Renamed", "the bin keeps it")
        self.assertFalse(bin_sheet(self.db, "s", False).binned)
        self.assertEqual([s.name for s in list_sheets(self.db)], ["Renamed"])

    def test_settings_are_kept_one_by_one(self) -> None:
        set_settings(self.db, {"surface": "night", "palette": [{"name": "fen", "colour": "#2e5e5a"}]})
        set_settings(self.db, {"surface": "paper"})
        self.assertEqual(get_settings(self.db), {"surface": "paper", "palette": [{"name": "fen", "colour": "#2e5e5a"}]})

    def test_a_fit_belongs_to_its_hand_and_device_and_the_newest_counts(self) -> None:
        self.assertIsNone(kept_fit(self.db, "h", "d"))
        for ceiling in (0.6, 0.7):
            press = Press(0.05, ceiling, ((0.0, 0.0), (0.5, 0.4), (1.0, 1.0)), 4, 1)
            keep_fit(self.db, "h", "d", press)
            self.assertEqual(kept_fit(self.db, "h", "d"), press)

    def test_a_hand_is_replaced_under_its_id_and_unknown_ones_are_named(self) -> None:
        add_thing(self.db, "mine", SHIPPED_HANDS["left-steep"])
        add_thing(self.db, "mine", SHIPPED_HANDS["right-firm"])
        self.assertEqual(get_thing(self.db, Hand, "mine"), SHIPPED_HANDS["right-firm"])
        self.assertIn("mine", list_things(self.db, Hand))
        with self.assertRaisesRegex(NotFound, "no hand 'ghost'"):
            get_thing(self.db, Hand, "ghost")
