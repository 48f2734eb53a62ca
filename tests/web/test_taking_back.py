"""Any changes of a sheet's ink, one after another: taking each back gives what there was before it, to the pixel, and
making them again what there was after.
"""

import dataclasses
import hashlib
import sqlite3
from typing import Any

import numpy as np

from gray_quill.store.database import connect
from tests.web.api_case import ApiCase

Step = dict[str, Any]
PENS = ("reed-ballpoint", "fen-fountain", "dusk-wash", "moth-pencil-2b", "sedge-nib")
WIDE_MM, HIGH_MM = 105.0, 148.0
KEPT = "id, place, pen_id, revision, coalesce(layer, 'first') AS layer, locked, grouped"


@dataclasses.dataclass(frozen=True)
class Seen:
    """A sheet as its writer sees it: its strokes in their order and how they are arranged, its layers, its picture."""

    strokes: list[tuple[Any, ...]]
    layers: Any
    on: str
    picture: str


class TakingBack(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.db: sqlite3.Connection = connect(self.folder)
        self.addCleanup(self.db.close)

    def test_whatever_is_done_is_taken_back_and_made_again(self) -> None:
        for seed in (1, 2):
            self.a_sheet_is_changed(seed, 24)

    def a_sheet_is_changed(self, seed: int, changes: int) -> None:
        self.rng, self.number, self.sheet = np.random.default_rng(seed), 0, f"back-{seed}"
        like = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": PENS[0]}
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": f"Back {seed}", "paper": "blank A6", **like})
        done, seen, told = list[Step](), [self.seen()], list[str]()
        kinds = [self.written] * 6 + [self.rubbed] * 4 + [self.placed] * 3 + [self.filled, self.inked, self.tidied]
        kinds += [self.arranged, self.layered] * 2 + [self.cleared]
        while len(done) < changes:
            kind = kinds[int(self.rng.integers(len(kinds)))] if len(done) > 3 else self.written
            step = kind()
            if step:
                done.append(step)
                seen.append(self.seen())
                told.append(kind.__name__)
        again = list[Step]()
        for k in reversed(range(changes)):
            again.append(self.make(done[k]))
            self.assertEqual(self.seen(), seen[k], f"seed {seed}: {told[k]} ({k}) is not taken back")
        for k in range(changes):
            self.make(again.pop())
            self.assertEqual(self.seen(), seen[k + 1], f"seed {seed}: {told[k]} ({k}) is not made again")

    def seen(self) -> Seen:
        rows = self.db.execute(
            f"SELECT {KEPT} FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place, rowid", (self.sheet,)
        )
        sheet = self.got("GET", "")
        picture = self.ask("GET", f"/api/sheets/{self.sheet}/page.png?scale=3").data
        strokes = [tuple(row)[:1] + tuple(row)[2:] for row in rows]  # places may differ where the order does not
        return Seen(strokes, sheet["sheet"]["layers"], sheet["sheet"]["layer"], hashlib.sha256(picture).hexdigest())

    def got(self, method: str, path: str, body: Any = None) -> Any:
        """What is answered, or nothing where it is refused: what is locked or hidden is not to be changed."""
        answer = self.ask(method, f"/api/sheets/{self.sheet}{path}", body)
        self.assertIn(answer.status_code, (200, 201, 400, 409), answer.data)
        return answer.json if answer.status_code < 400 else None

    def make(self, step: Step) -> Step:
        """Make the change a step stands for, as the screens do; what takes it back."""
        if "ids" in step:
            self.assertIsNotNone(self.got("PUT", "/strokes/bin", step))
            return {"ids": step["ids"], "binned": not step["binned"]}
        if "away" in step:
            self.assertIsNotNone(self.got("PUT", "/strokes/swap", step))
            return {"away": step["back"], "back": step["away"]}
        ((kind, body),) = step.items()
        path = {"inks": "/strokes/pens", "layers": "/layers", "arranged": "/strokes/arrange"}[kind]
        done = self.got("PUT", path, {"inks": body} if kind == "inks" else body)
        self.assertIsNotNone(done)
        return {kind: done["was"]}

    def some(self, most: int = 6) -> list[str]:
        """Some of the strokes that lie on the sheet."""
        query = "SELECT id FROM strokes WHERE sheet_id = ? AND binned_at IS NULL ORDER BY place, rowid"
        there = [row["id"] for row in self.db.execute(query, (self.sheet,))]
        count = min(len(there), int(self.rng.integers(1, most + 1)))
        return [str(i) for i in self.rng.choice(there, count, replace=False)] if there else []

    def swapped(self, done: Any) -> Step | None:
        return {"away": done["back"], "back": done["away"]} if done and (done["away"] or done["back"]) else None

    def written(self) -> Step:
        n = 40
        way = np.cumsum(self.rng.normal(0, 1.4, (n, 2)), axis=0) + self.rng.uniform((25, 25), (80, 120))
        x, y = np.clip(way, 2, (WIDE_MM - 2, HIGH_MM - 2)).T
        self.number += 1
        stroke = {"id": f"{self.sheet}-{self.number}", "pen_id": str(self.rng.choice(PENS)), "revision": 1}
        stroke |= {"t_ms": (np.arange(n) * 8.0).tolist(), "x_mm": x.tolist(), "y_mm": y.tolist()}
        self.assertIsNotNone(self.got("POST", "/strokes", {"strokes": [stroke]}))
        return {"ids": [stroke["id"]], "binned": True}

    def rubbed(self) -> Step | None:
        way = self.rng.uniform((15, 15), (90, 130), (3, 2)).tolist()
        takes = str(self.rng.choice(["rubbed", "rubbed", "strokes", "ringed"]))
        return self.swapped(self.got("POST", "/rub", {"way": way, "radius_mm": 3.0, "takes": takes}))

    def placed(self) -> Step | None:
        angle, size = self.rng.uniform(-0.6, 0.6), self.rng.uniform(0.7, 1.3)
        c, s = size * np.cos(angle), size * np.sin(angle)
        move = [c, s, -s, c, *self.rng.uniform(-12, 12, 2), 0, 0]
        copy = bool(self.rng.random() < 0.3)
        body = {"ids": self.some(), "placement": move, "copy_ink": copy, "wider": bool(self.rng.random() < 0.5)}
        return self.swapped(self.got("POST", "/strokes/place", body)) if body["ids"] else None

    def filled(self) -> Step | None:
        fill = {"colour": "#aa3322", "opacity": 0.5} if self.rng.random() < 0.7 else None
        ids = self.some(3)
        return self.swapped(self.got("PUT", "/strokes/fill", {"ids": ids, "fill": fill})) if ids else None

    def tidied(self) -> Step | None:
        ids = self.some(1)
        return self.swapped(self.got("POST", f"/strokes/{ids[0]}/figure", {})) if ids else None

    def cleared(self) -> Step | None:
        return self.swapped(self.got("POST", "/clear", {"layers": str(self.rng.choice(["all", "this"]))}))

    def inked(self) -> Step | None:
        ids = self.some()
        body = {"inks": [{"pen_id": str(self.rng.choice(PENS)), "revision": 1, "ids": ids}]}
        done = self.got("PUT", "/strokes/pens", body) if ids else None
        return {"inks": done["was"]} if done and done["was"] else None

    def arranged(self) -> Step | None:
        ids = self.some()
        group = f"group-{self.rng.integers(3)}" if self.rng.random() < 0.7 else None
        body = [
            {"to_end": str(self.rng.choice(["front", "back"])), "ids": ids},
            {"locked": dict.fromkeys(ids, bool(self.rng.random() < 0.5))},
            {"grouped": dict.fromkeys(ids, group)},
        ][int(self.rng.integers(3))]
        done = self.got("PUT", "/strokes/arrange", body) if ids else None
        return {"arranged": done["was"]} if done else None

    def layered(self) -> Step | None:
        """One more, one less, another order, or one that is set otherwise; ink goes along."""
        layers = self.got("GET", "")["sheet"]["layers"]
        way, k = self.rng.random(), int(self.rng.integers(len(layers)))
        moved = dict[str, list[str]]()
        if way < 0.5 and len(layers) < 5:
            self.number += 1
            layers.insert(k, {**layers[0], "id": f"layer-{self.number}", "name": f"Layer {self.number}"})
            moved = {layers[k]["id"]: self.some()}
        elif way < 0.65 and len(layers) > 1:
            del layers[k]
        elif way < 0.8:
            layers = [layers[i] for i in self.rng.permutation(len(layers))]
        else:
            layers[k] = {**layers[k], "opacity": float(self.rng.choice([0.3, 0.7, 1]))}
        on = layers[int(self.rng.integers(len(layers)))]["id"]
        done = self.got("PUT", "/layers", {"layers": layers, "on": on, "moved": moved})
        return {"layers": done["was"]} if done else None
