"""What the rules know of the glass while a stream is folded: touches, the nib, and what they did to the page."""

import dataclasses
import math

SLOP_MM = 1.5  # a touch that strays less has not moved; common practice, no source
AT_REST = 3.0  # times as far must a contact stray where the hand rests; common practice, no source
TAP_MS = 350.0  # a touch that lifts within this time without moving is a tap; common practice, no source


@dataclasses.dataclass(frozen=True)
class Limits:
    """What the engine takes for granted, as a plan for the browser carries it beside the rules: when a touch has moved,
    how much farther it must stray at rest, how long a tap lasts.
    """

    slop_mm: float = SLOP_MM
    at_rest: float = AT_REST
    tap_ms: float = TAP_MS


KEPT, REFUSED, WAITING = "kept", "refused", "waiting"
FOREVER = math.inf


@dataclasses.dataclass
class Touch:
    """One contact so far. size_mm: the longest it was. far_mm: the farthest it strayed from where it landed. asked:
    rules that judge at an age and did. decision with the rule that made it (empty for none) and when. ended_ms: FOREVER
    while it is down. path: places since it landed, flat x, y, x, y; only kept where a finger may write.
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

    @property
    def moved(self) -> bool:
        return self.far_mm > SLOP_MM


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
    was last seen. due_ms: when some touch is decided by
    its age next. group: the touches that move the page now, with their middle and spread when they last moved.
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
    due_ms: float = FOREVER

    def view(self) -> tuple[float, float, float]:
        """Scale, x and y of the page after everything that was not taken back."""
        scale, x, y = 1.0, 0.0, 0.0
        for e in self.episodes:
            if not e.taken_back:
                scale, x, y = e.scale * scale, e.scale * x + e.x, e.scale * y + e.y
        return scale, x, y
