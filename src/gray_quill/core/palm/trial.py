"""Drills judged with some rules: every contact, what it did, why, and what came of it all."""

import dataclasses
from collections.abc import Sequence

from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.drills import DRILLS
from gray_quill.core.palm.outcome import Grade, Outcome, grade, measure, total
from gray_quill.core.palm.replay import fault_words, replay
from gray_quill.core.palm.rules import Rules
from gray_quill.core.palm.scores import contacts_of, explain
from gray_quill.core.palm.zone import Zone

Part = tuple[str, Stream, Truth]  # a drill's name, what the hand did, and what it meant


@dataclasses.dataclass(frozen=True)
class JudgedContact:
    """One contact: a palm by the truth or not, what became of it and why. path: rows (t_ms, x, y, width, height). mark:
    finger ink, flat x, y.
    """

    id: int
    palm: bool
    decision: str
    rule: str
    at_ms: float
    born_ms: float
    end_ms: float
    why: str
    path: list[tuple[float, float, float, float, float]]
    mark: list[float]


@dataclasses.dataclass(frozen=True)
class JudgedDrill:
    """One drill: its contacts, the nib's way (t_ms, x, y, 1 in contact), how the page lay (t_ms, scale, x, y), and what
    came of it.
    """

    drill: str
    lasts_ms: float
    contacts: list[JudgedContact]
    nib: list[tuple[float, float, float, int]]
    views: list[tuple[float, float, float, float]]
    outcome: Outcome


@dataclasses.dataclass(frozen=True)
class JudgedRun:
    """Drills on a screen of this size: each, all together, the grade, and whose fault it is what is left. missing:
    drills that were not done. verdict: the grade, or that it cannot be told yet: a good one not before all are done.
    """

    screen_mm: tuple[float, float]
    zone: Zone
    parts: list[JudgedDrill]
    total: Outcome
    grade: Grade
    fault: str
    missing: list[str]
    verdict: str


def judge_run(parts: Sequence[Part], rules: Rules, zone: Zone) -> JudgedRun:
    """All drills of a run under some rules."""
    judged = [judge_drill(*part, rules, zone) for part in parts]
    outcomes = [d.outcome for d in judged]
    graded = grade(outcomes, sum(d.lasts_ms for d in judged))
    missing = [name for name in DRILLS if name not in {d.drill for d in judged}]
    first = parts[0][1]
    return JudgedRun(
        (first.width_mm, first.height_mm),
        zone,
        judged,
        total(outcomes),
        graded,
        fault_words([(stream, truth) for _, stream, truth in parts], rules, zone),
        missing,
        _verdict(graded, len(judged), len(missing)),
    )


def _verdict(graded: Grade, done: int, missing: int) -> str:
    if not missing:
        return graded.word
    drills = f"{done} of {done + missing} drills"
    return f"{graded.word}, in {drills}" if graded.attention else f"not told yet: {drills} done"


def judge_drill(drill: str, stream: Stream, truth: Truth, rules: Rules, zone: Zone) -> JudgedDrill:
    """One drill under some rules."""
    played, facts = replay(stream, rules, zone), contacts_of(stream, zone)
    contacts = [
        JudgedContact(
            id=t.id,
            palm=t.id in truth.palms,
            decision=t.decision,
            rule=t.rule,
            at_ms=t.at_ms,
            born_ms=t.born_ms,
            end_ms=played.paths[t.id][-1][0],
            why=explain(t.decision, t.rule, rules, facts[t.id]),
            path=played.paths[t.id],
            mark=played.state.marks.get(t.id, []),
        )
        for t in played.state.touches.values()
    ]
    lasts = stream.events[-1].t_ms if stream.events else 0.0
    outcome = measure(stream, played.state, rules, truth)
    return JudgedDrill(drill, lasts, contacts, played.nib, played.views, outcome)
