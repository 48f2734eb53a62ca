"""Directions a pen may be tuned in by choosing: each moves a few fields together, as far as the pen's kind allows."""

import dataclasses
from collections.abc import Mapping, Sequence
from functools import lru_cache

from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.pen.dials import moved_by
from gray_quill.core.pen.recipe import Recipe


@dataclasses.dataclass(frozen=True)
class Direction:
    """less, more: its ends in words. moves: shares of each field's scale at 1, by its path. starts: the field that
    turns its effect on, and the value it gets when the direction is gone up while that field is at its first choice.
    """

    name: str
    less: str
    more: str
    moves: Mapping[str, float]
    starts: tuple[str, str] | None = None


WRITING = (
    Direction("range", "less range", "more range", {"press.range": 0.3, "pace.exponent": 0.05}),
    Direction("light answer", "firmer answer", "lighter answer", {"press.floor": -0.06, "press.ceiling": -0.3}),
    Direction(
        "tips", "blunter tips", "finer tips", {"ends.start_tip": -0.5, "ends.end_tip": -0.5, "ends.end_mm": 0.05}
    ),
    Direction("width", "thinner", "broader", {"body.width_mm": 0.16}),
    Direction("steadiness", "freer", "steadier", {"steady.amount": 0.35}, ("steady.method", "one-euro")),
    Direction(
        "taper", "shorter tapers", "longer tapers", {"ends.start_mm": 0.12, "ends.end_mm": 0.2, "ends.ease": 0.3}
    ),
    Direction("flow", "paler", "fuller", {"body.opacity": 0.4, "press.opacity_range": -0.2}),
    Direction("tooth", "cleaner", "grittier", {"tooth.depth": 0.5, "tooth.scale_mm": 0.06}, ("tooth.grain", "laid")),
)
WASHES = (
    Direction("depth", "paler", "deeper", {"body.opacity": 0.35}),
    Direction("breadth", "narrower", "broader", {"body.width_mm": 0.14}),
    Direction("edge", "softer edge", "wetter edge", {"wash.wet_edge": 0.5, "wash.pool": 0.3}),
    Direction("streaks", "smoother", "streakier", {"wash.streaks": 0.5}),
)
FEWEST, MOST = 4, 8


def directions_for(recipe: Recipe, count: int = FEWEST) -> tuple[Direction, ...]:
    """So many directions, those first that matter most for the kind of pen."""
    every = WASHES if recipe.is_wash else WRITING
    return every[: max(FEWEST, min(count, len(every)))]


def gone(recipe: Recipe, directions: Sequence[Direction], at: Sequence[float]) -> Recipe:
    """The pen gone along each direction by -1..1."""
    for direction, by in zip(directions, at, strict=True):
        recipe = moved_by(recipe, direction.moves, by, direction.starts)
    return recipe


def allowed(recipe: Recipe, directions: Sequence[Direction], at: Sequence[float]) -> bool:
    """Whether a place keeps the pen what its kind is; every place does where it is none before."""
    return not _of_its_kind(recipe) or _of_its_kind(gone(recipe, directions, at))


@lru_cache(maxsize=4096)  # it writes a line, and the same places are looked at again and again
def _of_its_kind(recipe: Recipe) -> bool:
    return judge_kind(recipe).met
