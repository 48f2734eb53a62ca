"""What writers told of touches is kept by hand and device, newest first, and can be taken back."""

import json

from gray_quill.core.errors import NotFound
from gray_quill.store.palm_told import bin_told, count_told, keep_told, told_of
from tests.store.test_store import StoreCase

PAIR = ("h", "d")


class Told(StoreCase):
    def test_kept_by_pair_newest_first_at_most_so_many(self) -> None:
        for k in range(5):
            told_id = keep_told(self.db, *PAIR, f"contacts {k}".encode(), {"k": k})
            self.db.execute("UPDATE palm_told SET created_at = ? WHERE id = ?", (f"2026-01-0{k + 1}", told_id))
        found = told_of(self.db, *PAIR, 3)
        self.assertEqual([c for c, _ in found], [b"contacts 4", b"contacts 3", b"contacts 2"])
        self.assertEqual([json.loads(t)["k"] for _, t in found], [4, 3, 2])
        self.assertEqual((count_told(self.db, *PAIR), count_told(self.db, "h", "another")), (5, 0))

    def test_taken_back_and_told_again(self) -> None:
        told_id = keep_told(self.db, *PAIR, b"contacts", {})
        bin_told(self.db, told_id, True)
        self.assertEqual((count_told(self.db, *PAIR), told_of(self.db, *PAIR, 9)), (0, []))
        bin_told(self.db, told_id, False)
        self.assertEqual(count_told(self.db, *PAIR), 1)
        with self.assertRaisesRegex(NotFound, "ghost"):
            bin_told(self.db, "ghost", True)
