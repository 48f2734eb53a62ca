"""The API of the Palm trial: drills judged, rules swept as a task, posture, settings and runs kept, contacts in and
out.
"""

import json
from typing import Any

from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.outcome import outcome_of
from gray_quill.core.palm.rules import RULES, START
from gray_quill.core.palm.zone import zone_of
from gray_quill.web.palm_pair import Pair
from gray_quill.web.palm_told import told_sessions
from tests.web.api_case import ApiCase

PAIR = {"hand_id": "right-firm", "device_id": "tablet-11"}
QUERY = "?hand_id=right-firm&device_id=tablet-11"


class PalmApi(ApiCase):
    def off(self) -> dict[str, Any]:
        return self.ask("GET", "/api/palm").json["off"]  # type: ignore[no-any-return]

    def own(self, drill: str, seed: int = 3) -> dict[str, Any]:
        """A simulated drill sent as if a real hand had done it."""
        csv = self.client.get(f"/api/palm/contacts.csv{QUERY}&drill={drill.replace(' ', '+')}&seed={seed}").data
        reply = self.client.post("/api/palm/contacts?width_mm=229.8&height_mm=160.5", data=csv, content_type="text/csv")
        self.assertEqual(reply.status_code, 200, reply.json)
        return {"drill": drill, "stream": reply.json}

    def test_drills_of_the_stand_in_and_of_a_real_hand_come_out_alike(self) -> None:
        rules = {**self.off(), "before_ms": 800, "after_ms": 600, "size_mm": 13, "crowd_count": 2, "take_back_ms": 1000}
        for drill in ("palm first", "two-finger zoom"):
            simulated = self.ask("POST", "/api/palm/judge", {**PAIR, "rules": rules, "drills": [drill], "seed": 3}).json
            own = self.ask("POST", "/api/palm/judge", {**PAIR, "rules": rules, "own": [self.own(drill)]}).json
            self.assertEqual(own["total"]["confusion"], simulated["total"]["confusion"])
            self.assertEqual(
                [c["decision"] for c in own["parts"][0]["contacts"]],
                [c["decision"] for c in simulated["parts"][0]["contacts"]],
            )
            self.assertEqual(
                (own["grade"]["word"], simulated["fault"].startswith("Nothing is left")), ("forgets it is glass", True)
            )
        whole = self.ask("POST", "/api/palm/judge", {**PAIR, "rules": self.off(), "seed": 3}).json
        self.assertEqual(len(whole["parts"]), 9)
        self.assertEqual((whole["grade"]["word"], whole["grade"]["attention"]), ("unusable", True))
        self.assertIn("the rules' fault", whole["fault"])
        self.assertLess(sum(p["lasts_ms"] for p in whole["parts"]), 90_000, "all drills within 90 s")
        views = whole["parts"][0]["views"]
        self.assertTrue(views[0] == [0, 1, 0, 0] and len(views) > 5)

    def test_a_drill_done_several_times_gives_its_spread_and_the_hard_set_is_judged_by_name(self) -> None:
        own = [self.own("palm first", seed) for seed in (3, 4, 5)]
        own[1]["enlarged"] = True
        run = self.ask("POST", "/api/palm/judge", {**PAIR, "rules": self.off(), "own": own}).json
        self.assertEqual([p["take"] for p in run["parts"]], [1, 2, 3])
        (takes,) = run["drills"]
        each = [p["outcome"] for p in run["parts"]]
        self.assertEqual(takes["takes"], 3)
        for key in ("palms_kept", "page_shift_mm", "refused_gestures"):
            values = [o[key] for o in each]
            self.assertEqual(takes[key], [min(values), max(values)])
            self.assertAlmostEqual(takes["outcome"][key], sum(values))
        self.assertEqual((takes["outcome"], len(run["missing"])), (run["total"], 8))
        info = self.ask("GET", "/api/palm").json
        self.assertEqual((len(info["hard"]), len(info["hard_digest"])), (27, 12))
        asked = {**PAIR, "rules": info["off"], "hard": True, "drills": ["three spots", "long press"]}
        hard = self.ask("POST", "/api/palm/judge", asked).json
        self.assertEqual([d["drill"] for d in hard["drills"]], ["three spots", "long press"])
        self.assertEqual(len(hard["missing"]), 25)
        kept = self.ask("POST", "/api/palm/runs", asked).json
        self.assertEqual((kept["hard"], kept["own"], kept["total"]), (True, False, hard["total"]))
        self.ask("PUT", f"/api/palm/runs/{kept['id']}/bin", {"binned": True})
        unknown = self.client.post("/api/palm/judge", json={**asked, "drills": ["palm first"]})
        self.assertEqual(unknown.status_code, 400)

    def test_a_sweep_recommends_rules_that_do_better_and_says_why(self) -> None:
        own = [self.own(d, seed) for d in ("palm first", "rest", "one-finger scroll") for seed in (1, 2)]
        job = self.ask("POST", "/api/palm/sweeps", {**PAIR, "own": own}).json
        told = [
            json.loads(line[6:]) for line in self.client.get(f"/api/jobs/{job['id']}/events").text.splitlines() if line
        ]
        self.assertEqual(told[-1]["state"], "done", told[-1])
        self.assertGreater(len(told), 3, "progress is told")
        found = self.ask("GET", f"/api/palm/sweeps/{job['id']}").json
        expected, without = (found[of]["confusion"] for of in ("expected", "without"))
        self.assertLess(expected["palm_kept"] / (expected["palm_kept"] + expected["palm_refused"]), 0.04)
        self.assertEqual(without["palm_refused"], 0)
        now = found["on_own"]["now"]  # touches that were told on the sheet are among the own ones
        self.assertEqual(found["expected"], found["on_own"]["found"])
        self.assertLessEqual(found["expected"]["refused_gestures"], now["refused_gestures"])
        self.assertTrue(found["reasons"] and all(r["words"] for r in found["reasons"]))
        self.assertEqual({c["rule"] for c in found["curves"]}, {rule.name for rule in RULES})
        look = next(c for c in found["curves"] if c["rule"] == "looks like a hand")
        self.assertGreater(look["area"], 0.8, "of the few own contacts, one of which was told otherwise")
        strict = self.ask("PUT", "/api/palm/setting", {**PAIR, "rules": found["rules"]}).json
        self.assertEqual((strict["kept"], strict["rules"]), (True, found["rules"]))
        self.assertEqual(self.ask("GET", "/api/palm/setting" + QUERY).json["rules"], found["rules"])

    def test_posture_is_measured_corrected_and_moves_the_zone(self) -> None:
        measured = self.ask("POST", "/api/palm/posture", PAIR).json
        self.assertEqual((measured["side"], measured["rest"]), ("right", "below"))
        left = self.ask("POST", "/api/palm/posture", {**PAIR, "side": "left", "rest": "above"}).json
        self.assertTrue(left["zone"]["dx_mm"] < 0 and left["zone"]["dy_mm"] < 0)
        kept = self.ask("PUT", "/api/palm/setting", {**PAIR, "rules": self.off(), "posture": left}).json
        self.assertEqual(kept["zone"], left["zone"])
        run = self.ask("POST", "/api/palm/judge", {**PAIR, "rules": self.off(), "drills": ["rest"]}).json
        self.assertEqual(run["zone"], left["zone"])
        own = self.own("palm slides")["stream"]
        self.assertEqual(
            self.ask("POST", "/api/palm/posture", {"stream": own, "azimuths_deg": [40.0]}).json["side"], "right"
        )

    def test_a_decision_is_explained_and_what_its_writer_knew_better_is_searched_on(self) -> None:
        stream = self.own("palm slides")["stream"]
        strict = {**self.off(), "size_mm": 5}
        palm = stream["id"][stream["pointer"].index("touch")]
        why = self.ask("POST", "/api/palm/why", {**PAIR, "rules": strict, "stream": stream, "contact": palm}).json
        self.assertEqual((why["decision"], why["rule"]), ("refused", "contact size"))
        self.assertRegex(why["words"], r"it grew to \d+ mm")
        told = [
            self.ask("POST", "/api/palm/told", {**PAIR, "stream": stream, "contact": palm, "palm": of_hand}).json
            for of_hand in (True, False)
        ]
        self.assertEqual([t["told"] for t in told], [1, 2])
        self.assertEqual(self.ask("GET", "/api/palm/setting" + QUERY).json["told"], 2)
        back = self.ask("PUT", f"/api/palm/told/{told[0]['id']}/bin", {**PAIR, "binned": True}).json
        self.assertEqual(back["told"], 1)
        with self.app.app_context():
            pair = Pair(**PAIR)
            (session,) = told_sessions(pair)
        self.assertEqual([(g.kind, g.ids) for g in session[1].gestures], [("scroll", (palm,))], "told to be a finger")
        self.assertEqual((session[1].palms, session[1].known), (frozenset(), {palm}), "of the others nothing is known")
        counted = outcome_of(session[0], START, zone_of(SHIPPED_HANDS["right-firm"]), session[1]).confusion or {}
        self.assertEqual(sum(counted.values()), 1)
        for path, body, status in (
            ("why", {**PAIR, "rules": strict, "stream": stream, "contact": 99}, 400),
            ("told", {**PAIR, "stream": stream, "contact": 99, "palm": True}, 400),
            ("told", {**PAIR, "hand_id": "ghost", "stream": stream, "contact": palm, "palm": True}, 404),
        ):
            self.assertEqual(self.client.post(f"/api/palm/{path}", json=body).status_code, status, path)
        gone = self.client.put("/api/palm/told/ghost/bin", json={**PAIR, "binned": True})
        self.assertEqual(gone.status_code, 404)

    def test_runs_are_kept_and_binned(self) -> None:
        rules = {**self.off(), "size_mm": 13}
        one = self.ask("POST", "/api/palm/runs", {**PAIR, "rules": rules, "drills": ["rest"]}).json
        two = self.ask("POST", "/api/palm/runs", {**PAIR, "rules": rules, "own": [self.own("rest")]}).json
        self.assertEqual((one["own"], two["own"], one["rules"]["size_mm"]), (False, True, 13))
        self.assertEqual([r["id"] for r in self.ask("GET", "/api/palm/runs").json["runs"]], [two["id"], one["id"]])
        self.assertEqual(self.ask("PUT", f"/api/palm/runs/{one['id']}/bin", {"binned": True}).json, one)
        self.assertEqual([r["id"] for r in self.ask("GET", "/api/palm/runs").json["runs"]], [two["id"]])

    def test_contacts_go_out_and_come_back_and_refusals_say_why(self) -> None:
        stream = self.own("rest")["stream"]
        out = self.client.post("/api/palm/contacts.csv", json=stream)
        self.assertEqual(out.data, self.client.get(f"/api/palm/contacts.csv{QUERY}&drill=rest&seed=3").data)
        screen = "/api/palm/contacts?width_mm=200&height_mm=150"
        head = "t_ms,pointer,id,phase,x_mm,y_mm\n"
        for data, words in (
            ("t_ms,id\n1,2\n", "columns pointer, phase"),
            (head + "0,touch,1,down,x,5\n", "Line 2"),
            (head + "0,thumb,1,down,5,5\n", "Line 2: thumb down"),
            (head + "0,touch,1,down,5,5\n0,touch,1,down,5,5\n", "lands twice"),
            ("\0", "zero bytes"),
            ("", "columns"),
        ):
            reply = self.client.post(screen, data=data.encode(), content_type="text/csv")
            self.assertEqual(reply.status_code, 400, data)
            self.assertIn(words, reply.json["error"]["message"])
        rules = self.off()
        for path, body, status, words in (
            ("/api/palm/judge", {**PAIR, "rules": rules, "drills": ["juggle"]}, 400, "juggle"),
            ("/api/palm/judge", {**PAIR, "rules": {**rules, "size_mm": 900}}, 400, "rules.size_mm"),
            ("/api/palm/judge", {**PAIR, "hand_id": "ghost", "rules": rules}, 404, "ghost"),
            (
                "/api/palm/judge",
                {**PAIR, "rules": rules, "own": [{"drill": "rest", "stream": {**stream, "t_ms": [0]}}]},
                400,
                "differ in length",
            ),
            ("/api/palm/posture", {}, 400, "Give a stream"),
            ("/api/palm/sweeps", {**PAIR, "device_id": "ghost"}, 404, "ghost"),
        ):
            reply = self.client.post(path, json=body)
            self.assertEqual(reply.status_code, status, path)
            self.assertIn(words, reply.json["error"]["message"])
