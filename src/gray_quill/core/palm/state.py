"""What the rules know of the glass while a stream is folded: touches, the nib, and what they did to the page."""

import dataclasses
import math

SLOP_MM = 1.5  # a touch that strays less has not moved; common practice, no source
AT_REST = 3.0  # times as far must a contact stray where the hand rests; common practice, no source
FASTEST_MM_S = 2500.0  # no hand moves a nib faster on the glass; common practice, no source
TAP_MS = 350.0  # a touch that lifts within this time without moving is a tap; common practice, no source


FRAME_MS = 600.0  # after the nib was seen what lies beside the page is not pressed; common practice, no source
TRAIL_MS = 80.0  # over which a contact's speed is taken
AGAIN_MM, AGAIN_MS = 45.0, 6000.0  # how near and how soon a hand lands where it lay before
NEAR_MM = 80.0  # contacts this near may be of the same hand
LEAST_TRAIL_MS, LEAST_WAY_MM = 24.0, 2.0  # from which a speed, and straightness, can be told
LONGEST_MS = 3000.0  # before the nib's coming: how a contact looked that landed earlier has nothing to do with it
KEPT, REFUSED, WAITING = "kept", "refused", "waiting"
FOREVER = math.inf


@dataclasses.dataclass(frozen=True)
class Limits:
    """What the engine takes for granted, as a plan for the browser carries it beside the rules: when a touch has moved,
    how much farther it must stray at rest, how long a tap lasts; what its look and the nib's jump are told by.
    """

    slop_mm: float = SLOP_MM
    at_rest: float = AT_REST
    tap_ms: float = TAP_MS
    trail_ms: float = TRAIL_MS
    again_mm: float = AGAIN_MM
    again_ms: float = AGAIN_MS
    near_mm: float = NEAR_MM
    least_trail_ms: float = LEAST_TRAIL_MS
    least_way_mm: float = LEAST_WAY_MM
    longest_ms: float = LONGEST_MS
    fastest_mm_s: float = FASTEST_MM_S
    frame_ms: float = FRAME_MS


@dataclasses.dataclass
class Touch:
    """One contact so far. size_mm: the longest it was. far_mm: the farthest it strayed from where it landed. asked:
    rules that judge at an age and did. decision with the rule that made it (empty for none) and when. ended_ms: FOREVER
    while it is down. kept_ms: when it was kept, whatever came after. path: places since it landed, flat x, y, x, y;
    only kept where a finger may write.

    What only its look needs: first_mm, its size as it landed; short_mm, the short axis when it was longest; way_mm, the
    way it went; onset_ms, how old it was when it first moved; trail, its places of the last TRAIL_MS; since_nib_ms,
    from the nib last being seen to its landing; nib_age_ms, how old it was when the nib came into sight; nib_with,
    whether the nib wrote while it lay; again_ms, since a contact that lay while the nib wrote lifted from about here;
    lifted; cancelled, whether the device took it away; odds, of its being a hand, as a logarithm, when it was last
    looked at; most_odds and look, when it looked most like one.
    """

    id: int
    born_ms: float
    x0: float
    y0: float
    x: float
    y: float
    size_mm: float
    decision: str = WAITING
    rule: str = ""
    at_ms: float = 0.0
    ended_ms: float = FOREVER
    far_mm: float = 0.0
    asked: set[str] = dataclasses.field(default_factory=set)
    path: list[float] = dataclasses.field(default_factory=list)
    first_mm: float = 0.0
    short_mm: float = 0.0
    path_mm: float = 0.0
    onset_ms: float = FOREVER
    trail: list[tuple[float, float, float]] = dataclasses.field(default_factory=list)
    since_nib_ms: float = FOREVER
    nib_age_ms: float = FOREVER
    nib_with: bool = False
    again_ms: float = FOREVER
    kept_ms: float = FOREVER
    lifted: bool = False
    cancelled: bool = False
    odds: float = -FOREVER
    most_odds: float = -FOREVER
    look: list[float] = dataclasses.field(default_factory=list)

    @property
    def moved(self) -> bool:
        return self.far_mm > SLOP_MM


class Memo(dict[tuple[int, int, bool], float]):
    """Odds by touch, report and whether it lifts: they are the same under all rules. One for all copies of a state."""

    def __deepcopy__(self, _: object) -> "Memo":
        return self


@dataclasses.dataclass
class Episode:
    """What kept touches did to the page while they were the same ones: a place p goes to scale p + (x, y). peak_mm: how
    far it moved the page's middle at most.
    """

    ids: tuple[int, ...]
    scale: float = 1.0
    x: float = 0.0
    y: float = 0.0
    taken_back: bool = False
    peak_mm: float = 0.0


@dataclasses.dataclass
class State:
    """Everything the fold knows. marks: finger ink by touch, flat x, y. taps: (touch, time). nib_seen_ms: when the nib
    was last seen. ink_mm: what it drew; stroke_ms, stroke_mm: since when and how far in this stroke; not_drawn: spans
    of time whose ink was taken back. due_ms: when some touch is decided by its age next. group: the touches that move
    the page now, with their middle and spread when they last moved. reports: how many were folded. memo: what looks
    came to, where the same stream is folded again.
    """

    middle: tuple[float, float]
    touches: dict[int, Touch] = dataclasses.field(default_factory=dict)
    episodes: list[Episode] = dataclasses.field(default_factory=list)
    marks: dict[int, list[float]] = dataclasses.field(default_factory=dict)
    taps: list[tuple[int, float]] = dataclasses.field(default_factory=list)
    group: tuple[tuple[int, ...], float, float, float] = ((), 0.0, 0.0, 0.0)
    nib: tuple[float, float] | None = None
    nib_present: bool = False
    nib_down: bool = False
    nib_seen_ms: float = -FOREVER
    ink_mm: float = 0.0
    stroke_ms: float = 0.0
    stroke_mm: float = 0.0
    not_drawn: list[tuple[float, float]] = dataclasses.field(default_factory=list)
    due_ms: float = FOREVER
    reports: int = 0
    memo: Memo = dataclasses.field(default_factory=lambda: Memo(), compare=False, repr=False)

    def view(self) -> tuple[float, float, float]:
        """Scale, x and y of the page after everything that was not taken back."""
        scale, x, y = 1.0, 0.0, 0.0
        for e in self.episodes:
            if not e.taken_back:
                scale, x, y = e.scale * scale, e.scale * x + e.x, e.scale * y + e.y
        return scale, x, y
