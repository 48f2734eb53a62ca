"""Ten clients that change the same thing at the same moment, from the same sight of it: all is merged, or one is taken
and nine are told. Every operation that replaces something has its row here.
"""

import copy
import dataclasses
import threading
from collections import Counter
from collections.abc import Callable
from typing import Any

from gray_quill.web.api import OPERATIONS
from tests.web.api_case import STROKE, ApiCase

CLIENTS = 10
MERGED, ONE = "all are merged", "one is taken, nine are told"
SHEET = "dusk-to-dawn"


@dataclasses.dataclass(frozen=True)
class Row:
    """path: where to; body: what client k sends; comes: what must come of it; kept: what is kept then, in which each of
    what is merged is found.
    """

    path: str
    body: Callable[[int], Any]
    comes: str = ONE
    kept: Callable[[], Any] | None = None


class AtOnce(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk = self.ask("GET", "/api/desk").get_json()
        self.sheets = {s["id"]: s for s in self.desk["sheets"]}

    def rows(self) -> dict[str, Row]:
        """By the name of the operation."""
        desk, sheet = self.desk, self.sheets[SHEET]
        at = f"/api/sheets/{SHEET}"
        hand, device = desk["hands"][0], desk["devices"][0]
        pair = {"hand_id": hand["id"], "device_id": device["id"]}
        own = self.ask(
            "POST", "/api/panels/own", {"like": device["id"], "name": "Own", "panel": device["device"]["panel"]}
        )
        own_id, panel = own.get_json()["id"], own.get_json()["device"]["panel"]
        stroke_ids = [f"{SHEET}-at-once-{k}" for k in range(3)]
        strokes = [{**STROKE, "id": i} for i in stroke_ids]
        self.ask("POST", f"{at}/strokes", {"strokes": strokes})
        for k in range(2):
            self.ask("POST", f"{at}/pages", {"id": f"{SHEET}-page-{k}", "copy_ink": False})
        pages = [p["id"] for p in self.ask("GET", f"{at}/pages").get_json()["pages"]]
        pens: list[Any] = desk["pens"]
        roll = [
            p["id"]
            for p in sorted(pens, key=lambda p: (p["roll_place"] is None, p["roll_place"]))
            if p["roll_place"] is not None
        ]
        rest = [p["id"] for p in pens if p["id"] not in roll]
        setting = self.ask("GET", f"/api/palm/setting?hand_id={hand['id']}&device_id={device['id']}").get_json()
        rules = setting["rules"]
        self.ask("PUT", "/api/palm/setting", {**pair, "rules": rules, "posture": None})
        press = pens[0]["recipe"]["press"]
        self.ask("PUT", "/api/pen/fits", {**pair, "press": press})
        thing = f"?kind=pen&id={pens[0]['id']}"
        layers = [sheet["layers"][0]]

        def another(record: dict[str, Any], k: int, name: str, step: float) -> dict[str, Any]:
            made = copy.deepcopy(record)
            made[name] = made[name] + step * (k + 1)
            return made

        def version(sheet_id: str) -> int:
            return int(self.ask("GET", f"/api/sheets/{sheet_id}").get_json()["sheet"]["version"])

        seen = version(SHEET)
        return {
            "change_desk": Row(
                "/api/desk",
                lambda k: {
                    "palette": [*desk["palette"], {"name": f"ink {k}", "colour": f"#10{k}0{k}0"}],
                    "saw": {"palette": desk["palette"]},
                },
                MERGED,
                lambda: self.ask("GET", "/api/desk").get_json()["palette"],
            ),
            "change_roll": Row("/api/desk/roll", lambda k: {"pen_ids": [*roll[1:], rest[k % len(rest)]], "saw": roll}),
            "change_hand": Row(
                f"/api/hands/{hand['id']}",
                lambda k: {"hand": another(hand["hand"], k, "speed_mm_s", 0.5), "saw": hand["hand"]},
            ),
            "change_device": Row(
                f"/api/devices/{own_id}",
                lambda k: {
                    "device": {**own.get_json()["device"], "name": f"Own {k}"},
                    "saw": own.get_json()["device"],
                },
            ),
            "change_own": Row(
                f"/api/panels/own/{own_id}",
                lambda k: {"panel": another(self.panel_of(own_id), k, "white_cd_m2", 1.0), "saw": panel},
            ),
            "name_kept_thing": Row(
                "/api/cabinet/thing/name" + thing, lambda k: {"name": f"Pen {k}", "saw": pens[0]["recipe"]["name"]}
            ),
            "note_kept_thing": Row("/api/cabinet/thing/note" + thing, lambda k: {"note": f"note {k}", "saw": ""}),
            "bin_kept_thing": Row(f"/api/cabinet/thing/bin?kind=pen&id={rest[0]}", lambda _: {"binned": True}, MERGED),
            "keep_palm_setting": Row(
                "/api/palm/setting",
                lambda k: {**pair, "rules": another(rules, k, "edge_mm", 0.1), "posture": None, "saw": rules},
            ),
            "remember_fit": Row(
                "/api/pen/fits", lambda k: {**pair, "press": another(press, k, "floor", 0.001), "saw": press}
            ),
            "change_pen_bin": Row(f"/api/pens/{rest[1]}/bin", lambda _: {"binned": True}, MERGED),
            "new_revision": Row(
                f"/api/pens/{rest[2]}/revisions",
                lambda k: {"recipe": {**self.pen(rest[2])["recipe"], "name": f"Pen {k}"}, "note": "", "saw": 1},
            ),
            "edit_sheet": Row(at, lambda k: {"note": f"note {k}", "saw": seen}),
            "change_covers": Row(
                f"{at}/covers",
                lambda k: {
                    "covers": [{"id": f"c{k}", "left_mm": 1, "top_mm": 1, "width_mm": 9, "height_mm": 9}],
                    "saw": self.seen,
                },
            ),
            "change_prints": Row(f"{at}/prints", lambda _: {"prints": [], "saw": self.seen}),
            "put_pages_in_order": Row(
                f"{at}/pages", lambda k: {"ids": [*pages[k % 2 + 1 :], *pages[: k % 2 + 1]], "saw": pages}
            ),
            "change_layers": Row(
                f"{at}/layers",
                lambda k: {
                    "layers": [*layers, {"id": f"l{k}", "name": f"layer {k}"}],
                    "on": layers[0]["id"],
                    "saw": sheet["layers"],
                },
            ),
            "change_steps": Row(f"{at}/steps", lambda _: {"past": [], "future": [], "count": 7}),
            "change_page_bin": Row(f"/api/sheets/{SHEET}-page-1/page/bin", lambda _: {"binned": True}, MERGED),
            "change_sheet_bin": Row("/api/sheets/first-count/bin", lambda _: {"binned": True}, MERGED),
            # strokes are told one by one, by their ids: each change is done whole, after the other
            "arrange_ink": Row(
                f"{at}/strokes/arrange", lambda k: {"locked": {}, "grouped": {stroke_ids[0]: f"g{k}"}}, MERGED
            ),
            "change_stroke_bin": Row(f"{at}/strokes/bin", lambda _: {"ids": [stroke_ids[2]], "binned": True}, MERGED),
        }

    def panel_of(self, device_id: str) -> dict[str, Any]:
        devices = self.ask("GET", "/api/desk").get_json()["devices"]
        return dict(next(d for d in devices if d["id"] == device_id)["device"]["panel"])

    def pen(self, pen_id: str) -> Any:
        return next(p for p in self.desk["pens"] if p["id"] == pen_id)

    seen = 0

    def test_every_operation_that_replaces_merges_or_tells(self) -> None:
        rows = self.rows()
        methods = {op.name: op.method for op in OPERATIONS}
        for name, row in rows.items():
            with self.subTest(name):
                self.seen = int(self.ask("GET", f"/api/sheets/{SHEET}").get_json()["sheet"]["version"])
                bodies = [row.body(k) for k in range(CLIENTS)]
                statuses = self.at_once(methods[name], row.path, bodies)
                if row.comes == MERGED:
                    self.assertEqual({s // 100 for s in statuses}, {2}, statuses)
                    if row.kept:
                        kept = [entry["name"] for entry in row.kept()]
                        self.assertEqual(
                            {n for n in kept if n.startswith("ink ")}, {f"ink {k}" for k in range(CLIENTS)}
                        )
                else:
                    self.assertEqual(sorted(Counter(statuses).items())[1:], [(409, CLIENTS - 1)], statuses)
                    self.assertIn(min(statuses), (200, 201))

    def test_none_is_without_its_row(self) -> None:
        replacing = {op.name for op in OPERATIONS if op.method in ("PUT", "PATCH")}
        bins = {name for name in replacing if name.startswith(("bin_", "take_told_back"))}
        of_strokes = {"fill_ink", "swap_ink", "ink_strokes_again", "recolour_strokes", "change_corner"}
        self.assertEqual(replacing - bins - of_strokes - set(self.rows()), set())

    def at_once(self, method: str, path: str, bodies: list[Any]) -> list[int]:
        """What each client is answered."""
        ready = threading.Barrier(len(bodies))
        statuses = [0] * len(bodies)

        def ask(k: int) -> None:
            client = self.app.test_client()
            ready.wait()
            statuses[k] = client.open(path, method=method, json=bodies[k]).status_code

        asking = [threading.Thread(target=ask, args=(k,)) for k in range(len(bodies))]
        for one in asking:
            one.start()
        for one in asking:
            one.join()
        return statuses
