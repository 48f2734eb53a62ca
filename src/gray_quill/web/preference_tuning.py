"""Tuning by choosing: two re-inkings of the writer's own line, one is chosen, and what that says."""

import dataclasses
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import Field

from gray_quill.core.errors import InputError
from gray_quill.core.lineup.axes import FEWEST, MOST, Direction, allowed, directions_for, gone
from gray_quill.core.lineup.preference import Judged
from gray_quill.core.lineup.preference_tuning import ENOUGH, Allowed, Preferred, next_pair, pool, preferred
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.reading import percent
from gray_quill.web.api import Model, operation
from gray_quill.web.line_pictures import line_in
from gray_quill.web.records import PenOn

choosing = Blueprint("choosing", __name__)
MOST_ANSWERS = 80
FEWEST_ANSWERS = 3  # before anything is said
Along = Annotated[float, Field(ge=-1, le=1)]
Place = Annotated[list[Along], Field(min_length=FEWEST, max_length=MOST)]


class ChoiceMade(Model):
    """Two places along the directions, and which was chosen: 1 the first, -1 the second, 0 neither. repeats: the
    question this asked again.
    """

    one: Place
    other: Place
    answer: Literal[-1, 0, 1]
    repeats: int | None = Field(None, ge=0, lt=MOST_ANSWERS)


class Choosing(PenOn):
    """recipe: where the search begins; source: the line that is shown. A session is its answers and its seed."""

    directions: int = Field(FEWEST, ge=FEWEST, le=MOST)
    answers: Annotated[list[ChoiceMade], Field(max_length=MOST_ANSWERS)] = Field(default_factory=list)
    seed: int = Field(1, ge=0, le=1_000_000)


@dataclasses.dataclass(frozen=True)
class LineShown:
    """place: along the directions; image: a data URL of the line."""

    place: list[float]
    image: str


class PairShown(Model):
    """enough: answers after which something can usually be said; asked: how many were given."""

    one: LineShown
    other: LineShown
    repeats: int | None
    asked: int
    enough: int


@dataclasses.dataclass(frozen=True)
class Named:
    """A direction one seems to go by: words of that end of it; errors: how many standard errors sure."""

    name: str
    words: str
    errors: float


class PreferredPen(Model):
    """recipe: the pen liked best; image: the line in it, and before: as it was; sure: the chance that it is liked more
    than where the search began; consistent: share of questions asked twice that were answered alike.
    """

    recipe: Recipe
    image: str
    before: str
    sure: float
    goes_by: list[Named]
    consistent: float | None
    asked_twice: int
    words: str


@operation(choosing, "POST", "/choosing/pair", PairShown, body=Choosing, costly=True)
def show_pair(body: Choosing) -> PairShown:
    """The two lines that teach most after these answers."""
    if len(body.answers) >= MOST_ANSWERS:
        raise InputError(
            f"After {MOST_ANSWERS} choices there is no more to be learnt. Look at what they say.", "answers"
        )
    directions = directions_for(body.recipe, body.directions)
    judged, keeps = _judged(body, directions), _keeps(body.recipe, directions)
    pair = next_pair(judged, pool(len(directions), body.seed), body.seed, keeps)
    one, other = (_shown(body, directions, place) for place in (pair.one, pair.other))
    return PairShown(one=one, other=other, repeats=pair.repeats, asked=len(judged), enough=ENOUGH)


@operation(choosing, "POST", "/choosing/preferred", PreferredPen, body=Choosing, costly=True)
def show_preferred(body: Choosing) -> PreferredPen:
    """The pen liked best so far, how sure that is, and what one seems to go by."""
    if len(body.answers) < FEWEST_ANSWERS:
        raise InputError(f"Choose {FEWEST_ANSWERS} times at least; some {ENOUGH} tell more.", "answers")
    directions = directions_for(body.recipe, body.directions)
    judged, keeps = _judged(body, directions), _keeps(body.recipe, directions)
    places = pool(len(directions), body.seed)
    found = preferred(judged, places, [a.repeats for a in body.answers], body.seed, keeps)
    named = [
        Named(directions[g.direction].name, (d := directions[g.direction]).more if g.by > 0 else d.less, g.errors)
        for g in found.goes_by
    ]
    return PreferredPen(
        recipe=gone(body.recipe, directions, found.at),
        image=_shown(body, directions, found.at).image,
        before=_shown(body, directions, (0.0,) * len(directions)).image,
        sure=found.sure,
        goes_by=named,
        consistent=found.consistent,
        asked_twice=found.asked_twice,
        words=_words(named, found, len(judged)),
    )


def _judged(body: Choosing, directions: tuple[Direction, ...]) -> list[Judged]:
    for k, a in enumerate(body.answers):
        if not len(a.one) == len(a.other) == len(directions):
            raise InputError(f"Answer {k + 1} is of other directions than these. Begin anew.", "answers")
        if a.repeats is not None and a.repeats >= k:
            raise InputError(f"Answer {k + 1} repeats one that comes later. Begin anew.", "answers")
    return [Judged(tuple(a.one), tuple(a.other), a.answer) for a in body.answers]


def _keeps(recipe: Recipe, directions: tuple[Direction, ...]) -> Allowed:
    return lambda at: allowed(recipe, directions, at)


def _shown(body: Choosing, directions: tuple[Direction, ...], place: tuple[float, ...]) -> LineShown:
    return LineShown([float(v) for v in place], line_in(body.source, gone(body.recipe, directions, place)))


def _words(named: list[Named], found: Preferred, asked: int) -> str:
    """What the choices say, in words; where they say nothing, that."""
    twice, alike = found.asked_twice, found.consistent
    if alike is not None and twice >= 2 and alike < 0.5:
        return (
            f"Of {twice} pairs shown twice you answered {round(alike * twice)} alike: these choices do not hold "
            "together, so nothing is said. Choose again, or take it that these lines are alike to you."
        )
    by = f"You seem to go by: {', '.join(one.words for one in named)}. " if named else ""
    if not found.told:
        return (
            f"{by}After {asked} choices that is not sure yet ({percent(found.sure)}): go on, or take the pen you seem "
            "to like and look."
        )
    return f"{by}It is {percent(found.sure)} sure that you like this pen better than the one you began with."
