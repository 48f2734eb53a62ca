"""What other programs and drivers can take over of a pen: its press curve and its steadying as plain numbers, and read
back from such.
"""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.pen.fit import SMALLEST_STEP, cubic_bezier
from gray_quill.core.pen.pressure_curve import SMALLEST_SPAN, Press, opacity_factor, press_share, press_term
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import METHODS, NONE, Steady, steady_path

STEPS = 256
MOST_INNER = 4  # points of a curve between its ends
RESPONSE_HZ, RESPONSE_MM, RESPONSE_S = 240.0, 5.0, 0.1  # the movement a steadying answers
NEAR = 0.002  # of the pen's range: no more points are tried then
EDGE = 1e-4  # of the pen's range: where the curve is thought to begin and end


@dataclasses.dataclass(frozen=True)
class ReadBack:
    """A pen with what a file told of it, and in words what that came to. largest_error: in the file's own measure (a
    share of the pen's range, or mm), None where it is taken over as it is.
    """

    recipe: Recipe
    largest_error: float | None
    words: str


def curve_table(recipe: Recipe) -> Floats:
    """Force 0..1 in 256 steps, the share of the pen's range it makes, and width (mm) and opacity there at the pace the
    pen's width is told for: shape (256, 4).
    """
    force = np.linspace(0, 1, STEPS)
    share = press_share(recipe.press, force) if recipe.press.on else np.full(STEPS, 0.5)
    width = recipe.body.width_mm * np.exp(press_term(recipe.press, force))
    opacity = recipe.body.opacity * opacity_factor(recipe.press, force)
    return np.column_stack((force, share, width, opacity))


def with_curve(recipe: Recipe, force: Floats, share: Floats, width_mm: Floats, opacity: Floats) -> ReadBack:
    """A pen whose press and width are those of a table. Raises InputError where force or share do not rise."""
    if len(force) < 8 or (np.diff(force) <= 0).any() or (np.diff(share) < -1e-9).any():
        raise InputError("A press curve needs at least 8 rows in which force rises and its share never falls.", "file")
    span, deep = float(width_mm.max() / width_mm.min()), float(opacity.max() / opacity.min())
    if span < 1.001 and deep < 1.001:
        flat = dataclasses.replace(recipe.press, range=1.0, opacity_range=1.0)
        body = dataclasses.replace(recipe.body, width_mm=float(width_mm[0]), opacity=float(opacity.max()))
        return ReadBack(dataclasses.replace(recipe, press=flat, body=body), 0.0, "Its line keeps one width.")
    wide, deep = _kept(span), _kept(deep)
    press, error = _through(recipe.press, force, share)
    press = dataclasses.replace(press, on=True, range=wide, opacity_range=deep)
    middle = float(np.sqrt(width_mm.max() * width_mm.min()))
    body = dataclasses.replace(recipe.body, width_mm=middle, opacity=float(opacity.max()))
    words = f"The curve runs within {error:.3f} of the table's share."
    return ReadBack(dataclasses.replace(recipe, press=press, body=body), error, words)


def _kept(ratio: float) -> float:
    if ratio > Press.__dataclass_fields__["range"].metadata["quantity"].high:
        raise InputError("This curve is thicker by more than 20 times at full force; pens here go up to 20.", "file")
    return round(ratio, 4)


def _through(press: Press, force: Floats, share: Floats) -> tuple[Press, float]:
    """Floor, ceiling and up to six points nearest to a table, and the largest error between."""
    low, high = float(share.min()), float(share.max())
    if high - low < EDGE:
        raise InputError("This press curve is level: it tells nothing of force.", "file")
    target = (share - low) / (high - low)
    floor = float(force[np.flatnonzero(target <= EDGE)[-1]])
    ceiling = float(force[np.flatnonzero(target >= 1 - EDGE)[0]])
    floor, ceiling = min(floor, 0.9), max(ceiling, 0.05)
    ceiling = min(1.0, max(ceiling, floor + SMALLEST_SPAN))
    x = (force - floor) / (ceiling - floor)
    best = _fitted(press, floor, ceiling, [], force, target)
    for count in range(1, MOST_INNER + 1):
        if best[1] < NEAR:
            break
        even = [(k / (count + 1), float(np.interp(k / (count + 1), x, target))) for k in range(1, count + 1)]
        starts = [even]
        at = int(np.argmax(np.abs(press_share(best[0], force) - target)))
        known = list(best[0].points[1:-1])
        if all(abs(x[at] - other) > SMALLEST_STEP for other, _ in (*known, (0.0, 0.0), (1.0, 1.0))):
            starts.append(sorted([*known, (float(x[at]), float(target[at]))]))
        for start in starts:
            best = min(best, _fitted(press, floor, ceiling, start, force, target), key=lambda found: found[1])
    return best


def _fitted(
    press: Press, floor: float, ceiling: float, inner: list[tuple[float, float]], force: Floats, target: Floats
) -> tuple[Press, float]:
    """The curve through as many points, moved until they lie best."""
    from scipy.optimize import least_squares  # late, as in readings/tremor.py

    def made(p: Floats) -> Press:
        order = np.argsort(p[0::2])
        x = np.clip(p[0::2][order], 0.005, 0.995)
        y = np.maximum.accumulate(np.clip(p[1::2][order], 0, 1))
        points = [(0.0, 0.0)]
        for one in zip(x.tolist(), y.tolist(), strict=True):
            if one[0] - points[-1][0] >= 2e-3:
                points.append((round(one[0], 6), round(one[1], 6)))
        return dataclasses.replace(
            press, floor=round(floor, 5), ceiling=round(ceiling, 5), points=(*points, (1.0, 1.0))
        )

    start = np.array([v for point in inner for v in point])
    if len(start):

        def miss(p: Floats) -> Floats:
            return press_share(made(p), force) - target

        start = np.asarray(least_squares(miss, start, diff_step=np.full(len(start), 1e-3)).x)
    found = made(start)
    return found, float(np.abs(press_share(found, force) - target).max())


def with_cubic(recipe: Recipe, form: tuple[float, float, float, float], floor: float, ceiling: float) -> ReadBack:
    """A pen whose press curve is a cubic-bezier (CSS Easing Functions Level 1) between floor and ceiling."""
    if not (0 <= form[0] <= 1 and 0 <= form[2] <= 1 and floor + SMALLEST_SPAN <= ceiling):
        raise InputError("A cubic-bezier needs x1 and x2 from 0 to 1, and a ceiling above its floor.", "file")
    x = np.linspace(0, 1, STEPS)
    y = np.maximum.accumulate(np.clip(cubic_bezier(form, x), 0, 1))
    plain, error = _through(dataclasses.replace(recipe.press, floor=0.0, ceiling=1.0), x, y)
    press = dataclasses.replace(plain, floor=floor, ceiling=ceiling, on=True)
    scale = ceiling - floor
    press = dataclasses.replace(
        press, floor=round(floor + plain.floor * scale, 5), ceiling=round(floor + plain.ceiling * scale, 5)
    )
    words = f"The curve runs within {error:.3f} of the cubic."
    return ReadBack(dataclasses.replace(recipe, press=press), error, words)


def response(steady: Steady) -> Floats:
    """What the tip does when the hand goes RESPONSE_MM in RESPONSE_S and rests there, look-ahead left out: time (ms),
    hand and tip (mm), shape (256, 3).
    """
    t_s = np.arange(STEPS) / RESPONSE_HZ
    hand = RESPONSE_MM * np.clip(t_s / RESPONSE_S, 0, 1)
    tip, _ = steady_path(steady, t_s, hand, np.zeros(STEPS))
    return np.column_stack((t_s * 1000, hand, tip))


def with_response(recipe: Recipe, tip_mm: Floats) -> ReadBack:
    """A pen steadied by the method and amount whose response is nearest. Raises InputError for another length."""
    from scipy.optimize import minimize_scalar  # late, as in readings/tremor.py

    if len(tip_mm) != STEPS:
        raise InputError(f"A response has {STEPS} rows, {1000 / RESPONSE_HZ:.3f} ms apart.", "file")

    def apart(method: str, amount: float) -> float:
        tried = dataclasses.replace(recipe.steady, method=method, amount=amount)
        return float(np.abs(response(tried)[:, 2] - tip_mm).max())

    found = [(apart(NONE, 0.0), NONE, 0.0)]
    for method in METHODS:
        rough = min(np.linspace(0, 10, 41), key=lambda a: apart(method, float(a)))
        bounds = (max(0.0, rough - 0.25), min(10.0, rough + 0.25))
        best = minimize_scalar(lambda a, m=method: apart(m, float(a)), bounds=bounds, method="bounded")  # type: ignore[misc]
        found.append((float(best.fun), method, round(float(best.x), 2)))
    error, method, amount = min(found)
    steady = dataclasses.replace(recipe.steady, method=method, amount=amount)
    words = f"{method}, amount {amount:g}, follows the response within {error:.2f} mm."
    return ReadBack(
        dataclasses.replace(recipe, steady=steady), error, words if method != NONE else "It is not steadied."
    )
