"""Drills judged with some rules: every contact, what it did, why, and what came of it all."""

import dataclasses
from collections.abc import Collection, Sequence

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
    """One drill, done for the `take`th time: its contacts, the nib's way (t_ms, x, y, 1 in contact), how the page lay
    (t_ms, scale, x, y), and what came of it.
    """

    drill: str
    take: int
    lasts_ms: float
    contacts: list[JudgedContact]
    nib: list[tuple[float, float, float, int]]
    views: list[tuple[float, float, float, float]]
    outcome: Outcome


@dataclasses.dataclass(frozen=True)
class Takes:
    """A drill done once or several times: what came of all of them together, and the least and most of one."""

    drill: str
    takes: int
    outcome: Outcome
    palms_kept: tuple[int, int]
    page_shift_mm: tuple[float, float]
    refused_gestures: tuple[int, int]


@dataclasses.dataclass(frozen=True)
class JudgedRun:
    """Drills on a screen of this size: every take of each, the takes of a drill together, all together, the grade, and
    whose fault it is what is left. missing: drills that were not done. verdict: the grade, or that it cannot be told
    yet: a good one not before all are done.
    """

    screen_mm: tuple[float, float]
    zone: Zone
    parts: list[JudgedDrill]
    drills: list[Takes]
    total: Outcome
    grade: Grade
    fault: str
    missing: list[str]
    verdict: str


def judge_run(parts: Sequence[Part], rules: Rules, zone: Zone, asked: Collection[str] = DRILLS) -> JudgedRun:
    """All drills of a run under some rules. asked: the drills there are to do."""
    judged: list[JudgedDrill] = []
    for part in parts:
        take = 1 + sum(d.drill == part[0] for d in judged)
        judged.append(judge_drill(*part, rules, zone, take))
    drills = [_takes([d for d in judged if d.drill == name]) for name in dict.fromkeys(d.drill for d in judged)]
    outcomes = [d.outcome for d in judged]
    graded = grade(outcomes, sum(d.lasts_ms for d in judged))
    missing = [name for name in asked if name not in {d.drill for d in judged}]
    first = parts[0][1]
    return JudgedRun(
        (first.width_mm, first.height_mm),
        zone,
        judged,
        drills,
        total(outcomes),
        graded,
        fault_words([(stream, truth) for _, stream, truth in parts], rules, zone),
        missing,
        _verdict(graded, len(drills), len(missing)),
    )


def _takes(judged: Sequence[JudgedDrill]) -> Takes:
    outcomes = [d.outcome for d in judged]
    palms, refused = [o.palms_kept for o in outcomes], [o.refused_gestures for o in outcomes]
    shifts = [o.page_shift_mm for o in outcomes]
    return Takes(
        judged[0].drill,
        len(judged),
        total(outcomes),
        (min(palms), max(palms)),
        (min(shifts), max(shifts)),
        (min(refused), max(refused)),
    )


def _verdict(graded: Grade, done: int, missing: int) -> str:
    if not missing:
        return graded.word
    drills = f"{done} of {done + missing} drills"
    return f"{graded.word}, in {drills}" if graded.attention else f"not told yet: {drills} done"


def judge_drill(drill: str, stream: Stream, truth: Truth, rules: Rules, zone: Zone, take: int = 1) -> JudgedDrill:
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
    return JudgedDrill(drill, take, lasts, contacts, played.nib, played.views, outcome)
