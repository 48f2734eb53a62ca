"""Solving for a wash: a strength and a blend under which words stay readable and the wash can be seen."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import APART, ciede2000, from_lab, lab
from gray_quill.core.colour.srgb import READABLE, hex_of, is_dark, relative_luminance, rgb
from gray_quill.core.colour.vision import DEFICIENCIES, seen_with
from gray_quill.core.highlighter.layers import CLEAR, GLARING, Words, laid, layers
from gray_quill.core.pen.recipe import Recipe

PASSES = 2
STRENGTHS = np.round(np.arange(0.03, 1.005, 0.01), 2)
FINE_STRENGTHS = np.round(np.arange(0.03, 1.0005, 0.001), 3)  # where none of those fits, one between them may
BLENDS = ("multiply", "normal", "screen")
PLACES = ("under", "over")
SAFE_FINE = 1.004
SAFE = 1.01  # pages hold 8 bits a channel, so a bound met to the last digit could fail by rounding
WELL_SEEN = 18.0  # difference from the paper the solution comes nearest to: clear, without glare
LIGHTNESSES = np.arange(20.0, 98.0, 3.0)
HUES = np.radians(np.arange(0, 360, 30))
HUE_TRIES, LEAST_CHROMA, MOST_COLOURS = 3, 30.0, 4


@dataclasses.dataclass(frozen=True)
class Setting:
    """A wash that works: what to set, the contrast of the worst words after PASSES passes, and its visibility after
    one; lifts: by how much that one makes the paper lighter, L*.
    """

    colour: str
    opacity: float
    blend: str
    place: str
    contrast: float
    visibility: float
    lifts: float


@dataclasses.dataclass(frozen=True)
class Answer:
    """setting: the one found, or None. best_contrast: the best among settings that can be seen; best_visibility: the
    best among those that keep words readable (0 where there are none); both from the sweep of `tried` settings. other:
    a setting with another lightness of the same hue where the colour itself has none. bare_contrast: of the worst words
    without any wash. trade: what a highlight on dark paper costs, in words; empty on light paper.
    """

    setting: Setting | None
    best_contrast: float
    best_visibility: float
    tried: int
    other: Setting | None
    bare_contrast: float
    trade: str = ""


def with_setting(recipe: Recipe, setting: Setting) -> Recipe:
    """A wash as a solution sets it."""
    return dataclasses.replace(
        recipe,
        body=dataclasses.replace(recipe.body, colour=setting.colour, opacity=setting.opacity),
        wash=dataclasses.replace(recipe.wash, blend=setting.blend, place=setting.place),
    )


def solve_wash(wash: Recipe, words: Sequence[Words], paper_colour: str) -> Answer:
    """The setting of this wash's strength, blend and, where its own finds none, place, nearest to WELL_SEEN; or why
    there is none.
    """
    own = np.array(rgb(wash.body.colour), float)
    bare = min(float(layers(w, own, np.float64(0), "normal", "over", paper_colour, 0).contrast()) for w in words)
    places = (wash.wash.place, *(p for p in PLACES if p != wash.wash.place))
    streaks = wash.wash.streaks
    found = _sweep(own, words, paper_colour, places, streaks)
    if found[0] is None:
        found = _sweep(own, words, paper_colour, places, streaks, FINE_STRENGTHS, SAFE_FINE)
    setting = found[0]
    other = None
    if setting is None:
        base = lab(own)
        for lightness in sorted(LIGHTNESSES, key=lambda v: abs(v - base[0])):
            colour, inside = from_lab((lightness, base[1], base[2]))
            if inside and (other := _sweep(np.round(colour), words, paper_colour, places, streaks)[0]):
                break
    tried = len(BLENDS) * len(places) * len(STRENGTHS)
    return Answer(setting, found[1], found[2], tried, other, bare, _trade(setting, bare, paper_colour))


def colours_that_work(wash: Recipe, words: Sequence[Words], paper_colour: str, beside: Setting | None) -> list[Setting]:
    """Up to MOST_COLOURS settings in other hues, each told apart on the paper from `beside` and from one another in
    full colour; first those that differ most for whoever sees colours least.
    """
    base = lab(np.array(rgb(wash.body.colour), float))
    chroma = max(float(np.hypot(base[1], base[2])), LEAST_CHROMA)
    found: list[Setting] = []
    for hue in HUES:
        for colour in _like(base[0], chroma, hue):
            if setting := _sweep(colour, words, paper_colour, (wash.wash.place,), wash.wash.streaks)[0]:
                found.append(setting)
                break
    chosen = [beside] if beside else found[:1]
    while len(chosen) <= MOST_COLOURS:
        apart = {f: np.min([_apart(f, other, paper_colour) for other in chosen], axis=0) for f in found}
        fit = [f for f in found if apart[f][0] >= APART]
        if not fit:
            break
        chosen.append(max(fit, key=lambda f: apart[f].min()))
    return [s for s in chosen if s is not beside][:MOST_COLOURS]


def _trade(setting: Setting | None, bare_contrast: float, paper_colour: str) -> str:
    """A highlight on dark paper lightens it, and light words on it stand out less; where none can, it darkens."""
    if setting is None or not is_dark(paper_colour):
        return ""
    if setting.lifts < 0:
        return (
            f"It darkens this dark paper by {-setting.lifts:.1f} L*: whatever lightens it in this colour takes the "
            f"words under {READABLE:g}:1"
        )
    return (
        f"It lightens this dark paper by {setting.lifts:.1f} L*, and the words go from {bare_contrast:.1f}:1 to "
        f"{setting.contrast:.1f}:1 for it"
    )


def _like(lightness: float, chroma: float, hue: float) -> list[Floats]:
    """HUE_TRIES colours of a hue as light and as strong as can be had in sRGB, the nearest first, in 0..255."""
    at = [(light, chroma * share) for light in LIGHTNESSES[LIGHTNESSES >= 50] for share in (1.0, 0.75, 0.5)]
    at.sort(key=lambda v: abs(v[0] - lightness) + abs(v[1] - chroma))
    colours, inside = from_lab([(light, c * np.cos(hue), c * np.sin(hue)) for light, c in at])
    return list(np.round(colours[inside])[:HUE_TRIES])


def _apart(one: Setting, other: Setting, paper_colour: str) -> Floats:
    """Difference of two washes on the paper, in full colour first and then without each kind of cone."""
    grounds = np.array([laid(rgb(paper_colour), rgb(s.colour), s.opacity, s.blend) for s in (one, other)])
    return np.array([ciede2000(*lab(seen)) for seen in (grounds, *(seen_with(k, grounds) for k in DEFICIENCIES))])


def _sweep(
    colour: np.ndarray,
    words: Sequence[Words],
    paper_colour: str,
    places: Sequence[str],
    streaks: float,
    strengths: Floats = STRENGTHS,
    safe: float = SAFE,
) -> tuple[Setting | None, float, float]:
    best: tuple[tuple[bool, float], Setting] | None = None
    seen_contrast = kept_visibility = 0.0
    paper = float(relative_luminance(rgb(paper_colour)))
    for place in places:
        for blend in BLENDS:
            ratio = np.min(
                [layers(w, colour, strengths, blend, place, paper_colour, PASSES, streaks).contrast() for w in words],
                axis=0,
            )
            once = layers(words[0], colour, strengths, blend, place, paper_colour, 1)
            seen = once.visibility()
            # a highlight on dark paper lightens it
            wrong = is_dark(paper_colour) & (relative_luminance(once.ground) < paper)
            clear, readable = (seen >= CLEAR * safe) & (seen < GLARING), ratio >= READABLE * safe
            seen_contrast = max(seen_contrast, float(ratio[clear].max(initial=0)))
            kept_visibility = max(kept_visibility, float(seen[readable].max(initial=0)))
            for k in np.flatnonzero(clear & readable):
                order = bool(wrong[k]), abs(float(seen[k]) - WELL_SEEN)
                if best is None or order < (best[0][0], best[0][1] - 0.05):
                    strength, keeps, shows = float(strengths[k]), float(ratio[k]), float(seen[k])
                    lifts = float(lab(once.ground[k])[0] - lab(once.paper[k])[0])
                    best = order, Setting(hex_of(colour), strength, blend, place, keeps, shows, lifts)
        if best is not None and not best[0][0]:
            break
    return best and best[1], seen_contrast, kept_visibility
