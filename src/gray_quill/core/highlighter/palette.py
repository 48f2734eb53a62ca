"""A set of washes: whether they can be told apart, from one another and from the bare paper, by everybody and on every
panel, and what to change.
"""

import dataclasses
import itertools
from collections.abc import Mapping, Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import APART, APART_IN_GREY, ciede2000, from_lab, lab
from gray_quill.core.colour.srgb import READABLE, encode_srgb, hex_of, relative_luminance, rgb
from gray_quill.core.colour.vision import DEFICIENCIES, seen_with
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.errors import InputError
from gray_quill.core.highlighter.layers import CLEAR, GLARING, Words, laid, layers
from gray_quill.core.panel.colour_filter import is_filtered, pale
from gray_quill.core.pen.highlighter import blend_on
from gray_quill.core.pen.recipe import Recipe

MOST = 6
FULL = "full colour"
ROUNDS = 4
MOST_SPREADS, MOST_TRIED = 24, 100_000  # ways to give each wash a grey of its own
Choices = tuple[Floats, Floats]  # body colours, and the paper under each
NEAR_ENOUGH = 1e-3  # what may be missing more for a colour nearer to the old one


@dataclasses.dataclass(frozen=True)
class Condition:
    """One way of seeing the set: the smallest difference, the pair that has it (places in the set; the one after the
    last is the paper), what would be enough, whether it is, and how each wash on the paper, then the paper, looks so.
    """

    name: str
    smallest: float
    pair: tuple[int, int]
    enough: float
    passes: bool
    seen: list[str]


@dataclasses.dataclass(frozen=True)
class Replacement:
    """place: which wash of the set. colour: what its body colour should be instead."""

    place: int
    colour: str


@dataclasses.dataclass(frozen=True)
class Proposal:
    """Replacements, the conditions with them, and whether all pass."""

    replacements: list[Replacement]
    conditions: list[Condition]
    passes: bool


def check_set(washes: Sequence[Recipe], paper_colour: str, panels: Mapping[str, Panel]) -> list[Condition]:
    """Every condition for one pass of each wash on this paper, in full colour first."""
    _check_count(washes)
    grounds = np.array([_ground(w, rgb(w.body.colour), paper_colour) for w in washes])
    return _conditions(_and_paper(grounds, paper_colour), panels)


def propose_set(
    washes: Sequence[Recipe], paper_colour: str, panels: Mapping[str, Panel], words: Sequence[Words]
) -> Proposal:
    """Other body colours for as few washes as need be, each still readable after two passes and clear on the paper."""
    _check_count(washes)
    grounds = _and_paper(np.array([_ground(w, rgb(w.body.colour), paper_colour) for w in washes]), paper_colour)
    choices = [_usable(w, paper_colour, words) for w in washes]
    found, changed = _improved(washes, grounds, choices, panels)
    if _shortfall(found, panels) > 0:
        found, changed = _spread_over_greys(washes, grounds, choices, panels) or (found, changed)
    conditions = _conditions(found, panels)
    return Proposal(
        [Replacement(k, hex_of(c)) for k, c in sorted(changed.items())], conditions, all(c.passes for c in conditions)
    )


def _improved(
    washes: Sequence[Recipe], grounds: Floats, choices: Sequence[Choices], panels: Mapping[str, Panel]
) -> tuple[Floats, dict[int, Floats]]:
    """One wash after another in the colour that leaves least missing, as long as that helps: what they look like then,
    and the new body colours.
    """
    grounds, changed = grounds.copy(), dict[int, Floats]()
    for _ in range(ROUNDS * len(washes)):
        short = _shortfall(grounds, panels)
        if short == 0:
            break
        tried = [
            _best_choice(k, washes[k], choices[k], grounds, panels) for k in range(len(washes)) if len(choices[k][0])
        ]
        place, after, colour, ground = min(tried, key=lambda t: t[1], default=(0, short, grounds[0], grounds[0]))
        if after > 0.999 * short:
            break
        grounds[place] = ground
        changed[place] = colour
    return grounds, changed


def _spread_over_greys(
    washes: Sequence[Recipe], grounds: Floats, choices: Sequence[Choices], panels: Mapping[str, Panel]
) -> tuple[Floats, dict[int, Floats]] | None:
    """Where changing one wash at a time gets stuck: each wash is given a grey of its own on the panel with the fewest,
    the most distant greys first, and its colour chosen among those that look so; None where that does not pass either.
    """
    fewest = min((p.greys for p in panels.values() if not p.colour), default=0)
    if not fewest or any(not len(bodies) for bodies, _ in choices):
        return None
    greys = [_greys(seen, fewest)[:, 0] for _, seen in choices]
    paper = float(_greys(grounds[-1], fewest)[0])
    best: tuple[Floats, dict[int, Floats]] | None = None
    for spread in _spreads([np.unique(g) for g in greys], paper):
        placed, changed = grounds.copy(), dict[int, Floats]()
        for k in range(len(washes)):
            like = greys[k] == spread[k]
            narrowed = choices[k][0][like], choices[k][1][like]
            others = np.vstack((placed[:k], placed[-1:]))
            bodies, seen = narrowed
            missing = _missing(seen, others, panels)
            near = ciede2000(lab(bodies), lab(rgb(washes[k].body.colour)))
            at = int(np.argmin(np.where(missing <= missing.min() + NEAR_ENOUGH, near, np.inf)))
            placed[k], changed[k] = seen[at], bodies[at]
        if _shortfall(placed, panels) > 0:
            continue
        for k in range(len(washes)):  # what need not change stays
            back = placed.copy()
            back[k] = grounds[k]
            if _shortfall(back, panels) == 0:
                placed = back
                del changed[k]
        if best is None or len(changed) < len(best[1]):
            best = placed, changed
    return best


def _spreads(greys: Sequence[Floats], paper: float) -> list[tuple[float, ...]]:
    """Greys for each wash that are far enough apart, the ones farthest apart first, MOST_SPREADS of them."""
    levels = np.unique(np.concatenate((*greys, [paper])))
    seen = lab(np.repeat(levels[:, None], 3, axis=1))
    apart = {(a, b): float(ciede2000(seen[i], seen[j])) for i, a in enumerate(levels) for j, b in enumerate(levels)}
    found: list[tuple[float, tuple[float, ...]]] = []
    for spread in itertools.islice(itertools.product(*greys), MOST_TRIED):
        least = min(apart[pair] for pair in itertools.combinations((*spread, paper), 2))
        if least >= APART_IN_GREY:
            found.append((least, spread))
    return [spread for _, spread in sorted(found, key=lambda f: -f[0])[:MOST_SPREADS]]


def _check_count(washes: Sequence[Recipe]) -> None:
    if not 2 <= len(washes) <= MOST:
        raise InputError(f"Choose 2 to {MOST} washes to compare.", "washes")


def _and_paper(grounds: Floats, paper_colour: str) -> Floats:
    """The bare paper is one of the colours to be told from."""
    return np.vstack((grounds, np.array(rgb(paper_colour), float)))


def _ground(wash: Recipe, body: object, paper_colour: str) -> Floats:
    return laid(rgb(paper_colour), body, np.float64(wash.body.opacity), blend_on(wash.wash, paper_colour))  # type: ignore[arg-type]


def _ways(panels: Mapping[str, Panel]) -> list[tuple[str, float, object]]:
    """Name, what is enough, and how colours 0..255 (..., 3) look; panels that show full colour need no row of
    their own.
    """
    ways: list[tuple[str, float, object]] = [(FULL, APART, lambda c: c)]
    ways += [(name, APART, lambda c, name=name: seen_with(name, c)) for name in DEFICIENCIES]
    for name, panel in panels.items():
        if is_filtered(panel):
            ways.append((f"{name}, pale", APART, lambda c, vivid=panel.vivid: pale(c, vivid)))
        elif not panel.colour:
            ways.append((f"{name}, {panel.greys} greys", APART_IN_GREY, lambda c, greys=panel.greys: _greys(c, greys)))
    return ways


def _greys(colours: Floats, greys: int) -> Floats:
    """Colours on a panel of `greys` even steps of encoded grey, without dither."""
    value = np.round(encode_srgb(relative_luminance(colours)) * (greys - 1)) / (greys - 1) * 255
    return np.repeat(value[..., None], 3, axis=-1)


def _conditions(grounds: Floats, panels: Mapping[str, Panel]) -> list[Condition]:
    pairs = list(itertools.combinations(range(len(grounds)), 2))
    out = []
    for name, enough, look in _ways(panels):
        seen = look(grounds)  # type: ignore[operator]
        apart = [float(ciede2000(lab(seen[i]), lab(seen[j]))) for i, j in pairs]
        k = int(np.argmin(apart))
        out.append(Condition(name, apart[k], pairs[k], enough, apart[k] >= enough, [hex_of(c) for c in seen]))
    return out


def _shortfall(grounds: Floats, panels: Mapping[str, Panel]) -> float:
    """How far the set is from passing: squared shares missing, over all pairs in all conditions."""
    return float(sum(_missing(grounds[k], grounds[k + 1 :], panels) for k in range(len(grounds) - 1)))


def _missing(colours: Floats, others: Floats, panels: Mapping[str, Panel]) -> Floats:
    """The same of each colour (..., 3) against others (m, 3)."""
    total = np.zeros(np.shape(colours)[:-1])
    for _, enough, look in _ways(panels):
        apart = ciede2000(lab(look(colours))[..., None, :], lab(look(others)))  # type: ignore[operator]
        total = total + (np.maximum(0, 1 - apart / enough) ** 2).sum(axis=-1)
    return total


def _candidates() -> Floats:
    """Body colours to try: even in lightness, chroma and hue, inside sRGB, shape (n, 3) in 0..255."""
    lightness, chroma, hue = (
        a.ravel()
        for a in np.meshgrid(
            np.arange(40, 97, 4), np.arange(0, 91, 15), np.radians(np.arange(0, 360, 12)), indexing="ij"
        )
    )
    colours, inside = from_lab(np.column_stack((lightness, chroma * np.cos(hue), chroma * np.sin(hue))))
    return np.round(colours[inside])


def _usable(wash: Recipe, paper_colour: str, words: Sequence[Words]) -> tuple[Floats, Floats]:
    """Body colours under which words stay readable after two passes and the wash is clear, and the paper under one pass
    of each.
    """
    bodies = _candidates()
    blend, opacity, place = blend_on(wash.wash, paper_colour), np.full(len(bodies), wash.body.opacity), wash.wash.place
    once = layers(words[0], bodies, opacity, blend, place, paper_colour, 1)
    streaks = wash.wash.streaks
    twice = np.min(
        [layers(w, bodies, opacity, blend, place, paper_colour, 2, streaks).contrast() for w in words], axis=0
    )
    seen = once.visibility()
    fit = (twice >= READABLE) & (seen >= CLEAR) & (seen < GLARING)
    return bodies[fit], once.ground[fit]


def _best_choice(
    place: int, wash: Recipe, choices: tuple[Floats, Floats], grounds: Floats, panels: Mapping[str, Panel]
) -> tuple[int, float, Floats, Floats]:
    """The replacement of one wash after which least is missing in all, and most like the old colour among those as
    good.
    """
    bodies, fresh = choices
    others = np.delete(grounds, place, axis=0)
    missing = _missing(fresh, others, panels)
    like = ciede2000(lab(bodies), lab(rgb(wash.body.colour)))
    k = int(np.argmin(np.where(missing <= missing.min() + NEAR_ENOUGH, like, np.inf)))
    return place, float(missing[k]) + _shortfall(others, panels), bodies[k], fresh[k]
