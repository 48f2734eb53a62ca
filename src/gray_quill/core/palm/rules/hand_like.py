"""What looks like a hand, all that is known of it taken together, is one."""

import dataclasses
import math

from gray_quill.core.palm.features import looks, told
from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.state import FOREVER, LONGEST_MS, WAITING, State, Touch
from gray_quill.core.palm.trees import chance, odds, odds_of, terms_of
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number

STRONGEST = 3  # terms that are told


@dataclasses.dataclass(frozen=True)
class Settings:
    likely: float = number(
        0,
        0,
        1,
        0.01,
        "",
        "Looks like a hand",
        "Refuse what is a hand with this chance by its look; while it is likelier than not it waits; 0 does not look",
    )


def look_at(s: State, t: Touch, now_ms: float, zone: Zone) -> float:
    """The logarithm of the odds of a hand as this contact looks now; kept with it."""
    key = (t.id, s.reports, t.lifted)
    if key not in s.memo:
        s.memo[key] = odds_of(looks(s, t, now_ms, zone))
    t.odds = s.memo[key]
    if t.odds > t.most_odds:
        t.most_odds, t.look = t.odds, looks(s, t, now_ms, zone)
    return t.odds


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return rules.likely > 0 and look_at(s, t, now_ms, zone) >= odds(rules.likely)


def nib_comes(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return now_ms - t.born_ms <= LONGEST_MS and lands(s, t, now_ms, rules, zone)


def nib_lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return t.ended_ms == FOREVER and lands(s, t, now_ms, rules, zone)


def lifts(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    """What has done nothing yet and is a hand rather than not does nothing as it lifts either."""
    if rules.likely <= 0:
        return False
    undone = t.decision == WAITING or not t.moved
    return look_at(s, t, now_ms, zone) >= min(odds(rules.likely), 0.0 if undone else math.inf)


def doubtful(t: Touch, rules: Settings) -> bool:
    """Whether a contact that waits is to wait on."""
    return rules.likely > 0 and t.odds >= 0


def why(c: Contact) -> str:
    terms = [(k, v) for k, v in terms_of(c.look).items() if v > 0 and not math.isnan(c.look[k])][:STRONGEST]
    words = ", ".join(told(k, c.look[k]) for k, _ in terms)
    return f"a hand with {100 * chance(c.odds):.0f} %: {words}"


def instead(c: Contact, rules: Settings) -> str:
    share = chance(c.odds)
    return f"its look at {max(0.01, math.floor(100 * share) / 100):.2f}" if share >= 0.01 else ""


RULE = Rule(
    "looks like a hand",
    "likely",
    "the look",
    Settings,
    tighter={"likely": -1},
    options={"likely": (0, 0.98, 0.95, 0.9, 0.8, 0.7)},
    swept="likely",
    strictest={"likely": 0.5},
    score=lambda c: c.odds,
    by_score=lambda rules, c: 0 < rules.likely <= chance(c.odds),
    why=why,
    instead=instead,
    lands=lands,
    nib_comes=nib_comes,
    nib_lands=nib_lands,
    lifts=lifts,
)
